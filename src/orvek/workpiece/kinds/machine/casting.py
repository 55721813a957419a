"""Machine code of what is cast, and of what lies in a casting."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO, swirl, wave
from orvek.workpiece.program import UNDECIDED


@numba.njit(**OPTIONS)
def cast_chunk(rows, i, aux, x, y, z, material, phase):
    """As `casting._cast_case`, over a chunk."""
    cups, w, start = int(rows[i, col.CAST_CUPS]), int(rows[i, col.CAST_WAVES]), int(rows[i, col.CAST_START])
    layered, depth = rows[i, col.CAST_LAYERED] != 0, rows[i, col.CAST_DEPTH]
    for p in range(material.size):
        level = y[p] / depth + np.float32(0.5)
        if not layered:
            level = swirl(aux, w, x[p], y[p], z[p])
        code = aux[start + cups - 1]
        for n in range(cups - 1):
            code = aux[start + cups + n] if level >= aux[start + n] else code
        here = material[p] == UNDECIDED
        phase[p] = np.float32(0.2) * level if here else phase[p]
        material[p] = np.uint8(code) if here else material[p]


@numba.njit(**OPTIONS)
def edge(rows, i, aux, dots, x, y, z):
    """As `casting._edge_case`."""
    q, w = (
        x * rows[i, col.EDGE_COS] + y * rows[i, col.EDGE_SIN],
        -x * rows[i, col.EDGE_SIN] + y * rows[i, col.EDGE_COS],
    )
    level, part, a = (
        rows[i, col.EDGE_MIDDLE] + rows[i, col.EDGE_SLOPE] * (z - rows[i, col.EDGE_Z_MIDDLE]),
        rows[i, col.EDGE_ROUGH],
        int(rows[i, col.EDGE_WAVES]),
    )
    for o in range(a, a + 9, 3):
        level += part * wave(aux[o] * z + aux[o + 1] * w + aux[o + 2])
        part *= np.float32(0.5)
    count = int(rows[i, col.EDGE_POINTS])
    if count > 1:
        place = min(max(z / rows[i, col.EDGE_SPACING], np.float32(0)), np.float32(count - 1))
        n = min(int(place), count - 2)
        low, high = aux[int(rows[i, col.EDGE_LINE]) + n], aux[int(rows[i, col.EDGE_LINE]) + n + 1]
        level += low + (high - low) * (place - n)
    return (int(rows[i, col.EDGE_MATERIAL]) if q < level else -1), x, y, z, ZERO


@numba.njit(**OPTIONS)
def rods(rows, i, aux, dots, x, y, z):
    """As `casting._rods_case`."""
    step = np.float32(2 * math.pi) / rows[i, col.RODS_COUNT]
    nearest = (
        np.floor((math.atan2(y, x) - rows[i, col.RODS_AZIMUTH]) / step + np.float32(0.5)) * step
        + rows[i, col.RODS_AZIMUTH]
    )
    dx, dy = x - rows[i, col.RODS_RING] * math.cos(nearest), y - rows[i, col.RODS_RING] * math.sin(nearest)
    inside = dx * dx + dy * dy < rows[i, col.RODS_RADIUS_SQUARED]
    return (int(rows[i, col.RODS_MATERIAL]) if inside else -1), x, y, z, ZERO


@numba.njit(**OPTIONS)
def chips(rows, i, aux, dots, x, y, z):
    """As `casting._chips_case`."""
    inside = swirl(aux, int(rows[i, col.CHIPS_WAVES]), x, y, z) > rows[i, col.CHIPS_THRESHOLD]
    return (int(rows[i, col.CHIPS_MATERIAL]) if inside else -1), x, y, z, ZERO


@numba.njit(**OPTIONS)
def core(rows, i, aux, dots, x, y, z):
    """As `casting._core_case`."""
    inside = x * x + y * y < rows[i, col.CORE_RADIUS] * rows[i, col.CORE_RADIUS]
    return (int(rows[i, col.CORE_MATERIAL]) if inside else -1), x, y, z, ZERO
