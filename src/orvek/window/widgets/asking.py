"""Short questions in a box, in plain text."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMessageBox, QWidget


def ask(parent: QWidget | None, title: str, words: str, choices: tuple[str, ...], default: int = 0) -> int | None:
    """Ask a question with a button for each answer, the last one to cancel.

    Returns:
        Which answer was chosen; None for the last one, Escape and closing.
    """
    box = QMessageBox(parent)
    box.setWindowTitle(title)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(words)
    last = len(choices) - 1
    buttons = [
        box.addButton(text, QMessageBox.ButtonRole.RejectRole if n == last else QMessageBox.ButtonRole.AcceptRole)
        for n, text in enumerate(choices)
    ]
    box.setDefaultButton(buttons[default])
    box.setEscapeButton(buttons[last])
    box.exec()
    chosen = next((n for n, button in enumerate(buttons) if button is box.clickedButton()), last)
    return None if chosen == last else chosen


def tell(parent: QWidget | None, title: str, words: str) -> None:
    """Show a sentence until it is read."""
    box = QMessageBox(parent)
    box.setWindowTitle(title)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(words)
    box.exec()
