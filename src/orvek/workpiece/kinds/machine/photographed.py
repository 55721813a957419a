"""Machine code of a bar as it was photographed."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO
from orvek.workpiece.kinds.photographed import ROUND_EDGE


@numba.njit(**OPTIONS)
def photo(rows, i, aux, dots, x, y, z):
    """The dot of the face nearest to a point, in the shade of its depth."""
    start, count = int(rows[i, col.PHOTO_START]), int(rows[i, col.PHOTO_VIEWS])
    wide, deep, shades = rows[i, col.PHOTO_HALF_WIDTH], rows[i, col.PHOTO_HALF_DEPTH], rows[i, col.PHOTO_SHADES]
    is_round = rows[i, col.PHOTO_ROUND] != 0
    zero, one = np.float32(0), np.float32(1)
    radius = max(math.sqrt(x * x + y * y), np.float32(1e-6))
    best, found = np.float32(1e30), 0
    for view in range(count):
        a = start + 5 * view
        out, down = x * aux[a] + y * aux[a + 1], -x * aux[a + 1] + y * aux[a]
        near, reach = wide, wide
        if is_round:
            depth = wide - radius + wide * (one - out / radius)
            down = min(max(down / radius, np.float32(-ROUND_EDGE)), np.float32(ROUND_EDGE)) * wide
        else:
            near = wide * abs(aux[a]) + deep * abs(aux[a + 1])
            reach = wide * abs(aux[a + 1]) + deep * abs(aux[a])
            depth = near - out
        if depth < best:
            best = depth
            high, long = aux[a + 3], aux[a + 4]
            row = min(max(np.floor((down / reach + one) * np.float32(0.5) * high), zero), high - one)
            column = min(max(np.floor(z / rows[i, col.PHOTO_LENGTH] * long), zero), long - one)
            shade = min(max(np.floor(depth / near * shades), zero), shades - one)
            # Dots are counted in whole numbers: a float has not room for all of them.
            found = int(aux[a + 2]) + (int(shade) * int(high) + int(row)) * int(long) + int(column)
    return int(dots[found]), x, y, z, ZERO
