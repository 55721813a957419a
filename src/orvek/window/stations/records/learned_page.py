"""Learned: every default that the shop's own records move, whose it is, its range; each can be set back."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import deeds
from orvek.planning import Plan
from orvek.planning.records.learned import Learned, learned
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.tables import fill_table, plain_table

_COLUMNS = ("About", "What", "It is", "9 in 10", "Whose")
_ALL, _OWN = "all", "only mine"


class LearnedPage(QWidget):
    """A line a default; the one in hand can be set back, or taken up again."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session, self._show = session, _ALL
        self._rows: tuple[Learned, ...] = ()
        self.table = plain_table("What the shop has learned", _COLUMNS)
        self.table.itemSelectionChanged.connect(self._show_buttons)
        self.show_which = ChoiceField("Show", self._fill_show)
        self.back, self.again = (
            QPushButton("Start a new series"),
            QPushButton("Use the earlier series again"),
        )
        self.back.clicked.connect(self.set_back)
        self.again.clicked.connect(self.take_up_again)
        line = quiet_label(
            "A default is generic until your own records move it. Changed a method? Set it back: what was seen before "
            "is kept, and does not count any more."
        )
        line.setWordWrap(True)
        row = QHBoxLayout()
        row.addWidget(self.show_which, 1)
        row.addStretch(2)
        row.addWidget(self.again)
        row.addWidget(self.back)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 8, 24, 8)
        column.setSpacing(8)
        column.addWidget(line)
        column.addWidget(self.table, 1)
        column.addLayout(row)

    def show_plan(self, plan: Plan) -> None:
        """Show what is learned now."""
        jobs = (plan.job, *self._session.others.of(plan.job.batch.id))
        found = learned(plan.shop, jobs)
        self._rows = tuple(row for row in found if self._show == _ALL or row.count or row.set_aside)
        self.show_which.set_text(self._show)
        cells = [(row.group, row.words, *row.written(plan.units), _whose(row)) for row in self._rows]
        fill_table(self.table, cells or [("", "Nothing of your own yet.", "", "", "")])
        self._show_buttons()

    def row(self) -> Learned | None:
        """The default in hand."""
        number = self.table.currentRow()
        return self._rows[number] if 0 <= number < len(self._rows) else None

    def set_back(self) -> None:
        """The default in hand is generic again: what was seen of it is set aside, and a new series begins."""
        row = self.row()
        if row is None or not row.can_be_set_back:
            return
        change = partial(deeds.records.begin_series, of=row.key, when=_now(), shelf=row.shelf, items=row.items)
        if self._session.write_down(change):
            self._session.said.emit(f"{row.words}: a new series begins; {row.count} are kept and do not count.")

    def take_up_again(self) -> None:
        """What was set aside of the default in hand counts again."""
        row = self.row()
        if row is not None:
            self._session.write_down(partial(deeds.records.take_up_again, of=row.key, when=_now()))

    def _show_buttons(self) -> None:
        row, writable = self.row(), self._session.workshop.is_writable
        self.back.setEnabled(writable and row is not None and row.can_be_set_back)
        self.again.setVisible(row is not None and row.set_aside > 0)
        self.again.setEnabled(writable)

    def _fill_show(self, menu: QMenu) -> None:
        for words in (_ALL, _OWN):
            add_action(menu, words, partial(self.show_only, words), checked=words == self._show)

    def show_only(self, words: str) -> None:
        """Show all defaults, or only those of the maker's own."""
        self._show = words
        self.show_plan(self._session.plan)


def _whose(row: Learned) -> str:
    aside = f"; {row.set_aside} set aside" if row.set_aside else ""
    return f"{row.source}{aside}"


def _now() -> datetime:
    return datetime.now().replace(microsecond=0)
