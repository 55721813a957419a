"""Pages of a station, by words in a row: the one in hand is inked and underlined."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QWidget

_CSS = """
QPushButton {{ border: none; border-bottom: 2px solid transparent; padding: 2px; font-weight: 500; color: {quiet}; }}
QPushButton:checked {{ color: {ink}; border-bottom: 2px solid {accent}; font-weight: 600; }}
QPushButton:focus {{ border-bottom: 2px dotted {accent}; }}
"""


class Tabs(QWidget):
    """A row of words; exactly one is chosen."""

    chosen = Signal(int)

    def __init__(self, words: tuple[str, ...]) -> None:
        super().__init__()
        from orvek.window import theme

        self._group = QButtonGroup(self)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 8, 24, 0)
        row.setSpacing(20)
        css = _CSS.format(quiet=theme.QUIET.name(), ink=theme.INK.name(), accent=theme.ACCENT.name())
        for number, word in enumerate(words):
            button = QPushButton(word)
            button.setCheckable(True)
            button.setStyleSheet(css)
            self._group.addButton(button, number)
            row.addWidget(button)
        row.addStretch(1)
        self._group.button(0).setChecked(True)
        self._group.idClicked.connect(self.chosen)

    def current(self) -> int:
        """Which page is in hand."""
        return self._group.checkedId()

    def choose(self, number: int) -> None:
        """Take a page in hand."""
        self._group.button(number).setChecked(True)
        self.chosen.emit(number)
