"""Where the bit comes out: the scatter of a hole about its axis, and what a log of holes says of it.

The hole's centre at a depth z off the bar's axis is, in each of two directions, the sum of three independent errors:
centring (the same at every depth), the machine's misalignment (grows as z) and the bit's own bending (as (z/d)²).
`scatter_mm` is the standard deviation of their sum; what it may spoil is asked in `craft/off_axis.py`.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from msgspec import Struct

# Defaults of a made-up average shop: a model, not a measurement; the maker's own log of offsets replaces them.
CENTRING_MM, MISALIGNED, BENDING_MM = 0.10, 0.0015, 4.9e-4
P95_RADIAL = 2.4477468307  # √(−2 ln 0.05): nineteen holes in twenty lie within so many deviations of one direction


class Wander(Struct, frozen=True):
    """How a shop bores: standard deviations in one direction.

    Attributes:
        centring_mm: of where the bit enters.
        misaligned: of the slope between bit and bar's axis, mm in a mm.
        bending_mm: of what the bit bends aside over a depth of one diameter; grows with the square.
    """

    centring_mm: float = CENTRING_MM
    misaligned: float = MISALIGNED
    bending_mm: float = BENDING_MM

    def scaled(self, factor: float) -> Wander:
        """A shop that scatters so many times as much in everything."""
        return Wander(self.centring_mm * factor, self.misaligned * factor, self.bending_mm * factor)


def covariance_mm2(one_mm: float, other_mm: float, bit_mm: float, wander: Wander) -> float:
    """How the hole's offsets at two depths go together, in one direction, in mm²."""
    bends = wander.bending_mm**2 * (one_mm / bit_mm) ** 2 * (other_mm / bit_mm) ** 2
    return wander.centring_mm**2 + wander.misaligned**2 * one_mm * other_mm + bends


def scatter_mm(depth_mm: float, bit_mm: float, wander: Wander | None = None) -> float:
    """Standard deviation of the hole's centre in one direction: √(s0² + (sa L)² + (c (L/d)²)²).

    Source: a model proposed for this program; its defaults are guesses until a log replaces them.

    >>> round(scatter_mm(60, 10), 3)
    0.136
    """
    return math.sqrt(covariance_mm2(depth_mm, depth_mm, bit_mm, wander or Wander()))


def two_end_step_mm(length_mm: float, bit_mm: float, wander: Wander | None = None) -> float:
    """Deviation, in one direction, of the step where holes bored from both ends meet: √2 · σ(L/2). Derived.

    >>> round(two_end_step_mm(60, 7), 3)
    0.156
    """
    return math.sqrt(2) * scatter_mm(length_mm / 2, bit_mm, wander)


class Fit(Struct, frozen=True):
    """Scatter from a log, with the range that holds it nine times in ten."""

    sigma_mm: float
    low_mm: float
    high_mm: float
    holes: int


def fitted(radial_mm: Iterable[float]) -> Fit | None:
    """Scatter in one direction from the radial offsets of holes: σ = √(Σ e² / 2n); None without any.

    Source: maximum likelihood (Rayleigh); the range from χ² with 2n degrees of freedom.

    >>> round(fitted([0.1, 0.2, 0.3, 0.25, 0.15]).sigma_mm, 3)
    0.15
    """
    squares = [offset**2 for offset in radial_mm]
    if not squares:
        return None
    total = sum(squares)
    low, high = (math.sqrt(total / _chi_square_quantile(part, len(squares))) for part in (0.95, 0.05))
    return Fit(math.sqrt(total / (2 * len(squares))), low, high, len(squares))


def learned(holes: Iterable[tuple[float, float, float]], wander: Wander | None = None, prior_holes: int = 4) -> Wander:
    """The shop's scatter from logged holes: (depth, bit, radial offset), all in mm.

    Every hole is compared with what the model says of its depth and bit; the model counts as `prior_holes` holes.
    """
    usual = wander or Wander()
    return usual.scaled(times_the_usual(holes, usual, prior_holes))


def times_the_usual(holes: Iterable[tuple[float, float, float]], usual: Wander, prior_holes: int = 4) -> float:
    """How many times as much as a model says the logged holes (depth, bit, radial offset, in mm) scatter."""
    ratios = [(offset / scatter_mm(depth, bit, usual)) ** 2 / 2 for depth, bit, offset in holes]
    return math.sqrt((prior_holes + sum(ratios)) / (prior_holes + len(ratios)))


def v_jaw_shift_mm(under_mm: float) -> float:
    """How far a square bar that is so much under its size lies off in one fixed V of 90°: Δw / √2. Geometry."""
    return under_mm / math.sqrt(2)


def _chi_square_quantile(part: float, pairs: int) -> float:
    """Quantile of χ² with 2 · pairs degrees of freedom, whose survival is e^(−y) Σ y^i / i!."""

    def above(x: float) -> float:
        term = total = math.exp(-x / 2)
        for n in range(1, pairs):
            term *= x / 2 / n
            total += term
        return total

    low, high = 0.0, 20.0 + 8 * pairs
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if 1 - above(middle) < part else (low, middle)
    return (low + high) / 2
