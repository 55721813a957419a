"""What follows from the pen alone."""

from __future__ import annotations

from msgspec import Struct

from orvek.documents import Barrel
from orvek.planning.working import Figure


class BarrelFigures(Struct, frozen=True):
    """What follows for one barrel."""

    barrel: Barrel
    piece_mm: Figure
    clearance_mm: Figure
    wall_left_mm: Figure
    wall_right_mm: Figure


class PenPlan(Struct, frozen=True):
    """What follows from the pen alone."""

    barrels: tuple[BarrelFigures, ...]
    length_needed_mm: Figure
    least_length_mm: float  # without anything to spare where the bit comes out
