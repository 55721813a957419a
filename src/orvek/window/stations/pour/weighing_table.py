"""What is weighed, a block a cup: colour, name, parts A and B; under it its pigments with their loads.

Rows are built anew only when a cup or a pigment comes or goes; else they are filled with the new figures.
"""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QColorDialog, QGridLayout, QLineEdit, QMenu, QToolButton, QWidget

from orvek.craft.pouring import STOCK_STRENGTHS_PCT
from orvek.documents import Cup, Job, PigmentDose, catalogue, declared, deeds
from orvek.planning import CupPlan, Figure, Plan
from orvek.planning.words import weighed
from orvek.quantities import Dimension, decimal, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, add_heading, refill
from orvek.window.widgets.fields import FigureValue, QuantityEdit, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear

_HEADINGS = ("", "Cup", "Share, load", "Part A", "Part B", "In the cup", "")


class ColourDot(QToolButton):
    """A cup's colour; a click asks for another."""

    def __init__(self) -> None:
        super().__init__()
        self._colour = QColor("#888888")
        self.setFixedSize(22, 22)
        self.setStyleSheet("border: none; padding: 0;")

    def set_colour(self, colour: str, name: str) -> None:
        """Show a colour."""
        self._colour = QColor(colour)
        self.setAccessibleName(f"Colour of {name}")
        self.setToolTip("Click for another colour")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.pen(theme.ACCENT, 2 if self.hasFocus() else 1))
        painter.setBrush(self._colour)
        painter.drawEllipse(self.rect().adjusted(3, 3, -3, -3))


class WeighingTable(QWidget):
    """All cups and their pigments."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shape: tuple[int, ...] | None = None
        self._cups: list[_CupRow] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(14)
        self._grid.setVerticalSpacing(2)
        for column, stretch in enumerate((0, 5, 2, 3, 3, 3, 0)):
            self._grid.setColumnStretch(column, stretch)
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's cups."""
        cups = plan.job.cast.cups
        shape = tuple(len(cup.pigments) for cup in cups)
        if shape != self._shape:
            self._build(shape)
        planned = plan.mixture.cups if plan.mixture and plan.mixture.cups else (None,) * len(cups)
        for row, cup, figures in zip(self._cups, cups, planned, strict=True):
            row.show_cup(cup, figures, plan)

    def row(self, index: int) -> _CupRow:
        """The row of a cup."""
        return self._cups[index]

    def sentence(self) -> str:
        """Why the last thing typed was not taken, if it was not."""
        return self._sentence.text()

    def _build(self, shape: tuple[int, ...]) -> None:
        clear(self._grid, keep=self._sentence)
        self._shape, self._cups = shape, []
        for column, words in enumerate(_HEADINGS):
            align = Qt.AlignmentFlag.AlignLeft if column == 1 else Qt.AlignmentFlag.AlignRight
            self._grid.addWidget(quiet_label(words), 0, column, align)
        line = 1
        for index, pigments in enumerate(shape):
            row = _CupRow(self._session, index, pigments)
            row.refused.connect(self._sentence.setText)
            line = row.place(self._grid, line)
            self._cups.append(row)
        self._grid.addWidget(self._sentence, line, 0, 1, len(_HEADINGS))


class _CupRow(QWidget):
    """One cup's line and its pigments' lines; the widgets sit in the table's grid."""

    refused = Signal(str)

    def __init__(self, session: Session, index: int, pigments: int) -> None:
        super().__init__()
        self.hide()
        self._session, self._index = session, index
        self.dot = ColourDot()
        self.dot.clicked.connect(self._ask_colour)
        self.name = QLineEdit()
        self.name.setAccessibleName(f"Name of cup {index + 1}")
        self.name.setStyleSheet("font-weight: 600;")
        self.name.editingFinished.connect(self._rename)
        self.share = QuantityEdit(declared(Cup, "share"), session.units)
        self.share.entered.connect(lambda value: self._edit("share", value, "Set a share"))
        self.share.refused.connect(self.refused)
        self.part_a, self.part_b, self.mass = FigureValue(), FigureValue(), FigureValue()
        self.more = QToolButton()
        self.more.setText("…")
        self.more.setAccessibleName(f"More for cup {index + 1}")
        self.more.setStyleSheet("border: none; padding: 0 6px;")
        self.more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.more)
        refill(menu, self._fill_menu)
        self.more.setMenu(menu)
        self.doses = [_DoseRow(session, index, n) for n in range(pigments)]

    def place(self, grid: QGridLayout, line: int) -> int:
        """Put the widgets into the grid from `line` on; returns the next free line."""
        widgets = (self.dot, self.name, self.share, self.part_a, self.part_b, self.mass, self.more)
        for column, widget in enumerate(widgets):
            grid.addWidget(widget, line, column)
        for dose in self.doses:
            line += 1
            dose.load.refused.connect(self.refused)
            grid.addWidget(dose.name, line, 1)
            grid.addWidget(dose.load, line, 2)
            grid.addWidget(dose.mass, line, 3)
            grid.addWidget(dose.words, line, 4, 1, 3)
        grid.setRowMinimumHeight(line + 1, 4)
        return line + 2

    def show_cup(self, cup: Cup, planned: CupPlan | None, plan: Plan) -> None:
        """Fill the row."""
        units, step = self._session.units, plan.job.pour.scale.resolution_g
        self.dot.set_colour(cup.colour, cup.name)
        if not self.name.hasFocus():
            self.name.setText(cup.name)
        self.share.set_value(cup.share, units)
        self.share.setAccessibleName(f"{cup.name}: share")

        def figure(value: FigureValue, found: Figure | None, grams: float | None) -> None:
            value.set_figure(found, units, weighed(grams, step, units) if grams is not None else None)

        mixed = planned if planned and not planned.is_solid else None
        figure(self.part_a, mixed.part_a_g if mixed else None, mixed.weighed_a_g if mixed else None)
        figure(self.part_b, mixed.part_b_g if mixed else None, mixed.weighed_b_g if mixed else None)
        figure(self.mass, planned.mass_g if planned else None, planned.mass_g.value if planned else None)
        for n, (row, dose) in enumerate(zip(self.doses, cup.pigments, strict=True)):
            row.show_dose(dose, planned, n, plan)
            row.load.setAccessibleName(f"{cup.name}: load of {dose.pigment.name}")

    def _edit(self, field: str, value: object, deed: str) -> None:
        def change(job: Job) -> Job:
            return deeds.set_cup(job, self._index, job.cast.cups[self._index].with_(**{field: value}))

        if self._index < len(self._session.job.cast.cups):
            self._session.attempt(deed, change)

    def _rename(self) -> None:
        cups = self._session.job.cast.cups
        if self._index < len(cups) and self.name.text().strip() != cups[self._index].name:
            self._edit("name", self.name.text(), "Rename a cup")

    def _ask_colour(self) -> None:
        now = self._session.job.cast.cups[self._index].colour
        colour = QColorDialog.getColor(QColor(now), self.dot, "Colour of this cup")
        if colour.isValid():
            self._edit("colour", colour.name(), "Colour a cup")

    def _fill_menu(self, menu: QMenu) -> None:
        session, index = self._session, self._index
        pigments = menu.addMenu("Add a pigment")
        for pigment in session.shop.pigments:
            words = f"Add {pigment.name}"
            add_action(
                pigments,
                pigment.name,
                partial(session.attempt, words, partial(deeds.add_pigment, cup_index=index, pigment=pigment)),
            )
        vessels = menu.addMenu("Mix it in")
        now = session.job.cast.cups[index].vessel_ml
        add_action(
            vessels,
            "the smallest cup that fits",
            lambda: self._edit("vessel_ml", None, "Choose a mixing cup"),
            checked=now is None,
        )
        for vessel in session.shop.vessels_ml:
            words = f"a cup of {write(vessel, Dimension.VOLUME, session.units, 0)}"
            add_action(
                vessels,
                words,
                partial(self._edit, "vessel_ml", vessel, "Choose a mixing cup"),
                checked=now == vessel,
            )
        add_action(
            menu, "Mix it in two cups", lambda: session.attempt("Split a cup", lambda job: deeds.split_cup(job, index))
        )
        menu.addSeparator()
        self._fill_removals(menu)

    def _fill_removals(self, menu: QMenu) -> None:
        session, index = self._session, self._index
        cup = session.job.cast.cups[index]
        for n, dose in enumerate(cup.pigments):
            words = f"Remove {dose.pigment.name}"
            add_action(
                menu,
                words,
                partial(session.attempt, words, partial(deeds.remove_pigment, cup_index=index, dose_index=n)),
            )
        words = f"Remove {cup.name}"
        add_action(menu, words, lambda: session.attempt(words, lambda job: deeds.remove_cup(job, index)))


def _usual_load(kind_key: str) -> str:
    """What loads are usual for a kind of pigment; nothing for one that nobody knows."""
    kind = catalogue().kind(kind_key)
    if kind is None:
        return ""
    told = (kind.usual_low_pct, kind.usual_high_pct, kind.most_pct)
    low, high, most = (write(pct, Dimension.PERCENT) for pct in told)
    return f"{kind.name}: {low} to {high} is usual, {most} the most"


class _DoseRow:
    """One pigment's line."""

    def __init__(self, session: Session, cup: int, index: int) -> None:
        self._session, self._cup, self._index = session, cup, index
        self.name = quiet_label("")
        self.name.setContentsMargins(16, 0, 0, 0)
        self.load = QuantityEdit(declared(PigmentDose, "load_pct"), session.units)
        self.load.entered.connect(lambda value: self._edit("load_pct", value, "Set a pigment's load"))
        self.mass = FigureValue()
        self.words = QToolButton()
        self.words.setProperty("kind", "value")
        self.words.setStyleSheet(f"border: none; font-weight: 400; {theme.words_css(theme.QUIET)}")
        self.words.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.words)
        refill(menu, self._fill_menu)
        self.words.setMenu(menu)

    def show_dose(self, dose: PigmentDose, planned: CupPlan | None, n: int, plan: Plan) -> None:
        """Fill the line."""
        units, step = self._session.units, plan.job.pour.scale.resolution_g
        self.name.setText(dose.pigment.name)
        self.load.set_value(dose.load_pct, units)
        self.load.setToolTip(_usual_load(dose.pigment.kind))
        amount = planned.doses[n] if planned and not planned.is_solid else None
        text = weighed(amount.weighed_g, step, units) if amount else None
        self.mass.set_figure(amount.pigment_g if amount else None, units, text)
        if dose.stock_pct is None:
            words = "weighed straight" if amount is None or amount.is_weighable else "too little for this scale"
            if amount is not None and amount.drops is not None:
                words = f"or {amount.drops} drops"
        else:
            words = f"of a {write(dose.stock_pct, Dimension.PERCENT, units)} stock in part A"
        self.words.setText(f"{words} ›")
        self.words.setAccessibleName(f"{dose.pigment.name}, {words}")

    def _edit(self, field: str, value: object, deed: str) -> None:
        def change(job: Job) -> Job:
            dose = job.cast.cups[self._cup].pigments[self._index].with_(**{field: value})
            return deeds.set_dose(job, self._cup, self._index, dose)

        self._session.attempt(deed, change)

    def _fill_menu(self, menu: QMenu) -> None:
        now = self._session.job.cast.cups[self._cup].pigments[self._index].stock_pct
        add_heading(menu, "Weigh it")
        add_action(
            menu, "straight", lambda: self._edit("stock_pct", None, "Weigh a pigment straight"), checked=now is None
        )
        for strength in STOCK_STRENGTHS_PCT:
            words = f"as a {decimal(strength)} % stock in part A"
            add_action(
                menu,
                words,
                partial(self._edit, "stock_pct", strength, "Weigh a pigment as stock"),
                checked=now == strength,
            )
