"""Find a command: type a few letters of what you want to do, Enter does it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from orvek.window.widgets.sheets import Sheet


class Command(Struct, frozen=True):
    """One line: its words, what it does, its key, and other words it may be looked for by."""

    words: str
    do: Callable[[], object]
    key: str = ""
    also: str = ""


def matches(wanted: str, words: str) -> bool:
    """Whether every word typed begins some word of the command's.

    >>> matches("sa sh", "Save this mould to your shelf")
    True
    """
    there = words.casefold().replace("…", "").replace(",", "").split()
    return all(any(word.startswith(piece) for word in there) for piece in wanted.casefold().split())


def found(wanted: str, commands: Sequence[Command]) -> list[Command]:
    """The commands that are looked for: those named so first, then those known by other words."""
    named = [one for one in commands if matches(wanted, one.words)]
    known = [one for one in commands if one not in named and matches(wanted, f"{one.words} {one.also}")]
    return [*named, *known]


class CommandPalette(Sheet):
    """A list of all that can be done now, made shorter by typing."""

    def __init__(self, parent: QWidget, commands: Sequence[Command]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find a command")
        self.resize(480, 360)
        self._commands = commands
        self._line = QLineEdit()
        self._line.setPlaceholderText("What do you want to do?")
        self._line.setAccessibleName("What do you want to do?")
        self._line.textChanged.connect(self._show)
        self._line.returnPressed.connect(self._do)
        self._line.installEventFilter(self)
        self._list = QListWidget()
        self._list.setAccessibleName("Commands")
        self._list.itemActivated.connect(lambda _: self._do())
        self._list.itemClicked.connect(lambda _: self._do())
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 12)
        column.addWidget(self._line)
        column.addWidget(self._list)
        self._show("")

    def names(self) -> list[str]:
        """The commands that are listed now."""
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
        for command in found(wanted, self._commands):
            item = QListWidgetItem(f"{command.words}    {command.key}" if command.key else command.words)
            item.setData(Qt.ItemDataRole.UserRole, command)
            self._list.addItem(item)
        if not self._list.count():
            self._list.addItem("Nothing found; try another word.")
        self._list.setCurrentRow(0)

    def _do(self) -> None:
        item = self._list.currentItem()
        command = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if isinstance(command, Command):
            self.accept()
            command.do()
