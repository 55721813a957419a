"""Photos of the work and of the finished pen, kept with the job: a row of small pictures; one is opened large."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from orvek.documents import Job, WorkPhoto, deeds
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError
from orvek.quantities import write_moment
from orvek.window.photos.reading import PHOTOS
from orvek.window.session import Session
from orvek.window.surface import image_of
from orvek.window.widgets.image_label import ImageLabel
from orvek.window.widgets.layouts import clear

if TYPE_CHECKING:
    from orvek.workpiece.pictures import Pixels

_SMALL = QSize(84, 56)


class WorkPhotos(QWidget):
    """The photos of the job in hand; `task` is what new ones are of."""

    def __init__(self, session: Session, task: str) -> None:
        super().__init__()
        self._session, self._task = session, task
        self._shown: tuple[WorkPhoto, ...] | None = None
        self._row = QHBoxLayout()
        self._row.setSpacing(6)
        self.add = QPushButton("Add a photo…")
        self.add.setProperty("kind", "small")
        self.add.clicked.connect(self._ask)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addLayout(self._row)
        row.addWidget(self.add)
        row.addStretch(1)

    def take_for(self, task: str) -> None:
        """New photos are of this from now on."""
        self._task = task

    def show_job(self, job: Job) -> None:
        """Show the photos of a job."""
        self.add.setEnabled(self._session.workshop.is_writable)
        if job.work.photos == self._shown:
            return
        self._shown = job.work.photos
        clear(self._row)
        for number, photo in enumerate(job.work.photos):
            button = QPushButton()
            button.setProperty("kind", "place")
            button.setIcon(QIcon(_pixmap(photo)))
            button.setIconSize(_SMALL)
            button.setAccessibleName(f"Photo {number + 1}: {photo.artwork.name}")
            button.setToolTip(f"{photo.artwork.name}, {write_moment(photo.when)}{_of(photo)}")
            button.clicked.connect(partial(self.open, number))
            self._row.addWidget(button)

    def take(self, paths: list[Path]) -> None:
        """Keep photo files with the job; one that is none is said, the others are kept."""
        for path in paths:
            try:
                artwork = artwork_from(path)
            except OrvekError as error:
                self._session.said.emit(str(error))
                continue
            now = datetime.now().replace(microsecond=0)
            self._session.attempt(
                f"Photo: {artwork.name}", partial(deeds.add_work_photo, artwork=artwork, task=self._task, when=now)
            )

    def open(self, number: int, _checked: bool = False) -> None:
        """Show one photo large; it can be taken away there."""
        photo = self._session.job.work.photos[number]
        sheet = QDialog(self)
        sheet.setWindowTitle(photo.artwork.name)
        sheet.resize(820, 640)
        picture = ImageLabel(photo.artwork.name)
        dots = _dots(photo)
        picture.show_image(image_of(dots) if dots is not None else None)
        ends = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        remove = ends.addButton("Remove this photo", QDialogButtonBox.ButtonRole.DestructiveRole)
        remove.clicked.connect(lambda: self._remove(sheet, number))
        ends.rejected.connect(sheet.reject)
        column = QVBoxLayout(sheet)
        column.addWidget(picture, 1)
        column.addWidget(ends)
        sheet.exec()

    def _remove(self, sheet: QDialog, number: int) -> None:
        sheet.accept()
        self._session.attempt("Remove a photo", partial(deeds.remove_work_photo, index=number))

    def _ask(self) -> None:
        paths, _ = QFileDialog.getOpenFileNames(self, "Photos", "", PHOTOS)
        self.take([Path(path) for path in paths])


def _of(photo: WorkPhoto) -> str:
    return f", {photo.task}" if photo.task.startswith("blank ") else ""


def _dots(photo: WorkPhoto) -> Pixels | None:
    from orvek.workpiece.photo import upright

    return upright(photo.artwork)


def _pixmap(photo: WorkPhoto) -> QPixmap:
    dots = _dots(photo)
    if dots is None:
        return QPixmap(_SMALL)
    whole = QPixmap.fromImage(image_of(dots))
    return whole.scaled(_SMALL, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
