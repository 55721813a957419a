"""A cure's forecast as if poured at another time of day, without making it anew: `moved(forecast, hour)`."""

from __future__ import annotations

from functools import lru_cache

from msgspec.structs import replace

from orvek.planning.cure.results import Band, CureForecast, CureQuestion

_MOST = 3.0  # a factor beyond that is no longer the same cure


def moved(forecast: CureForecast, hour: float) -> CureForecast:
    """The forecast, longer or shorter in the ratio of two rough ones; as it is where a rough one finds no end."""
    band = forecast.demould_min
    if band is None:
        return forecast
    there, here = (_hardens_min(forecast.question, at) for at in (forecast.question.conditions.poured_h, hour))
    if there is None or here is None or there <= 0:
        return forecast
    factor = min(_MOST, max(1 / _MOST, here / there))
    ready = forecast.ready_min
    later = None if ready is None else _times(ready, factor)
    return replace(forecast, demould_min=_times(band, factor), ready_min=later)


def _times(band: Band, factor: float) -> Band:
    return Band(band.low * factor, band.best * factor, band.high * factor)


@lru_cache(maxsize=64)
def _hardens_min(question: CureQuestion, hour: float) -> float | None:
    from orvek.planning.cure.forecast import hardens_min  # slow to import

    return hardens_min(replace(question, conditions=question.conditions.with_(poured_h=hour)))
