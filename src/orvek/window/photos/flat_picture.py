"""A face laid flat, to scale, with what is marked on it: a click marks a place, a click on a mark takes it away."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import Mark
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.widgets.fitting import fitted
from orvek.window.widgets.nudging import nudge_of

_SIDE, _TOP, _BELOW = 16, 6, 20


class FlatPicture(QWidget):
    """`pressed` is a place of the face: mm from the left end, mm below its middle."""

    pressed = Signal(float, float)
    unmarked = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._size = (130.0, 20.0)
        self._marks: tuple[tuple[int, Mark], ...] = ()
        self._units = Units()
        self._cursor = (0.0, 0.0)
        self.setFixedHeight(96)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The face laid flat")
        self.setToolTip("Click to mark a place; click a mark to take it away. Keys: arrows and Enter")

    def show_face(
        self,
        image: QImage | None,
        size_mm: tuple[float, float],
        marks: tuple[tuple[int, Mark], ...],
        units: Units,
    ) -> None:
        """Show a face of this length and width with its marks, each with its number among all marks."""
        self._image, self._size, self._marks, self._units = image, size_mm, marks, units
        told = "; ".join(f"{mark.kind} at {write(mark.z_mm, Dimension.LENGTH, units)}" for _, mark in marks)
        self.setAccessibleDescription(told or "nothing marked")
        self.update()

    def at(self, z_mm: float, across_mm: float) -> QPointF:
        """Where a place of the face is painted."""
        area = self._area()
        return QPointF(
            area.left() + z_mm / self._size[0] * area.width(), area.center().y() + across_mm * self._per_mm()
        )

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        area = self._area()
        if self._image is None or not area.adjusted(-2, -2, 2, 2).contains(event.position()):
            return
        per_mm = self._per_mm()
        z = (event.position().x() - area.left()) / per_mm
        self._press(z, (event.position().y() - area.center().y()) / per_mm)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = nudge_of(event.key())
        if way is not None and self._image is not None:
            z, across = self._cursor[0] + 2 * way[0], self._cursor[1] + way[1] / 5
            half = self._size[1] / 2
            self._cursor = (min(max(0.0, z), self._size[0]), min(max(-half, across), half))
            self.setAccessibleDescription(f"{write(self._cursor[0], Dimension.LENGTH, self._units)} from the left end")
            self.update()
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space} and self._image is not None:
            self._press(*self._cursor)
        else:
            super().keyPressEvent(event)

    def _press(self, z_mm: float, across_mm: float) -> None:
        for number, mark in self._marks:
            reach = max(mark.size_mm / 2, 6 / self._per_mm())
            if abs(mark.z_mm - z_mm) < reach and abs(mark.across_mm - across_mm) < reach:
                self.unmarked.emit(number)
                return
        self.pressed.emit(round(max(0.0, z_mm), 1), round(across_mm, 1))

    # -- painting ----------------------------------------------------------------------------------------------

    def _per_mm(self) -> float:
        return self._area().width() / self._size[0]

    def _area(self) -> QRectF:
        return fitted(*self._size, QRectF(self.rect().adjusted(_SIDE, _TOP, -_SIDE, -_BELOW)))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area = self._area()
        if self._image is None:
            painter.fillRect(area, theme.BLANK)
        else:
            painter.drawImage(area, self._image)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        for end, flag in ((0.0, Qt.AlignmentFlag.AlignLeft), (self._size[0], Qt.AlignmentFlag.AlignRight)):
            words = QRectF(area.left(), area.bottom() + 2, area.width(), 18)
            painter.drawText(words, flag, write(end, Dimension.LENGTH, self._units))
        for _, mark in self._marks:
            paint_mark(painter, self.at(mark.z_mm, mark.across_mm), mark, self._per_mm())
        if self.hasFocus() and self._image is not None:
            painter.setPen(theme.pen(theme.ACCENT, 2))
            place = self.at(*self._cursor)
            painter.drawLine(place - QPointF(8, 0), place + QPointF(8, 0))
            painter.drawLine(place - QPointF(0, 8), place + QPointF(0, 8))


def paint_mark(painter: QPainter, place: QPointF, mark: Mark, per_mm: float) -> None:
    """A mark as it is drawn wherever the face is: a ring, crossed through where it must not show."""
    radius = max(5.0, mark.size_mm / 2 * per_mm)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    colour = theme.INK if mark.kind == "must not show" else theme.CAUTION if "light" in mark.kind else theme.ACCENT
    for pen in (theme.pen(theme.PAPER, 4), theme.pen(colour, 1.8)):
        painter.setPen(pen)
        painter.drawEllipse(place, radius, radius)
        if mark.kind == "must not show":
            off = QPointF(radius, radius) * 0.7
            painter.drawLine(place - off, place + off)
        elif mark.kind == "centre this":
            painter.drawLine(place - QPointF(0, radius + 4), place + QPointF(0, radius + 4))
