"""Refill, spring and mechanism: how far the tip stands out, what the pen may lose in length, whether a spring fits."""

from __future__ import annotations

import math
from itertools import pairwise

WRITES_MM = (1.5, 3.0)  # a tip that stands out so far writes and does not bend (workshop practice)
DRAWN_IN_MM = 1.0  # so far inside no pocket is written on (workshop practice)
SPRING_PLAY_MM = 0.5  # less room than that wants no spring (workshop practice)
BRASS_G_ML = 8.5  # textbook


def may_lose_mm(out_mm: float, stroke_mm: float) -> float:
    """By how much all barrels together may become shorter; below 0: the tip stands out too far already.

    What the pen loses the tip gains. Written it stands out 3 mm at most; drawn in by the stroke it stays 1 mm inside.
    Without a stroke only the first counts.

    Args:
        out_mm: how far the tip stands out, writing.
        stroke_mm: how far the mechanism draws it in; 0: it does not.

    >>> may_lose_mm(2.0, 5.5), may_lose_mm(2.0, 3.5), may_lose_mm(1.8, 0)
    (1.0, 0.5, 1.2)
    """
    lost = WRITES_MM[1] - out_mm
    return round(min(lost, stroke_mm - out_mm - DRAWN_IN_MM) if stroke_mm else lost, 9)


def hole_mm(refill_mm: float, spring_mm: float, out_mm: float) -> float:
    """How deep the room for a refill is from the mouth to the mechanism: refill + spring pressed together − tip out.

    >>> hole_mm(98.4, 4.0, 2.0)
    100.4
    """
    return round(refill_mm + spring_mm - out_mm, 9)


def tube_g(length_mm: float, outside_mm: float, wall_mm: float) -> float:
    """Mass of a brass tube: π (D − w) w L ρ. Geometry.

    >>> round(tube_g(50, 8, 0.35), 1)
    3.6
    """
    return math.pi * (outside_mm - wall_mm) * wall_mm * length_mm * BRASS_G_ML / 1000


def barrel_ml(profile_mm: tuple[tuple[float, float], ...], hole_diameter_mm: float, length_mm: float) -> float:
    """Volume of a turned barrel without its hole, as frustums between (part of the length, diameter). Geometry.

    >>> round(barrel_ml(((0.0, 12.0), (1.0, 12.0)), 8.0, 50.0), 2)
    3.14
    """
    volume = 0.0
    for (begin, one), (end, other) in pairwise(profile_mm):
        volume += math.pi / 12 * (one * one + one * other + other * other) * (end - begin) * length_mm
    return (volume - math.pi / 4 * hole_diameter_mm**2 * length_mm) / 1000
