"""Resins: mixing ratio, densities, pot life, price, each number with its standing; and their families."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Known, Name, Standing, Words, known, measure, within
from orvek.quantities import Dimension

_Density = Annotated[Known, within(0.5, 3.0)]


class Family(Document):
    """A generic family of resins: how closely its ratio must be met, and what to take care of.

    `cautions` defer to the product's own safety sheet; they stand on every card made for this family.
    """

    key: Name
    name: Name
    ratio_tolerance_pct: Known
    cautions: tuple[str, ...]
    sets_when_mixed: bool = True


class Resin(Document):
    """One resin as the maker buys it: part A (resin) and part B (hardener or initiator)."""

    name: Name = Field(title="Resin")
    family: Name = Field(title="Family")
    ratio_by: Literal["volume", "mass"] = Field(title="Ratio is by")
    ratio_a: float = measure("Parts of A", Dimension.RATIO, low=0.01, high=1000)
    ratio_b: float = measure("Parts of B", Dimension.RATIO, low=0.01, high=1000)
    ratio_standing: Standing = Field(default="label", title="The ratio is")
    density_a: _Density = known("Density of A", Dimension.DENSITY, low=0.5, high=3.0)
    density_b: _Density = known("Density of B", Dimension.DENSITY, low=0.5, high=3.0)
    density_mix: _Density = known("Density mixed", Dimension.DENSITY, low=0.5, high=3.0)
    pot_life_min: Annotated[Known, within(0.3, 10000)] | None = known(
        "Pot life", Dimension.DURATION, low=0.3, high=10000, default=None, hint="As the label gives it"
    )
    pot_life_mass_g: float = measure("… in a cup of", Dimension.MASS, low=10, high=5000, default=100)
    pot_life_temperature_c: float = measure("… at", Dimension.TEMPERATURE, low=0, high=60, default=25)
    price_per_kg: Annotated[Known, within(0, 10000)] | None = known(
        "Price a kg", Dimension.PRICE, low=0, high=10000, default=None
    )
    notes: Words = ""
