"""Pigments: their kind (which sets the loads that make sense), colour and price."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from orvek.documents.base import Colour, Document, Known, Name, Words, known, measure, within
from orvek.quantities import Dimension


class PigmentKind(Document):
    """A kind of colourant with its usual loads, in % of the mixed mass, and its density."""

    key: Name
    name: Name
    usual_low_pct: float = measure("Usual, from", Dimension.PERCENT, low=0, high=50)
    usual_high_pct: float = measure("Usual, to", Dimension.PERCENT, low=0, high=50)
    most_pct: float = measure("Most", Dimension.PERCENT, low=0, high=50)
    too_much: str
    density_g_ml: Known
    default_pct: float = measure("To begin with", Dimension.PERCENT, low=0, high=50)
    standing: Known


class Pigment(Document):
    """One colourant on the maker's shelf."""

    name: Name = Field(title="Pigment")
    kind: Name = Field(title="Kind")
    colour: Colour = Field(title="Colour")
    price_per_kg: Annotated[Known, within(0, 100000)] | None = known(
        "Price a kg", Dimension.PRICE, low=0, high=100000, default=None
    )
    notes: Words = ""


class PigmentDose(Document):
    """A pigment in a cup: its load, and the strength of the stock it is weighed from, if any."""

    pigment: Pigment
    load_pct: float = measure("Load", Dimension.PERCENT, low=0, high=30, hint="Of the mixed mass, pigment included")
    stock_pct: float | None = measure(
        "Stock strength",
        Dimension.PERCENT,
        low=0.05,
        high=60,
        default=None,
        hint="Pigment stirred into part A beforehand, so that a small dose can be weighed",
    )
