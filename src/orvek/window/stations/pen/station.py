"""Pen: which tubes, bits and sizes; what length the pen needs."""

from __future__ import annotations

from functools import partial
from itertools import zip_longest

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import (
    JOB,
    MOST_BARRELS,
    Barrel,
    Batch,
    Blank,
    Pen,
    Writing,
    catalogue,
    declared,
    deeds,
    path_to,
    present,
)
from orvek.documents.deeds import is_set, put_on_shelf
from orvek.documents.deeds.shapes import shape_of
from orvek.planning import Plan
from orvek.planning.bar import USUAL_BAR_MM
from orvek.planning.pen.results import PenPlan
from orvek.planning.pen.words import hole_words
from orvek.planning.words import counted, left_mm, sawn_line
from orvek.quantities import Dimension, write, write_sizes
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.pen.bars_menu import BarsMenu, bars_text
from orvek.window.stations.pen.picture import PenPicture
from orvek.window.stations.pen.shape_menu import ShapeMenu
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceButton, ChoiceField, add_action, add_heading
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import (
    Answer,
    FigureLine,
    FigureValue,
    QuantityEdit,
    QuantityField,
    heading,
    quiet_label,
)
from orvek.window.widgets.label import Label, plain_tip
from orvek.window.widgets.layouts import LOWER_SHARE, PICTURE_SHARE, beside_margin, clear, scrolled
from orvek.window.widgets.more import More
from orvek.window.widgets.naming import ask_name
from orvek.window.widgets.opening import Opening, Suggestion, pen_drawing
from orvek.window.widgets.pages import Pages

_FIELDS = (
    "tube_length_mm",
    "tube_diameter_mm",
    "bit_diameter_mm",
    "finished_left_mm",
    "finished_right_mm",
    "trim_mm",
    "play_mm",
)
_RARE = (
    "inside", "hole_depth_mm", "hole_end", "wide_bit_mm", "wide_depth_mm", "wide_end", "set_back_mm",
    "bushing_left_mm", "bushing_right_mm", "pilot_mm",
)  # fmt: skip
_WRITING = 7  # figures of refill and length, where all is measured
_SHAPES = {"outline": "Shape", "inside": "Hole and bushings"}
_FIGURES = {
    "piece_mm": "Piece to saw",
    "clearance_mm": "Room for glue",
    "wall_left_mm": "Wall, left end",
    "wall_right_mm": "Wall, right end",
}


def _has_rare_holes(plan: Plan) -> bool:
    barrels = plan.job.pen.barrels if plan.job.pen else ()
    return any(
        is_set(plan.job, (*path_to(present(JOB.pen).barrels[index]), name))
        for index in range(len(barrels))
        for name in _RARE
    )


class BarrelTable(QWidget):
    """A column a barrel: what the maker types, and under it what follows."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._names: list[QLineEdit] = []
        self._shapes: list[ChoiceButton] = []
        self._holes: list[ChoiceButton] = []
        self._cells: dict[tuple[int, str], QuantityEdit] = {}
        self._figures: dict[tuple[int, str], FigureValue] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(20)
        self._grid.setVerticalSpacing(1)
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))
        self._columns = 0
        self.more = More("pen")

    def show_plan(self, plan: Plan) -> None:
        """Show the barrels; the table is built anew only when their number changes."""
        pen = plan.job.pen
        if pen is None or plan.pen is None:
            return
        if self._columns != len(pen.barrels):
            self._build(len(pen.barrels))
        units = self._session.units
        for index, figures in enumerate(plan.pen.barrels):
            barrel = figures.barrel
            if not self._names[index].hasFocus():
                self._names[index].setText(barrel.name)
            for field in _FIELDS:
                self._cells[index, field].set_value(getattr(barrel, field), units)
                self._cells[index, field].setAccessibleName(f"{barrel.name}: {declared(Barrel, field).title.lower()}")
            self._shapes[index].setAccessibleName(f"{barrel.name}: shape")
            self._shapes[index].set_text(shape_of(barrel))
            self._holes[index].setAccessibleName(f"{barrel.name}: hole and bushings")
            self._holes[index].set_text(hole_words(barrel, units))
            for field in _FIGURES:
                is_bare = field == "clearance_mm" and barrel.inside == "no tube"
                self._figures[index, field].set_figure(None if is_bare else getattr(figures, field), units)
        self.more.show_plan(plan)

    def cell(self, barrel: int, field: str) -> QuantityEdit:
        """The field of a barrel."""
        return self._cells[barrel, field]

    def sentence(self) -> str:
        """Why the last thing typed was not taken, if it was not."""
        return self._sentence.text()

    def _build(self, columns: int) -> None:
        clear(self._grid, keep=self._sentence)
        self._columns, self._names, self._shapes, self._holes = columns, [], [], []
        self._cells, self._figures = {}, {}
        titles = {field: declared(Barrel, field).title for field in _FIELDS} | _SHAPES | _FIGURES
        labels = {key: quiet_label(words) for key, words in titles.items()}
        for row, label in enumerate(labels.values(), 1):
            self._grid.addWidget(label, row, 0)
        for index in range(columns):
            self._build_column(index)
        self.more.release()
        for field in ("trim_mm", "play_mm"):
            self.more.hold_row(labels[field], *(self._cells[index, field] for index in range(columns)))
        self.more.hold_row(labels["outline"], *self._shapes)
        self.more.hold_row(labels["inside"], *self._holes, used=_has_rare_holes)
        self.more.hold_row(labels["clearance_mm"], *(self._figures[index, "clearance_mm"] for index in range(columns)))
        self._grid.setColumnStretch(0, 1)
        for index in range(MOST_BARRELS):
            self._grid.setColumnStretch(index + 1, 1 if index < columns else 0)
        self._grid.addWidget(self._sentence, len(_FIELDS) + len(_FIGURES) + 3, 0, 1, columns + 1)
        self._grid.setRowStretch(len(_FIELDS) + len(_FIGURES) + 4, 1)

    def _build_column(self, index: int) -> None:
        name = QLineEdit()
        name.setAccessibleName(f"Name of barrel {index + 1}")
        name.setStyleSheet("font-weight: 600;")
        name.setAlignment(Qt.AlignmentFlag.AlignRight)
        name.editingFinished.connect(lambda: self._rename(index))
        self._names.append(name)
        self._grid.addWidget(name, 0, index + 1)
        for row, field in enumerate(_FIELDS, 1):
            edit = QuantityEdit(
                declared(Barrel, field),
                self._session.units,
                is_bit=field == "bit_diameter_mm",
                optional=field == "play_mm",
            )
            edits(edit, "pen", "barrels", index, field)
            edit.entered.connect(lambda value, field=field: self._enter(index, field, value))
            edit.refused.connect(self._sentence.setText)
            self._cells[index, field] = edit
            self._grid.addWidget(edit, row, index + 1)
        shape = ChoiceButton("Shape", ShapeMenu(self, self._session, index).fill)
        self._shapes.append(edits(shape, "pen", "barrels", index, "outline"))
        self._grid.addWidget(shape, len(_FIELDS) + 1, index + 1)
        hole = ChoiceButton("Hole and bushings", None)
        hole.clicked.connect(lambda: self._ask_hole(index))
        self._holes.append(edits(hole, "pen", "barrels", index, "inside"))
        self._grid.addWidget(hole, len(_FIELDS) + 2, index + 1)
        for row, field in enumerate(_FIGURES, len(_FIELDS) + 3):
            self._figures[index, field] = FigureValue()
            self._grid.addWidget(self._figures[index, field], row, index + 1)

    def _rename(self, index: int) -> None:
        pen, name = self._session.job.pen, self._names[index].text().strip()
        if pen and index < len(pen.barrels) and name != pen.barrels[index].name:
            self._session.edit(path_to(present(JOB.pen).barrels[index].name), name, "Rename a barrel")

    def _ask_hole(self, index: int) -> None:
        """Ask for what few pens need: no tube or a pin, a step, a hole that stops, bushings of their own."""
        pen = self._session.job.pen
        assert pen is not None
        barrel = pen.barrels[index]
        title = f"{barrel.name}: hole and bushings"
        changed = edit_document(self, title, barrel, self._session.shop, only=_RARE)
        if changed is not None:
            self._session.edit(path_to(present(JOB.pen).barrels[index]), changed, f"Hole and bushings of {barrel.name}")

    def _enter(self, index: int, field: str, value: float) -> None:
        pen = self._session.job.pen
        assert pen is not None
        deed = f"{declared(Barrel, field).title} of {pen.barrels[index].name}"
        self._session.edit((*path_to(present(JOB.pen).barrels[index]), field), value, deed)


class PenStation(StationWidget):
    """The station Pen."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self.picture = PenPicture(surface)
        self.table = BarrelTable(session)
        self._choice = ChoiceButton("Pen", self._fill_menu)
        self._opening = Opening(
            "Which pen is it for?", "The tubes decide how long the bar must be. Choose a pen and change it."
        )
        self._fields = {
            "saw_kerf_mm": QuantityField(declared(Blank, "saw_kerf_mm"), session.units),
            "end_waste_mm": QuantityField(declared(Blank, "end_waste_mm"), session.units),
            "joint_mm": QuantityField(declared(Blank, "joint_mm"), session.units, optional=True),
        }
        self._wanted = {
            "pens_wanted": QuantityField(declared(Batch, "pens_wanted"), session.units),
            "spoilage_pct": QuantityField(declared(Batch, "spoilage_pct"), session.units, optional=True),
            "chance_pct": QuantityField(declared(Batch, "chance_pct"), session.units),
        }
        self._menu = BarsMenu(self, session)
        self.bars = ChoiceField("Bars", self._menu.fill)
        self.answer = Answer()
        self._blanks = FigureLine("Blanks to start with")
        self.writing = QPushButton("Refill and length…")
        self.writing.setProperty("kind", "small")
        self.writing.clicked.connect(lambda _=False: self._ask_writing())
        self.bar_length = QuantityField(deeds.BAR_LENGTH, session.units)
        self.bar_length.entered.connect(self._make_bars)
        self._writes = [FigureLine("") for _ in range(_WRITING)]
        self._offered = quiet_label("")
        self._offered.setWordWrap(True)
        for room, named in (("blank", self._fields), ("batch", self._wanted)):
            for field, widget in named.items():
                edits(widget, room, field)
        more = self.table.more
        more.hold(self._fields["saw_kerf_mm"], self._fields["joint_mm"])
        more.hold(self._fields["end_waste_mm"], when=lambda plan: not plan.bars.in_hand)  # such bars say it themselves
        more.hold(self._wanted["spoilage_pct"], self._wanted["chance_pct"])
        self._stack = Pages()
        self._stack.addWidget(self._opening)
        self._stack.addWidget(self._bench())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._stack)
        self._connect()

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the pen."""
        self._stack.setCurrentIndex(0 if plan.job.pen is None else 1)
        self._opening.show_suggestions(self._suggestions())
        units, job = self._session.units, plan.job
        if job.pen is None or plan.pen is None:
            return
        self._choice.set_text(job.pen.name)
        for part in (self.picture, self.table, self.writing, self.add, self._how):
            part.setVisible(not job.makes_bars)
        self.bar_length.setVisible(job.makes_bars)
        self.bar_length.set_value(job.pen.barrels[0].tube_length_mm, units)
        self._wanted["pens_wanted"].label.setText(f"Good {job.thing}s wanted")
        self.picture.show_plan(plan, units)
        self.table.show_plan(plan)
        for field, widget in self._fields.items():
            widget.set_value(getattr(job.blank, field), units)
        for field, widget in self._wanted.items():
            widget.set_value(getattr(job.batch, field), units)
        needed = plan.pen.length_needed_mm
        what = "stock for a bar" if job.makes_bars else "bar for a pen"
        self.answer.say(f"{needed.written(units)} of {what}", units, needed)
        self._blanks.set_figure(plan.bars.blanks, units)
        self._show_writing(plan, plan.pen)
        self._offered.setText(self._offer(plan))
        self.bars.set_text(bars_text(plan, units))
        self._offered.setToolTip(plain_tip(sawn_line(plan)))

    def _show_writing(self, plan: Plan, told: PenPlan) -> None:
        """What was measured of refill and mechanism comes to."""
        is_known = plan.job.pen is not None and plan.job.pen.writing != Writing()
        for line, figure in zip_longest(self._writes, told.writing.figures if is_known else ()):
            line.tell(figure, self._session.units)

    def _ask_writing(self) -> None:
        pen = self._session.job.pen
        found = edit_document(self, "Refill and length", pen.writing, self._session.shop) if pen is not None else None
        if found is not None:
            self._session.edit(path_to(present(JOB.pen).writing), found, "Refill and length")

    def _offer(self, plan: Plan) -> str:
        if plan.bars.packing is not None:
            sawn = plan.bars.packing
            left = max((mm for one in sawn.sawn for mm in left_mm(plan, one)), default=0.0)
            longest = write(left, Dimension.LENGTH, self._session.units)
            return f"{counted(sawn.pens, 'whole pen')} from {counted(len(sawn.sawn), 'bar')}; longest left {longest}."
        if plan.bars.section is None:
            return "No mould yet: the strip shows what the pen needs."
        length = write(plan.bars.section.length_mm, Dimension.LENGTH, self._session.units)
        blanks = plan.bars.blanks_per_bar
        return f"The mould gives bars of {length}: {blanks} blank{'' if blanks == 1 else 's'} from each."

    def _bench(self) -> QWidget:
        bench = QWidget()
        head = QHBoxLayout()
        head.setContentsMargins(24, 12, 24, 0)
        head.addWidget(quiet_label("Pen"))
        head.addWidget(self._choice, 1)
        self.add = add = QPushButton("Add a barrel")
        add.setProperty("kind", "small")
        add.clicked.connect(lambda: self._session.attempt("Add a barrel", deeds.add_barrel))
        head.addStretch(1)
        self._how = quiet_label("Drag the rings, or type below")
        head.addWidget(self._how)
        head.addSpacing(16)
        head.addWidget(add)
        column = QVBoxLayout(bench)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(self.picture, PICTURE_SHARE)
        column.addWidget(beside_margin(self.answer))
        column.addWidget(self._lower(), LOWER_SHARE)
        return bench

    def _lower(self) -> QWidget:
        inside = QWidget()
        row = QHBoxLayout(inside)
        row.setContentsMargins(24, 4, 24, 8)
        row.setSpacing(40)
        left = QVBoxLayout()
        left.setSpacing(5)
        left.addWidget(self.bar_length)
        left.addWidget(self.table)
        for line in self._writes:
            left.addWidget(line)
        left.addWidget(self.writing, 0, Qt.AlignmentFlag.AlignLeft)
        left.addStretch(1)
        row.addLayout(left, 3)
        side = QVBoxLayout()
        side.setSpacing(5)
        side.addWidget(heading("How many"))
        for widget in self._wanted.values():
            side.addWidget(widget)
        side.addWidget(self._blanks)
        side.addSpacing(10)
        side.addWidget(heading("The saw and the bar"))
        side.addWidget(self.bars)
        for widget in self._fields.values():
            side.addWidget(widget)
        side.addWidget(self._offered)
        side.addStretch(1)
        side.addWidget(self.table.more, 0, Qt.AlignmentFlag.AlignRight)
        row.addLayout(side, 2)
        return scrolled(inside, is_lower=True)

    def _connect(self) -> None:
        session = self._session
        for field, widget in self._fields.items():
            title = declared(Blank, field).title
            widget.entered.connect(lambda v, f=field, t=title: session.edit((*path_to(JOB.blank), f), v, t))
        for field, widget in self._wanted.items():
            title = declared(Batch, field).title
            widget.entered.connect(lambda v, f=field, t=title: session.edit((*path_to(JOB.batch), f), v, t))
        self.picture.moving.connect(self._drag)
        self.picture.moved.connect(session.finish)

    def _drag(self, index: int, field: str, value: float) -> None:
        bounds = declared(Barrel, field)
        kept = min(max(value, bounds.low), bounds.high)
        self._session.preview(
            deeds.set_value(self._session.job, (*path_to(present(JOB.pen).barrels[index]), field), kept)
        )

    def _suggestions(self) -> tuple[Suggestion, ...]:
        pens = {pen.name: pen for pen in (*catalogue().pens, *self._session.shop.pens)}
        owned = {pen.name for pen in self._session.shop.pens}
        listed = sorted(pens.values(), key=lambda pen: pen.name not in owned)
        return (
            *(Suggestion(pen.name, self._line_of(pen), partial(self._take, pen), pen_drawing(pen)) for pen in listed),
            Suggestion("Bars to sell", "squared and labelled, not turned", partial(self._make_bars, USUAL_BAR_MM[2])),
        )

    def _line_of(self, pen: Pen) -> str:
        units = self._session.units
        tubes = (f"⌀ {write_sizes((barrel.tube_diameter_mm, barrel.tube_length_mm), units)}" for barrel in pen.barrels)
        return f"tube{'' if len(pen.barrels) == 1 else 's'} {', '.join(tubes)}"

    def _take(self, pen: Pen) -> None:
        self._session.attempt(f"Choose {pen.name}", lambda job: deeds.choose_pen(job, pen))

    def _make_bars(self, length_mm: float) -> None:
        self._session.attempt("Make bars to sell", partial(deeds.make_bars, length_mm=length_mm))

    def _fill_menu(self, menu: QMenu) -> None:
        session = self._session
        shelf = session.shop.pens
        add_action(
            menu, "Bars to sell, not turned", partial(self._make_bars, USUAL_BAR_MM[2]), checked=session.job.makes_bars
        )
        if shelf:
            add_heading(menu, "On your shelf")
            for pen in shelf:
                add_action(menu, pen.name, partial(self._take, pen), checked=pen == session.job.pen)
        add_heading(menu, "Plain starting points")
        for pen in catalogue().pens:
            add_action(menu, pen.name, partial(self._take, pen))
        menu.addSeparator()
        add_action(menu, "Save this pen to your shelf…", self._keep)
        add_action(menu, "Parts, in their order…", self.show_parts)
        add_action(menu, "Plating, refill, spring…", self._ask_parts)
        add_action(menu, "What to measure first…", self.show_measuring)
        add_action(menu, "Pens that share bits, tubes, bushings…", self.show_sharing)
        now = session.job.pen
        for index, barrel in enumerate(now.barrels if now and len(now.barrels) > 1 else ()):
            words = f"Remove barrel {barrel.name}"
            add_action(menu, words, partial(session.attempt, words, partial(deeds.remove_barrel, index=index)))

    def show_parts(self) -> None:
        """The parts of the pen, in the order in which they go in."""
        from orvek.window.stations.pen.parts_dialog import PartsDialog

        PartsDialog(self, self._session).exec()

    def show_measuring(self) -> None:
        """What to measure of a pen that was never made before."""
        from orvek.window.stations.pen.measuring_dialog import MeasuringDialog

        MeasuringDialog(self, self._session).exec()

    def _ask_parts(self) -> None:
        pen = self._session.job.pen
        only = ("plating", "refill", "spring")
        title = "Plating, refill, spring"
        found = edit_document(self, title, pen, self._session.shop, only=only) if pen is not None else None
        if found is not None:
            self._session.edit(path_to(present(JOB.pen)), found, title)

    def show_sharing(self) -> None:
        """Which pens share bits and tubes."""
        from orvek.window.stations.pen.sharing_dialog import SharingDialog

        SharingDialog(self, self._session).exec()

    def _keep(self) -> None:
        pen = self._session.job.pen
        name = ask_name(self, "Save this pen as", pen.name) if pen else None
        if pen and name:
            kept = pen.with_(name=name)
            self._session.change_shop(f"Save {name}", lambda shop: put_on_shelf(shop, "pens", kept))
            self._session.edit(path_to(present(JOB.pen).name), name, "Name the pen")
