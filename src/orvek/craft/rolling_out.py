"""Points of a wrapped sheet, from the barrel to the flat and back."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.craft.wrapping import Development

Floats = NDArray[np.float64]


def flat(sheet: Development, along_mm: Floats, theta: Floats) -> tuple[Floats, Floats]:
    """Where points of the barrel lie on the flat sheet: `along_mm` from its left end, `theta` from the seam."""
    if not sheet.is_taper:
        return along_mm, (theta - sheet.turn / 2) * sheet.left_mm
    sine, apex = sheet.cone
    psi, far = (theta - sheet.turn / 2) * sine, apex + along_mm
    return far * np.cos(psi) - apex, far * np.sin(psi)


def on_barrel(sheet: Development, x_mm: Floats, y_mm: Floats) -> tuple[Floats, Floats]:
    """The other way round: from the flat sheet to (along in mm, angle from the seam in radians)."""
    if not sheet.is_taper:
        return x_mm, y_mm / sheet.left_mm + sheet.turn / 2
    sine, apex = sheet.cone
    side = 1.0 if apex > 0 else -1.0
    far = side * np.hypot(x_mm + apex, y_mm)
    return far - apex, np.arctan2(side * y_mm, side * (x_mm + apex)) / sine + sheet.turn / 2


def outline(sheet: Development, points: int = 40) -> tuple[Floats, Floats]:
    """The sheet's edge on the flat, all round."""
    first, last = -sheet.bleed_mm, sheet.slant_mm + sheet.bleed_mm
    turns = np.linspace(0.0, sheet.turn, points if sheet.is_taper else 2)
    along = np.concatenate([np.full_like(turns, first), np.full_like(turns, last)])
    return flat(sheet, along, np.concatenate([turns, turns[::-1]]))
