"""Pigments: their kind (which sets the loads that make sense), colour and price."""

from typing import Annotated

from pydantic import Field

from orvek.documents.base import Colour, Document, Known, Name, Words, known, measure, within
from orvek.quantities import Dimension


class PigmentKind(Document):
    """A kind of colourant with its usual loads, in % of the mixed mass, its density, and what it does to light.

    `scatters` and `absorbs` are in m²/g of the pigment: its scattering and absorbing area. All of them are estimates
    that a measured chip replaces.
    """

    key: Name
    name: Name
    usual_low_pct: float = measure("Usual, from", Dimension.PERCENT, low=0, high=50)
    usual_high_pct: float = measure("Usual, to", Dimension.PERCENT, low=0, high=50)
    most_pct: float = measure("Most", Dimension.PERCENT, low=0, high=50)
    too_much: str
    density_g_ml: Known
    default_pct: float = measure("To begin with", Dimension.PERCENT, low=0, high=50)
    standing: Known
    scatters: Known
    absorbs: Known


class Chip(Document):
    """A cured chip that was measured: how light it looked over black and over white, 0 to 1."""

    thickness_mm: float = measure("Chip, thickness", Dimension.LENGTH, low=0.1, high=20, default=1.5)
    load_pct: float = measure("Chip, load", Dimension.PERCENT, low=0.005, high=30, default=1)
    over_black: float = measure("Light over black", Dimension.FRACTION, low=0.001, high=1, default=0.3)
    over_white: float = measure("Light over white", Dimension.FRACTION, low=0.001, high=1, default=0.4)


class Pigment(Document):
    """One colourant on the maker's shelf."""

    name: Name = Field(title="Pigment")
    kind: Name = Field(title="Kind")
    colour: Colour = Field(title="Colour")
    price_per_kg: Annotated[Known, within(0, 100000)] | None = known(
        "Price a kg", Dimension.PRICE, low=0, high=100000, default=None
    )
    drop_mg: Annotated[Known, within(1, 500)] | None = known(
        "A drop weighs", Dimension.DROP, low=1, high=500, default=None, hint="Weigh 50 drops once, divide by 50"
    )
    chip: Chip | None = None
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
