"""Arrow keys on a bar that is rolled out: along it and round it."""

from __future__ import annotations

from PySide6.QtCore import Qt

_MM, _DEG = 0.5, 5.0
_WAYS: dict[int, tuple[float, float]] = {
    Qt.Key.Key_Left: (-_MM, 0.0),
    Qt.Key.Key_Right: (_MM, 0.0),
    Qt.Key.Key_Up: (0.0, -_DEG),
    Qt.Key.Key_Down: (0.0, _DEG),
}


def nudge_of(key: int) -> tuple[float, float] | None:
    """How far a key moves what is in hand: mm along, degrees round; None for any other key."""
    return _WAYS.get(key)
