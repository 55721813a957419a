"""A good pen, batch by batch: what it came to, and what was expected before anything was spoilt."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.documents import ClosedEntry
from orvek.quantities import Dimension, Units, decimal, write
from orvek.window import theme
from orvek.window.widgets.axes import round_steps

_NAME, _RIGHT, _ROW, _TOP, _FOOT = 132, 84, 24, 12, 24
MOST = 8


class BatchesPicture(QWidget):
    """A row a batch: a dot for what a good pen came to, a ring for what one costs when nothing is spoilt."""

    def __init__(self) -> None:
        super().__init__()
        self._batches: tuple[tuple[str, float, float], ...] = ()
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("A good pen, batch by batch")

    def show_batches(self, closed: Sequence[ClosedEntry], units: Units) -> None:
        """Show the newest of the batches that were finished and whose cost is known."""
        priced = [(one.job, one.cost_good, one.told) for one in closed if one.cost_good is not None]
        self._batches, self._units = tuple(priced[-MOST:]), units
        told = (f"{job} {self._money(cost)}, without scrap {self._money(least)}" for job, cost, least in self._batches)
        self.setAccessibleDescription("; ".join(told))
        self.setVisible(bool(self._batches))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(440, _TOP + _ROW * max(1, len(self._batches)) + _FOOT)

    def _money(self, value: float) -> str:
        return write(value, Dimension.MONEY, self._units, 2)

    def paintEvent(self, _event: QPaintEvent) -> None:
        if not self._batches:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        most = max(max(cost, least) for _, cost, least in self._batches) or 1.0
        row = min(_ROW, (self.height() - _TOP - _FOOT) / len(self._batches))
        foot = _TOP + row * len(self._batches)
        wide = max(60, self.width() - _NAME - _RIGHT)
        self._paint_axis(painter, most, wide, foot)
        for number, (job, cost, least) in enumerate(self._batches):
            middle = _TOP + (number + 0.5) * row
            name = painter.fontMetrics().elidedText(job, Qt.TextElideMode.ElideRight, _NAME - 16)
            painter.setPen(theme.INK)
            painter.drawText(QRectF(0, middle - 9, _NAME - 12, 18), Qt.AlignmentFlag.AlignVCenter, name)
            at, without = (QPointF(_NAME + value / most * wide, middle) for value in (cost, least))
            painter.setPen(theme.pen(theme.ACCENT, 2))
            painter.drawLine(without, at)
            painter.setPen(theme.pen(theme.QUIET, 1.6))
            painter.setBrush(theme.PAPER)
            painter.drawEllipse(without, 4, 4)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.ACCENT)
            painter.drawEllipse(at, 4, 4)
            painter.setPen(theme.INK)
            words = QRectF(max(at.x(), without.x()) + 10, middle - 9, _RIGHT - 12, 18)
            painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, self._money(cost))

    def _paint_axis(self, painter: QPainter, most: float, wide: float, foot: float) -> None:
        for mark in round_steps(0.0, most):
            x = _NAME + mark / most * wide
            painter.setPen(theme.HAIRLINE)
            painter.drawLine(QPointF(x, _TOP), QPointF(x, foot))
            painter.setPen(theme.QUIET)
            words = f"{self._units.currency}{decimal(mark)}"
            painter.drawText(QRectF(x - 40, foot + 2, 80, 18), Qt.AlignmentFlag.AlignHCenter, words)
