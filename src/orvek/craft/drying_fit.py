"""The end mass and the time of drying from a log of weights, with their ranges.

Three courses are weighed against each other: the late exponential, diffusion out of a slab and out of a square bar,
each over a wide range of time constants. For each of them end mass and loss follow by least squares; together they give
the range that holds the end mass nine times in ten. Whatever the log cannot tell apart makes the range wide, and a
range that is too wide is called too early.

Source: textbook diffusion; Bayes with flat priors on the masses, a broad one on the time constant.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.craft.drying import DRY_PART, Band, DryingFit, rises_g

Floats = NDArray[np.float64]

_TAILS = 49
_WIDE_LN = 1.1  # standard deviation of ln(time constant) about what the section suggests: a factor of three
_READING_STEPS = 0.6  # of the scale: rounding, hand and pan; this and the next two are chosen so that ranges hold
_STANDING_STEPS = 0.1  # a scale that reads the same twice is off by the same twice (tests/craft/test_drying.py)
_DRY_TIMES = 1.35  # the time when it is dry hangs on the course more than the end mass does
_LEAST_STEPS = 4.0  # less loss than that, in steps of the scale, says nothing (an estimate)
_LEAST_WEIGHTS = 4
_QUANTILES = np.linspace(-3.2, 3.2, 33)
_CURVE = 48
_FAINT = 9.0  # in ln(weight): courses fainter than that are not drawn
_VAGUE_PART = 0.02  # of the mass: a range as wide as that says nothing of what is left to go (an estimate)


@lru_cache(maxsize=32)
def fitted_drying(
    hours: tuple[float, ...], masses_g: tuple[float, ...], step_g: float, usual_tail_h: float
) -> DryingFit:
    """Fit a log of weights, the first at 0 h, ever later ones after it.

    Args:
        hours: after the first weighing.
        masses_g: as many.
        step_g: of the scale.
        usual_tail_h: time constant that section and oven suggest; a factor of three either way is no surprise.
    """
    t, m = np.asarray(hours), np.asarray(masses_g)
    refused = _refused(m, step_g)
    if refused:
        return _nothing(refused)
    wide = np.linspace(-3, 3, _TAILS)
    coarse = [_fits(course, wide, t, m, step_g, usual_tail_h) for course in range(3)]
    top = max(float(one.ln_weight.max()) for one in coarse)
    if not math.isfinite(top):
        return _nothing("the weights do not fall ever more slowly")
    fine = [_fits(one.course, _near(one, wide, top), t, m, step_g, usual_tail_h) for one in coarse]
    return _told(fine, t, m, step_g)


def _near(coarse: _Fits, wide: Floats, top: float) -> Floats:
    """A closer grid of ln(time constant) where the coarse one found any weight: a long log knows it to a percent."""
    step = wide[1] - wide[0]
    worth = wide[coarse.ln_weight > min(top, float(coarse.ln_weight.max())) - _FAINT]
    if not len(worth):
        return wide
    return np.linspace(worth.min() - step, worth.max() + step, _TAILS)


def _refused(m: Floats, step_g: float) -> str:
    if len(m) < _LEAST_WEIGHTS:
        return f"{len(m)} of the {_LEAST_WEIGHTS} weights that a forecast needs"
    loss = float(m[0] - m[-1])
    if loss < _LEAST_STEPS * step_g:
        return "it has lost hardly more than the scale can show"
    if float(np.diff(m).max()) > rises_g(loss, step_g):
        return "a weight rises"
    return ""


def _nothing(why: str) -> DryingFit:
    none = Band(math.nan, math.nan, math.nan)
    return DryingFit(why, none, none, math.nan, math.nan)


# Of each course: how much of the loss is still to come at t / τ, and the factor of its late exponential.
_SLAB = 8 / math.pi**2
_ODD = np.arange(1, 24, 2) ** 2
_FACTOR = (1.0, _SLAB, _SLAB**2)


def _left(course: int, x: Floats) -> Floats:
    """Part of the loss still to come, at times in units of the time constant."""
    if course == 0:
        return np.exp(-x)
    odd = _ODD.reshape(-1, *([1] * x.ndim))
    if course == 1:
        return np.asarray((_SLAB / odd * np.exp(-odd * x)).sum(axis=0))
    half = np.asarray((_SLAB / odd * np.exp(-odd * x / 2)).sum(axis=0))
    return np.asarray(half * half)


class _Fits(Struct, frozen=True):
    """The least squares of one course at every time constant, and the weight that the log gives each."""

    course: int
    tail: Floats
    ln_weight: Floats
    end: Floats
    loss: Floats
    end_variance: Floats
    shared: Floats  # covariance of end and loss


def _fits(course: int, ln_tails: Floats, t: Floats, m: Floats, step_g: float, usual_tail_h: float) -> _Fits:
    tails = usual_tail_h * np.exp(ln_tails)
    noise2 = (_READING_STEPS * step_g) ** 2
    left = _left(course, t[None, :] / tails[:, None])
    n, sums, squares = len(t), left.sum(axis=1), (left**2).sum(axis=1)
    determinant = np.maximum(n * squares - sums**2, 1e-12)
    across = left @ m
    loss = (n * across - sums * m.sum()) / determinant
    end = (squares * m.sum() - sums * across) / determinant
    rest = ((m[None, :] - end[:, None] - loss[:, None] * left) ** 2).sum(axis=1)
    prior = -((ln_tails / _WIDE_LN) ** 2) / 2 + math.log(ln_tails[1] - ln_tails[0])
    weight = -rest / (2 * noise2) - 0.5 * np.log(determinant) + prior
    weight = np.where((loss > 0) & (end > 0) & (determinant > 1e-9), weight, -np.inf)
    return _Fits(course, tails, weight, end, loss, noise2 * squares / determinant, -noise2 * sums / determinant)


def _told(fits: list[_Fits], t: Floats, m: Floats, step_g: float) -> DryingFit:
    top = max(float(one.ln_weight.max()) for one in fits)
    rounding2 = (_STANDING_STEPS * step_g) ** 2
    bell = np.exp(-(_QUANTILES**2) / 2)
    ends, dries, chances = [], [], []
    for one in fits:
        end = one.end[:, None] + _QUANTILES * np.sqrt(one.end_variance + rounding2)[:, None]
        loss = one.loss[:, None] + (one.shared / one.end_variance)[:, None] * (end - one.end[:, None])
        allowed = (end > 0) & (end < m[-1] + step_g) & (loss > 0)
        ratio = np.where(allowed, _FACTOR[one.course] * loss / (DRY_PART * np.maximum(end, 1e-9)), 1.0)
        ends.append(end.ravel())
        dries.append(np.maximum(0.0, one.tail[:, None] * np.log(np.maximum(ratio, 1e-9))).ravel())
        chances.append((np.where(allowed, bell, 0.0) * np.exp(one.ln_weight - top)[:, None]).ravel())
    chance = np.concatenate(chances)
    if chance.sum() <= 0:
        return _nothing("the weights do not fall ever more slowly")
    end_band, dry_band = _band(np.concatenate(ends), chance), _band(np.concatenate(dries), chance)
    dry_band = Band(
        max(0.0, dry_band.best - _DRY_TIMES * (dry_band.best - dry_band.low)),
        dry_band.best,
        dry_band.best + _DRY_TIMES * (dry_band.high - dry_band.best),
    )
    why = _too_early(end_band, m)
    best = max(fits, key=lambda one: float(one.ln_weight.max()))
    number = int(best.ln_weight.argmax())
    curve = _curve(fits, top, t, dry_band) if not why else ()
    return DryingFit(why, end_band, dry_band, float(best.tail[number]), _rate(best, number, t, m), curve)


def _too_early(end: Band, m: Floats) -> str:
    lost, further = float(m[0] - m[-1]), float(m[-1] - end.best)
    if further > lost:
        return "more is still to go than has gone so far"
    if end.high - end.low > max(lost, _VAGUE_PART * end.best):
        return "what has gone so far fits too many courses"
    return ""


def _rate(fits: _Fits, number: int, t: Floats, m: Floats) -> float:
    """What is lost an hour at the last weighing, as a part of the mass then."""
    tail = float(fits.tail[number])
    now, later = _left(fits.course, np.array([t[-1] / tail, t[-1] / tail + 0.01]))
    return float(fits.loss[number] * (now - later) / (0.01 * tail) / m[-1])


def _band(values: Floats, chance: Floats) -> Band:
    order = np.argsort(values)
    total = np.cumsum(chance[order])
    total /= total[-1]
    low, best, high = (float(values[order][np.searchsorted(total, part)]) for part in (0.05, 0.5, 0.95))
    return Band(low, best, high)


def _curve(fits: list[_Fits], top: float, t: Floats, dry: Band) -> tuple[tuple[float, float, float, float], ...]:
    """The course with its range, a little past the time when it is dry."""
    until = max(float(t[-1]) * 1.15, min(dry.high * 1.1, 6 * float(t[-1])))
    hours = np.linspace(0, until, _CURVE)
    tracks, chances = [], []
    for one in fits:
        kept = one.ln_weight > top - _FAINT
        left = _left(one.course, hours[None, :] / one.tail[kept][:, None])
        tracks.append(one.end[kept][:, None] + one.loss[kept][:, None] * left)
        chances.append(np.exp(one.ln_weight[kept] - top))
    track, chance = np.concatenate(tracks), np.concatenate(chances)
    bands = (_band(track[:, number], chance) for number in range(_CURVE))
    return tuple((float(hour), band.low, band.best, band.high) for hour, band in zip(hours, bands, strict=True))
