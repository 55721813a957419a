"""How likely a hole lies too far off its axis: at one depth, or at both ends of a barrel at once.

The hole may be aimed beside the bar's axis (`Limit.aimed_mm`), as when it follows a pattern that lies off centre.
"""

from __future__ import annotations

import math
from functools import lru_cache

from orvek.craft.off_axis_limits import FAR, Limit, Pair, legendre
from orvek.craft.wander import Wander, covariance_mm2, scatter_mm


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


@lru_cache(maxsize=256)  # a tube that is dragged along the bar keeps its chances
def spoilt_chance(ends: tuple[Limit, Limit], bit_mm: float, wander: Wander, *, is_round: bool) -> float:
    """Chance that the hole lies too far off at one or both of two depths.

    Both offsets share the centring, the slope and the bend, so they go together. A square bar is spoilt where one of
    its four faces is reached, a round one at the same distance all round.

    Source: derived; the tests hold it to a direct Monte-Carlo within half a point.

    >>> ends = Limit(0, (20 - 18) / 2), Limit(0, (20 - 18) / 2)
    >>> round(spoilt_chance(ends, 7, Wander(centring_mm=0.4), is_round=False), 4)
    0.0247
    """
    near, far = sorted(ends, key=lambda end: end.depth_mm)
    if min(*near.rooms_mm, *far.rooms_mm) <= 0:
        return 1.0
    sigma = scatter_mm(near.depth_mm, bit_mm, wander)
    shared = covariance_mm2(near.depth_mm, far.depth_mm, bit_mm, wander)
    slope = shared / sigma**2 if sigma else 0.0
    rest = math.sqrt(max(0.0, scatter_mm(far.depth_mm, bit_mm, wander) ** 2 - slope * shared))
    pair = Pair(sigma, slope, rest)
    if not is_round:
        ways = zip(near.rooms_mm, far.rooms_mm, near.aimed_mm, far.aimed_mm, strict=True)
        return 1 - math.prod(_both_square(here, there, one, other, pair) for here, there, one, other in ways)
    if any((*near.aimed_mm, *far.aimed_mm)):
        from orvek.craft.off_axis_aimed import both_round_aimed  # it needs NumPy, which no plain job does

        return 1 - both_round_aimed(near, far, pair)
    return 1 - _both_round(near.room_mm, far.room_mm, pair)


def _within(room_mm: float, mean_mm: float, sigma_mm: float) -> float:
    """Chance that one direction stays within ± room."""
    if sigma_mm <= 0:
        return float(abs(mean_mm) <= room_mm)
    scale = sigma_mm * math.sqrt(2)
    return (math.erf((room_mm - mean_mm) / scale) - math.erf((-room_mm - mean_mm) / scale)) / 2


def _both_square(near: float, far: float, aimed: float, aimed_far: float, pair: Pair) -> float:
    """One direction stays within its room at both depths: the near one integrated by Gauss and Legendre."""
    if pair.sigma <= 0:
        return float(abs(aimed) <= near) * _within(far, aimed_far, pair.rest)
    low, high = max(-near, aimed - FAR * pair.sigma), min(near, aimed + FAR * pair.sigma)
    if high <= low:
        return 0.0
    found = 0.0
    for x, weight in legendre():
        error = (low + high) / 2 + x * (high - low) / 2 - aimed
        density = math.exp(-((error / pair.sigma) ** 2) / 2) / (pair.sigma * math.sqrt(2 * math.pi))
        found += weight * (high - low) / 2 * density * _within(far, aimed_far + pair.slope * error, pair.rest)
    return found


def _both_round(near: float, far: float, pair: Pair) -> float:
    """The offset stays within its room all round at both depths, aimed at the middle."""
    sigma = pair.sigma
    if sigma <= 0:
        return 1 - beyond_chance(far, 0.0, pair.rest)
    reach = min(near, FAR * sigma)
    found = 0.0
    for x, weight in legendre():
        radius = (x + 1) / 2 * reach
        density = radius / sigma**2 * math.exp(-((radius / sigma) ** 2) / 2)
        found += weight * reach / 2 * density * (1 - beyond_chance(far, pair.slope * radius, pair.rest))
    return found
