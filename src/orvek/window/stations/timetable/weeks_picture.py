"""The weeks ahead on one axis: each job a thread of its own surface, waits in amber, machines under them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QTransform,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.timetable.results import Slot, Weeks
from orvek.planning.timetable.windows import windows
from orvek.quantities import later, write_day
from orvek.window import theme

_LEFT, _TOP, _FOOT, _WIDEST_ROW = 118, 40, 26, 30.0
_CLOSEST_H, _WIDEST_H = 10.0, 24.0 * 120
_LEAST, _LOWEST_ROW = 200, 13.0
_NUDGES_H = {Qt.Key.Key_Left: -0.25, Qt.Key.Key_Right: 0.25}
_NEAR_MS = 15  # minutes that a dragged task is laid to


class WeeksPicture(QWidget):
    """`pinned` is (key of a task, when): a task of the job in hand was dragged there."""

    pinned = Signal(str, object)
    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._weeks: Weeks | None = None
        self._job = ""
        self._span_h, self._from_h = 24.0 * 14, 0.0
        self._rows: list[tuple[str, str]] = []  # what stands before a row, and whose it is
        self._row_by_key: dict[str, int] = {}
        self._seen: list[tuple[Slot, float, float]] = []  # with when it begins and is over, in hours
        self._held: tuple[Slot, float] | None = None
        self._moved_h = 0.0
        self._surfaces: dict[str, QPixmap] = {}  # of jobs, from the side
        self.setMinimumHeight(_LEAST)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The weeks ahead")
        self.setToolTip("Keys: N takes the next task, Shift and arrows move it (with Ctrl a day), Enter pins it there")

    def show_weeks(self, weeks: Weeks | None, job: str) -> None:
        """Show a timetable; `job` is the one in hand. While a new one is worked out the old one stays in sight."""
        if weeks is None and self._weeks is not None:
            return
        if weeks is not self._weeks:
            self._held, self._moved_h = None, 0.0
        is_new = weeks is not None and (self._weeks is None or self._job != job)
        self._weeks, self._job = weeks, job
        self._rows = _rows(weeks) if weeks is not None else []
        self._row_by_key = {key: number for number, (_, key) in enumerate(self._rows)}
        self._seen = list(_hours(weeks)) if weeks is not None else []
        self.setMinimumHeight(max(_LEAST, round(_TOP + _FOOT + _LOWEST_ROW * len(self._rows))))
        if weeks is not None and is_new:
            ready = weeks.table.ready(job)
            hours = (ready - weeks.question.begin).total_seconds() / 3600 if ready is not None else 24.0 * 14
            self._span_h, self._from_h = min(_WIDEST_H, max(48.0, hours * 1.08)), 0.0
        self.setAccessibleDescription(f"{len(weeks.table.slots)} tasks" if weeks is not None else "being worked out")
        self.update()

    def show_surfaces(self, surfaces: dict[str, QImage]) -> None:
        """What the jobs look like, once there are pictures of them."""
        self._surfaces = {job: QPixmap.fromImage(image) for job, image in surfaces.items()}
        self.update()

    def slot_rect(self, slot: Slot) -> QRectF:
        """Where a task's hands are painted in the row of its job."""
        return self._bar(slot.begins, slot.ends, self._row_of(slot.job))

    # -- where things are --------------------------------------------------------------------------------------

    def _x(self, when: datetime) -> float:
        assert self._weeks is not None
        hours = (when - self._weeks.question.begin).total_seconds() / 3600
        return _LEFT + (hours - self._from_h) / self._span_h * (self.width() - _LEFT - 12)

    def _row(self) -> float:
        """How high a row is, so that all of them are seen."""
        return min(_WIDEST_ROW, (self.height() - _TOP - _FOOT) / max(1, len(self._rows)))

    def _row_of(self, key: str) -> int:
        return self._row_by_key.get(key, 0)

    def _bar(self, begins: datetime, ends: datetime, row: int) -> QRectF:
        left, right = self._x(begins), self._x(ends)
        tall = self._row()
        return QRectF(left, _TOP + row * tall + tall * 0.2, max(2.0, right - left), tall * 0.6)

    # -- hands -------------------------------------------------------------------------------------------------

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._zoom(0.85 if event.angleDelta().y() > 0 else 1 / 0.85, event.position().x())
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step, by = self._span_h / 8, _NUDGES_H.get(Qt.Key(event.key()), 0.0)
        is_moved = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier) and self._held is not None
        match event.key():
            case Qt.Key.Key_N:
                self._take_next()
            case Qt.Key.Key_Return | Qt.Key.Key_Enter if self._held is not None:
                self._let_go()
            case Qt.Key.Key_Escape if self._held is not None:
                self._held, self._moved_h = None, 0.0
            case Qt.Key.Key_Left | Qt.Key.Key_Right if is_moved:
                self._moved_h += by * (96 if event.modifiers() & Qt.KeyboardModifier.ControlModifier else 1)
            case Qt.Key.Key_Left:
                self._from_h = max(0.0, self._from_h - step)
            case Qt.Key.Key_Right:
                self._from_h += step
            case Qt.Key.Key_Plus | Qt.Key.Key_Equal:
                self._zoom(0.8, _LEFT)
            case Qt.Key.Key_Minus:
                self._zoom(1.25, _LEFT)
            case _:
                super().keyPressEvent(event)
                return
        self.update()

    def _zoom(self, by: float, x: float) -> None:
        """Closer or wider about a place that stays where it is."""
        part = max(0.0, (x - _LEFT) / max(1, self.width() - _LEFT - 12))
        held = self._from_h + part * self._span_h
        self._span_h = min(_WIDEST_H, max(_CLOSEST_H, self._span_h * by))
        self._from_h = max(0.0, held - part * self._span_h)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._weeks is None:
            return
        for slot in self._weeks.table.of(self._job):
            if self.slot_rect(slot).adjusted(-3, -4, 3, 4).contains(event.position()):
                self._held, self._moved_h = (slot, event.position().x()), 0.0
                self.chosen.emit(slot.task.key)
                return

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            wide = (event.position().x() - self._held[1]) / (self.width() - _LEFT - 12)
            self._moved_h = wide * self._span_h
            self.update()

    def _take_next(self) -> None:
        """The next task of the job in hand is taken, to be moved by keys."""
        own = self._weeks.table.of(self._job) if self._weeks is not None else ()
        if not own:
            return
        here = next((n for n, slot in enumerate(own) if self._held is not None and slot is self._held[0]), -1)
        slot = own[(here + 1) % len(own)]
        self._held, self._moved_h = (slot, 0.0), 0.0
        self.setAccessibleDescription(f"{slot.task.words} in hand; Shift and arrows move it, Enter pins it there")
        self.chosen.emit(slot.task.key)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._let_go()

    def _let_go(self) -> None:
        """What was moved far enough is pinned where it lies."""
        if self._held is None or self._weeks is None:
            return
        slot, moved = self._held[0], self._moved_h
        self._held, self._moved_h = None, 0.0
        self.update()
        if abs(moved) * 60 >= _NEAR_MS / 2:
            begins = slot.begins + timedelta(minutes=round(moved * 60 / _NEAR_MS) * _NEAR_MS)
            self.pinned.emit(slot.task.key, max(begins, self._weeks.question.begin))

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        if self._weeks is None:
            painter.setPen(theme.QUIET)
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The weeks ahead are being worked out.")
            return
        rows = self._rows
        self._paint_days(painter, len(rows))
        painter.save()
        painter.setClipRect(QRectF(_LEFT, 0, self.width() - _LEFT, self.height()))
        pens, first, last = _Pens(), self._from_h - 1.0, self._from_h + self._span_h
        self._paint_threads(painter)
        for slot, begins, ready in self._seen:
            by = self._moved_h if self._held is not None and self._held[0] is slot else 0.0
            if begins + by <= last and ready + by >= first:
                self._paint_slot(painter, slot, timedelta(hours=by), pens)
        painter.restore()
        painter.setPen(theme.INK)
        for number, (name, key) in enumerate(rows):
            painter.setFont(theme.bold(theme.SMALL) if key == self._job or not key else theme.font(theme.SMALL))
            line = QRectF(16, _TOP + number * self._row(), _LEFT - 22, self._row())
            shown = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, int(line.width()))
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, shown)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        foot = QRectF(_LEFT, self.height() - 20, self.width() - _LEFT, 16)
        words = "blocks: hands · amber: waits · light: your hours · wheel, + and − zoom · drag a task to pin it"
        painter.drawText(foot, Qt.AlignmentFlag.AlignLeft, words)

    def _paint_days(self, painter: QPainter, rows: int) -> None:
        """The maker's hours as light bands, midnight as hairlines, days by their names where there is room."""
        assert self._weeks is not None
        question, bottom = self._weeks.question, _TOP + rows * self._row()
        days = int((self._from_h + self._span_h) / 24) + 2
        painter.save()
        painter.setClipRect(QRectF(_LEFT, 0, self.width() - _LEFT, self.height()))
        for first, last in windows(question.shop.hours, question.begin, days, loud=False):
            left, right = (self._x(later(question.begin, at)) for at in (first, last))
            painter.fillRect(QRectF(left, _TOP - 4, right - left, bottom - _TOP + 8), theme.PANEL)
        midnight = datetime.combine(question.begin.date(), datetime.min.time())
        wide = 24 / self._span_h * (self.width() - _LEFT - 12)
        every = 1 if wide > 80 else 2 if wide > 40 else 7 if wide > 12 else 28
        for day in range(days + 1):
            at = midnight + timedelta(days=day)
            x = self._x(at)
            painter.setPen(theme.pen(theme.HAIRLINE, 1))
            painter.drawLine(QPointF(x, _TOP - 6), QPointF(x, bottom + 4))
            if day % every == 0:
                words = write_day(at)
                box = QRectF(x + 3, 8, painter.fontMetrics().horizontalAdvance(words) + 1, 16)
                if box.left() >= _LEFT and box.right() <= self.width():
                    painter.setPen(theme.QUIET)
                    painter.drawText(box, Qt.AlignmentFlag.AlignLeft, words)
        painter.restore()

    def _paint_threads(self, painter: QPainter) -> None:
        """From a job's first task to where it is ready."""
        ends: dict[str, tuple[datetime, datetime]] = {}
        for slot, _, _ in self._seen:
            first, last = ends.get(slot.job, (slot.begins, slot.ready))
            ends[slot.job] = (min(first, slot.begins), max(last, slot.ready))
        for job, (first, last) in ends.items():
            y = _TOP + (self._row_of(job) + 0.5) * self._row()
            painter.setPen(theme.pen(theme.ACCENT if job == self._job else theme.QUIET, 1.2))
            painter.drawLine(QPointF(self._x(first), y), QPointF(self._x(last), y))

    def _paint_hands(self, painter: QPainter, slot: Slot, there: QRectF, ink: QColor) -> None:
        """The hands' time in the job's own surface, as long as the bar is tall again and again; without one in ink."""
        surface = self._surfaces.get(slot.job)
        if surface is None:
            painter.fillRect(there, ink)
            return
        scale = there.height() / surface.height()
        brush = QBrush(surface)
        brush.setTransform(QTransform.fromScale(scale, scale) * QTransform.fromTranslate(there.left(), there.top()))
        painter.fillRect(there, brush)
        painter.setPen(theme.pen(ink, 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(there)

    def _paint_slot(self, painter: QPainter, slot: Slot, by: timedelta, pens: _Pens) -> None:
        begins, ends, ready = self._x(slot.begins + by), self._x(slot.ends + by), self._x(slot.ready + by)
        row, own, tall = self._row_of(slot.job), slot.job == self._job, self._row()
        high, top = tall * 0.6, _TOP + tall * 0.2
        if ready > ends:
            painter.fillRect(QRectF(ends, top + row * tall + high * 0.28, ready - ends, high * 0.44), pens.amber[own])
        painter.fillRect(QRectF(begins, top, max(2.0, ends - begins), high), pens.ink[own])
        self._paint_hands(painter, slot, QRectF(begins, top + row * tall, max(2.0, ends - begins), high), pens.ink[own])
        if self._held is not None and self._held[0] is slot:
            painter.setPen(pens.held)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(begins, top + row * tall, max(2.0, ends - begins), high).adjusted(-3, -3, 3, 3))
        if slot.is_pinned:
            rect = self._bar(slot.begins, slot.ends, row)
            painter.setPen(pens.pin)
            painter.drawLine(rect.topLeft() + QPointF(0, -4), rect.bottomLeft() + QPointF(0, 4))
        if slot.task.place:
            until = self._x(slot.ready if slot.task.holds else slot.ends)
            there = self._bar(slot.begins, slot.begins, self._row_of(slot.task.place))
            there.setRight(max(there.right(), until))
            painter.setPen(pens.edge)
            painter.setBrush(theme.MOULD)
            painter.drawRect(there.adjusted(0, there.height() * 0.2, 0, -there.height() * 0.2))


def _rows(weeks: Weeks) -> list[tuple[str, str]]:
    """Names of the rows: hands, each job, each machine that is used; with the job's id."""
    planned = {slot.job for slot in weeks.table.slots}
    jobs = [(name, job) for job, name in weeks.names if job in planned]
    places = sorted({slot.task.place for slot in weeks.table.slots if slot.task.place})
    return [("Your hands", ""), *jobs, *((place, place) for place in places)]


def _hours(weeks: Weeks) -> Iterator[tuple[Slot, float, float]]:
    """All slots with when they begin and when all of them is over, in hours from the timetable's beginning."""
    begin = weeks.question.begin
    for slot in weeks.table.slots:
        yield (
            slot,
            (slot.begins - begin).total_seconds() / 3600,
            (max(slot.ends, slot.ready) - begin).total_seconds() / 3600,
        )


class _Pens:
    """Colours of other jobs and of the one in hand, and pens: made once for a picture."""

    def __init__(self) -> None:
        self.amber = tuple(_clear(theme.AMBER, alpha) for alpha in (90, 190))
        self.ink = tuple(_clear(theme.ACCENT, alpha) for alpha in (130, 255))
        self.pin, self.edge = theme.pen(theme.ACCENT, 2), theme.pen(theme.QUIET, 1)
        self.held = theme.pen(theme.ACCENT, 1.6)


def _clear(colour: QColor, alpha: int) -> QColor:
    clear = QColor(colour)
    clear.setAlpha(alpha)
    return clear
