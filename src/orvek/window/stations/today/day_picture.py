"""A day and a half on one line: hands above, waits below, now as a line."""

from __future__ import annotations

from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.timetable.results import Weeks
from orvek.planning.timetable.windows import windows
from orvek.planning.timetable.words import wait_of
from orvek.quantities import later, write_day
from orvek.window import theme

_LABEL_PX = 64  # what an hour or a day takes on the line
_SIDE, _SPAN_H, _BEFORE_H, _BAR, _WAIT = 24, 36.0, 2.0, 40.0, 20.0


class DayPicture(QWidget):
    """From two hours ago to a day and a half ahead."""

    def __init__(self) -> None:
        super().__init__()
        self._weeks: Weeks | None = None
        self._now = datetime.now()
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Today and tomorrow")

    def show_day(self, weeks: Weeks | None, now: datetime) -> None:
        """Show what a timetable has around a moment."""
        self._weeks, self._now = weeks or self._weeks, now
        told = f"{len(weeks.table.slots)} tasks are planned" if weeks is not None else "being planned"
        self.setAccessibleDescription(told)
        self.update()

    def _x(self, when: datetime) -> float:
        hours = (when - self._now).total_seconds() / 3600 + _BEFORE_H
        return _SIDE + hours / _SPAN_H * (self.width() - 2 * _SIDE)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        weeks = self._weeks
        if weeks is None:
            painter.setPen(theme.QUIET)
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The day is being planned.")
            return
        axis = self.height() * 0.5
        self._paint_hours(painter, weeks, axis)
        painter.setClipRect(QRectF(_SIDE, 0, self.width() - 2 * _SIDE, self.height()))
        self._paint_hands(painter, weeks, axis)
        self._paint_waits(painter, weeks, axis)
        painter.setClipping(False)
        x = self._x(self._now)
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawLine(QPointF(x, 20), QPointF(x, self.height() - 8))
        painter.drawText(QRectF(x + 4, self.height() - 22, 60, 16), Qt.AlignmentFlag.AlignLeft, f"{self._now:%H:%M}")

    def _paint_hours(self, painter: QPainter, weeks: Weeks, axis: float) -> None:
        """The maker's hours light, full hours as ticks, days by name."""
        begin = self._now - timedelta(hours=_BEFORE_H)
        for first, last in windows(weeks.question.shop.hours, weeks.question.begin, 3, loud=False):
            left, right = (self._x(later(weeks.question.begin, at)) for at in (first, last))
            painter.fillRect(QRectF(left, axis - _BAR - 10, right - left, _BAR + 10), theme.PANEL)
        painter.setPen(theme.pen(theme.HAIRLINE, 1.5))
        painter.drawLine(QPointF(_SIDE, axis), QPointF(self.width() - _SIDE, axis))
        whole = begin.replace(minute=0, second=0, microsecond=0)
        apart = (self._x(whole + timedelta(hours=1)) - self._x(whole)) or 1.0
        step = next((hours for hours in (3, 6, 12) if hours * apart >= _LABEL_PX), 24)
        for hour in range(int(_SPAN_H) + 1):
            at = whole + timedelta(hours=hour)
            if at.hour % step:
                continue
            x = self._x(at)
            painter.setPen(theme.QUIET)
            painter.drawLine(QPointF(x, axis - 3), QPointF(x, axis + 3))
            words = write_day(at) if at.hour == 0 else f"{at:%H:%M}"
            half = painter.fontMetrics().horizontalAdvance(words) / 2 + 1
            painter.drawText(QRectF(x - half, 4, 2 * half, 16), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_hands(self, painter: QPainter, weeks: Weeks, axis: float) -> None:
        for slot in weeks.table.slots:
            left, right = self._x(slot.begins), self._x(slot.ends)
            if right < 0 or left > self.width():
                continue
            area = QRectF(left, axis - _BAR - 4, max(3.0, right - left - 1), _BAR)
            painter.fillRect(area, theme.ACCENT)
            words = f"{weeks.name(slot.job)}: {slot.task.words.lower()}"
            if painter.fontMetrics().horizontalAdvance(words) < area.width() - 8:
                painter.setPen(theme.PANEL)
                painter.drawText(area.adjusted(4, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, words)

    def _paint_waits(self, painter: QPainter, weeks: Weeks, axis: float) -> None:
        """Waits under the line, one under the other where they are at the same time."""
        ends: list[float] = []
        amber = QColor(theme.AMBER)
        amber.setAlpha(150)
        under_way = [(self._now, wait) for wait in weeks.waiting]
        to_come = [(slot.ends, wait_of(slot)) for slot in weeks.table.slots]
        for begins, wait in (*under_way, *to_come):
            left, right = self._x(begins), self._x(wait.ends)
            if wait.ends <= begins or right < 0 or left > self.width():
                continue
            row = next((n for n, end in enumerate(ends) if end <= left), len(ends))
            ends[row : row + 1] = [right]
            area = QRectF(left, axis + 8 + row * (_WAIT + 3), right - left, _WAIT)
            painter.fillRect(area, amber)
            seen = area.intersected(QRectF(_SIDE, 0, self.width() - 2 * _SIDE, self.height())).adjusted(4, 0, -4, 0)
            words = f"{weeks.name(wait.job)}: {wait.words}"
            painter.setPen(theme.INK)
            shown = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(seen.width()))
            painter.drawText(seen, Qt.AlignmentFlag.AlignVCenter, shown)
