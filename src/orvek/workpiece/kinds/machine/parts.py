"""What the machine code of all kinds is made with: options, waves, layers."""

from __future__ import annotations

import numba
import numpy as np

from orvek.workpiece.waves import BEND_MM, STRETCH

OPTIONS = {"cache": True, "fastmath": {"nnan", "nsz", "arcp", "contract", "reassoc"}, "error_model": "numpy"}
ZERO = np.float32(0)


@numba.njit(inline="always")
def wave(turns):
    """As `waves.wave`."""
    t = turns - np.floor(turns)
    side = np.float32(1.0) if t < np.float32(0.5) else np.float32(-1.0)
    t -= np.float32(0.25) + np.float32(0.25) * (np.float32(1.0) - side)
    return side * (np.float32(1.0) - np.float32(16.0) * t * t)


@numba.njit(inline="always")
def layer_at(aux, start, count, t):
    """Which of the layers from `start` a depth lies in."""
    for layer in range(count - 1):
        if t < aux[start + layer]:
            return layer
    return count - 1


@numba.njit(inline="always")
def swirl(aux, w, x, y, z):
    """The three groups of three waves of waves.swirl_pattern."""
    along, bend_z, bend_x = z * np.float32(STRETCH), np.float32(0), np.float32(0)
    for n in range(3):
        o = w + 5 * n
        bend_z += aux[o + 4] * wave(aux[o] * along + aux[o + 1] * x + aux[o + 2] * y + aux[o + 3])
        o += 15
        bend_x += aux[o + 4] * wave(aux[o] * along + aux[o + 1] * x + aux[o + 2] * y + aux[o + 3])
    along += np.float32(BEND_MM) * bend_z
    across = x + np.float32(BEND_MM) * bend_x
    level = np.float32(0)
    for n in range(3):
        o = w + 30 + 5 * n
        level += aux[o + 4] * wave(aux[o] * along + aux[o + 1] * across + aux[o + 2] * y + aux[o + 3])
    return level
