"""Tools and speeds at the lathe, by what is turned."""

from __future__ import annotations

import json
import math
from functools import cache
from importlib import resources
from typing import Any, NamedTuple


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


def support_mm(across_mm: float) -> float:
    """How thick strips on the flats of a square bar must be so that it runs round without corners: (√2 − 1) w / 2.

    Geometry.

    >>> round(support_mm(20), 2)
    4.14
    """
    return (math.sqrt(2) - 1) * across_mm / 2
