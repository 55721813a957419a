"""The base of all windows beside the main one: `Sheet`."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QDialog, QPushButton


class Sheet(QDialog):
    """A dialog in which Return presses what has the keyboard, or what agrees to the sheet, and nothing else.

    Qt would press the first button there is.
    """

    def setVisible(self, visible: bool) -> None:
        for button in self.findChildren(QPushButton):
            button.setAutoDefault(button.isDefault())
        super().setVisible(visible)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        focused = self.focusWidget()
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter} and isinstance(focused, QAbstractButton):
            focused.click()
        else:
            super().keyPressEvent(event)
