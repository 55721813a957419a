"""Labels and tool tips that show what a maker typed as it was typed: never as HTML, never as a shortcut."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label of plain text. `QLabel` by itself would take a job named `<b>` for markup, and load its pictures."""

    def __init__(self, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)


def plain_tip(words: str) -> str:
    """A tool tip that shows its words as they are, whatever stands in them."""
    return f"<qt>{escape(words)}</qt>" if "<" in words or "&" in words else words


def without_shortcut(words: str) -> str:
    """Words for a button or menu in which an & stands for itself."""
    return words.replace("&", "&&")
