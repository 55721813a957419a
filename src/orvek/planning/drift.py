"""How far off the axis the hole may lie in this shop: what every judgement about the finished barrel assumes."""

from __future__ import annotations

import math

from orvek.craft.wander import Wander, learned, times_the_usual
from orvek.documents import Shop

SURE = 2.0  # standard deviations that are allowed for: nineteen times in twenty


def drift_mm(shop: Shop) -> float:
    """How far the hole may lie off the bar's axis: centring and the bit's wander together, nineteen times in twenty.

    A shop that has logged its holes scatters as many times as much as they say.
    """
    accuracy = shop.accuracy
    return SURE * math.hypot(accuracy.centring_mm, accuracy.boring_mm) * times_the_usual(logged(shop), usual(shop))


def shop_wander(shop: Shop) -> Wander:
    """How this shop bores: its own accuracy of centring, and what its log of holes says of the whole."""
    return learned(logged(shop), usual(shop))


def usual(shop: Shop) -> Wander:
    """How this shop would bore by its accuracy alone."""
    return Wander(centring_mm=shop.accuracy.centring_mm)


def logged(shop: Shop) -> list[tuple[float, float, float]]:
    """The holes of the log: depth, bit and how far off they came out."""
    return [(hole.depth_mm, hole.bit_mm, hole.off_mm) for hole in shop.bored]
