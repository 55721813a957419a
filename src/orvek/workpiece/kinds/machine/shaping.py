"""Machine code of a bar that is set on its axis anew."""

from __future__ import annotations

import numba

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO


@numba.njit(**OPTIONS)
def reorient(rows, i, aux, dots, x, y, z):
    """As `shaping._reorient_case`."""
    q, w, z = (
        x * rows[i, col.REORIENT_COS] + y * rows[i, col.REORIENT_SIN],
        -x * rows[i, col.REORIENT_SIN] + y * rows[i, col.REORIENT_COS],
        z - rows[i, col.REORIENT_MIDDLE],
    )
    q, z = (
        q * rows[i, col.REORIENT_TURN_COS] - z * rows[i, col.REORIENT_TURN_SIN] + rows[i, col.REORIENT_ACROSS],
        q * rows[i, col.REORIENT_TURN_SIN]
        + z * rows[i, col.REORIENT_TURN_COS]
        + rows[i, col.REORIENT_MIDDLE]
        + rows[i, col.REORIENT_SHIFT],
    )
    cos, sin = rows[i, col.REORIENT_COS], rows[i, col.REORIENT_SIN]
    return -1, q * cos - w * sin, q * sin + w * cos, z, ZERO
