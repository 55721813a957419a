"""Moulds: a tray of bars, a set of rounds, or one loaf that is sawn up after curing."""

from typing import Annotated, Any, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension

_LENGTH = Dimension.LENGTH


def _length() -> Any:
    return measure("Length", _LENGTH, low=10, high=1000)


def _across(title: str, high: float = 100) -> Any:
    return measure(title, _LENGTH, low=5, high=high)


Wall = Literal["silicone", "HDPE", "polypropylene"]


class _Made(Document):
    """What every mould is made of."""

    wall: Wall = Field(default="silicone", title="Made of")
    wall_mm: float = measure("Wall", _LENGTH, low=0.5, high=60, default=8)
    floor_mm: float = measure("Floor", _LENGTH, low=0.5, high=60, default=8)


class BarMould(_Made):
    """`cavities` open troughs side by side, each casting one bar."""

    kind: Literal["bars"] = "bars"
    name: Name
    cavities: int = measure("Cavities", Dimension.COUNT, low=1, high=60)
    length_mm: float = _length()
    width_mm: float = _across("Width")
    depth_mm: float = _across("Depth")


class RoundMould(_Made):
    """`cavities` tubes, each casting one round bar."""

    kind: Literal["rounds"] = "rounds"
    name: Name
    cavities: int = measure("Tubes", Dimension.COUNT, low=1, high=60)
    length_mm: float = _length()
    diameter_mm: float = _across("Inside diameter")


class LoafMould(_Made):
    """One block, sawn into bars of `bar_width_mm` x `bar_depth_mm` after curing."""

    kind: Literal["loaf"] = "loaf"
    name: Name
    length_mm: float = _length()
    width_mm: float = _across("Width", high=600)
    depth_mm: float = _across("Depth", high=300)
    bar_width_mm: float = _across("Bars sawn, width")
    bar_depth_mm: float = _across("Bars sawn, depth")
    kerf_mm: float = measure("Saw kerf", _LENGTH, low=0.1, high=10, default=2.4)


Mould = Annotated[BarMould | RoundMould | LoafMould, Field(discriminator="kind")]
