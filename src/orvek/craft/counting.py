"""How many to start so that enough come out good."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import count, islice, repeat


def bars_for(good: int, spoilt: float, chance: float) -> tuple[int, float]:
    """The smallest number to start so that `good` ones come of it with this chance; and the chance that it then has.

    P(binomial(n, 1 − s) ≥ N), added up over the failures before the N-th success (negative binomial distribution).

    Args:
        good: how many are wanted, 1 and more.
        spoilt: the share that spoils, 0 to below 1.
        chance: wanted chance, 0 to below 1.

    >>> bars_for(5, 0.15, 0.9)[0], round(bars_for(5, 0.15, 0.9)[1], 4)
    (7, 0.9262)
    """
    for failures, reached in enumerate(_reached(good, spoilt)):
        # Sums of thousands of small terms end a little below 1.
        if reached >= chance - 1e-9:
            return good + failures, reached
    raise AssertionError("the chances add up to 1")


def chance_of(started: int, good: int, spoilt: float) -> float:
    """The chance that so many started give at least `good` good ones."""
    return next(islice(_reached(good, spoilt), started - good, None)) if started >= good else 0.0


def _reached(good: int, spoilt: float) -> Iterator[float]:
    """The chance of `good` good ones with no piece more to start, one more, two more, …: without an end."""
    if spoilt <= 0:
        yield from repeat(1.0)
    term, reached = good * math.log1p(-spoilt), 0.0
    for failures in count():
        reached += math.exp(term)
        yield min(1.0, reached)
        term += math.log((good + failures) / (failures + 1)) + math.log(spoilt)
