"""The pen that a blank is made for: its barrels, their tubes, bits and finished outline."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.quantities import Dimension

MOST_BARRELS = 4


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


class Pen(Document):
    """A pen as its maker knows it: a name and one to four barrels from the nib to the end."""

    name: Name = Field(title="Pen")
    barrels: Annotated[tuple[Barrel, ...], Field(min_length=1, max_length=MOST_BARRELS)]
    notes: Words = ""
