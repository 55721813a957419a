"""The pen that a blank is made for: its barrels, their tubes, bits and finished outline."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, field_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, Words, measure
from orvek.quantities import Dimension

MOST_BARRELS, MOST_POINTS = 4, 16


class OutlinePoint(Document):
    """A place on a barrel between its ends, as a part of the tube's length from the left, and the diameter there."""

    at: Annotated[float, Field(gt=0, lt=1)]
    diameter_mm: float = measure("Finished there", Dimension.LENGTH, low=3, high=60)


class Barrel(Document):
    """One brass tube and what is turned on it. "Left" is the nib side, as the barrel lies on the strip."""

    name: Name = Field(title="Name")
    tube_length_mm: float = measure("Tube length", Dimension.LENGTH, low=5, high=250)
    tube_diameter_mm: float = measure("Tube, outside", Dimension.LENGTH, low=2, high=40)
    bit_diameter_mm: float = measure("Drill bit", Dimension.LENGTH, low=2, high=42)
    finished_left_mm: float = measure("Finished, left end", Dimension.LENGTH, low=3, high=60)
    finished_right_mm: float = measure("Finished, right end", Dimension.LENGTH, low=3, high=60)
    trim_mm: float = measure(
        "Trim at each end",
        Dimension.LENGTH,
        low=0,
        high=20,
        default=1.5,
        hint="Left proud of the tube and squared off after gluing: 2 to 4 mm in all, 6 and more for fragile stock",
    )
    play_mm: float | None = measure(
        "May become shorter by",
        Dimension.LENGTH,
        low=0,
        high=30,
        default=None,
        hint="How much the pen's mechanism lets this barrel lose in all; empty: not known",
    )

    outline: Annotated[tuple[OutlinePoint, ...], Field(max_length=MOST_POINTS)] = ()

    @field_validator("outline")
    @classmethod
    def _from_left_to_right(cls, points: tuple[OutlinePoint, ...]) -> tuple[OutlinePoint, ...]:
        if any(after.at <= before.at for before, after in pairwise(points)):
            raise PydanticCustomError("order", "has points that do not go from left to right")
        return points

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """The finished outline from end to end: parts of the tube's length with their diameters."""
        between = ((point.at, point.diameter_mm) for point in self.outline)
        return ((0.0, self.finished_left_mm), *between, (1.0, self.finished_right_mm))

    @property
    def widest_mm(self) -> float:
        """The largest finished diameter."""
        return max(diameter for _, diameter in self.profile)


class Pen(Document):
    """A pen as its maker knows it: a name and one to four barrels from the nib to the end."""

    name: Name = Field(title="Pen")
    barrels: Annotated[tuple[Barrel, ...], Field(min_length=1, max_length=MOST_BARRELS)]
    notes: Words = ""
