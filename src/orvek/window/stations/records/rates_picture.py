"""What spoils of each kind of work: the record's range on one scale, the usual rate beside it, how many to start."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.records.overview import NextBatch
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_ROW, _LEAST_ROW, _HEAD, _NAME, _RIGHT, _MARGIN = 46, 38, 26, 190, 250, 24
_TICKS_PCT = (0, 10, 20, 30, 40, 50)


class RatesPicture(QWidget):
    """A row a kind of work; one is chosen by a click or by arrow keys."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[NextBatch, ...] = ()
        self._units, self._index = Units(), 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.setAccessibleName("Scrap rate, by kind of work")

    @property
    def index(self) -> int:
        """Which row is in hand."""
        return self._index

    def show_rows(self, rows: Sequence[NextBatch], units: Units, index: int) -> None:
        """Show these kinds of work, one of them in hand."""
        self._rows, self._units, self._index = tuple(rows), units, index
        told = [
            f"{row.seen.work}: {100 * row.seen.rate.mean:.0f} % scrapped, start {row.start} for {row.pens}"
            for row in self._rows
        ]
        self.setAccessibleDescription("; ".join(told))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(640, _HEAD + _ROW * max(1, len(self._rows)) + 8)

    def minimumSizeHint(self) -> QSize:
        return QSize(420, _HEAD + _LEAST_ROW * max(1, len(self._rows)) + 8)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._choose(int((event.position().y() - _HEAD) // self._row()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self._choose(self._index + step)

    def _choose(self, index: int) -> None:
        if 0 <= index < len(self._rows):
            self.chosen.emit(index)

    def _row(self) -> float:
        """How tall a row is: less where there is less room."""
        return min(_ROW, (self.height() - _HEAD - 8) / max(1, len(self._rows)))

    # -- painting ----------------------------------------------------------------------------------------------

    def _x(self, share: float) -> float:
        wide = max(60, self.width() - _NAME - _RIGHT - _MARGIN)
        return _NAME + min(1.0, 100 * share / _TICKS_PCT[-1]) * wide

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        row_px = self._row()
        bottom = _HEAD + row_px * len(self._rows)
        for tick in _TICKS_PCT:
            x = self._x(tick / 100)
            painter.setPen(theme.HAIRLINE)
            painter.drawLine(QPointF(x, _HEAD - 4), QPointF(x, bottom))
            painter.setPen(theme.QUIET)
            words = f"{tick} %" if tick < _TICKS_PCT[-1] else f"{tick} % +"
            painter.drawText(QRectF(x - 50, 4, 100, 16), Qt.AlignmentFlag.AlignCenter, words)
        painter.setPen(theme.QUIET)
        legend = QRectF(_MARGIN, 4, _NAME - _MARGIN, 16)
        painter.drawText(legend, Qt.AlignmentFlag.AlignVCenter, "● yours   | typical")
        for number, row in enumerate(self._rows):
            self._paint_row(painter, _HEAD + row_px * number, row, number == self._index)

    def _paint_row(self, painter: QPainter, top: float, row: NextBatch, in_hand: bool) -> None:
        tall = self._row()
        if in_hand:
            painter.fillRect(QRectF(0, top, self.width(), tall), theme.PANEL)
            painter.fillRect(QRectF(0, top, 4, tall), theme.ACCENT)
        middle, rate, seen = top + tall / 2, row.seen.rate, row.seen
        top += (tall - _ROW) / 2
        painter.setPen(theme.INK)
        painter.setFont(theme.bold())
        name = QRectF(_MARGIN, top + 4, _NAME - _MARGIN - 8, 20)
        painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, seen.work)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(name.translated(0, 19), Qt.AlignmentFlag.AlignVCenter, seen.source)
        painter.setPen(theme.pen(theme.ACCENT if seen.of else theme.QUIET, 3))
        painter.drawLine(QPointF(self._x(rate.low), middle), QPointF(self._x(rate.high), middle))
        painter.setBrush(theme.ACCENT if seen.of else theme.QUIET)
        painter.drawEllipse(QPointF(self._x(rate.mean), middle), 5, 5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        usual = self._x(seen.usual)
        painter.setPen(theme.pen(theme.QUIET, 1.4))
        painter.drawLine(QPointF(usual, middle - 9), QPointF(usual, middle + 9))
        self._paint_right(painter, top, row)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(QPointF(0, middle + tall / 2), QPointF(self.width(), middle + tall / 2))

    def _paint_right(self, painter: QPainter, top: float, row: NextBatch) -> None:
        right = QRectF(self.width() - _RIGHT + 16, top + 4, _RIGHT - 16 - _MARGIN, 20)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold())
        painter.drawText(right, Qt.AlignmentFlag.AlignRight, f"start {row.start} for {row.pens} good")
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(right.translated(0, 19), Qt.AlignmentFlag.AlignRight, self._each(row))

    def _each(self, row: NextBatch) -> str:
        """What a good pen costs: by a job of that kind, else as the last batch came to."""
        if row.cost is not None and row.cost.with_spoilt.value:
            return f"a good pen {write(row.cost.with_spoilt.value, Dimension.MONEY, self._units, 2)}"
        if row.closed is not None and row.closed.cost_good:
            return f"the last batch {write(row.closed.cost_good, Dimension.MONEY, self._units, 2)} each"
        return "no price yet"
