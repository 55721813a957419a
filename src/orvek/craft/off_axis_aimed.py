"""The chance that a round bar is spoilt by a hole that is aimed beside its axis: `both_round_aimed`.

By itself, because it needs NumPy, which is loaded late.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from orvek.craft.off_axis_limits import FAR, Limit, Pair, legendre

Floats = NDArray[np.float64]


def both_round_aimed(near: Limit, far: Limit, pair: Pair) -> float:
    """The same, aimed beside the middle: both near directions integrated, the far one as a strip of normals."""
    sigma = max(pair.sigma, 1e-6)
    (mx, my), room = near.aimed_mm, near.room_mm
    nodes = np.array(legendre())
    low, high = max(-room, mx - FAR * sigma), min(room, mx + FAR * sigma)
    if high <= low:
        return 0.0
    x = (low + high) / 2 + nodes[:, 0] * (high - low) / 2
    half = np.sqrt(np.maximum(0.0, room**2 - x**2))
    bottom, top = np.maximum(-half, my - FAR * sigma), np.minimum(half, my + FAR * sigma)
    tall = np.maximum(0.0, top - bottom)
    y = (bottom + top)[:, None] / 2 + nodes[None, :, 0] * tall[:, None] / 2
    errors = np.stack(np.broadcast_arrays(x[:, None] - mx, y - my))
    density = np.exp(-(errors**2).sum(axis=0) / (2 * sigma**2)) / (2 * math.pi * sigma**2)
    weights = nodes[:, None, 1] * nodes[None, :, 1] * (high - low) / 2 * tall[:, None] / 2
    means = np.asarray(far.aimed_mm)[:, None, None] + pair.slope * errors
    return float((weights * density * _inside_disc(means, far.room_mm, max(pair.rest, 1e-6))).sum())


def _inside_disc(means: Floats, room: float, sigma: float) -> Floats:
    """Chance that a point scattered about each mean (2, …) lies within a disc about the middle."""
    nodes = np.array(legendre())
    x = means[0][..., None] + nodes[:, 0] * 5 * sigma
    half = np.sqrt(np.maximum(0.0, room**2 - x**2))
    chord = _normal((half - means[1][..., None]) / sigma) - _normal((-half - means[1][..., None]) / sigma)
    density = np.exp(-((nodes[:, 0] * 5) ** 2) / 2) / math.sqrt(2 * math.pi) * 5
    return np.asarray((nodes[:, 1] * density * np.where(half > 0, chord, 0.0)).sum(axis=-1))


def _normal(z: Floats) -> Floats:
    """The normal distribution's integral, within 1e-7. Source: Abramowitz and Stegun, 26.2.17."""
    t = 1 / (1 + 0.2316419 * np.abs(z))
    series = t * (0.319381530 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
    tail = np.exp(-(z**2) / 2) / math.sqrt(2 * math.pi) * series
    return np.where(z > 0, 1 - tail, tail)
