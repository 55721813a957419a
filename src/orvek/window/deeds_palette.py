"""Find a deed: type a few letters of what you want to do, Enter does it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QAction, QKeyEvent
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget


def matches(wanted: str, words: str) -> bool:
    """Whether every word typed begins some word of the deed's name.

    >>> matches("mo sh", "Keep this mould on your shelf")
    True
    """
    there = words.casefold().replace("…", "").split()
    return all(any(word.startswith(piece) for word in there) for piece in wanted.casefold().split())


class DeedsPalette(QDialog):
    """A list of all deeds that can be done now, made shorter by typing."""

    def __init__(self, parent: QWidget, actions: Sequence[QAction]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find a deed")
        self.resize(480, 360)
        self._actions = [action for action in actions if action.isEnabled() and action.text()]
        self._line = QLineEdit()
        self._line.setPlaceholderText("What do you want to do?")
        self._line.setAccessibleName("What do you want to do?")
        self._line.textChanged.connect(self._show)
        self._line.returnPressed.connect(self._do)
        self._line.installEventFilter(self)
        self._list = QListWidget()
        self._list.setAccessibleName("Deeds")
        self._list.itemActivated.connect(lambda _: self._do())
        self._list.itemClicked.connect(lambda _: self._do())
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 12)
        column.addWidget(self._line)
        column.addWidget(self._list)
        self._show("")

    def names(self) -> list[str]:
        """The deeds that are listed now."""
        return [self._list.item(row).text() for row in range(self._list.count())]

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The arrows move in the list while the typing stays in the line."""
        if watched is self._line and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            ways: dict[int, int] = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
            step = ways.get(event.key())
            if step and self._list.count():
                self._list.setCurrentRow((self._list.currentRow() + step) % self._list.count())
                return True
        return super().eventFilter(watched, event)

    def _show(self, wanted: str) -> None:
        self._list.clear()
        for action in self._actions:
            words = action.text().replace("&", "")
            if matches(wanted, words):
                shortcut = action.shortcut().toString()
                item = QListWidgetItem(f"{words}    {shortcut}" if shortcut else words)
                item.setData(Qt.ItemDataRole.UserRole, action)
                self._list.addItem(item)
        self._list.setCurrentRow(0)

    def _do(self) -> None:
        item = self._list.currentItem()
        if item is not None:
            self.accept()
            item.data(Qt.ItemDataRole.UserRole).trigger()
