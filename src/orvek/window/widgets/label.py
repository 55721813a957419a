"""Labels and tool tips that show what a maker typed as it was typed: never as HTML, never as a shortcut."""

from __future__ import annotations

import unicodedata
from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label of plain text. `QLabel` by itself would take a job named `<b>` for markup, and load its pictures."""

    def __init__(self, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)

    def setText(self, words: str) -> None:
        """Show these words; a name written from right to left does not turn the sentence round it."""
        super().setText(left_to_right(words))


def left_to_right(words: str) -> str:
    """A sentence of ours with a name in it that may be Hebrew or Arabic: numbers stay before their units."""
    turns = not words.isascii() and any(unicodedata.bidirectional(letter) in {"R", "AL"} for letter in words)
    return f"\u200e{words}" if turns and not words.startswith("\u200e") else words


def plain_tip(words: str) -> str:
    """A tool tip that shows its words as they are, whatever stands in them."""
    words = left_to_right(words)
    return f"<qt>{escape(words)}</qt>" if "<" in words or "&" in words else words


def without_shortcut(words: str) -> str:
    """Words for a button or menu in which an & stands for itself."""
    return words.replace("&", "&&")
