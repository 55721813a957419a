"""The barrels turned, to scale: as they are finished, and the line at which the tool stops."""

from __future__ import annotations

from collections.abc import Hashable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.finish.results import SizePlan
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.surface import Surface, image_of

_SIDE, _ABOVE, _BELOW, _GAP_MM = 40, 52, 30, 10.0
_COLUMNS, _ROWS = 900, 200
_ROOMY = 190  # pixels for three sizes side by side


class SizePicture(QWidget):
    """Lengths to scale; what is still to come off is drawn twenty times as thick, to be seen at all."""

    _TIMES = 20.0

    def __init__(self, surface: Surface | None) -> None:
        """Without a surface the barrels are plain shapes."""
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._is_turned = False
        self._looks: dict[tuple[Hashable, ...], QImage] = {}
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Down to which size")

    def show_plan(self, plan: Plan, units: Units, *, is_turned: bool = False) -> None:
        """Show a plan's sizes; of barrels that are turned already only what they look like."""
        self._plan, self._units, self._is_turned = plan, units, is_turned
        told = (
            f"{size.barrel.name}: {', '.join(figure.written(units) for figure in size.tool_mm)}"
            for size in (plan.finish.sizes if plan.finish else ())
        )
        self.setAccessibleDescription("; ".join(told))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        finish = self._plan.finish if self._plan else None
        if self._plan is None or finish is None or not finish.sizes:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        long = sum(size.barrel.tube_length_mm for size in finish.sizes) + _GAP_MM * (len(finish.sizes) - 1)
        wide = max(size.barrel.widest_mm for size in finish.sizes) + 4
        scale = min((self.width() - 2 * _SIDE) / long, (self.height() - _ABOVE - _BELOW) / wide)
        x = (self.width() - long * scale) / 2
        for number, size in enumerate(finish.sizes):
            self._paint_barrel(painter, size, x, scale, self._look(self._plan, number, scale))
            x += (size.barrel.tube_length_mm + _GAP_MM) * scale
        if self._is_turned:
            return
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font(theme.SMALL))
        foot = QRectF(0, self.height() - 18, self.width(), 16)
        words = "as finished · line: where the tool stops, its difference drawn twenty times as thick"
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)

    def _look(self, plan: Plan, number: int, scale: float) -> QImage | None:
        """A barrel of this blank, turned down to its finished outline; None while there are no steps that make one."""
        barrels = barrels_of(plan)
        if self._surface is None or number >= len(barrels):
            return None
        same = (self._surface.seen(plan), barrels)
        is_flipped = plan.job.blank.is_flipped(number)
        key = (same, number, is_flipped, round(scale, 2), theme.PAPER.rgb())
        if key not in self._looks:
            from orvek.workpiece.pictures import turned_alone

            pixels = self._surface.unrolled(plan, _COLUMNS, _ROWS, barrels)
            if pixels is None:
                return None
            self._looks = {old: look for old, look in self._looks.items() if old[0] == same}
            long, ground = bar_size(plan.layout)[2], theme.rgb(theme.PAPER)
            made = turned_alone(pixels, long, barrels[number], scale, ground, is_flipped=is_flipped)
            self._looks[key] = image_of(made)
        return self._looks[key]

    def _paint_barrel(self, painter: QPainter, size: SizePlan, x: float, scale: float, look: QImage | None) -> None:
        axis = _ABOVE + (self.height() - _ABOVE - _BELOW) / 2
        wide = size.barrel.tube_length_mm * scale
        profile = [(x + at * wide, diameter / 2 * scale) for at, diameter in size.barrel.profile]
        over, under = ([QPointF(px, axis - side * half) for px, half in profile] for side in (1, -1))
        if look is not None:
            painter.drawImage(QRectF(x, axis - look.height() / 2, wide, look.height()), look)
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.MOULD if look is None else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF([*over, *reversed(under)]))
        if self._is_turned:
            return
        more = [tool.value - done.value for tool, done in zip(size.tool_mm, size.finished_mm, strict=True)]
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.ACCENT, 1.6))
        places = (x, x + wide / 2, x + wide)
        halves = [figure.value / 2 for figure in size.finished_mm]
        for side in (1, -1):
            line = [
                QPointF(px, axis - side * (half + by / 2 * self._TIMES) * scale)
                for px, half, by in zip(places, halves, more, strict=True)
            ]
            painter.drawPolyline(line)
        painter.setFont(theme.bold(theme.SMALL))
        painter.setPen(theme.INK)
        top = axis - (max(halves) + max(0.0, *more) / 2 * self._TIMES) * scale
        painter.drawText(QRectF(x, top - 44, wide, 16), Qt.AlignmentFlag.AlignCenter, size.barrel.name)
        sides = (Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignHCenter, Qt.AlignmentFlag.AlignRight)
        for px, figure, side_flag in zip((x, x + wide / 2 - 45, x + wide - 90), size.tool_mm, sides, strict=True):
            if wide < _ROOMY and side_flag is Qt.AlignmentFlag.AlignHCenter:
                continue  # it would lie over both others, and it stands in the table
            words = write(figure.value, Dimension.LENGTH, self._units, 2)
            painter.drawText(QRectF(px, top - 24, 90, 16), side_flag, words)
