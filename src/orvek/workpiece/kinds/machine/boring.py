"""Machine code of a plug."""

from __future__ import annotations

import numba

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.machine.parts import OPTIONS, ZERO


@numba.njit(**OPTIONS)
def plug(rows, i, aux, dots, x, y, z):
    """As `boring._plug_case`."""
    px, py, pz = x - rows[i, col.PLUG_PX], y - rows[i, col.PLUG_PY], z - rows[i, col.PLUG_PZ]
    pz *= rows[i, col.PLUG_STRETCH]
    along = px * rows[i, col.PLUG_DX] + py * rows[i, col.PLUG_DY] + pz * rows[i, col.PLUG_DZ]
    inside = px * px + py * py + pz * pz - along * along < rows[i, col.PLUG_RADIUS_SQUARED]
    inside = inside and along >= rows[i, col.PLUG_FLOOR]
    return (int(rows[i, col.PLUG_MATERIAL]) if inside else -1), x, y, z, ZERO
