"""Small parts of the bench: the bar of a weighing, keys with what they do, a photo that is kept."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import deeds
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError
from orvek.planning.route.results import Operation
from orvek.window import theme
from orvek.window.session import Session

Deeds = Sequence[tuple[str, Callable[[], object]]]
_PHOTOS = "Photos (*.jpg *.jpeg *.png *.webp *.tif *.tiff *.bmp)"
_MINUTES_TO = 150.0  # more than that is told in hours
_NEAR = 0.02  # of the target: nearer than that the bar is full


class TargetBar(QWidget):
    """How far a weighing is: ink up to the target, red beyond it."""

    def __init__(self) -> None:
        super().__init__()
        self._mass_g, self._target_g = 0.0, 0.0
        self.setFixedHeight(36)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("How much of it is on the scale")

    def show_mass(self, mass_g: float, target_g: float) -> None:
        """Show a mass beside what is wanted."""
        self._mass_g, self._target_g = mass_g, target_g
        self.setAccessibleDescription(f"{mass_g:.2f} of {target_g:.2f} g")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        wide = self.width() * 0.8
        painter.fillRect(QRectF(0, 0, self.width(), self.height()), theme.PANEL)
        part = max(0.0, self._mass_g / self._target_g) if self._target_g > 0 else 0.0
        painter.fillRect(QRectF(0, 0, wide * min(1.0, part), self.height()), theme.ACCENT)
        if part > 1 + _NEAR:
            over = min(0.25, part - 1)
            painter.fillRect(QRectF(wide, 0, wide * over, self.height()), theme.STOP)
        painter.setPen(theme.pen(theme.INK, 3))
        painter.drawLine(int(wide), 0, int(wide), self.height())


class BenchKeys(QWidget):
    """Those that every step needs, and behind the question mark the others."""

    def __init__(self, always: Deeds, seldom: Deeds) -> None:
        super().__init__()
        self._more = QWidget()
        first, more = QHBoxLayout(), QHBoxLayout(self._more)
        for row, deeds_of_row in ((first, always), (more, seldom)):
            for words, deed in deeds_of_row:
                row.addWidget(bench_key(words, deed))
        first.addWidget(bench_key("?  more", self.show_more))
        column = QVBoxLayout(self)
        for row in (first, more):
            row.setContentsMargins(0, 0, 0, 0)
            row.addStretch(1)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(first)
        column.addWidget(self._more)
        self._more.hide()

    def show_more(self) -> None:
        """Show the others, or no longer."""
        self._more.setVisible(not self._more.isVisible())


def bench_key(words: str, deed: Callable[[], object]) -> QPushButton:
    """A key with what it does; a click does it as well, and takes the keyboard from nothing."""
    button = QPushButton(words)
    button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    button.clicked.connect(lambda _checked=False: deed())
    return button


def ask_for_photo(parent: QWidget) -> Path | None:
    """Which photo is of this task; None when the maker thinks better of it."""
    path, _ = QFileDialog.getOpenFileName(parent, "Photo of this task", "", _PHOTOS)
    return Path(path) if path else None


def keep_photo(session: Session, task: Operation, path: Path, when: datetime) -> str:
    """Keep a photo with the job, as one of a task; a sentence that says so, or why it is none."""
    try:
        artwork = artwork_from(path)
    except OrvekError as error:
        return str(error)
    deed = partial(deeds.add_work_photo, artwork=artwork, task=task.key, when=when)
    session.attempt(f"Photo: {artwork.name}", deed)
    return f"{artwork.name} is kept with the job."


def time_left(minutes: float) -> str:
    """How long something still lasts: in minutes, a long time in hours."""
    return f"{minutes:.0f} min" if minutes < _MINUTES_TO else f"{minutes / 60:.0f} h"
