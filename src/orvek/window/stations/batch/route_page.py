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
from orvek.window.widgets.thread import Knot, Thread

if TYPE_CHECKING:
    from orvek.planning.route.results import Operation

_SET_PX, _MOST_SET = 88, 5  # room for so many lines of what is set; with more of them nothing moves
_NOTHING = "Nothing is decided yet: choose a pen, then say at Blank how it is made. The route follows."


class RoutePage(QWidget):
    """The page Route of the station Batch."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._rows: tuple[Operation, ...] = ()
        self.work = Thread("Every operation")
        self.work.currentRowChanged.connect(lambda _: self._show_buttons())
        self.work.itemDoubleClicked.connect(lambda _: self._go_to_the_bench())
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
        column.addWidget(self.work, 1)
        column.addWidget(self._set)
        column.addLayout(buttons)

    def show_plan(self, plan: Plan) -> None:
        """Show the route of a plan, with the first open operation in hand."""
        self._rows = plan.route.operations if plan.route else ()
        self._nothing.setVisible(not self._rows)
        self.work.setVisible(bool(self._rows))
        done = plan.route.done if plan.route else frozenset()
        first = next((one.key for one in self._rows if one.key not in done), "")
        self.work.show_knots([_knot(plan, one, is_next=one.key == first) for one in self._rows])
        if not self.work.key():
            self.work.choose(first or (self._rows[0].key if self._rows else ""))
        self._show_buttons()

    def _chosen(self) -> Operation | None:
        key = self.work.key()
        return next((one for one in self._rows if one.key == key), None)

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


def _knot(plan: Plan, one: Operation, *, is_next: bool) -> Knot:
    """An operation with when it was done, and what its hands took beside what was planned."""
    units = plan.units
    at, took = plan.job.work.when(one.key, "done"), took_min(plan.job, one.key, one.hands_min)
    is_done = plan.route is not None and one.key in plan.route.done
    hands = whole_min(one.hands_min, units)
    told = f"{whole_min(took, units)}, planned {hands}" if took is not None else hands
    return Knot(
        key=one.key,
        words=one.words,
        amount=f"{write_moment(at)} · {told}" if at is not None and is_done else told,
        wait=f"{whole_min(one.wait_min[1], units)}, {one.wait_words}" if one.wait_min[2] else "",
        state="done" if is_done else "next" if is_next else "open",
    )
