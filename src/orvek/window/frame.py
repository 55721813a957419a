"""The frame: the window itself, up before anything slow is loaded, with the grounds that its parts will lie on."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRect
from PySide6.QtGui import QCloseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QMainWindow, QWidget

from orvek.window import theme

RAIL_WIDTH, FINDINGS_WIDTH = 184, 288
STRIP_HEIGHT, FOLDED_HEIGHT = 156, 28  # of the bar, and of its one line
USUAL_SIZE, LEAST_SIZE = (1280, 800), (960, 600)
_BORDERS = (2, 32)  # what a title bar and a frame take off the free area, before the window is there to be asked


class Frame(QMainWindow):
    """An empty window. Whoever fills it sets `may_close`, which is asked before it closes."""

    def __init__(self) -> None:
        super().__init__()
        self.may_close: Callable[[], bool] = lambda: True
        self.setWindowTitle("Orvek")
        free = self.screen().availableGeometry() if self.screen() else QRect(0, 0, *USUAL_SIZE)
        wide, tall = free.width() - _BORDERS[0], free.height() - _BORDERS[1]
        # Large text makes a screen smaller: the window fits it all the same.
        self.setMinimumSize(min(LEAST_SIZE[0], wide), min(LEAST_SIZE[1], tall))
        self.resize(min(USUAL_SIZE[0], wide), min(USUAL_SIZE[1], tall))
        self.setCentralWidget(Grounds())

    def closeEvent(self, event: QCloseEvent) -> None:
        event.setAccepted(self.may_close())


class Grounds(QWidget):
    """Rail, station, findings and strip before there is anything on them."""

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.PAPER)
        foot = self.height() - FOLDED_HEIGHT
        right = self.width() - FINDINGS_WIDTH
        for area in (
            QRect(0, 0, RAIL_WIDTH, foot),
            QRect(right, 0, FINDINGS_WIDTH, foot),
            QRect(0, foot, self.width(), FOLDED_HEIGHT),
        ):
            painter.fillRect(area, theme.PANEL)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(RAIL_WIDTH - 1, 0, RAIL_WIDTH - 1, foot)
        painter.drawLine(right, 0, right, foot)
        painter.drawLine(0, foot, self.width(), foot)
