"""How a hole is bored: speed, pecks, the press's travel, the time it takes; and the glue that the tube then needs."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from functools import cache
from importlib import resources
from typing import NamedTuple

from msgspec import Struct

MOST_RPM = 3000.0  # workshop practice: faster only heats the bit
KEPT_PLAY_MM = 0.5  # of what a mechanism lets a barrel lose, this much is kept (workshop practice)
_FEED_MM = 0.1  # of depth a turn; 0.1 to 0.2 is workshop practice
_CLEAR_S = 6.0  # out, brush the flutes, in again; an estimate


class Stuff(Struct, frozen=True):
    """How one kind of material wants to be bored.

    Attributes:
        key, name: which kind.
        slowest_m_min, fastest_m_min: speed of the bit's edge.
        first_diameters: how deep it goes at first, in diameters of the bit.
        peck_mm: how deep each time after that, least and most.
        cool_s: how long the hole cools between pecks.
        exit_mm: extra length so that the exit may tear out.
        is_brittle: whether a pilot and slow feed matter.
        grows_per_k: along the bar, its part of the length a kelvin.
        source: where the numbers come from.
    """

    key: str
    name: str
    slowest_m_min: float
    fastest_m_min: float
    first_diameters: float
    peck_mm: tuple[float, float]
    cool_s: float
    exit_mm: float
    is_brittle: bool
    grows_per_k: float
    source: str


@cache
def stuffs() -> tuple[Stuff, ...]:
    """The kinds of material that are told apart when boring (data/boring.json), the gentlest last."""
    text = resources.files("orvek.data").joinpath("boring.json").read_text(encoding="utf-8")
    return tuple(Stuff(**{**one, "peck_mm": tuple(one["peck_mm"])}) for one in json.loads(text)["stuffs"])


def stuff(key: str) -> Stuff:
    """The kind of this name.

    Raises:
        KeyError: there is none.
    """
    return next(one for one in stuffs() if one.key == key)


def rpm(edge_m_min: float, diameter_mm: float) -> float:
    """Turns a minute for a speed of the bit's edge: 1000 v / (π d). Textbook.

    >>> round(rpm(20, 7))
    909
    """
    return 1000 * edge_m_min / (math.pi * diameter_mm)


def peck_depths_mm(depth_mm: float, diameter_mm: float, first_diameters: float, peck_mm: float) -> tuple[float, ...]:
    """How deep the bit stands at the end of each peck: first so many diameters, the rest in equal pecks.

    Their number is 1 + ⌈(H − f d) / p⌉, with p the most that is taken at once. Workshop practice.

    >>> len(peck_depths_mm(60, 7, 3, 10)), peck_depths_mm(30, 7, 3, 10)
    (5, (21.0, 30))
    """
    first = min(depth_mm, first_diameters * diameter_mm)
    more = math.ceil(max(0.0, depth_mm - first) / peck_mm - 1e-9)
    return (*(first + (depth_mm - first) * n / more for n in range(more)), depth_mm)


def stages_mm(depth_mm: float, travel_mm: float, clearance_mm: float) -> tuple[float, ...]:
    """How deep the hole is at the end of each travel of the press: ⌈H / (q − c)⌉ of them. Derived.

    >>> stages_mm(65, 50, 5)
    (45, 65)
    """
    each = max(travel_mm - clearance_mm, 1.0)
    count = math.ceil(depth_mm / each - 1e-9)
    return (*(each * n for n in range(1, count)), depth_mm)


def boring_s(pecks_mm: tuple[float, ...], turns_min: float, cool_s: float) -> float:
    """About how long boring takes, in seconds: the feed, and clearing and cooling after every peck. An estimate."""
    depth = pecks_mm[-1]
    return depth / (_FEED_MM * turns_min) * 60 + len(pecks_mm) * _CLEAR_S + (len(pecks_mm) - 1) * cool_s


def glue_mm3(hole_mm: float, tube_mm: float, length_mm: float) -> float:
    """What fills the gap round a tube: π/4 (D² − d²) L. Derived.

    >>> round(glue_mm3(7.1, 6.95, 55), 1)
    91.0
    """
    return math.pi / 4 * max(0.0, hole_mm**2 - tube_mm**2) * length_mm


def holds_after_min(at_20_c_min: float, shop_c: float) -> float:
    """How long a glue that cures by itself takes to hold in a shop: twice as long for every 10 K less. Workshop rule.

    >>> holds_after_min(240, 10), holds_after_min(240, 30)
    (480.0, 120.0)
    """
    return at_20_c_min * 2 ** ((20 - shop_c) / 10)


def shear_mpa(force_n: float, tube_mm: float, length_mm: float, filled: float) -> float:
    """Shear in the glue round a tube that is pressed: F / (π d L · fill). Mechanics.

    >>> round(shear_mpa(500, 7, 55, 1), 3)
    0.413
    """
    return force_n / (math.pi * tube_mm * length_mm * filled)


def grows_apart_mm(length_mm: float, kelvin: float, one: float, other: float) -> float:
    """How much one material grows along a length more than another: L ΔT (α1 − α2). Textbook.

    >>> round(grows_apart_mm(55, 40, 80e-6, 19e-6), 3)
    0.134
    """
    return length_mm * kelvin * (one - other)


def out_of_square_mm(diameter_mm: float, angle_deg: float) -> float:
    """The gap that an end leaves which is out of square by so much: D tan ε. Derived."""
    return diameter_mm * math.tan(math.radians(angle_deg))


def may_shorten(cut_mm: float, play_mm: float) -> bool:
    """Whether a barrel may lose so much at both ends: 2 · cut ≤ play − 0.5 mm. Workshop practice."""
    return may_lose(cut_mm, cut_mm, play_mm)


def may_lose(left_mm: float, right_mm: float, play_mm: float) -> bool:
    """Whether a barrel may lose so much at its ends together: left + right ≤ play − 0.5 mm. Workshop practice.

    >>> may_lose(2.8, 2.6, 5.0), may_lose(2.8, 1.4, 5.0)
    (False, True)
    """
    return both_cuts(play_mm, KEPT_PLAY_MM, (left_mm,), (right_mm,)).spare_mm >= 0


class Cuts(NamedTuple):
    """What both ends lose, and what may still be lost; below 0 it is too much."""

    left_mm: float
    right_mm: float
    spare_mm: float


def both_cuts(play_mm: float, keep_mm: float, left_mm: Sequence[float], right_mm: Sequence[float]) -> Cuts:
    """One cut at each end that clears every flaw there: as deep as the deepest. What is kept of the play is not lost.

    >>> both_cuts(6, 0.5, [1.8], [3.2])
    Cuts(left_mm=1.8, right_mm=3.2, spare_mm=0.5)
    """
    left, right = max(left_mm, default=0.0), max(right_mm, default=0.0)
    return Cuts(left, right, round(play_mm - keep_mm - left - right, 9))


def shortened_mm(chip_mm: float) -> float:
    """How much comes off both ends of a barrel to get below a chip: its depth and 0.2 mm. Workshop practice."""
    return chip_mm + 0.2


_TIP_OF_DIAMETER = {"twist": 0.30, "brad point": 0.1, "bullet": 0.25}


def tip_mm(tip: str, diameter_mm: float) -> float:
    """How far a bit's point is ahead of where it bores its full width; 0 for a tip that nobody knows.

    A twist drill of 118°: d / (2 tan 59°), geometry. A brad point's spurs stand almost level with its point, a bullet's
    step is a quarter of its width: workshop practice.

    >>> round(tip_mm("twist", 10), 1)
    3.0
    """
    return _TIP_OF_DIAMETER.get(tip, 0.0) * diameter_mm
