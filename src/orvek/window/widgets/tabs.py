"""Pages of a station, by words in a row: the one that is open has a line under it."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QMenu, QPushButton, QWidget

from orvek.window import theme
from orvek.window.widgets.choice import add_action, refill

_CSS = """
QPushButton {{ border: none; border-bottom: 2px solid transparent; padding: 2px; font-weight: 500; color: {quiet}; }}
QPushButton:checked {{ color: {ink}; border-bottom: 2px solid {accent}; font-weight: 600; }}
QPushButton::menu-indicator {{ image: none; }}
"""


class Tabs(QWidget):
    """A row of words; exactly one is chosen. Those that a job has no use for are behind "More"."""

    chosen = Signal(int)

    def __init__(self, words: tuple[str, ...], left_px: int = 24) -> None:
        super().__init__()
        self._group = QButtonGroup(self)
        self._shown = frozenset(range(len(words)))
        row = QHBoxLayout(self)
        row.setContentsMargins(left_px, 8, left_px, 0)
        row.setSpacing(20)
        css = _CSS.format(quiet=theme.QUIET.name(), ink=theme.INK.name(), accent=theme.ACCENT.name())
        for number, word in enumerate(words):
            button = QPushButton(word)
            button.setCheckable(True)
            button.setStyleSheet(css)
            self._group.addButton(button, number)
            row.addWidget(button)
        self.more = QPushButton("More ›")
        self.more.setStyleSheet(css)
        self.more.setAccessibleName("More pages")
        menu = QMenu(self.more)
        refill(menu, self._fill)
        self.more.setMenu(menu)
        row.addWidget(self.more)
        row.addStretch(1)
        self._group.button(0).setChecked(True)
        self._group.idClicked.connect(self.chosen)
        self._show()

    def current(self) -> int:
        """Which page is in hand."""
        return self._group.checkedId()

    def choose(self, number: int) -> None:
        """Take a page in hand."""
        self._group.button(number).setChecked(True)
        self._show()
        self.chosen.emit(number)

    def show_only(self, numbers: Iterable[int]) -> None:
        """Which pages have their word in the row; the one that is open has it in any case."""
        shown = frozenset(numbers)
        if shown != self._shown:
            self._shown = shown
            self._show()

    def _behind(self) -> list[int]:
        return [self._group.id(one) for one in self._group.buttons() if one.isHidden()]

    def _show(self) -> None:
        for button in self._group.buttons():
            button.setVisible(self._group.id(button) in self._shown or button.isChecked())
        self.more.setVisible(bool(self._behind()))

    def _fill(self, menu: QMenu) -> None:
        for number in self._behind():
            add_action(menu, self._group.button(number).text(), partial(self.choose, number))
