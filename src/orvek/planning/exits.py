"""Where the bit comes out: from which end a hole is bored and why, and how much bar may tear out at the other end."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from orvek.documents import BoredHole, Job, Shop
from orvek.planning.stuff import stuff_of

_AS_MUCH_MM = 1.0  # of bar more at one end than at the other is no reason to prefer it
_LEAST_TEAR_OUTS = 3  # fewer in the log say nothing about the worst of twenty


class Exit(Struct, frozen=True):
    """How much longer than its trim a piece is sawn where the bit comes out, and where that comes from."""

    length_mm: float
    source: str


def exit_of(job: Job, shop: Shop) -> Exit:
    """Extra length for the exit: typed, learned from tear-outs (the worst of twenty), or by the material."""
    stuff = stuff_of(job)
    if job.makes_bars:
        return Exit(0.0, "a bar is not bored")
    if job.bore.exit_mm is not None:
        return Exit(job.bore.exit_mm, "as typed")
    worst = worst_torn_mm(torn_of(shop, stuff.key))
    if worst is not None:
        return Exit(worst, f"your log of {len(torn_of(shop, stuff.key))} tear-outs")
    return Exit(stuff.exit_mm, f"{stuff.name}: {stuff.source}")


def torn_of(shop: Shop, stuff: str) -> tuple[BoredHole, ...]:
    """The holes of the log that were bored as such stuff and whose tear-out was measured."""
    return tuple(hole for hole in shop.bored if hole.torn_mm is not None and hole.stuff == stuff)


def worst_torn_mm(holes: Sequence[BoredHole]) -> float | None:
    """The worst of twenty tear-outs; None where too few were logged to say."""
    torn = sorted(hole.torn_mm for hole in holes if hole.torn_mm is not None)
    return torn[math.ceil(0.95 * len(torn)) - 1] if len(torn) >= _LEAST_TEAR_OUTS else None


def enters_left(job: Job, barrel: int, left_mm: float, right_mm: float) -> tuple[bool, str]:
    """Whether a barrel's hole is bored from its left end, and why, with so much bar to spare beyond either end."""
    own = job.laid[barrel]
    if not own.is_through:
        return own.hole_end == "left", "the hole stops inside"
    match job.bore.hole(barrel).from_end:
        case "left":
            return True, "as you chose"
        case "right":
            return False, "as you chose"
        case "both ends":
            return True, "as you chose"
    match job.bore.v_opens:
        case "to the left":
            return True, "the V's open to the left: the bit enters into them, not onto their points"
        case "to the right":
            return False, "the V's open to the right: the bit enters into them, not onto their points"
    if abs(left_mm - right_mm) < _AS_MUCH_MM:
        return True, "either end will do; leave extra length where the bit exits"
    where = "right" if right_mm > left_mm else "left"
    return right_mm > left_mm, f"more of the bar is spare beyond its {where} end, where the bit comes out"
