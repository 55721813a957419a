"""Pictures of numbers: causes ranked, cost over time, time by stage, planned against actual; saved or copied."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import pyqtgraph as pg
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QFontMetrics, QImage, QPainter
from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.window import theme
from orvek.window.widgets.label import Label

_MOST_LETTERS, _BESIDE = 34, 10
Bars = Sequence[tuple[str, float]]


class Chart(QWidget):
    """One plot under its title: lying bars, points over time, or how far each was off."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.title = title
        self.plot = pg.PlotWidget()
        self.plot.setMenuEnabled(False)
        self.plot.setMouseEnabled(False, False)
        self.plot.hideButtons()
        for one in (self.plot, self.plot.viewport()):
            one.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the chart itself is the stop: its description tells it all
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.plot.setMinimumHeight(110)
        self._head, self._nothing = Label(title), Label("Nothing to draw yet.")
        self._nothing.setStyleSheet(theme.words_css(theme.QUIET))
        self._head.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        self._last: tuple[str, Any] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        for widget in (self._head, self._nothing, self.plot):
            column.addWidget(widget)
        column.addStretch(0)
        self.setAccessibleName(title)
        self._dress()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw."""
        return self._last is None or not self._last[1][0]

    def show_bars(self, bars: Bars, unit: str) -> None:
        """Lying bars, the first at the top, each under its name."""
        self._begin("bars", (tuple(bars), unit))
        if not bars:
            return
        places = [len(bars) - 1 - n for n in range(len(bars))]
        widths = [value for _, value in bars]
        self.plot.addItem(pg.BarGraphItem(x0=0, y=places, height=0.6, width=widths, brush=theme.ACCENT, pen=None))
        self._name_rows(
            [(place, f"{name}  {value:g}{unit}") for place, (name, value) in zip(places, bars, strict=True)]
        )
        self.plot.getAxis("bottom").setStyle(showValues=False)
        self.plot.setXRange(0, max(max(widths), 1e-9) * 1.05, padding=0)

    def show_points(self, points: Sequence[tuple[str, float, float]], unit: str) -> None:
        """A row for each: a dot for what it came to, a ring for what was told, and the line between."""
        self._begin("points", (tuple(points), unit))
        if not points:
            return
        places = [len(points) - 1 - n for n in range(len(points))]
        real, told = [one[1] for one in points], [one[2] for one in points]
        for place, left, right in zip(places, told, real, strict=True):
            self.plot.plot([left, right], [place, place], pen=pg.mkPen(theme.ACCENT, width=2))
        ring = {
            "symbol": "o",
            "symbolSize": 9,
            "symbolBrush": theme.PAPER,
            "symbolPen": pg.mkPen(theme.QUIET, width=1.6),
        }
        self.plot.plot(told, places, pen=None, **ring)
        self.plot.plot(real, places, pen=None, symbol="o", symbolSize=8, symbolBrush=theme.ACCENT, symbolPen=None)
        self._name_rows([(place, one[0]) for place, one in zip(places, points, strict=True)])
        self.plot.getAxis("bottom").setLabel(unit)
        self.plot.setXRange(0, max(*real, *told, 1e-9) * 1.06, padding=0)

    def show_pairs(self, pairs: Sequence[tuple[str, float, bool]], unit: str) -> None:
        """How far what came of each was off from what was planned, in parts of it; a cross where that was too far."""
        self._begin("pairs", (tuple(pairs), unit))
        if not pairs:
            return
        for number, (_, off, is_within) in enumerate(pairs):
            colour = theme.ACCENT if is_within else theme.CAUTION
            symbol = "o" if is_within else "x"
            mark = {"symbol": symbol, "symbolSize": 9, "symbolBrush": colour, "symbolPen": pg.mkPen(colour, width=2)}
            self.plot.plot([off], [len(pairs) - 1 - number], pen=None, **mark)
        self.plot.addItem(pg.InfiniteLine(0, angle=90, pen=pg.mkPen(theme.QUIET, width=1)))
        self._name_rows([(len(pairs) - 1 - n, name) for n, (name, _, _) in enumerate(pairs)])
        self.plot.getAxis("bottom").setLabel(unit)
        most = max(10.0, *(abs(off) for _, off, _ in pairs)) * 1.1
        self.plot.setXRange(-most, most, padding=0)

    def image(self) -> QImage:
        """The chart as it is shown, title and all, on paper."""
        image = QImage(self.size() * 2, QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(2.0)
        image.fill(theme.PAPER)
        painter = QPainter(image)
        self.render(painter, QPoint())
        painter.end()
        return image

    def changeEvent(self, event: QEvent) -> None:
        """The theme has changed: the plot keeps colours of its own."""
        super().changeEvent(event)
        if event.type() == QEvent.Type.PaletteChange:
            self._dress()
            if self._last is not None:
                kind, content = self._last
                self._last = None
                getattr(self, f"show_{kind}")(*content)

    def _name_rows(self, rows: Sequence[tuple[int, str]]) -> None:
        """Names at the left, one a row; rows count upwards from 0."""
        named = [(place, name[:_MOST_LETTERS]) for place, name in rows]
        axis = self.plot.getAxis("left")
        axis.setTicks([named])
        metrics = QFontMetrics(theme.font(theme.SMALL))
        axis.setWidth(max(metrics.horizontalAdvance(name) for _, name in named) + _BESIDE)
        self.plot.setYRange(-0.6, len(rows) - 0.4, padding=0)

    def _begin(self, kind: str, content: tuple[Any, str]) -> None:
        self._last = (kind, content)
        self.plot.clear()
        for side in ("left", "bottom"):
            self.plot.getAxis(side).setTicks(None)
            self.plot.getAxis(side).setLabel("")
            self.plot.getAxis(side).setStyle(showValues=True)
        self.plot.setVisible(bool(content[0]))
        self._nothing.setVisible(not content[0])
        told = "; ".join(f"{one[0]} {one[1]:g}" for one in content[0])
        self.setAccessibleDescription(told or "nothing to draw yet")

    def _dress(self) -> None:
        self.plot.setBackground(theme.PAPER)
        for side in ("left", "bottom"):
            axis = self.plot.getAxis(side)
            axis.setPen(pg.mkPen(theme.HAIRLINE))
            axis.setTextPen(pg.mkPen(theme.INK))
            axis.setTickFont(theme.font(theme.SMALL))
            axis.setStyle(tickLength=0, maxTickLevel=0)
