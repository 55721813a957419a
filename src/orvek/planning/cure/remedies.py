"""Ways out of a cure that is late or too hot, each tried out before it is offered."""

from __future__ import annotations

import math
from datetime import timedelta
from typing import Any

import numpy as np
from msgspec.structs import replace

from orvek.craft.air import USUAL_HUMIDITY_PCT, dew_point_c
from orvek.craft.calibrating import Fit
from orvek.documents import JOB, path_to
from orvek.planning.cure.casting import Casting
from orvek.planning.cure.question import HORIZON_H, READY_CURE, Progress, clock
from orvek.planning.cure.results import CureForecast, CureQuestion
from orvek.planning.cure.running import cast
from orvek.planning.findings import Edit, Remedy, changes
from orvek.quantities import Dimension, write, write_day

_NORMAL_95 = 1.645  # 95 % point of the normal distribution
_COOLS_H = 4.0  # from the end of warming until a bar is cool: ramp and bar, an estimate that is tried out
_PEAK_ERROR_K = 5.0  # how closely a peak is known at best: an estimate


def sooner(
    question: CureQuestion, fit: Fit, forecast: CureForecast, tell: Progress, demould: float
) -> tuple[Remedy, ...]:
    """What makes it ready in time, each tried out; and the day on which it is ready as it is."""
    there, ready = question.conditions, forecast.ready_min
    hours = there.drill_after_h
    stalls = forecast.cure_at_end is not None and forecast.cure_at_end.best < READY_CURE
    if ready is None or forecast.demould_min is None or (hours is None and not stalls):
        return ()
    wanted = HORIZON_H * 60 if hours is None else hours * 60
    if ready.high <= wanted and not stalls:
        return ()
    found: list[Remedy] = []
    perhaps: list[Remedy] = []
    for label, change in _warmer(question, forecast):
        trial = replace(question, **change)
        likely, slow = _tried(trial, fit, tell, demould, slow=True)
        if likely.ready_min > wanted or max(likely.peak_c, slow.peak_c) > question.hottest_c + _PEAK_ERROR_K:
            continue
        if slow.ready_min <= wanted:
            found.append(Remedy(label, _edits(question, trial)))
        else:
            perhaps.append(Remedy(f"{label}: may be enough", _edits(question, trial)))
        if len(found) == 2:
            break
    found = (found or perhaps)[:2]
    if hours is not None and there.poured_on is not None and ready.high < HORIZON_H * 60:
        later = math.ceil((there.poured_h * 60 + ready.high) / 60)
        day = there.poured_on + timedelta(days=later // 24)
        moved = there.with_(drill_on=day, drill_h=float(later % 24))
        words = f"Drill on {write_day(day)} at {later % 24:02d}:00"
        found.append(Remedy(words, changes(path_to(JOB.pour.conditions), there, moved)))
    return tuple(found)


def _warmer(question: CureQuestion, forecast: CureForecast) -> list[tuple[str, dict[str, Any]]]:
    """Ways to try, the gentlest first: warming what has gelled, a warmer shop, warming from the beginning."""
    there = question.conditions
    wanted = there.drill_after_h or HORIZON_H
    found: list[tuple[str, dict[str, Any]]] = []
    assert forecast.gelled_min is not None
    gelled = forecast.gelled_min.high / 60

    def warm(to_c: float, start_h: float, hours: float) -> None:
        if hours >= 1 and start_h + hours + 2 <= wanted:
            warmed = there.with_(warm_c=to_c, warm_after_min=60 * start_h, warm_min=60 * hours)
            words = f"Warm to {question.degrees(to_c)} for {hours:.0f} h, from {clock(there, start_h * 60)}"
            found.append((words, {"conditions": warmed}))

    if math.isfinite(gelled):
        for to_c, hours in ((40.0, 4.0), (50.0, 6.0), (60.0, 8.0)):
            warm(to_c, float(math.ceil(gelled + 1)), hours)
    for shop in (20.0, 22.0, 25.0, 28.0):
        if shop > question.shop_c + 1:
            changes: dict[str, Any] = {"shop_c": shop, "conditions": there.with_(night_c=None)}
            found.append((f"Keep the shop at {question.degrees(shop)}, nights too", changes))
    soon = forecast.gelled_min.best / 60 + 1
    for to_c in (40.0, 45.0, 50.0, 55.0, 60.0):
        if math.isfinite(soon):
            warm(to_c, float(math.ceil(soon)), float(math.floor(min(16.0, wanted - math.ceil(soon) - _COOLS_H))))
    for to_c in (28.0, 32.0, 36.0):
        warm(to_c, 1.0, float(math.floor(min(36.0, wanted - _COOLS_H))))
    return found


def cooler(
    question: CureQuestion, fit: Fit, forecast: CureForecast, tell: Progress, demould: float
) -> tuple[Remedy, ...]:
    """What keeps it under the limit: thinner layers, cooler parts; each tried out."""
    if forecast.peak_c is None or forecast.peak_c.high <= question.hottest_c:
        return ()
    there, found = question.conditions, []
    whole = question.depth_mm * there.layers
    trials: list[tuple[str, CureQuestion]] = []
    for layers in (2, 3, 4, 6):
        if question.may_layer and layers > there.layers and whole / layers >= 3:
            thin = replace(question, depth_mm=whole / layers, conditions=there.with_(layers=layers))
            trials.append((f"Pour {layers} layers of {write(whole / layers, Dimension.LENGTH, question.units)}", thin))
    parts = there.parts_c if there.parts_c is not None else question.shop_c
    damp = there.humidity_pct or USUAL_HUMIDITY_PCT
    cool = float(max(15, math.ceil(dew_point_c(question.shop_c, damp) + 2)))
    if parts > cool + 2:
        cooler = replace(question, conditions=there.with_(parts_c=cool))
        trials.append((f"Cool the parts to {question.degrees(cool)}", cooler))
    for label, trial in trials:
        if max(one.peak_c for one in _tried(trial, fit, tell, demould, slow=False)) <= question.hottest_c:
            found.append(Remedy(label, _edits(question, trial)))
        if len(found) == 2:
            break
    return tuple(found)


def _tried(question: CureQuestion, fit: Fit, tell: Progress, demould: float, *, slow: bool) -> list[Casting]:
    """The casting as it most likely cures, and with a rate as slow (or as fast) as it is one time in twenty."""
    off = _NORMAL_95 * float(fit.sd[0])
    return [
        cast(question, fit, tell, step=step, demould=demould)
        for step in (None, np.array([-off if slow else off, 0.0, 0.0, 0.0]))
    ]


def _edits(question: CureQuestion, trial: CureQuestion) -> tuple[Edit, ...]:
    edits = changes(path_to(JOB.pour.conditions), question.conditions, trial.conditions)
    if trial.shop_c != question.shop_c:
        return (*edits, Edit(path_to(JOB.batch.shop_temperature_c), trial.shop_c))
    return edits
