"""What one good pen costs when some are spoilt on the way, and the price that leaves a margin."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple


class StageCost(NamedTuple):
    """A stage of the work: what it costs a blank, and the share of blanks that it leaves whole."""

    cost: float
    passes: float


class Price(NamedTuple):
    """A price and what it leaves."""

    price: float
    profit: float


def cost_good(stages: Sequence[StageCost], once_for_the_job: float, good_pens: int) -> float:
    """Cost of one good pen: Σ cᵢ / Π(passes of this and all later stages) + what is spent once / N.

    Source: expected cost of a serial process with losses.

    >>> round(cost_good((StageCost(4.0, 0.8),), 8.0, 4), 2)
    7.0
    """
    return sum(started_for_good(stages)[n] * stage.cost for n, stage in enumerate(stages)) + once_for_the_job / max(
        1, good_pens
    )


def started_for_good(stages: Sequence[StageCost]) -> tuple[float, ...]:
    """How many blanks enter each stage for one that is good in the end: 1 / Π(passes of this and all later)."""
    found, whole = [], 1.0
    for stage in reversed(stages):
        whole *= stage.passes
        found.append(1 / whole)
    return tuple(reversed(found))


def price(cost: float, margin: float, fee: float = 0.0, fixed_fee: float = 0.0) -> Price | None:
    """The price that leaves a margin after fees: P = (C + x) / (1 − m − f); profit = P (1 − f) − x − C.

    None where margin and fee take all of it. Source: margin as part of the price.

    >>> tuple(round(value, 2) for value in price(27.5, 0.35))
    (42.31, 14.81)
    """
    left = 1 - margin - fee
    if left <= 1e-9:
        return None
    asked = (cost + fixed_fee) / left
    return Price(asked, asked * (1 - fee) - fixed_fee - cost)
