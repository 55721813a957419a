"""Tools and speeds at the lathe, by what is turned."""

from __future__ import annotations

import json
import math
from functools import cache
from importlib import resources
from typing import Any, NamedTuple

_SQUARE_TIMES = 1.3


class Speeds(NamedTuple):
    """Turns a minute, from and to: while square, round, at the last cut, while sanding."""

    square: tuple[int, int]
    round: tuple[int, int]
    last: tuple[int, int]
    sand: tuple[int, int]


@cache
def _shipped() -> dict[str, Any]:
    found: dict[str, Any] = json.loads(resources.files("orvek.data").joinpath("turning.json").read_text("utf-8"))
    return found


def speeds() -> Speeds:
    """What is usual for a pen blank (data/turning.json).

    >>> speeds().sand
    (800, 1500)
    """
    pairs = (_shipped()[f"{name}_rpm"] for name in Speeds._fields)
    return Speeds(*((int(low), int(high)) for low, high in pairs))


def tool_for(stuff: str) -> str:
    """The tool that is usually gentlest on a stuff; a scraper for one that nobody knows."""
    return str(_shipped()["by_stuff"].get(stuff, "negative-rake scraper"))


def tool_words(tool: str) -> str:
    """What is to be known of a tool; nothing of one that nobody knows."""
    return next((str(one["words"]) for one in _shipped()["tools"] if one["key"] == tool), "")


def removed_ml(side_mm: float, finished_mm: float, length_mm: float, *, is_square: bool) -> float:
    """What the tool takes off a barrel, in ml: (side² − π/4 D²) L of a square bar, π/4 (D0² − D²) L of a round one.

    >>> round(removed_ml(20, 12.4, 50, is_square=True), 2)
    13.96
    """
    across = side_mm**2 if is_square else math.pi / 4 * side_mm**2
    return max(0.0, (across - math.pi / 4 * finished_mm**2) * length_mm) / 1000


def turning_min(volume_ml: float, rate_ml_min: float, set_up_min: float, *, is_square: bool) -> float:
    """Minutes to take a volume off: a square bar is rounded first, which takes a third longer (workshop practice).

    >>> round(turning_min(13.9619, 2.5, 2, is_square=True), 2)
    9.26
    """
    return volume_ml / rate_ml_min * (_SQUARE_TIMES if is_square else 1.0) + set_up_min


def turning_rate_ml_min(stuff: str) -> float:
    """What the tool takes off a stuff in a minute: a guess, to be learned (data/turning.json)."""
    rates = _shipped()["ml_min"]
    return float(rates.get(stuff, rates["resin"]))


def first_grit(stuff: str) -> str:
    """The paper that is coarse enough after a clean last cut: a guess of workshop practice (data/turning.json)."""
    return str(_shipped()["first_grit"].get(stuff, "P120"))


def edge_life_barrels(stuff: str) -> float:
    """How many barrels of a stuff an edge turns before it is dull: a guess, to be learned (data/turning.json)."""
    lives = _shipped()["edge_barrels"]
    return float(lives.get(stuff, lives["resin"]))


def set_up_min() -> float:
    """What a barrel takes at the lathe before the tool touches it: mounted, rest set, speed chosen."""
    return float(_shipped()["set_up_min"])


def support_mm(across_mm: float) -> float:
    """How thick strips on the flats of a square bar must be so that it runs round without corners: (√2 − 1) w / 2.

    Geometry.

    >>> round(support_mm(20), 2)
    4.14
    """
    return (math.sqrt(2) - 1) * across_mm / 2
