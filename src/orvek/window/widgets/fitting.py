"""A rectangle of a given shape, as large as a room has place for, in the room's middle."""

from __future__ import annotations

from PySide6.QtCore import QRectF


def fitted(wide: float, tall: float, room: QRectF) -> QRectF:
    """Where something `wide` by `tall`, in any unit, is painted in a room, its shape kept."""
    scale = max(1e-6, min(room.width() / wide, room.height() / tall))
    found = QRectF(0, 0, wide * scale, tall * scale)
    found.moveCenter(room.center())
    return found
