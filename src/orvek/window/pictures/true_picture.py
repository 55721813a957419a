"""A barrel as it is held: the stack on the mandrel, and both ends from the tailstock, what is off much enlarged."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.finish.results import HoldPlan, TrueEnd, TruePlan
from orvek.quantities import Units
from orvek.window import theme

_STACK_PX, _FULL = 44, 0.42  # of the circle's radius: how far the most that is off is drawn


class TruePicture(QWidget):
    """Offsets are drawn as large as they can be; their sizes stand beside them."""

    def __init__(self) -> None:
        super().__init__()
        self._true: TruePlan | None = None
        self._hold: HoldPlan | None = None
        self._units = Units()
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Does it run true")

    def show_true(self, true: TruePlan, hold: HoldPlan | None, units: Units) -> None:
        """Show a barrel, and what holds it."""
        self._true, self._hold, self._units = true, hold, units
        told = (f"{end.name} end {self._words(end)}" for end in true.ends)
        self.setAccessibleDescription("; ".join(told))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        true = self._true
        if true is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        top = self._paint_stack(painter) if self._hold is not None else 8
        high = self.height() - top - 40
        radius = min(high / 2 / (1 + _FULL), self.width() / 8)
        for number, end in enumerate(true.ends):
            middle = QPointF(self.width() * (0.27 if number == 0 else 0.73), top + 20 + high / 2)
            self._paint_end(painter, end, middle, radius, true.most_mm)

    def _paint_stack(self, painter: QPainter) -> float:
        """Bushings, barrels, spacers and nut from the headstock on."""
        assert self._hold is not None
        painter.setFont(theme.font(theme.SMALL))
        names = self._hold.stack
        metrics = painter.fontMetrics()
        wide = [metrics.horizontalAdvance(name) + 18 for name in names]
        x, y = (self.width() - sum(wide)) / 2, 8.0
        painter.setPen(theme.pen(theme.QUIET, 2))
        middle = y + (_STACK_PX - 12) / 2
        painter.drawLine(QPointF(x - 24, middle), QPointF(x + sum(wide) + 24, middle))
        for name, across in zip(names, wide, strict=True):
            is_barrel = name not in {"bushing", "nut"} and not name.startswith("spacer")
            tall = _STACK_PX - 12 if is_barrel else _STACK_PX - 22
            box = QRectF(x, middle - tall / 2, across - 2, tall)
            painter.setPen(theme.pen(theme.INK if is_barrel else theme.QUIET, 1.2))
            painter.setBrush(theme.MOULD if is_barrel else theme.PAPER)
            painter.drawRect(box)
            painter.setPen(theme.INK)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
            x += across
        painter.setBrush(Qt.BrushStyle.NoBrush)
        return y + _STACK_PX

    def _paint_end(self, painter: QPainter, end: TrueEnd, middle: QPointF, radius: float, most_mm: float) -> None:
        """The axis as a cross, the barrel's end as a circle off it, an arrow to its high side."""
        painter.setPen(theme.pen(theme.HAIRLINE, 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(middle, radius, radius)
        for dx, dy in ((1, 0), (0, 1)):
            painter.drawLine(middle - QPointF(dx, dy) * radius * 1.15, middle + QPointF(dx, dy) * radius * 1.15)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        mark = QRectF(middle.x() - 40, middle.y() - radius * (1 + _FULL) - 12, 80, 16)
        painter.drawText(mark, Qt.AlignmentFlag.AlignCenter, "mark")
        if end.off is not None and most_mm > 0:
            turn = math.radians(end.direction_deg)
            way = QPointF(math.sin(turn), -math.cos(turn))  # the mark is up, angles run clockwise
            off = way * (radius * _FULL * end.off.value / most_mm)
            painter.setPen(theme.pen(theme.ACCENT, 2))
            painter.drawEllipse(middle + off, radius, radius)
            painter.setPen(theme.pen(theme.STOP, 2.4))
            painter.drawLine(middle, middle + off)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold(theme.SMALL))
        below = QRectF(middle.x() - 150, self.height() - 22, 300, 18)
        painter.drawText(below, Qt.AlignmentFlag.AlignCenter, f"{end.name} end: {self._words(end)}")

    def _words(self, end: TrueEnd) -> str:
        return f"{end.off.written(self._units)} off" if end.off is not None else "not read"
