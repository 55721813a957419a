"""One step on the bar, cut open along it, with what can be dragged: a cut's centre along the bar and its angle at the
line's end, the boundaries between strips and pieces, the points of a natural edge.
"""

from __future__ import annotations

import math
from collections.abc import Hashable

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import (
    LINE_POINTS,
    ArcStep,
    CutStep,
    InsertStep,
    LaminateStep,
    PlugStep,
    StackStep,
    Step,
    deeds,
)
from orvek.planning import Plan
from orvek.planning.bar import bar_size
from orvek.window import theme
from orvek.window.surface import Surface
from orvek.workpiece.lengths import reach_mm

_REACH = 14
_NUDGE = 0.5  # mm a press of a key


class StepPicture(QWidget):
    """The bar after the chosen step, with what can be dragged on it."""

    moving = Signal(object)
    moved = Signal(str)

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._index = 0
        self._seen: Hashable = None
        self._held: int | None = None
        self._chosen = 0  # the point that the keys move
        self.setMinimumWidth(240)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(80)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The chosen step on the bar")

    def show_plan(self, plan: Plan, index: int) -> None:
        """Show one step of a plan."""
        self._plan = plan
        seen = (self._surface.seen(plan), index)
        if seen != self._seen:
            self._seen, self._index = seen, index
            self.update()

    def handles(self) -> tuple[QPointF, ...]:
        """What can be taken hold of: a centre, and for a cut the end of its line."""
        step, size = self._step(), self._size()
        half = size[1] / 2
        if isinstance(step, CutStep):
            reach = half / math.tan(math.radians(step.angle_deg))
            return self._point(step.centre_mm, 0), self._point(step.centre_mm - reach, half)
        if isinstance(step, ArcStep):
            return (self._point(step.centre_mm, max(-half, min(half, step.distance_mm - step.radius_mm))),)
        if isinstance(step, PlugStep) and step.way == "across":
            return (self._point(step.centre_mm, 0),)
        if isinstance(step, InsertStep) and step.form == "edge":
            return tuple(self._point(z, up) for z, up in self._edge(step))
        if isinstance(step, LaminateStep) and step.angle_deg == 0:
            return tuple(
                self._point(size[0] / 2, up) for up in deeds.layer_bounds_mm(step.strips, step.glue_mm, centred=True)
            )
        if isinstance(step, StackStep):
            return tuple(self._point(z, 0) for z in deeds.layer_bounds_mm(step.pieces, step.glue_mm, centred=False))
        return ()

    def _edge(self, step: InsertStep) -> list[tuple[float, float]]:
        """The points of a natural edge: place along the bar, and how far from the axis."""
        length, slope = self._size()[0], math.tan(math.radians(step.slope_deg))
        line = step.line_mm if len(step.line_mm) == LINE_POINTS else (0.0,) * LINE_POINTS
        places = [length * n / (LINE_POINTS - 1) for n in range(LINE_POINTS)]
        return [(z, step.middle_mm + slope * (z - length / 2) + off) for z, off in zip(places, line, strict=True)]

    def _step(self) -> Step:
        assert self._plan is not None
        steps = self._plan.job.blank.steps
        return steps[min(self._index, len(steps) - 1)]

    def _size(self) -> tuple[float, float]:
        """How long the bar is, and how high where it is cut open."""
        width, depth, length, is_round = bar_size(self._plan.layout if self._plan else None)
        azimuth = getattr(self._step(), "azimuth_deg", 90.0) if self._plan else 90.0
        return length, 2 * reach_mm(width, depth, azimuth, is_round=is_round)

    def _bar(self) -> QRectF:
        length, depth = self._size()
        scale = min((self.width() - 8) / length, (self.height() - 12) / depth)
        bar = QRectF(0, 0, length * scale, depth * scale)
        bar.moveCenter(QPointF(self.width() / 2, self.height() / 2))
        return bar

    def _point(self, z_mm: float, up_mm: float) -> QPointF:
        bar, (length, depth) = self._bar(), self._size()
        return QPointF(bar.left() + z_mm / length * bar.width(), bar.center().y() - up_mm / depth * bar.height())

    def _place(self, point: QPointF) -> tuple[float, float]:
        bar, (length, depth) = self._bar(), self._size()
        z = (point.x() - bar.left()) / bar.width() * length
        return round(z, 1), round((bar.center().y() - point.y()) / bar.height() * depth, 1)

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = [(h - event.position()).manhattanLength() for h in self.handles()]
        self._held = near.index(min(near)) if near and min(near) < _REACH else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            near = any((h - event.position()).manhattanLength() < _REACH for h in self.handles())
            self.setCursor(Qt.CursorShape.SizeAllCursor if near else Qt.CursorShape.ArrowCursor)
            return
        self._drag(self._held, *self._place(event.position()))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.moved.emit(f"Drag step {self._index + 1}")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right move a centre; of an edge or a pile they choose a point, and up and down move it.

        Up and down turn a cut by a degree. What is chosen is drawn heavier.
        """
        sideways: dict[int, int] = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        upwards: dict[int, int] = {Qt.Key.Key_Down: -1, Qt.Key.Key_Up: 1}
        across, up = sideways.get(event.key()), upwards.get(event.key())
        step, handles = self._step(), self.handles()
        if across is not None and isinstance(step, CutStep | ArcStep | PlugStep):
            self._nudge(step.with_(centre_mm=round(step.centre_mm + _NUDGE * across, 2)))
        elif up is not None and isinstance(step, CutStep):
            self._nudge(step.with_(angle_deg=max(8.0, min(90.0, step.angle_deg + up))))
        elif across is not None and handles:
            self._chosen = (self._chosen + across) % len(handles)
            self.setAccessibleDescription(f"point {self._chosen + 1} of {len(handles)}")
            self.update()
        elif up is not None and handles:
            self._chosen = min(self._chosen, len(handles) - 1)
            along, height = self._place(handles[self._chosen])
            forward = isinstance(step, StackStep)  # its boundaries move along the bar, all others across it
            self._drag(self._chosen, along + _NUDGE * up * forward, height + _NUDGE * up * (not forward))
            self.moved.emit(f"Nudge step {self._index + 1}")
        else:
            super().keyPressEvent(event)

    def _nudge(self, step: Step) -> None:
        self.moving.emit(step)
        self.moved.emit(f"Nudge step {self._index + 1}")

    def _drag(self, handle: int, z_mm: float, up_mm: float) -> None:
        step, half = self._step(), self._size()[1] / 2
        if isinstance(step, CutStep) and handle == 1:
            angle = math.degrees(math.atan2(half, max(0.0, step.centre_mm - z_mm)))
            self.moving.emit(step.with_(angle_deg=round(max(8.0, min(90.0, angle)), 1)))
        elif isinstance(step, CutStep | ArcStep | PlugStep):
            self.moving.emit(step.with_(centre_mm=max(-100.0, min(1000.0, z_mm))))
        elif isinstance(step, InsertStep):
            line = list(step.line_mm if len(step.line_mm) == LINE_POINTS else (0.0,) * LINE_POINTS)
            line[handle] = max(-60.0, min(60.0, round(line[handle] + up_mm - self._edge(step)[handle][1], 2)))
            self.moving.emit(step.with_(line_mm=tuple(line)))
        elif isinstance(step, LaminateStep):
            now = deeds.layer_bounds_mm(step.strips, step.glue_mm, centred=True)[handle]
            self.moving.emit(step.with_(strips=deeds.shift_layer_boundary(step.strips, handle, up_mm - now)))
        elif isinstance(step, StackStep):
            now = deeds.layer_bounds_mm(step.pieces, step.glue_mm, centred=False)[handle]
            self.moving.emit(step.with_(pieces=deeds.shift_layer_boundary(step.pieces, handle, z_mm - now)))

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        bar, azimuth = self._bar(), getattr(self._step(), "azimuth_deg", 90.0)
        image = self._surface.section(self._plan, round(bar.width()), round(bar.height()), azimuth, self._index + 1)
        if image is None:
            painter.fillRect(bar, theme.BLANK)
        else:
            painter.drawImage(bar, image)
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawRect(bar)
        handles = self.handles()
        if isinstance(self._step(), CutStep):
            painter.setPen(theme.pen(theme.PANEL, 3))
            painter.drawLine(handles[1], handles[0] + handles[0] - handles[1])
            painter.setPen(theme.pen(theme.ACCENT, 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(handles[1], handles[0] + handles[0] - handles[1])
        for number, handle in enumerate(handles):
            is_chosen = number == self._held or (self.hasFocus() and number == min(self._chosen, len(handles) - 1))
            painter.setPen(theme.pen(theme.ACCENT, 2.8 if is_chosen else 1.6))
            painter.setBrush(theme.PANEL)
            painter.drawEllipse(handle, 5.5, 5.5)
