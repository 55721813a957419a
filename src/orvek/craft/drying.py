"""How wood dries: diffusion out of a bar, the late exponential, and when a loss an hour means dry.

`ends_at` reads a log of weights; the fit itself stands in `drying_fit.py`, which needs NumPy and loads late.
"""

from __future__ import annotations

import math

from msgspec import Struct

DRY_PART = 0.005  # of the end mass that may still be lost when it counts as dry (after ISO 13061-1)
# Diffusion across the grain: rough textbook values; the log of weights replaces them.
OVEN_M2_S, AIR_M2_S = 1e-9, 3e-11
_TERMS = 12
_RISE_STEPS = 2.0
_RISE_PART = 0.15  # of the loss so far: the air's moisture changes from day to day (an estimate)


def slab_left(x: float) -> float:
    """Part of the moisture left in a slab after X = D t / thickness²: Σ 8/((2n+1)²π²) exp(−(2n+1)²π² X). Textbook."""
    if x < 0.01:  # there the series wants many terms, and this is as good
        return 1 - 4 * math.sqrt(max(0.0, x) / math.pi)
    odd = (2 * n + 1 for n in range(_TERMS))
    return sum(8 / (n * n * math.pi**2) * math.exp(-n * n * math.pi**2 * x) for n in odd)


def bar_left(diffusion_m2_s: float, hours: float, sides_mm: tuple[float, ...]) -> float:
    """Part of the moisture left in a bar: the product of its sides' slabs. Textbook.

    >>> round(bar_left(1e-9, 6, (20, 20)), 3)
    0.227
    """
    return math.prod(slab_left(diffusion_m2_s * hours * 3600 / (side / 1000) ** 2) for side in sides_mm)


def tail_h(diffusion_m2_s: float, sides_mm: tuple[float, ...]) -> float:
    """Time constant of the late drying in hours: 1 / (π² D Σ 1/side²). Textbook.

    >>> round(tail_h(1e-9, (20, 20)), 2)
    5.63
    """
    return 1 / (math.pi**2 * diffusion_m2_s * sum((1000 / side) ** 2 for side in sides_mm)) / 3600


def three_weights(one_g: float, two_g: float, three_g: float, apart_h: float) -> tuple[float, float]:
    """End mass and time constant from three weights equally far apart (Aitken's delta-squared). Textbook.

    Raises:
        ZeroDivisionError: the weights do not fall ever more slowly.

    >>> [round(found, 2) for found in three_weights(40, 37.52198, 36.408534, 4)]
    [35.5, 5.0]
    """
    end = (one_g * three_g - two_g**2) / (one_g + three_g - 2 * two_g)
    return end, apart_h / math.log((one_g - two_g) / (two_g - three_g))


def stop_h(first_g: float, end_g: float, tail: float, rate_per_h: float) -> float:
    """When the loss an hour falls to a part of the mass: τ ln(A (1 − r τ) / (r τ m_end)). Derived.

    >>> round(stop_h(40, 35.5, 5, 0.001), 2)
    16.14
    """
    left = rate_per_h * tail
    return tail * math.log((first_g - end_g) * (1 - left) / (left * end_g))


def still_wet_part(tail: float, rate_per_h: float) -> float:
    """What is still to be lost, as a part of the end mass, when the loss an hour is so small: r τ / (1 − r τ). Derived.

    >>> round(100 * still_wet_part(5, 0.001), 2)
    0.5
    """
    return rate_per_h * tail / (1 - rate_per_h * tail)


def rises_g(lost_g: float, step_g: float) -> float:
    """From one weighing to the next a gain beyond that is no chance of scale or air, after so much was lost."""
    return max(_RISE_STEPS * step_g, _RISE_PART * lost_g)


class Band(Struct, frozen=True):
    """A value with the range that holds it nine times in ten."""

    low: float
    best: float
    high: float


class DryingFit(Struct, frozen=True):
    """What a log of weights says.

    Attributes:
        why_not: why nothing can be said yet; empty where the rest holds.
        end_g: the mass it will come to.
        dry_h: hours after the first weighing until no more than half a percent is still to go.
        tail_h: the late time constant.
        rate_per_h: what it loses an hour at the last weighing, as a part of its mass.
        curve: hours, mass, and its range, for drawing.
    """

    why_not: str
    end_g: Band
    dry_h: Band
    tail_h: float
    rate_per_h: float
    curve: tuple[tuple[float, float, float, float], ...] = ()
