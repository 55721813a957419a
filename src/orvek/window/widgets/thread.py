"""The work as a thread: one knot an operation, amber between two where something is waited for.

`Thread` shows `Knot`s under one another; the arrows go through them, and on with Tab.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from msgspec import Struct
from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QPainter
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from orvek.window import theme

ROW_PX, WAIT_PX = 28, 20
_GUTTER, _KNOT, _GAP, _EDGE = 34.0, 5.0, 12.0, 8.0
_ROLE = Qt.ItemDataRole.UserRole
_INDEX = QModelIndex | QPersistentModelIndex


class Knot(Struct, frozen=True):
    """One operation on the thread.

    Attributes:
        key: which.
        words: what it is.
        amount: how long it takes, at the right edge.
        when: when it begins or was done, before the words; empty where nobody knows.
        wait: what is waited for after it; empty where nothing is.
        state: whether it is done, the next one, or still to come.
        is_pinned: whether the maker said when.
        tip: what else is said of it.
    """

    key: str
    words: str
    amount: str = ""
    when: str = ""
    wait: str = ""
    state: Literal["done", "next", "open"] = "open"
    is_pinned: bool = False
    tip: str = ""

    @property
    def told(self) -> str:
        """All of it as it is read out."""
        done = "done" if self.state == "done" else "pinned" if self.is_pinned else ""
        return ", ".join(part for part in (self.when, self.words, self.amount, done, self.wait) if part)


class Thread(QListWidget):
    """Operations in the order of the work."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setItemDelegate(_Painted(self))
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._knots: tuple[Knot, ...] = ()

    def show_knots(self, knots: Sequence[Knot]) -> None:
        """Show these; the one in hand stays in hand, or what comes in its place."""
        if tuple(knots) == self._knots:
            return
        here, row, self._knots = self.key(), self.currentRow(), tuple(knots)
        wide = _wide(knots)
        self.blockSignals(True)
        self.clear()
        for number, knot in enumerate(knots):
            item = QListWidgetItem(knot.told)
            item.setData(_ROLE, (knot, number == len(knots) - 1, wide))
            item.setToolTip(knot.tip)
            item.setSizeHint(QSize(0, ROW_PX + (WAIT_PX if knot.wait else 0)))
            self.addItem(item)
        if not self.choose(here):
            self.setCurrentRow(min(row, len(knots) - 1))  # it is done and gone: the next one stands in its place
        self.blockSignals(False)
        self.setAccessibleDescription(f"{len(knots)} operations")

    def key(self) -> str:
        """Of the operation in hand; empty where none is."""
        row = self.currentRow()
        return self._knots[row].key if 0 <= row < len(self._knots) else ""

    def choose(self, key: str) -> bool:
        """Take an operation in hand; whether it is there."""
        row = next((n for n, knot in enumerate(self._knots) if knot.key == key), None)
        if row is not None:
            self.setCurrentRow(row)
        return row is not None


def _wide(knots: Sequence[Knot]) -> float:
    """How much room the moments take."""
    metrics = QFontMetricsF(theme.font())
    return max((metrics.horizontalAdvance(knot.when) for knot in knots if knot.when), default=-_GAP)


class _Painted(QStyledItemDelegate):
    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _INDEX) -> None:
        knot, is_last, wide = index.data(_ROLE)
        rect = QRectF(option.rect)
        is_chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if is_chosen:
            painter.fillRect(rect, theme.PANEL)
        x, y = rect.left() + _GUTTER / 2, rect.top() + ROW_PX / 2
        self._paint_thread(painter, knot, rect, x, y, is_first=index.row() == 0, is_last=is_last)
        _paint_knot(painter, knot, QPointF(x, y))
        painter.setFont(theme.bold() if is_chosen or knot.state == "next" else theme.font())
        line = QRectF(rect.left() + _GUTTER, rect.top(), rect.width() - _GUTTER - _EDGE, ROW_PX)
        painter.setPen(theme.QUIET)
        painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, knot.when)
        painter.drawText(line, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, knot.amount)
        room = painter.fontMetrics().horizontalAdvance(knot.amount) + _GAP
        words = line.adjusted(wide + _GAP, 0, -room, 0)
        painter.setPen(theme.QUIET if knot.state == "done" else theme.INK)
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, _elided(painter, knot.words, words.width()))
        if knot.wait:
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.QUIET)
            below = QRectF(words.left(), line.bottom() - 4, rect.right() - words.left() - _EDGE, WAIT_PX)
            painter.drawText(below, Qt.AlignmentFlag.AlignVCenter, _elided(painter, knot.wait, below.width()))
        painter.restore()

    def _paint_thread(
        self, painter: QPainter, knot: Knot, rect: QRectF, x: float, y: float, *, is_first: bool, is_last: bool
    ) -> None:
        """The line through the knot: ink as far as the work is done, amber and wider where something is waited for."""
        above = theme.pen(theme.ACCENT, 2) if knot.state != "open" else theme.pen(theme.HAIRLINE, 2)
        below = theme.pen(theme.ACCENT, 2) if knot.state == "done" else theme.pen(theme.HAIRLINE, 2)
        if not is_first:
            painter.setPen(above)
            painter.drawLine(QPointF(x, rect.top()), QPointF(x, y - _KNOT))
        if not is_last or knot.wait:
            painter.setPen(below)
            painter.drawLine(QPointF(x, y + _KNOT), QPointF(x, rect.bottom() + 1))
        if knot.wait:
            amber = QRectF(x - 3, y + _KNOT + 3, 6, rect.bottom() - y - _KNOT - 4)
            painter.fillRect(amber, theme.AMBER)

    def sizeHint(self, option: QStyleOptionViewItem, index: _INDEX) -> QSize:
        return index.data(Qt.ItemDataRole.SizeHintRole) or super().sizeHint(option, index)


def _paint_knot(painter: QPainter, knot: Knot, at: QPointF) -> None:
    """Done: a tick; the next: full; still to come: a ring; pinned: a stroke through it."""
    painter.setPen(theme.pen(theme.ACCENT if knot.state != "open" else theme.QUIET, 1.8))
    painter.setBrush(theme.ACCENT if knot.state == "next" else Qt.BrushStyle.NoBrush)
    if knot.state == "done":
        painter.drawPolyline([at + QPointF(-4.5, 0), at + QPointF(-1.2, 3.5), at + QPointF(5, -4)])
    else:
        painter.drawEllipse(at, _KNOT, _KNOT)
    if knot.is_pinned:
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawLine(at + QPointF(-_KNOT - 4, 0), at + QPointF(_KNOT + 4, 0))


def _elided(painter: QPainter, words: str, room: float) -> str:
    return painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, max(0, int(room)))
