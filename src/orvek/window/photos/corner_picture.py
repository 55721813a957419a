"""A photo with the four corners of the bar on it, to be dragged under a magnifier; or two points of a ruler."""

from __future__ import annotations

from typing import Literal

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import Corners
from orvek.window import theme
from orvek.window.widgets.fitting import fitted

_REACH, _GLASS, _TIMES = 18.0, 132, 4.0
_NAMES = (
    "upper left",
    "upper right",
    "lower right",
    "lower left",
    "one end of the ruler",
    "the other end of the ruler",
)
_WAYS: dict[int, tuple[int, int]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
Points = tuple[tuple[float, float], ...]


class CornerPicture(QWidget):
    """`moved` gives corners and ruler while one is dragged, `dropped` ends it; `picked` is the colour of a place."""

    moved = Signal(object, object)
    dropped = Signal()
    picked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._corners: Points = ()
        self._ruler: Points = ()
        self._held: int | None = None
        self._chosen = 0
        self.mode: Literal["corners", "white"] = "corners"
        self.setMinimumSize(320, 160)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Photo with the bar's corners")
        self.setToolTip("Drag the corners to the bar's. Keys: 1 to 4 choose one, arrows move it, with Shift further")

    def show_photo(self, image: QImage | None, corners: Corners, ruler: Points = ()) -> None:
        """Show a photo, its corners, and a ruler's ends where one is laid on it."""
        self._image, self._corners, self._ruler = image, corners, ruler
        self._chosen = min(self._chosen, len(corners) + len(ruler) - 1)
        self._describe()
        self.update()

    def set_mode(self, mode: Literal["corners", "white"]) -> None:
        """Whether a press drags a corner or takes a colour."""
        self.mode = mode
        self.setCursor(Qt.CursorShape.CrossCursor if mode == "white" else Qt.CursorShape.ArrowCursor)
        self.update()

    def handles(self) -> list[QPointF]:
        """Where the corners and the ruler's ends are painted."""
        return [self._at(point) for point in (*self._corners, *self._ruler)]

    def at(self, part: tuple[float, float]) -> QPointF:
        """Where a place of the photo is painted."""
        return self._at(part)

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._image is None:
            return
        if self.mode == "white":
            self._pick(event.position())
            return
        far = [(handle - event.position()).manhattanLength() for handle in self.handles()]
        nearest = far.index(min(far))
        if far[nearest] < 2 * _REACH:
            self._held = self._chosen = nearest
            self._drag(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._drag(event.position())
        elif self.mode == "corners" and self._image is not None:
            near = any((handle - event.position()).manhattanLength() < _REACH for handle in self.handles())
            self.setCursor(Qt.CursorShape.SizeAllCursor if near else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.dropped.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(self.handles()):
            self._chosen = number
            self._describe()
            self.update()
            return
        way = _WAYS.get(event.key())
        if way is None or self._image is None or not self.handles():
            super().keyPressEvent(event)
            return
        steps = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        x, y = (*self._corners, *self._ruler)[self._chosen]
        self._put(self._chosen, x + way[0] * steps / self._image.width(), y + way[1] * steps / self._image.height())
        self.dropped.emit()

    def _pick(self, point: QPointF) -> None:
        """The colour of a small patch, so that one dot of noise does not speak for it."""
        assert self._image is not None
        part = self._part(point)
        x, y = int(part[0] * self._image.width()), int(part[1] * self._image.height())
        if not self._image.rect().contains(x, y):
            return
        patch = self._image.copy(x - 4, y - 4, 9, 9).scaled(
            1, 1, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        self.picked.emit(patch.pixelColor(0, 0).name())

    def _drag(self, point: QPointF) -> None:
        assert self._held is not None
        self._put(self._held, *self._part(point))

    def _put(self, handle: int, x: float, y: float) -> None:
        place = (min(1.5, max(-0.5, x)), min(1.5, max(-0.5, y)))
        points = [*self._corners, *self._ruler]
        points[handle] = place
        self._corners, self._ruler = tuple(points[:4]), tuple(points[4:])
        self.moved.emit(self._corners, self._ruler)
        self._describe()
        self.update()

    def _describe(self) -> None:
        if self._image is not None and self.handles():
            x, y = (*self._corners, *self._ruler)[self._chosen]
            where = f"{100 * x:.1f} % across, {100 * y:.1f} % down"
            self.setAccessibleDescription(f"{_NAMES[self._chosen]} in hand, {where}")

    # -- painting ----------------------------------------------------------------------------------------------

    def _area(self) -> QRectF:
        assert self._image is not None
        return fitted(self._image.width(), self._image.height(), QRectF(self.rect().adjusted(1, 1, -1, -1)))

    def _at(self, part: tuple[float, float]) -> QPointF:
        if self._image is None:
            return QPointF()
        area = self._area()
        return QPointF(area.left() + part[0] * area.width(), area.top() + part[1] * area.height())

    def _part(self, point: QPointF) -> tuple[float, float]:
        area = self._area()
        return (point.x() - area.left()) / area.width(), (point.y() - area.top()) / area.height()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._image is None:
            painter.setPen(theme.pen(theme.HAIRLINE, 1, Qt.PenStyle.DashLine))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
            painter.setPen(theme.QUIET)
            painter.setFont(theme.font(theme.BODY))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Drop photos of the bar here, or add them.")
            return
        if self._held is None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self._area(), self._image)
        points = self.handles()
        painter.setPen(theme.pen(theme.PAPER, 3))
        painter.drawPolygon(QPolygonF(points[:4]))
        painter.setPen(theme.pen(theme.ACCENT, 1.4))
        painter.drawPolygon(QPolygonF(points[:4]))
        painter.setPen(theme.pen(theme.ACCENT, 5))
        painter.drawLine(points[0], points[3])  # the bar's left end
        if len(points) == 6:
            painter.setPen(theme.pen(theme.CAUTION, 2))
            painter.drawLine(points[4], points[5])
        self._paint_handles(painter, points)
        self._paint_left(painter, points)
        if self._held is not None:
            self._paint_glass(painter, points[self._held])

    def _paint_handles(self, painter: QPainter, points: list[QPointF]) -> None:
        for n, point in enumerate(points):
            is_chosen = n == self._chosen and (self.hasFocus() or self._held is not None)
            painter.setPen(theme.pen(theme.ACCENT, 3 if is_chosen else 1.6))
            painter.setBrush(theme.PAPER if n < 4 else theme.PANEL)
            painter.drawEllipse(point, 7 if is_chosen else 5.5, 7 if is_chosen else 5.5)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_left(self, painter: QPainter, points: list[QPointF]) -> None:
        middle, across = (points[0] + points[3]) / 2, points[0] - points[1]
        away = across / max(1.0, (across.x() ** 2 + across.y() ** 2) ** 0.5)
        place = middle + away * 40
        box = QRectF(place.x() - 31, place.y() - 10, 62, 20)
        box.moveLeft(min(max(2.0, box.left()), self.width() - 64.0))
        box.moveTop(min(max(2.0, box.top()), self.height() - 22.0))
        painter.fillRect(box, theme.PAPER)
        painter.setPen(theme.INK)
        painter.setFont(theme.font(theme.SMALL))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "left end")

    def _paint_glass(self, painter: QPainter, point: QPointF) -> None:
        """The magnifier, in the corner of the widget that the hand is not in."""
        assert self._image is not None
        left = 8.0 if point.x() > self.width() / 2 else self.width() - _GLASS - 8.0
        top = 8.0 if point.y() > self.height() / 2 else self.height() - _GLASS - 8.0
        glass, area = QRectF(left, top, _GLASS, _GLASS), self._area()
        scale = self._image.width() / area.width()
        side = _GLASS / _TIMES * scale
        x, y = (point.x() - area.left()) * scale, (point.y() - area.top()) * scale
        painter.fillRect(glass, theme.PANEL)
        painter.setClipRect(glass)
        painter.drawImage(glass, self._image, QRectF(x - side / 2, y - side / 2, side, side))
        painter.setClipping(False)
        painter.setPen(theme.pen(theme.PAPER, 3))
        centre = glass.center()
        for pen in (theme.pen(theme.PAPER, 3), theme.pen(theme.ACCENT, 1)):
            painter.setPen(pen)
            painter.drawLine(QPointF(centre.x(), glass.top()), QPointF(centre.x(), glass.bottom()))
            painter.drawLine(QPointF(glass.left(), centre.y()), QPointF(glass.right(), centre.y()))
            painter.drawRect(glass)
