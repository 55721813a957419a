"""What a hand does with a mouse."""

from __future__ import annotations

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
