"""Several deeds at once: `buttons_for(deeds)`, and `more_for(deeds)` for those that are wanted less often.

Each is found again by a key, whatever words stand on it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QPushButton

Deeds = Mapping[str, tuple[str, Callable[[], None]]]


def buttons_for(deeds: Deeds, *, small: bool = False) -> dict[str, QPushButton]:
    """A button for each: its words, and what a click does; `small` ones where there are many."""
    made = {}
    for key, (words, deed) in deeds.items():
        button = QPushButton(words)
        button.setProperty("kind", "small" if small else "")
        button.clicked.connect(lambda _checked=False, deed=deed: deed())
        made[key] = button
    return made


def more_for(deeds: Deeds, of: str) -> tuple[QPushButton, dict[str, QAction]]:
    """One small button "More ›" whose menu has the others; `of` says what they are done to."""
    button = QPushButton("More ›")
    button.setProperty("kind", "small")
    button.setAccessibleName(f"More for {of}")
    menu, made = QMenu(button), {}
    for key, (words, deed) in deeds.items():
        made[key] = menu.addAction(words)
        made[key].triggered.connect(lambda _checked=False, deed=deed: deed())
    button.setMenu(menu)
    return button, made
