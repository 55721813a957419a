"""The cure forecast: slow, so it is made in the background. `cure_forecast(question, progress)` gives the answer.

The best course is computed closely; then what the calibration leaves open is moved, axis by axis, to where it lies one
time in twenty, and every figure comes with its range from 5 to 95 %.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache, partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from orvek.craft.calibrating import PRIOR_SD, Fit, Observation, cup_gel_s, from_label, refit
from orvek.craft.curing import Kinetics
from orvek.craft.heating import HDPE, Run, bar_mesh, cure
from orvek.documents import Cure
from orvek.errors import OrvekError
from orvek.planning.cure.casting import TACK_ENDS, Casting, minutes
from orvek.planning.cure.question import ROUGH, Progress, cure_question
from orvek.planning.cure.remedies import cooler, sooner
from orvek.planning.cure.results import Band, CureForecast, CureQuestion, Curve, Effort, Frames
from orvek.planning.cure.running import CLOSELY, ROUGHLY, air_over_time, cast
from orvek.planning.results import Plan

Floats = NDArray[np.float64]
_NORMAL_95 = 1.645  # 95 % point of the normal distribution
_WALL_CELLS = 4  # of the wall on each side that a picture of the section shows
_FRAMES = 72  # moments of the section that can be looked at
_POINTS = 400  # of a curve on the screen
_AXES = 4  # rate, heat, energy and film, in the directions in which they are known apart
_MOST_DEMOULD = 0.97  # a label that opens the mould later than that speaks of something else
# All axes at once, half as far each, which is as likely together: one half of the corners of a cube in four dimensions.
_CORNERS = tuple((a, b, c, a * b * c) for a in (-1, 1) for b in (-1, 1) for c in (-1, 1))
Pair = tuple[Casting, Casting]  # one axis, moved up and down
_QUICK = Effort((4, 2), (4, 2), 1)  # within about 1 % of a full one in its times, and in a fifth of its time
_FULL = 0.99  # of what it has after a week: then waiting changes nothing more


def cure_forecast(
    question: CureQuestion,
    progress: Progress | None = None,
    early: Callable[[CureForecast], None] | None = None,
) -> CureForecast:
    """Compute the answer to a question.

    `progress` is told a part from 0 to 1 and may raise to end the work; `early` gets the courses before ways out have
    been tried.
    """
    done = [0.0]

    def tell(part: float) -> None:
        """How far it is; a part below what has been told says only that it goes on."""
        done[0] = max(done[0], part)
        if progress is not None:
            progress(done[0])

    try:
        tell(0.02)
        fit = calibrated(question)
    except OrvekError as error:
        return CureForecast(question, problem=str(error))
    tell(0.1)
    demould = _demould(question, fit)
    best = cast(question, fit, tell, demould=demould, tolerance=CLOSELY)
    tell(0.2)
    pairs: list[Pair] = []
    for n, step in enumerate(_steps(fit)):
        one, other = (cast(question, fit, tell, step=way * step, demould=demould) for way in (1, -1))
        tell(0.2 + 0.3 * (n + 1) / _AXES)
        pairs.append((one, other))
    corners = []
    for n, signs in enumerate(_CORNERS[: question.effort.corners]):
        corners.append(cast(question, fit, tell, step=np.array(signs) / 2 @ np.array(_steps(fit)), demould=demould))
        tell(0.5 + 0.35 * (n + 1) / len(_CORNERS))
    forecast = _answer(question, fit, best, pairs, corners)
    if early is not None:
        early(forecast)
    lives = _cup_lives(question, fit, tell)
    forecast = replace(forecast, cup_lives_min=lives)
    tell(0.9)
    return replace(
        forecast,
        remedies=sooner(question, fit, forecast, tell, demould),
        cooler=cooler(question, fit, forecast, tell, demould),
    )


def hardens_min(question: CureQuestion) -> float | None:
    """When the mould can be opened, in minutes, roughly and without its range: one casting; None where it never can.

    For comparing one condition with another, which `cure_forecast` would take ten times as long for.
    """
    try:
        fit = calibrated(question)
    except OrvekError:
        return None
    found = cast(replace(question, effort=ROUGH), fit, lambda _: None, demould=_demould(question, fit)).out_min
    return found if math.isfinite(found) else None


def kinetics_of(family: Cure, density_g_ml: float) -> Kinetics:
    """A family's kinetics with the resin's own density."""
    names = Kinetics.__struct_fields__
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


def _demould(question: CureQuestion, fit: Fit) -> float:
    """The degree of cure at which it leaves the mould: the family's, or what the label's own time comes to."""
    if question.label_out is None:
        return fit.kinetics.demould
    return max(fit.kinetics.demould, _cured_by_label(question.calibration, question.label_out))


@lru_cache(maxsize=32)
def _cured_by_label(calibration: tuple[Any, ...], label_out: tuple[float, float, float]) -> float:
    """How far a sheet of the label's thickness is cured when the label opens the mould."""
    after_min, thick_mm, at_c = label_out
    kinetics = _calibrated(calibration).kinetics
    section = bar_mesh(kinetics, 8 * thick_mm, thick_mm, HDPE, cells=(10, 8))
    run = cure(section, kinetics, lambda _t: at_c, (at_c, at_c), after_min * 60, tolerance=ROUGHLY)
    return min(_MOST_DEMOULD, float(run.mean_cure[-1]))


def _steps(fit: Fit) -> list[Floats]:
    """What is not known, axis by axis of its covariance: how far each lies off one time in twenty."""
    values, vectors = np.linalg.eigh(fit.covariance)
    return list((vectors * np.sqrt(np.maximum(values, 0)) * _NORMAL_95).T)


def _answer(question: CureQuestion, fit: Fit, best: Casting, pairs: list[Pair], corners: list[Casting]) -> CureForecast:
    there = question.conditions
    wanted = there.drill_after_h
    band = partial(_band, best=best, pairs=pairs, corners=corners)
    start = there.parts_c if there.parts_c is not None else question.shop_c
    most_c = start + fit.kinetics.adiabatic_rise_k() * math.exp(_NORMAL_95 * float(fit.sd[1]))
    peak = band(lambda one: one.peak_c)
    tack = fit.kinetics.gel + TACK_ENDS * (fit.kinetics.demould - fit.kinetics.gel)
    slow = best.slowest
    times = _in_order(
        band(lambda one: one.gel_min, is_time=True),
        band(lambda one: one.pressure_off_min, is_time=True),
        band(lambda one: one.out_min, is_time=True),
        band(lambda one: one.ready_min, is_time=True),
    )
    return CureForecast(
        question,
        curve=_curve(question, best, pairs),
        frames=_frames(best.hottest),
        gel_min=times[0],
        gelled_min=band(lambda one: one.gelled_min, is_time=True),
        pressure_off_min=times[1],
        tack_ends_min=minutes(slow.reached_s(tack)),
        full_min=minutes(slow.reached_s(_FULL * float(slow.mean_cure[-1]))) + best.wait_min,
        peak_c=Band(peak.low, peak.best, max(peak.best, min(peak.high, most_c))),
        peak_min=best.hottest.peak()[1] / 60,
        demould_min=times[2],
        ready_min=times[3],
        cure_when_drilled=None if wanted is None else _share(band(lambda one: one.cure_at(wanted * 60))),
        cure_at_end=_share(band(lambda one: one.cure_at_end)),
        rate_sd=(PRIOR_SD[0], float(fit.sd[0])),
        far=tuple(
            one for one in question.log if any((o.mass_g, o.gel_min) == (one.mass_g, one.gel_min) for o in fit.far)
        ),
    )


def _in_order(*bands: Band) -> list[Band]:
    """Ranges of times of which none comes before the one before it."""
    found: list[Band] = []
    for band in bands:
        last = found[-1] if found else band
        found.append(Band(max(last.low, band.low), max(last.best, band.best), max(last.high, band.high)))
    return found


def _share(band: Band) -> Band:
    return Band(max(0.0, band.low), band.best, min(1.0, band.high))


def _band(
    of: Callable[[Casting], float], best: Casting, pairs: list[Pair], corners: list[Casting], *, is_time: bool = False
) -> Band:
    """A figure of the best course with its range from 5 to 95 %: what each axis does to it, added as squares.

    Times are added in their logarithms: a rate twice as high is half the time. What all axes together bring about is
    in the range too: where one thing waits for another (cure, then cooling), no axis alone shows the end.
    """
    added = _added_up(of, best, pairs, is_time=is_time)
    ends = [of(one) for one in corners]
    return Band(min(added.low, *ends), added.best, max(added.high, *ends))


def _added_up(of: Callable[[Casting], float], best: Casting, pairs: list[Pair], *, is_time: bool) -> Band:
    middle = of(best)
    found = [(of(one), of(other)) for one, other in pairs]
    if not is_time:
        low, high = _spread(middle, found)
        return Band(float(low), middle, float(high))
    finite = [value for pair in found for value in pair if math.isfinite(value)]
    if math.isinf(middle):
        return Band(min(finite, default=math.inf), middle, math.inf)
    logs = [(math.log(max(one, 1e-6)), math.log(max(other, 1e-6))) for one, other in found]
    low, high = _spread(math.log(max(middle, 1e-6)), logs)
    return Band(math.exp(low), middle, math.exp(high))


def _spread(middle: Any, found: Sequence[tuple[Any, Any]]) -> tuple[Any, Any]:
    """How far below and above the middle it comes; for numbers or whole courses."""
    below = sum(np.square(np.maximum(0.0, middle - np.minimum(one, other))) for one, other in found)
    above = sum(np.square(np.maximum(0.0, np.maximum(one, other) - middle)) for one, other in found)
    return middle - np.sqrt(below), middle + np.sqrt(above)


def _times(best: Run) -> Floats:
    """Where the courses are told: dense at first, up to the week."""
    return np.concatenate([[0.0], np.geomspace(60.0, best.time_s[-1], _POINTS)])


def _curve(question: CureQuestion, best: Casting, pairs: list[Pair]) -> Curve:
    hot, slow = best.hottest, best.slowest
    times = _times(hot)

    def course(run: Run, values: Floats) -> Floats:
        return np.interp(times, run.time_s, values)

    def hottest(one: Casting) -> Floats:
        return np.asarray(np.max([course(run, run.resin_c().max(axis=1)) for run in one.bars], axis=0))

    def mean(one: Casting) -> Floats:
        return np.asarray(np.min([course(run, run.mean_cure) for run in one.bars], axis=0))

    def spread(of: Callable[[Casting], Floats]) -> tuple[Floats, Floats, Floats]:
        middle = of(best)
        return (middle, *_spread(middle, [(of(one), of(other)) for one, other in pairs]))

    heat, heat_low, heat_high = spread(hottest)
    cured, cured_low, cured_high = spread(mean)
    hours, levels = air_over_time(question)
    coldest = course(slow, slow.resin_c().min(axis=1))
    return Curve(
        times / 60,
        heat,
        np.maximum(heat_low, np.minimum(heat, coldest)),
        heat_high,
        coldest,
        np.interp(times / 3600, hours, levels),
        cured,
        np.maximum(cured_low, 0),
        np.minimum(cured_high, 1),
        course(slow, slow.cure.min(axis=1)),
    )


def _frames(bar: Run) -> Frames:
    """Pictures of one bar's section with its walls, over the time in which something happens."""
    rows, columns = bar.section.shape
    own, resin = bar.section.bars[0], bar.section.is_resin
    seen = slice(max(0, own.start - _WALL_CELLS), min(columns, own.stop + _WALL_CELLS))
    ticks = np.concatenate([[0.0], np.geomspace(120, bar.time_s[-1], _FRAMES - 1)])
    temperature, degree = [], []
    for t in ticks:
        place = min(int(np.searchsorted(bar.time_s, t)), len(bar.time_s) - 1)
        cured = np.full(resin.size, np.nan)
        cured[resin] = bar.cure[place]
        temperature.append(bar.temperature_c[place].reshape(rows, columns)[:, seen])
        degree.append(cured.reshape(rows, columns)[:, seen])
    x, heat, cured_as = bar.section.x_mm[seen], np.array(temperature), np.array(degree)
    if own.start == 0:  # half a bar: the other half is alike
        x = np.concatenate([-x[::-1], x])
        heat, cured_as = (np.concatenate([half[:, :, ::-1], half], axis=2) for half in (heat, cured_as))
    return Frames(ticks / 60, x, bar.section.y_mm, heat, cured_as)


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


def cured(plan: Plan) -> CureForecast | None:
    """A quick forecast of a job that is not in hand, within about 1 % in its times; None where nothing is cast."""
    question = cure_question(plan)
    return None if question is None else _cured(replace(question, effort=_QUICK))


@lru_cache(maxsize=64)
def _cured(question: CureQuestion) -> CureForecast:
    return cure_forecast(question)
