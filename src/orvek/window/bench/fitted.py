"""Words as large as their place allows: read from two metres away, never cut off."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.window import theme
from orvek.window.widgets.label import left_to_right

_SMALLEST, _STEP = 18, 0.88


class Fitted(QWidget):
    """A sentence or a figure in at most `largest` pixels; in fewer where it would not go in."""

    def __init__(self, largest: int, *, wraps: bool, weight: int = 600) -> None:
        super().__init__()
        self._words, self._largest, self._wraps, self._weight = "", largest, wraps, weight
        self._colour = theme.INK
        policy = QSizePolicy.Policy.Expanding
        self.setSizePolicy(policy, policy if wraps else QSizePolicy.Policy.Fixed)

    def text(self) -> str:
        """What stands there."""
        return self._words

    def setText(self, words: str) -> None:
        """Put other words there."""
        if words != self._words:
            self._words = words
            self.setAccessibleName(words)
            self.update()

    def set_colour(self, colour: QColor) -> None:
        """Write in another colour."""
        self._colour = colour
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, round(1.1 * self._largest))

    def minimumSizeHint(self) -> QSize:
        return QSize(200, round((1.0 if self._wraps else 0.6) * self._largest))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(self._colour)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        wrap = Qt.TextFlag.TextWordWrap if self._wraps else Qt.TextFlag.TextSingleLine
        size = self._fitting(int(flags.value) | int(wrap.value))
        painter.setFont(theme.font(size, QFont.Weight(self._weight)))
        painter.drawText(self.rect(), int(flags.value) | int(wrap.value), left_to_right(self._words))

    def _fitting(self, flags: int) -> int:
        size, room = float(self._largest), self.rect()
        while size > _SMALLEST:
            metrics = QFontMetrics(theme.font(round(size), QFont.Weight(self._weight)))
            needed: QRect = metrics.boundingRect(room, flags, self._words)
            if needed.width() <= room.width() and needed.height() <= room.height():
                break
            size *= _STEP
        return round(size)
