"""Machine code of the saw: cuts, arcs, slices, rips."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.grain import LAYER_PHASE
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO, layer_at
from orvek.workpiece.program import UNDECIDED

NO_TAB = -1e30  # the limit of a cut that goes all the way through


@numba.njit(**OPTIONS)
def cut_chunk(rows, i, aux, x, y, z, material, phase, depth):
    """As `sawing._cut_case`, over a chunk; `depth` is scratch."""
    nx, ny, nz, d = (
        rows[i, col.CUT_NX],
        rows[i, col.CUT_NY],
        rows[i, col.CUT_NZ],
        rows[i, col.CUT_D] + rows[i, col.CUT_LOW],
    )
    sheet, mx, my, mz = rows[i, col.CUT_SHEET], rows[i, col.CUT_MX], rows[i, col.CUT_MY], rows[i, col.CUT_MZ]
    start, count, limit, ux, uy = (
        int(rows[i, col.CUT_START]),
        int(rows[i, col.CUT_COUNT]),
        rows[i, col.CUT_LIMIT],
        rows[i, col.CUT_UX],
        rows[i, col.CUT_UY],
    )
    for p in range(material.size):
        depth[p] = x[p] * nx + y[p] * ny + z[p] * nz - d
    below = np.float32(0)
    for layer in range(count):
        above = sheet if layer == count - 1 else min(aux[start + layer], sheet)
        code, shade = np.uint8(aux[start + count + layer]), np.float32(LAYER_PHASE) * layer
        if limit > NO_TAB:
            for p in range(material.size):
                inside = (depth[p] >= below) & (depth[p] < above) & (x[p] * ux + y[p] * uy > limit)
                inside &= material[p] == UNDECIDED
                material[p] = code if inside else material[p]
                phase[p] = shade if inside else phase[p]
        else:
            for p in range(material.size):
                inside = (depth[p] >= below) & (depth[p] < above) & (material[p] == UNDECIDED)
                material[p] = code if inside else material[p]
                phase[p] = shade if inside else phase[p]
        below = above
    for p in range(material.size):
        moved = np.float32(1) if (depth[p] >= sheet) & (material[p] == UNDECIDED) else np.float32(0)
        x[p] -= moved * mx
        y[p] -= moved * my
        z[p] -= moved * mz


@numba.njit(**OPTIONS)
def arc(rows, i, aux, dots, x, y, z):
    """As `sawing._arc_case`."""
    q = x * rows[i, col.ARC_COS] + y * rows[i, col.ARC_SIN]
    depth = (
        math.sqrt(
            (rows[i, col.ARC_DISTANCE] - q) * (rows[i, col.ARC_DISTANCE] - q)
            + (z - rows[i, col.ARC_Z0]) * (z - rows[i, col.ARC_Z0])
        )
        - rows[i, col.ARC_RADIUS]
        - rows[i, col.ARC_LOW]
    )
    start, count = int(rows[i, col.ARC_START]), int(rows[i, col.ARC_COUNT])
    if depth >= rows[i, col.ARC_SHEET]:
        moved = rows[i, col.ARC_MOVE]
        return -1, x, y, (z - moved if z >= rows[i, col.ARC_Z0] else z + moved), ZERO
    if count > 0 and depth >= 0:
        layer = layer_at(aux, start, count, depth)
        return int(aux[start + count + layer]), x, y, z, np.float32(LAYER_PHASE) * layer
    return -1, x, y, z, ZERO


@numba.njit(**OPTIONS)
def slices(rows, i, aux, dots, x, y, z):
    """As `sawing._slice_case`."""
    t = x * rows[i, col.SLICE_NX] + y * rows[i, col.SLICE_NY] + z * rows[i, col.SLICE_NZ] - rows[i, col.SLICE_START]
    number = np.floor(t / (rows[i, col.SLICE_SLICE] + rows[i, col.SLICE_GAP]))
    if t - number * (rows[i, col.SLICE_SLICE] + rows[i, col.SLICE_GAP]) >= rows[i, col.SLICE_SLICE]:
        return int(rows[i, col.SLICE_MATERIAL]), x, y, z, ZERO
    back = number * (rows[i, col.SLICE_KERF] - rows[i, col.SLICE_GAP])
    # Closed along the axis, so that the bar stays straight however the slices lean.
    z = z + back / rows[i, col.SLICE_NZ]
    if int(number) % 2 != 0:
        x, y, z = _turned(rows, i, x, y, z, number)
    return -1, x, y, z, ZERO


@numba.njit(**OPTIONS)
def _turned(rows, i, x, y, z, number):
    """A slice that was turned, turned back."""
    middle = (
        number * (rows[i, col.SLICE_SLICE] + rows[i, col.SLICE_KERF])
        + rows[i, col.SLICE_SLICE] * np.float32(0.5)
        + rows[i, col.SLICE_START]
    ) / rows[i, col.SLICE_NZ]
    z -= middle
    turn = int(rows[i, col.SLICE_TURN])
    a, b, c = (
        (rows[i, col.SLICE_UX], rows[i, col.SLICE_UY], rows[i, col.SLICE_UZ])
        if turn == 3
        else (rows[i, col.SLICE_NX], rows[i, col.SLICE_NY], rows[i, col.SLICE_NZ])
    )
    dot = x * a + y * b + z * c
    if turn == 1:
        return dot * a + y * c - z * b, dot * b + z * a - x * c, dot * c + x * b - y * a + middle
    return 2 * dot * a - x, 2 * dot * b - y, 2 * dot * c - z + middle


@numba.njit(**OPTIONS)
def rip(rows, i, aux, dots, x, y, z):
    """As `sawing._rip_case`."""
    q, w = x * rows[i, col.RIP_COS] + y * rows[i, col.RIP_SIN], -x * rows[i, col.RIP_SIN] + y * rows[i, col.RIP_COS]
    if q < 0:
        q, z = q - rows[i, col.RIP_KERF] * np.float32(0.5), z + rows[i, col.RIP_LEFT]
    elif int(rows[i, col.RIP_FLIP]) == 1:
        z = rows[i, col.RIP_LENGTH] - z - rows[i, col.RIP_SLID]
        q, w = q + rows[i, col.RIP_KERF] * np.float32(0.5), -w
    else:
        q, w, z = rows[i, col.RIP_HALF] - q, -w, z + rows[i, col.RIP_SLID]
    cos, sin = rows[i, col.RIP_COS], rows[i, col.RIP_SIN]
    return -1, q * cos - w * sin, q * sin + w * cos, z, ZERO
