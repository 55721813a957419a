"""How long a casting hardens depends on when it is poured, and when it is poured on the timetable: asked in turns.

`moved(forecast, hour)` is a cure's forecast as if poured at another time of day: the forecast itself, longer or shorter
in the ratio of two rough ones (the shop's night is colder than its day).
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from orvek.documents import Conditions
from orvek.planning.cure.question import Band, CureForecast, CureQuestion

ROUNDS = 3  # then it is said that it does not settle
NEAR_H = 1.5  # a pour moved by less makes no difference to a cure (a choice)
_MOST = 3.0  # a factor beyond that is no longer the same cure


def apart_h(one_h: float, other_h: float) -> float:
    """How far two times of day are from one another.

    >>> apart_h(23.0, 1.5)
    2.5
    """
    apart = abs(one_h - other_h) % 24
    return min(apart, 24 - apart)


def depends_on_hour(conditions: Conditions) -> bool:
    """Whether it matters at what time of day is poured: only where the night is colder than the day."""
    return conditions.night_c is not None


def moved(forecast: CureForecast, hour: float) -> CureForecast:
    """A forecast as if poured at `hour`; as it is where a rough one finds no end."""
    band = forecast.demould_min
    if band is None:
        return forecast
    there, here = (_hardens_min(forecast.question, at) for at in (forecast.question.conditions.poured_h, hour))
    if there is None or here is None or there <= 0:
        return forecast
    factor = min(_MOST, max(1 / _MOST, here / there))
    return replace(forecast, demould_min=Band(band.low * factor, band.best * factor, band.high * factor))


@lru_cache(maxsize=64)
def _hardens_min(question: CureQuestion, hour: float) -> float | None:
    from orvek.planning.cure.forecast import hardens_min  # slow to import

    return hardens_min(replace(question, conditions=question.conditions.with_(poured_h=hour)))
