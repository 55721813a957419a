"""The ladder of grits on one axis of grain, from coarse to fine; and the coats over the barrel, thin at the ends."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.abrasives import GAP, WIDE_GAP, Rung
from orvek.craft.coating import lies_part
from orvek.documents import Finish
from orvek.planning.finish.results import FinishPlan
from orvek.planning.finish.words import is_wet
from orvek.quantities import decimal
from orvek.window import theme

_SIDE, _COARSE_UM, _FINE_UM = 40, 250.0, 0.3
_TICKS_UM = (200, 100, 50, 20, 10, 5, 2, 1, 0.5)


class LadderPicture(QWidget):
    """Bare barrel above the axis, coats below it; a gap that is wide is marked."""

    def __init__(self) -> None:
        super().__init__()
        self._finish: FinishPlan | None = None
        self._how, self._in_hand = Finish(), ""
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Grits by the size of their grain, and the coats")

    def show_finish(self, finish: FinishPlan, how: Finish, in_hand: str = "") -> None:
        """Show a plan's ladders and coats; `in_hand` names the abrasive that is worked with now."""
        self._finish, self._how, self._in_hand = finish, how, in_hand
        names = ", ".join(rung.abrasive.name for rung in (*finish.bare, *finish.level))
        self.setAccessibleDescription(names)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        finish = self._finish
        if finish is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        axis = self.height() * 0.42
        self._paint_axis(painter, axis)
        self._paint_rungs(painter, finish.bare, axis, above=True)
        self._paint_rungs(painter, finish.level, axis, above=False)
        if finish.coats_mm.value:
            self._paint_coats(painter, finish)

    def _x(self, grain_um: float) -> float:
        part = math.log(_COARSE_UM / grain_um) / math.log(_COARSE_UM / _FINE_UM)
        return _SIDE + part * (self.width() - 2 * _SIDE)

    def _paint_axis(self, painter: QPainter, y: float) -> None:
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawLine(QPointF(_SIDE, y), QPointF(self.width() - _SIDE, y))
        for grain in _TICKS_UM:
            x = self._x(grain)
            painter.drawLine(QPointF(x, y - 3), QPointF(x, y + 3))
        painter.setPen(theme.QUIET)
        words = "grain, coarse to fine, each tick half as much · filled: wet"
        painter.drawText(QRectF(_SIDE, 2, 420, 16), Qt.AlignmentFlag.AlignLeft, words)

    def _paint_rungs(self, painter: QPainter, rungs: tuple[Rung, ...], axis: float, *, above: bool) -> None:
        last = -math.inf
        level = 0
        for number, rung in enumerate(rungs):
            first, end = self._x(rung.abrasive.start_um), self._x(rung.abrasive.end_um)
            side = -1 if above else 1
            if number:
                before = self._x(rungs[number - 1].abrasive.end_um)
                wide = rung.ratio > WIDE_GAP
                colour = theme.CAUTION if rung.ratio > GAP else theme.ACCENT
                painter.setPen(theme.pen(colour, 3 if wide else 2))
                y = axis + side * 10
                painter.drawLine(QPointF(before, y), QPointF(first, y))
            painter.setPen(theme.pen(theme.INK, 1.4))
            painter.setBrush(theme.ACCENT if is_wet(rung, self._how) else theme.PANEL)
            is_in_hand = rung.abrasive.name == self._in_hand
            painter.drawEllipse(QPointF(first, axis + side * 10), *([7, 7] if is_in_hand else [4, 4]))
            if end > first:
                painter.drawLine(QPointF(first, axis + side * 10), QPointF(end, axis + side * 10))
            words = rung.abrasive.name
            width = painter.fontMetrics().horizontalAdvance(words)
            level = (level + 1) % 3 if first - width / 2 < last + 8 else 0
            last = first + width / 2
            painter.setPen(theme.CAUTION if rung.ratio > GAP else theme.INK)
            painter.setFont(theme.bold(theme.SMALL) if is_in_hand else theme.font(theme.SMALL))
            top = axis + side * 10 + (-(22 + 15 * level) if above else 8 + 15 * level)
            painter.drawText(QRectF(first - 60, top, 120, 16), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_coats(self, painter: QPainter, finish: FinishPlan) -> None:
        """Coats over a barrel, as thin at its ends as they are there, and what levelling takes of them."""
        area = QRectF(_SIDE, self.height() - 44, self.width() - 2 * _SIDE, 24)
        most = max(finish.coats_mm.value, finish.levelled_mm.value)
        scale = area.height() / most
        parts = [number / 40 for number in range(41)]
        tops = [
            QPointF(area.left() + at * area.width(), area.bottom() - finish.coats_mm.value * lies_part(at) * scale)
            for at in parts
        ]
        colour = QColor(theme.AMBER)
        colour.setAlpha(90)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        painter.drawPolygon(QPolygonF([area.bottomLeft(), *tops, area.bottomRight()]))
        painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DashLine))
        taken = finish.levelled_mm.value
        painter.drawPolyline([point + QPointF(0, taken * scale) for point in tops])
        painter.setPen(theme.QUIET)
        foot = QRectF(0, area.bottom() + 3, self.width(), 16)
        mm = decimal(round(finish.coats_mm.value, 3))
        words = f"coats over the barrel, {mm} mm in its middle, thin at the ends · dashed: what levelling leaves"
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)
