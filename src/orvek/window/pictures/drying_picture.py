"""The drying curve: the logged weights, the course that fits them with its range, and when it counts as dry."""

from __future__ import annotations

from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.soak.results import DryPlan
from orvek.planning.soak.words import dry_line
from orvek.quantities import Dimension, Units, write, write_day
from orvek.window import theme
from orvek.window.widgets.axes import round_steps

_LEFT, _RIGHT, _TOP, _FOOT = 78, 28, 22, 40
_STEPS_H = (1, 2, 4, 6, 12, 24, 48, 96, 168, 336, 720, 1440, 4380)


class DryingPicture(QWidget):
    """Weight over time, from the first weighing on."""

    def __init__(self) -> None:
        super().__init__()
        self._drying: DryPlan | None = None
        self._units = Units()
        self._left_out: tuple[tuple[datetime, float], ...] = ()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Weight over time")

    def show_drying(self, drying: DryPlan, left_out: tuple[tuple[datetime, float], ...], units: Units) -> None:
        """Show a log and what follows from it."""
        self._drying, self._left_out, self._units = drying, left_out, units
        self.setAccessibleDescription(str(dry_line(drying, units)))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        drying = self._drying
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        area = QRectF(self.rect()).adjusted(_LEFT, _TOP, -_RIGHT, -_FOOT)
        if drying is None or not drying.log:
            painter.setPen(theme.pen(theme.HAIRLINE, 1.5, Qt.PenStyle.DashLine))
            painter.drawRect(area)
            painter.setPen(theme.QUIET)
            words = "The weights come here, once there are some: paste your notebook, or weigh it now."
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)
            return
        self._scale_to(drying, area)
        self._paint_axes(painter, drying, area)
        self._paint_curve(painter, drying)
        self._paint_dry(painter, drying, area)
        self._paint_log(painter, drying)

    # -- places ------------------------------------------------------------------------------------------------

    def _scale_to(self, drying: DryPlan, area: QRectF) -> None:
        hours = [self._hour(drying, one.when) for one in drying.log]
        masses = [one.mass_g for one in drying.log]
        curve = drying.fit.curve if drying.fit else ()
        self._until = max([*hours, *(point[0] for point in curve), 1.0])
        low, high = min([*masses, *(point[1] for point in curve)]), max(masses)
        room = max(0.02 * high, high - low) * 0.12
        self._low, self._high, self._area = low - room, high + room, area

    @staticmethod
    def _hour(drying: DryPlan, when: datetime) -> float:
        return (when - drying.log[0].when).total_seconds() / 3600

    def _at(self, hour: float, mass: float) -> QPointF:
        area = self._area
        x = area.left() + area.width() * hour / self._until
        return QPointF(x, area.bottom() - area.height() * (mass - self._low) / (self._high - self._low))

    # -- painting ----------------------------------------------------------------------------------------------

    def _paint_axes(self, painter: QPainter, drying: DryPlan, area: QRectF) -> None:
        painter.setPen(theme.pen(theme.HAIRLINE, 1))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        for mass in round_steps(self._low, self._high):
            y = self._at(0, mass).y()
            painter.setPen(theme.pen(theme.HAIRLINE, 1))
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
            painter.setPen(theme.QUIET)
            words = write(mass, Dimension.MASS, self._units)
            painter.drawText(QRectF(0, y - 8, _LEFT - 8, 16), Qt.AlignmentFlag.AlignRight, words)
        metrics = painter.fontMetrics()
        wide = metrics.horizontalAdvance(f"{write_day(drying.log[0].when)} 00:00") + 16
        step = next((one for one in _STEPS_H if self._until / one <= area.width() / wide), _STEPS_H[-1])
        midnight = drying.log[0].when.replace(hour=0, minute=0, second=0, microsecond=0)
        number, hour = 0, 0.0
        while hour <= self._until:
            when = midnight + timedelta(hours=number * step)
            number, hour = number + 1, self._hour(drying, when)
            x = self._at(hour, self._low).x()
            if x < area.left() or x > area.right():
                continue
            painter.setPen(theme.pen(theme.QUIET, 1))
            painter.drawLine(QPointF(x, area.bottom()), QPointF(x, area.bottom() + 4))
            words = f"{write_day(when)} {when:%H:%M}" if step < 24 else write_day(when)
            left = min(x - wide / 2, self.width() - wide)
            painter.drawText(QRectF(left, area.bottom() + 6, wide, 16), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_curve(self, painter: QPainter, drying: DryPlan) -> None:
        curve = drying.fit.curve if drying.fit else ()
        if not curve:
            return
        over = [self._at(hour, high) for hour, _, _, high in curve]
        under = [self._at(hour, low) for hour, low, _, _ in reversed(curve)]
        shade = QColor(theme.AMBER)
        shade.setAlpha(60)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPolygon(QPolygonF([*over, *under]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.AMBER, 2))
        painter.drawPolyline([self._at(hour, best) for hour, _, best, _ in curve])

    def _paint_dry(self, painter: QPainter, drying: DryPlan, area: QRectF) -> None:
        fit = drying.told
        if fit is None:
            return
        y = self._at(0, fit.end_g.best).y()
        painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        if fit.dry_h.best <= self._until:
            x = self._at(fit.dry_h.best, self._low).x()
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
            painter.setPen(theme.ACCENT)
            on_left = x > area.center().x()
            place = QRectF(x - 126 if on_left else x + 6, area.top() - 4, 120, 16)
            side = Qt.AlignmentFlag.AlignRight if on_left else Qt.AlignmentFlag.AlignLeft
            painter.drawText(place, side, "counts as dry")

    def _paint_log(self, painter: QPainter, drying: DryPlan) -> None:
        painter.setPen(theme.pen(theme.INK, 1.6))
        painter.setBrush(theme.PANEL)
        for one in drying.log:
            painter.drawEllipse(self._at(self._hour(drying, one.when), one.mass_g), 4, 4)
        painter.setPen(theme.pen(theme.QUIET, 1.6))
        for when, mass in self._left_out:
            point = self._at(self._hour(drying, when), mass)
            if self._area.adjusted(-4, -4, 4, 4).contains(point):
                for way in (1, -1):
                    painter.drawLine(point + QPointF(-4, -4 * way), point + QPointF(4, 4 * way))
