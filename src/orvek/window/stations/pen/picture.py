"""The barrels in section, to scale: finished outline, hole, brass tube and trim; the ends' sizes are dragged on it."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPolygonF, QTransform
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import Barrel, Pen
from orvek.planning import Plan
from orvek.planning.bar import bar_size
from orvek.quantities import Dimension, Units, write, write_bit
from orvek.window import theme
from orvek.window.surface import Surface

_GAP_MM = 9.0
_NARROW = 150  # pixels: both diameters, or tube and bit, need as much
_SIDE = 40
_HANDLE = 5.5
_SECTION_COLUMNS, _SECTION_ROWS = 900, 140


class Handle(Struct, frozen=True):
    """A point on the picture that can be dragged: one barrel's finished size at one end, or its tube's length."""

    barrel: int
    field: str
    point: QPointF


class PenPicture(QWidget):
    """The pen, lying down, its nib side left."""

    moving = Signal(int, str, float)
    moved = Signal(str)

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._units = Units()
        self._held: Handle | None = None
        self._held_scale = 1.0
        self._focus = 0
        self.setMinimumHeight(230)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The barrels in section")

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's pen."""
        self._plan, self._units = plan, units
        pen = plan.job.pen
        if pen:
            words = "; ".join(
                f"{b.name}: {self._mm(b.finished_left_mm)} to {self._mm(b.finished_right_mm)}" for b in pen.barrels
            )
            self.setAccessibleDescription(words)
        self.update()

    def handles(self) -> tuple[Handle, ...]:
        """Everything that can be taken hold of, from left to right."""
        pen = self._pen()
        found = []
        for index, barrel in enumerate(pen.barrels if pen else ()):
            left, right = self._x(index, 0), self._x(index, barrel.tube_length_mm)
            up_left, up_right = barrel.finished_left_mm / 2, barrel.finished_right_mm / 2
            found.append(Handle(index, "finished_left_mm", QPointF(left, self._y(up_left))))
            found.append(Handle(index, "finished_right_mm", QPointF(right, self._y(up_right))))
            found.append(Handle(index, "tube_length_mm", QPointF(right, self._y(0))))
        return tuple(found)

    # -- scale -------------------------------------------------------------------------------------------------

    def _pen(self) -> Pen | None:
        return self._plan.job.pen if self._plan else None

    def _scale(self) -> float:
        """Pixels a millimetre, the same along and across; held still while something is dragged."""
        if self._held is not None:
            return self._held_scale
        pen = self._pen()
        assert pen is not None
        along = sum(b.piece_mm for b in pen.barrels) + _GAP_MM * (len(pen.barrels) - 1)
        across = max(max(b.widest_mm, b.bit_diameter_mm) for b in pen.barrels)
        return max(0.5, min((self.width() - 2 * _SIDE) / along, (self.height() - 120) / across))

    def _x(self, index: int, z_mm: float) -> float:
        """Pixel of a place on a barrel, counted from its tube's left end."""
        pen = self._pen()
        assert pen is not None
        along = sum(b.piece_mm for b in pen.barrels) + _GAP_MM * (len(pen.barrels) - 1)
        start = (self.width() - along * self._scale()) / 2
        before = sum(b.piece_mm + _GAP_MM for b in pen.barrels[:index])
        return start + (before + pen.barrels[index].trim_mm + z_mm) * self._scale()

    def _y(self, up_mm: float) -> float:
        return self.height() / 2 - 4 - up_mm * self._scale()

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = [h for h in self.handles() if (h.point - event.position()).manhattanLength() < 16]
        if near and event.button() == Qt.MouseButton.LeftButton:
            self._held_scale = self._scale()
            self._held = min(near, key=lambda h: (h.point - event.position()).manhattanLength())
            self._focus = self.handles().index(self._held)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            near = any((h.point - event.position()).manhattanLength() < 16 for h in self.handles())
            self.setCursor(Qt.CursorShape.SizeAllCursor if near else Qt.CursorShape.ArrowCursor)
            return
        if self._held.field == "tube_length_mm":
            value = (event.position().x() - self._x(self._held.barrel, 0)) / self._scale()
        else:
            value = 2 * (self._y(0) - event.position().y()) / self._scale()
        self.moving.emit(self._held.barrel, self._held.field, round(value, 1))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.moved.emit("Drag the outline")
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        handles = self.handles()
        steps: dict[int, float] = {Qt.Key.Key_Up: 0.1, Qt.Key.Key_Down: -0.1}
        if not handles:
            super().keyPressEvent(event)
        elif event.key() in {Qt.Key.Key_Left, Qt.Key.Key_Right}:
            self._focus = (self._focus + (1 if event.key() == Qt.Key.Key_Right else -1)) % len(handles)
            self.update()
        elif event.key() in steps:
            handle = handles[min(self._focus, len(handles) - 1)]
            pen = self._pen()
            assert pen is not None
            value = getattr(pen.barrels[handle.barrel], handle.field) + steps[event.key()]
            self.moving.emit(handle.barrel, handle.field, round(value, 2))
            self.moved.emit("Nudge the outline")
        else:
            super().keyPressEvent(event)

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        pen = self._pen()
        if pen is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashDotLine))
        painter.drawLine(QPointF(16, self._y(0)), QPointF(self.width() - 16, self._y(0)))
        for index, barrel in enumerate(pen.barrels):
            self._paint_barrel(painter, index, barrel)
            self._paint_sizes(painter, index, barrel)
        for number, handle in enumerate(self.handles()):
            chosen = self.hasFocus() and number == self._focus
            painter.setPen(theme.pen(theme.ACCENT, 2.5 if chosen else 1.6))
            painter.setBrush(theme.ACCENT if chosen else theme.PANEL)
            painter.drawEllipse(handle.point, _HANDLE, _HANDLE)

    def _paint_barrel(self, painter: QPainter, index: int, barrel: Barrel) -> None:
        scale, axis = self._scale(), self._y(0)
        x0, x1 = self._x(index, 0), self._x(index, barrel.tube_length_mm)
        trim = barrel.trim_mm * scale
        places = [(x0 + part * (x1 - x0), size / 2) for part, size in barrel.profile]
        over, under = ([QPointF(x, self._y(side * half)) for x, half in places] for side in (1, -1))
        outline = [*over, *reversed(under)]
        for side, x, size in ((-1, x0, barrel.finished_left_mm), (1, x1, barrel.finished_right_mm)):
            area = QRectF(x if side > 0 else x - trim, self._y(size / 2), trim, size * scale)
            painter.fillRect(area, theme.hatching())
        self._paint_body(painter, index, barrel, outline)
        for first, last, bore in barrel.bores:
            area = QRectF(x0 + first * scale, axis - bore * scale / 2, (last - first) * scale, bore * scale)
            painter.fillRect(area, theme.PANEL)
        self._paint_brass(painter, barrel, x0, axis)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.INK, 1.4))
        painter.drawPolygon(QPolygonF(outline))

    def _paint_brass(self, painter: QPainter, barrel: Barrel, x0: float, axis: float) -> None:
        """The tube's walls, or the pin, cut open."""
        if barrel.glued_from_to_mm is None:
            return
        scale = self._scale()
        (first, last), tube = barrel.glued_from_to_mm, barrel.tube_diameter_mm * scale
        wall = max(2.0, 0.45 * scale) if barrel.has_tube else tube
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.BRASS)
        for top in {axis - tube / 2, axis + tube / 2 - wall}:
            painter.drawRect(QRectF(x0 + first * scale, top, (last - first) * scale, wall))

    def _paint_body(self, painter: QPainter, index: int, barrel: Barrel, outline: list[QPointF]) -> None:
        """The body, cut open where it lies on the bar, clipped to the outline."""
        assert self._plan is not None
        widest = barrel.widest_mm
        x0, x1 = self._x(index, 0), self._x(index, barrel.tube_length_mm)
        area = QRectF(x0, self._y(widest / 2), x1 - x0, widest * self._scale())
        painter.save()
        clip = QPainterPath()
        clip.addPolygon(QPolygonF(outline))
        painter.setClipPath(clip)
        barrel_at = self._plan.layout.tubes[index].tube if self._plan.layout else None
        image = self._surface.section(self._plan, _SECTION_COLUMNS, _SECTION_ROWS, 90.0)
        if image is None or barrel_at is None:
            painter.fillRect(area, theme.BLANK)
        else:
            _, depth, length, _ = bar_size(self._plan.layout)
            along, across = image.width() / length, image.height() / depth
            tall = widest * across
            source = QRectF(barrel_at.start_mm * along, (image.height() - tall) / 2, barrel_at.length_mm * along, tall)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            if self._plan.job.blank.is_flipped(index):
                image = image.transformed(QTransform().scale(-1, 1))
                source.moveLeft(image.width() - source.right())
            painter.drawImage(area, image, source)
        painter.restore()

    def _paint_sizes(self, painter: QPainter, index: int, barrel: Barrel) -> None:
        x0, x1 = self._x(index, 0), self._x(index, barrel.tube_length_mm)
        top, bottom = self._y(barrel.widest_mm / 2), self._y(-barrel.widest_mm / 2)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold())
        painter.drawText(QRectF(x0, top - 50, x1 - x0, 18), Qt.AlignmentFlag.AlignCenter, barrel.name)
        painter.setFont(theme.font(theme.SMALL))
        for x, size in ((x0, barrel.finished_left_mm), (x1, barrel.finished_right_mm)):
            align = Qt.AlignmentFlag.AlignLeft if x == x0 else Qt.AlignmentFlag.AlignRight
            lower = 16 if x == x1 and x1 - x0 < _NARROW else 0  # beside each other they would run together
            area = QRectF(x if x == x0 else x - 90, top - 30 + lower, 90, 16)
            painter.drawText(area, align, f"⌀ {self._mm(size)}")
        self._paint_length(painter, x0, x1, bottom + 20, self._mm(barrel.tube_length_mm))
        self._paint_inside(painter, barrel, x0, x1, bottom)

    def _paint_inside(self, painter: QPainter, barrel: Barrel, x0: float, x1: float, bottom: float) -> None:
        """What lies in the hole, and the bit: in the hole where there is room, else under the barrel."""
        painter.setPen(theme.BRASS_DARK)
        inside = QRectF(x0, self._y(0) - 17, x1 - x0, 15)
        outside = write(barrel.tube_diameter_mm, Dimension.LENGTH, self._units, 2)
        told = {"a brass tube": f"tube ⌀ {outside}", "a pin": f"pin ⌀ {outside}"}.get(barrel.inside, "no tube")
        bit = write_bit(barrel.bit_diameter_mm, self._units)
        if x1 - x0 < _NARROW or not barrel.is_through:
            under = QRectF(x0 - 60, bottom + 32, x1 - x0 + 120, 16)
            painter.drawText(under, Qt.AlignmentFlag.AlignCenter, f"{told}, bit {bit}")
            return
        painter.drawText(inside, Qt.AlignmentFlag.AlignCenter, told)
        painter.setPen(theme.QUIET)
        painter.drawText(QRectF(x0, self._y(0) + 3, x1 - x0, 15), Qt.AlignmentFlag.AlignCenter, f"bit {bit}")

    def _paint_length(self, painter: QPainter, x0: float, x1: float, y: float, words: str) -> None:
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawLine(QPointF(x0, y), QPointF(x1, y))
        for x in (x0, x1):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        width = painter.fontMetrics().horizontalAdvance(words) + 10
        middle = QRectF((x0 + x1 - width) / 2, y - 8, width, 16)
        painter.fillRect(middle, theme.PAPER)
        painter.setPen(theme.INK)
        painter.drawText(middle, Qt.AlignmentFlag.AlignCenter, words)

    def _mm(self, value: float) -> str:
        return write(value, Dimension.LENGTH, self._units)
