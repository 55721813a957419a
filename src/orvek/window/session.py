"""The session: the open workshop, the job in hand, its plan; the one way in which anything changes.

A widget calls `edit` or `do`; the session makes the next job, records it and sends out the new plan. While
something is dragged, `preview` plans without recording; `finish` records the drag as one deed.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

from msgspec.structs import replace
from PySide6.QtCore import Signal

from orvek.documents import FieldPath, Job, Shop, from_text, to_text
from orvek.documents.deeds import another_like, carry_materials, set_value
from orvek.errors import OrvekError
from orvek.files import LARGEST_JOB_BYTES, read_text
from orvek.planning import Ask, Plan, Remedy, apply_remedy, plan
from orvek.planning.glue_up.saw import SawCut
from orvek.planning.timetable.last_known import from_bytes, to_bytes
from orvek.quantities import Units
from orvek.store import JobEntry, WorkshopFile
from orvek.window.answers import Answers
from orvek.window.keeping import Keeping
from orvek.window.last_time import keep, kept
from orvek.window.session_words import free_name

T = TypeVar("T")

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_LOG = logging.getLogger(__name__)


class Session(Keeping):
    """What the window shows and how it changes. Never raises an `OrvekError`: it sends it out as `said`."""

    planned = Signal(object)
    history_changed = Signal()
    jobs_changed = Signal()
    units_changed = Signal()
    station_wanted = Signal(object)  # a button that leads to another station
    shelf_wanted = Signal(str)  # a button that leads to one of the shelves
    shop_changed = Signal()
    log_wanted = Signal()
    cut_chosen = Signal(object)
    leaving = Signal()  # this workshop: what is to be there at once the next time is kept now

    _quick: Plan  # of it, without answers that come later

    def __init__(self, workshop: WorkshopFile) -> None:
        super().__init__(workshop)
        found = workshop.shop_found()
        self.shop: Shop = found.shop
        self.notes: list[str] = [*workshop.notices, *found.unread]
        self._previewed: Job | None = None
        self._shops: list[tuple[str, Shop]] = []  # the deeds on the shelves since the window was opened
        self.cut_in_hand: SawCut | None = None
        self.answers = Answers()
        self.answers.arrived.connect(self._take_answers)
        self.answers.failed.connect(self.said)
        self._begin()
        self.plan: Plan = self._quick
        self._know_last(workshop.path)

    @property
    def units(self) -> Units:
        """How the maker reads quantities."""
        return self.shop.preferences.units

    @property
    def is_previewing(self) -> bool:
        """Whether something is being dragged."""
        return self._previewed is not None

    # -- changing the job ------------------------------------------------------------------------------------

    def edit(self, path: FieldPath, value: Any, deed: str) -> None:
        """Put a value at a path of the job."""
        self.attempt(deed, lambda job: set_value(job, path, value))

    def attempt(self, deed: str, change: Any) -> None:
        """Make the deed `change(job)`; say its sentence where it cannot be done."""
        try:
            self.do(deed, change(self.job))
        except OrvekError as error:
            self.said.emit(str(error))
            self.refresh()

    def do(self, deed: str, job: Job) -> None:
        """Take `job` as the next version of the job in hand."""
        self._previewed = None
        job = carry_materials(job, self.shop.materials)
        if job == self.job:
            self.refresh()
            return
        if not self.workshop.is_writable:
            self.said.emit(self.workshop.why_read_only or "")
            self.refresh()
            return
        planned = self._planned(job)
        if planned is None:
            self.refresh()
            return
        renamed = job.batch.name != self.job.batch.name
        self.job = job
        self._record(job, deed)
        self._show(planned)
        if renamed:
            self.jobs_changed.emit()

    def remedy(self, remedy: Remedy) -> None:
        """Do what a finding's button says."""
        if remedy.ask is Ask.UNDO:
            self.undo()
            return
        if remedy.ask is Ask.SHOW_LOG:
            self.log_wanted.emit()
            return
        self.attempt(remedy.label, lambda job: apply_remedy(job, remedy))

    def preview(self, job: Job) -> None:
        """Show what a drag would make of the job, without recording it."""
        job = carry_materials(job, self.shop.materials)
        planned = self._planned(job) if self.workshop.is_writable else None
        if planned is not None:
            self._previewed = job
            self._take(planned)

    def finish(self, deed: str) -> None:
        """Record what was last previewed, as one deed."""
        if self._previewed is not None:
            self.do(deed, self._previewed)

    def undo(self) -> None:
        """Take the last deed back."""
        if self._pending:
            self._take_back_pending()
        else:
            self._step(self.workshop.undo)

    def redo(self) -> None:
        """Make a deed again that was taken back."""
        self._step(self.workshop.redo)

    def refresh(self) -> None:
        """Plan anew and tell everybody."""
        planned = self._planned(self.job)
        if planned is not None:
            self._show(planned)

    def _planned(self, job: Job) -> Plan | None:
        """The plan of a job; None, with a sentence, where not even a part of it can be made."""
        try:
            return plan(job, self.shop, self._elsewhere())
        except Exception:  # a fault of Orvek's own must not take the maker's job with it
            _LOG.exception("a job could not be planned")
            self.said.emit(
                "Orvek cannot work with that: it was not taken, and your job is as it was. The log says more."
            )
            return None

    def _show(self, planned: Plan) -> None:
        self._take(planned)
        self.history_changed.emit()

    # -- slow answers ------------------------------------------------------------------------------------------

    def begin_forecasts(self, evaluator: Callable[[], Evaluator | None]) -> None:
        """Ask slow questions from now on; `evaluator` reads the field, once it is there."""
        self.answers.begin(evaluator)
        self._take(self._quick)

    def keep_last(self) -> None:
        """Keep what is to be there at once the next time this workshop is opened."""
        weeks, here = self.answers.forecasters["weeks"].answer(), set[str]()
        with contextlib.suppress(OrvekError):  # a file that was lost keeps nobody from leaving
            here = {entry.id for entry in self.jobs()}
        if weeks is not None and {job for job, _ in weeks.names} <= here:
            keep(self.workshop.path, "weeks", to_bytes(weeks))
        if self.workshop.is_writable:
            with contextlib.suppress(OrvekError):
                self.workshop.let_go()
        self.leaving.emit()

    def _know_last(self, path: Path) -> None:
        """The schedule of the last time stands until there is a new one."""
        self.answers.know("weeks", from_bytes(kept(path, "weeks"), self._quick, datetime.now()))

    def _go_on_with(self, workshop: WorkshopFile) -> None:
        self.keep_last()
        self._know_last(workshop.path)
        super()._go_on_with(workshop)

    def want(self, key: str, *, wanted: bool) -> None:
        """Ask a slow question while somebody looks at its answer."""
        if self.answers.want(key, wanted=wanted):
            self._quick = replace(self._quick, others=self._elsewhere())
            self._take(self._quick)

    def _elsewhere(self) -> tuple[Job, ...]:
        """The other jobs that share the maker's hours; none while nobody looks at the timetable."""
        return self.others.of(self.job.batch.id) if self.answers.is_wanted("weeks") else ()

    def choose_cut(self, cut: SawCut | None) -> None:
        """Take a cut of the cut list in hand: it is shown on the strip, and its template can be printed."""
        self.cut_in_hand = cut
        self.cut_chosen.emit(cut)

    def _take(self, planned: Plan) -> None:
        """Show a plan, and ask what it asks."""
        self._quick = planned
        self.answers.ask(planned)
        self._fold()

    def _take_answers(self) -> None:
        """Show an answer that has come; what rests on it is asked again."""
        self.answers.ask_again(self._quick)
        self._fold()

    def _fold(self) -> None:
        """The quick plan with the answers that are there."""
        self.plan = self.answers.folded_into(self._quick)
        self.planned.emit(self.plan)

    # -- jobs ------------------------------------------------------------------------------------------------

    def jobs(self) -> tuple[JobEntry, ...]:
        """All jobs of the workshop."""
        return self.workshop.jobs()

    def open_job(self, job_id: str) -> None:
        """Take another job in hand."""
        if job_id == self.job.batch.id or not self.retry():
            return
        try:
            opened = self.workshop.open_job(job_id, self._can_plan)
            self.job = opened.job
            if self.workshop.is_writable:
                self.workshop.set_last_open(job_id)
            if opened.note:
                self.said.emit(opened.note)
        except OrvekError as error:
            self.said.emit(str(error))
        self.refresh()
        self.jobs_changed.emit()

    def _begin(self) -> None:
        """Take the job in hand that the workshop begins with; where none can be opened, an empty one."""
        opened = self._first_job()
        self.job = opened or Job()
        if opened is None:
            self._quick = plan(self.job, self.shop)
            if self.workshop.is_writable:
                self._record(self.job, "Begin")

    def _first_job(self) -> Job | None:
        """The job that was open last, or the newest one that can be opened; None where there is none."""
        last = self.workshop.last_open()
        for entry in sorted(self.workshop.jobs(), key=lambda entry: entry.id != last):
            try:
                opened = self.workshop.open_job(entry.id, self._can_plan)
            except OrvekError as error:
                self.notes.append(str(error))
                continue
            if opened.note:
                self.notes.append(opened.note)
            return opened.job
        return None

    def _can_plan(self, job: Job) -> bool:
        """Whether a kept job can be planned; the plan is kept, so that it need not be made again."""
        try:
            self._quick = plan(job, self.shop)
        except Exception:  # an older version of it may do
            _LOG.exception("a kept job could not be planned")
            return False
        return True

    def new_job(self) -> None:
        """Begin an empty job, under a name that no other has."""
        job = Job()
        name = free_name(job.batch.name, {entry.name for entry in self.jobs()})
        self.add_job(job.with_(batch=job.batch.with_(name=name)), "New job")

    def copy_job(self) -> None:
        """Begin a job that is like this one."""
        self.add_job(another_like(self.job), f"Duplicate {self.job.batch.name}")

    def add_job(self, job: Job, deed: str) -> None:
        """Record a job that is new here, or another version of one, and take it in hand."""
        if not self.retry():
            return
        planned = self._planned(job)
        if planned is None:
            return
        if self._can(lambda: self.workshop.begin(job, deed)):
            self.job = job
            self._show(planned)
            self.jobs_changed.emit()

    def read_job_file(self, path: Path) -> Job | None:
        """The job that a file holds; None, and a sentence, where it holds none."""
        return self._tried(lambda: from_text(read_text(path, LARGEST_JOB_BYTES), path.name))

    def job_of(self, job_id: str) -> Job | None:
        """A job of this workshop as it is now; None where there is none of this id."""
        if job_id == self.job.batch.id:
            return self.job
        is_here = any(entry.id == job_id for entry in self.jobs())
        return self._tried(lambda: self.workshop.job(job_id)) if is_here else None

    def give_out(self, path: Path) -> None:
        """Write the job in hand to a job file."""
        self.write_file(path, to_text(self.job).encode())

    def remove_job(self) -> None:
        """Take the job in hand out of the workshop, and open the next one."""
        if not self._can(lambda: self.workshop.remove_job(self.job.batch.id)):
            return
        self._pending.clear()
        rest = self.jobs()
        if rest:
            self.job = Job()
            self.open_job(rest[0].id)
        else:
            self.new_job()

    # -- shop ------------------------------------------------------------------------------------------------

    def change_shop(self, deed: str, change: Callable[[Shop], Shop]) -> None:
        """Make a deed on the shelves or preferences; it can be undone while the window is open."""
        before = self.shop
        if self.write_down(change):
            self._shops.append((deed, before))
            self.shop_changed.emit()

    def write_down(self, change: Callable[[Shop], Shop]) -> bool:
        """Make a deed that is not undone but corrected: an entry in the ledger. Whether anything was changed."""
        try:
            after = change(self.shop)
        except OrvekError as error:
            self.said.emit(str(error))
            return False
        return after != self.shop and self._keep_shop(after)

    @property
    def shop_undo(self) -> str | None:
        """The deed on the shelves that `undo_shop` would take back."""
        return self._shops[-1][0] if self._shops else None

    def undo_shop(self) -> None:
        """Take the last deed on the shelves or preferences back; what the ledger holds stays."""
        if self._shops and self._keep_shop(self._shops[-1][1].with_(ledger=self.shop.ledger)):
            self._shops.pop()
            self.shop_changed.emit()

    def _keep_shop(self, shop: Shop) -> bool:
        units = self.units
        if not self._can(lambda: self.workshop.save_shop(shop)):
            return False
        self.shop = shop
        if units != self.units:
            self.units_changed.emit()
        self.refresh()
        return True

    def reload(self) -> None:
        """Read again what another window may have written."""
        try:
            self.shop = self.workshop.shop()
            self._shops.clear()  # what they would take back is not what lies there now
            if self.job.batch.id in {entry.id for entry in self.jobs()}:
                self.job = self.workshop.open_job(self.job.batch.id, self._can_plan).job
            else:
                self._begin()
        except OrvekError as error:
            self.said.emit(str(error))
            return
        self.shop_changed.emit()
        self.units_changed.emit()
        self.refresh()
        self.jobs_changed.emit()

    def _step(self, way: Callable[[str], Job]) -> None:
        if not self.retry():
            return
        self.job = self._tried(lambda: way(self.job.batch.id)) or self.job
        self.refresh()
        self.jobs_changed.emit()

    def _take_back_pending(self) -> None:
        self._pending.pop()
        last = self._pending[-1][0] if self._pending else self._tried(lambda: self.workshop.job(self.job.batch.id))
        self.job = last or self.job
        self.retry()
        self.refresh()
