"""The courses that drying may take: out of a slab, a cylinder or a square bar, with more or less of a film of air.

Each is the part of the loss still to come at t / τ, τ being the late time constant. They are tabled once, over the root
of time and over the root of the film's resistance, and read between the entries.

Source: textbook diffusion (series of a slab and of a cylinder with a film; a bar is the product of two slabs).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

SHAPES = 3  # slab, cylinder, bar
MOST_FILM = 1.0  # a film's place: 0 is none, 1 is one beside which the wood holds nothing back: the plain exponential
_FILMS = 121
_HALFWAY_BIOT = 2.0
_MOST, _STEPS = 36.0, 721  # t / τ up to which it is tabled, evenly in its root: there all courses are smooth
_TERMS, _FILM_TERMS = 400, 48  # of a series: near t = 0, where the first weighing lies, fewer are too small
_BEGUN, _LATE_TERMS = 0.05, 20  # from that time on so many terms are enough
_HALVINGS = 32  # of an interval: to a thousand millionth of it


class _Tables(NamedTuple):
    """Every shape with every film (shapes, films, steps), and the factors of their late exponentials."""

    left: Floats
    late_part: Floats


def left_of(shape: NDArray[np.int64], film: Floats, x: Floats) -> Floats:
    """Part of the loss still to come, at times in units of the time constant; 1 at 0.

    Args:
        shape, film: of each course (courses,).
        x: its times (courses, …).
    """
    tables, more = _tables(), (1,) * (x.ndim - 1)
    place = np.clip(film, 0.0, MOST_FILM) * (_FILMS - 1)
    below = np.minimum(place.astype(np.int64), _FILMS - 2)
    part = (place - below).reshape(-1, *more)
    shapes, films = shape.reshape(-1, *more), below.reshape(-1, *more)
    at = np.sqrt(np.minimum(x, _MOST)) * ((_STEPS - 1) / math.sqrt(_MOST))
    step = np.minimum(at.astype(np.int64), _STEPS - 2)
    along = at - step

    def read(films: NDArray[np.int64]) -> Floats:
        one, other = tables.left[shapes, films, step], tables.left[shapes, films, step + 1]
        tabled = one + (other - one) * along
        return np.asarray(np.where(x < _MOST, tabled, tables.late_part[shapes, films] * np.exp(-x)))

    return np.asarray((1 - part) * read(films) + part * read(films + 1))


def late_part(shape: NDArray[np.int64], film: Floats) -> Floats:
    """The factor of each course's late exponential (courses,)."""
    tables, places = _tables(), np.linspace(0.0, MOST_FILM, _FILMS)
    each = np.stack([np.interp(film, places, row) for row in tables.late_part])
    return np.asarray(each[shape, np.arange(len(shape))])


def place_of_film(biot: float) -> float:
    """Where a film of this Biot number stands between none and all: there the courses change evenly.

    >>> place_of_film(2.0), place_of_film(math.inf)
    (0.5, 0.0)
    """
    root = math.sqrt(_HALFWAY_BIOT / biot)
    return root / (1 + root)


@cache
def _tables() -> _Tables:
    left, late = np.empty((SHAPES, _FILMS, _STEPS)), np.ones((SHAPES, _FILMS))
    left[:, -1] = np.exp(-(np.linspace(0.0, math.sqrt(_MOST), _STEPS) ** 2))
    for number, place in enumerate(np.linspace(0.0, MOST_FILM, _FILMS)[:-1]):
        biot = _HALFWAY_BIOT * ((1 - place) / place) ** 2 if place > 0 else math.inf
        slab = _slab(biot)
        for shape, (series, faces) in enumerate(((slab, 1), (_cylinder(biot), 1), (slab, 2))):
            left[shape, number] = _tabled(*series, faces)
            late[shape, number] = series[1][0] ** faces
    return _Tables(left, late)


def _tabled(rates: Floats, parts: Floats, faces: int) -> Floats:
    """A course from the rates of its terms, in units of the first, and their parts; through so many pairs of faces."""
    x = np.linspace(0.0, math.sqrt(_MOST), _STEPS) ** 2 / faces
    begun = int(np.searchsorted(x, _BEGUN))
    left = np.concatenate(
        [
            parts @ np.exp(-np.minimum(rates[:, None] * x[:begun], 700.0)),
            parts[:_LATE_TERMS] @ np.exp(-np.minimum(rates[:_LATE_TERMS, None] * x[begun:], 700.0)),
        ]
    )
    left[0] = 1.0
    return np.asarray(left**faces)


def _slab(biot: float) -> tuple[Floats, Floats]:
    """z tan z = Bi, C = 2 Bi² / (z² (z² + Bi² + Bi)); without a film z = (2n+1)π/2, C = 2 / z²."""
    if math.isinf(biot):
        z: Floats = np.arange(1.0, 2 * _TERMS, 2) * math.pi / 2
        return (z / z[0]) ** 2, 2 / z**2
    low: Floats = np.arange(0.0, _film_terms(biot)) * math.pi
    z = _bisected(lambda z: z * np.sin(z) - biot * np.cos(z), low, low + math.pi / 2)
    return (z / z[0]) ** 2, 2 * biot**2 / (z**2 * (z**2 + biot**2 + biot))


def _cylinder(biot: float) -> tuple[Floats, Floats]:
    """z J1(z) = Bi J0(z), C = 4 Bi² / (z² (z² + Bi²)); without a film J0(z) = 0, C = 4 / z²."""
    from scipy.special import j0, j1

    zeros, between = _bessel_zeros()
    if math.isinf(biot):
        return (zeros / zeros[0]) ** 2, 4 / zeros**2
    terms = _film_terms(biot)
    z = _bisected(lambda z: z * j1(z) - biot * j0(z), between[:terms], zeros[:terms])
    return (z / z[0]) ** 2, 4 * biot**2 / (z**2 * (z**2 + biot**2))


def _film_terms(biot: float) -> int:
    """How many terms a series wants: they fall off steeply only beyond the Biot number."""
    return min(_TERMS, _FILM_TERMS + int(biot))


@cache
def _bessel_zeros() -> tuple[Floats, Floats]:
    """Zeros of J0, and of J1 with 0 before them: between one of each lies a root with a film."""
    from scipy.special import jn_zeros

    return np.asarray(jn_zeros(0, _TERMS)), np.concatenate([[0.0], jn_zeros(1, _TERMS - 1)])


def _bisected(value: Callable[[Floats], Floats], low: Floats, high: Floats) -> Floats:
    """The root in each interval, at whose ends the values have two signs."""
    falls = value(high) < 0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        beyond = (value(middle) > 0) != falls
        low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
    return np.asarray((low + high) / 2)
