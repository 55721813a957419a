"""The cups as columns side by side, each as wide as its share; a boundary is dragged to share out anew.

The arrow keys move the chosen boundary by 1 % (with Shift 5 %); Up and Down choose another.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.pouring import ROOM_TO_STIR
from orvek.planning import CupPlan, Plan
from orvek.planning.words import weighed
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_TOP, _FOOT, _SIDE = 30, 46, 12


class CupsPicture(QWidget):
    """The whole mix, divided."""

    moving = Signal(int, float)
    moved = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._units = Units()
        self._held: int | None = None
        self._chosen = 0
        self.setMinimumSize(300, 150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The cups and their shares")

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's cups."""
        self._plan, self._units = plan, units
        self._chosen = min(self._chosen, max(0, len(self._cups()) - 2))
        self.setAccessibleDescription(", ".join(f"{c.name} {c.share_pct.written(units)}" for c in self._cups()))
        self.update()

    def boundary(self, index: int) -> QPointF:
        """Where the boundary to the right of a cup is taken hold of, in pixels."""
        area = self._area()
        share = sum(cup.share_pct.value for cup in self._cups()[: index + 1])
        return QPointF(area.left() + area.width() * share / 100, area.center().y())

    def _cups(self) -> tuple[CupPlan, ...]:
        return self._plan.mixture.cups if self._plan and self._plan.mixture else ()

    def _area(self) -> QRectF:
        return QRectF(_SIDE, _TOP, self.width() - 2 * _SIDE - 12, self.height() - _TOP - _FOOT)

    # -- hands -------------------------------------------------------------------------------------------------

    def _boundary_at(self, point: QPointF) -> int | None:
        near = [i for i in range(len(self._cups()) - 1) if abs(self.boundary(i).x() - point.x()) < 9]
        return near[0] if near and self._area().top() - 8 < point.y() < self._area().bottom() + 8 else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._held = self._boundary_at(event.position()) if event.button() == Qt.MouseButton.LeftButton else None
        if self._held is not None:
            self._chosen = self._held
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            over = self._boundary_at(event.position()) is not None
            self.setCursor(Qt.CursorShape.SplitHCursor if over else Qt.CursorShape.ArrowCursor)
            return
        area = self._area()
        place = 100 * (event.position().x() - area.left()) / area.width()
        before = sum(cup.share_pct.value for cup in self._cups()[: self._held])
        self.moving.emit(self._held, round(place - before))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.moved.emit("Share out the resin")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways: dict[int, int] = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        others: dict[int, int] = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        boundaries = len(self._cups()) - 1
        if boundaries < 1:
            super().keyPressEvent(event)
        elif event.key() in ways:
            step = 5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            self.moving.emit(self._chosen, self._cups()[self._chosen].share_pct.value + ways[event.key()] * step)
            self.moved.emit("Share out the resin")
        elif event.key() in others:
            self._chosen = (self._chosen + others[event.key()]) % boundaries
            self.update()
        else:
            super().keyPressEvent(event)

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area, left = self._area(), self._area().left()
        for number, cup in enumerate(self._cups(), 1):
            width = area.width() * cup.share_pct.value / 100
            self._paint_cup(painter, number, cup, QRectF(left, area.top(), width, area.height()))
            left += width
        for index in range(len(self._cups()) - 1):
            self._paint_boundary(painter, index)

    def _paint_cup(self, painter: QPainter, number: int, cup: CupPlan, column: QRectF) -> None:
        """The column in the cup's colour, its share above, its mixing cup below."""
        colour = QColor(cup.colour)
        painter.fillRect(column, colour)
        painter.setPen(theme.pen(theme.INK, 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(column)
        painter.setFont(theme.bold(theme.SMALL))
        painter.setPen(theme.INK)
        painter.drawText(
            QRectF(column.left(), column.top() - 22, column.width(), 18),
            Qt.AlignmentFlag.AlignCenter,
            cup.share_pct.written(self._units) if column.width() > 56 else f"{cup.share_pct.value:.0f} %",
        )
        painter.setPen(QColor(theme.ON_DARK if colour.lightnessF() < 0.55 else theme.ON_LIGHT))
        inside = column.adjusted(6, 8, -6, -6)
        if column.width() > 64:
            self._paint_words(painter, number, cup, inside)
        else:
            painter.drawText(inside, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, str(number))
        self._paint_vessel(painter, cup, QRectF(column.left(), column.bottom() + 8, column.width(), 8))

    def _paint_words(self, painter: QPainter, number: int, cup: CupPlan, inside: QRectF) -> None:
        assert self._plan is not None
        metrics = painter.fontMetrics()
        name = metrics.elidedText(f"{number}  {cup.name}", Qt.TextElideMode.ElideRight, int(inside.width()))
        painter.drawText(inside, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, name)
        painter.setFont(theme.bold(theme.LARGE if inside.width() > 84 else theme.SMALL))
        mass = weighed(cup.mass_g.value, self._plan.job.pour.scale.resolution_g, self._units)
        painter.drawText(inside, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom, mass)

    def _paint_vessel(self, painter: QPainter, cup: CupPlan, gauge: QRectF) -> None:
        """How full the mixing cup is: the mark is where stirring gets hard."""
        gauge = gauge.adjusted(1, 0, -1, 0)
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.PANEL)
        painter.drawRect(gauge)
        full = min(1.0, cup.filled)
        painter.fillRect(
            QRectF(gauge.left(), gauge.top(), gauge.width() * full, gauge.height()),
            theme.STOP if cup.filled > 1 else theme.CAUTION if cup.filled > ROOM_TO_STIR else theme.ACCENT,
        )
        mark = gauge.left() + gauge.width() * ROOM_TO_STIR
        painter.setPen(theme.pen(theme.INK, 1))
        painter.drawLine(QPointF(mark, gauge.top() - 2), QPointF(mark, gauge.bottom() + 2))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        volume = f"{cup.volume_ml.value:.0f}"
        words = "chips" if cup.is_solid else f"{volume} of {write(cup.vessel_ml, Dimension.VOLUME, self._units, 0)} cup"
        if painter.fontMetrics().horizontalAdvance(words) > gauge.width():
            words = f"{volume}/{cup.vessel_ml:.0f}" if gauge.width() > 48 else ""
        painter.drawText(
            QRectF(gauge.left(), gauge.bottom() + 4, gauge.width(), 18), Qt.AlignmentFlag.AlignCenter, words
        )

    def _paint_boundary(self, painter: QPainter, index: int) -> None:
        point, area = self.boundary(index), self._area()
        chosen = index == self._chosen and (self.hasFocus() or self._held is not None)
        painter.setPen(theme.pen(theme.PANEL, 3))
        painter.drawLine(QPointF(point.x(), area.top()), QPointF(point.x(), area.bottom()))
        painter.setPen(theme.pen(theme.ACCENT, 2.6 if chosen else 1.6))
        painter.setBrush(theme.ACCENT if chosen else theme.PANEL)
        painter.drawEllipse(point, 6, 6)
