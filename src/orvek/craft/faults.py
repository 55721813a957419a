"""Faults on a barrel: what may have caused them, which ways out there are, and the sums behind those."""

from __future__ import annotations

import json
import math
from collections.abc import Collection
from functools import cache
from importlib import resources

from msgspec import Struct

NATURAL, STRAIGHT = 0.6, 1.0  # of length x width x depth: a pit that grew or broke (0.5 to 0.67), one that was bored
PACKED = 0.5  # of a fill's volume is powder, the rest the glue between (workshop practice)
OVER_MM = 0.1  # turned away beyond a flaw, to be rid of it (a choice)
_SIZES_MM3 = ((5.0, 1.1), (30.0, 1.0), (100.0, 0.75), (math.inf, 0.45))  # up to so much: times the usual chance


class Cause(Struct, frozen=True):
    """What may lie behind a fault, and what one sees where it does."""

    words: str
    looks: tuple[str, ...]


class FaultKind(Struct, frozen=True):
    """One fault: its causes, the ways out of it in order of preference, what prevents it; whether it is a spot."""

    key: str
    is_spot: bool
    causes: tuple[Cause, ...]
    ways: tuple[str, ...]
    prevention: str

    def likely(self, looks: Collection[str]) -> tuple[tuple[Cause, bool], ...]:
        """Its causes, those that were seen first, each with whether it was."""
        seen = [(cause, any(look in looks for look in cause.looks)) for cause in self.causes]
        return tuple(sorted(seen, key=lambda one: not one[1]))


class WayKind(Struct, frozen=True):
    """One way out as it usually goes: work of the hands, waiting, how often it succeeds (guesses), what it uses."""

    key: str
    title: str
    hands_min: float
    wait_h: float
    chance_pct: float
    uses: str


@cache
def _shipped() -> tuple[tuple[FaultKind, ...], tuple[WayKind, ...]]:
    content = json.loads(resources.files("orvek.data").joinpath("faults.json").read_text(encoding="utf-8"))
    kinds = (
        FaultKind(
            one["key"],
            one["is_spot"],
            tuple(Cause(cause["words"], tuple(cause["looks"])) for cause in one["causes"]),
            tuple(one["ways"]),
            one["prevention"],
        )
        for one in content["kinds"]
    )
    return tuple(kinds), tuple(WayKind(**one) for one in content["ways"])


def fault_kinds() -> tuple[FaultKind, ...]:
    """All kinds of faults that ship (data/faults.json)."""
    return _shipped()[0]


def fault_kind(key: str) -> FaultKind:
    """The kind of this name; the first one for a name that nobody knows."""
    return next((one for one in fault_kinds() if one.key == key), fault_kinds()[0])


def way_kind(key: str) -> WayKind:
    """The way of this name.

    Raises:
        StopIteration: there is none.
    """
    return next(one for one in _shipped()[1] if one.key == key)


def pit_mm3(long_mm: float, wide_mm: float, deep_mm: float, shape: float = NATURAL) -> float:
    """Volume of a pit: A h, and so much of it as its shape fills. Workshop practice.

    >>> round(pit_mm3(5, 3, 1.5), 1)
    13.5
    """
    return long_mm * wide_mm * deep_mm * shape


def powder_g(volume_mm3: float, density_g_ml: float) -> float:
    """Mass of powder that fills a volume, half of which it takes up. Workshop practice.

    >>> round(powder_g(200, 2.7), 2)
    0.27
    """
    return volume_mm3 / 1000 * density_g_ml * PACKED


def covered_deg(width_mm: float, diameter_mm: float) -> float:
    """What a clip or a flaw of a width covers on a barrel: w / (π D) · 360°. Geometry.

    >>> round(covered_deg(4, 13.2))
    35
    """
    return width_mm / (math.pi * diameter_mm) * 360


def filled_chance_pct(volume_mm3: float, usual_pct: float) -> float:
    """How often a fill of such a size succeeds: small ones more often than large ones. A guess."""
    times = next(times for most, times in _SIZES_MM3 if volume_mm3 <= most)
    return min(95.0, usual_pct * times)


def clear_radius_mm(radius_now_mm: float, deep_mm: float) -> float:
    """The radius at which a flaw is gone: as deep as it is, and a little more. Derived."""
    return radius_now_mm - deep_mm - OVER_MM
