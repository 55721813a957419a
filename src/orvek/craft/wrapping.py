"""A sheet wrapped round a barrel: how it is cut flat, what it takes under a finish, how fine its print is."""

from __future__ import annotations

import math
from functools import lru_cache

from msgspec import Struct

EVEN_MM = 1e-3  # radii that differ less are one: the sheet is a rectangle
FINE_DPI = 300.0  # printed finer, dots are not seen at arm's length (printers' practice)
_MM_INCH = 25.4
_RING = 2 * math.pi * 0.999  # a whole flat ring, less the cut that opens it


class Development(Struct, frozen=True):
    """A sheet rolled out flat. Its own axes: x along the barrel, y round it, 0 in the middle of its turn.

    Attributes:
        left_mm, right_mm: radii of the sheet's middle at the barrel's ends.
        slant_mm: along the surface from end to end.
        bleed_mm: more of it beyond either end.
        overlap_mm: how much the edges overlap, at the thinner end.
    """

    left_mm: float
    right_mm: float
    slant_mm: float
    bleed_mm: float
    overlap_mm: float

    @property
    def is_taper(self) -> bool:
        """Whether it is cut as a part of a ring."""
        return abs(self.right_mm - self.left_mm) > EVEN_MM

    @property
    def turn(self) -> float:
        """How far it goes round, in radians, with the overlap: no more of it than a flat ring has room for."""
        room = max(2 * math.pi, _RING / abs(self.cone[0])) if self.is_taper else math.inf
        return min(2 * math.pi + self.overlap_mm / min(self.left_mm, self.right_mm), room)

    @property
    def width_mm(self) -> tuple[float, float]:
        """Along its left and its right end, measured on the curve."""
        return self.turn * self.left_mm, self.turn * self.right_mm

    @property
    def cone(self) -> tuple[float, float]:
        """Sine of the half angle and the distance from the apex to the left end, both signed by the way it widens.

        The apex of what does not widen lies infinitely far off.
        """
        sine = (self.right_mm - self.left_mm) / self.slant_mm
        return sine, self.left_mm / sine if sine else math.inf


@lru_cache(maxsize=64)
def development(
    left_diameter_mm: float,
    right_diameter_mm: float,
    length_mm: float,
    sheet_mm: float,
    bleed_mm: float,
    overlap_mm: float,
) -> Development:
    """The sheet for a core of these diameters at its ends. Derived.

    >>> flat = development(7, 7, 55, 0.1, 0, 1)
    >>> round(flat.width_mm[0], 3)
    23.305
    """
    left, right = (left_diameter_mm + sheet_mm) / 2, (right_diameter_mm + sheet_mm) / 2
    return Development(left, right, math.hypot(length_mm, right - left), bleed_mm, overlap_mm)


def under_mm(finished_mm: float, sheet_mm: float, coats_um: float, levelled_um: float) -> float:
    """The diameter under a sheet that is coated over: D − 2 (t + C − L). Derived.

    >>> round(under_mm(12.0, 0.1, 137, 39), 3)
    11.604
    """
    return finished_mm - 2 * (sheet_mm + (coats_um - levelled_um) / 1000)


def dots_per_inch(pixels: int, length_mm: float) -> float:
    """How fine a picture is printed: pixels over a length.

    >>> dots_per_inch(1200, 101.6)
    300.0
    """
    return pixels / length_mm * _MM_INCH


def seam_wander_mm(out_mm: float) -> float:
    """How far the seam's edges part where the core is thicker than it should be: π · that. Derived."""
    return math.pi * out_mm
