"""The shelves in the order they are listed: each one's title, how a thing on it is described, what a new one may be.

`SHELVES` is by the name of the shelf in the shop.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import date
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict

from orvek.craft.abrasives import abrasives
from orvek.craft.coating import schools
from orvek.documents import (
    Board,
    BoredHole,
    Bottle,
    Grit,
    HouseLadder,
    Machine,
    MeterPlace,
    Observation,
    Pigment,
    Pot,
    Press,
    Price,
    RackBit,
    Scale,
    catalogue,
    glues,
    material,
    priced,
)
from orvek.planning.words import counted, mould_size, ratio_line
from orvek.quantities import Dimension, Units, decimal, write, write_bit, write_sizes

_LIKE = ("black-walnut", "brass", "red-composite", "paper")  # what a material of the maker's own may begin as
_GREY = "#8a8f94"


class Shelf(Struct, frozen=True):
    """One shelf.

    Attributes:
        title: what it is called.
        line: a thing on it in a few words, beside its name.
        beginnings: what a new thing can start from, with the words for it.
    """

    title: str
    line: Callable[[Any, Units], str]
    beginnings: Callable[[], Iterable[tuple[str, Any]]] = tuple


def _length(value_mm: float, units: Units, digits: int | None = None) -> str:
    return write(value_mm, Dimension.LENGTH, units, digits)


def _kind_of(owned: Pigment, _units: Units) -> str:
    kind = catalogue().kind(owned.kind)
    return kind.name.lower() if kind else owned.kind


def _pot(owned: Pot, units: Units) -> str:
    rated = write(owned.rated_bar, Dimension.PRESSURE, units)
    return f"{write_sizes((owned.diameter_mm, owned.height_mm), units)}, rated {rated}"


def _like(things: Iterable[Any]) -> list[tuple[str, Any]]:
    return [(f"Like “{one.name}”", one) for one in things]


def _materials() -> list[tuple[str, Any]]:
    found = [(one, one.name.lower()) for one in map(material, _LIKE)]
    return [(f"Like {name}", one.with_(name=f"My {name}", key="own")) for one, name in found]


def _pigments() -> list[tuple[str, Any]]:
    kinds = catalogue().kinds
    return [(one.name, Pigment(name=f"New {one.name.lower()}", kind=one.key, colour=_GREY)) for one in kinds]


SHELVES: dict[str, Shelf] = {
    "pens": Shelf("Pens", lambda one, _: f"{len(one.barrels)} barrels", lambda: _like(catalogue().pens)),
    "moulds": Shelf("Moulds", mould_size, lambda: _like(catalogue().moulds)),
    "resins": Shelf(
        "Resins",
        lambda one, _: ratio_line(one),
        lambda: [(f"Of the family {one.family}", one) for one in catalogue().resins],
    ),
    "pigments": Shelf("Pigments", _kind_of, _pigments),
    "materials": Shelf(
        "Materials",
        lambda one, units: f"{one.look}, {write(one.density_g_ml.value, Dimension.DENSITY, units)}",
        _materials,
    ),
    "glues": Shelf(
        "Glues",
        lambda one, _: f"open {write(one.open_min, Dimension.DURATION)}",
        lambda: [(f"Like {one.key}", one.with_(key=f"my {one.key}")) for one in glues()],
    ),
    "scales": Shelf(
        "Scales",
        lambda one, _: f"{decimal(one.resolution_g)} g steps",
        lambda: [("A scale", Scale(name="New scale", resolution_g=0.01, capacity_g=200))],
    ),
    "boards": Shelf(
        "Boards",
        lambda one, units: write_sizes((one.length_mm, one.width_mm, one.thickness_mm), units),
        lambda: [("A board", Board())],
    ),
    "machines": Shelf(
        "Saws",
        lambda one, units: f"kerf {_length(one.kerf_mm, units, 2)}",
        lambda: [("A table saw", Machine()), ("A mitre box", Machine(name="Mitre box", kind="mitre box"))],
    ),
    "pots": Shelf("Pots", _pot, lambda: [("A pressure pot", Pot())]),
    "recipes": Shelf("Recipes", lambda one, _: counted(len(one.pigments), "pigment")),
    "presses": Shelf(
        "Drill presses",
        lambda one, units: f"quill {_length(one.travel_mm, units)}",
        lambda: [("A drill press", Press()), ("A lathe", Press(name="Lathe", kind="lathe", travel_mm=100))],
    ),
    "rack": Shelf(
        "Bits",
        lambda one, units: f"bores {write_bit(one.hole_mm, units)}, flutes {_length(one.flutes_mm, units)}",
        lambda: [("A bit", RackBit())],
    ),
    "bored": Shelf(
        "Holes bored",
        lambda one, units: (
            f"{write_bit(one.bit_mm, units)}, {_length(one.depth_mm, units, 1)} deep, "
            f"{_length(one.off_mm, units, 1)} off"
        ),
        lambda: [("A hole", BoredHole())],
    ),
    "soaked": Shelf(
        "Wood seen",
        lambda one, _: f"{one.seen}: {decimal(one.value)}",
        lambda: [("An observation", Observation())],
    ),
    "drawer": Shelf(
        "Abrasives",
        lambda one, _: f"{one.kind}, {decimal(one.start_um)} µm",
        lambda: [(one.name, Grit.model_validate(asdict(one))) for one in abrasives()],
    ),
    "ladders": Shelf(
        "Ladders of grits",
        lambda one, _: f"{one.bare_from} to {one.level_to}",
        lambda: [("A ladder", HouseLadder())],
    ),
    "schools": Shelf(
        "Ways to coat",
        lambda one, _: f"{one.thin} thin, {one.medium} medium",
        lambda: [(f"Like “{one.name}”", one.with_(name=f"My {one.name}"[:80])) for one in schools()],
    ),
    "bottles": Shelf("Bottles", lambda one, _: f"{decimal(one.drop_mg)} mg a drop", lambda: [("A bottle", Bottle())]),
    "bushings": Shelf("Bushings measured", lambda one, units: _length(one.size_mm, units, 2)),
    "prices": Shelf(
        "Prices",
        lambda one, units: write(one.price, Dimension.MONEY, units, 2),
        lambda: [(what[:1].upper() + what[1:], Price(what=what, since=date.today())) for what in priced()],
    ),
    "meters": Shelf(
        "Calipers, probes",
        lambda one, _: f"{one.kind}, {one.plugged_in_at or 'not plugged in'}",
        lambda: [(one.name, one) for one in (MeterPlace(), MeterPlace(name="Thermometer", kind="thermometer"))],
    ),
}

# The shelves as they are listed, under what they are for.
GROUPS: dict[str, tuple[str, ...]] = {
    "Pens and moulds": ("pens", "moulds"),
    "Stuff": ("resins", "pigments", "recipes", "materials", "boards", "glues", "bottles", "prices"),
    "Machines and tools": ("machines", "presses", "rack", "pots", "drawer", "scales", "meters"),
    "Your ways": ("ladders", "schools"),
    "Seen and measured": ("bored", "soaked", "bushings"),
}
