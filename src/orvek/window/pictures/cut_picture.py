"""One cut to scale: fence, stop, blade and bar seen from above, or from the end where the blade is tilted."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.glue_up.saw import SawCut
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_FENCE = 14


class CutPicture(QWidget):
    """The saw set for one cut."""

    def __init__(self) -> None:
        super().__init__()
        self._cut: SawCut | None = None
        self._units = Units()
        self.setMinimumSize(360, 200)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The saw set for this cut")

    def show_cut(self, cut: SawCut | None, units: Units) -> None:
        """Show how a cut is set."""
        self._cut, self._units = cut, units
        self.setAccessibleDescription(cut.title if cut else "")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._cut is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        if self._cut.set_by == "tilt":
            self._paint_end(painter, self._cut)
        else:
            self._paint_above(painter, self._cut)

    # -- from above --------------------------------------------------------------------------------------------

    def _paint_above(self, painter: QPainter, cut: SawCut) -> None:
        """The fence lies at the bottom, the bar against it, its left end at the stop."""
        scale = min((self.width() - 96) / cut.length_mm, (self.height() - 110) / cut.across_mm, 9.0)
        left = (self.width() - cut.length_mm * scale) / 2 + 8
        fence = self.height() / 2 + cut.across_mm * scale / 2 + 8
        bar = QRectF(left, fence - cut.across_mm * scale, cut.length_mm * scale, cut.across_mm * scale)
        painter.fillRect(bar, theme.BLANK)
        painter.setPen(theme.pen(theme.INK, 1.2))
        painter.drawRect(bar)
        rail = QRectF(left - 24, fence, bar.width() + 48, _FENCE)
        painter.fillRect(rail, theme.MOULD)
        painter.drawRect(rail)
        painter.setPen(theme.QUIET)
        painter.drawText(rail.adjusted(6, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, "fence")
        if cut.fence_mm is not None:
            self._paint_rip(painter, cut, bar, scale)
        elif cut.radius_mm is not None:
            self._paint_arc(painter, cut, bar, scale)
        elif cut.stop_mm is not None:
            self._paint_across(painter, cut, bar, scale)
        else:
            painter.drawText(bar, Qt.AlignmentFlag.AlignCenter, "turned on the lathe, or planed")
        painter.setPen(theme.QUIET)
        words = f"from above · face {cut.face_down} down, face {cut.face_fence} against the fence"
        painter.drawText(QRectF(0, self.height() - 20, self.width(), 18), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_stop(self, painter: QPainter, bar: QRectF) -> None:
        block = QRectF(bar.left() - 16, bar.bottom() - min(26.0, bar.height()), 16, min(26.0, bar.height()))
        painter.fillRect(block, theme.ACCENT)
        painter.setPen(theme.QUIET)
        painter.drawText(QRectF(block.left() - 30, block.top() - 18, 46, 16), Qt.AlignmentFlag.AlignRight, "stop")

    def _paint_across(self, painter: QPainter, cut: SawCut, bar: QRectF, scale: float) -> None:
        """The blade crosses the bar; the fence face is the one that the cut leaves last."""
        self._paint_stop(painter, bar)
        slope = 1 / math.tan(math.radians(cut.angle_deg)) if cut.angle_deg < 90 else 0.0
        wide = cut.kerf_mm / math.sin(math.radians(cut.angle_deg)) * scale
        stop = (cut.stop_mm or 0.0) * scale
        low = QPointF(bar.left() + stop, bar.bottom())
        high = QPointF(low.x() - slope * bar.height(), bar.top())
        kerf = QPolygonF([low, high, high + QPointF(wide, 0), low + QPointF(wide, 0)])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.PANEL)
        painter.drawPolygon(kerf)
        painter.setBrush(theme.hatching())
        painter.drawPolygon(kerf)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.ACCENT, 1.4))
        beyond = QPointF(slope * 24, 24)
        painter.drawLine(low + QPointF(0, 0), high - QPointF(beyond.x(), beyond.y()))
        for n in range(1, cut.count if cut.count > 1 else 1):
            step = QPointF(n * (stop + wide), 0)
            if low.x() + step.x() < bar.right():
                painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DotLine))
                painter.drawLine(low + step, high + step)
        self._paint_length(painter, bar.left(), low.x(), bar.bottom() + _FENCE + 16, cut.stop_mm or 0.0)
        self._paint_angle(painter, cut, high, slope)

    def _paint_angle(self, painter: QPainter, cut: SawCut, at: QPointF, slope: float) -> None:
        """Between square and the blade, above the bar."""
        foot = at - QPointF(slope * 24, 24)
        painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashLine))
        painter.drawLine(at, at - QPointF(0, 34))
        words = write(cut.set_deg, Dimension.ANGLE, self._units)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold())
        x = max(4.0, min(self.width() - 150.0, at.x() + 8))
        painter.drawText(
            QRectF(x, max(0.0, foot.y() - 26), 160, 20), Qt.AlignmentFlag.AlignLeft, f"{words} from square"
        )
        painter.setFont(theme.font(theme.SMALL))

    def _paint_length(self, painter: QPainter, x0: float, x1: float, y: float, mm: float) -> None:
        painter.setPen(theme.pen(theme.INK, 1))
        painter.drawLine(QPointF(x0, y), QPointF(x1, y))
        for x in (x0, x1):
            painter.drawLine(QPointF(x, y - 5), QPointF(x, y + 5))
        painter.setFont(theme.bold())
        words = write(mm, Dimension.LENGTH, self._units)
        painter.drawText(QRectF(x0, y + 2, max(90.0, x1 - x0), 20), Qt.AlignmentFlag.AlignLeft, words)
        painter.setFont(theme.font(theme.SMALL))

    def _paint_rip(self, painter: QPainter, cut: SawCut, bar: QRectF, scale: float) -> None:
        y = bar.bottom() - (cut.fence_mm or 0.0) * scale
        kerf = QRectF(bar.left() - 20, y - cut.kerf_mm * scale, bar.width() + 40, cut.kerf_mm * scale)
        painter.fillRect(kerf, theme.PANEL)
        painter.fillRect(kerf, theme.hatching())
        painter.setPen(theme.pen(theme.ACCENT, 1.4))
        painter.drawLine(kerf.bottomLeft(), kerf.bottomRight())
        x = bar.right() + 30
        painter.setPen(theme.pen(theme.INK, 1))
        painter.drawLine(QPointF(x, y), QPointF(x, bar.bottom()))
        for end in (y, bar.bottom()):
            painter.drawLine(QPointF(x - 5, end), QPointF(x + 5, end))
        painter.setFont(theme.bold())
        words = write(cut.fence_mm, Dimension.LENGTH, self._units)
        right = min(bar.right() + 70, self.width() - 4.0)
        painter.drawText(QRectF(right - 110, bar.top() - 30, 110, 20), Qt.AlignmentFlag.AlignRight, words)
        painter.setFont(theme.font(theme.SMALL))

    def _paint_arc(self, painter: QPainter, cut: SawCut, bar: QRectF, scale: float) -> None:
        self._paint_stop(painter, bar)
        radius = (cut.radius_mm or 1.0) * scale
        reach = (cut.centre_mm - (cut.stop_mm or 0.0)) * scale
        drop = math.sqrt(max(0.0, radius**2 - reach**2))
        middle = QPointF(bar.left() + cut.centre_mm * scale, bar.top() - drop)
        painter.save()
        painter.setClipRect(bar)
        painter.setPen(theme.pen(theme.ACCENT, max(1.4, cut.kerf_mm * scale)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(middle, radius, radius)
        painter.restore()
        # The centre is what is marked out: how far along, and its place when it lies in sight.
        painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(middle.x(), max(4.0, middle.y())), QPointF(middle.x(), bar.bottom()))
        painter.drawText(QPointF(middle.x() + 6, max(16.0, middle.y() + 4)), "centre")
        self._paint_length(painter, bar.left(), middle.x(), bar.bottom() + _FENCE + 16, cut.centre_mm)

    # -- from the end ------------------------------------------------------------------------------------------

    def _paint_end(self, painter: QPainter, cut: SawCut) -> None:
        """A stave on the table, its edge bevelled by the tilted blade."""
        wide = cut.fence_mm or cut.across_mm / 2
        scale = min((self.width() - 160) / (wide * 2), (self.height() - 90) / cut.across_mm, 14.0)
        tall = cut.across_mm / 2 * scale
        foot, left = self.height() / 2 + tall / 2, self.width() / 2 - wide * scale / 2
        lean = math.tan(math.radians(cut.set_deg)) * tall
        painter.setPen(theme.pen(theme.INK, 1.2))
        painter.setBrush(theme.BLANK)
        stave = [
            QPointF(left, foot),
            QPointF(left + lean, foot - tall),
            QPointF(left + wide * scale - lean, foot - tall),
            QPointF(left + wide * scale, foot),
        ]
        painter.drawPolygon(QPolygonF(stave))
        painter.setPen(theme.pen(theme.INK, 1.5))
        painter.drawLine(QPointF(20, foot), QPointF(self.width() - 20, foot))
        painter.setPen(theme.pen(theme.ACCENT, max(1.4, cut.kerf_mm * scale / 2)))
        painter.drawLine(stave[3], stave[2] + QPointF(-lean * 0.4, -tall * 0.4))
        painter.setFont(theme.bold())
        painter.setPen(theme.INK)
        words = f"{write(cut.set_deg, Dimension.ANGLE, self._units, 2)} tilt"
        painter.drawText(QRectF(stave[2].x() + 14, foot - tall - 24, 140, 20), Qt.AlignmentFlag.AlignLeft, words)
        self._paint_length(painter, left, left + wide * scale, foot + 12, wide)
        painter.setPen(theme.QUIET)
        under = QRectF(0, self.height() - 20, self.width(), 18)
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, "from the end · the wide face on the table")
