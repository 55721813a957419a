"""The mould's section in false colour at one moment: paper is the shop, amber is warm, red is the limit."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning.cure.results import CureForecast
from orvek.quantities import Dimension, Units, write
from orvek.window import theme

if TYPE_CHECKING:
    import numpy as np


class CureSection(QWidget):
    """One bar and its mould, cut across."""

    def __init__(self) -> None:
        super().__init__()
        self._forecast: CureForecast | None = None
        self._units = Units()
        self._frame = 0
        self.setMinimumSize(180, 150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The section of a bar and its mould, by temperature")

    def show_forecast(self, forecast: CureForecast | None, units: Units) -> None:
        """Show a forecast's section."""
        self._forecast, self._units = forecast, units
        self.update()

    def show_frame(self, frame: int) -> None:
        """Show another moment."""
        self._frame = frame
        self.setAccessibleDescription(self.words())
        self.update()

    def words(self) -> str:
        """What is seen, in words."""
        import numpy as np

        frames = self._forecast.frames if self._forecast else None
        if frames is None:
            return ""
        frame = min(self._frame, len(frames.time_min) - 1)
        resin = ~np.isnan(frames.cure[frame])
        heat = frames.temperature_c[frame][resin]
        low, high = (write(float(v), Dimension.TEMPERATURE, self._units, 0) for v in (heat.min(), heat.max()))
        cured = frames.cure[frame][resin]
        return f"resin {low} to {high}, {100 * cured.min():.0f} to {100 * cured.max():.0f} % cured"

    def paintEvent(self, _event: QPaintEvent) -> None:
        import numpy as np

        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        forecast = self._forecast
        if forecast is None or forecast.frames is None:
            return
        frames, question = forecast.frames, forecast.question
        frame = min(self._frame, len(frames.time_min) - 1)
        x, y = _edges(frames.x_mm), _edges(frames.y_mm)
        wide, tall = x[-1] - x[0], y[-1] - y[0]
        scale = min((self.width() - 12) / wide, (self.height() - 26) / tall)
        area = QRectF((self.width() - wide * scale) / 2, 4, wide * scale, tall * scale)
        low = float(min(question.shop_c, frames.temperature_c.min()))
        image = _coloured(_evenly(frames.temperature_c[frame], x, y, area), low, question.hottest_c)
        painter.drawImage(area, image)
        resin = ~np.isnan(frames.cure[frame])
        columns, rows = np.flatnonzero(resin.any(axis=0)), np.flatnonzero(resin.any(axis=1))
        left, right = area.left() + (x[columns[0]] - x[0]) * scale, area.left() + (x[columns[-1] + 1] - x[0]) * scale
        floor = area.bottom() - (y[rows[0]] - y[0]) * scale
        painter.setPen(theme.pen(theme.INK, 1.2))
        for one, other in (
            (QPointF(left, area.top()), QPointF(left, floor)),
            (QPointF(left, floor), QPointF(right, floor)),
            (QPointF(right, floor), QPointF(right, area.top())),
        ):
            painter.drawLine(one, other)
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font(theme.SMALL))
        under = QRectF(0, area.bottom() + 2, self.width(), 18)
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, self.words())


def _edges(middles: np.ndarray) -> np.ndarray:
    import numpy as np

    half = (middles[1:] + middles[:-1]) / 2
    return np.concatenate([[2 * middles[0] - half[0]], half, [2 * middles[-1] - half[-1]]])


def _evenly(grid: np.ndarray, x: np.ndarray, y: np.ndarray, area: QRectF) -> np.ndarray:
    """The cells on an even grid of the picture's shape, the top row first."""
    import numpy as np

    columns = np.clip(np.searchsorted(x, np.linspace(x[0], x[-1], max(2, int(area.width())))) - 1, 0, grid.shape[1] - 1)
    rows = np.clip(np.searchsorted(y, np.linspace(y[-1], y[0], max(2, int(area.height())))) - 1, 0, grid.shape[0] - 1)
    return grid[rows[:, None], columns]


def _coloured(values: np.ndarray, low: float, high: float) -> QImage:
    """From paper over amber to red."""
    import numpy as np

    stops = np.array([theme.rgb(theme.PANEL), theme.rgb(theme.AMBER), theme.rgb(theme.STOP)], dtype=float)
    part = np.clip((values - low) / max(1.0, high - low), 0, 1)
    made = np.stack([np.interp(part, (0, 0.5, 1), stops[:, n]) for n in range(3)], axis=-1).astype(np.uint8)
    rows, columns, _ = made.shape
    return QImage(made.tobytes(), columns, rows, 3 * columns, QImage.Format.Format_RGB888).copy()
