"""The pen coming together: the barrels in section, what is in already, the part that goes in now and how deep."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import Barrel, Pen
from orvek.planning import Plan
from orvek.planning.finish.press import FIRST_PART, DepthWindow, depth_window
from orvek.quantities import Units
from orvek.window import theme

_SIDE, _ABOVE, _BELOW, _GAP_MM, _CIRCLE = 56, 34, 30, 16.0, 9.0
_PLUG_MM, _HEAD_MM, _BEFORE_PX = 9.0, 4.0, 26.0  # what nobody measured: drawn so that it is seen


class PressPicture(QWidget):
    """Numbers are the order; an arrow is the way a part goes in; amber is how deep it may stand.

    With a part in hand the parts before it are in their places, and it stands before its own.
    """

    def __init__(self) -> None:
        super().__init__()
        self._pen: Pen | None = None
        self._window: DepthWindow | None = None
        self._units = Units()
        self._part: int | None = None
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The parts where they go in")

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's pen."""
        self._pen, self._window, self._units = plan.job.pen, depth_window(plan.job), plan.units
        parts = self._pen.parts if self._pen else ()
        self.setAccessibleDescription("; ".join(f"{n} {part.line}" for n, part in enumerate(parts, 1)))
        self.update()

    def show_part(self, number: int | None) -> None:
        """Take a part in hand, by its place in the order; None shows where all of them go."""
        if number != self._part:
            self._part = number
            self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        pen = self._pen
        if pen is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        long = sum(barrel.tube_length_mm for barrel in pen.barrels) + _GAP_MM * (len(pen.barrels) - 1)
        wide = max(barrel.widest_mm for barrel in pen.barrels)
        scale = min((self.width() - 2 * _SIDE) / long, (self.height() - _ABOVE - _BELOW) / wide)
        axis, x = _ABOVE + (self.height() - _ABOVE - _BELOW) / 2, (self.width() - long * scale) / 2
        for number, barrel in enumerate(pen.barrels):
            area = QRectF(x, axis - wide * scale / 2, barrel.tube_length_mm * scale, wide * scale)
            self._paint_barrel(painter, barrel, area, scale)
            self._paint_seated(painter, pen, number, area, scale)
            self._paint_parts(painter, pen, number, area)
            if self._window is not None and self._window.part.barrel_no == number + 1:
                self._paint_window(painter, barrel, self._window, area, scale)
            x += (barrel.tube_length_mm + _GAP_MM) * scale
        painter.setPen(theme.QUIET)
        foot = QRectF(0, self.height() - 18, self.width(), 16)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, self._words(pen))

    def _words(self, pen: Pen) -> str:
        """What the picture shows."""
        if not pen.parts:
            return "no parts are listed yet"
        if self._part is not None and self._part < len(pen.parts):
            return ""  # it is said where it was taken in hand
        loose = [str(n) for n, part in enumerate(pen.parts, FIRST_PART) if part.barrel_no is None]
        words = "numbers: the steps below · arrows: which way"
        return f"{words} · {', '.join(loose)} on no barrel's end" if loose else words

    def _paint_barrel(self, painter: QPainter, barrel: Barrel, area: QRectF, scale: float) -> None:
        axis = area.center().y()
        profile = [(area.left() + at * area.width(), size / 2 * scale) for at, size in barrel.profile]
        outline = [QPointF(x, axis - half) for x, half in profile]
        outline += [QPointF(x, axis + half) for x, half in reversed(profile)]
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.MOULD)
        painter.drawPolygon(QPolygonF(outline))
        for first, last, size in barrel.bores:
            hole = QRectF(area.left() + first * scale, axis - size * scale / 2, (last - first) * scale, size * scale)
            painter.fillRect(hole, theme.PAPER)
        glued = barrel.glued_from_to_mm
        if glued is not None:
            half, wall = barrel.tube_diameter_mm / 2 * scale, max(2.0, 0.4 * scale)
            for side in (-1, 1):
                top = axis + (half - wall if side > 0 else -half)
                rect = QRectF(area.left() + glued[0] * scale, top, (glued[1] - glued[0]) * scale, wall)
                painter.fillRect(rect, theme.BRASS)
        painter.setPen(theme.INK)
        painter.drawText(area.adjusted(0, -20, 0, -area.height()), Qt.AlignmentFlag.AlignHCenter, barrel.name)

    def _paint_parts(self, painter: QPainter, pen: Pen, number: int, area: QRectF) -> None:
        """A numbered circle and an arrow for each part at the end it goes into."""
        for end in ("left", "right"):
            here = [
                n
                for n, part in enumerate(pen.parts, FIRST_PART)
                if part.barrel_no == number + 1 and part.end == end and self._is_shown(n - FIRST_PART)
            ]
            for place, order in enumerate(here):
                way = 1 if end == "left" else -1
                edge = area.left() if end == "left" else area.right()
                y = area.center().y() + (place - (len(here) - 1) / 2) * (2 * _CIRCLE + 3)
                middle = QPointF(edge - way * (_CIRCLE + 5), y)
                painter.setPen(theme.pen(theme.ACCENT, 1.6))
                tip = QPointF(edge + way * 12, y)
                painter.drawLine(middle, tip)
                painter.drawLine(tip, tip + QPointF(-way * 5, -4))
                painter.drawLine(tip, tip + QPointF(-way * 5, 4))
                painter.setBrush(theme.PANEL)
                painter.drawEllipse(middle, _CIRCLE, _CIRCLE)
                box = QRectF(middle.x() - _CIRCLE, middle.y() - _CIRCLE, 2 * _CIRCLE, 2 * _CIRCLE)
                painter.setPen(theme.ACCENT)
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(order))

    def _is_shown(self, number: int) -> bool:
        """Whether a part has its number: all have while none is in hand, then only the one that is."""
        return self._part is None or number == self._part

    def _paint_seated(self, painter: QPainter, pen: Pen, number: int, area: QRectF, scale: float) -> None:
        """The parts that are in already, and the one in hand before its place."""
        barrel = pen.barrels[number]
        for place, part in enumerate(pen.parts[: self._part + 1] if self._part is not None else ()):
            if part.barrel_no != number + 1:
                continue
            is_now = place == self._part
            way = 1 if part.end == "left" else -1
            edge = (area.left() if part.end == "left" else area.right()) - way * (_BEFORE_PX if is_now else 0)
            deep_mm = part.depth_low_mm or part.depth_high_mm or min(_PLUG_MM, barrel.tube_length_mm / 3)
            inside, lip = barrel.bit_diameter_mm * 0.86 * scale / 2, _end_mm(barrel, part.end) * scale / 2
            axis = area.center().y()
            painter.setPen(theme.pen(theme.ACCENT if is_now else theme.QUIET, 1.6 if is_now else 1))
            painter.setBrush(theme.PANEL if is_now else theme.HAIRLINE)
            plug = QRectF(QPointF(edge, axis - inside), QPointF(edge + way * deep_mm * scale, axis + inside))
            head = QRectF(QPointF(edge, axis - lip), QPointF(edge - way * _HEAD_MM * scale, axis + lip))
            painter.drawRect(plug.normalized())
            painter.drawRoundedRect(head.normalized(), 3, 3)

    def _paint_window(self, painter: QPainter, barrel: Barrel, window: DepthWindow, area: QRectF, scale: float) -> None:
        """How deep it may stand, from the end it goes in at; and where it stands now."""
        axis, way = area.center().y(), 1 if window.part.end == "left" else -1
        edge = area.left() if window.part.end == "left" else area.right()
        half = barrel.bit_diameter_mm / 2 * scale
        # Where only one limit is known, the window is open to the end it goes in at, or to the barrel's other end.
        low_mm = window.low_mm or 0.0
        high_mm = window.high_mm if window.high_mm is not None else barrel.tube_length_mm
        low, high = (edge + way * min(mm, barrel.tube_length_mm) * scale for mm in (low_mm, high_mm))
        colour = QColor(theme.AMBER)
        colour.setAlpha(110)
        painter.fillRect(QRectF(QPointF(low, axis - half), QPointF(high, axis + half)).normalized(), colour)
        limit = low if window.low_mm is not None else high
        foot = area.bottom() + 12
        painter.setPen(theme.pen(theme.INK, 1))
        for x in (edge, limit):
            painter.drawLine(QPointF(x, axis), QPointF(x, foot - 2))
        painter.drawLine(QPointF(edge, foot - 5), QPointF(limit, foot - 5))
        words = QRectF((edge + limit) / 2 - 80, foot - 3, 160, 16)
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, window.span(self._units))
        if window.now_mm is not None:
            now = edge + way * min(window.now_mm, barrel.tube_length_mm) * scale
            painter.setPen(theme.pen(theme.STOP if window.is_too_deep else theme.ACCENT, 2.4))
            painter.drawLine(QPointF(now, axis - half), QPointF(now, axis + half))


def _end_mm(barrel: Barrel, end: str) -> float:
    """How wide the barrel is finished at an end."""
    return barrel.finished_left_mm if end == "left" else barrel.finished_right_mm
