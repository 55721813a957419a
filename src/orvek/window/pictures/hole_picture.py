"""A hole in section, to scale: bar, bit, tube, finished outline, how far the hole may lie off, and where it does."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning import Plan
from orvek.planning.bore.part import HolePlan
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.surface import Surface

_SIDE, _ABOVE, _BELOW, _STEPS = 34, 44, 40, 24
_ROOMY = 370  # pixels: two lines of words find room beside each other
_LEAST_APART = 32  # pixels from peck to peck for a word at each of them, in two rows


class HolePicture(QWidget):
    """One hole along its axis. The bit enters where the arrow is."""

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._hole: HolePlan | None = None
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The hole in section")

    def show_hole(self, plan: Plan, hole: HolePlan | None, units: Units) -> None:
        """Show a hole; None clears the picture."""
        self._plan, self._hole, self._units = plan, hole, units
        if hole is not None:
            off = write(hole.scatter_mm.value, Dimension.LENGTH, units, 2)
            where = "left" if hole.from_left else "right"
            self.setAccessibleDescription(f"{hole.name}, bored from the {where}, may come out {off} off")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        hole, plan = self._hole, self._plan
        if hole is None or plan is None or plan.layout is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        long, across = hole.saw_mm.value, min(hole.section_mm[:2])
        room = QRectF(self.rect()).adjusted(_SIDE, _ABOVE, -_SIDE, -_BELOW)
        scale = min(room.width() / long, room.height() / across)
        bar = QRectF(0, 0, long * scale, across * scale)
        bar.moveCenter(room.center())
        self._bar, self._scale = bar, scale
        self._paint_bar(painter, hole, plan)
        self._paint_hole(painter, hole)
        self._paint_outline(painter, hole)
        self._paint_words(painter, hole)

    # -- places ------------------------------------------------------------------------------------------------

    def _x(self, hole: HolePlan, depth_mm: float) -> float:
        """Where a depth lies: depths count from the end that is bored from."""
        along = depth_mm * self._scale
        return self._bar.left() + along if hole.from_left else self._bar.right() - along

    def _y(self, off_mm: float) -> float:
        return self._bar.center().y() - off_mm * self._scale

    def _band(self, hole: HolePlan, half_mm: Callable[[float], float], depth_mm: float) -> QPolygonF:
        """An area about the axis whose half width follows the depth."""
        depths = [depth_mm * n / _STEPS for n in range(_STEPS + 1)]
        over = [QPointF(self._x(hole, z), self._y(half_mm(z))) for z in depths]
        under = [QPointF(self._x(hole, z), self._y(-half_mm(z))) for z in reversed(depths)]
        return QPolygonF([*over, *under])

    # -- painting ----------------------------------------------------------------------------------------------

    def _paint_bar(self, painter: QPainter, hole: HolePlan, plan: Plan) -> None:
        bar = self._bar
        painter.fillRect(bar, theme.BLANK)
        assert plan.layout is not None
        columns, rows = max(2, round(bar.width() * plan.layout.length_mm / hole.saw_mm.value)), round(bar.height())
        image = self._surface.section(plan, min(columns, 2400), max(2, rows), 0.0)
        if image is not None:
            piece = plan.layout.tubes[hole.number].piece
            dots = image.width() / plan.layout.length_mm
            part = QRectF(piece.start_mm * dots, 0, piece.length_mm * dots, image.height())
            first, last = self._x(hole, 0), self._x(hole, piece.length_mm)
            painter.drawImage(QRectF(min(first, last), bar.top(), abs(last - first), bar.height()), image, part)
        painter.fillRect(bar, QColor(theme.PANEL.red(), theme.PANEL.green(), theme.PANEL.blue(), 96))
        for begin, end in ((min(hole.depth_mm.value, hole.saw_mm.value), hole.saw_mm.value),):
            exit_ = QRectF(QPointF(self._x(hole, begin), bar.top()), QPointF(self._x(hole, end), bar.bottom()))
            painter.fillRect(exit_.normalized(), theme.hatching())
        for z in (hole.ends_mm[0], hole.ends_mm[1]):
            painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(self._x(hole, z), bar.top()), QPointF(self._x(hole, z), bar.bottom()))
        painter.setPen(theme.pen(theme.INK, 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(bar)

    def _paint_hole(self, painter: QPainter, hole: HolePlan) -> None:
        radius, depth = hole.barrel.bit_diameter_mm / 2, hole.depth_mm.value
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme.PAPER.red(), theme.PAPER.green(), theme.PAPER.blue(), 150))
        band = self._band(hole, lambda z: radius + hole.spread_mm(z), depth)
        painter.drawPolygon(band)
        painter.setBrush(theme.hatching())
        painter.drawPolygon(band)
        painter.setBrush(theme.PAPER)
        painter.drawPolygon(self._band(hole, lambda _z: radius, depth))
        self._paint_wide(painter, hole)
        self._paint_brass(painter, hole)
        self._paint_measured(painter, hole)

    def _along(self, hole: HolePlan, from_left_mm: float) -> float:
        """Where a place of the squared barrel lies, counted from its left end."""
        begin, long = hole.ends_mm[0], hole.barrel.tube_length_mm
        return self._x(hole, begin + (from_left_mm if hole.from_left else long - from_left_mm))

    def _paint_wide(self, painter: QPainter, hole: HolePlan) -> None:
        """The end that is stepped up, with the trim beyond it."""
        if hole.wide is None:
            return
        beyond, long = hole.beyond_mm[0 if hole.wide.at_left else 1].value, hole.barrel.tube_length_mm
        deep = hole.wide.depth_mm.value - beyond
        first, last = (-beyond, deep) if hole.wide.at_left else (long - deep, long + beyond)
        half = hole.wide.bit_mm / 2
        area = QRectF(
            QPointF(self._along(hole, first), self._y(half)), QPointF(self._along(hole, last), self._y(-half))
        )
        painter.drawRect(area.normalized())

    def _paint_brass(self, painter: QPainter, hole: HolePlan) -> None:
        """The tube or the pin, faintly, where it will be glued."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if hole.barrel.glued_from_to_mm is not None:
            first, last = hole.barrel.glued_from_to_mm
            half = hole.barrel.tube_diameter_mm / 2
            here = QPointF(self._along(hole, first), self._y(half))
            brass = QRectF(here, QPointF(self._along(hole, last), self._y(-half))).normalized()
            faint = QColor(theme.BRASS)
            faint.setAlpha(40)
            painter.fillRect(brass, faint)
            painter.setPen(theme.pen(theme.BRASS, 2))
            painter.drawRect(brass)
        painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashDotLine))
        painter.drawLine(QPointF(self._bar.left() - 8, self._y(0)), QPointF(self._bar.right() + 8, self._y(0)))

    def _paint_measured(self, painter: QPainter, hole: HolePlan) -> None:
        """The hole as it was measured at both ends, in the direction in which it lies off most."""
        offsets = hole.hole.offsets_mm
        if offsets is None:
            return
        way = max(range(2), key=lambda axis: max(abs(end[axis]) for end in offsets))
        left, right = (end[way] for end in offsets)
        first, last = (left, right) if hole.from_left else (right, left)
        radius, depth = hole.bored_mm / 2, hole.depth_mm.value
        painter.setPen(theme.pen(theme.ACCENT, 2))
        for edge in (radius, -radius):
            here = QPointF(self._x(hole, 0), self._y(first + edge))
            painter.drawLine(here, QPointF(self._x(hole, depth), self._y(last + edge)))

    def _paint_outline(self, painter: QPainter, hole: HolePlan) -> None:
        """What is to be left when it is turned: about the hole, so it is drawn about the axis that is meant."""
        painter.setPen(theme.pen(theme.ACCENT, 1.4))
        for side in (1, -1):
            painter.drawPolyline([QPointF(self._x(hole, z), self._y(side * size / 2)) for z, size in hole.finished])

    def _paint_words(self, painter: QPainter, hole: HolePlan) -> None:
        painter.setFont(theme.font(theme.SMALL))
        bar, units = self._bar, self._units
        entry, way = self._x(hole, 0), 1 if hole.from_left else -1
        painter.setPen(theme.pen(theme.INK, 2))
        painter.setBrush(theme.INK)
        tip = QPointF(entry - 4 * way, self._y(0))
        painter.drawLine(QPointF(entry - 26 * way, self._y(0)), tip)
        painter.drawPolygon(QPolygonF([tip, tip + QPointF(-8 * way, -5), tip + QPointF(-8 * way, 5)]))
        painter.setPen(theme.QUIET)
        apart = abs(self._x(hole, hole.pecks_mm[1]) - self._x(hole, hole.pecks_mm[0])) if len(hole.pecks_mm) > 1 else 99
        for number, peck in enumerate(hole.pecks_mm):
            x = self._x(hole, peck)
            if apart < _LEAST_APART and 0 < number < len(hole.pecks_mm) - 1:
                painter.drawLine(QPointF(x, bar.top() - 8), QPointF(x, bar.top()))
                continue  # their words would lie over one another: the first and the last are told
            painter.drawLine(QPointF(x, bar.top() - 8), QPointF(x, bar.top()))
            word = write(peck, Dimension.LENGTH, units)
            is_crowded = number and abs(x - self._x(hole, hole.pecks_mm[number - 1])) < 62
            y = bar.top() - (38 if is_crowded and number % 2 else 24)
            painter.drawText(QRectF(x - 40, y, 80, 16), Qt.AlignmentFlag.AlignCenter, word)
        below = QRectF(bar.left(), bar.bottom() + 6, bar.width(), 16)
        what = {"a brass tube": "tube", "a pin": "on a pin"}.get(hole.barrel.inside, "no tube")
        painter.drawText(
            below, Qt.AlignmentFlag.AlignCenter, f"{what} {write(hole.barrel.tube_length_mm, Dimension.LENGTH, units)}"
        )
        if hole.barrel.is_through and not hole.from_both:
            self._paint_exit(painter, hole, below)
        line = "hatched: where the hole may lie, 19 in 20 · lines: as turned"
        foot = QRectF(0, below.bottom(), self.width(), 16)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, line)

    def _paint_exit(self, painter: QPainter, hole: HolePlan, below: QRectF) -> None:
        """Under the bar's end where there is room beside the tube's words, else beyond it."""
        exit_x = self._x(hole, hole.saw_mm.value)
        at_right = hole.from_left == (below.width() >= _ROOMY)
        side = Qt.AlignmentFlag.AlignRight if at_right else Qt.AlignmentFlag.AlignLeft
        area = QRectF(exit_x - 200 if at_right else exit_x, below.top(), 200, 16)
        painter.drawText(area, side, "the exit may tear out")
