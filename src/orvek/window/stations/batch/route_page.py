"""Route: every operation of the job in its order, with what is set for it, how long it takes and what is waited for."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from orvek.documents import deeds
from orvek.planning import Plan
from orvek.planning.history import took_min
from orvek.planning.route.words import settings_lines, whole_min
from orvek.quantities import write_moment
from orvek.window import theme
from orvek.window.bench.opening import at_the_bench
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.tables import fill_table, plain_table

if TYPE_CHECKING:
    from orvek.planning.route.results import Operation

_COLUMNS = ("Operation", "Hands", "Then", "Done")
_SET_PX, _MOST_SET = 112, 5  # room for so many lines of what is set; with more of them nothing moves
_NOTHING = "Nothing is decided yet: choose a pen, then say at Blank how it is made. The route follows."


class RoutePage(QWidget):
    """The page Route of the station Batch."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._rows: tuple[Operation, ...] = ()
        self.table = plain_table("Every operation", _COLUMNS)
        self.table.currentCellChanged.connect(lambda *_: self._show_buttons())
        self.table.cellDoubleClicked.connect(lambda *_: self._go_to_the_bench())
        self.bench, self.done = QPushButton("At the bench"), QPushButton("Done")
        self.bench.clicked.connect(self._go_to_the_bench)
        self.done.clicked.connect(self._tick)
        self._nothing = quiet_label(_NOTHING)
        self._nothing.setWordWrap(True)
        self._set = quiet_label("", theme.BODY)
        self._set.setMinimumHeight(_SET_PX)
        self._set.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._set.setWordWrap(True)
        buttons = QHBoxLayout()
        for button in (self.bench, self.done):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 12, 24, 12)
        column.setSpacing(12)
        column.addWidget(self._nothing)
        column.addWidget(self.table, 1)
        column.addWidget(self._set)
        column.addLayout(buttons)

    def show_plan(self, plan: Plan) -> None:
        """Show the route of a plan, with the first open operation in hand."""
        self._rows = plan.route.operations if plan.route else ()
        self._nothing.setVisible(not self._rows)
        self.table.setVisible(bool(self._rows))
        row = self.table.currentRow()
        fill_table(self.table, [self._cells(plan, one) for one in self._rows])
        first = next((n for n, one in enumerate(self._rows) if plan.route and one.key not in plan.route.done), 0)
        self.table.setCurrentCell(row if 0 <= row < len(self._rows) else first, 0)
        self._show_buttons()

    def _cells(self, plan: Plan, one: Operation) -> tuple[str, ...]:
        units = plan.units
        done = plan.job.work.when(one.key, "done")
        took = took_min(plan.job, one.key, one.hands_min)
        is_done = plan.route is not None and one.key in plan.route.done
        told = write_moment(done) if done is not None else "yes" if is_done else ""
        hands = whole_min(one.hands_min, units)
        return (
            one.words,
            f"{whole_min(took, units)}, planned {hands}" if took is not None else hands,
            f"{whole_min(one.wait_min[1], units)}, {one.wait_words}" if one.wait_min[2] else "",
            told,
        )

    def _chosen(self) -> Operation | None:
        row = self.table.currentRow()
        return self._rows[row] if 0 <= row < len(self._rows) else None

    def _show_buttons(self) -> None:
        one, route = self._chosen(), self._session.plan.route
        told = tuple(settings_lines(one, self._session.units)) if one is not None else ()
        self._set.setText("\n".join((*told[:_MOST_SET], *(("…",) if len(told) > _MOST_SET else ()))))
        is_open = one is not None and route is not None and one.key not in route.done
        writable = self._session.workshop.is_writable
        self.bench.setEnabled(is_open and writable)
        self.done.setEnabled(one is not None and writable)
        self.done.setText("Done" if is_open or one is None else "Not done after all")

    def _go_to_the_bench(self) -> None:
        one = self._chosen()
        if one is not None and self.bench.isEnabled():
            at_the_bench(self, self._session, one, self._surface)

    def _tick(self) -> None:
        one, route = self._chosen(), self._session.plan.route
        if one is None or route is None:
            return
        if one.key in route.done:
            self._session.attempt(f"Not done after all: {one.words}", partial(deeds.open_task_again, task=one.key))
        else:
            now = datetime.now().replace(microsecond=0)
            self._session.attempt(f"Done: {one.words}", partial(deeds.finish_task, task=one.key, when=now))
