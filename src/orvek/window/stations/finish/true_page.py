"""True: whether a barrel runs true as it is held, whose fault it is where not, and how barrels are held here."""

from __future__ import annotations

import typing
from functools import partial
from itertools import zip_longest

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import ANGLES, Holding, Round, Shop, Truing, declared, deeds
from orvek.documents.base import title_of
from orvek.planning import Plan
from orvek.planning.finish.results import TruePlan
from orvek.planning.finish.truing import true_answer
from orvek.window.pictures.true_picture import TruePicture
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import Answer, FigureLine, QuantityEdit, heading, quiet_label
from orvek.window.widgets.layouts import column_grid, in_columns, under_picture
from orvek.window.widgets.steps import Steps

_ROUNDS = {
    "left": "Left end", "right": "Right end", "left_turned": "Left, turned", "right_turned": "Right, turned",
}  # fmt: skip
_CELL_PX = 74
_CHOICES = ("by", "lip", "centres")


class TruePage(QWidget):
    """The page True of the station Finish."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session, self._barrel = session, 0
        self._plan: Plan | None = None
        self._is_open = False
        self._heads: dict[str, QLabel] = {}
        self.picture, self.answer = TruePicture(), Answer()
        self.barrel = ChoiceField("Barrel", self._fill_barrels)
        self.choices = {
            name: ChoiceField(title_of(Truing.model_fields[name], name), partial(self._fill, name)) for name in _CHOICES
        }
        self.cells: dict[tuple[str, str], QuantityEdit] = {}
        self._figures = [FigureLine("") for _ in range(5)]
        self.steps = Steps(6, at_top=True)
        self.held = quiet_label("")
        self.held.setWordWrap(True)
        self.hold = QPushButton("How barrels are held here…")
        self.hold.setProperty("kind", "small")
        self.hold.clicked.connect(lambda _=False: self._ask_holding())
        self.type_in = QPushButton("Type readings")
        self.type_in.setProperty("kind", "small")
        self.type_in.clicked.connect(lambda _=False: self._open_table())
        self.again = QPushButton("Clear the readings")
        self.again.setProperty("kind", "small")
        self.again.clicked.connect(lambda _=False: self._set("Clear the readings", **_UNREAD))
        self._fill_line = FigureLine("")
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what was read of the barrel in hand."""
        self._plan = plan
        finish = plan.finish
        if finish is None or not finish.trues:
            return
        self._barrel = min(self._barrel, len(finish.trues) - 1)
        true, units = finish.trues[self._barrel], plan.units
        self.picture.show_true(true, finish.hold, units)
        self.barrel.setVisible(len(finish.trues) > 1)
        self.barrel.set_text(true.barrel.name)
        for name, choice in self.choices.items():
            choice.set_text(getattr(true.read, name))
        for (which, angle), cell in self.cells.items():
            cell.set_value(getattr(getattr(true.read, which), angle), units)
        for line, figure in zip_longest(self._figures, true.figures):
            line.tell(figure, units)
        self.answer.say(true_answer(true, units), units, true.clean_mm)
        self.steps.show_lines(true.lines or _HOW)
        self.again.setVisible(true.read.is_begun)
        self._show_table(plan, true)
        self.held.setText(f"Held: {plan.shop.holding.way}.")
        self._fill_line.tell(finish.hold.fill_mm if finish.hold is not None else None, units)

    def _show_table(self, plan: Plan, true: TruePlan) -> None:
        """The cells, where there is a dial, or anything is read; those of half a turn on, once they say something."""
        is_read = any(getattr(true.read, which).read for which in _ROUNDS)
        is_wall = true.read.by != "a dial"
        is_open = self._is_open or is_read or is_wall or plan.shop.holding.has_dial
        self.table.setVisible(is_open)
        self.choices["by"].setVisible(is_open)
        asks_centres = true.read.lip == "does both" or plan.shop.holding.way == "between centres"
        self.choices["centres"].setVisible(asks_centres or true.read.centres != "not looked at")
        self.type_in.setVisible(not is_open)
        wants_turn = not is_wall and (
            true.most_mm > 0 or bool(true.read.left_turned.read or true.read.right_turned.read)
        )
        for which, label in self._heads.items():
            label.setVisible(wants_turn or not which.endswith("turned"))
        for (which, _), cell in self.cells.items():
            cell.setVisible(wants_turn or not which.endswith("turned"))

    # -- hands -------------------------------------------------------------------------------------------------

    def _open_table(self) -> None:
        self._is_open = True
        if self._plan is not None:
            self.show_plan(self._plan)

    def _set(self, words: str, **values: object) -> None:
        barrel = self._barrel
        self._session.attempt(words, lambda job: deeds.set_truing(job, barrel, **values))

    def _read(self, which: str, angle: str, value: float | None) -> None:
        deed = partial(deeds.read_round, barrel=self._barrel, which=which, angle=angle, value=value)
        self._session.attempt("Read it round", deed)

    def _fill(self, name: str, menu: QMenu) -> None:
        now = getattr(self._session.job.finish.truing(self._barrel), name)
        for value in typing.get_args(Truing.model_fields[name].annotation):
            deed = partial(self._set, title_of(Truing.model_fields[name], name), **{name: value})
            add_action(menu, value, deed, checked=value == now)

    def _fill_barrels(self, menu: QMenu) -> None:
        finish = self._plan.finish if self._plan is not None else None
        for true in finish.trues if finish is not None else ():
            add_action(menu, true.barrel.name, partial(self._choose, true.number), checked=true.number == self._barrel)

    def _choose(self, number: int) -> None:
        self._barrel = number
        if self._plan is not None:
            self.show_plan(self._plan)

    def _ask_holding(self) -> None:
        found = edit_document(self, "How barrels are held", self._session.shop.holding, self._session.shop)
        if found is not None:
            self.hold_so(found)

    def hold_so(self, holding: Holding) -> None:
        """Hold barrels so, from now on and in every job."""

        def change(shop: Shop) -> Shop:
            return shop.with_(holding=holding)

        self._session.change_shop("How barrels are held", change)

    def _lay_out(self) -> None:
        self.table = table = QWidget()
        grid = column_grid(table)
        grid.setHorizontalSpacing(8)
        for column, (which, words) in enumerate(_ROUNDS.items(), 1):
            self._heads[which] = quiet_label(words)
            grid.addWidget(self._heads[which], 0, column)
        for row, angle in enumerate(ANGLES, 1):
            grid.addWidget(quiet_label(declared(Round, angle).title), row, 0)
            for column, (which, words) in enumerate(_ROUNDS.items(), 1):
                cell = QuantityEdit(declared(Round, angle), self._session.units, optional=True)
                cell.setAccessibleName(f"{words}, {declared(Round, angle).title.lower()}")
                cell.entered.connect(partial(self._read, which, angle))
                self.cells[which, angle] = cell
                grid.addWidget(cell, row, column)
                grid.setColumnStretch(column, 1)
                grid.setColumnMinimumWidth(column, _CELL_PX)
        left, right = QVBoxLayout(), QVBoxLayout()
        for widget in (self.barrel, *self.choices.values(), table):
            left.addWidget(widget)
        for button in (self.type_in, self.again):
            left.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        for widget in (heading("What follows"), *self._figures):
            right.addWidget(widget)
        right.addLayout(self.steps)
        for widget in (heading("The holding"), self.held, self._fill_line):
            left.addWidget(widget)
        left.addWidget(self.hold, 0, Qt.AlignmentFlag.AlignLeft)
        under_picture(self, self.picture, in_columns((left, 5), (right, 4), apart_px=28, line_px=4), self.answer)


_HOW = (
    "Mount it, mark where the barrel meets the holding's mark. Feel with a nail at both bushings.",
    "With a dial: its tip on the barrel beside the end, zero at the mark; a quarter turn by hand, read; both ends.",
    "Off? Turn the barrel half round in its holding and read again: that tells the holding from the barrel.",
)
_UNREAD = {name: Round() for name in _ROUNDS} | {"lip": "not felt for", "centres": "not looked at"}
