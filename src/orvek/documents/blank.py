"""The blank: the steps that make it, in the order of the hands, and where the tubes lie on it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Colour, Document, Name, measure
from orvek.documents.pigment import PigmentDose
from orvek.quantities import Dimension

MOST_CUPS = 8


class Cup(Document):
    """One colour of a casting, mixed in a vessel of its own."""

    name: Name = Field(title="Colour name")
    colour: Colour = Field(title="Colour")
    share: float = measure(
        "Share",
        Dimension.PERCENT,
        low=0.1,
        high=1000,
        hint="Of the casting; the shares of all cups should make 100 %",
    )
    pigments: Annotated[tuple[PigmentDose, ...], Field(max_length=6)] = ()
    vessel_ml: float | None = measure(
        "Mixing cup holds",
        Dimension.VOLUME,
        low=5,
        high=20000,
        default=None,
        hint="Empty: the smallest of your cups that leaves room to stir",
    )


class CastStep(Document):
    """Pour the cups into the mould. `seed` fixes the impression of the swirl, so that it can be repeated."""

    kind: Literal["cast"] = "cast"
    cups: Annotated[tuple[Cup, ...], Field(max_length=MOST_CUPS)] = ()
    seed: int = measure("Impression", Dimension.COUNT, low=0, high=9999, default=1)


# A new kind of step is one more class here with its own `kind`, joined by | with a discriminator.
Step = CastStep


class Blank(Document):
    """What the bar becomes: its steps, the saw, and the tubes laid on it.

    `tube_starts_mm` holds where each barrel's tube begins, from the bar's left end; empty means that
    Orvek lays them out in the middle of the bar.
    """

    steps: Annotated[tuple[Step, ...], Field(min_length=1, max_length=200)] = (CastStep(),)
    saw_kerf_mm: float = measure("Saw kerf", Dimension.LENGTH, low=0, high=10, default=1.6)
    end_waste_mm: float = measure(
        "Lost at each end of the bar",
        Dimension.LENGTH,
        low=0,
        high=50,
        default=4,
        hint="Meniscus, bubbles and the wall's curve: 3 to 5 mm in a cast bar",
    )
    tube_starts_mm: Annotated[tuple[Annotated[float, Field(ge=-1000, le=1000)], ...], Field(max_length=4)] = ()
