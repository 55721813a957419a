"""The batch's blanks, numbered: each with its fate as a shape and a word; one is in hand."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import FateEntry, outcome
from orvek.window import theme

_WIDE, _TALL, _GAP = 104, 56, 8


class BlanksPicture(QWidget):
    """`chosen` is the number of the blank that was taken in hand, from 1."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._count, self._fates, self._number = 0, dict[int, FateEntry](), 1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("The blanks of this batch")
        self.setToolTip("Click a blank, or use the arrow keys; then say what became of it")

    @property
    def number(self) -> int:
        """Which blank is in hand."""
        return self._number

    def show_blanks(self, count: int, fates: dict[int, FateEntry], number: int) -> None:
        """Show so many blanks, with what became of them."""
        self._count, self._fates, self._number = count, fates, max(1, min(number, count))
        there = fates.get(self._number)
        word = outcome(there.fate) if there else "in work"
        self.setAccessibleDescription(f"{count} blanks, number {self._number} in hand: {word}")
        self.setMinimumHeight(self.heightForWidth(self.width()))
        self.update()

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        rows = -(-max(1, self._count) // self._columns(width))
        return rows * (_TALL + _GAP) + _GAP

    def sizeHint(self) -> QSize:
        return QSize(6 * (_WIDE + _GAP), self.heightForWidth(max(self.width(), 6 * (_WIDE + _GAP))))

    def place(self, number: int) -> QRectF:
        """Where a blank is painted."""
        row, column = divmod(number - 1, self._columns(self.width()))
        return QRectF(column * (_WIDE + _GAP), _GAP + row * (_TALL + _GAP), _WIDE, _TALL)

    def _columns(self, width: int) -> int:
        return max(1, (width + _GAP) // (_WIDE + _GAP))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for number in range(1, self._count + 1):
            if self.place(number).contains(event.position()):
                self.chosen.emit(number)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        across = self._columns(self.width())
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -across, Qt.Key.Key_Down: across}
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        elif 1 <= self._number + step <= self._count:
            self.chosen.emit(self._number + step)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number in range(1, self._count + 1):
            self._paint(painter, number, self._fates.get(number))

    def _paint(self, painter: QPainter, number: int, fate: FateEntry | None) -> None:
        there, in_hand = self.place(number), number == self._number
        painter.fillRect(there, theme.PANEL)
        painter.setPen(theme.pen(theme.ACCENT if in_hand else theme.HAIRLINE, 2 if in_hand else 1))
        painter.drawRect(there)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold(theme.LARGE))
        painter.drawText(there.adjusted(10, 4, -6, -20), Qt.AlignmentFlag.AlignVCenter, str(number))
        self._mark(painter, there.topRight() + QPointF(-18, 18), fate)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET if fate is None else theme.INK)
        words = outcome(fate.fate) if fate is not None else "in work"
        painter.drawText(there.adjusted(10, 30, -4, -4), Qt.AlignmentFlag.AlignVCenter, words)

    def _mark(self, painter: QPainter, centre: QPointF, fate: FateEntry | None) -> None:
        """A tick, a patch over a gap, a smaller ring in a ring, a cross; nothing while it is in work."""
        if fate is None:
            return
        match fate.fate:
            case "good":
                painter.setPen(theme.pen(theme.ACCENT, 2.2))
                painter.drawPolyline([centre + QPointF(-6, 0), centre + QPointF(-1.5, 5), centre + QPointF(7, -5)])
            case "repaired":
                painter.setPen(theme.pen(theme.ACCENT, 2.2))
                painter.drawLine(centre + QPointF(-7, 0), centre + QPointF(-2, 0))
                painter.drawLine(centre + QPointF(2, 0), centre + QPointF(7, 0))
                painter.drawRect(QRectF(centre.x() - 3.5, centre.y() - 3.5, 7, 7))
            case "made smaller":
                painter.setPen(theme.pen(theme.CAUTION, 1.8))
                painter.drawEllipse(centre, 6.5, 6.5)
                painter.drawEllipse(centre, 3, 3)
            case _:
                painter.setPen(theme.pen(theme.INK, 2.4))
                painter.drawLine(centre + QPointF(-5, -5), centre + QPointF(5, 5))
                painter.drawLine(centre + QPointF(-5, 5), centre + QPointF(5, -5))
