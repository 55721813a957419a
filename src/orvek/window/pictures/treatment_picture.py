"""The treatment on one line of time, waits below, hands above; and how full the wood is of what it could take up."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.soak.results import SoakPlan, Stage
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_SIDE, _GAUGE, _BAR = 24, 150, 24
_LEAST, _WORDS, _TWO_DAYS = 54.0, 50, 2880


class TreatmentPicture(QWidget):
    """Stages as long as the root of their time, so that minutes are seen beside weeks."""

    def __init__(self) -> None:
        super().__init__()
        self._soak: SoakPlan | None = None
        self._in_hand = ""
        self._units = Units()
        self.setMinimumHeight(140)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The treatment, and what was taken up")

    def show_soak(self, soak: SoakPlan, units: Units, in_hand: str = "") -> None:
        """Show a treatment; `in_hand` are the words of the stage that the hands are at."""
        self._soak, self._units, self._in_hand = soak, units, in_hand.casefold()
        stages = "; ".join(f"{one.words}: {write(one.minutes, Dimension.DURATION, units)}" for one in soak.stages)
        self.setAccessibleDescription(stages)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        soak = self._soak
        if soak is None or not soak.stages:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        self._paint_stages(painter, soak)
        self._paint_gauge(painter, soak)

    def _paint_stages(self, painter: QPainter, soak: SoakPlan) -> None:
        """Each stage is at least wide enough that its words find room above or below it."""
        wide = self.width() - 2 * _SIDE - (_GAUGE if soak.bath else 0)
        least = min(_LEAST, wide / len(soak.stages))
        roots = [max(1.0, one.minutes) ** 0.35 for one in soak.stages]
        rest = wide - least * len(soak.stages)
        middle, x = self.height() / 2 - 6, float(_SIDE)
        for number, (stage, root) in enumerate(zip(soak.stages, roots, strict=True)):
            area = QRectF(x, middle - _BAR / 2, least + rest * root / sum(roots), _BAR)
            colour = QColor(theme.ACCENT if stage.is_hands else theme.AMBER)
            colour.setAlpha(200 if stage.is_hands else 90)
            painter.fillRect(area, colour)
            painter.setPen(theme.pen(theme.PAPER, 2))
            painter.drawLine(area.topRight(), area.bottomRight())
            if stage.is_hands and stage.words.casefold() == self._in_hand:
                painter.setPen(theme.pen(theme.INK, 3))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(area.adjusted(-2, -4, 2, 4))
            self._paint_words(painter, stage, area, least, above=number % 2 == 0)
            x = area.right()
        painter.setPen(theme.QUIET)
        foot = QRectF(_SIDE, self.height() - 16, wide, 16)
        words = "amber: it waits · ink: your hands · long stretches are drawn shorter"
        painter.drawText(foot, Qt.AlignmentFlag.AlignLeft, words)

    def _paint_words(self, painter: QPainter, stage: Stage, area: QRectF, least: float, *, above: bool) -> None:
        minutes = stage.minutes
        told = _days(minutes) if minutes >= _TWO_DAYS else write(_rounded(minutes), Dimension.DURATION, self._units)
        width = area.width() / 2 + least * 1.4  # as far as the middle of its neighbours, whose words lie opposite
        left = min(max(area.center().x() - width / 2, 0.0), self.width() - width)
        place = QRectF(left, area.top() - _WORDS - 4 if above else area.bottom() + 4, width, _WORDS)
        painter.setPen(theme.INK)
        upright = Qt.AlignmentFlag.AlignBottom if above else Qt.AlignmentFlag.AlignTop
        flags = int(Qt.AlignmentFlag.AlignHCenter | upright) | int(Qt.TextFlag.TextWordWrap)
        painter.drawText(place, flags, f"{stage.words}\n{told}")

    def _paint_gauge(self, painter: QPainter, soak: SoakPlan) -> None:
        """A column as high as the possible: what such wood takes as a band, what was weighed as a mark."""
        if soak.bath is None:
            return
        area = QRectF(self.width() - _SIDE - 34, 24, 34, self.height() - 60)

        def at(pct: float) -> float:
            return area.bottom() - area.height() * min(1.0, max(0.0, pct / 100))

        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.PANEL)
        painter.drawRect(area)
        band = QColor(theme.AMBER)
        band.setAlpha(90)
        low, high = at(soak.wood.takes_pct.low), at(soak.wood.takes_pct.high)
        painter.fillRect(QRectF(area.left() + 1, high, area.width() - 2, low - high), band)
        painter.setPen(theme.QUIET)
        words = QRectF(area.left() - 104, area.top() - 8, 96, 16)
        painter.drawText(words, Qt.AlignmentFlag.AlignRight, "all it can take")
        painter.drawText(words.translated(0, (low + high) / 2 - area.top()), Qt.AlignmentFlag.AlignRight, "usual")
        taken = soak.bath.taken_pct
        if taken is not None and math.isfinite(taken.value):
            y = at(taken.value)
            painter.setPen(theme.pen(theme.ACCENT, 3))
            painter.drawLine(QPointF(area.left() - 6, y), QPointF(area.right() + 6, y))
            painter.setPen(theme.INK)
            painter.setFont(theme.bold(theme.SMALL))
            painter.drawText(
                words.translated(0, y - area.top()), Qt.AlignmentFlag.AlignRight, taken.written(self._units)
            )
        foot = QRectF(area.right() - 150, area.bottom() + 6, 150, 16)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(foot, Qt.AlignmentFlag.AlignRight, "taken up, of the possible")


def _rounded(minutes: float) -> float:
    """Long waits to the half hour: nothing of them is known to the minute."""
    return round(minutes / 30) * 30 if minutes > 240 else minutes


def _days(minutes: float) -> str:
    days = minutes / 1440
    return f"{days:.0f} days" if days < 28 else f"{days / 7:.0f} weeks"
