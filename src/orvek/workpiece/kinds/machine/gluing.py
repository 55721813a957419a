"""Machine code of what is glued up: layers, staves, one piece."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.grain import LAYER_PHASE, STACK_PHASE
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO, layer_at
from orvek.workpiece.program import UNDECIDED


@numba.njit(**OPTIONS)
def layered(rows, i, aux, dots, x, y, z):
    """As `gluing._layered_case`."""
    t = (
        x * rows[i, col.LAYERED_NX]
        + y * rows[i, col.LAYERED_NY]
        + z * rows[i, col.LAYERED_NZ]
        - rows[i, col.LAYERED_OFFSET]
    )
    sheet = np.float32(0)
    if rows[i, col.LAYERED_PERIODIC] != 0:
        sheet = np.floor(t / rows[i, col.LAYERED_TOTAL])
        t -= sheet * rows[i, col.LAYERED_TOTAL]
    start, count = int(rows[i, col.LAYERED_START]), int(rows[i, col.LAYERED_COUNT])
    layer = layer_at(aux, start, count, t)
    shade = np.float32(LAYER_PHASE) * layer + np.float32(STACK_PHASE) * sheet
    return int(aux[start + count + layer]), x, y, z, shade


@numba.njit(**OPTIONS)
def staves(rows, i, aux, dots, x, y, z):
    """As `gluing._staves_case`."""
    width = np.float32(2 * math.pi) / rows[i, col.STAVES_COUNT]
    ring = np.floor(z / rows[i, col.STAVES_RING]) if rows[i, col.STAVES_RING] > 0 else np.float32(0)
    angle = (math.atan2(y, x) - rows[i, col.STAVES_TWIST] * z - rows[i, col.STAVES_RING_TURN] * ring) / width
    stave = np.floor(angle)
    part = angle - stave
    across = math.sqrt(x * x + y * y) * math.cos((part - np.float32(0.5)) * width)
    if rows[i, col.STAVES_HOLE] > 0 and across < rows[i, col.STAVES_HOLE] + rows[i, col.STAVES_GROWS] * (
        z - rows[i, col.STAVES_MIDDLE]
    ):
        return int(rows[i, col.STAVES_INSIDE]), x, y, z, ZERO
    if math.sqrt(x * x + y * y) * width * min(part, np.float32(1) - part) < rows[i, col.STAVES_HALF_GLUE]:
        return int(rows[i, col.STAVES_GLUE]), x, y, z, ZERO
    number = int(stave) % int(rows[i, col.STAVES_COUNT])
    material = aux[int(rows[i, col.STAVES_START]) + number % int(rows[i, col.STAVES_KEYS])]
    return int(material), x, y, z, np.float32(LAYER_PHASE) * number


@numba.njit(**OPTIONS)
def solid_chunk(rows, i, x, z, material):
    """As `gluing._solid_case`, over a chunk."""
    code, c, s = np.uint8(rows[i, col.SOLID_MATERIAL]), rows[i, col.SOLID_COS], rows[i, col.SOLID_SIN]
    for p in range(material.size):
        here = material[p] == UNDECIDED
        turned = x[p] * c - z[p] * s
        z[p] = x[p] * s + z[p] * c if here else z[p]
        x[p] = turned if here else x[p]
        material[p] = code if here else material[p]
