"""Resins: mixing ratio, densities, pot life, price, each number with its standing; and their families."""

import json
from functools import cache
from importlib import resources
from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Known, Name, Standing, Words, known, measure, within
from orvek.quantities import Dimension

_Density = Annotated[Known, within(0.5, 3.0)]


class Cure(Document):
    """How a family cures; see craft/curing.py for the formula. Defaults that a label and the maker's log replace."""

    rate_25: float = Field(gt=0)
    energy_kj: float = Field(gt=0)
    m: float = Field(gt=0)
    n: float = Field(gt=0)
    kappa: float = Field(gt=0)
    ceiling: float = Field(gt=0)
    heat_j_g: float = Field(gt=0)
    gel: float = Field(gt=0, lt=1)
    demould: float = Field(gt=0, lt=1)
    tg0_c: float
    tg1_c: float
    conductivity: float = Field(gt=0)
    heat_capacity: float = Field(gt=0)
    hottest_c: Known
    standing: Standing
    source: str


class Family(Document):
    """A generic family of resins: how closely its ratio must be met, and what to take care of.

    `cautions` defer to the product's own safety sheet; they stand on every card made for this family.
    """

    key: Name
    name: Name
    ratio_tolerance_pct: Known
    cautions: tuple[str, ...]
    sets_when_mixed: bool = True
    stir_min: Known = Known(value=3, standing="practice", source="workshop practice")
    cure: Cure | None = None
    most_moisture_pct: Known | None = None
    shrinks_pct: Known | None = None
    foams_with_water: bool = False  # isocyanates make gas of every trace of water
    vapour_kpa_20: Known | None = None  # of its solvent at 20 °C; what a vacuum may not fall below


@cache
def generic_families() -> tuple[Family, ...]:
    """The families that ship with the program."""
    text = resources.files("orvek.data").joinpath("resins.json").read_text(encoding="utf-8")
    return tuple(Family.model_validate(item) for item in json.loads(text)["families"])


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
    peak_c: Annotated[Known, within(25, 260)] | None = known(
        "Hottest in that cup", Dimension.TEMPERATURE, low=25, high=260, default=None, hint="If the label gives it"
    )
    demould_min: Annotated[Known, within(1, 20000)] | None = known(
        "Out of the mould after", Dimension.DURATION, low=1, high=20000, default=None, hint="If the label gives it"
    )
    demould_thick_mm: float = measure(
        "… in a casting of", Dimension.LENGTH, low=1, high=200, default=10, hint="The thickness that this time is for"
    )
    price_per_kg: Annotated[Known, within(0, 10000)] | None = known(
        "Price a kg", Dimension.PRICE, low=0, high=10000, default=None
    )
    notes: Words = ""
