"""The strip: the blank to scale with its ruler, the tubes where they will be glued, saw cuts, trim and waste.

A tube is dragged along the bar, or nudged with the arrow keys (0.1 mm; with Shift 1 mm). Up and Down turn its barrel
about the axis by 5°. Tab goes from tube to tube. The wheel, Page Up and Page Down roll the bar. While a tube moves,
`moving` gives its new place; `moved` says that the hand let go.
"""

from __future__ import annotations

import math

from PySide6.QtCore import QEvent, QLineF, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from orvek.documents import FACES
from orvek.planning import Layout, Plan, TubePlace
from orvek.planning.glue_up.saw import SawCut
from orvek.planning.laying import window_mm
from orvek.planning.words import bars_line, left_words
from orvek.quantities import MM_PER_INCH, Dimension, Units, write, write_sizes
from orvek.window import theme
from orvek.window.frame import FOLDED_HEIGHT as FOLDED
from orvek.window.frame import STRIP_HEIGHT as HEIGHT
from orvek.window.surface import Surface

_LOWER = 22  # pixels less in a low window
_LEFT = 200
_RIGHT = 32
_TOP = 34
_TALL = 70.0
_OBLONG_MM = 0.05  # sides that differ by more are told both
_TURN_DEG, _SEEN_FROM_DEG = 5.0, 90.0
_NUDGE_MM, _BIG_NUDGE_MM = 0.1, 1.0
_NUDGE_INCH = MM_PER_INCH / 64

_TINT, _TINT_HELD = 46, 96  # how much of the brass covers the pattern, of 255


class Strip(QWidget):
    """The bottom edge of the window; the same in every station."""

    moving = Signal(int, float)
    moved = Signal(str)
    turned = Signal(int, float)
    fold_wanted = Signal()

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._shown: object = None  # what is painted follows from it: unchanged, it is not painted again
        self._cut: SawCut | None = None
        self._units = Units()
        self._chosen = 0
        self._grip: tuple[int, float] | None = None
        self._hover: int | None = None
        self._rolled: int | None = None  # by how many quarter turns; None: as the bar lies there
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.is_open = True
        self.setFixedHeight(HEIGHT)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The blank, with its tubes")

    def set_open(self, *, is_open: bool, is_low: bool) -> None:
        """Show the bar, a little lower in a low window, or fold it to a line of words."""
        self.is_open = is_open
        self.setFixedHeight((HEIGHT - _LOWER if is_low else HEIGHT) if is_open else FOLDED)
        self.update()

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's blank."""
        self._plan, self._units = plan, units
        layout = plan.layout
        if layout:
            self._chosen = min(self._chosen, len(layout.tubes) - 1)
            places = ", ".join(f"{t.barrel.name} from {self._mm(t.tube.start_mm)}" for t in layout.tubes)
            self.setAccessibleDescription(f"Blank of {self._mm(layout.length_mm)}. Tubes: {places}")
        shown = (self._surface.seen(plan), layout, plan.bars, units, plan.job.blank)
        if shown != self._shown:
            self._shown = shown
            self.update()

    def roll(self, quarters: int) -> None:
        """Roll the bar, to see another of its faces: one that was photographed has a name for each."""
        if self._plan is not None and self._plan.layout is not None:
            self._rolled = (round(self.azimuth_deg() / 90) + quarters) % 4
            self.update()

    def azimuth_deg(self) -> float:
        """From where the bar is seen: a photographed one from its first photo, until it is rolled."""
        photo = self._plan.job.blank.photographed if self._plan is not None else None
        if self._rolled is not None:
            return 90.0 * self._rolled
        return photo.views[0].azimuth_deg if photo is not None and photo.views else _SEEN_FROM_DEG

    # -- where things are --------------------------------------------------------------------------------------

    def show_cut(self, cut: SawCut | None) -> None:
        """Mark where the cut in hand crosses the bar; None takes the mark away."""
        if cut != self._cut:
            self._cut = cut
            self.update()

    def tube_rect(self, index: int) -> QRectF:
        """Where a tube is painted, in pixels."""
        layout = self._layout()
        place = layout.tubes[index]
        bar = self.bar_rect()
        tall = place.barrel.tube_diameter_mm * self._scale_across(layout)
        x0, x1 = self._x(place.tube.start_mm), self._x(place.tube.end_mm)
        return QRectF(x0, bar.center().y() - tall / 2, x1 - x0, tall)

    def bar_rect(self) -> QRectF:
        """Where the bar is painted, in pixels."""
        layout = self._layout()
        tall = layout.width_mm * self._scale_across(layout)
        middle = _TOP + self._tall() / 2
        return QRectF(self._x(0), middle - tall / 2, layout.length_mm * self._scale(layout), tall)

    def _layout(self) -> Layout:
        assert self._plan is not None
        assert self._plan.layout is not None
        return self._plan.layout

    def _scale(self, layout: Layout) -> float:
        """Pixels a millimetre along the bar."""
        return (self.width() - _LEFT - _RIGHT) / layout.length_mm

    def _tall(self) -> float:
        """The most pixels the bar may be high: less in a low window, so that the ruler stays in sight."""
        return _TALL - max(0, HEIGHT - self.height())

    def _scale_across(self, layout: Layout) -> float:
        """Pixels a millimetre across: less than along, so that a long thin bar can be laid out by hand."""
        return min(self._scale(layout), self._tall() / layout.width_mm)

    def _x(self, z_mm: float) -> float:
        return _LEFT + z_mm * self._scale(self._layout())

    def _tube_at(self, point: QPointF) -> int | None:
        """The tube under the pointer; the whole height of the bar counts, so that it is easy to take hold of."""
        if self._plan is None or self._plan.layout is None or not self.is_open:
            return None
        bar = self.bar_rect().adjusted(0, -16, 0, 16)
        hits = [
            i
            for i in range(len(self._layout().tubes))
            if self.tube_rect(i).left() <= point.x() <= self.tube_rect(i).right()
            and bar.top() < point.y() < bar.bottom()
        ]
        return min(hits, key=lambda i: abs(self.tube_rect(i).center().x() - point.x())) if hits else None

    # -- hands -------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = self._tube_at(event.position())
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if not self.is_open or event.position().x() < _LEFT - 14:
            self.fold_wanted.emit()
        elif index is not None:
            self._chosen = index
            self._grip = (index, event.position().x() - self.tube_rect(index).left())
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is None:
            hover = self._tube_at(event.position())
            self._show_hand(event.position())
            if hover != self._hover:
                self._hover = hover
                self.update()
            return
        index, offset = self._grip
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        start_mm = (event.position().x() - offset - self._x(0)) / self._scale(self._layout())
        self.moving.emit(index, self._kept_on_bar(index, round(start_mm, 1)))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._grip is not None:
            name = self._layout().tubes[self._grip[0]].barrel.name
            self._grip = None
            self.setCursor(Qt.CursorShape.OpenHandCursor)
            self.moved.emit(f"Slide {name}")

    def _show_hand(self, point: QPointF) -> None:
        """The open hand over what can be dragged, the pointing one over what folds or opens the bar."""
        if self._tube_at(point) is not None:
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        elif not self.is_open or point.x() < _LEFT - 14:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
        else:
            self.setCursor(Qt.CursorShape.ArrowCursor)

    def leaveEvent(self, event: QEvent) -> None:
        self._hover = None
        self.update()
        super().leaveEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self.is_open:
            self.roll(1 if event.angleDelta().y() < 0 else -1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move and turn the tube in hand; the page keys roll the bar; folded, Space or Enter opens it."""
        if not self.is_open and event.key() in {Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.fold_wanted.emit()
            return
        if not self.is_open:
            super().keyPressEvent(event)
            return
        if self._plan is None or self._plan.layout is None:
            super().keyPressEvent(event)
            return
        if event.key() in {Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}:
            self.roll(1 if event.key() == Qt.Key.Key_PageDown else -1)
            return
        ways: dict[int, int] = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        turns: dict[int, float] = {Qt.Key.Key_Up: -_TURN_DEG, Qt.Key.Key_Down: _TURN_DEG}
        if event.key() in turns:
            self.turned.emit(self._chosen, turns[event.key()])
        elif event.key() in ways:
            self._nudge(ways[event.key()], big=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        if event.reason() == Qt.FocusReason.TabFocusReason:
            self._chosen = 0
        elif event.reason() == Qt.FocusReason.BacktabFocusReason and self._plan and self._plan.layout:
            self._chosen = len(self._plan.layout.tubes) - 1
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes through the tubes before it leaves the strip."""
        count = len(self._plan.layout.tubes) if self._plan and self._plan.layout and self.is_open else 0
        following = self._chosen + (1 if forward else -1)
        if self.hasFocus() and 0 <= following < count:
            self._chosen = following
            self.update()
            return True
        return super().focusNextPrevChild(forward)

    def _nudge(self, way: int, *, big: bool) -> None:
        inch = self._units.length == "inch fraction"
        step = (_NUDGE_INCH * (4 if big else 1)) if inch else (_BIG_NUDGE_MM if big else _NUDGE_MM)
        place = self._layout().tubes[self._chosen]
        self.moving.emit(self._chosen, self._kept_on_bar(self._chosen, place.tube.start_mm + way * step))
        self.moved.emit(f"Nudge {place.barrel.name}")

    def _kept_on_bar(self, index: int, start_mm: float) -> float:
        layout = self._layout()
        return min(max(start_mm, 0.0), max(0.0, layout.length_mm - layout.tubes[index].tube.length_mm))

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.PANEL)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, 0, self.width(), 0)
        painter.setFont(theme.bold())
        painter.setPen(theme.INK)
        if not self.is_open:
            self._paint_line(painter)
            return
        painter.drawText(20, 30, "The bar")
        if self._plan is None or self._plan.layout is None:
            self._paint_empty(painter)
            return
        self._paint_words(painter, self._plan, self._plan.layout)
        self._paint_bar(painter, self._plan, self._plan.layout)
        self._paint_cuts(painter, self._plan.layout)
        painter.setClipRect(QRectF(_LEFT - 14, 0, self.width() - _LEFT + 14, self.height()))
        self._paint_others(painter, self._plan.layout)
        for index, place in enumerate(self._plan.layout.tubes):
            self._paint_tube(painter, index, place)
        self._paint_mark(painter)
        self._paint_ruler(painter, self._plan.layout)

    def _paint_empty(self, painter: QPainter) -> None:
        area = QRectF(_LEFT, _TOP - 4, self.width() - _LEFT - _RIGHT, 64)
        painter.setPen(theme.pen(theme.HAIRLINE, 1.5, Qt.PenStyle.DashLine))
        painter.drawRect(area)
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font())
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "The blank lies here once the job has a pen.")

    def _paint_line(self, painter: QPainter) -> None:
        """The bar in a line, and the key that opens it."""
        plan = self._plan
        told = self._lines(plan, plan.layout)[:3] if plan is not None and plan.layout is not None else ["no pen yet"]
        area = QRectF(20, 0, self.width() - 40, self.height())
        painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, "The bar")
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        metrics, key = painter.fontMetrics(), "Show it  Ctrl+B"
        words = area.adjusted(_LEFT - 20, 0, -metrics.horizontalAdvance(key) - 16, 0)
        line = metrics.elidedText("  ·  ".join(told), Qt.TextElideMode.ElideRight, int(words.width()))
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, line)
        painter.drawText(area, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, key)

    def _lines(self, plan: Plan, layout: Layout) -> list[str]:
        """What is said of the bar, a line each."""
        across = f"⌀ {self._mm(layout.across_mm)}" if layout.is_round else self._mm(layout.width_mm)
        if not layout.is_round and abs(layout.width_mm - layout.depth_mm) >= _OBLONG_MM:
            across = write_sizes((layout.width_mm, layout.depth_mm), self._units)
        count = len(layout.tubes)
        lines = [
            f"{self._mm(layout.length_mm)} × {across}"
            if layout.is_from_mould
            else f"{self._mm(layout.length_mm)} needed"
        ]
        cuts = len(layout.kerfs)
        lines.append(f"{count} piece{'' if count == 1 else 's'}, {cuts} saw cut{'' if cuts == 1 else 's'}")
        lines.append(self._left_over(layout))
        photo = plan.job.blank.photographed
        if photo is not None and photo.form == "rectangular":
            seen = next(face for face, at in FACES.items() if at == self.azimuth_deg())
            there = any(view.face == seen for view in photo.views)
            lines.append(f"face {seen}" if there else f"face {seen}, supposed")
        if plan.bars.blanks_per_bar > 1:
            lines.append(bars_line(plan.bars).split(", ")[-1])
        return lines

    def _paint_words(self, painter: QPainter, plan: Plan, layout: Layout) -> None:
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        room = QRectF(20, 38, self.bar_rect().left() - 28, self.height())
        lines = "\n".join(self._lines(plan, layout))
        painter.drawText(room, Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap, lines)

    def _left_over(self, layout: Layout) -> str:
        return left_words((span.length_mm for span in layout.waste), self._units)

    def _paint_bar(self, painter: QPainter, plan: Plan, layout: Layout) -> None:
        bar = self.bar_rect()
        ratio = self.devicePixelRatioF()
        columns, rows = round(bar.width() * ratio), round(bar.height() * ratio)
        image = self._surface.face(plan, columns, rows, self.azimuth_deg())
        if image is None:
            painter.fillRect(bar, theme.BLANK)
        else:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(bar, image)
        for span in layout.waste:
            area = QRectF(self._x(span.start_mm), bar.top(), span.length_mm * self._scale(layout), bar.height())
            painter.fillRect(area, theme.PANEL if image is None else theme.FADED)
            painter.fillRect(area, theme.hatching())
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(bar)
        self._paint_lost_ends(painter, layout, bar)
        self._paint_photo_marks(painter, plan, bar)

    def _paint_photo_marks(self, painter: QPainter, plan: Plan, bar: QRectF) -> None:
        """What is marked on the face that is seen."""
        from orvek.window.photos.flat_picture import paint_mark

        photo, azimuth = plan.job.blank.photographed, self.azimuth_deg()
        if photo is None:
            return
        per_mm = bar.height() / photo.across_mm(azimuth)
        for mark in photo.marks:
            if mark.azimuth_deg == azimuth:
                place = QPointF(self._x(mark.z_mm), bar.center().y() + mark.across_mm * per_mm)
                paint_mark(painter, place, mark, per_mm)

    def _paint_lost_ends(self, painter: QPainter, layout: Layout, bar: QRectF) -> None:
        painter.setPen(theme.pen(theme.QUIET, 1, Qt.PenStyle.DashLine))
        for z in (layout.ends[0].end_mm, layout.ends[1].start_mm):
            painter.drawLine(QPointF(self._x(z), bar.top()), QPointF(self._x(z), bar.bottom()))

    def _paint_cuts(self, painter: QPainter, layout: Layout) -> None:
        bar = self.bar_rect()
        painter.setFont(theme.font(theme.SMALL))
        last_right = -math.inf
        for cut in layout.kerfs:
            area = QRectF(self._x(cut.start_mm), bar.top() - 5, cut.length_mm * self._scale(layout), bar.height() + 10)
            painter.fillRect(area, theme.PANEL)
            painter.fillRect(area, theme.hatching())
            painter.setPen(theme.pen(theme.INK, 1))
            painter.drawLine(area.topLeft(), area.bottomLeft())
            painter.drawLine(area.topRight(), area.bottomRight())
            words = self._mm((cut.start_mm + cut.end_mm) / 2)
            width = painter.fontMetrics().horizontalAdvance(words)
            left = area.center().x() - width / 2
            if left > last_right + 6:
                painter.drawText(QPointF(left, bar.top() - 9), words)
                last_right = left + width

    def _paint_others(self, painter: QPainter, layout: Layout) -> None:
        """Pieces for further pens from the same bar, and how far the tube in hand can slide."""
        bar = self.bar_rect()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for span in layout.others:
            area = QRectF(
                self._x(span.start_mm), bar.top() + 8, span.length_mm * self._scale(layout), bar.height() - 16
            )
            for pen in (theme.pen(theme.FADED, 3), theme.pen(theme.BRASS_DARK, 1.4, Qt.PenStyle.DashLine)):
                painter.setPen(pen)
                painter.drawRect(area)
        held = self._hover if self._hover is not None else self._chosen if self.hasFocus() else None
        if held is None or held >= len(layout.tubes) or self._plan is None:
            return
        room = window_mm(layout, held, self._plan.job.blank.saw_kerf_mm)
        long = layout.tubes[held].tube.length_mm
        painter.setPen(theme.pen(theme.ACCENT, 2))
        y = bar.bottom() + 3
        painter.drawLine(QPointF(self._x(room.start_mm), y), QPointF(self._x(room.end_mm + long), y))

    def _paint_mark(self, painter: QPainter) -> None:
        """The cut in hand, as its line crosses the bar seen from its side."""
        cut, bar = self._cut, self.bar_rect()
        if cut is None or cut.stop_mm is None:
            return  # along the bar, or on the lathe
        lean = cut.across_mm / 2 / math.tan(math.radians(cut.angle_deg)) if cut.angle_deg < 90 else 0.0
        centre = cut.centre_mm if cut.count == 1 else (cut.stop_mm or 0.0)
        top, foot = (
            QPointF(self._x(centre + way * lean), edge) for way, edge in ((-1, bar.top() - 6), (1, bar.bottom() + 6))
        )
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawLine(top, foot)

    def _paint_tube(self, painter: QPainter, index: int, place: TubePlace) -> None:
        area = self.tube_rect(index)
        chosen = index == self._chosen and (self.hasFocus() or self._grip is not None)
        # An outline and a breath of brass: an opaque tube would hide the pattern that is being chosen.
        tint = QColor(theme.BRASS)
        tint.setAlpha(_TINT_HELD if index == self._hover or chosen else _TINT)
        if place.glued is not None:
            scale = self._scale(self._layout())
            brass = QRectF(self._x(place.glued.start_mm), area.top(), place.glued.length_mm * scale, area.height())
            painter.fillRect(brass, tint)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        # Light under dark, so that the outline is seen on maple and on ebony.
        outline = theme.ACCENT if chosen else theme.BRASS_DARK if place.glued else theme.QUIET
        for pen in (theme.pen(theme.FADED, 5), theme.pen(outline, 2)):
            painter.setPen(pen)
            painter.drawRect(area)
        self._paint_finished(painter, place)
        painter.setFont(theme.bold(theme.SMALL))
        painter.setPen(theme.INK)
        words = f"{place.barrel.name}  {self._mm(place.tube.length_mm)}"
        if self._plan is not None and self._plan.job.blank.is_flipped(index):
            words += ", end for end"
        text = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(area.width()) - 18)
        plate = QRectF(area.left() + 5, area.center().y() - 10, painter.fontMetrics().horizontalAdvance(text) + 12, 20)
        painter.fillRect(plate, theme.FADED)
        painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, text)

    def _paint_finished(self, painter: QPainter, place: TubePlace) -> None:
        """The finished outline over the surface: what stays of the bar."""
        middle, scale = self.bar_rect().center().y(), self._scale_across(self._layout())
        x0, x1 = self._x(place.tube.start_mm), self._x(place.tube.end_mm)
        painter.setPen(theme.pen(theme.PANEL, 1.6))
        for side in (-1, 1):
            painter.drawPolyline(
                [
                    QPointF(x0 + part * (x1 - x0), middle + side * size / 2 * scale)
                    for part, size in place.barrel.profile
                ]
            )

    def _paint_ruler(self, painter: QPainter, layout: Layout) -> None:
        """A ruler in the maker's unit: tenths of 10 mm, or eighths of an inch."""
        inch = self._units.length != "mm"
        step, each = (MM_PER_INCH / 8, 8) if inch else (1.0, 10)
        y = self.bar_rect().bottom() + 12
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.pen(theme.QUIET, 1))
        scale = self._scale(layout)
        lines = [QLineF(_LEFT, y, _LEFT + layout.length_mm * scale, y)]
        for n in range(int(layout.length_mm / step + 1e-6) + 1):
            x = _LEFT + n * step * scale
            tall = 9 if n % each == 0 else 6 if n % (each // 2) == 0 else 3.5
            lines.append(QLineF(x, y, x, y + tall))
            if n % each == 0:
                words = f"{n // each} in" if inch else f"{n}"
                painter.drawText(QRectF(x - 30, y + 10, 60, 14), Qt.AlignmentFlag.AlignCenter, words)
        painter.drawLines(lines)

    def _mm(self, value: float) -> str:
        return write(value, Dimension.LENGTH, self._units)
