"""Machine code of dyes: where each reaches, and what it makes of what is there."""

from __future__ import annotations

import math

import numba
import numpy as np

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS
from orvek.workpiece.program import Kind

DYE = int(Kind.DYE)


@numba.njit(**OPTIONS)
def dyes_of(rows, i, x, y, z, dyes):
    """As `dyeing._dye_case`: the dyes of a point, with this one where it reaches."""
    if rows[i, col.DYE_ROUND] > 0:
        inside = rows[i, col.DYE_HALF_WIDTH] - math.sqrt(x * x + y * y)
    else:
        inside = min(rows[i, col.DYE_HALF_WIDTH] - abs(x), rows[i, col.DYE_HALF_DEPTH] - abs(y))
    end = min(z, rows[i, col.DYE_LENGTH] - z)
    if inside < rows[i, col.DYE_DEPTH] or end < rows[i, col.DYE_END_DEPTH]:
        return dyes | (np.int64(1) << np.int64(rows[i, col.DYE_NUMBER]))
    return dyes


@numba.njit(**OPTIONS)
def dye_chunk(kinds, rows, aux, dyes, material):
    """The dye that was done first is applied first: it stands last among the rows."""
    for i in range(len(kinds) - 1, -1, -1):
        if kinds[i] == DYE:
            start, places, number = (
                int(rows[i, col.DYE_START]),
                int(rows[i, col.DYE_PLACES]),
                np.int64(rows[i, col.DYE_NUMBER]),
            )
            for p in range(material.size):
                if (dyes[p] >> number) & 1 and material[p] < places:
                    material[p] = np.uint8(aux[start + material[p]])
