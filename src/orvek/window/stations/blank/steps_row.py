"""The steps as small pictures in the order of the hands, each showing the bar after it.

A click chooses a step, a drag puts it elsewhere. With the focus here: arrows choose, Ctrl with arrows moves, Delete
removes, Ctrl+D copies.
"""

from __future__ import annotations

from collections.abc import Hashable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from orvek.documents import step_line
from orvek.planning import Plan
from orvek.window import theme
from orvek.window.surface import Surface

_WIDE, _GAP, _TALL = 124, 12, 34


class StepsRow(QWidget):
    """Small pictures, left to right."""

    chosen = Signal(int)
    moved = Signal(int, int)
    copied = Signal(int)
    removed = Signal(int)

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._index = 0
        self._seen: Hashable = None
        self._held: int | None = None
        self._drop: int | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(_TALL + 34)
        self.setAccessibleName("Steps, in the order of work")

    def show_plan(self, plan: Plan, index: int) -> None:
        """Show a plan's steps, one of them chosen."""
        self._plan = plan
        seen = (self._surface.seen(plan), index)
        if seen == self._seen:
            return
        self._seen, self._index = seen, index
        words = ", ".join(
            f"{n} {step_line(step, plan.units, plan.job.blank.materials)}"
            for n, step in enumerate(plan.job.blank.steps, 1)
        )
        self.setAccessibleDescription(words)
        self.setMinimumWidth(self.sizeHint().width())
        self.update()

    def sizeHint(self) -> QSize:
        count = len(self._plan.job.blank.steps) if self._plan else 1
        return QSize(count * (_WIDE + _GAP), _TALL + 34)

    def place(self, index: int) -> QRectF:
        """Where a step's picture is."""
        return QRectF(2 + index * (_WIDE + _GAP), 3, _WIDE, _TALL)

    def _at(self, point: QPointF) -> int | None:
        index = int(point.x() // (_WIDE + _GAP))
        count = len(self._plan.job.blank.steps) if self._plan else 0
        return index if 0 <= index < count else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = self._at(event.position())
        if index is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = index
            self.chosen.emit(index)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            drop = self._at(event.position())
            self._drop = drop if drop != self._held else None
            self.update()

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        held, drop, self._held, self._drop = self._held, self._drop, None, None
        if held is not None and drop is not None:
            self.moved.emit(held, drop)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        count = len(self._plan.job.blank.steps) if self._plan else 0
        ways: dict[int, int] = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        step = ways.get(event.key())
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if step is not None and 0 <= self._index + step < count:
            if control:
                self.moved.emit(self._index, self._index + step)
            else:
                self.chosen.emit(self._index + step)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit(self._index)
        elif event.key() == Qt.Key.Key_D and control:
            self.copied.emit(self._index)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for index, step in enumerate(self._plan.job.blank.steps):
            area = self.place(index)
            if not area.adjusted(-_GAP, -_GAP, _GAP, 30).intersects(QRectF(event.rect())):
                continue  # of two hundred steps only those in sight are computed
            image = self._surface.face(self._plan, 2 * _WIDE, 2 * _TALL, upto=index + 1)
            painter.setOpacity(0.35 if index == self._held and self._drop is not None else 1.0)
            if image is None:
                painter.fillRect(area, theme.BLANK)
            else:
                painter.drawImage(area, image)
            is_chosen = index == self._index
            painter.setPen(theme.pen(theme.ACCENT if is_chosen else theme.HAIRLINE, 2.2 if is_chosen else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(area)
            painter.setOpacity(1.0)
            painter.setFont(theme.bold(theme.SMALL) if is_chosen else theme.font(theme.SMALL))
            painter.setPen(theme.INK if is_chosen else theme.QUIET)
            words = painter.fontMetrics().elidedText(
                f"{index + 1}  {step_line(step, self._plan.units, self._plan.job.blank.materials)}",
                Qt.TextElideMode.ElideRight,
                _WIDE,
            )
            painter.drawText(QRectF(area.left(), area.bottom() + 5, _WIDE, 18), Qt.AlignmentFlag.AlignVCenter, words)
        if self._drop is not None and self._held is not None:
            area = self.place(self._drop)
            x = area.left() - _GAP / 2 if self._drop < self._held else area.right() + _GAP / 2
            painter.setPen(theme.pen(theme.ACCENT, 3))
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
        if self.hasFocus():
            painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DotLine))
            painter.drawRect(self.place(self._index).adjusted(-2, -2, 2, 2))
