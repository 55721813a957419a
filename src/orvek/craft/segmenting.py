"""Segmenting: what a diagonal cut with its sheet does on a barrel. Lengths in mm, angles to the axis in degrees."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DiagonalCut:
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


@dataclass(frozen=True, slots=True)
class ArcCut:
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
