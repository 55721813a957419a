"""Today: what needs the hands now, what comes next, what is waited for, over all jobs; one click to the bench."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import partial

from PySide6.QtCore import QSize, Qt, QTimer
from PySide6.QtGui import QHideEvent, QIcon, QPixmap, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from orvek.documents import deeds
from orvek.planning import Plan, Severity, Station
from orvek.planning.parked import parked_lines
from orvek.planning.route.results import Operation
from orvek.planning.timetable.next_day import next_slots
from orvek.planning.timetable.results import Slot, Weeks
from orvek.planning.timetable.weeks import plan_has_tasks
from orvek.planning.timetable.words import (
    Closing,
    closing,
    closing_line,
    duties,
    duty_line,
    now_of,
    slot_line,
    waiting_line,
)
from orvek.quantities import minutes_between, write_moment
from orvek.window import theme
from orvek.window.bench.opening import at_the_bench
from orvek.window.job_looks import TALL, WIDE, JobLooks
from orvek.window.notifying import notify
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.today.day_picture import DayPicture
from orvek.window.surface import Surface
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.label import Label, without_shortcut
from orvek.window.widgets.layouts import ROOMY_SHARE, clear, filled, in_columns, scrolled
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.steps import Steps
from orvek.window.widgets.waiting import Waiting

_MINUTE_MS = 30_000
_SOON, _FREE = timedelta(minutes=20), timedelta(hours=4)  # nobody plans an evening more than that (a choice)
_MOST_PARKED = 2
_MOST_NEEDS, _NAME, _NEEDS_TALL = 4, 28, 96  # jobs, letters of their names, the pixels of their row
_NOTHING_MORE = ["Nothing more is planned."]


class TodayStation(StationWidget):
    """A day line above; now, next and waiting below."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._slot: Slot | None = None
        self._told: set[tuple[str, str]] = set()
        self.picture = DayPicture()
        self.now, self._what, self._parked = Label(), quiet_label(""), quiet_label("")
        self.now.setStyleSheet(theme.words_css(theme.INK, theme.TITLE, 600))
        for label in (self.now, self._what, self._parked):
            label.setWordWrap(True)
        self.bench, self.done = QPushButton("At the bench"), QPushButton("Done")
        self.lay_out = QPushButton("Lay out…")
        self.lay_out.setToolTip("Bits, bushings, glue, grits, moulds for the next hours at work, with where they lie")
        self.lay_out.clicked.connect(self._lay_things_out)
        self.bench.clicked.connect(self._to_the_bench)
        self.done.clicked.connect(self._done)
        self._next, self._waiting = Steps(6, at_top=True), Steps(3, at_top=True, is_numbered=False)
        self._needs = QHBoxLayout()
        self._needs.setSpacing(24)
        self.waiting = Waiting(session.answers.forecasters["weeks"], "the timetable")
        nothing = Opening("Nothing to do today.", "Jobs that are to be planned have their tasks here, hour by hour.")
        to_pen = partial(session.station_wanted.emit, Station.PEN)
        nothing.show_suggestions((Suggestion("Go to Pen", "begin with a pen", to_pen),))
        self._nothing, self._whole = nothing, QWidget()
        self._minute = QTimer(self)
        self._minute.setInterval(_MINUTE_MS)
        self._minute.timeout.connect(self._look_again)
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show the day as it is planned now."""
        self._session.want("weeks", wanted=self.isVisible())
        has_work = plan_has_tasks(plan) or any(job.work.is_open for job in plan.others)
        self._nothing.setVisible(not has_work)
        self._whole.setVisible(has_work)
        if has_work:
            self._show_day(plan.weeks, datetime.now())

    def leave(self) -> None:
        """Nobody looks any more: the question rests."""
        self._session.want("weeks", wanted=False)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._minute.start()
        self.show_plan(self._session.plan)

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._minute.stop()

    def _look_again(self) -> None:
        """Time has gone on: what is over is told, and the lists move up."""
        weeks, now = self._session.plan.weeks, datetime.now()
        if weeks is None:
            return
        for wait in weeks.waiting:
            key = (wait.job, wait.words)
            if now - _SOON < wait.ends <= now and key not in self._told:
                self._told.add(key)
                notify(self.window(), f"{weeks.name(wait.job)}: {wait.words}", "That wait is over.")
        for one in self._closing():
            key = (f"{one.job}: {one.task.key}", one.before.isoformat())
            if one.told_from <= now < one.before and key not in self._told:
                self._told.add(key)
                words = f"Begin before {write_moment(one.before)}: it cannot wait longer."
                notify(self.window(), f"{one.job}: {one.task.words}", words)
        self._show_day(weeks, now)

    def _closing(self) -> tuple[Closing, ...]:
        """What cannot wait, of the job in hand and of all others."""
        plan = self._session.plan
        return tuple(
            one
            for each in (plan, *self._session.others.begun(plan))
            for one in (closing(each.job, each.route.operations) if each.route is not None else ())
        )

    def _show_day(self, weeks: Weeks | None, now: datetime) -> None:
        self.picture.show_day(weeks, now)
        if weeks is None or weeks.table.problem:
            self._enable(can=False)
            self.lay_out.setEnabled(False)
            self.now.setText(weeks.table.problem if weeks else "The day is being planned …")
            self._what.setText("")
            self._parked.setVisible(False)
            return
        at, closes = now_of(weeks, now), self._closing()
        due = duties(closes, now)
        self._slot = _slot_of(weeks, due[0]) if due else at.next[0] if at.next else None
        self._enable(can=self._slot is not None and self._session.workshop.is_writable)
        self.lay_out.setEnabled(bool(at.next))
        self.now.setText(f"{duty_line(due[0], now)}." if due else _now_words(weeks, self._slot, now))
        self._what.setText(" ".join(self._slot.task.lines[:4]) if self._slot else "")
        self._show_parked(now)
        self._next.show_lines([slot_line(slot, weeks) for slot in at.next if slot is not self._slot] or _NOTHING_MORE)
        waits = [closing_line(one) for one in closes if now < one.before and one not in due[:1]]
        waits += [waiting_line(wait, weeks) for wait in at.waiting]
        self._waiting.show_lines(waits or ["Nothing is waited for now."])

    def _show_parked(self, now: datetime) -> None:
        """What was put aside and fits into the time until the hands are wanted again."""
        begins = self._slot.begins if self._slot is not None else now + _FREE
        lines: tuple[str, ...] = ()
        if begins > now + _SOON:
            plan = self._session.plan
            free_min = minutes_between(now, min(begins, now + _FREE))
            lines = parked_lines((plan, *self._session.others.begun(plan)), free_min)[:_MOST_PARKED]
        self._parked.setText(" ".join(("Until then there is time for what was put aside.", *lines)) if lines else "")
        self._parked.setVisible(bool(lines))

    def _enable(self, *, can: bool) -> None:
        for button in (self.bench, self.done):  # once each: one that is disabled for a moment loses the keyboard
            button.setEnabled(can)

    # -- deeds -------------------------------------------------------------------------------------------------

    def _in_hand(self) -> Operation | None:
        """The task of the slot that stands there; its job is taken in hand first."""
        slot = self._slot
        if slot is None:
            return None
        if slot.job != self._session.job.batch.id:
            self._session.open_job(slot.job)
        route = self._session.plan.route
        return next((task for task in (route.operations if route else ()) if task.key == slot.whole), None)

    def _to_the_bench(self) -> None:
        task = self._in_hand()
        if task is not None:
            at_the_bench(self, self._session, task, self._surface)

    def _lay_things_out(self) -> None:
        from orvek.window.lay_out_sheet import LayOutSheet

        weeks = self._session.plan.weeks
        slots = next_slots(weeks.table.slots, datetime.now()) if weeks is not None else ()
        if slots:
            LayOutSheet(self, self._session, slots).exec()

    def _done(self) -> None:
        slot, weeks = self._slot, self._session.plan.weeks
        if self._in_hand() is not None and slot is not None and weeks is not None:
            now, key = datetime.now().replace(second=0, microsecond=0), weeks.key_when_done(slot)
            self._session.attempt(f"Done: {slot.task.words}", partial(deeds.finish_task, task=key, when=now))

    def show_looks(self, looks: JobLooks) -> None:
        """Show which jobs have a stop or a caution; a click takes one in hand."""
        jobs = looks.needing()
        clear(self._needs)
        for entry, worst, picture in (jobs or ())[:_MOST_NEEDS]:
            button = QToolButton()
            button.setProperty("kind", "place")
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            button.setText(without_shortcut(f"{entry.name[:_NAME]}: {worst.words.lower()}"))
            button.setAccessibleName(f"{entry.name}: {worst.words.lower()}")
            button.setIconSize(QSize(WIDE, TALL))
            button.setIcon(QIcon(QPixmap.fromImage(picture)) if picture is not None else QIcon())
            button.clicked.connect(partial(self._look_at, entry.id))
            self._needs.addWidget(button)
        if not jobs:
            self._needs.addWidget(quiet_label("None." if jobs is not None else "They are being looked at …"))
        self._needs.addStretch(1)

    def _look_at(self, job_id: str) -> None:
        """Take a job in hand, at the first station that has something to be said."""
        self._session.open_job(job_id)
        found = next((one for one in self._session.plan.findings if one.severity is not Severity.NOTE), None)
        self._session.station_wanted.emit(found.station if found is not None else Station.PEN)

    def _lay_out(self) -> None:
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        buttons = QHBoxLayout()
        for button in (self.bench, self.done, self.lay_out):
            buttons.addWidget(button)
        buttons.addStretch(1)
        left.addWidget(heading("Now"))
        left.addWidget(self.now)
        left.addWidget(self._what)
        left.addWidget(self._parked)
        left.addLayout(buttons)
        middle.addWidget(heading("Next"))
        middle.addLayout(self._next)
        right.addWidget(heading("Waiting"))
        right.addLayout(self._waiting)
        above = filled(QWidget(), (self.picture, 1), (self.waiting, 0))
        inside = in_columns((left, 1), (middle, 1), (right, 1), apart_px=32, line_px=6)
        jobs = QWidget()
        column = QVBoxLayout(jobs)
        column.setContentsMargins(24, 4, 24, 16)
        column.addWidget(heading("Jobs that need a look"))
        column.addLayout(self._needs)
        jobs.setFixedHeight(_NEEDS_TALL)  # whatever there is: nothing above it moves
        lower = scrolled(inside, is_lower=True, picture_share=ROOMY_SHARE)
        filled(self._whole, (above, ROOMY_SHARE), (lower, 100 - ROOMY_SHARE), (jobs, 0))
        filled(self, (self._nothing, 0), (self._whole, 0))


def _slot_of(weeks: Weeks, one: Closing) -> Slot | None:
    """Where a duty stands in the plan; its first part."""
    return next((slot for slot in weeks.table.of(one.job_id) if slot.whole == one.task.key), None)


def _now_words(weeks: Weeks, slot: Slot | None, now: datetime) -> str:
    if slot is None:
        return "Everything is done."
    what = f"{weeks.name(slot.job)}: {slot.task.words.lower()}"
    if slot.begins <= now + _SOON:
        return f"{what}."
    return f"Nothing until {write_moment(slot.begins)}. Then {what}."
