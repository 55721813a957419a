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


class WritingPlan(Struct, frozen=True):
    """What follows from refill and mechanism; None where what it needs was not measured.

    Attributes:
        lost_mm: what is cut off all barrels as was decided.
        out_mm, drawn_mm: how far the tip stands out, writing and drawn in.
        may_lose_mm: by how much all barrels together may become shorter from what was measured.
        play_mm: room that is left round refill and spring.
        other_out_mm: how far the tip stands out with another refill.
        length_mm, mass_g: of the finished pen.
    """

    lost_mm: float
    out_mm: Figure | None
    drawn_mm: Figure | None
    may_lose_mm: Figure | None
    play_mm: Figure | None
    other_out_mm: Figure | None
    length_mm: Figure
    mass_g: Figure

    @property
    def figures(self) -> tuple[Figure, ...]:
        """All that is known."""
        every = (self.out_mm, self.drawn_mm, self.may_lose_mm, self.play_mm, self.other_out_mm)
        return (*(one for one in every if one is not None), self.length_mm, self.mass_g)


class PenPlan(Struct, frozen=True):
    """What follows from the pen alone."""

    barrels: tuple[BarrelFigures, ...]
    length_needed_mm: Figure
    writing: WritingPlan
    least_length_mm: float  # without anything to spare where the bit comes out
