"""How long a deed takes: a usual time, moved by the maker's own readings, with the span nine in ten fall into."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

SPREAD = 0.4  # of ln t from one time to the next (a choice)
USUAL_WORTH = 2.0  # readings that the usual time counts as (a choice)
_NINE_IN_TEN = 1.6448536269514722


class Lasting(NamedTuple):
    """Minutes: the middle, and from where to where nine in ten times fall."""

    median_min: float
    low_min: float
    high_min: float


def lasting(usual_min: float, readings_min: Sequence[float] = ()) -> Lasting:
    """Predictive median and 5 to 95 % of a duration: ln t normal of known spread, the usual time worth two readings.

    Source: normal model with known spread (a choice).

    >>> tuple(round(value, 2) for value in lasting(10, [14, 12, 15]))
    (12.03, 5.85, 24.73)
    """
    worth = USUAL_WORTH + len(readings_min)
    middle = (USUAL_WORTH * math.log(usual_min) + sum(math.log(reading) for reading in readings_min)) / worth
    spread = SPREAD * math.sqrt(1 + 1 / worth)
    return Lasting(*(math.exp(middle + z * spread) for z in (0.0, -_NINE_IN_TEN, _NINE_IN_TEN)))
