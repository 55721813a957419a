"""Asking for a name."""

from __future__ import annotations

from PySide6.QtWidgets import QInputDialog, QWidget


def ask_name(parent: QWidget, words: str, name: str = "") -> str | None:
    """Ask for a name of 1 to 80 letters; None when the maker thinks better of it."""
    text, agreed = QInputDialog.getText(parent, "Orvek", words, text=name)
    text = text.strip()[:80]
    return text if agreed and text else None
