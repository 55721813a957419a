"""What is looked for in the background of a widget: begun, ended with it, the newest answer told from older ones."""

from __future__ import annotations

from PySide6.QtCore import QThread
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QWidget

from orvek.window.widgets.sheets import Sheet


class Searches:
    """The threads of one widget. `number` is that of the newest question: an answer with another one is too late."""

    def __init__(self) -> None:
        self.number = 0
        self._threads: list[QThread] = []

    def begin(self, thread: QThread) -> None:
        """Let a thread work beside those that do already."""
        self._threads = [one for one in self._threads if one.isRunning()]
        self._threads.append(thread)
        thread.start()

    def ask_anew(self) -> int:
        """Whatever is still looked for is not wanted any more; returns the number of the next question."""
        self.number += 1
        for thread in self._threads:
            thread.requestInterruption()
        return self.number

    def end(self) -> None:
        """End them all, and wait for that."""
        self.ask_anew()
        for thread in self._threads:
            thread.wait()
        self._threads.clear()

    def is_busy(self) -> bool:
        """Whether something is still looked for."""
        return any(thread.isRunning() for thread in self._threads)


class SearchDialog(Sheet):
    """A sheet with work in the background, which ends with it."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.searches = Searches()

    def done(self, result: int) -> None:
        """Close it; what is still looked for ends."""
        self.searches.end()
        super().done(result)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.searches.end()
        super().closeEvent(event)
