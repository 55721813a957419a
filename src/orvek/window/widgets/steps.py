"""Numbered sentences under each other: what the hands do, in their order."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QVBoxLayout

from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear


class Steps(QVBoxLayout):
    """Made anew only when a sentence changes: a drag asks sixty times a second."""

    def __init__(self, spacing: int, *, at_top: bool = False, is_numbered: bool = True) -> None:
        super().__init__()
        self.setSpacing(spacing)
        self._at_top, self._is_numbered = at_top, is_numbered
        self._lines: tuple[str, ...] = ()

    def show_lines(self, lines: Sequence[str]) -> None:
        """Show these sentences."""
        if tuple(lines) == self._lines:
            return
        self._lines = tuple(lines)
        clear(self)
        for number, words in enumerate(lines, 1):
            label = Label(f"{number}  {words}" if self._is_numbered else words)
            label.setWordWrap(True)
            self.addWidget(label)
        if self._at_top:
            self.addStretch(1)
