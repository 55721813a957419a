"""The last barrel seen on its end, its own colours round it: the clip and the best side are turned by dragging."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.pressing import apart_deg
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of, clip_mm
from orvek.planning.finish.results import ClipPlan
from orvek.window import theme
from orvek.window.surface import Surface

if TYPE_CHECKING:
    import numpy as np

_COLUMNS, _ROWS, _RING = 300, 120, 16.0
_NEAR_DEG, _NUDGE_DEG = 14.0, 5.0


class ClipDial(QWidget):
    """Angles count as in all pictures, 0° to the right, on towards the bottom; `turned` is (which, degrees)."""

    turned = Signal(str, float)
    dropped = Signal(str)

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._clip: ClipPlan | None = None
        self._held = ""
        self._ring: tuple[object, np.ndarray] | None = None
        self._painted: tuple[object, QPixmap] | None = None
        self.setMinimumSize(150, 150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setAccessibleName("The clip on the last barrel")

    def show_clip(self, plan: Plan, clip: ClipPlan) -> None:
        """Show a plan's clip."""
        self._plan, self._clip = plan, clip
        self.setAccessibleDescription(f"at {plan.job.finish.clip_deg % 360:.0f} degrees. {' '.join(clip.lines)}")
        self.update()

    def point_at(self, azimuth_deg: float, beyond_px: float = 0.0) -> QPointF:
        """A place on the circle, or so far outside it."""
        radius = self._radius() + beyond_px
        turn = math.radians(azimuth_deg)
        centre = QRectF(self.rect()).center()
        return QPointF(centre.x() + radius * math.cos(turn), centre.y() + radius * math.sin(turn))

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._plan is None:
            return
        best = self._plan.job.finish.best_deg
        at = self._angle(event.position())
        self._held = "best_deg" if best is not None and apart_deg(at, best) < _NEAR_DEG else "clip_deg"
        self._turn(at)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._turn(self._angle(event.position()))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held:
            held, self._held = self._held, ""
            self.dropped.emit(held)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways: dict[int, float] = {Qt.Key.Key_Left: -_NUDGE_DEG, Qt.Key.Key_Right: _NUDGE_DEG}
        step = ways.get(event.key())
        if step is None or self._plan is None:
            super().keyPressEvent(event)
            return
        self.turned.emit("clip_deg", (self._plan.job.finish.clip_deg + step) % 360)
        self.dropped.emit("clip_deg")

    def _turn(self, azimuth_deg: float) -> None:
        self.turned.emit(self._held, float(round(azimuth_deg) % 360))

    def _angle(self, point: QPointF) -> float:
        off = point - QRectF(self.rect()).center()
        return math.degrees(math.atan2(off.y(), off.x())) % 360

    # -- painting ----------------------------------------------------------------------------------------------

    def _radius(self) -> float:
        return max(20.0, min(self.width(), self.height()) / 2 - 40)

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None or self._clip is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        finish = self._plan.job.finish
        self._paint_ring(painter)
        self._arc(painter, finish.clip_deg, self._clip.covers_deg.value, 9.0, theme.INK, 8.0)
        self._words(painter, finish.clip_deg, "clip", theme.INK)
        for flaw in self._clip.flaws:
            ink = theme.INK if flaw.is_in_reach else theme.QUIET  # no turning brings the clip over the others
            self._arc(painter, flaw.azimuth_deg, max(3.0, flaw.wide_deg), -_RING / 2, ink, 4.0)
        if finish.best_deg is not None:
            self._arc(painter, finish.best_deg, 3.0, -_RING / 2, theme.BRASS_DARK, _RING)
            self._words(painter, finish.best_deg, "best", theme.BRASS_DARK)
        for side in (1, -1):
            up = finish.clip_deg + side * self._clip.up_deg.value
            self._arc(painter, up, 2.0, 6.0, theme.QUIET, 4.0)
            self._words(painter, up, "up", theme.QUIET)
        if self.hasFocus():
            painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(self.point_at(finish.clip_deg, 9.0), 9, 9)

    def _paint_ring(self, painter: QPainter) -> None:
        """The mean colour along the clip's stretch, all round; painted once for as long as it stays the same."""
        colours = self._colours()
        key = (id(colours), self.size(), self.devicePixelRatio())
        if self._painted is None or self._painted[0] != key:
            pixmap = QPixmap(self.size() * self.devicePixelRatio())
            pixmap.setDevicePixelRatio(self.devicePixelRatio())
            pixmap.fill(Qt.GlobalColor.transparent)
            inner = QPainter(pixmap)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_colours(inner, colours)
            inner.end()
            self._painted = (key, pixmap)
        painter.drawPixmap(0, 0, self._painted[1])

    def _paint_colours(self, painter: QPainter, colours: np.ndarray | None) -> None:
        if colours is None:
            self._arc(painter, 0, 359.9, -_RING / 2, theme.MOULD, _RING)
            return
        for row, colour in enumerate(colours):
            shade = QColor(*(int(part) for part in colour))
            self._arc(painter, (row + 0.5) * 360 / len(colours), 360 / len(colours) + 0.6, -_RING / 2, shade, _RING)

    def _colours(self) -> np.ndarray | None:
        plan = self._plan
        assert plan is not None
        barrels = barrels_of(plan)
        key = (self._surface.seen(plan), barrels, plan.job.finish.clip_long_mm)
        if self._ring is not None and self._ring[0] == key:
            return self._ring[1]
        pixels = self._surface.unrolled(plan, _COLUMNS, _ROWS, barrels)
        if pixels is None or plan.job.pen is None:
            return None
        scale = _COLUMNS / bar_size(plan.layout)[2]
        first, last = clip_mm(plan)
        columns = slice(max(0, int(first * scale)), max(1, int(last * scale)))
        mean: np.ndarray = pixels[:, columns].mean(axis=1)
        self._ring = (key, mean)
        return mean

    def _arc(
        self, painter: QPainter, middle_deg: float, wide_deg: float, beyond_px: float, colour: QColor, thick: float
    ) -> None:
        radius, centre = self._radius() + beyond_px, QRectF(self.rect()).center()
        pen = theme.pen(colour, thick)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        painter.setPen(pen)
        box = QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius)
        # Qt counts sixteenths of a degree against the clock; azimuths here go with it.
        painter.drawArc(box, round(-(middle_deg + wide_deg / 2) * 16), round(wide_deg * 16))

    def _words(self, painter: QPainter, azimuth_deg: float, words: str, colour: QColor) -> None:
        at = self.point_at(azimuth_deg, 26.0)
        painter.setPen(colour)
        painter.drawText(QRectF(at.x() - 24, at.y() - 8, 48, 16), Qt.AlignmentFlag.AlignCenter, words)
