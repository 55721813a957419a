"""The cure forecast: slow, so it is made in the background. `cure_forecast(question, progress)` gives the answer.

The best course is computed closely; then a few draws of what the calibration leaves open are computed roughly, and
every figure comes with its range over them, from 5 to 95 %.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from orvek.craft.air import dew_point_c
from orvek.craft.calibrating import PRIOR_SD, Fit, Observation, cup_gel_s, from_label, refit
from orvek.craft.curing import Kinetics
from orvek.craft.heating import BRASS, HDPE, PP, SILICONE, WOOD, Run, bar_section, cure
from orvek.documents import Conditions, Cure
from orvek.errors import OrvekError
from orvek.planning.cure.question import (
    HORIZON_H,
    READY_ABOVE_K,
    READY_CURE,
    Band,
    CureForecast,
    CureQuestion,
    Curve,
    Frames,
    Progress,
    clock,
)
from orvek.planning.findings import Edit, Remedy
from orvek.quantities import Dimension, write

Floats = NDArray[np.float64]
_WALLS = {"silicone": SILICONE, "HDPE": HDPE, "polypropylene": PP}
_CORES = {"wood": WOOD, "brass": BRASS}
_NORMAL_95 = 1.645  # 95 % point of the normal distribution
_FRAMES = 72  # moments of the section that can be looked at
_POINTS = 400  # of a curve on the screen
_ROUGHLY, _CLOSELY = 3e-4, 3e-5  # tolerances of the solver: for ranges and trials, and for the best course
_RAMP_H = 2.0  # how fast an oven or a shop warms: estimate
_DRAWS = 15  # each is a whole week of one bar
_FULL = 0.99  # of what it has after a week: then waiting changes nothing more
_PEAK_ERROR_K = 5.0  # how closely a peak is known at best: an estimate
_TACK_ENDS = 0.5  # of the way from gel to demould: an estimate of when a next layer no longer bonds by itself


def cure_forecast(
    question: CureQuestion,
    progress: Progress | None = None,
    early: Callable[[CureForecast], None] | None = None,
) -> CureForecast:
    """Compute the answer to a question.

    `progress` is told a part from 0 to 1 and may raise to end the work; `early` gets the courses before ways out have
    been tried.
    """
    tell = progress or (lambda _part: None)
    try:
        tell(0.02)
        fit = calibrated(question)
    except OrvekError as error:
        return CureForecast(question, problem=str(error))
    tell(0.1)
    best = _run(question, fit.kinetics, fit.film, tell, 0.1, 0.2, _CLOSELY)
    runs = []
    for n, step in enumerate(_draws(fit)):
        kinetics, film = fit.moved(step)
        low, high = (0.2 + 0.65 * (n + k) / _DRAWS for k in (0, 1))
        runs.append(_run(question, kinetics, film, tell, low, high))
    forecast = _answer(question, fit, best, runs)
    if early is not None:
        early(forecast)
    lives = _cup_lives(question, fit, tell)
    forecast = replace(forecast, cup_lives_min=lives)
    tell(0.9)
    return replace(
        forecast,
        remedies=_sooner(question, fit, forecast, tell),
        cooler=_cooler(question, fit, forecast, tell),
    )


def kinetics_of(family: Cure, density_g_ml: float) -> Kinetics:
    """A family's kinetics with the resin's own density."""
    names = Kinetics.__dataclass_fields__
    return Kinetics(**{name: getattr(family, name) for name in names if name != "density"}, density=density_g_ml)


def calibrated(question: CureQuestion) -> Fit:
    """The resin's kinetics by its label and the maker's log; kept, because they change seldom.

    Raises:
        OutOfBoundsError: no rate meets the label.
    """
    return _calibrated(question.calibration)


@lru_cache(maxsize=32)
def _calibrated(calibration: tuple[Any, ...]) -> Fit:
    family, density, (pot_life, mass, at, peak), log = calibration
    fit = from_label(kinetics_of(family, density), pot_life, mass, at, peak)
    seen = tuple(Observation(one.mass_g, one.temperature_c, one.gel_min, one.peak_c) for one in log)
    return refit(fit, seen)


def air_over_time(question: CureQuestion) -> tuple[Floats, Floats]:
    """Corners of the air's temperature: hours since pouring and °C, with ramps of two hours between levels."""
    there = question.conditions
    hours = np.unique(
        np.concatenate([[0.0, HORIZON_H], *(_switches(there, day) for day in range(8)), _warm_corners(there)])
    )
    hours = hours[(hours >= 0) & (hours <= HORIZON_H)]
    return hours, np.array([_level(question, hour) for hour in hours])


def _switches(there: Conditions, day: int) -> Floats:
    if there.night_c is None:
        return np.array([])
    at = [there.night_to_h, there.night_to_h + _RAMP_H, there.night_from_h, there.night_from_h + _RAMP_H]
    return np.array([24 * day + hour - there.poured_h for hour in at])


def _warm_corners(there: Conditions) -> Floats:
    if there.warm_c is None:
        return np.array([])
    start, end = there.warm_after_min / 60, (there.warm_after_min + there.warm_min) / 60
    return np.array([start, start + _RAMP_H, end, end + _RAMP_H])


def _level(question: CureQuestion, hour: float) -> float:
    """The air at an hour since pouring; exact at the corners, where ramps begin and end."""
    there = question.conditions
    level = question.shop_c
    if there.night_c is not None:
        of_day = (there.poured_h + hour) % 24
        ramps = (there.night_to_h, there.night_to_h + _RAMP_H, there.night_from_h, there.night_from_h + _RAMP_H)
        levels = (there.night_c, question.shop_c, question.shop_c, there.night_c)
        level = float(np.interp(of_day, ramps, levels))
    if there.warm_c is not None:
        start, end = there.warm_after_min / 60, (there.warm_after_min + there.warm_min) / 60
        part = float(np.interp(hour, (start, start + _RAMP_H, end, end + _RAMP_H), (0, 1, 1, 0)))
        level += part * (there.warm_c - level)
    return level


def _run(
    question: CureQuestion,
    kinetics: Kinetics,
    film: float,
    tell: Progress,
    low: float,
    high: float,
    tolerance: float = _ROUGHLY,
) -> Run:
    there, shop = question.conditions, question.shop_c
    core = (_CORES[question.core], question.core_share) if question.core_share > 0 else None
    section = bar_section(
        kinetics,
        question.width_mm,
        question.depth_mm,
        _WALLS[question.wall],
        question.wall_mm,
        question.floor_mm,
        core=core,
        has_neighbours=question.has_neighbours,
        film=film,
    )
    hours, levels = air_over_time(question)
    changes = bool(np.ptp(levels) > 0)
    # The work goes with the logarithm of the time.
    scale = math.log1p(HORIZON_H * 60)
    return cure(
        section,
        kinetics,
        (lambda t: float(np.interp(t / 3600, hours, levels))) if changes else (lambda _t: shop),
        (there.parts_c if there.parts_c is not None else shop, there.mould_c if there.mould_c is not None else shop),
        HORIZON_H * 3600,
        longest_step_s=3600.0 if changes else np.inf,
        tolerance=tolerance,
        progress=lambda t: tell(low + (high - low) * min(1.0, math.log1p(t / 60) / scale)),
    )


def _draws(fit: Fit) -> list[Floats]:
    """Evenly spread draws of what is not known, the same ones every time."""
    from scipy.stats import norm, qmc

    values, vectors = np.linalg.eigh(fit.covariance)
    even = qmc.Sobol(4, seed=7).random(_DRAWS + 1)[1:]
    return list(norm.ppf(np.clip(even, 0.01, 0.99)) @ (vectors * np.sqrt(np.maximum(values, 0))).T)


def _answer(question: CureQuestion, fit: Fit, best: Run, runs: list[Run]) -> CureForecast:
    there, kinetics = question.conditions, fit.kinetics
    wait = _waits_min(question, best, kinetics)
    gel = _band(lambda run: _minutes(run.reached_s(kinetics.gel, "first")), best, runs)
    ready = ready_cure(kinetics, question.shop_c)
    wanted = there.drill_after_h
    times = _times(best)
    return CureForecast(
        question,
        curve=_curve(question, times, best, runs),
        frames=_frames(best),
        gel_min=gel,
        gelled_min=_band(lambda run: _minutes(run.reached_s(kinetics.gel)), best, runs),
        tack_ends_min=_minutes(best.reached_s(kinetics.gel + _TACK_ENDS * (kinetics.demould - kinetics.gel))),
        full_min=_minutes(best.reached_s(_FULL * float(best.mean_cure[-1]))) + wait,
        peak_c=_band(lambda run: run.peak()[0], best, runs),
        peak_min=best.peak()[1] / 60,
        demould_min=_later(_band(lambda run: _minutes(run.reached_s(kinetics.demould, "most")), best, runs), wait),
        ready_min=_later(_band(lambda run: _minutes(run.reached_s(ready)), best, runs), wait),
        cure_when_drilled=(
            None if wanted is None else _band(lambda run: _cure_at(run, (wanted * 60 - wait) * 60), best, runs)
        ),
        cure_at_end=_band(lambda run: float(run.mean_cure[-1]), best, runs),
        rate_sd=(PRIOR_SD[0], float(fit.sd[0])),
        far=tuple(
            one for one in question.log if any((o.mass_g, o.gel_min) == (one.mass_g, one.gel_min) for o in fit.far)
        ),
    )


def ready_cure(kinetics: Kinetics, shop_c: float) -> float:
    """The degree of cure at which it drills cleanly: 0.90, and more where the glass transition asks for it."""
    cures = np.linspace(0, 1, 2001)
    glassy = cures[kinetics.glass_c(cures) >= shop_c + READY_ABOVE_K]
    return max(READY_CURE, float(glassy[0]) if glassy.size else 1.0)


def _minutes(seconds: float | None) -> float:
    return math.inf if seconds is None else seconds / 60


def _cure_at(run: Run, seconds: float) -> float:
    return float(np.interp(seconds, run.time_s, run.mean_cure)) if seconds > 0 else 0.0


def _waits_min(question: CureQuestion, best: Run, kinetics: Kinetics) -> float:
    """How long the layers before the last one take."""
    if question.conditions.layers == 1:
        return 0.0
    gel = _minutes(best.reached_s(kinetics.gel))
    ends = _minutes(best.reached_s(kinetics.gel + _TACK_ENDS * (kinetics.demould - kinetics.gel)))
    return (question.conditions.layers - 1) * (gel + min(ends, 2 * gel)) / 2


def _later(band: Band, by_min: float) -> Band:
    return Band(band.low + by_min, band.best + by_min, band.high + by_min)


def _band(of: Callable[[Run], float], best: Run, runs: list[Run]) -> Band:
    """A figure of the best course, and its range over the draws: from 5 to 95 %."""
    middle, found = of(best), sorted(of(run) for run in runs)
    return Band(min(middle, _quantile(found, 0.05)), middle, max(middle, _quantile(found, 0.95)))


def _quantile(ordered: list[float], part: float) -> float:
    """Linear between the draws; infinite as soon as an infinite one takes part."""
    place = part * (len(ordered) - 1)
    low, high = ordered[math.floor(place)], ordered[math.ceil(place)]
    return high if math.isinf(high) else low + (high - low) * (place - math.floor(place))


def _times(best: Run) -> Floats:
    """Where the courses are told: dense at first, up to the week."""
    return np.concatenate([[0.0], np.geomspace(60.0, best.time_s[-1], _POINTS)])


def _curve(question: CureQuestion, times: Floats, best: Run, runs: list[Run]) -> Curve:
    def course(run: Run, values: Floats) -> Floats:
        return np.interp(times, run.time_s, values)

    def spread(of: Callable[[Run], Floats]) -> tuple[Floats, Floats, Floats]:
        middle = course(best, of(best))
        every = np.array([course(run, of(run)) for run in runs])
        low, high = np.quantile(every, (0.05, 0.95), axis=0)
        return middle, np.minimum(middle, low), np.maximum(middle, high)

    hottest, hot_low, hot_high = spread(lambda run: run.resin_c().max(axis=1))
    mean, mean_low, mean_high = spread(lambda run: run.mean_cure)
    hours, levels = air_over_time(question)
    return Curve(
        times / 60,
        hottest,
        hot_low,
        hot_high,
        course(best, best.resin_c().min(axis=1)),
        np.interp(times / 3600, hours, levels),
        mean,
        mean_low,
        mean_high,
        course(best, best.cure.min(axis=1)),
    )


def _frames(best: Run) -> Frames:
    """Pictures of the whole section, mirrored, over the time in which something happens."""
    rows, columns = best.section.shape
    last = best.time_s[-1]
    ticks = np.concatenate([[0.0], np.geomspace(120, last, _FRAMES - 1)])
    resin = best.section.is_resin
    temperature, degree = [], []
    for t in ticks:
        place = min(int(np.searchsorted(best.time_s, t)), len(best.time_s) - 1)
        grid = best.temperature_c[place].reshape(rows, columns)
        cured = np.full(resin.size, np.nan)
        cured[resin] = best.cure[place]
        temperature.append(_mirrored(grid))
        degree.append(_mirrored(cured.reshape(rows, columns)))
    x = best.section.x_mm
    return Frames(ticks / 60, np.concatenate([-x[::-1], x]), best.section.y_mm, np.array(temperature), np.array(degree))


def _mirrored(half: Floats) -> Floats:
    return np.concatenate([half[:, ::-1], half], axis=1)


def _cup_lives(question: CureQuestion, fit: Fit, tell: Progress) -> tuple[Band, ...]:
    """How long each cup stays liquid, from its own hardener: until its hottest point gels."""
    there, shop = question.conditions, question.shop_c
    warm = there.parts_c if there.parts_c is not None else shop
    # A cup takes the shop's temperature slowly; the mean of both is near enough for the time it stands.
    at, spread = (warm + shop) / 2, float(fit.sd[0]) * _NORMAL_95
    found: dict[float, Band] = {}
    for mass in question.cups_g:
        if mass not in found:
            tell(0.87)
            best, fast = (
                cup_gel_s(kinetics, max(1.0, mass), at, fit.film) / 60
                for kinetics in (fit.kinetics, fit.kinetics.faster(math.exp(spread)))
            )
            found[mass] = Band(fast, best, best * best / fast)
    return tuple(found[mass] for mass in question.cups_g)


# -- ways out --------------------------------------------------------------------------------------------------


def _sooner(question: CureQuestion, fit: Fit, forecast: CureForecast, tell: Progress) -> tuple[Remedy, ...]:
    """What makes it ready in time, each tried out; and the day on which it is ready as it is."""
    there, ready = question.conditions, forecast.ready_min
    hours = there.drill_after_h
    stalls = forecast.cure_at_end is not None and forecast.cure_at_end.best < READY_CURE
    if ready is None or forecast.demould_min is None or (hours is None and not stalls):
        return ()
    wanted = HORIZON_H * 60 if hours is None else hours * 60
    if ready.high <= wanted and not stalls:
        return ()
    found = []
    for label, change in _warmer(question, forecast):
        tell(0.93)
        trial = replace(question, **change)
        run = _run(trial, fit.kinetics, fit.film, tell, 0.93, 0.94)
        slow = _run(trial, fit.kinetics.faster(math.exp(-_NORMAL_95 * fit.sd[0])), fit.film, tell, 0.94, 0.95)
        wait = _waits_min(trial, run, fit.kinetics)
        level = ready_cure(fit.kinetics, trial.shop_c)
        in_time = max(_minutes(one.reached_s(level)) for one in (run, slow)) + wait <= wanted
        if in_time and max(run.peak()[0], slow.peak()[0]) <= question.hottest_c + _PEAK_ERROR_K:
            found.append(Remedy(label, _edits(question, trial)))
        if len(found) == 2:
            break
    if hours is not None and ready.high < HORIZON_H * 60:
        later = math.ceil((there.poured_h * 60 + ready.high) / 60)
        day = clock(there.with_(poured_h=0.0), later * 60.0).split()[0]
        moved = there.with_(drill_day=day, drill_h=float(later % 24))
        words = f"Drill on {day} at {later % 24:02d}:00"
        found.append(Remedy(words, (Edit(("pour", "conditions"), moved),)))
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
    for to_c in (40.0, 45.0, 50.0):
        if math.isfinite(soon):
            warm(to_c, float(math.ceil(soon)), float(math.floor(min(16.0, wanted - math.ceil(soon) - 2))))
    for to_c in (28.0, 32.0, 36.0):
        warm(to_c, 1.0, float(math.floor(min(36.0, wanted - 4))))
    return found


def _cooler(question: CureQuestion, fit: Fit, forecast: CureForecast, tell: Progress) -> tuple[Remedy, ...]:
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
    cool = float(max(15, math.ceil(dew_point_c(question.shop_c) + 2)))
    if parts > cool + 2:
        cooler = replace(question, conditions=there.with_(parts_c=cool))
        trials.append((f"Cool the parts to {question.degrees(cool)}", cooler))
    for label, trial in trials:
        tell(0.97)
        fast = fit.kinetics.faster(math.exp(_NORMAL_95 * fit.sd[0]))
        if _run(trial, fast, fit.film, tell, 0.97, 0.98).peak()[0] <= question.hottest_c:
            found.append(Remedy(label, _edits(question, trial)))
        if len(found) == 2:
            break
    return tuple(found)


def _edits(question: CureQuestion, trial: CureQuestion) -> tuple[Edit, ...]:
    edits = []
    if trial.conditions != question.conditions:
        edits.append(Edit(("pour", "conditions"), trial.conditions))
    if trial.shop_c != question.shop_c:
        edits.append(Edit(("batch", "shop_temperature_c"), trial.shop_c))
    return tuple(edits)
