"""What a piece on the shelf can still become: which pens fit on it, and what is left over.

Which place on it is best is asked of `workpiece.stretch`, which takes longer; here is only what lengths decide.
"""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.craft.laying_out import blank_length_mm, packed_starts_mm
from orvek.documents import Pen, Piece
from orvek.planning.bar import USUAL_BAR_MM
from orvek.quantities import Dimension, Units, write
from orvek.workpiece.outline import TurnedBarrel, barrel_at

_SPARE_MM = 2.0  # a choice
_SAME_HOLE_MM, _TOUCH_MM = 0.05, 1e-6
CLEANS_UP_MM = 1.0  # a bar is that much thicker than the barrel, or it shows flats (workshop practice)


class Fit(Struct, frozen=True):
    """A pen on a piece.

    Attributes:
        pen: which.
        pens: how many of them come from one piece.
        left_mm: what is left over of its length after that; below 0: so much is missing.
        working: how that comes about, in words.
        why_not: why none fits; empty where one does.
    """

    pen: Pen
    pens: int
    left_mm: float
    working: str = ""
    why_not: str = ""


def needs_mm(pen: Pen, kerf_mm: float, pens: int = 1) -> float:
    """How long a bar with clean ends is that gives so many pens: tubes, trims, a kerf between two pieces."""
    return blank_length_mm(_tubes(pen) * pens, kerf_mm, 0.0)


def bar_for(pen: Pen | None, kerf_mm: float) -> tuple[float, float]:
    """Length and width of a bar to saw for a pen, with two millimetres to spare either way; a usual bar without one."""
    if pen is None:
        return USUAL_BAR_MM[2], USUAL_BAR_MM[0]
    return float(round(needs_mm(pen, kerf_mm) + _SPARE_MM)), float(round(_widest_mm(pen) + 2 * _SPARE_MM))


def laid_on_bar(pen: Pen, length_mm: float, kerf_mm: float) -> tuple[TurnedBarrel, ...]:
    """A pen's barrels side by side in the middle of a bar."""
    starts = packed_starts_mm(_tubes(pen), kerf_mm, length_mm)
    return tuple(barrel_at(barrel, start) for barrel, start in zip(pen.barrels, starts, strict=True))


def ends_left_mm(pen: Pen, starts_mm: tuple[float, ...], length_mm: float, kerf_mm: float) -> tuple[float, float]:
    """What is left over at both ends of a bar when a pen's tubes begin there and each end is parted off."""
    pairs = list(zip(pen.barrels, starts_mm, strict=True))
    low = min(start - barrel.trim_mm for barrel, start in pairs)
    high = max(start + barrel.tube_length_mm + barrel.trim_mm for barrel, start in pairs)
    return max(0.0, low - kerf_mm), max(0.0, length_mm - high - kerf_mm)


def fit_of(piece: Piece, pen: Pen, kerf_mm: float, units: Units) -> Fit:
    """How a pen fits a piece: its length takes all tubes with their trim and the kerfs, its section cleans up."""

    def mm(length_mm: float) -> str:
        return write(length_mm, Dimension.LENGTH, units)

    across = piece.width_mm if piece.form == "round" else min(piece.width_mm, piece.depth_mm)
    bit, need = min(barrel.bit_diameter_mm for barrel in pen.barrels), needs_mm(pen, kerf_mm)
    if across < _widest_mm(pen) + CLEANS_UP_MM:
        why = f"{mm(across)} across, {mm(_widest_mm(pen))} finished: flats would stay"
        return Fit(pen, 0, -math.inf, why_not=why)
    if piece.hole_mm is not None and piece.hole_mm > bit + _SAME_HOLE_MM:
        return Fit(pen, 0, -math.inf, why_not=f"the hole is {mm(piece.hole_mm)}, the bit bores {mm(bit)}")
    if need > piece.length_mm + _TOUCH_MM:
        return Fit(pen, 0, piece.length_mm - need, why_not=f"{mm(need - piece.length_mm)} too short")
    pens = 1
    while needs_mm(pen, kerf_mm, pens + 1) <= piece.length_mm + _TOUCH_MM:
        pens += 1
    used = needs_mm(pen, kerf_mm, pens)
    left = max(0.0, piece.length_mm - used - kerf_mm)
    working = f"{mm(piece.length_mm)} − {mm(used)} of tubes, trims and kerfs − {mm(kerf_mm)} to part it off"
    return Fit(pen, pens, left, f"{working} = {mm(left)}")


def fits(piece: Piece, pens: tuple[Pen, ...], kerf_mm: float, units: Units) -> tuple[Fit, ...]:
    """All pens on a piece: those that fit first, the one that leaves least first; then those that nearly do."""
    found = [fit_of(piece, pen, kerf_mm, units) for pen in pens]
    return tuple(sorted(found, key=lambda fit: (fit.pens == 0, abs(fit.left_mm))))


def _tubes(pen: Pen) -> tuple[tuple[float, float], ...]:
    return tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)


def _widest_mm(pen: Pen) -> float:
    return max(barrel.widest_mm for barrel in pen.barrels)
