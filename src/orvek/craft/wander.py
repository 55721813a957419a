"""Where the bit comes out: the scatter of a hole about its axis, what it may spoil, and what a log of holes says.

The hole's centre at a depth z off the bar's axis is, in each of two directions, the sum of three independent errors:
centring (the same at every depth), the machine's misalignment (grows as z) and the bit's own bending (as (z/d)²).
`scatter_mm` is the standard deviation of their sum; `spoilt_chance` asks it of both ends of a barrel at once.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

# Defaults of a made-up average shop: a model, not a measurement; the maker's own log of offsets replaces them.
CENTRING_MM, MISALIGNED, BENDING_MM = 0.10, 0.0015, 4.9e-4
P95_RADIAL = 2.4477468307  # √(−2 ln 0.05): nineteen holes in twenty lie within so many deviations of one direction
_NODES = 48


@dataclass(frozen=True, slots=True)
class Wander:
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


def beyond_chance(limit_mm: float, bias_mm: float, sigma_mm: float) -> float:
    """Chance that a point scattered by `sigma_mm` in both directions lies further than `limit_mm` from where it should.

    The survival function of Rice's distribution, Q1(bias/σ, limit/σ), as a Poisson mixture. Source: textbook.

    >>> round(beyond_chance(0.5, 0.2, 0.2), 4)
    0.1209
    """
    if limit_mm <= 0:
        return 1.0
    if sigma_mm <= 0:
        return float(bias_mm > limit_mm)
    weight_mean, y = (bias_mm / sigma_mm) ** 2 / 2, (limit_mm / sigma_mm) ** 2 / 2
    if (limit_mm - bias_mm) / sigma_mm > 12:
        return 0.0
    if (bias_mm - limit_mm) / sigma_mm > 12:
        return 1.0
    weight, term = math.exp(-weight_mean), math.exp(-y)
    tail, found, seen = term, weight * term, weight
    for n in range(1, 2000):
        weight *= weight_mean / n
        term *= y / n
        tail += term
        found += weight * tail
        seen += weight
        if 1 - seen < 1e-12 and n > weight_mean:
            break
    return min(1.0, found)


def off_a_face_chance(across_mm: float, finished_mm: float, sigma_mm: float) -> float:
    """Chance that a square bar keeps a flat at one end: 1 − (2 Φ(E/σ) − 1)² with E = w/2 − r finished. Derived.

    >>> round(off_a_face_chance(20, 18, 0.4), 4)
    0.0247
    """
    room = (across_mm - finished_mm) / 2
    return 1 - max(0.0, _within(room, 0.0, sigma_mm)) ** 2


@dataclass(frozen=True, slots=True)
class Limit:
    """How far the hole may lie off at a depth before something is spoilt; `other_mm` in the other direction."""

    depth_mm: float
    room_mm: float
    other_mm: float | None = None

    @property
    def rooms_mm(self) -> tuple[float, float]:
        """The room in both directions."""
        return self.room_mm, self.room_mm if self.other_mm is None else self.other_mm


@lru_cache(maxsize=256)  # a tube that is dragged along the bar keeps its chances
def spoilt_chance(ends: tuple[Limit, Limit], bit_mm: float, wander: Wander, *, is_round: bool) -> float:
    """Chance that the hole lies too far off at one or both of two depths.

    Both offsets share the centring, the slope and the bend, so they go together. A square bar is spoilt where one of
    its four faces is reached, a round one at the same distance all round.

    Source: derived; the tests hold it to a direct Monte-Carlo within half a point.
    """
    near, far = sorted(ends, key=lambda end: end.depth_mm)
    if min(*near.rooms_mm, *far.rooms_mm) <= 0:
        return 1.0
    sigma = scatter_mm(near.depth_mm, bit_mm, wander)
    shared = covariance_mm2(near.depth_mm, far.depth_mm, bit_mm, wander)
    slope = shared / sigma**2 if sigma else 0.0
    rest = math.sqrt(max(0.0, scatter_mm(far.depth_mm, bit_mm, wander) ** 2 - slope * shared))
    if is_round:
        return 1 - _both_round(near.room_mm, far.room_mm, sigma, slope, rest)
    ways = zip(near.rooms_mm, far.rooms_mm, strict=True)
    return 1 - math.prod(_both_square(here, there, sigma, slope, rest) for here, there in ways)


def two_end_step_mm(length_mm: float, bit_mm: float, wander: Wander | None = None) -> float:
    """Deviation, in one direction, of the step where holes bored from both ends meet: √2 · σ(L/2). Derived.

    >>> round(two_end_step_mm(60, 7), 3)
    0.156
    """
    return math.sqrt(2) * scatter_mm(length_mm / 2, bit_mm, wander)


@dataclass(frozen=True, slots=True)
class Fit:
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


def _within(room_mm: float, mean_mm: float, sigma_mm: float) -> float:
    """Chance that one direction stays within ± room."""
    if sigma_mm <= 0:
        return float(abs(mean_mm) <= room_mm)
    scale = sigma_mm * math.sqrt(2)
    return (math.erf((room_mm - mean_mm) / scale) - math.erf((-room_mm - mean_mm) / scale)) / 2


def _both_square(near: float, far: float, sigma: float, slope: float, rest: float) -> float:
    """One direction stays within its room at both depths: the near one integrated by Gauss and Legendre."""
    if sigma <= 0:
        return _within(far, 0.0, rest)
    reach = min(near, 8 * sigma)
    found = 0.0
    for x, weight in _legendre():
        offset = x * reach
        density = math.exp(-((offset / sigma) ** 2) / 2) / (sigma * math.sqrt(2 * math.pi))
        found += weight * reach * density * _within(far, slope * offset, rest)
    return found


def _both_round(near: float, far: float, sigma: float, slope: float, rest: float) -> float:
    """The offset stays within its room all round at both depths."""
    if sigma <= 0:
        return 1 - beyond_chance(far, 0.0, rest)
    reach = min(near, 8 * sigma)
    found = 0.0
    for x, weight in _legendre():
        radius = (x + 1) / 2 * reach
        density = radius / sigma**2 * math.exp(-((radius / sigma) ** 2) / 2)
        found += weight * reach / 2 * density * (1 - beyond_chance(far, slope * radius, rest))
    return found


_legendre_kept: list[tuple[float, float]] = []


def _legendre() -> list[tuple[float, float]]:
    """Places and weights of Gauss and Legendre on −1 to 1, by Newton's method; made once."""
    if not _legendre_kept:
        for number in range(1, _NODES + 1):
            x = math.cos(math.pi * (number - 0.25) / (_NODES + 0.5))
            for _ in range(8):
                before, now = 1.0, x
                for order in range(2, _NODES + 1):
                    before, now = now, ((2 * order - 1) * x * now - (order - 1) * before) / order
                slope = _NODES * (x * now - before) / (x * x - 1)
                x -= now / slope
            _legendre_kept.append((x, 2 / ((1 - x * x) * slope * slope)))
    return _legendre_kept


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
