"""What a record says of spoilage: its mean and range, and how many to start by it. Default rates by kind of work."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from functools import cache
from importlib import resources
from itertools import count, islice
from typing import NamedTuple

from msgspec import Struct

from orvek.craft.beta import quantile

PRIOR_WORTH = 4.0  # pieces that the default rate counts as (a choice)
_MOST = 20_000


class Rate(NamedTuple):
    """A share that spoils: the mean, and from where to where it lies nine times in ten."""

    mean: float
    low: float
    high: float


class WorkKind(Struct, frozen=True):
    """One kind of work: the share of it that usually spoils."""

    key: str
    rate: float


class StageKind(Struct, frozen=True):
    """One stage of the work: how much of all that spoils does so there, as a weight; which tasks it has."""

    key: str
    weight: float
    tasks: tuple[str, ...]


@cache
def _shipped() -> tuple[tuple[WorkKind, ...], tuple[StageKind, ...]]:
    content = json.loads(resources.files("orvek.data").joinpath("spoilage.json").read_text(encoding="utf-8"))
    kinds = tuple(WorkKind(one["key"], one["rate"]) for one in content["kinds"])
    stages = tuple(StageKind(one["key"], one["weight"], tuple(one["tasks"])) for one in content["stages"])
    return kinds, stages


def work_kinds() -> tuple[WorkKind, ...]:
    """All kinds of work (data/spoilage.json)."""
    return _shipped()[0]


def stage_kinds() -> tuple[StageKind, ...]:
    """All stages in the order of the work (data/spoilage.json)."""
    return _shipped()[1]


def usual_rate(work: str) -> float:
    """What usually spoils of a kind of work; a tenth of one that nobody knows (a guess)."""
    return next((kind.rate for kind in work_kinds() if kind.key == work), 0.10)


def spoil_rate(default_rate: float, spoilt: int, of: int) -> Rate:
    """Spoilage learned: Beta(4 r0 + k, 4 (1 − r0) + n − k), its mean and 5 to 95 %.

    Source: conjugate prior worth four pieces (a choice).

    >>> tuple(round(value, 4) for value in spoil_rate(0.15, 2, 10))
    (0.1857, 0.0496, 0.3739)
    """
    a, b = _beta(default_rate, spoilt, of)
    return Rate(a / (a + b), quantile(a, b, 0.05), quantile(a, b, 0.95))


def bars_for_learned(good: int, default_rate: float, spoilt: int, of: int, chance: float) -> tuple[int, float]:
    """The smallest number to start so that `good` ones come of it with this chance, by what the record says.

    Smallest n with P(BetaBinomial(n, 4 (1 − r0) + n0 − k, 4 r0 + k) ≥ N) ≥ p. Source: beta-binomial predictive.

    >>> bars_for_learned(5, 0.15, 2, 10, 0.9)[0]
    8
    """
    for started, reached in enumerate(_reached(good, default_rate, spoilt, of), good):
        if reached >= chance - 1e-9 or started == _MOST:
            return started, min(1.0, reached)
    raise AssertionError("the chances never end")


def chance_learned(started: int, good: int, default_rate: float, spoilt: int, of: int) -> float:
    """The chance that so many started give at least `good` good ones, by what the record says."""
    if started < good:
        return 0.0
    return min(1.0, next(islice(_reached(good, default_rate, spoilt, of), started - good, None)))


def _reached(good: int, default_rate: float, spoilt: int, of: int) -> Iterator[float]:
    """The chance of `good` good ones when so many are started, one more, two more and so on, without an end.

    It grows by the chance that just so many are spoilt before the last good one: the beta negative binomial
    distribution, each term by the ratio to the one before.
    """
    spoils, lasts = _beta(default_rate, spoilt, of)
    term, reached = _log_beta(spoils, lasts + good) - _log_beta(spoils, lasts), 0.0
    for bad in count():
        reached += math.exp(term)
        yield reached
        term += math.log((good + bad) / (bad + 1) * (spoils + bad) / (spoils + lasts + good + bad))


def _beta(default_rate: float, spoilt: int, of: int) -> tuple[float, float]:
    rate = min(0.999, max(0.001, default_rate))
    return PRIOR_WORTH * rate + spoilt, PRIOR_WORTH * (1 - rate) + of - spoilt


def _log_beta(a: float, b: float) -> float:
    return math.lgamma(a) + math.lgamma(b) - math.lgamma(a + b)
