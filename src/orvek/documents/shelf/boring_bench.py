"""What stands at the bench for boring: presses and lathes, bits in the rack, and the log of holes that were bored."""

from typing import Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


class Press(Document):
    """A machine that bores: how far it travels and how fast it turns."""

    name: Name = Field(default="Bench drill press", title="Machine")
    kind: Literal["drill press", "lathe"] = Field(default="drill press", title="Kind")
    travel_mm: float = measure("Quill travels", _MM, low=10, high=500, default=60)
    clearance_mm: float = measure(
        "Lost above the bar", _MM, low=0, high=100, default=5, hint="Between the bit's tip, raised, and the bar"
    )
    slowest_rpm: float = measure("Slowest speed", Dimension.TURNS, low=20, high=3000, default=500)
    fastest_rpm: float = measure("Fastest speed", Dimension.TURNS, low=100, high=30000, default=3000)


class RackBit(Document):
    """A bit that the maker has."""

    name: Name = Field(default="Bit", title="Bit")
    size_mm: float = measure("Size on its shank", _MM, low=1, high=42, default=7)
    bores_mm: float | None = measure(
        "The hole it bores", _MM, low=1, high=43, default=None, hint="Measured in an offcut; empty: as its shank"
    )
    flutes_mm: float = measure("Flutes are long", _MM, low=10, high=400, default=80)
    tip: Literal["twist", "brad point", "bullet"] = Field(default="brad point", title="Tip")

    @property
    def hole_mm(self) -> float:
        """The hole it bores: as measured, else as its shank says."""
        return self.bores_mm if self.bores_mm is not None else self.size_mm


class BoredHole(Document):
    """One hole that was bored: where it came out, and how much tore out there."""

    name: Name = Field(default="A hole", title="Which")
    bit_mm: float = measure("Bit", _MM, low=1, high=42, default=7)
    depth_mm: float = measure("Depth", _MM, low=3, high=400, default=60)
    off_mm: float = measure("Came out off centre by", _MM, low=0, high=30, default=0.3)
    torn_mm: float | None = measure("Tore out at the exit, deep", _MM, low=0, high=40, default=None)
    stuff: Name = Field(default="resin", title="It works like")
