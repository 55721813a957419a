"""A column a tube: which one it is, what it measures, and what follows for gluing it in and squaring it."""

from __future__ import annotations

import typing
from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from orvek.documents import Hole, declared, deeds
from orvek.planning import Figure
from orvek.planning.bore.part import BorePlan, HolePlan
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceButton, add_action
from orvek.window.widgets.fields import FigureValue, QuantityEdit, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, column_grid

_ROWS = {
    "cut_mm": "Cut the tube to",
    "gap_mm": "Room round it",
    "glue_ml": "Glue that fills it",
    "beyond_left": "Bar beyond it, left",
    "beyond_right": "Bar beyond it, right",
    "square_to_mm": "Square it to",
    "lip_gap_mm": "Gap if 0.25° out of square",
}
_CUT_ROW = 3  # only shown where a tube is set back


class TubeTable(QWidget):
    """Built anew only when the number of barrels changes."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._grid = column_grid(self)
        self._names: list[Label] = []
        self._kinds: list[ChoiceButton] = []
        self._sizes: list[QuantityEdit] = []
        self._figures: dict[tuple[int, str], FigureValue] = {}

    def show_plan(self, bore: BorePlan) -> None:
        """Show the tubes of a plan."""
        if len(self._names) != len(bore.holes):
            self._build(len(bore.holes))
        units = self._session.units
        for index, hole in enumerate(bore.holes):
            self._names[index].setText(hole.name)
            self._kinds[index].setAccessibleName(f"{hole.name}: the tube is")
            self._sizes[index].setAccessibleName(f"{hole.name}: the tube, measured")
            self._kinds[index].set_text(hole.hole.tube if hole.tube else hole.barrel.inside)
            self._kinds[index].setEnabled(hole.tube is not None)
            self._sizes[index].setEnabled(hole.tube is not None)
            self._sizes[index].set_value(hole.hole.tube_mm, units)
            figures = _figures(hole)
            for name, figure in figures.items():
                self._figures[index, name].set_figure(figure, units, of=hole.name)
        has_cut = any(hole.tube and hole.tube.cut_mm for hole in bore.holes)
        for column in range(len(bore.holes) + 1):
            self._cell(_CUT_ROW, column).setVisible(has_cut)

    def _cell(self, row: int, column: int) -> QWidget:
        item = self._grid.itemAtPosition(row, column)
        assert item is not None
        widget = item.widget()
        assert widget is not None
        return widget

    def _build(self, columns: int) -> None:
        clear(self._grid)
        self._names, self._kinds, self._sizes, self._figures = [], [], [], {}
        for row, words in enumerate(("The tube is", "The tube, measured", *_ROWS.values()), 1):
            self._grid.addWidget(quiet_label(words), row, 0)
        for index in range(columns):
            name, kind = Label(), ChoiceButton("The tube is", partial(self._fill_kinds, index))
            name.setStyleSheet("font-weight: 600;")
            size = QuantityEdit(declared(Hole, "tube_mm"), self._session.units, optional=True)
            size.entered.connect(partial(self._see, index, "tube_mm", words="The tube, measured"))
            self._names.append(name)
            self._kinds.append(kind)
            self._sizes.append(size)
            for row, widget in enumerate((name, kind, size)):
                self._grid.addWidget(widget, row, index + 1)
            for row, key in enumerate(_ROWS, 3):
                self._figures[index, key] = FigureValue()
                self._grid.addWidget(self._figures[index, key], row, index + 1)
        self._grid.setColumnStretch(0, 1)

    def _fill_kinds(self, index: int, menu: QMenu) -> None:
        now = self._session.job.bore.hole(index).tube
        for value in typing.get_args(Hole.model_fields["tube"].annotation):
            deed = partial(self._see, index, "tube", value, words=f"The tube is {value}")
            add_action(menu, value, deed, checked=value == now)

    def _see(self, index: int, name: str, value: object, *, words: str) -> None:
        self._session.attempt(words, partial(deeds.set_hole, barrel=index, name=name, value=value))


def _figures(hole: HolePlan) -> dict[str, Figure | None]:
    tube = hole.tube
    return {
        "cut_mm": tube.cut_mm if tube else None,
        "gap_mm": tube.gap_mm if tube else None,
        "glue_ml": tube.glue_ml if tube else None,
        "beyond_left": hole.beyond_mm[0],
        "beyond_right": hole.beyond_mm[1],
        "square_to_mm": hole.square_to_mm,
        "lip_gap_mm": hole.lip_gap_mm,
    }
