"""One light for all photos of a bar: `gains` says how much brighter each face is to be made, by the edges they share.

Two faces of a bar meet along an edge, and there both photos show the same stuff: how bright it is on either tells how
the light differed. White paper that was pointed at says it outright. Ratios are of linear light.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from orvek.documents import PhotoStep

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]
_ALIKE = 0.06  # of the logarithm: so near they are left as they are
_BINS = 48
_EDGE = 0.06  # of a face's rows: what lies so near to an edge is the edge
_ROUND_TO = 45.0  # degrees: of two views of a round bar, where they lie nearer than twice that the shared line counts
_SCATTER = 0.5  # of the logarithm: edges that agree less show other things
_MOST = math.log(6.0)  # two stuffs that meet in the edge differ by more: ebony and holly
_HUE = 0.04  # of red, green and blue as parts of their sum: so near they are one colour in two lights
_PAPER = 6.0  # how much more white paper counts than an edge
_GAMMA = 2.2


def gains(step: PhotoStep, faces: Sequence[Pixels | None]) -> tuple[float, ...]:
    """For each photo of a bar, times as much light as it has; all 1 where they agree, or nothing is shared.

    Args:
        step: the photos.
        faces: each laid flat; None for one that cannot be read.
    """
    rows: list[Floats] = []
    wanted: list[float] = []
    for a, one in enumerate(step.views):
        for b, other in enumerate(step.views):
            apart = (other.azimuth_deg - one.azimuth_deg) % 360
            places = _shared(apart, is_round=step.form == "round")
            first, second = faces[a], faces[b]
            if places is None or first is None or second is None:
                continue
            off = _brighter(first, places[0], second, places[1])
            if off is not None:
                rows.append(_row(len(faces), {a: 1.0, b: -1.0}))
                wanted.append(-off)
    whites = {n: _linear(np.array(_channels(v.white))) for n, v in enumerate(step.views) if v.white is not None}
    middle = float(np.mean([math.log(max(w, 1e-3)) for w in whites.values()])) if whites else 0.0
    for n, white in whites.items():
        rows.append(_PAPER * _row(len(faces), {n: 1.0}))
        wanted.append(_PAPER * (middle - math.log(max(white, 1e-3))))
    if not rows:
        return (1.0,) * len(faces)
    found = np.linalg.lstsq(np.array(rows), np.array(wanted), rcond=None)[0]
    found -= found.mean()  # as bright as they were on the whole
    if np.ptp(found) < _ALIKE:
        return (1.0,) * len(faces)
    return tuple(math.exp(value) for value in found)


def levelled(picture: Pixels, gain: float) -> Pixels:
    """A picture with so many times its light."""
    if gain == 1.0:
        return picture
    table = np.clip(255 * ((np.arange(256) / 255) ** _GAMMA * gain) ** (1 / _GAMMA), 0, 255)
    made: Pixels = np.rint(table).astype(np.uint8)[picture]
    return made


def _shared(apart_deg: float, *, is_round: bool) -> tuple[float, float] | None:
    """At which parts of their rows two faces show the same line along the bar; None where they share none."""
    if not is_round:
        return (1 - _EDGE / 2, _EDGE / 2) if abs(apart_deg - 90) < 1e-6 else None
    if not 0 < apart_deg < 2 * _ROUND_TO + 31:
        return None
    reach = math.sin(math.radians(apart_deg / 2))
    return (1 + reach) / 2, (1 - reach) / 2


def _brighter(one: Pixels, at: float, other: Pixels, there: float) -> float | None:
    """The logarithm of how much brighter one face is along the line that it shares with the other."""
    ours, theirs = (np.maximum(_along(face, place), 1e-4) for face, place in ((one, at), (other, there)))
    hues = ours / ours.sum(axis=1, keepdims=True) - theirs / theirs.sum(axis=1, keepdims=True)
    ratios = np.log(ours.mean(axis=1)) - np.log(theirs.mean(axis=1))
    middle = float(np.median(ratios))
    scatter, hue = float(np.median(np.abs(ratios - middle))), float(np.median(np.abs(hues).max(axis=1)))
    return middle if scatter < _SCATTER and hue < _HUE and abs(middle) < _MOST else None


def _along(face: Pixels, part: float) -> Floats:
    """Red, green and blue of a face along a line, in `_BINS` pieces from its left end on: (n, 3), linear."""
    tall = face.shape[0]
    half = max(1, round(_EDGE * tall / 2))
    middle = min(tall - half, max(half, round(part * tall)))
    strip = ((face[middle - half : middle + half] / 255.0) ** _GAMMA).mean(axis=0)
    return np.array([piece.mean(axis=0) for piece in np.array_split(strip, min(_BINS, len(strip)))])


def _linear(channels: Floats) -> float:
    return float(((channels / 255.0) ** _GAMMA).mean())


def _channels(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _row(count: int, parts: dict[int, float]) -> Floats:
    row = np.zeros(count)
    for n, value in parts.items():
        row[n] = value
    return row
