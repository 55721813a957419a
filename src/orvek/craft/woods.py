"""Woods by their own numbers: basic density, shrinkage, how much of the possible they take up (data/woods.json)."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from msgspec import Struct


class Wood(Struct, frozen=True):
    """One wood. Shrinkages are from green to oven-dry, in %; what it takes up is in % of the possible, low and high."""

    key: str
    basic_g_ml: float
    radial_pct: float
    tangential_pct: float
    volume_pct: float
    takes_low_pct: float
    takes_high_pct: float
    is_oily: bool


@cache
def woods() -> tuple[Wood, ...]:
    """All woods with numbers of their own."""
    text = resources.files("orvek.data").joinpath("woods.json").read_text(encoding="utf-8")
    return tuple(Wood(**one) for one in json.loads(text)["woods"])


def wood(key: str) -> Wood | None:
    """The wood of this key; None for one without numbers: burl, cob, fibre, the maker's own."""
    return next((one for one in woods() if one.key == key), None)
