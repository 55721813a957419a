"""How far a dye gets into wood, as a guess that observations replace; and how deep it must lie to survive turning."""

from __future__ import annotations

import json
import math
from collections.abc import Iterable
from functools import cache
from importlib import resources
from typing import Any

from msgspec import Struct

from orvek.craft.drying import Band
from orvek.craft.learning import narrowed, times_the_guess
from orvek.craft.soaking import reaches_mm

_NINE_IN_TEN = 1.645
# A narrow pore, resin or dye in it, and the air's pressure let in behind it: textbook values of a liquid like that.
_PORE_UM, _TENSION_N_M, _COSINE, _VISCOSITY_PA_S, _AIR_PA = 1.0, 0.03, 0.9, 0.012, 1.0e5


@cache
def _guesses() -> dict[str, Any]:
    text = resources.files("orvek.data").joinpath("dyes.json").read_text(encoding="utf-8")
    found: dict[str, Any] = json.loads(text)
    return found


class Dyeing(Struct, frozen=True):
    """How a colour is put in: the carrier, the way, for how long, into soft wood or sound."""

    carrier: str
    way: str
    hours: float
    is_soft: bool


def depth_mm(how: Dyeing, seen: Iterable[tuple[float, float]] = (), *, at_end: bool = False) -> Band:
    """How deep the colour goes at a side or at an end, with the range that holds it nine times in ten.

    It grows with the root of the time; vacuum lets the air's pressure drive it as in Lucas and Washburn.

    Args:
        how: what is done.
        seen: (seen, calculated) of earlier pieces of the same wood and carrier.
        at_end: along the grain instead of across.
    """
    guess = _guesses()
    known = [(found, told) for found, told in seen if found > 0 and told > 0]
    spread = guess["spread_ln"] * narrowed(len(known))
    best = guessed_mm(how, at_end=at_end) * times_the_guess(known)
    wide = math.exp(_NINE_IN_TEN * spread)
    return Band(best / wide, best, best * wide)


def guessed_mm(how: Dyeing, *, at_end: bool = False) -> float:
    """The depth before any observation."""
    guess = _guesses()
    best = float(guess["side_mm_per_root_hour"][how.carrier]) * math.sqrt(how.hours)
    if how.way == "under vacuum":
        best *= vacuum_times()
    elif how.way == "brushed on":
        best *= float(guess["brushed_times"])
    if how.is_soft:
        best *= float(guess["soft_times"])
    return best * float(guess["end_times"]) if at_end else best


def vacuum_times() -> float:
    """How many times as far a liquid gets when the air's pressure comes back behind it. Lucas and Washburn."""
    pore = (_PORE_UM, _TENSION_N_M, _COSINE, _VISCOSITY_PA_S, 60.0)
    return reaches_mm(*pore, _AIR_PA) / reaches_mm(*pore)


def needed_mm(across_mm: float, finished_mm: float, drift_mm: float) -> float:
    """How deep a colour must lie so that it survives turning: (w − D) / 2 and the hole's drift. Derived."""
    return max(0.0, (across_mm - finished_mm) / 2 + drift_mm)


def hours_needed(how: Dyeing, now_mm: float, wanted_mm: float) -> float:
    """How long it would have to lie in it: the depth grows with the root of the time."""
    return how.hours * (wanted_mm / now_mm) ** 2 if now_mm > 0 else math.inf
