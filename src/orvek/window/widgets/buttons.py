"""Several buttons at once: `buttons_for(deeds)`, each found again by a key, whatever words stand on it."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QPushButton

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
