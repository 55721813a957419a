"""Size: down to which diameter the tool goes at each place, and what a caliper reading is answered with."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from functools import partial
from typing import Any

from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import JOB, Finish, Shop, Sized, declared, deeds, path_to
from orvek.planning import Plan
from orvek.planning.finish.lathe import readings_now, wear_lines
from orvek.planning.finish.results import FinishPlan, SizePlan
from orvek.planning.finish.words import along_lines, still_lines
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.pictures.size_picture import SizePicture
from orvek.window.session import Session
from orvek.window.stations.finish.ends_menu import EndsMenu
from orvek.window.surface import Surface
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import (
    Answer,
    FigureLine,
    FigureValue,
    QuantityEdit,
    caution_label,
    heading,
    quiet_label,
)
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, column_grid, in_columns, under_picture
from orvek.window.widgets.more import More
from orvek.window.widgets.steps import Steps

_FIELDS = ("part_left_mm", "part_right_mm", "now_left_mm", "now_middle_mm", "now_right_mm")
_TOOL = ("Turn to, left", "Turn to, middle", "Turn to, right")


class SizeTable(QWidget):
    """A column a barrel: measured parts, what to turn to, what it measures now."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._grid = column_grid(self)
        self._names: list[Label] = []
        self.cells: dict[tuple[int, str], QuantityEdit] = {}
        self.figures: dict[tuple[int, int], FigureValue] = {}
        self.more = More("size")

    def show_finish(self, finish: FinishPlan) -> None:
        """Show the sizes; built anew only when the number of barrels changes."""
        if len(self._names) != len(finish.sizes):
            self._build(len(finish.sizes))
        units = self._session.units
        for column, size in enumerate(finish.sizes):
            self._names[column].setText(size.barrel.name)
            for field in _FIELDS:
                cell = self.cells[column, field]
                cell.set_value(getattr(size.sized, field), units)
                cell.setAccessibleName(f"{size.barrel.name}: {declared(Sized, field).title.lower()}")
            for place, figure in enumerate(size.tool_mm):
                self.figures[column, place].set_figure(figure, units, of=size.barrel.name)

    def _build(self, columns: int) -> None:
        clear(self._grid)
        self._names, self.cells, self.figures = [], {}, {}
        rows = [declared(Sized, field).title for field in _FIELDS]
        labels = [quiet_label(words) for words in (*rows[:2], *_TOOL, *rows[2:])]
        for row, label in enumerate(labels, 1):
            self._grid.addWidget(label, row, 0)
        for column in range(columns):
            name = Label()
            name.setStyleSheet("font-weight: 600;")
            self._names.append(name)
            self._grid.addWidget(name, 0, column + 1)
            for number, field in enumerate(_FIELDS):
                cell = QuantityEdit(declared(Sized, field), self._session.units, optional=True)
                cell.entered.connect(partial(self._enter, column, field))
                self.cells[column, field] = edits(cell, "finish", "sized", column, field)
                self._grid.addWidget(cell, number + (1 if number < 2 else 4), column + 1)
            for place in range(3):
                self.figures[column, place] = FigureValue()
                self._grid.addWidget(self.figures[column, place], 3 + place, column + 1)
        self._grid.setColumnStretch(0, 1)
        self.more.release()
        for number, field in enumerate(_FIELDS[:2]):
            self.more.hold_row(labels[number], *(self.cells[column, field] for column in range(columns)))

    def _enter(self, column: int, field: str, value: Any) -> None:
        deed = partial(deeds.set_sized, barrel=column, name=field, value=value)
        self._session.attempt(declared(Sized, field).title, deed)


def _to_turn(sizes: Sequence[SizePlan], units: Units) -> str:
    """What the tool stops at, barrel by barrel, from left to right."""
    written = [[write(one.value, Dimension.LENGTH, units, 2) for one in size.tool_mm] for size in sizes]
    unit = written[0][0].rsplit(" ", 1)[-1]
    rows = (" · ".join(words.removesuffix(f" {unit}") for words in row) for row in written)
    return f"Turn to {', then '.join(rows)} {unit}"


class SizePage(QWidget):
    """The page Size of the station Finish."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self.picture, self.table = SizePicture(surface), SizeTable(session)
        self.how = DocumentFields(session, path_to(JOB.finish), Finish, "tenths", "tool", "more_mm")
        self.answer, self.others = Answer(), Label()  # of the first reading; of the others
        self.others.setWordWrap(True)
        self.others.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        self._sums = {name: FigureLine("") for name in ("sanded_mm", "coats_mm", "levelled_mm")}
        self.table.more.hold(*self.how.some("tool", "more_mm"))
        self.ends = EndsMenu(session)
        self._why, self._caution, self._wear = quiet_label(""), caution_label(), quiet_label("")
        self._along, self._lathe = quiet_label(""), Steps(4)
        self._dummy = FigureLine("")
        self.write_down = QPushButton("Keep the bushings' sizes of today")
        self.write_down.setProperty("kind", "small")
        self.write_down.clicked.connect(self._write_down)
        for label in (self._why, self._along, self._wear):
            label.setWordWrap(True)
        left, right = QVBoxLayout(), QVBoxLayout()
        for column in (left, right):
            column.setSpacing(4)
        left.addWidget(heading("Each barrel"))
        left.addWidget(self.table)
        left.addWidget(self._along)
        left.addWidget(self.ends)
        left.addWidget(self._caution)
        left.addStretch(1)
        told = (self.others, heading("Still to come"), *self._sums.values(), *self.how.widgets.values())
        for widget in (*told, self._why, self._dummy, self._wear, self.write_down):
            if not isinstance(widget, Label):
                widget.setSizePolicy(widget.sizePolicy().horizontalPolicy(), QSizePolicy.Policy.Maximum)
            right.addWidget(widget)
        right.addSpacing(6)
        right.addWidget(heading("At the lathe"))
        right.addLayout(self._lathe)
        right.addStretch(1)
        inside = in_columns((left, 1), (right, 1), apart_px=32, foot=self.table.more)
        under_picture(self, self.picture, inside, self.answer)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for turning to size."""
        finish, units = plan.finish, self._session.units
        if finish is None:
            return
        self.picture.show_plan(plan, units)
        self.table.show_finish(finish)
        self.ends.show_plan(plan)
        self.how.show_document(plan.job.finish)
        lines = [line for size in finish.sizes for line in still_lines(size, units)]
        self.answer.say(lines[0] if lines else _to_turn(finish.sizes, units), units)
        self.others.setText(" ".join(lines[1:]))
        self.others.setVisible(len(lines) > 1)
        for name, line in self._sums.items():
            figure = getattr(finish, name)
            line.tell(figure if figure.value else None, units)
        is_wrapped = finish.wrap is not None and finish.wrap.is_coated
        self._why.setText(_UNDER_A_SHEET if is_wrapped else _TENTHS[plan.job.finish.tenths])
        is_dummy = plan.job.finish.tenths == "on dummy bushings, by calipers"
        slimmest = min(finish.sizes, key=lambda size: size.dummy_mm.value)
        self._dummy.tell(slimmest.dummy_mm if is_dummy else None, units)
        self._along.setText(" ".join(along_lines(finish.sizes, units)))
        self._lathe.show_lines(finish.lathe)
        self._wear.setText(" ".join(wear_lines(plan.job, plan.shop, units)))
        self.write_down.setVisible(bool(readings_now(plan.job, date.today())))
        self._caution.setText(plan.caution("finish.lathe"))
        self.table.more.show_plan(plan)

    def _write_down(self) -> None:
        """Put today's bushings into the records; undone by the undo of the shelves."""
        seen = readings_now(self._session.job, date.today())

        def change(shop: Shop) -> Shop:
            for reading in seen:
                shop = deeds.put_on_shelf(shop, "bushings", reading)
            return shop

        self._session.change_shop("Keep the bushings' sizes", change)


_UNDER_A_SHEET = "Stop at these sizes: the sheet and its coats do the rest. Turn it straight, or the seam parts."
_TENTHS = {
    "by sanding": "Stop at these sizes with the tool; grits and coats do the rest. Measure at three places, lathe off.",
    "by the tool, to the bushing": "Bushings wear: measure them. Where grits and coats follow, stop before them.",
    "on dummy bushings, by calipers": "Bushings smaller than the barrel are in nobody's way: only the calipers count.",
}
