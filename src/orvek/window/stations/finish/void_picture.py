"""A pit in the wall of its barrel, to scale: how deep it goes, how high the fill stands, and where the brass begins."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.finish.results import VoidsPlan
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_SIDE, _ABOVE, _BELOW = 60, 46, 34


class VoidPicture(QWidget):
    """Lengths and depths at one scale; along the barrel."""

    def __init__(self) -> None:
        super().__init__()
        self._voids: VoidsPlan | None = None
        self._units = Units()
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("A void in the wall")

    def show_voids(self, voids: VoidsPlan | None, units: Units) -> None:
        """Show what is filled; nothing while there is nothing."""
        self._voids, self._units = voids, units
        if voids is not None:
            self.setAccessibleDescription(f"{voids.void.lies}; the wall is {write(voids.wall_mm, Dimension.LENGTH)}")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        voids = self._voids
        if voids is None:
            painter.setPen(theme.QUIET)
            words = "No voids to fill. Type how many there are, or bore pits at Blank."
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, words)
            return
        wall, long = max(voids.wall_mm, 0.3), voids.void.long_mm
        tall = max(wall, voids.void.deep_mm) * 1.25 + 0.4
        scale = min((self.width() - 2 * _SIDE) / (long * 2.2), (self.height() - _ABOVE - _BELOW) / tall)
        top = float(_ABOVE)
        body = QRectF(_SIDE, top, self.width() - 2 * _SIDE, wall * scale)
        painter.fillRect(body, theme.BLANK)
        painter.fillRect(QRectF(body.left(), body.bottom(), body.width(), 0.4 * scale), theme.BRASS)
        middle = body.center().x()
        pit = _pit(middle, top, long * scale, voids.void.deep_mm * scale, is_natural=voids.void.shape == "natural")
        painter.fillPath(pit, theme.PAPER)
        self._paint_fill(painter, voids, pit, top, scale)
        painter.setPen(theme.pen(theme.INK, 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(pit)
        painter.setPen(theme.INK)
        deep = write(voids.void.deep_mm, Dimension.LENGTH, self._units)
        size = f"{write(long, Dimension.LENGTH, self._units)} long, {deep} deep"
        painter.drawText(QRectF(0, 6, self.width(), 16), Qt.AlignmentFlag.AlignCenter, size)
        painter.setPen(theme.QUIET)
        words = f"wall {write(voids.wall_mm, Dimension.LENGTH, self._units, 2)} at its thinnest · brass under it"
        foot = QRectF(0, self.height() - 20, self.width(), 16)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_fill(self, painter: QPainter, voids: VoidsPlan, pit: QPainterPath, top: float, scale: float) -> None:
        """As high as it is filled; over the brim where it stands proud."""
        surface = top + (1 - voids.level) * voids.void.deep_mm * scale
        area = pit.boundingRect()
        painter.save()
        colour = QColor(theme.AMBER)
        colour.setAlpha(150)
        if voids.level <= 1:
            painter.setClipPath(pit)
            painter.fillRect(QRectF(area.left(), surface, area.width(), area.bottom() - surface), colour)
        else:
            painter.fillPath(pit, colour)
            over = QPainterPath(QPointF(area.left(), top))
            over.quadTo(QPointF(area.center().x(), 2 * surface - top), QPointF(area.right(), top))
            painter.fillPath(over, colour)
        painter.restore()


def _pit(middle: float, top: float, long: float, deep: float, *, is_natural: bool) -> QPainterPath:
    """A bowl, or a hole with a flat bottom."""
    path = QPainterPath(QPointF(middle - long / 2, top))
    if is_natural:
        path.cubicTo(
            QPointF(middle - long / 2.4, top + deep * 1.2),
            QPointF(middle + long / 2.4, top + deep * 1.45),
            QPointF(middle + long / 2, top),
        )
    else:
        path.lineTo(middle - long / 2, top + deep)
        path.lineTo(middle + long / 2, top + deep)
        path.lineTo(middle + long / 2, top)
    return path
