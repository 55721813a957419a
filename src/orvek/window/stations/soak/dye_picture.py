"""The bar's end, cut through: how deep each colour lies, and what the lathe leaves of it."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning import Plan
from orvek.planning.bar import bar_size
from orvek.planning.soak.results import DyePlan
from orvek.quantities import Units
from orvek.window import theme

_SIDE, _TOP, _FOOT, _BETWEEN = 40, 28, 40, 56


class DyePicture(QWidget):
    """One section a colour: the depth that is likeliest filled, its range hatched, the finished barrel as a line."""

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._units = Units()
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("How deep the colours lie")

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's colours."""
        self._plan, self._units = plan, units
        dyes = plan.soak.dyes if plan.soak else ()
        told = "; ".join(f"colour {n}: {dye.side_mm.written(units)} deep" for n, dye in enumerate(dyes, 1))
        self.setAccessibleDescription(told)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        plan = self._plan
        if plan is None or plan.soak is None or not plan.soak.dyes:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        dyes = plan.soak.dyes
        width, depth, _, is_round = bar_size(plan.layout)
        room = (self.width() - 2 * _SIDE - _BETWEEN * (len(dyes) - 1)) / len(dyes)
        scale = min(room / width, (self.height() - _TOP - _FOOT) / depth)
        whole = len(dyes) * width * scale + (len(dyes) - 1) * _BETWEEN
        x = (self.width() - whole) / 2
        for number, dye in enumerate(dyes, 1):
            area = QRectF(x, _TOP, width * scale, depth * scale)
            self._paint_section(painter, dye, area, scale, is_round=is_round)
            self._paint_words(painter, number, dye, area)
            x += width * scale + _BETWEEN
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font(theme.SMALL))
        foot = QRectF(0, self.height() - 18, self.width(), 16)
        words = "filled: likeliest · hatched: it may reach · line: as it is turned, where it is slimmest"
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_section(self, painter: QPainter, dye: DyePlan, area: QRectF, scale: float, *, is_round: bool) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        bar = _outline(area, 0.0, is_round=is_round)
        painter.setBrush(theme.BLANK)
        painter.drawPath(bar)
        colour = QColor(dye.dye.colour)
        reach = dye.side.high * scale
        painter.setBrush(theme.hatching())
        painter.drawPath(bar - _outline(area, reach, is_round=is_round))
        painter.setBrush(colour)
        painter.drawPath(bar - _outline(area, dye.side.best * scale, is_round=is_round))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.INK, 1))
        painter.drawPath(bar)
        plan = self._plan
        if plan is not None and plan.job.pen is not None:
            slimmest = plan.job.pen.slimmest_mm * scale
            for pen in (theme.pen(theme.FADED, 4), theme.pen(theme.ACCENT, 1.6)):
                painter.setPen(pen)
                painter.drawEllipse(area.center(), slimmest / 2, slimmest / 2)

    def _paint_words(self, painter: QPainter, number: int, dye: DyePlan, area: QRectF) -> None:
        painter.setFont(theme.bold(theme.SMALL))
        painter.setPen(theme.INK)
        place = QRectF(area.center().x() - 110, area.top() - 24, 220, 16)
        seen = "seen" if dye.is_seen else "about"
        words = f"Colour {number}: {seen} {dye.side_mm.written(self._units)}"
        painter.drawText(place, Qt.AlignmentFlag.AlignCenter, words)


def _outline(area: QRectF, inside: float, *, is_round: bool) -> QPainterPath:
    """The bar's section, or what lies deeper than so much inside it."""
    path = QPainterPath()
    inner = area.adjusted(inside, inside, -inside, -inside)
    if inner.width() > 0 and inner.height() > 0:
        if is_round:
            path.addEllipse(inner)
        else:
            path.addRect(inner)
    return path
