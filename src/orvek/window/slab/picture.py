"""A slab from above with the bars laid over it: dragged, turned by the wheel, moved and turned by keys."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.window import theme
from orvek.window.widgets.fitting import fitted
from orvek.workpiece.slab import Slab, SlabBar, SlabCut

_MARGIN, _NUDGE_MM, _TURN_DEG = 14, 0.5, 1.0
_WAYS: dict[int, tuple[float, float]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class SlabPicture(QWidget):
    """`moved` is a bar's number and the bar as it lies now; `chosen` the number of the one in hand."""

    moved = Signal(int, object)
    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._slab = Slab(130, 60)
        self._image: QImage | None = None
        self._bars: tuple[SlabBar, ...] = ()
        self._cuts: tuple[SlabCut, ...] = ()
        self._bad: frozenset[int] = frozenset()
        self._index = 0
        self._grip: tuple[float, float] | None = None
        self.setMinimumSize(360, 220)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The slab from above, with its bars")
        self.setToolTip("Drag a bar; the wheel turns it. Keys: N the next bar, arrows move it, + and - turn it")

    def show_slab(self, slab: Slab, image: QImage | None) -> None:
        """Show another slab."""
        self._slab, self._image = slab, image
        self.update()

    def show_bars(self, bars: tuple[SlabBar, ...], cuts: tuple[SlabCut, ...], bad: frozenset[int], index: int) -> None:
        """Show where the bars lie, the saw's lines, which bars cannot be, and which one is in hand."""
        self._bars, self._cuts, self._bad, self._index = bars, cuts, bad, index
        told = f"{len(bars)} bars, number {index + 1} in hand" if bars else "no bar yet"
        self.setAccessibleDescription(f"{told}; {len(bad)} in the way" if bad else told)
        self.update()

    def at(self, x_mm: float, y_mm: float) -> QPointF:
        """Where a place of the slab is painted."""
        area, scale = self._area(), self._scale()
        return QPointF(area.left() + x_mm * scale, area.top() + y_mm * scale)

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x, y = self._place(event.position())
        under = next((n for n in reversed(range(len(self._bars))) if self._bars[n].holds(x, y)), None)
        if under is not None:
            self._index = under
            self._grip = x - self._bars[under].x_mm, y - self._bars[under].y_mm
            self.chosen.emit(under)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None:
            x, y = self._place(event.position())
            self._put(x - self._grip[0], y - self._grip[1], 0.0)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._grip = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self._bars:
            bar = self._bars[self._index]
            self._put(bar.x_mm, bar.y_mm, _TURN_DEG if event.angleDelta().y() < 0 else -_TURN_DEG)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = _WAYS.get(event.key())
        if not self._bars:
            super().keyPressEvent(event)
        elif event.key() == Qt.Key.Key_N:
            self.chosen.emit((self._index + 1) % len(self._bars))
        elif way is not None:
            bar, many = self._bars[self._index], 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            self._put(bar.x_mm + way[0] * _NUDGE_MM * many, bar.y_mm + way[1] * _NUDGE_MM * many, 0.0)
        elif event.text() in {"+", "-"}:
            bar = self._bars[self._index]
            self._put(bar.x_mm, bar.y_mm, _TURN_DEG if event.text() == "+" else -_TURN_DEG)
        else:
            super().keyPressEvent(event)

    def _put(self, x_mm: float, y_mm: float, turn_deg: float) -> None:
        bar = self._bars[self._index]
        x, y = min(max(0.0, x_mm), self._slab.length_mm), min(max(0.0, y_mm), self._slab.width_mm)
        turned = round(bar.angle_deg + turn_deg, 2)
        self.moved.emit(self._index, replace(bar, x_mm=round(x, 2), y_mm=round(y, 2), angle_deg=turned))

    # -- painting ----------------------------------------------------------------------------------------------

    def _scale(self) -> float:
        return self._area().width() / self._slab.length_mm

    def _area(self) -> QRectF:
        room = QRectF(self.rect().adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN))
        return fitted(self._slab.length_mm, self._slab.width_mm, room)

    def _place(self, point: QPointF) -> tuple[float, float]:
        area, scale = self._area(), self._scale()
        return (point.x() - area.left()) / scale, (point.y() - area.top()) / scale

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area = self._area()
        if self._image is None:
            painter.fillRect(area, theme.BLANK)
        else:
            painter.drawImage(area, self._image)
        painter.setPen(theme.pen(theme.INK, 1.6))
        painter.setBrush(theme.hatching())
        for x, y, size in self._slab.bad:
            painter.drawEllipse(self.at(x, y), size / 2 * self._scale(), size / 2 * self._scale())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.INK, 1, Qt.PenStyle.DashLine))
        for cut in self._cuts:
            painter.drawLine(self.at(*cut.ends[0]), self.at(*cut.ends[1]))
        for number, bar in enumerate(self._bars):
            self._paint_bar(painter, number, bar)

    def _paint_bar(self, painter: QPainter, number: int, bar: SlabBar) -> None:
        outline = QPolygonF([self.at(float(x), float(y)) for x, y in bar.corners()])
        is_bad, in_hand = number in self._bad, number == self._index
        painter.setPen(theme.pen(theme.PAPER, 4 if in_hand else 3))
        painter.drawPolygon(outline)
        painter.setPen(theme.pen(theme.STOP if is_bad else theme.ACCENT, 2.4 if in_hand else 1.2))
        if is_bad:
            painter.setBrush(theme.hatching())
        painter.drawPolygon(outline)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        middle = self.at(bar.x_mm, bar.y_mm)
        tag = QRectF(middle.x() - 11, middle.y() - 9, 22, 18)
        painter.fillRect(tag, theme.PAPER)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold(theme.SMALL))
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, str(number + 1))
