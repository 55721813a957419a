"""Drill bits by their names: number bits 1–60, letter bits A–Z, inch fractions, metric steps.

Sizes are in data/bits.json with their source. `bit_named` finds a size by name, `bits` lists all of them.
"""

from __future__ import annotations

import json
import re
from functools import cache
from importlib import resources

from msgspec import Struct

from orvek.quantities.units import MM_PER_INCH

_NAME = re.compile(r"(?:(?:no\.?|number|#)\s*(?P<number>\d{1,2})|(?:letter\s+)?(?P<letter>[A-Za-z]))", re.I)
SAME_BIT_MM = 0.006


class Bit(Struct, frozen=True):
    """One drill bit that can be bought: its usual name and its diameter."""

    name: str
    diameter_mm: float
    series: str


@cache
def bits() -> tuple[Bit, ...]:
    """All bits of the four series from 1 to 19.05 mm, smallest first."""
    text = resources.files("orvek.data").joinpath("bits.json").read_text(encoding="utf-8")
    sizes = json.loads(text)
    found = [Bit(f"#{name}", mm, "number") for name, mm in sizes["number_mm"].items()]
    found += [Bit(f"letter {name}", mm, "letter") for name, mm in sizes["letter_mm"].items()]
    found += [Bit(_fraction(n), n * MM_PER_INCH / 64, "fraction") for n in range(4, 49)]
    found += [Bit(f"{tenths / 10:g} mm", tenths / 10, "metric") for tenths in range(10, 191)]
    return tuple(sorted(found, key=lambda bit: (bit.diameter_mm, bit.series)))


def bit_named(text: str) -> Bit | None:
    """The number or letter bit that `text` names, or None.

    >>> bit_named("letter J").diameter_mm
    7.0358
    >>> bit_named("#30").diameter_mm
    3.2639
    """
    match = _NAME.fullmatch(text.strip())
    if match is None:
        return None
    wanted = f"#{int(match['number'])}" if match["number"] else f"letter {match['letter'].upper()}"
    return next((bit for bit in bits() if bit.name == wanted), None)


def bit_of_size(diameter_mm: float) -> Bit | None:
    """The number or letter bit of this diameter to within 6 µm, or None."""
    near = (bit for bit in bits() if bit.series in {"number", "letter"})
    return next((bit for bit in near if abs(bit.diameter_mm - diameter_mm) <= SAME_BIT_MM), None)


def _fraction(sixty_fourths: int) -> str:
    top, bottom = sixty_fourths, 64
    while top % 2 == 0:
        top, bottom = top // 2, bottom // 2
    return f"{top}/{bottom} in"
