"""A barrel rolled out with the flaw on it, to be dragged; and how it looks turned, as it is and by the way in hand."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.faults import covered_deg
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of, clip_mm
from orvek.planning.faults.results import FaultPlan
from orvek.window import theme
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.nudging import nudge_of

_SIDE, _TOP, _BELOW, _ROWS = 24, 26, 26, 180
_ROLLED_PART = 0.46  # of the width; the rest is for the turned pictures
_LEAST_PX = 5.0


class FlawPicture(QWidget):
    """The rolled-out barrel to scale along and round; `moved` is (mm from the left end, degrees round)."""

    moved = Signal(float, float)
    dropped = Signal()

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._one: FaultPlan | None = None
        self._looks: list[tuple[str, QImage | None]] = []
        self._is_held = False
        self.setMinimumHeight(170)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Where the flaw is")

    def show_fault(self, plan: Plan, one: FaultPlan) -> None:
        """Show a fault of a plan."""
        self._plan, self._one = plan, one
        at, round_it = one.fault.at_mm, one.fault.azimuth_deg % 360
        self.setAccessibleDescription(f"{one.barrel.name}: {one.fault.kind} at {at:.1f} mm, {round_it:.0f} degrees")
        self.update()

    def show_looks(self, looks: list[tuple[str, QImage | None]]) -> None:
        """Show turned pictures beside it, each under its words."""
        self._looks = looks
        self.update()

    def flaw_at(self) -> QPointF:
        """The middle of the flaw on the widget."""
        assert self._one is not None
        area, fault = self._rolled(), self._one.fault
        along = area.left() + fault.at_mm / self._one.barrel.tube_length_mm * area.width()
        return QPointF(along, area.top() + (fault.azimuth_deg % 360) / 360 * area.height())

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._one is not None and self._rolled().adjusted(-8, -8, 8, 8).contains(event.position()):
            self._is_held = True
            self._move_to(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._is_held:
            self._move_to(event.position())

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._is_held:
            self._is_held = False
            self.dropped.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = nudge_of(event.key())
        if step is None or self._one is None:
            super().keyPressEvent(event)
            return
        fault = self._one.fault
        self._say(fault.at_mm + step[0], fault.azimuth_deg + step[1])
        self.dropped.emit()

    def _move_to(self, point: QPointF) -> None:
        assert self._one is not None
        area = self._rolled()
        along = (point.x() - area.left()) / area.width() * self._one.barrel.tube_length_mm
        self._say(along, (point.y() - area.top()) / area.height() * 360)

    def _say(self, at_mm: float, azimuth_deg: float) -> None:
        assert self._one is not None
        along = min(max(0.0, at_mm), self._one.barrel.tube_length_mm)
        self.moved.emit(round(along, 1), float(round(azimuth_deg) % 360))

    # -- painting ----------------------------------------------------------------------------------------------

    def _rolled(self) -> QRectF:
        """Where the rolled-out barrel is painted."""
        assert self._one is not None
        barrel = self._one.barrel
        wide = self.width() * _ROLLED_PART - _SIDE
        tall = self.height() - _TOP - _BELOW
        scale = min(wide / barrel.tube_length_mm, tall / (math.pi * barrel.widest_mm))
        return QRectF(_SIDE, _TOP, barrel.tube_length_mm * scale, math.pi * barrel.widest_mm * scale)

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None or self._one is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setFont(theme.font(theme.SMALL))
        area = self._rolled()
        self._paint_surface(painter, self._plan, self._one, area)
        self._paint_clip(painter, self._plan, self._one, area)
        self._paint_flaw(painter, self._one, area)
        painter.setPen(theme.QUIET)
        head = QRectF(_SIDE, 4, self.width() * _ROLLED_PART, 18)
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft, f"{self._one.barrel.name}, rolled out · drag the flaw")
        self._paint_looks(painter, area)

    def _paint_surface(self, painter: QPainter, plan: Plan, one: FaultPlan, area: QRectF) -> None:
        barrels = barrels_of(plan)
        columns = 900
        pixels = self._surface.unrolled(plan, columns, _ROWS, barrels)
        painter.fillRect(area, theme.BLANK)
        if pixels is not None and one.fault.barrel < len(barrels):
            length = bar_size(plan.layout)[2]
            barrel = barrels[one.fault.barrel]
            first, last = (int(end / length * columns) for end in (barrel.start_mm, barrel.end_mm))
            shown = pixels[:, max(0, first) : max(first + 1, last)]
            if shown.size:
                painter.drawImage(area, image_of(shown))
        painter.setPen(theme.pen(theme.BRASS, 2))
        for x in (area.left(), area.right()):
            painter.drawLine(QPointF(x, area.top() - 4), QPointF(x, area.bottom() + 4))

    def _paint_clip(self, painter: QPainter, plan: Plan, one: FaultPlan, area: QRectF) -> None:
        """The clip where it would cover the flaw, on the last barrel."""
        pen, finish = plan.job.pen, plan.job.finish
        if pen is None or one.fault.barrel != len(pen.barrels) - 1:
            return
        scale = area.width() / one.barrel.tube_length_mm
        first_mm, last_mm = (end - barrels_of(plan)[-1].start_mm for end in clip_mm(plan))
        left, long = area.left() + first_mm * scale, (last_mm - first_mm) * scale
        tall = covered_deg(finish.clip_mm, one.barrel.widest_mm) / 360 * area.height()
        painter.setPen(theme.pen(theme.INK, 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(left, self.flaw_at().y() - tall / 2, long, tall))

    def _paint_flaw(self, painter: QPainter, one: FaultPlan, area: QRectF) -> None:
        fault, centre = one.fault, self.flaw_at()
        along = max(_LEAST_PX, fault.long_mm / one.barrel.tube_length_mm * area.width() / 2)
        round_it = max(_LEAST_PX, covered_deg(fault.wide_mm, one.barrel.widest_mm) / 360 * area.height() / 2)
        painter.save()
        painter.setClipRect(area.adjusted(-8, -8, 8, 8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, wide in ((theme.PANEL, 4.0), (theme.INK, 2.0)):
            painter.setPen(theme.pen(colour, wide))
            painter.drawEllipse(centre, along, round_it)
        painter.restore()
        if self.hasFocus():
            painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DotLine))
            painter.drawEllipse(centre, along + 5, round_it + 5)

    def _paint_looks(self, painter: QPainter, area: QRectF) -> None:
        left = max(area.right() + 24, self.width() * 0.3)
        room = self.width() - left - _SIDE
        tall = (self.height() - 12) / max(2, len(self._looks))
        for number, (words, image) in enumerate(self._looks):
            top = 4 + number * tall
            painter.setPen(theme.QUIET)
            line = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(room))
            painter.drawText(QRectF(left, top, room, 18), Qt.AlignmentFlag.AlignLeft, line)
            if image is not None:
                scale = min(room / image.width(), (tall - 26) / image.height())
                size = (image.width() * scale, image.height() * scale)
                painter.drawImage(QRectF(left, top + 20, *size), image)
