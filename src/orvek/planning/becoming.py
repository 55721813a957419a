"""What a piece on the shelf can still become: which pens fit on it, and what is left over.

Which place on it is best is asked of `workpiece.stretch`, which takes longer; here is only what lengths decide.
"""

from __future__ import annotations

from dataclasses import dataclass

from orvek.craft.laying_out import blank_length_mm
from orvek.documents import Pen, Piece
from orvek.quantities import Dimension, Units, write

CLEANS_UP_MM = 1.0  # a bar is that much thicker than the barrel, or it shows flats (workshop practice)


@dataclass(frozen=True, slots=True)
class Fit:
    """A pen on a piece.

    Attributes:
        pen: which.
        pens: how many of them come from one piece.
        left_mm: what is left over of its length after that.
        why_not: why none fits; empty where one does.
    """

    pen: Pen
    pens: int
    left_mm: float
    why_not: str = ""


def fit_of(piece: Piece, pen: Pen, kerf_mm: float, units: Units) -> Fit:
    """How a pen fits a piece: its length takes all tubes with their trim and the kerfs, its section cleans up."""

    def mm(length_mm: float) -> str:
        return write(length_mm, Dimension.LENGTH, units)

    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    widest = max(barrel.widest_mm for barrel in pen.barrels)
    across = piece.width_mm if piece.form == "round" else min(piece.width_mm, piece.depth_mm)
    bit = min(barrel.bit_diameter_mm for barrel in pen.barrels)
    if across < widest + CLEANS_UP_MM:
        return Fit(pen, 0, piece.length_mm, f"{mm(across)} across, {mm(widest)} finished: flats would stay")
    if piece.hole_mm is not None and piece.hole_mm > bit + 0.05:
        return Fit(pen, 0, piece.length_mm, f"its hole is {mm(piece.hole_mm)}, the bit bores {mm(bit)}")
    pens = 0
    while blank_length_mm(tubes * (pens + 1), kerf_mm, 0.0) <= piece.length_mm + 1e-6:
        pens += 1
    if pens == 0:
        short = blank_length_mm(tubes, kerf_mm, 0.0) - piece.length_mm
        return Fit(pen, 0, piece.length_mm, f"{mm(short)} too short")
    used = blank_length_mm(tubes * pens, kerf_mm, 0.0)
    return Fit(pen, pens, max(0.0, piece.length_mm - used - kerf_mm))


def fits(piece: Piece, pens: tuple[Pen, ...], kerf_mm: float, units: Units) -> tuple[Fit, ...]:
    """All pens on a piece: those that fit first, the one that leaves least first; then those that nearly do."""
    found = [fit_of(piece, pen, kerf_mm, units) for pen in pens]
    return tuple(sorted(found, key=lambda fit: (fit.pens == 0, fit.left_mm if fit.pens else _missing(piece, fit))))


def _missing(piece: Piece, fit: Fit) -> float:
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in fit.pen.barrels)
    return blank_length_mm(tubes, 0.0, 0.0) - piece.length_mm
