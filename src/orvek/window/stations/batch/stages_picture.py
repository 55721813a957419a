"""What a good pen costs, stage by stage: as told, and on top of it what the spoilt ones add."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.records.costs import PenCost
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_NAME, _RIGHT, _ROW, _TOP = 150, 150, 26, 12


class StagesPicture(QWidget):
    """A bar a stage: ink for what it takes, hatched for what is paid for spoilt ones."""

    def __init__(self) -> None:
        super().__init__()
        self._cost: PenCost | None = None
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("What a good pen costs, stage by stage")

    def show_cost(self, cost: PenCost | None, units: Units) -> None:
        """Show what a good pen costs."""
        self._cost, self._units = cost, units
        if cost is not None:
            told = [f"{stage.kind.key} {write(stage.cost, Dimension.MONEY, units, 2)}" for stage in cost.stages]
            self.setAccessibleDescription(", ".join(told))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(640, _TOP + _ROW * (len(self._cost.stages) if self._cost else 6) + 12)

    def paintEvent(self, _event: QPaintEvent) -> None:
        cost = self._cost
        if cost is None or not cost.stages:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        most = max(stage.cost_good for stage in cost.stages) or 1.0
        row = min(_ROW, (self.height() - _TOP) / len(cost.stages))
        wide = max(80, self.width() - _NAME - _RIGHT - 24)
        for number, stage in enumerate(cost.stages):
            top = _TOP + number * row
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.INK)
            name = QRectF(24, top, _NAME - 32, row - 4)
            painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, stage.kind.key)
            first = stage.cost / most * wide
            lost = (stage.cost_good - stage.cost) / most * wide
            bar = QRectF(_NAME, top + 2, first, row - 8)
            painter.fillRect(bar, theme.ACCENT)
            painter.fillRect(QRectF(bar.right(), bar.top(), lost, bar.height()), theme.hatching())
            painter.setPen(theme.pen(theme.QUIET, 0.8))
            painter.drawRect(QRectF(bar.right(), bar.top(), lost, bar.height()))
            painter.setPen(theme.QUIET)
            worth = write(stage.cost_good, Dimension.MONEY, self._units, 2)
            words = f"{worth} · yield {100 * stage.passes:.1f} %"
            at = QRectF(bar.right() + lost + 8, top, self.width() - bar.right() - lost - 12, row - 4)
            painter.drawText(at, Qt.AlignmentFlag.AlignVCenter, words)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(QPointF(_NAME, _TOP - 4), QPointF(_NAME, _TOP + row * len(cost.stages)))
