"""The cure over time: temperature above, degree of cure below, on one axis of time that is dense at the beginning."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning.cure.question import READY_CURE
from orvek.planning.cure.results import CureForecast
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

_TICKS_MIN = (
    (5, "5 min"),
    (15, "15 min"),
    (60, "1 h"),
    (180, "3 h"),
    (480, "8 h"),
    (1440, "1 day"),
    (4320, "3 days"),
    (10080, "7"),
)


class CureChart(QWidget):
    """Two plots that share their time."""

    def __init__(self) -> None:
        super().__init__()
        self._units = Units()
        self._forecast: CureForecast | None = None
        self.heat, self.cured = _plot("°C"), _plot("cured, %")
        self.cured.setXLink(self.heat)
        self.cured.setYRange(0, 104, padding=0.0)
        self.heat.getAxis("bottom").setStyle(showValues=False)
        self.cured.getAxis("bottom").setTicks([[(math.log10(m), words) for m, words in _TICKS_MIN]])
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addWidget(self.heat, 5)
        column.addWidget(self.cured, 4)
        self.setAccessibleName("Temperature and degree of cure over time")
        self._now = [pg.InfiniteLine(angle=90, pen=pg.mkPen(theme.ACCENT, width=1)) for _ in range(2)]

    def show_forecast(self, forecast: CureForecast, units: Units) -> None:
        """Draw a forecast: the best course, its range, and the marks."""
        curve = forecast.curve
        if curve is None:
            return
        self._forecast, self._units = forecast, units
        self.heat.clear()
        self.cured.clear()
        x = np.log10(np.maximum(curve.time_min, 1.0))
        self._range(self.heat, x, self._degrees(curve.hottest_low_c), self._degrees(curve.hottest_high_c), theme.AMBER)
        self._line(self.heat, x, self._degrees(curve.air_c), theme.QUIET, 1, Qt.PenStyle.DotLine)
        self._line(self.heat, x, self._degrees(curve.coldest_c), theme.AMBER, 1, Qt.PenStyle.DashLine)
        self._line(self.heat, x, self._degrees(curve.hottest_c), theme.AMBER, 2)
        limit = self._degrees(forecast.question.hottest_c)
        self.heat.addItem(
            pg.InfiniteLine(limit, angle=0, pen=pg.mkPen(theme.STOP, width=1, style=Qt.PenStyle.DashLine))
        )
        top = max(
            float(np.max(self._degrees(curve.hottest_high_c))),
            min(limit, float(np.max(self._degrees(curve.hottest_c))) * 1.6),
        )
        self.heat.setYRange(float(np.min(self._degrees(curve.air_c))) - 3, top + 4, padding=0)
        self._range(self.cured, x, 100 * curve.mean_low, 100 * curve.mean_high, theme.ACCENT)
        self._line(self.cured, x, 100 * curve.least, theme.ACCENT, 1, Qt.PenStyle.DashLine)
        self._line(self.cured, x, 100 * curve.mean, theme.ACCENT, 2)
        self.heat.setXRange(math.log10(4.5), math.log10(10080), padding=0.01)
        self._marks(forecast)
        self.heat.getAxis("left").setLabel(units.temperature)
        for plot, line in zip((self.heat, self.cured), self._now, strict=True):
            plot.addItem(line)

    def changeEvent(self, event: QEvent) -> None:
        """The theme has changed: the plots keep colours of their own."""
        super().changeEvent(event)
        if event.type() == QEvent.Type.PaletteChange:
            for plot in (self.heat, self.cured):
                _dress(plot)
            for line in self._now:
                line.setPen(pg.mkPen(theme.ACCENT, width=1))
            if self._forecast is not None:
                self.show_forecast(self._forecast, self._units)

    def show_time(self, minutes: float) -> None:
        """Move the line that says which moment the section shows."""
        for line in self._now:
            line.setValue(math.log10(max(1.0, minutes)))

    def _marks(self, forecast: CureForecast) -> None:
        question = forecast.question
        marks = [("pot life", question.pot_life_min)]
        for words, band in (("gel", forecast.gel_min), ("mould", forecast.demould_min), ("drill", forecast.ready_min)):
            if band is not None and math.isfinite(band.best):
                marks.append((words, band.best))
        if math.isfinite(forecast.full_min):
            marks.append(("full", forecast.full_min))
        if question.conditions.drill_after_h is not None:
            marks.append(("wanted", question.conditions.drill_after_h * 60))
        for number, (words, minutes) in enumerate(marks):
            if not 1 < minutes <= 10080:
                continue
            colour = theme.ACCENT if words == "wanted" else theme.QUIET
            style = Qt.PenStyle.SolidLine if words == "wanted" else Qt.PenStyle.DotLine
            line = pg.InfiniteLine(
                math.log10(minutes),
                angle=90,
                pen=pg.mkPen(colour, width=1, style=style),
                label=words,
                labelOpts={"position": 0.93 - 0.13 * (number % 3), "color": colour, "fill": pg.mkBrush(theme.PAPER)},
            )
            line.label.setFont(theme.font(theme.SMALL))
            self.heat.addItem(line)
            self.cured.addItem(
                pg.InfiniteLine(math.log10(minutes), angle=90, pen=pg.mkPen(colour, width=1, style=style))
            )
        ready = pg.InfiniteLine(
            100 * READY_CURE, angle=0, pen=pg.mkPen(theme.QUIET, width=1, style=Qt.PenStyle.DotLine)
        )
        self.cured.addItem(ready)

    def _degrees(self, celsius: Any) -> Any:
        """A temperature or an array of them, as the maker reads it."""
        return celsius * 1.8 + 32 if self._units.temperature == "°F" else celsius

    def _line(
        self, plot: Any, x: Any, y: Any, colour: QColor, width: float, style: Qt.PenStyle = Qt.PenStyle.SolidLine
    ) -> None:
        plot.addItem(pg.PlotCurveItem(x, np.asarray(y), pen=pg.mkPen(colour, width=width, style=style), antialias=True))

    def _range(self, plot: Any, x: Any, low: Any, high: Any, colour: QColor) -> None:
        edge = pg.mkPen(None)
        one, other = pg.PlotCurveItem(x, low, pen=edge), pg.PlotCurveItem(x, high, pen=edge)
        shade = pg.QtGui.QColor(colour)
        shade.setAlpha(46)
        plot.addItem(pg.FillBetweenItem(one, other, brush=pg.mkBrush(shade)))

    def describe(self, forecast: CureForecast) -> None:
        """The peak in words, for those who do not see the chart."""
        if forecast.peak_c:
            peak = write(forecast.peak_c.best, Dimension.TEMPERATURE, self._units, 0)
            self.setAccessibleDescription(f"hottest {peak}")


def _plot(words: str) -> pg.PlotWidget:
    plot = pg.PlotWidget()
    plot.setMenuEnabled(False)
    for stop in (plot, plot.viewport()):
        stop.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the slider beside it moves its line
    plot.hideButtons()
    plot.setMouseEnabled(False, False)
    plot.setFrameShape(plot.Shape.NoFrame)
    for side in ("left", "bottom"):
        plot.getAxis(side).setStyle(tickFont=theme.font(theme.SMALL), tickLength=-4)
    plot.getAxis("left").setWidth(44)
    plot.getAxis("left").setLabel(words, **{"font-size": "12px"})
    plot.showGrid(x=False, y=False)
    _dress(plot)
    return plot


def _dress(plot: Any) -> None:
    """Give a plot the colours of the theme as it is now."""
    plot.setBackground(theme.PAPER)
    for side in ("left", "bottom"):
        axis = plot.getAxis(side)
        axis.setPen(pg.mkPen(theme.HAIRLINE))
        axis.setTextPen(pg.mkPen(theme.QUIET))
    axis = plot.getAxis("left")
    axis.setLabel(axis.labelText, **{"font-size": "12px", "color": theme.QUIET.name()})
