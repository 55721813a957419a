"""Frames that are laid round a widget from outside: where the keyboard is, and what has just changed.

They move nothing, take no click, and follow what they are round.
"""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, QTimer
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QApplication, QWidget

from orvek.window import theme

_RINGED_MS, _OUTSIDE = 2000, 3
_FOLLOWED = frozenset({QEvent.Type.Move, QEvent.Type.Resize})
_GONE = frozenset({QEvent.Type.Hide, QEvent.Type.DeferredDelete})


class Outline(QWidget):
    """A frame round a widget of this window, as much of it as is in sight."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window = window
        self.around: QWidget | None = None
        self._watched: list[QWidget] = []
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_round(self, widget: QWidget) -> None:
        """Lay it round a widget."""
        self.end()
        self.around = widget
        there: QWidget | None = widget
        while there is not None and there is not self._window:
            self._watched.append(there)
            there.installEventFilter(self)
            there = there.parentWidget()
        self._lay()
        self.show()
        self.raise_()

    def end(self) -> None:
        """Take it away."""
        for one in self._watched:
            one.removeEventFilter(self)
        self._watched, self.around = [], None
        self.hide()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in _FOLLOWED:
            self._lay()
        elif event.type() in _GONE:
            self.end()
        return super().eventFilter(watched, event)

    def _lay(self) -> None:
        if self.around is not None:
            seen = self.around.visibleRegion().boundingRect()
            corner = self.around.mapTo(self._window, QPoint())
            self.setGeometry(seen.translated(corner).adjusted(-_OUTSIDE, -_OUTSIDE, _OUTSIDE, _OUTSIDE))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawRect(self.rect().adjusted(1, 1, -2, -2))


class Ring(Outline):
    """Round what has changed, or is spoken of; for two seconds."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._end = QTimer(self)
        self._end.setSingleShot(True)
        self._end.setInterval(_RINGED_MS)
        self._end.timeout.connect(self.end)

    def show_round(self, widget: QWidget) -> None:
        super().show_round(widget)
        self._end.start()


def focus_stops(parts: Iterable[QWidget]) -> list[QWidget]:
    """What Tab goes through in these parts of a window, in order."""
    # Not by nextInFocusChain: PySide takes what it returns for a child of where it was asked, and forgets the one
    # with the other.
    return [one for part in parts for one in (part, *part.findChildren(QWidget)) if _can_be_stopped_at(one)]


def _can_be_stopped_at(widget: QWidget) -> bool:
    return bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus) and widget.isVisible() and widget.isEnabled()


def follow_focus() -> None:
    """Lay a frame round what has the keyboard from now on; once a program."""
    application = QApplication.instance()
    if isinstance(application, QApplication) and application.findChild(FocusFrames) is None:
        FocusFrames(application)


class FocusFrames(QObject):
    """A frame round what has the keyboard, in whichever window; only after a key has moved it there."""

    def __init__(self, application: QApplication) -> None:
        super().__init__(application)
        self._shown: Outline | None = None
        application.focusChanged.connect(self._follow)

    def _follow(self, _old: QWidget | None, now: QWidget | None) -> None:
        if self._shown is not None:
            self._shown.end()
            self._shown = None
        window = now.window() if now is not None else None
        if now is None or window is None or not window.testAttribute(Qt.WidgetAttribute.WA_KeyboardFocusChange):
            return
        found = window.findChild(Outline, "focus", Qt.FindChildOption.FindDirectChildrenOnly)
        self._shown = found if isinstance(found, Outline) else Outline(window)
        self._shown.setObjectName("focus")
        self._shown.destroyed.connect(self._forget)
        self._shown.show_round(now)

    def _forget(self) -> None:
        self._shown = None
