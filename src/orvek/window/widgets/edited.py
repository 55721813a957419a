"""Which part of a job a field edits, so that a finding or a change can point at it: `edits`, `field_at`, `Ring`."""

from __future__ import annotations

from typing import TypeVar

from PySide6.QtCore import QEvent, QObject, QPoint, QRect, Qt, QTimer
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QScrollArea, QWidget

from orvek.documents.deeds import Path
from orvek.window import theme

W = TypeVar("W", bound=QWidget)
_PROPERTY, _RINGED_MS, _OUTSIDE = "edits", 2000, 3


def edits(widget: W, *path: str | int) -> W:
    """Say which part of a job a field edits."""
    widget.setProperty(_PROPERTY, _written(path))
    return widget


def edited(widget: QWidget) -> Path:
    """Which part of a job a field edits; an empty path where nobody has said so."""
    kept = str(widget.property(_PROPERTY) or "")
    return tuple(int(piece) if piece.isdigit() else piece for piece in kept.split("/")) if kept else ()


def field_at(root: QWidget, path: Path) -> QWidget | None:
    """The field in sight under `root` that edits `path`, or the whole or a part of what lies there."""
    there = {edited(one): one for one in root.findChildren(QWidget) if one.property(_PROPERTY) and one.isVisible()}
    if path in there:
        return there[path]
    return next((one for own, one in there.items() if own[: len(path)] == path or path[: len(own)] == own), None)


def bring_into_sight(field: QWidget) -> None:
    """Scroll to a field where it is scrolled to."""
    around = field.parentWidget()
    while around is not None:
        if isinstance(around, QScrollArea):
            around.ensureWidgetVisible(field)
        around = around.parentWidget()


def _written(path: Path) -> str:
    return "/".join(map(str, path))


class Ring(QWidget):
    """A frame round a field for two seconds: this is what has changed, or what is spoken of. It does not move."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window = window
        self.field: QWidget | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._end = QTimer(self)
        self._end.setSingleShot(True)
        self._end.setInterval(_RINGED_MS)
        self._end.timeout.connect(self.end)
        self.hide()

    def show_round(self, field: QWidget) -> None:
        """Put it round a field; it follows where the field is laid."""
        self.end()
        self.field = field
        field.installEventFilter(self)
        self._lay()
        self.show()
        self.raise_()
        self._end.start()

    def end(self) -> None:
        """Take it away."""
        if self.field is not None:
            self.field.removeEventFilter(self)
        self.field = None
        self.hide()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in {QEvent.Type.Move, QEvent.Type.Resize}:
            self._lay()
        elif event.type() in {QEvent.Type.Hide, QEvent.Type.DeferredDelete}:
            self.end()
        return super().eventFilter(watched, event)

    def _lay(self) -> None:
        if self.field is not None:
            corner = self.field.mapTo(self._window, QPoint())
            self.setGeometry(QRect(corner, self.field.size()).adjusted(-_OUTSIDE, -_OUTSIDE, _OUTSIDE, _OUTSIDE))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
