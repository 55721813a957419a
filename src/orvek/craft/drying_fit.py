"""The end mass and the time of drying from a log of weights, with their ranges.

Diffusion out of a slab, a cylinder and a square bar, with any film of air, is weighed against the log over a wide range
of time constants. For each course end mass and loss follow by least squares; together they give the range that holds
end mass and time nine times in ten. Whatever the log cannot tell apart makes the range wide, and a range that is too
wide is called too early.

Source: textbook diffusion; Bayes with flat priors on the masses and the film, a broad one on the time constant.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.craft.drying import DRY_PART, Band, DryingFit, rises_g
from orvek.craft.drying_courses import MOST_FILM, SHAPES, late_part, left_of

Floats = NDArray[np.float64]

_WIDEST, _OUT = 3.0, 14.0  # of ln(time constant); in ln(weight): courses fainter than that are dropped
_FILMS, _TAILS = 9, 19  # films of each shape, time constants of each film
_PASSES, _FINE_FROM = 6, 3  # how often the grid is drawn closer; from then on what is faint is dropped
_WIDE_LN = 1.1  # standard deviation of ln(time constant) about what the section suggests: a factor of three
_READING_STEPS = 0.58  # of the scale: rounding, hand and pan; this and the next two are chosen so that ranges hold
_COURSE_PART = 0.0002  # of the loss: no course is quite how wood dries
_STANDING_STEPS = 0.1  # a scale that reads the same twice is off by the same twice (tests/craft/test_drying.py)
_LEAST_STEPS = 4.0  # less loss than that, in steps of the scale, says nothing (an estimate)
_LEAST_WEIGHTS = 4
_QUANTILES = np.linspace(-3.2, 3.2, 33)
_CURVE = 48
_FAINT = 9.0  # in ln(weight): courses fainter than that are not drawn
_VAGUE_PART = 0.02  # of the mass: a range as wide as that says nothing of what is left to go (an estimate)


@lru_cache(maxsize=32)
def fitted_drying(
    hours: tuple[float, ...],
    masses_g: tuple[float, ...],
    step_g: float,
    usual_tail_h: float,
    odds: tuple[float, float, float] = (1.0, 1.0, 1.0),
) -> DryingFit:
    """Fit a log of weights, the first at 0 h, ever later ones after it.

    Args:
        hours: after the first weighing.
        masses_g: as many.
        step_g: of the scale.
        usual_tail_h: time constant that section and oven suggest; a factor of three either way is no surprise.
        odds: how likely it dries like a slab, a cylinder, a square bar, by its shape.
    """
    t, m = np.asarray(hours), np.asarray(masses_g)
    refused = _refused(m, step_g)
    if refused:
        return _nothing(refused)
    grid = _Grid.widest()
    for number in range(_PASSES):
        fits = _fits(grid, t, m, step_g, usual_tail_h, odds)
        if not math.isfinite(float(fits.ln_weight.max())):
            return _nothing("the weights do not fall ever more slowly")
        if number + 1 < _PASSES:
            grid = _closer(grid, fits.ln_weight, is_fine=number >= _FINE_FROM)
    return _told(fits, t, m, step_g)


class _Grid(Struct, frozen=True):
    """The courses that are tried (rows): shape, film, and the span of ln(time constant) in which each is tried."""

    shape: NDArray[np.int64]
    film: Floats
    middle: Floats
    half: Floats

    @classmethod
    def widest(cls) -> _Grid:
        """All films of all shapes, time constants within a factor of twenty."""
        films = np.linspace(0.0, MOST_FILM, _FILMS)
        count = SHAPES * _FILMS
        shape = np.repeat(np.arange(SHAPES), _FILMS)
        return cls(shape, np.tile(films, SHAPES), np.zeros(count), np.full(count, _WIDEST))

    @property
    def ln_tails(self) -> Floats:
        """The time constants of each row, ln."""
        return self.middle[:, None] + self.half[:, None] * np.linspace(-1, 1, _TAILS)

    @property
    def ln_cell(self) -> Floats:
        """How much of the films and time constants a point of each row stands for, ln."""
        each = np.empty(len(self.shape))
        for shape in range(SHAPES):
            own = self.shape == shape
            if own.any():
                each[own] = max(np.ptp(self.film[own]), 1e-12)
        return np.log(self.half * each)[:, None]


def _closer(grid: _Grid, ln_weight: Floats, *, is_fine: bool) -> _Grid:
    """The same courses where they have any weight: a long log knows film and time constant to a thousandth.

    Within a film its time constants are narrowed, within a shape its films; each new film's span lies between those of
    its neighbours, for film and time constant hang together.
    """
    ln_tails, top = grid.ln_tails, float(ln_weight.max())
    step = 2 * grid.half / (_TAILS - 1)
    is_worth = ln_weight > ln_weight.max(axis=1, keepdims=True) - _FAINT
    low = np.where(is_worth, ln_tails, np.inf).min(axis=1) - step
    high = np.where(is_worth, ln_tails, -np.inf).max(axis=1) + step
    best = ln_weight.max(axis=1)
    rows = []
    for shape in range(SHAPES):
        own = (grid.shape == shape) & np.isfinite(best)
        # While the grid is coarse the best of a shape may lie between its points: none is dropped yet.
        if not own.any() or (is_fine and best[own].max() < top - _OUT):
            continue
        films, inside = grid.film[own], best[own] > best[own].max() - _FAINT
        apart = np.ptp(films) / max(1, len(films) - 1)
        first, last = max(0.0, films[inside].min() - apart), min(MOST_FILM, films[inside].max() + apart)
        film = np.linspace(first, last, _FILMS)
        middle = np.interp(film, films, (low[own] + high[own]) / 2)
        half = np.interp(film, films, (high[own] - low[own]) / 2)
        rows.append((np.full(_FILMS, shape), film, middle, half))
    shape_, film, middle, half = (np.concatenate(part) for part in zip(*rows, strict=True))
    return _Grid(shape_, film, middle, half)


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


class _Fits(Struct, frozen=True):
    """The least squares of each row of a grid at each of its time constants, and the weight that the log gives it."""

    grid: _Grid
    tail: Floats
    ln_weight: Floats
    end: Floats
    loss: Floats
    end_variance: Floats
    shared: Floats  # covariance of end and loss


def _fits(
    grid: _Grid, t: Floats, m: Floats, step_g: float, usual_tail_h: float, odds: tuple[float, float, float]
) -> _Fits:
    ln_tails = grid.ln_tails
    tails = usual_tail_h * np.exp(ln_tails)
    noise2 = (_READING_STEPS * step_g) ** 2 + (_COURSE_PART * float(m[0] - m[-1])) ** 2
    left = left_of(grid.shape, grid.film, t / tails[:, :, None])
    n, sums, squares = len(t), left.sum(axis=2), (left**2).sum(axis=2)
    determinant = np.maximum(n * squares - sums**2, 1e-12)
    across = left @ m
    loss = (n * across - sums * m.sum()) / determinant
    end = (squares * m.sum() - sums * across) / determinant
    rest = ((m - end[:, :, None] - loss[:, :, None] * left) ** 2).sum(axis=2)
    prior = -((ln_tails / _WIDE_LN) ** 2) / 2 + grid.ln_cell + np.log(odds)[grid.shape][:, None]
    weight = -rest / (2 * noise2) - 0.5 * np.log(determinant) + prior
    weight = np.where((loss > 0) & (end > 0) & (determinant > 1e-9), weight, -np.inf)
    return _Fits(grid, tails, weight, end, loss, noise2 * squares / determinant, -noise2 * sums / determinant)


def _told(fits: _Fits, t: Floats, m: Floats, step_g: float) -> DryingFit:
    top = float(fits.ln_weight.max())
    kept = fits.ln_weight > top - _FAINT
    tail, end_g, loss_g, variance, shared, ln_weight = (
        values[kept][:, None] for values in (
            fits.tail, fits.end, fits.loss, fits.end_variance, fits.shared, fits.ln_weight,
        )
    )  # fmt: skip
    late_parts = late_part(fits.grid.shape, fits.grid.film)
    late = np.broadcast_to(late_parts[:, None], kept.shape)[kept][:, None]
    end = end_g + _QUANTILES * np.sqrt(variance + (_STANDING_STEPS * step_g) ** 2)
    loss = loss_g + shared / variance * (end - end_g)
    allowed = (end > 0) & (end < m[-1] + step_g) & (loss > 0)
    ratio = np.where(allowed, late * loss / (DRY_PART * np.maximum(end, 1e-9)), 1.0)
    dry = np.maximum(0.0, tail * np.log(np.maximum(ratio, 1e-9)))
    chance = np.where(allowed, np.exp(-(_QUANTILES**2) / 2), 0.0) * np.exp(ln_weight - top)
    if chance.sum() <= 0:
        return _nothing("the weights do not fall ever more slowly")
    end_band, dry_band = _band(end.ravel(), chance.ravel()), _band(dry.ravel(), chance.ravel())
    why = _too_early(end_band, m)
    best = np.unravel_index(int(fits.ln_weight.argmax()), kept.shape)
    curve = _curve(fits, kept, t, dry_band) if not why else ()
    return DryingFit(
        why, end_band, dry_band, float(fits.tail[best]), _rate(fits, int(best[0]), int(best[1]), t, m), curve
    )


def _too_early(end: Band, m: Floats) -> str:
    lost, further = float(m[0] - m[-1]), float(m[-1] - end.best)
    if further > lost:
        return "more is still to go than has gone so far"
    if end.high - end.low > max(lost, _VAGUE_PART * end.best):
        return "what has gone so far fits too many courses"
    return ""


def _rate(fits: _Fits, row: int, number: int, t: Floats, m: Floats) -> float:
    """What is lost an hour at the last weighing, as a part of the mass then."""
    tail = float(fits.tail[row, number])
    times = np.array([[t[-1] / tail, t[-1] / tail + 0.01]])
    ((now, later),) = left_of(fits.grid.shape[row : row + 1], fits.grid.film[row : row + 1], times)
    return float(fits.loss[row, number] * (now - later) / (0.01 * tail) / m[-1])


def _band(values: Floats, chance: Floats) -> Band:
    order = np.argsort(values)
    total = np.cumsum(chance[order])
    total /= total[-1]
    low, best, high = (float(values[order][np.searchsorted(total, part)]) for part in (0.05, 0.5, 0.95))
    return Band(low, best, high)


def _curve(fits: _Fits, kept: NDArray[np.bool_], t: Floats, dry: Band) -> tuple[tuple[float, float, float, float], ...]:
    """The course with its range, a little past the time when it is dry."""
    until = max(float(t[-1]) * 1.15, min(dry.high * 1.1, 6 * float(t[-1])))
    hours = np.linspace(0, until, _CURVE)
    tracks, chances = [], []
    for row in np.flatnonzero(kept.any(axis=1)):
        own = kept[row]
        one = slice(row, row + 1)
        left = left_of(fits.grid.shape[one], fits.grid.film[one], (hours / fits.tail[row][own][:, None])[None])[0]
        tracks.append(fits.end[row][own][:, None] + fits.loss[row][own][:, None] * left)
        chances.append(np.exp(fits.ln_weight[row][own] - fits.ln_weight.max()))
    track, chance = np.concatenate(tracks), np.concatenate(chances)
    bands = (_band(track[:, number], chance) for number in range(_CURVE))
    return tuple((float(hour), band.low, band.best, band.high) for hour, band in zip(hours, bands, strict=True))
