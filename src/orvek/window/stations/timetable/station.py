"""Timetable: when each task of each job is done in the maker's hours, when the job is ready, how sure that is."""

from __future__ import annotations

from datetime import date, datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import JOB, Work, deeds, path_to
from orvek.files import safe_name
from orvek.planning import Plan, Station
from orvek.planning.timetable.reasons import chain
from orvek.planning.timetable.results import Slot
from orvek.quantities import write_moment
from orvek.window import theme
from orvek.window.job_looks import JobLooks
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.timetable.hours_dialog import HoursDialog
from orvek.window.stations.timetable.weeks_picture import WeeksPicture
from orvek.window.surface import Surface
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import ROOMY_SHARE, filled, in_columns, scrolled, under_picture
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.thread import Knot, Thread
from orvek.window.widgets.waiting import Waiting

_ANSWER_PX = 46  # two lines of it: a narrow window breaks it, and nothing moves for that


class TimetableStation(StationWidget):
    """The weeks above; below the job's tasks, its promise, what its day hangs on and what makes it earlier."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        del surface  # it paints no pattern
        self._session = session
        self.picture = WeeksPicture()
        self._looks: JobLooks | None = None
        self.picture.pinned.connect(self._pin)
        self.tasks = Thread("The tasks of this job")
        self.picture.chosen.connect(self.tasks.choose)
        self.answer, self._why, self._ways = Label(), Label(), quiet_label("")
        self.answer.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        for label in (self.answer, self._why, self._ways):
            label.setWordWrap(True)
        self.promised = QLineEdit()
        self.promised.setPlaceholderText("2026-12-18")
        self.promised.setAccessibleName("Promised for")
        self.promised.editingFinished.connect(self._promise)
        self.planned = DocumentFields(session, path_to(JOB.work), Work, "is_open")
        self._refused = Label()
        self._refused.setStyleSheet(theme.words_css(theme.STOP))
        self._refused.setWordWrap(True)
        self._refused.hide()
        self.done, self.free = QPushButton("Done"), QPushButton("Leave it free")
        self.hours, self.export = QPushButton("Your hours…"), QPushButton("Export .ics…")
        self.done.clicked.connect(self._done)
        self.free.clicked.connect(self._free)
        self.hours.clicked.connect(self._ask_hours)
        self.export.clicked.connect(self._ask_export)
        nothing = Opening("Nothing to plan yet.", "A job with a pen has tasks; they are laid into your hours.")
        to_pen = partial(session.station_wanted.emit, Station.PEN)
        nothing.show_suggestions((Suggestion("Go to Pen", "choose one", to_pen),))
        self._nothing, self._whole = nothing, QWidget()
        self.waiting = Waiting(session.answers.forecasters["weeks"], "the timetable")
        self._lay_out()
        self._nothing.hide()  # else the keyboard begins there, and loses its place when it goes

    def show_plan(self, plan: Plan) -> None:
        """Show when this job's tasks are done."""
        has_tasks = plan.route is not None and bool(plan.route.operations)
        self._nothing.setVisible(not has_tasks)
        self._whole.setVisible(has_tasks)
        self._session.want("weeks", wanted=self.isVisible() and has_tasks)
        weeks, job = plan.weeks, plan.job
        if not has_tasks:
            return
        if not self.promised.hasFocus():
            self.promised.setText(job.work.promised.isoformat() if job.work.promised else "")
        self.planned.show_document(job.work)
        self.picture.show_weeks(weeks, job.batch.id)
        self._show_surfaces()
        if weeks is not None:
            own = weeks.table.of(job.batch.id)
            self.tasks.show_knots([_knot(slot, is_next=slot is own[0]) for slot in own])
        self.answer.setText(_answer(plan))
        if weeks is None:
            return
        self._why.setText("\n".join(line for line in (*chain(weeks.table, job.batch.id), weeks.more_words) if line))
        ways = [f"{way.words}: ready {write_moment(way.ready)}." for way in weeks.ways]
        self._ways.setText("\n".join(("What would make it earlier", *ways)) if ways else "")

    def show_looks(self, looks: JobLooks) -> None:
        """Each job's thread is of its own surface."""
        self._looks = looks
        self._show_surfaces()

    def _show_surfaces(self) -> None:
        weeks = self._session.plan.weeks
        seen = {job: self._looks.of(job) for job, _ in weeks.names} if weeks is not None and self._looks else {}
        self.picture.show_surfaces({job: look.picture for job, look in seen.items() if look and look.picture})

    def leave(self) -> None:
        """Nobody looks any more: the question rests."""
        self._session.want("weeks", wanted=False)

    # -- deeds -------------------------------------------------------------------------------------------------

    def _pin(self, key: str, begins: datetime) -> None:
        self._session.attempt("Pin a task", partial(deeds.pin_task, task=key, begins=begins))

    def _free(self) -> None:
        key = self.tasks.key()
        if key:
            self._session.attempt("Leave a task free", partial(deeds.pin_task, task=key, begins=None))

    def _done(self) -> None:
        weeks, chosen = self._session.plan.weeks, self.tasks.key()
        slots = weeks.table.of(self._session.job.batch.id) if weeks is not None else ()
        slot = next((one for one in slots if one.task.key == chosen), None)
        if weeks is not None and slot is not None:
            now, key = datetime.now().replace(second=0, microsecond=0), weeks.key_when_done(slot)
            self._session.attempt("Done", partial(deeds.finish_task, task=key, when=now))

    def _promise(self) -> None:
        text = self.promised.text().strip()
        try:
            day = date.fromisoformat(text) if text else None
        except ValueError:
            self._refuse("A day is written as year, month, day: 2026-12-18.")
            return
        if day is not None and day < date.today():
            self._refuse("That day is past.")
            return
        self._refuse("")
        if day != self._session.job.work.promised:
            self._session.attempt("Promise it", partial(deeds.promise, day=day))

    def _refuse(self, sentence: str) -> None:
        self._refused.setText(sentence)
        self._refused.setVisible(bool(sentence))

    def _ask_hours(self) -> None:
        HoursDialog(self, self._session).exec()

    def _ask_export(self) -> None:
        suggested = f"{safe_name(self._session.job.batch.name)}.ics"
        path, _ = QFileDialog.getSaveFileName(self, "Export the timetable", suggested, "Calendars (*.ics)")
        if path:
            self.write_calendar(Path(path if path.lower().endswith(".ics") else path + ".ics"))

    def write_calendar(self, path: Path) -> None:
        """Write this job's tasks as a calendar."""
        from orvek.cards.calendar import timetable_ics

        weeks = self._session.plan.weeks
        if weeks is None:
            self._session.said.emit("The timetable is still being worked out.")
            return
        self._session.write_file(path, timetable_ics(weeks, self._session.job.batch.id))

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        right.setSpacing(8)
        self.answer.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self.answer.setFixedHeight(_ANSWER_PX)
        self.answer.setAlignment(Qt.AlignmentFlag.AlignTop)
        # Buttons stand above what grows with a late answer: none of them moves.
        row = QHBoxLayout()
        row.addWidget(heading("The tasks of this job"), 1)
        for button in (self.done, self.free):
            row.addWidget(button)
        left.addLayout(row)
        left.addWidget(self.tasks, 1)
        promised = QHBoxLayout()
        promised.addWidget(quiet_label("Promised for"))
        promised.addWidget(self.promised, 1)
        right.addWidget(self.answer)
        right.addLayout(promised)
        right.addWidget(self.planned["is_open"])
        buttons = QHBoxLayout()
        for button in (self.hours, self.export):
            button.setProperty("kind", "small")
            buttons.addWidget(button)
        right.addLayout(buttons)
        right.addWidget(self._refused)
        reasons = QVBoxLayout(told := QWidget())
        reasons.setContentsMargins(0, 0, 0, 0)
        for label in (self._why, self._ways):
            reasons.addWidget(label)
        reasons.addStretch(1)
        right.addWidget(scrolled(told), 1)  # it comes late and may be long: it moves nothing above it
        above = filled(QWidget(), (self.picture, 1), (self.waiting, 0))
        under_picture(self._whole, above, in_columns((left, 7), (right, 4)), picture_share=ROOMY_SHARE)
        filled(self, (self._nothing, 0), (self._whole, 0))


def _knot(slot: Slot, *, is_next: bool) -> Knot:
    """A task at its time, and what is waited for once it is done."""
    minutes = round((slot.ends - slot.begins).total_seconds() / 60)
    return Knot(
        key=slot.task.key,
        words=slot.task.words,
        amount=f"{minutes} min",
        when=write_moment(slot.begins),
        wait=f"until {write_moment(slot.ready)} {slot.task.wait_words}" if slot.ready > slot.ends else "",
        state="next" if is_next else "open",
        is_pinned=slot.is_pinned,
        tip=slot.why,
    )


def _answer(plan: Plan) -> str:
    weeks, job = plan.weeks, plan.job
    if weeks is None:
        return "Being worked out …"
    if weeks.table.problem:
        return weeks.table.problem
    ready = weeks.table.ready(job.batch.id)
    if ready is None:
        return "All of it is done." if plan.route and not plan.route.open else "It is not planned."
    words = f"Ready {write_moment(ready)}."
    chance = weeks.chance_pct(job.promised) if job.promised else None
    return words if chance is None else f"{words} By the promised day in {chance:.0f} of 100 tries."
