"""What a station shows while its first decision is still to be taken: the question, and places to start from."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from orvek.window import theme


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A place to start from."""

    name: str
    line: str
    deed: Callable[[], None]


class Opening(QWidget):
    """A question in the middle of the station, suggestions under it."""

    def __init__(self, question: str, because: str) -> None:
        super().__init__()
        self._shown: tuple[tuple[str, str], ...] | None = None
        self._list = QVBoxLayout()
        self._list.setSpacing(8)
        title = QLabel(question)
        title.setStyleSheet(theme.words_css(theme.INK, theme.TITLE, 600))
        line = QLabel(because)
        line.setWordWrap(True)
        line.setStyleSheet(theme.words_css(theme.QUIET, theme.BODY))
        column = QVBoxLayout(self)
        column.setContentsMargins(56, 72, 56, 24)
        column.setSpacing(8)
        column.addWidget(title)
        column.addWidget(line)
        column.addSpacing(20)
        column.addLayout(self._list)
        column.addStretch(1)

    def show_suggestions(self, suggestions: tuple[Suggestion, ...]) -> None:
        """Show these; built anew only when they have changed."""
        words = tuple((s.name, s.line) for s in suggestions)
        if words == self._shown:
            return
        self._shown = words
        while (item := self._list.takeAt(0)) is not None:
            item.widget().hide()
            item.widget().deleteLater()
        for suggestion in suggestions:
            button = QPushButton(f"{suggestion.name}    {suggestion.line}")
            button.setMinimumHeight(40)
            button.setMaximumWidth(560)
            button.setAccessibleName(suggestion.name)
            button.setStyleSheet("padding-left: 16px;")
            button.clicked.connect(lambda _=False, deed=suggestion.deed: deed())
            self._list.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
