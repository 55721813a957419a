"""The barrels in outline: finished, and as the tool leaves them; what was measured stands at its place."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.finish.results import FinishPlan, SizePlan
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_SIDE, _ABOVE, _BELOW, _GAP_MM = 40, 52, 30, 10.0


class SizePicture(QWidget):
    """Lengths to scale; what is still to come off is drawn twenty times as thick, to be seen at all."""

    _TIMES = 20.0

    def __init__(self) -> None:
        super().__init__()
        self._finish: FinishPlan | None = None
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Down to which size")

    def show_finish(self, finish: FinishPlan, units: Units) -> None:
        """Show a plan's sizes."""
        self._finish, self._units = finish, units
        told = (
            f"{size.barrel.name}: {', '.join(figure.written(units) for figure in size.tool_mm)}"
            for size in finish.sizes
        )
        self.setAccessibleDescription("; ".join(told))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        finish = self._finish
        if finish is None or not finish.sizes:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        long = sum(size.barrel.tube_length_mm for size in finish.sizes) + _GAP_MM * (len(finish.sizes) - 1)
        wide = max(size.barrel.widest_mm for size in finish.sizes) + 4
        scale = min((self.width() - 2 * _SIDE) / long, (self.height() - _ABOVE - _BELOW) / wide)
        x = (self.width() - long * scale) / 2
        for size in finish.sizes:
            self._paint_barrel(painter, size, x, scale)
            x += (size.barrel.tube_length_mm + _GAP_MM) * scale
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font(theme.SMALL))
        foot = QRectF(0, self.height() - 18, self.width(), 16)
        words = "filled: finished · line: where the tool stops, its difference drawn twenty times as thick"
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_barrel(self, painter: QPainter, size: SizePlan, x: float, scale: float) -> None:
        axis = _ABOVE + (self.height() - _ABOVE - _BELOW) / 2
        wide = size.barrel.tube_length_mm * scale
        profile = [(x + at * wide, diameter / 2 * scale) for at, diameter in size.barrel.profile]
        over, under = ([QPointF(px, axis - side * half) for px, half in profile] for side in (1, -1))
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.MOULD)
        painter.drawPolygon(QPolygonF([*over, *reversed(under)]))
        more = [tool.value - done.value for tool, done in zip(size.tool_mm, size.finished_mm, strict=True)]
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.ACCENT, 1.6))
        places = (x, x + wide / 2, x + wide)
        halves = [figure.value / 2 for figure in size.finished_mm]
        for side in (1, -1):
            line = [
                QPointF(px, axis - side * (half + by / 2 * self._TIMES) * scale)
                for px, half, by in zip(places, halves, more, strict=True)
            ]
            painter.drawPolyline(line)
        painter.setFont(theme.bold(theme.SMALL))
        painter.setPen(theme.INK)
        top = axis - (max(halves) + max(0.0, *more) / 2 * self._TIMES) * scale
        painter.drawText(QRectF(x, top - 44, wide, 16), Qt.AlignmentFlag.AlignCenter, size.barrel.name)
        sides = (Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignHCenter, Qt.AlignmentFlag.AlignRight)
        for px, figure, side_flag in zip((x, x + wide / 2 - 45, x + wide - 90), size.tool_mm, sides, strict=True):
            words = write(figure.value, Dimension.LENGTH, self._units, 2)
            painter.drawText(QRectF(px, top - 24, 90, 16), side_flag, words)
