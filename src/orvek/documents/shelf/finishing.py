"""What the maker has found to work at the end: ladders and schools of coats by name, bottles, bushings measured."""

from datetime import date
from typing import Literal

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
Wet = Literal["dry", "dry to P400, then wet", "wet throughout"]
Activator = Literal["none", "a light mist", "each coat"]


class HouseLadder(Document):
    """A ladder of grits kept by name."""

    name: Name = Field(default="My ladder", title="Ladder")
    bare_from: Name = Field(default="P120", title="Bare, from")
    bare_to: Name = Field(default="P600", title="Bare, to")
    level_from: Name = Field(default="P600", title="Levelled from")
    level_to: Name = Field(default="Pad 12000", title="Polished to")
    wet: Wet = Field(default="dry", title="Sanded")


class CoatSchool(Document):
    """A way to coat kept by name: how many, in which order, how long each waits, how fast the lathe turns."""

    name: Name = Field(default="My way", title="Finish")
    thin: int = measure("Thin coats", Dimension.COUNT, low=0, high=60, default=3)
    medium: int = measure("Medium coats", Dimension.COUNT, low=0, high=60, default=8)
    order: Literal["thin first", "medium first", "in turn"] = Field(default="thin first", title="Order")
    activator: Activator = Field(default="none", title="Activator")
    thin_wait_min: float = measure("A thin one waits", Dimension.DURATION, low=0, high=1440, default=1)
    medium_wait_min: float = measure("A medium one waits", Dimension.DURATION, low=0, high=1440, default=3)
    slowest_rpm: int = measure("Lathe at least, rpm", Dimension.COUNT, low=0, high=5000, default=300)
    fastest_rpm: int = measure("Lathe at most, rpm", Dimension.COUNT, low=0, high=5000, default=600)
    oil: bool = Field(default=False, title="With oil")
    note: Words = Field(default="", title="What speaks for it")


class Bottle(Document):
    """A bottle of glue for coats: what a drop of it weighs, and how much of that stays on the barrel."""

    name: Name = Field(default="Thin glue", title="Bottle")
    drop_mg: float = measure("A drop weighs, mg", Dimension.RATIO, low=1, high=500, default=25)
    kept_pct: float = measure("Stays on the barrel", Dimension.PERCENT, low=1, high=100, default=40)


class BushingReading(Document):
    """A bushing measured on a day: it wears where sandpaper and tool touch it."""

    name: Name = Field(default="Bushing", title="Which")
    pen: Name = Field(default="Pen", title="Pen")
    barrel: Name = Field(default="Barrel", title="Barrel")
    end: Literal["left", "right"] = Field(default="left", title="End")
    size_mm: float = measure("It measured", _MM, low=2, high=60, default=12)
    day: date = Field(default=date(2026, 1, 1), title="On")
