"""A slab from above with the bars laid over it: dragged, turned by the wheel, moved and turned by keys.

In the other modes its edge, knots and cracks are marked: a press takes hold of a mark or makes one, a drag moves it.
"""

from __future__ import annotations

import math

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.window import theme
from orvek.window.widgets.fitting import fitted
from orvek.workpiece import slab_marks
from orvek.workpiece.slab import Slab, SlabBar
from orvek.workpiece.slab_cuts import SlabCut

_MARGIN, _NUDGE_MM, _TURN_DEG, _SIZE_MM = 14, 0.5, 1.0, 0.5
_NEAR_PX, _HANDLE_PX = 10, 4
MODES: dict[str, slab_marks.Marks | None] = {
    "Lay bars": None, "Mark its edge": "edge", "Mark knots and holes": "spots", "Mark cracks": "cracks",
}  # fmt: skip
HINTS = {
    None: "Drag a bar; the wheel turns it. Keys: N the next bar, arrows move it, + and - turn it",
    "edge": "Drag a corner; press between two for one more; Delete takes it away. Keys: N the next, arrows move it",
    "spots": "Press on a knot or hole and drag it as large as it is; the wheel, + and - size it; Delete takes it away",
    "cracks": "Press where a crack begins and drag to its end; the wheel, + and - make it wider; Delete takes it away",
}
_WAYS: dict[int, tuple[float, float]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class SlabPicture(QWidget):
    """`moved` is a bar's number and the bar as it lies now; `chosen` the number of the one in hand.

    `marked` is the slab as it is marked now; `released` follows when the hand lets go of a mark.
    """

    moved = Signal(int, object)
    chosen = Signal(int)
    marked = Signal(object)
    released = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._slab = Slab(130, 60)
        self._image: QImage | None = None
        self._bars: tuple[SlabBar, ...] = ()
        self._cuts: tuple[SlabCut, ...] = ()
        self._bad: frozenset[int] = frozenset()
        self._index = 0
        self._grip: tuple[float, float] | None = None
        self._marks: slab_marks.Marks | None = None
        self._handle = 0
        self._is_sizing = False
        self._cut = -1
        self.setMinimumSize(360, 220)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The slab from above, with its bars")
        self.set_marks(None)

    def show_slab(self, slab: Slab, image: QImage | None) -> None:
        """Show another slab; a mark in hand that it has no more is let go."""
        self._slab, self._image = slab, image
        self._hold()
        self.update()

    def show_bars(self, bars: tuple[SlabBar, ...], cuts: tuple[SlabCut, ...], bad: frozenset[int], index: int) -> None:
        """Show where the bars lie, the saw's lines, which bars cannot be, and which one is in hand."""
        self._bars, self._cuts, self._bad, self._index = bars, cuts, bad, index
        told = f"{len(bars)} bars, number {index + 1} in hand" if bars else "no bar yet"
        self.setAccessibleDescription(f"{told}; {len(bad)} in the way" if bad else told)
        self.update()

    def set_marks(self, marks: slab_marks.Marks | None) -> None:
        """What the hand marks from now on; None: it lays bars."""
        self._marks, self._handle, self._grip = marks, 0, None
        self.setToolTip(HINTS[marks])
        self.update()

    def show_cut(self, number: int) -> None:
        """Show the saw list up to a cut, that one boldly; -1: all of it."""
        self._cut = number
        self.update()

    def at(self, x_mm: float, y_mm: float) -> QPointF:
        """Where a place of the slab is painted."""
        area, scale = self._area(), self._scale()
        return QPointF(area.left() + x_mm * scale, area.top() + y_mm * scale)

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x, y = self._place(event.position())
        if self._marks is not None:
            self._take_mark((x, y), event.button() == Qt.MouseButton.RightButton)
            return
        under = next((n for n in reversed(range(len(self._bars))) if self._bars[n].holds(x, y)), None)
        if under is not None:
            self._index = under
            self._grip = x - self._bars[under].x_mm, y - self._bars[under].y_mm
            self.chosen.emit(under)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is None:
            return
        x, y = self._place(event.position())
        if self._marks is not None:
            self._drag_mark(x - self._grip[0], y - self._grip[1])
        else:
            self._put(x - self._grip[0], y - self._grip[1], 0.0)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._grip is not None and self._marks is not None:
            self.released.emit()
        self._grip = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        way = 1.0 if event.angleDelta().y() < 0 else -1.0
        if self._marks is not None:
            self._size_mark(-way * _SIZE_MM)
        elif self._bars:
            bar = self._bars[self._index]
            self._put(bar.x_mm, bar.y_mm, way * _TURN_DEG)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = _WAYS.get(event.key())
        if self._marks is not None:
            if not self._mark_key(event, way):
                super().keyPressEvent(event)
        elif not self._bars:
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

    # -- marks -------------------------------------------------------------------------------------------------

    def _take_mark(self, place: tuple[float, float], is_off: bool) -> None:
        """Take hold of the nearest mark, or of a new one; `is_off`: take it away."""
        assert self._marks is not None
        near_mm = _NEAR_PX / self._scale()
        handles = slab_marks.handles(self._slab, self._marks)
        reach = [math.dist(place, one) for one in handles]
        sizes = [slab_marks.size_mm(self._slab, self._marks, n) / 2 for n in range(len(handles))]
        within = [n for n in range(len(handles)) if reach[n] <= max(near_mm, sizes[n])]
        nearest = min(within, key=lambda n: reach[n], default=None)
        if is_off:
            if nearest is not None:
                self._handle = nearest
                self._remove_mark()
            return
        if nearest is None:
            made = slab_marks.added(self._slab, self._marks, (round(place[0], 1), round(place[1], 1)), near_mm)
            if made is None:
                return
            slab, self._handle = made
            self._grip, self._is_sizing = (0.0, 0.0), self._marks == "spots"
            self.marked.emit(slab)
            return
        self._handle = nearest
        at = handles[nearest]
        self._grip = place[0] - at[0], place[1] - at[1]
        self._is_sizing = self._marks == "spots" and reach[nearest] > 0.6 * max(near_mm, sizes[nearest])
        self.update()

    def _drag_mark(self, x_mm: float, y_mm: float) -> None:
        if self._marks is None or not self._has_mark():
            return  # it could not be made: there are as many as a slab can have
        if self._is_sizing:
            assert self._grip is not None
            middle = slab_marks.handles(self._slab, self._marks)[self._handle]
            hand = x_mm + self._grip[0], y_mm + self._grip[1]
            self.marked.emit(slab_marks.sized(self._slab, self._marks, self._handle, 2 * math.dist(middle, hand)))
        else:
            self.marked.emit(slab_marks.moved(self._slab, self._marks, self._handle, (x_mm, y_mm)))

    def _size_mark(self, by_mm: float) -> None:
        if self._marks is not None and self._has_mark():
            size = slab_marks.size_mm(self._slab, self._marks, self._handle) + by_mm
            self.marked.emit(slab_marks.sized(self._slab, self._marks, self._handle, size))
            self.released.emit()

    def _remove_mark(self) -> None:
        if self._marks is not None and self._has_mark():
            slab = slab_marks.removed(self._slab, self._marks, self._handle)
            self._handle = max(0, min(self._handle, len(slab_marks.handles(slab, self._marks)) - 1))
            self.marked.emit(slab)
            self.released.emit()

    def _hold(self) -> None:
        """Keep in hand what there is: a mark may be gone, or could not be made."""
        if self._marks is not None:
            self._handle = max(0, min(self._handle, len(slab_marks.handles(self._slab, self._marks)) - 1))

    def _has_mark(self) -> bool:
        return self._marks is not None and self._handle < len(slab_marks.handles(self._slab, self._marks))

    def _mark_key(self, event: QKeyEvent, way: tuple[float, float] | None) -> bool:
        """A key that marks; whether it was one."""
        assert self._marks is not None
        self._hold()
        places = slab_marks.handles(self._slab, self._marks)
        if event.key() == Qt.Key.Key_Insert:
            self._insert_mark(places)
        elif not places:
            return False
        elif event.key() == Qt.Key.Key_N:
            self._handle = (self._handle + 1) % len(places)
            self.update()
        elif event.key() in {Qt.Key.Key_Delete, Qt.Key.Key_Backspace}:
            self._remove_mark()
        elif event.text() in {"+", "-"}:
            self._size_mark(_SIZE_MM if event.text() == "+" else -_SIZE_MM)
        elif way is not None:
            many = _NUDGE_MM * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
            x, y = places[self._handle]
            self.marked.emit(
                slab_marks.moved(self._slab, self._marks, self._handle, (x + way[0] * many, y + way[1] * many))
            )
            self.released.emit()
        else:
            return False
        return True

    def _insert_mark(self, places: tuple[tuple[float, float], ...]) -> None:
        """One more by the keyboard: after the corner in hand, else in the slab's middle."""
        assert self._marks is not None
        place = self._slab.length_mm / 2, self._slab.width_mm / 2
        if self._marks == "edge":
            a, b = places[self._handle], places[(self._handle + 1) % len(places)]
            place = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
        made = slab_marks.added(self._slab, self._marks, place)
        if made is not None:
            slab, self._handle = made
            self.marked.emit(slab)
            self.released.emit()

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
        self._paint_marks(painter)
        for number, bar in enumerate(self._bars):
            self._paint_bar(painter, number, bar)
        self._paint_cuts(painter)
        self._paint_handles(painter)

    def _paint_marks(self, painter: QPainter) -> None:
        scale = self._scale()
        if self._slab.outline:
            edge = QPolygonF([self.at(*place) for place in self._slab.outline])
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for colour, width in ((theme.PAPER, 4.0), (theme.INK, 1.6)):
                painter.setPen(theme.pen(colour, width))
                painter.drawPolygon(edge)
        for x0, y0, x1, y1, width in self._slab.cracks:
            for colour, more in ((theme.PAPER, 2.0), (theme.INK, 0.0)):
                stroke = theme.pen(colour, max(1.5, width * scale) + more)
                stroke.setCapStyle(Qt.PenCapStyle.RoundCap)
                painter.setPen(stroke)
                painter.drawLine(self.at(x0, y0), self.at(x1, y1))
        painter.setPen(theme.pen(theme.INK, 1.6))
        painter.setBrush(theme.hatching())
        for x, y, size in self._slab.bad:
            painter.drawEllipse(self.at(x, y), size / 2 * scale, size / 2 * scale)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_cuts(self, painter: QPainter) -> None:
        """The saw's lines, each with its number at its beginning; played back, up to one that is bold."""
        shown = self._cuts if self._cut < 0 else self._cuts[: self._cut + 1]
        for number, cut in enumerate(shown):
            in_hand = number == self._cut
            style = Qt.PenStyle.SolidLine if in_hand else Qt.PenStyle.DashLine
            for ends in cut.parts:
                begin, end = self.at(*ends[0]), self.at(*ends[1])
                painter.setPen(theme.pen(theme.PAPER, 4 if in_hand else 2))
                painter.drawLine(begin, end)
                painter.setPen(theme.pen(theme.STOP if in_hand else theme.INK, 2.4 if in_hand else 1, style))
                painter.drawLine(begin, end)
                if in_hand:
                    self._paint_number(painter, begin, number + 1)

    def _paint_handles(self, painter: QPainter) -> None:
        """The places of the marks in hand that can be dragged; the one that keys move is filled."""
        if self._marks is None:
            return
        for n, place in enumerate(slab_marks.handles(self._slab, self._marks)):
            in_hand = n == self._handle
            painter.setPen(theme.pen(theme.PAPER if in_hand else theme.ACCENT, 1.6))
            painter.setBrush(theme.ACCENT if in_hand else theme.PAPER)
            radius = _HANDLE_PX + 2 if in_hand else _HANDLE_PX
            painter.drawEllipse(self.at(*place), radius, radius)
        painter.setBrush(Qt.BrushStyle.NoBrush)

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
        painter.setPen(theme.INK)
        self._paint_number(painter, middle, number + 1)

    def _paint_number(self, painter: QPainter, at: QPointF, number: int) -> None:
        tag = QRectF(at.x() - 11, at.y() - 9, 22, 18)
        painter.fillRect(tag, theme.PAPER)
        painter.setFont(theme.bold(theme.SMALL))
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, str(number))
