"""Pits filled with powder and glue, or resin: how much of each, how high, how long it waits."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from msgspec import Struct

from orvek.craft.coating import GLUE_G_ML
from orvek.craft.faults import PACKED, powder_g

SUNK = 0.7  # filled so far where the depth is the effect (workshop practice)
PROUD = 1.1  # filled over the brim, to be turned flush (workshop practice)
THICK_MM = 2.0  # deeper fills are dry on top and wet inside for a day (workshop practice)
THIN_WAIT_MIN, THICK_WAIT_MIN = 90.0, 1440.0
LEVELS = {"sunk, for depth": SUNK, "flush": 1.0, "proud, turned flush": PROUD}


class Fill(Struct, frozen=True):
    """One thing that pits are filled with: its density, the tool for it, and what to know of it.

    `looks_like` is the key of the material that it is drawn as.
    """

    key: str
    looks_like: str
    density_g_ml: float
    tool: str
    note: str


@cache
def fills() -> tuple[Fill, ...]:
    """All that ship (data/fills.json)."""
    text = resources.files("orvek.data").joinpath("fills.json").read_text(encoding="utf-8")
    return tuple(Fill(**one) for one in json.loads(text)["fills"])


def fill_of(key: str) -> Fill:
    """The fill of this name; the first one for a name that nobody knows."""
    return next((one for one in fills() if one.key == key), fills()[0])


def fill_masses_g(volume_mm3: float, fill: Fill) -> tuple[float, float]:
    """Powder and glue for a volume; of a resin all of it is resin and no glue. Workshop practice: half of each.

    >>> powder, glue = fill_masses_g(200, fill_of("crushed shell"))
    >>> round(powder, 2), round(glue, 2)
    (0.27, 0.11)
    """
    if fill.key == "resin":
        return volume_mm3 / 1000 * fill.density_g_ml, 0.0
    return powder_g(volume_mm3, fill.density_g_ml), glue_g(volume_mm3)


def glue_g(volume_mm3: float) -> float:
    """Mass of thin glue that fills what the powder leaves. Workshop practice.

    >>> round(glue_g(200), 2)
    0.11
    """
    return volume_mm3 / 1000 * (1 - PACKED) * GLUE_G_ML


def fill_wait_min(deep_mm: float) -> float:
    """Until a fill is hard right through, without activator inside."""
    return THICK_WAIT_MIN if deep_mm > THICK_MM else THIN_WAIT_MIN
