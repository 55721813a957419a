"""Machine code of a printed sheet round a core."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO, wave


@numba.njit(**OPTIONS)
def wrap(rows, i, aux, dots, x, y, z):
    """As `wrapping._wrap_case`."""
    radius = math.sqrt(x * x + y * y)
    if radius < rows[i, col.WRAP_CORE]:
        return int(rows[i, col.WRAP_CORE_MATERIAL]), x, y, z, ZERO
    if radius >= rows[i, col.WRAP_OUTER]:
        return int(rows[i, col.WRAP_OVER]), x, y, z, ZERO
    around, along = (
        (math.atan2(y, x) / np.float32(2 * math.pi) - rows[i, col.WRAP_TURN]) * rows[i, col.WRAP_AROUND],
        np.float32(2) * (z - rows[i, col.WRAP_SHIFT]) / rows[i, col.WRAP_PITCH],
    )
    if rows[i, col.WRAP_PATTERN] == 3:
        along *= np.float32(0.5)
        if rows[i, col.WRAP_ONCE] != 0 and (along < 0 or along >= 1):
            return int(rows[i, col.WRAP_ONE]), x, y, z, ZERO
        row = min(
            np.floor((around - np.floor(around)) * rows[i, col.WRAP_ROWS]), rows[i, col.WRAP_ROWS] - np.float32(1)
        )
        column = min(
            np.floor((along - np.floor(along)) * rows[i, col.WRAP_COLUMNS]),
            rows[i, col.WRAP_COLUMNS] - np.float32(1),
        )
        dot = int(rows[i, col.WRAP_PICTURE]) + int(row) * int(rows[i, col.WRAP_COLUMNS]) + int(column)
        return int(dots[dot]), x, y, z, ZERO
    if rows[i, col.WRAP_PATTERN] == 0:
        count = np.floor(along)
    elif rows[i, col.WRAP_PATTERN] == 1:
        count = np.floor(np.float32(2) * around) + np.floor(along)
    else:
        count = np.floor(along + np.float32(0.6) * wave(around))
    one, other = int(rows[i, col.WRAP_ONE]), int(rows[i, col.WRAP_OTHER])
    return (one if int(count) % 2 == 0 else other), x, y, z, ZERO
