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

    def shortest_blank_mm(self, across_mm: float, margin_mm: float) -> float:
        """The blank must be at least this long: w·cot a + t/sin a + 2·margin; w·√2 where it is tilted on a corner."""
        return across_mm / math.tan(math.radians(self.angle_deg)) + self.band_mm + 2 * margin_mm

    def crossing_mm(self, radius_mm: float) -> float:
        """Where the lines of two neighbouring faces cross, from the middle: r·cot a·cos 45°."""
        return self.amplitude_mm(radius_mm) * math.cos(math.pi / 4)

    def swing_error_mm(self, radius_mm: float, angle_error_deg: float) -> float:
        """What an angle error does to the amplitude: r·da/sin² a."""
        return radius_mm * math.radians(angle_error_deg) / math.sin(math.radians(self.angle_deg)) ** 2

    def hole_error_mm(self, offset_mm: float) -> float:
        """How far the line moves where the hole is off centre: e·cot a."""
        return self.amplitude_mm(offset_mm)


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

    def tip_angle_deg(self, barrel_radius_mm: float) -> float:
        """Where the line closes around the barrel: cos θ = (D − R)/r; 180 when it goes all the way round."""
        return math.degrees(math.acos(max(-1.0, min(1.0, (self.distance_mm - self.radius_mm) / barrel_radius_mm))))

    def depth_mm(self, barrel_radius_mm: float) -> float:
        """How deep it goes below the surface: r − (D − R). It must stay clear of the hole."""
        return barrel_radius_mm - (self.distance_mm - self.radius_mm)

    @property
    def bend_strain(self) -> float:
        """Surface strain of the sheet when bent to the arc: t/(2R). Dry wood breaks at about 0.01 to 0.015."""
        return self.sheet_mm / (2 * self.radius_mm)


def free_slide_mm(sheet_mm: float, kerf_mm: float, angle_deg: float) -> tuple[float, float]:
    """Axial and lateral shift where the halves slide along the normal: (t − k)·sin a, (t − k)·cos a."""
    angle = math.radians(angle_deg)
    return (sheet_mm - kerf_mm) * math.sin(angle), (sheet_mm - kerf_mm) * math.cos(angle)


def wrap_width_mm(core_mm: float, sheet_mm: float, overlap_mm: float) -> float:
    """Width of a sheet that goes once round a core: π·(d + t) + overlap."""
    return math.pi * (core_mm + sheet_mm) + overlap_mm


def stack_mm(count: int, thickness_mm: float, glue_mm: float, skim_mm: float = 0.0) -> float:
    """Thickness of a glued pile: n·t + (n − 1)·g − skim."""
    return count * thickness_mm + (count - 1) * glue_mm - skim_mm


class Ring(Struct, frozen=True):
    """A flat ring or a barrel of staves: `n` pieces, mitre 180/n from square, outer length 2·R·tan(π/n)."""

    count: int

    @property
    def mitre_deg(self) -> float:
        """Set from square at the saw."""
        return 180 / self.count

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

    @property
    def part_used(self) -> float:
        """Share of the board's face that ends in bars."""
        return self.slices * self.slice_mm * self.usable_mm / (self.length_mm * self.width_mm)

    def axial_pitch_mm(self, strips_mm: float) -> float:
        """How far one V is from the next, for strips of this pitch."""
        return strips_mm / math.sin(math.radians(self.angle_deg))


def chevron_width_mm(bar_mm: float, angle_deg: float, slice_mm: float) -> float:
    """How wide the board of strips must be for a bar of this length: (L + s·cot a)·sin a."""
    a = math.radians(angle_deg)
    return (bar_mm + slice_mm / math.tan(a)) * math.sin(a)
