"""Segmenting: what a diagonal cut with its sheet does on a barrel. Lengths in mm, angles to the axis in degrees."""

from __future__ import annotations

import math

from msgspec import Struct


class DiagonalCut(Struct, frozen=True):
    """A plane cut at an angle to the axis, filled with a sheet, seen on a barrel about the axis.

    Derived and checked in three dimensions: z = z0 + r·cot(a)·cos(θ − θ0), band t/sin a along the axis.
    """

    angle_deg: float
    sheet_mm: float
    kerf_mm: float

    def amplitude_mm(self, radius_mm: float) -> float:
        """How far the line swings to either side of its middle: r·cot a."""
        return radius_mm / math.tan(math.radians(self.angle_deg))

    @property
    def band_mm(self) -> float:
        """Width of the sheet along the axis: t/sin a."""
        return self.sheet_mm / math.sin(math.radians(self.angle_deg))

    def span_mm(self, radius_mm: float) -> float:
        """Length of barrel that the line takes: 2·r·cot a + t/sin a."""
        return 2 * self.amplitude_mm(radius_mm) + self.band_mm

    @property
    def lengthening_mm(self) -> float:
        """What the bar grows by when the halves stay coaxial: (t − k)/sin a. The centre moves by half of it."""
        return (self.sheet_mm - self.kerf_mm) / math.sin(math.radians(self.angle_deg))


class ArcCut(Struct, frozen=True):
    """A cylindrical cut seen on a barrel: its axis lies across the bar, `distance_mm` off the bar's axis.

    Derived: z = z0 ± √(R² − (D − r·cos θ)²).
    """

    radius_mm: float
    distance_mm: float
    sheet_mm: float

    def reach_mm(self, barrel_radius_mm: float) -> float:
        """How far from the middle the line lies where it is longest (θ = 0): √(R² − (D − r)²)."""
        return math.sqrt(max(0.0, self.radius_mm**2 - (self.distance_mm - barrel_radius_mm) ** 2))

    def depth_mm(self, barrel_radius_mm: float) -> float:
        """How deep it goes below the surface: r − (D − R). It must stay clear of the hole."""
        return barrel_radius_mm - (self.distance_mm - self.radius_mm)

    @property
    def bend_strain(self) -> float:
        """Surface strain of the sheet when bent to the arc: t/(2R). Dry wood breaks at about 0.01 to 0.015."""
        return self.sheet_mm / (2 * self.radius_mm)


def wrap_width_mm(core_mm: float, sheet_mm: float, overlap_mm: float) -> float:
    """Width of a sheet that goes once round a core: π·(d + t) + overlap."""
    return math.pi * (core_mm + sheet_mm) + overlap_mm


def stack_mm(count: int, thickness_mm: float, glue_mm: float, skim_mm: float = 0.0) -> float:
    """Thickness of a glued pile: n·t + (n − 1)·g − skim."""
    return count * thickness_mm + (count - 1) * glue_mm - skim_mm


class Ring(Struct, frozen=True):
    """A flat ring or a barrel of staves: `n` pieces, mitre 180/n from square, outer length 2·R·tan(π/n)."""

    count: int

    def outer_mm(self, radius_mm: float) -> float:
        """Outer length of a segment, flat to flat: 2·R·tan(π/n)."""
        return 2 * radius_mm * math.tan(math.pi / self.count)

    def closing_gap_mm(self, error_deg: float, width_mm: float) -> float:
        """What an error at each of the 2·n cut faces leaves open over the ring's width: 2·n·d(rad)·w."""
        return 2 * self.count * math.radians(error_deg) * width_mm


def compound_stave(count: int, slope_deg: float) -> tuple[float, float]:
    """Bevel from square and taper of a stave that leans to the axis, in degrees.

    sin(bevel) = cos(slope)·sin(180/n); tan(taper) = sin(slope)·tan(180/n). Textbook, checked in three dimensions.
    """
    slope, half = math.radians(slope_deg), math.pi / count
    bevel = math.asin(math.cos(slope) * math.sin(half))
    return math.degrees(bevel), math.degrees(math.atan(math.sin(slope) * math.tan(half)))


class Chevron(Struct, frozen=True):
    """Slices cut at an angle from a board of strips, every other one flipped, glued to a bar of V's.

    Derived: N = ⌊((L − W·cot a)·sin a + k)/(s + k)⌋; usable length W/sin a − s·cot a; V angle 2a; axial pitch p/sin a.
    """

    length_mm: float
    width_mm: float
    angle_deg: float
    slice_mm: float
    kerf_mm: float

    @property
    def slices(self) -> int:
        """How many slices the board gives."""
        a = math.radians(self.angle_deg)
        along = (self.length_mm - self.width_mm / math.tan(a)) * math.sin(a) + self.kerf_mm
        return max(0, math.floor(along / (self.slice_mm + self.kerf_mm) + 1e-9))

    @property
    def usable_mm(self) -> float:
        """Rectangular length of a bar of such slices."""
        a = math.radians(self.angle_deg)
        return self.width_mm / math.sin(a) - self.slice_mm / math.tan(a)

    def axial_pitch_mm(self, strips_mm: float) -> float:
        """How far one V is from the next, for strips of this pitch."""
        return strips_mm / math.sin(math.radians(self.angle_deg))


def chevron_width_mm(bar_mm: float, angle_deg: float, slice_mm: float) -> float:
    """How wide the board of strips must be for a bar of this length: (L + s·cot a)·sin a."""
    a = math.radians(angle_deg)
    return (bar_mm + slice_mm / math.tan(a)) * math.sin(a)
