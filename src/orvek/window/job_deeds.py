"""What the chooser offers of any job: two side by side, one more like it, a gallery of those that are listed."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QPoint, QThread, Signal
from PySide6.QtWidgets import QFileDialog, QMenu

from orvek.documents import Job, Shop
from orvek.errors import OrvekError
from orvek.planning import Plan, plan
from orvek.planning.records.again import as_done, what_differs
from orvek.window.host import Host
from orvek.window.widgets.choice import add_action
from orvek.window.widgets.searches import Searches

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator


class _LeftError(Exception):
    """Nobody waits for the gallery any more."""


class _Gallery(QThread):
    """Writes a gallery in the background."""

    written = Signal(object)
    failed = Signal(str)

    def __init__(self, folder: Path, title: str, jobs: tuple[Job, ...], shop: Shop, evaluate: Evaluator) -> None:
        super().__init__()
        self._folder, self._title, self._jobs, self._shop, self._evaluate = folder, title, jobs, shop, evaluate

    def run(self) -> None:
        from orvek.cards.gallery import write_gallery

        try:
            page = write_gallery(self._folder, self._title, self._jobs, self._picture, self._told)
        except _LeftError:
            return
        except OrvekError as error:
            self.failed.emit(str(error))
            return
        self.written.emit(page)

    def _told(self, _part: float) -> None:
        if self.isInterruptionRequested():
            raise _LeftError

    def _picture(self, job: Job) -> bytes | None:
        from orvek.cards.picture_file import picture_png

        try:
            return picture_png(plan(job, self._shop), self._evaluate, "turned", 1200)
        except OrvekError:
            return None


class JobDeeds(QObject):
    """Does for a window what its chooser asks; the window says what came of it."""

    def __init__(self, window: Host) -> None:
        super().__init__(window)
        self._window, self._session = window, window.session
        self._writing = Searches()
        chooser = window.rail.chooser
        chooser.jobs.more_wanted.connect(self._show_more)
        chooser.gallery_wanted.connect(self._ask_gallery)

    def menu(self, job_id: str) -> QMenu:
        """What can be done with a job of the list."""
        menu, session = QMenu(self._window), self._session
        if job_id != session.job.batch.id:
            add_action(menu, f"Compare with {session.job.batch.name}…", partial(self.compare, job_id))
        again = add_action(menu, "One more like this", partial(self.one_more, job_id))
        again.setEnabled(session.workshop.is_writable)
        planned = self._planned(job_id)
        differs = what_differs(planned) if planned is not None else ()
        again.setToolTip(f"It takes from the work: {'; '.join(differs)}." if differs else "")
        menu.setToolTipsVisible(True)
        return menu

    def compare(self, job_id: str) -> None:
        """Show a job beside the one in hand."""
        from orvek.window.compare_sheet import CompareSheet

        other = self._planned(job_id)
        if other is not None:
            CompareSheet(self._window, self._session.plan, other).exec()

    def one_more(self, job_id: str) -> None:
        """Begin a job like it: as it was really done."""
        planned = self._planned(job_id)
        if planned is not None:
            self._session.add_job(as_done(planned), f"One more like {planned.job.batch.name}")

    def write_gallery(self, folder: Path, ids: tuple[str, ...]) -> None:
        """Write jobs as a gallery into a folder, in the background."""
        evaluate = self._window.surface.evaluator()
        if evaluate is None:
            self._session.said.emit("Pictures cannot be made yet; try again in a moment.")
            return
        found = (self._session.job_of(one) for one in ids)
        jobs = tuple(job for job in found if job is not None and job.pen is not None)
        self._writing.ask_anew()
        writer = _Gallery(folder, "Pens", jobs, self._session.shop, evaluate)
        writer.written.connect(self._say_written)
        writer.failed.connect(self._session.said)
        self._writing.begin(writer)
        self._session.said.emit("The gallery is being written…")

    def is_busy(self) -> bool:
        """Whether a gallery is still being written."""
        return self._writing.is_busy()

    def end(self) -> None:
        """Give up what is still being written."""
        self._writing.end()

    def _planned(self, job_id: str) -> Plan | None:
        session = self._session
        if job_id == session.job.batch.id:
            return session.plan
        job = session.job_of(job_id)
        return plan(job, session.shop) if job is not None else None

    def _show_more(self, job_id: str, place: QPoint) -> None:
        if self.menu(job_id).exec(place) is not None:
            self._window.rail.chooser.accept()

    def _ask_gallery(self, ids: tuple[str, ...]) -> None:
        folder = QFileDialog.getExistingDirectory(self._window, "A folder for the gallery")
        if folder:
            self.write_gallery(Path(folder), ids)

    def _say_written(self, page: Path) -> None:
        self._session.said.emit(f"Wrote {page}")
        self._session.written.emit(page)
