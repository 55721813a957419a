"""What a hand does with a mouse, and the clock on the wall."""

from __future__ import annotations

from datetime import datetime

from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget


def drag(widget: QWidget, start: QPointF, *points: QPointF) -> None:
    """Press at a point, move over others, let go at the last."""
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start.toPoint())
    for point in points:
        QTest.mouseMove(widget, point.toPoint())
        QApplication.processEvents()
    QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=points[-1].toPoint())


class Clock:
    """Time that goes on when it is told to."""

    def __init__(self) -> None:
        self.at = datetime(2026, 11, 26, 18, 0)

    def __call__(self) -> datetime:
        return self.at
