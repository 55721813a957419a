"""The bar rolled out with its printed sheet as it will be seen: the picture is dragged, seam and clip are marked."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.faults import covered_deg
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of, clip_mm
from orvek.planning.finish.results import WrapPlan
from orvek.window import theme
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.nudging import nudge_of

_SIDE, _TOP, _BELOW, _ROWS, _MOVING_ROWS = 24, 26, 24, 320, 96


class WrapPicture(QWidget):
    """Along the bar and once round; `moved` is (mm along, degrees round) from where it was taken hold of."""

    moved = Signal(float, float)
    dropped = Signal()

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._wrap: WrapPlan | None = None
        self._is_moving = False
        self._grip: tuple[QPointF, float, float] | None = None
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeAllCursor)
        self.setAccessibleName("The printed sheet, rolled out")

    def show_wrap(self, plan: Plan, wrap: WrapPlan, *, is_moving: bool) -> None:
        """Show a plan's sheet; more coarsely while it is dragged."""
        self._plan, self._wrap, self._is_moving = plan, wrap, is_moving
        self.setAccessibleDescription(
            f"begins at {wrap.step.shift_mm:.1f} mm, seam at {wrap.step.seam_deg:.0f} degrees"
        )
        self.update()

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._wrap is not None:
            self._grip = (event.position(), self._wrap.step.shift_mm, self._wrap.step.seam_deg)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None and self._plan is not None:
            area, off = self._area(), event.position() - self._grip[0]
            along = self._grip[1] + off.x() / area.width() * bar_size(self._plan.layout)[2]
            self._say(along, self._grip[2] + off.y() / area.height() * 360)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._grip is not None:
            self._grip = None
            self.dropped.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = nudge_of(event.key())
        if step is None or self._wrap is None:
            super().keyPressEvent(event)
            return
        self._say(self._wrap.step.shift_mm + step[0], self._wrap.step.seam_deg + step[1])
        self.dropped.emit()

    def _say(self, along_mm: float, seam_deg: float) -> None:
        self.moved.emit(round(min(1000.0, max(-1000.0, along_mm)), 1), float(round(seam_deg) % 360))

    # -- painting ----------------------------------------------------------------------------------------------

    def _area(self) -> QRectF:
        return QRectF(_SIDE, _TOP, self.width() - 2 * _SIDE, self.height() - _TOP - _BELOW)

    def paintEvent(self, _event: QPaintEvent) -> None:
        plan, wrap = self._plan, self._wrap
        if plan is None or wrap is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setFont(theme.font(theme.SMALL))
        area, barrels = self._area(), barrels_of(plan)
        columns, rows = int(area.width()), _ROWS
        if self._is_moving:
            columns, rows = columns // 3, _MOVING_ROWS
        pixels = self._surface.unrolled(plan, max(2, columns), rows, barrels)
        painter.fillRect(area, theme.BLANK)
        if pixels is not None:
            painter.drawImage(area, image_of(pixels))
        scale = area.width() / bar_size(plan.layout)[2]
        place = 0.0
        for start, end in (*((b.start_mm, b.end_mm) for b in barrels), (bar_size(plan.layout)[2],) * 2):
            waste = QRectF(area.left() + place * scale, area.top(), (start - place) * scale, area.height())
            if waste.width() > 0:
                painter.fillRect(waste, theme.FADED)
                painter.fillRect(waste, theme.hatching())
            place = max(place, end)
        self._paint_lines(painter, plan, wrap, area, scale)

    def _paint_lines(self, painter: QPainter, plan: Plan, wrap: WrapPlan, area: QRectF, scale: float) -> None:
        """Barrels' ends, the seam, the clip."""
        barrels, finish = barrels_of(plan), plan.job.finish
        painter.setPen(theme.pen(theme.BRASS, 2))
        for barrel in barrels:
            for z in (barrel.start_mm, barrel.end_mm):
                x = area.left() + z * scale
                painter.drawLine(QPointF(x, area.top() - 4), QPointF(x, area.bottom() + 4))
        seam = area.top() + (wrap.step.seam_deg % 360) / 360 * area.height()
        for colour, style, wide in (
            (theme.PANEL, Qt.PenStyle.SolidLine, 3.0),
            (theme.ACCENT, Qt.PenStyle.DashLine, 1.6),
        ):
            painter.setPen(theme.pen(colour, wide, style))
            painter.drawLine(QPointF(area.left(), seam), QPointF(area.right(), seam))
        tall = covered_deg(finish.clip_mm, barrels[-1].widest_mm) / 360 * area.height()
        first_mm, last_mm = clip_mm(plan)
        left, long = area.left() + first_mm * scale, (last_mm - first_mm) * scale
        middle = area.top() + (finish.clip_deg % 360) / 360 * area.height()
        painter.setPen(theme.pen(theme.INK, 1.4, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.save()
        painter.setClipRect(area)
        for turn in (-area.height(), 0.0, area.height()):
            painter.drawRect(QRectF(left, middle - tall / 2 + turn, long, tall))
        painter.restore()
        painter.setPen(theme.QUIET)
        head = QRectF(_SIDE, 4, area.width(), 18)
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft, "Rolled out · drag the picture along and round")
        painter.drawText(head, Qt.AlignmentFlag.AlignRight, "red: the seam · dashed: the clip")
