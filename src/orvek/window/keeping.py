"""The workshop file that is open: what is written, what could not be yet, a file that was lost, backups, another file.

`Keeping` is the part of the session that knows of files; the session says what is to be read anew (`reload`).
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from PySide6.QtCore import QObject, Signal

from orvek.documents import Job, Shop
from orvek.errors import CannotWriteError, OrvekError, WorkshopReplacedError
from orvek.files import write_atomically
from orvek.store import WorkshopFile, open_workshop, saved_elsewhere, take_over
from orvek.window.other_jobs import OtherJobs
from orvek.window.session_words import lost_words, unsaved_words

T = TypeVar("T")


class Keeping(QObject):
    """Keeps what was done. Never raises an `OrvekError`: it sends it out as `said`."""

    said = Signal(str)
    written = Signal(object)  # the path of a file that was written
    unsaved_changed = Signal(str)
    access_changed = Signal()  # reading became writing

    job: Job  # in hand
    shop: Shop

    def __init__(self, workshop: WorkshopFile) -> None:
        super().__init__()
        self.workshop, self.others = workshop, OtherJobs(workshop)
        self._pending: list[tuple[Job, str]] = []
        self._lost = ""
        self._in_hand_before: dict[Path, str] = {}  # the job in hand, by the backup of before a restore

    def open_job(self, job_id: str) -> None:
        """Take another job of the workshop in hand."""
        raise NotImplementedError

    def reload(self) -> None:
        """Read again what the workshop holds now."""
        raise NotImplementedError

    @property
    def unsaved(self) -> int:
        """How many deeds could not be written yet."""
        return len(self._pending)

    def write_file(self, path: Path, content: bytes) -> bool:
        """Write a file whole or not at all, and say how it went."""
        if not self._can(lambda: write_atomically(path, content)):
            return False
        self.said.emit(f"Wrote {path}")
        self.written.emit(path)
        return True

    def retry(self) -> bool:
        """Write what could not be written before. Returns whether everything is kept now."""
        while self._pending:
            job, deed = self._pending[0]
            try:
                self.workshop.record(job, deed)
            except WorkshopReplacedError as error:
                self._lose_file(error)
                return False
            except CannotWriteError as error:
                self.unsaved_changed.emit(unsaved_words(len(self._pending), error))
                return False
            self._pending.pop(0)
        self.unsaved_changed.emit(self._lost)
        return not self._lost

    @property
    def file_is_lost(self) -> bool:
        """Whether the workshop file was deleted or replaced while it was open here."""
        return bool(self._lost)

    def look_at_file(self) -> None:
        """Notice that the workshop file was deleted or replaced."""
        if not self._lost and self.workshop.is_writable:
            try:
                self.workshop.check_file()
            except WorkshopReplacedError as error:
                self._lose_file(error)

    def _lose_file(self, error: WorkshopReplacedError) -> None:
        self._lost = lost_words(self.workshop.path, error)
        self.unsaved_changed.emit(self._lost)

    def save_under(self, path: Path) -> None:
        """Keep everything that this window has in a new workshop file, and go on with that one."""
        try:
            workshop = saved_elsewhere(self.workshop, path)
            workshop.save_shop(self.shop)
            for job, deed in self._pending or [(self.job, "Keep what was in the window")]:
                if job.batch.id not in {e.id for e in workshop.jobs()} or workshop.job(job.batch.id) != job:
                    workshop.record(job, deed)
        except OrvekError as error:
            self.said.emit(str(error))
            return
        self._pending, self._lost = [], ""
        self._go_on_with(workshop)
        self.said.emit(f"Everything is kept in {path} now, and this window goes on with it.")

    def open_workshop(self, path: Path) -> bool:
        """Go on with another workshop file; one that is not there yet is begun. Whether that came about."""
        if not self.retry() or path.resolve() == self.workshop.path.resolve():
            return False
        workshop = self._tried(lambda: open_workshop(path))
        if workshop is None:
            return False
        self._go_on_with(workshop)
        self.said.emit(f"This is the workshop {path} now. The next start opens your usual one.")
        return True

    def take_over(self) -> bool:
        """Write from now on where another window had the workshop and is gone; whether that came about."""
        try:
            workshop = take_over(self.workshop)
        except OrvekError:
            workshop = None
        if workshop is None:
            return False
        self._go_on_with(workshop)
        self.said.emit("The other window is gone: what you change here is kept now.")
        return True

    def restore(self, backup: Path) -> Path | None:
        """Put a backup in the place of the workshop.

        Returns:
            A backup of what was there, by which this can be undone; None where nothing was restored.
        """
        if not self.retry():
            return None
        in_hand = self.job.batch.id
        before = self._tried(lambda: self.workshop.restore(backup))
        if before is not None:
            self.reload()
            wanted = self._in_hand_before.pop(backup, None)
            if wanted is not None and wanted != self.job.batch.id:
                self.open_job(wanted)
            self._in_hand_before[before] = in_hand
        return before

    def _go_on_with(self, workshop: WorkshopFile) -> None:
        self.workshop.close()
        self.workshop, self.others = workshop, OtherJobs(workshop)
        self.others.warm()
        self.unsaved_changed.emit("")
        self.access_changed.emit()
        self.reload()

    def _can(self, deed: Callable[[], object]) -> bool:
        """Do it; where it cannot be done its sentence is said. Whether it was done."""
        return self._tried(lambda: (deed(),)) is not None

    def _tried(self, deed: Callable[[], T]) -> T | None:
        """What it gives; where it cannot be done its sentence is said, and None."""
        try:
            return deed()
        except OrvekError as error:
            self.said.emit(str(error))
            return None

    def _record(self, job: Job, deed: str) -> None:
        self._pending.append((job, deed))
        self.retry()
