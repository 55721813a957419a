"""All jobs: found again by word, colour, wood, pen, cause or date; two side by side; one more like this; a gallery."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from PySide6.QtCore import QSize, Qt, QThread, Signal
from PySide6.QtGui import QHideEvent, QIcon, QPixmap
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import Job, Shop
from orvek.errors import OrvekError
from orvek.planning import Plan, plan
from orvek.planning.history import kind_of_work
from orvek.planning.records.again import as_done, what_differs
from orvek.planning.records.search import found
from orvek.planning.records.side_by_side import COMPARED, beside
from orvek.store import JobEntry
from orvek.window.job_looks import JobLooks
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.searches import Searches
from orvek.window.widgets.tables import fill_table, plain_table
from orvek.workpiece.field import Evaluator

_PICTURE = QSize(96, 14)
_ID = Qt.ItemDataRole.UserRole


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


class _LeftError(Exception):
    """Nobody waits for the gallery any more."""


class JobsPage(QWidget):
    """The list at the left, what is chosen of it at the right: one job, or two side by side."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface, self._jobs = session, surface, dict[str, Job]()
        self._searches, self._entries, self._rows = Searches(), dict[str, JobEntry](), dict[str, int]()
        self._looks = JobLooks(session, surface)
        self._looks.made.connect(self._dress)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Word, colour, wood, pen, customer, cause, month")
        self.search.setAccessibleName("Find a job again")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._fill())
        self.list = QListWidget()
        self.list.setAccessibleName("All jobs")
        self.list.setIconSize(_PICTURE)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.list.itemSelectionChanged.connect(self._show_chosen)
        self.list.itemActivated.connect(lambda item: session.open_job(item.data(_ID)))
        self._count, self._differs = quiet_label(""), quiet_label("")
        self._differs.setWordWrap(True)
        self.table = plain_table("Jobs side by side", ("", "", ""))
        self.open, self.again, self.gallery = (
            QPushButton("Open"), QPushButton("One more like this"), QPushButton("Gallery…"),
        )  # fmt: skip
        self.open.clicked.connect(self._open)
        self.again.clicked.connect(self.one_more)
        self.gallery.clicked.connect(self._ask_gallery)
        left, right, row, whole = QVBoxLayout(), QVBoxLayout(), QHBoxLayout(), QHBoxLayout(self)
        for widget in (self.search, self._count, self.list):
            left.addWidget(widget)
        for button in (self.open, self.again):
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.gallery)
        right.addWidget(heading("One job, or two side by side (Ctrl and click)"))
        right.addWidget(self.table, 1)
        right.addWidget(self._differs)
        right.addLayout(row)
        whole.setContentsMargins(24, 8, 24, 8)
        whole.setSpacing(24)
        whole.addLayout(left, 5)
        whole.addLayout(right, 7)

    def show_plan(self, plan: Plan) -> None:
        """Show the jobs of the workshop as they are now."""
        others = self._session.others.of(plan.job.batch.id)
        self._jobs = {job.batch.id: job for job in (plan.job, *others)}
        self._fill()

    def leave(self) -> None:
        """Nobody looks any more: a gallery that is still being written ends, and that is said."""
        if self._searches.is_busy():
            self._searches.end()
            self._session.said.emit("The gallery is not finished: stay at this page until it is written.")

    def hideEvent(self, event: QHideEvent) -> None:
        self.leave()
        super().hideEvent(event)

    def is_busy(self) -> bool:
        """Whether pictures or a gallery are still being made."""
        return self._looks.is_busy() or self._searches.is_busy()

    def chosen(self) -> tuple[Job, ...]:
        """The jobs that are chosen in the list."""
        ids = [item.data(_ID) for item in self.list.selectedItems()]
        return tuple(self._jobs[one] for one in ids if one in self._jobs)

    def choose(self, *ids: str) -> None:
        """Choose these jobs in the list."""
        for row in range(self.list.count()):
            item = self.list.item(row)
            item.setSelected(item.data(_ID) in ids)

    def one_more(self) -> None:
        """Begin a job like the one that is chosen: as it was really done."""
        jobs = self.chosen()
        if jobs:
            try:
                whole = self._session.workshop.job(jobs[0].batch.id)
                self._session.add_job(as_done(plan(whole, self._session.shop)), f"One more like {whole.batch.name}")
            except OrvekError as error:
                self._session.said.emit(str(error))

    def write_gallery(self, folder: Path) -> None:
        """Write those that are chosen, or all that are listed, as a gallery into a folder, in the background."""
        evaluate = self._surface.evaluator()
        if evaluate is None:
            self._session.said.emit("Pictures cannot be made yet; try again in a moment.")
            return
        listed = [self.list.item(row).data(_ID) for row in range(self.list.count())]
        wanted = [job.batch.id for job in self.chosen()] or listed
        try:
            jobs = tuple(self._session.workshop.job(one) for one in wanted)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._searches.ask_anew()
        writer = _Gallery(folder, "Pens", tuple(job for job in jobs if job.pen), self._session.shop, evaluate)
        writer.written.connect(self._say_written)
        writer.failed.connect(self._session.said)
        self._searches.begin(writer)
        self._session.said.emit("The gallery is being written…")

    def _say_written(self, page: Path) -> None:
        self._session.said.emit(f"Wrote {page}")
        self._session.written.emit(page)

    def _fill(self) -> None:
        kept = {job.batch.id for job in self.chosen()}
        jobs = found(tuple(self._jobs.values()), self._session.shop.ledger, self.search.text())
        self._count.setText(f"{len(jobs)} of {len(self._jobs)} jobs")
        self.list.blockSignals(True)
        self.list.clear()
        for job in jobs:
            pen = job.pen.name if job.pen is not None else "no pen yet"
            item = QListWidgetItem(f"{job.batch.name}\n{kind_of_work(job)} · {pen}")
            item.setData(_ID, job.batch.id)
            self.list.addItem(item)
            item.setSelected(job.batch.id in kept)
        if not self.list.selectedItems() and self.list.count():
            self.list.item(0).setSelected(True)
        self.list.blockSignals(False)
        self._entries = {entry.id: entry for entry in self._session.jobs() if entry.id in self._jobs}
        self._rows = {job.batch.id: row for row, job in enumerate(jobs)}
        for job in jobs:
            self._dress(job.batch.id)
        self._looks.want(tuple(self._entries.values()))
        self._show_chosen()

    def _dress(self, job_id: str) -> None:
        entry, row = self._entries.get(job_id), self._rows.get(job_id)
        look = self._looks.look(entry) if entry is not None else None
        if row is not None and look is not None and look.picture is not None:
            pixmap = QPixmap.fromImage(look.picture)
            icon = QIcon(pixmap)
            icon.addPixmap(pixmap, QIcon.Mode.Selected)
            self.list.item(row).setIcon(icon)

    def _show_chosen(self) -> None:
        jobs = self.chosen()[:2]
        shop = self._session.shop
        plans = [self._session.plan if job is self._session.job else plan(job, shop) for job in jobs]
        self.table.setHorizontalHeaderLabels(["", *(job.batch.name for job in jobs), *[""] * (2 - len(jobs))])
        columns = [beside(one, date.today()) for one in plans]
        fill_table(self.table, [(words, *(column[n] for column in columns)) for n, words in enumerate(COMPARED)])
        differs = what_differs(plans[0]) if len(plans) == 1 else ()
        told = f"One more like this takes from the work: {'; '.join(differs)}." if differs else ""
        self._differs.setText(told)
        self.open.setEnabled(len(jobs) == 1)
        self.again.setEnabled(len(jobs) == 1 and self._session.workshop.is_writable)

    def _open(self) -> None:
        for job in self.chosen()[:1]:
            self._session.open_job(job.batch.id)

    def _ask_gallery(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "A folder for the gallery")
        if folder:
            self.write_gallery(Path(folder))
