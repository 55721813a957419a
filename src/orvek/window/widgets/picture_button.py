"""A choice shown as a small turned picture with a line of words: nobody has to choose by a number alone."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QPushButton, QSizePolicy

from orvek.documents import Material, Step
from orvek.window import theme
from orvek.window.surface import image_of
from orvek.workpiece.outline import SEEN_FROM_DEG, TurnedBarrel, outline_mm

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

PICTURE_WIDE = 520
_TALL, _ROWS, _LEAST_WIDE = 44, 240, 200


class PictureButton(QPushButton):
    """One choice. `subject` is whatever it stands for; the picture is made smaller where the button is no wider."""

    def __init__(self, picture: QImage, title: str, line: str, wide_px: int = PICTURE_WIDE) -> None:
        super().__init__()
        self._wide_px = wide_px
        self.subject: object = None
        self._picture, self._title, self._line = picture, title, line
        self.setAccessibleName(title)
        self.setAccessibleDescription(line)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def _is_long(self) -> bool:
        """Whether title and line need a row each."""
        metrics = QFontMetrics(theme.font(theme.SMALL))
        return metrics.horizontalAdvance(self._title) + metrics.horizontalAdvance(self._line) > self._wide_px - 16

    def sizeHint(self) -> QSize:
        return QSize(self._wide_px + 24, _TALL + (50 if self._is_long() else 32))

    def minimumSizeHint(self) -> QSize:
        return QSize(min(_LEAST_WIDE, self._wide_px), self.sizeHint().height())

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.underMouse() or self.hasFocus():
            painter.fillRect(self.rect(), theme.PANEL)
            painter.fillRect(QRectF(0, 0, 4, self.height()), theme.ACCENT)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        scale = min(1.0, (self.width() - 24) / self._picture.width())
        wide, tall = self._picture.width() * scale, self._picture.height() * scale
        painter.drawImage(QRectF(12, 4 + (_TALL - tall) / 2, wide, tall), self._picture)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.INK)
        words = QRectF(12, _TALL + 8, self.width() - 24, 18)
        painter.drawText(words, Qt.AlignmentFlag.AlignLeft, self._title)
        painter.setPen(theme.QUIET)
        if self._is_long():
            text = painter.fontMetrics().elidedText(self._line, Qt.TextElideMode.ElideRight, int(words.width()))
            painter.drawText(words.translated(0, 18), Qt.AlignmentFlag.AlignLeft, text)
        else:
            painter.drawText(words, Qt.AlignmentFlag.AlignRight, self._line)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


def turned_picture(
    evaluate: Evaluator,
    steps: tuple[Step, ...],
    size: tuple[float, float, float, bool],
    barrels: tuple[TurnedBarrel, ...],
    own: tuple[Material, ...] = (),
    between_mm: tuple[float, float] | None = None,
) -> QImage:
    """These barrels turned from the bar that these steps make, where they lie on it; of a part of it, from and to."""
    import numpy as np

    from orvek.workpiece.compiling import compiled
    from orvek.workpiece.pictures import turned, turning, unrolled

    program = compiled(steps, *size, own)
    first, last = between_mm or (0.0, program.length_mm)
    long = last - first
    z = first + (np.arange(PICTURE_WIDE, dtype=np.float32) + 0.5) * np.float32(long / PICTURE_WIDE)
    hole = min(barrel.hole_mm for barrel in barrels) / 2
    pixels = unrolled(evaluate, program, z, outline_mm(z, barrels, 4.0), _ROWS, hole).copy()
    for barrel in barrels:
        ends = (round((end - first) / long * PICTURE_WIDE) for end in (barrel.start_mm, barrel.end_mm))
        columns = slice(*(max(0, end) for end in ends))
        pixels[:, columns] = np.roll(pixels[:, columns], -round(barrel.turned_deg / 360 * _ROWS), axis=0)
    scale = min(PICTURE_WIDE / long, _TALL / max(barrel.widest_mm for barrel in barrels))
    radius = outline_mm(z, barrels, 0.0) * np.float32(scale)
    return image_of(turned(pixels, turning(radius, _TALL, theme.rgb(theme.PAPER)), SEEN_FROM_DEG))
