"""The chooser: every job of the workshop with its picture, found by typing, and a new one."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from orvek.window.job_list import ROW, JobList
from orvek.window.job_looks import JobLooks

_WIDE, _LEAST, _MOST = 440, 240, 560  # pixels
_BESIDE = 110  # of its height for all but the jobs


class JobChooser(QDialog):
    """Opens beside the job's name and closes with a choice, Escape, or a click elsewhere."""

    new_job_wanted = Signal()
    gallery_wanted = Signal(object)  # of these jobs, by their ids

    def __init__(self, parent: QWidget, looks: JobLooks) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setWindowTitle("Choose a job")
        self.jobs = JobList(looks)
        self.new = QPushButton("New job")
        self.new.clicked.connect(self.new_job_wanted)
        self.new.clicked.connect(self.accept)
        self.jobs.chosen.connect(lambda _: self.accept())
        self.gallery = QPushButton("Gallery of these…")
        self.gallery.clicked.connect(self.accept)
        self.gallery.clicked.connect(lambda: self.gallery_wanted.emit(self.jobs.listed()))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(12)
        column.addWidget(self.jobs, 1)
        row = QHBoxLayout()
        row.addWidget(self.new)
        row.addStretch(1)
        row.addWidget(self.gallery)
        column.addLayout(row)

    def open_at(self, place: QPoint) -> None:
        """Show it with its upper left corner there, as far as the screen has room."""
        self.jobs.fill()  # waits have ended since it was open
        free = self.screen().availableGeometry()
        wanted = _BESIDE + ROW * self.jobs.list.count()
        self.resize(_WIDE, min(max(_LEAST, wanted), _MOST, free.height()))
        self.move(place.x(), max(free.top(), min(place.y(), free.bottom() - self.height())))
        self.show()
        self.jobs.take_focus()
