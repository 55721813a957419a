"""The barrels as they will be once turned: to scale, lit, rolled by dragging; their surface rolled out under them."""

from __future__ import annotations

import math
from collections.abc import Callable, Hashable, Iterator
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.surface import Surface, image_of
from orvek.workpiece.outline import TurnedBarrel, outline_mm

if TYPE_CHECKING:
    import numpy as np

    from orvek.workpiece.pictures import Pixels, Turning

_SIDE, _UNROLLED_TALL, _ROWS = 24, 94, 360
_WHILE_MOVING = 6  # dots of a picture while something is dragged are this many pixels wide and high
_DEGREES_A_PIXEL = 1.2


class TurnedView(QWidget):
    """Turned barrels above, the unrolled surface below, both over the same length of bar."""

    rolled = Signal(float)

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._units = Units()
        self._rotation = 20.0
        self._grip: tuple[float, float] | None = None
        self._prepared: tuple[Hashable, Turning] | None = None
        self._coarse = 1
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # what lies below need not be painted with it
        self.setMinimumHeight(180)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The turned barrels")
        self.setCursor(Qt.CursorShape.SizeVerCursor)

    def show_plan(self, plan: Plan, units: Units, *, is_moving: bool = False) -> None:
        """Show a plan's blank, turned; more coarsely while something is dragged, so that the hand never waits."""
        self._plan, self._units, self._coarse = plan, units, _WHILE_MOVING if is_moving else 1
        self.update()

    def rotation_deg(self) -> float:
        """From where the barrels are seen."""
        return self._rotation

    def roll_to(self, rotation_deg: float) -> None:
        """See the barrels from another side."""
        self._rotation = rotation_deg % 360
        self.setAccessibleDescription(f"seen from {self._rotation:.0f} degrees")
        self.rolled.emit(self._rotation)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._grip = (event.position().y(), self._rotation)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None:
            self.roll_to(self._grip[1] + (event.position().y() - self._grip[0]) * _DEGREES_A_PIXEL)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._grip = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways: dict[int, float] = {Qt.Key.Key_Up: -5.0, Qt.Key.Key_Down: 5.0}
        step = ways.get(event.key())
        if step is None:
            super().keyPressEvent(event)
        else:
            self.roll_to(self._rotation + step)

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.PAPER)
        if self._plan is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        width = self.width() - 2 * _SIDE
        barrels = barrels_of(self._plan)
        pixels = self._seen(self._surface.unrolled, width, barrels)
        below = QRectF(_SIDE, self.height() - _UNROLLED_TALL - 24, width, _UNROLLED_TALL)
        if pixels is None:
            painter.setPen(theme.QUIET)
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The steps do not make a bar yet.")
            return
        self._paint_turned(painter, self._plan, pixels, barrels, below.top() - 30)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(below, image_of(pixels))
        self._paint_ends(painter, self._plan, barrels, below)
        painter.setPen(theme.QUIET)
        foot = QRectF(_SIDE, self.height() - 20, width, 18)
        painter.drawText(foot, Qt.AlignmentFlag.AlignLeft, "Rolled out at the finished outline")
        if self._plan.job.blank.photographed is not None:
            painter.drawText(foot, Qt.AlignmentFlag.AlignRight, "supposed from the faces; nobody has seen the inside")
        elif self._plan.job.cast_index is not None and len(self._plan.job.cast.cups) > 1:
            painter.drawText(foot, Qt.AlignmentFlag.AlignRight, "an example; no two pours are alike")

    def _seen(self, look: Callable[..., Any], columns: int, barrels: tuple[TurnedBarrel, ...]) -> Any:
        """What the surface says of the barrels, as an array of `columns`, of fewer while something is dragged."""
        return look(self._plan, math.ceil(columns / self._coarse), _ROWS // self._coarse, barrels)

    def _paint_turned(
        self, painter: QPainter, plan: Plan, pixels: Pixels, barrels: tuple[TurnedBarrel, ...], room: float
    ) -> None:
        """The same columns as below, so that what lies under one another is the same place on the bar."""
        _, _, length, _ = bar_size(plan.layout)
        width = self.width() - 2 * _SIDE
        scale = width / length
        widest = max(barrel.widest_mm for barrel in barrels)
        across = min(scale, (room - 14) / widest)
        rows = int(widest * across) + 3
        top = (room - rows) / 2 + 2
        for barrel in barrels:
            tube, long = barrel.hole_mm * across * 0.98, (barrel.end_mm - barrel.start_mm) * scale
            area = QRectF(_SIDE + barrel.start_mm * scale - 3, top + (rows - tube) / 2, long + 6, tube)
            painter.fillRect(area, theme.BRASS)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, self._coarse > 1)
        for first, piece in self._pieces(pixels, barrels, length, across / self._coarse):
            target = QRectF(_SIDE, top, piece.width() * self._coarse, piece.height() * self._coarse)
            painter.drawImage(target.translated(first * self._coarse, 0), piece)
        painter.setPen(theme.QUIET)
        words = f"Turned, seen from {self._rotation:.0f}° · drag up or down to roll"
        painter.drawText(QRectF(_SIDE, room + 2, width, 18), Qt.AlignmentFlag.AlignLeft, words)
        size = write(widest, Dimension.LENGTH, self._units)
        painter.drawText(QRectF(_SIDE, room + 2, width, 18), Qt.AlignmentFlag.AlignRight, f"{size} at the widest")

    def _pieces(
        self, pixels: Pixels, barrels: tuple[TurnedBarrel, ...], length_mm: float, across: float
    ) -> Iterator[tuple[int, QImage]]:
        """Each barrel turned, as (its first column, its picture); `across` is in dots a mm."""
        import numpy as np

        from orvek.workpiece.pictures import turned, turning

        columns = pixels.shape[1]
        scale = columns / length_mm
        rows = int(max(barrel.widest_mm for barrel in barrels) * across) + 3
        key = (barrels, columns, rows)
        if self._prepared is None or self._prepared[0] != key:
            z = (np.arange(columns) + 0.5) / scale
            radius = outline_mm(z.astype(np.float32), barrels, 0.0) * np.float32(across)
            self._prepared = (key, turning(radius, rows, theme.rgb(theme.PAPER)))
        prepared = self._prepared[1]
        lean = self._seen(self._surface.lean, self.width() - 2 * _SIDE, barrels)
        for barrel in barrels:
            first, last = int(barrel.start_mm * scale), int(barrel.end_mm * scale) + 1
            leaning = None if lean is None else lean[:, first:last]
            at = self._rotation + barrel.turned_deg
            piece = image_of(turned(pixels[:, first:last], prepared.part(first, last), at, leaning))
            yield first, _cut_out(piece, prepared.cover[:, first:last])

    def _paint_ends(self, painter: QPainter, plan: Plan, barrels: tuple[TurnedBarrel, ...], area: QRectF) -> None:
        """What is not turned is waste; the barrels' ends are marked in brass."""
        _, _, length, _ = bar_size(plan.layout)
        scale, place = area.width() / length, 0.0
        spans = [(barrel.start_mm, barrel.end_mm) for barrel in sorted(barrels)]
        for start, end in (*spans, (length, length)):
            waste = QRectF(area.left() + place * scale, area.top(), (start - place) * scale, area.height())
            if waste.width() > 0:
                painter.fillRect(waste, theme.FADED)
                painter.fillRect(waste, theme.hatching())
            place = max(place, end)
        painter.setPen(theme.pen(theme.BRASS, 2))
        for start, end in spans:
            for z in (start, end):
                x = area.left() + z * scale
                painter.drawLine(QPointF(x, area.top() - 5), QPointF(x, area.bottom() + 5))


def _cut_out(piece: QImage, cover: np.ndarray) -> QImage:
    """Transparent outside the outline, so that the tube's ends show."""
    alpha = (255 * cover).astype("uint8")
    rows, columns = alpha.shape
    mask = QImage(alpha.tobytes(), columns, rows, columns, QImage.Format.Format_Alpha8).copy()
    cut = piece.convertToFormat(QImage.Format.Format_ARGB32)
    cut.setAlphaChannel(mask)
    return cut
