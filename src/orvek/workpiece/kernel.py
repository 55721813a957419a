"""The compiled reading of a program: a chunk of points at a time, small enough to stay close to the processor.

Within a chunk each row runs over all points. Plane cuts, by far the commonest, and the tone are written without
branches, so that the compiler can do eight points at once; the other rows go point by point. What each kind of row
does stands in `kinds/machine/`. It does what reference.py does, row for row; tests hold it to that. It takes a second
or two to load, so it is loaded in the background (`load_kernel`), and its machine code is kept in the user's cache
folder.
"""

from __future__ import annotations

import threading
from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from orvek.workpiece import grain
from orvek.workpiece.kinds.machine.boring import plug
from orvek.workpiece.kinds.machine.casting import cast_chunk, chips, core, edge, rods
from orvek.workpiece.kinds.machine.dyeing import DYE, dye_chunk, dyes_of
from orvek.workpiece.kinds.machine.gluing import layered, solid_chunk, staves
from orvek.workpiece.kinds.machine.parts import OPTIONS, wave
from orvek.workpiece.kinds.machine.photographed import photo
from orvek.workpiece.kinds.machine.sawing import arc, cut_chunk, rip, slices
from orvek.workpiece.kinds.machine.shaping import reorient
from orvek.workpiece.kinds.machine.wrapping import wrap
from orvek.workpiece.program import UNDECIDED, Kind, Program, Sample

# Machine code knows plain numbers only.
ARC, CAST, CHIPS, CUT, EDGE, LAYERED, PHOTO, PLUG, RIP, RODS, SLICE, SOLID, STAVES, WRAP = (
    int(Kind.ARC),
    int(Kind.CAST),
    int(Kind.CHIPS),
    int(Kind.CUT),
    int(Kind.EDGE),
    int(Kind.LAYERED),
    int(Kind.PHOTO),
    int(Kind.PLUG),
    int(Kind.RIP),
    int(Kind.RODS),
    int(Kind.SLICE),
    int(Kind.SOLID),
    int(Kind.STAVES),
    int(Kind.WRAP),
)
FIRST_WORK = int(Kind.CUT)  # kinds below it are stock
CHUNK = 2048
_ALL = numba.get_num_threads()
_FEW = 16_000  # points: below, one thread is quicker
# numba's plain thread pool must not be entered twice at once; a second caller waits a few milliseconds.
_ONE_AT_A_TIME = threading.Lock()


def evaluate_kernel(program: Program, points_mm: NDArray[np.float32]) -> Sample:
    """Material and tone at points: `points_mm` (3, n) float32; see `evaluate_reference`."""
    points = np.ascontiguousarray(points_mm, dtype=np.float32)
    count = points.shape[1]
    material, tone = np.empty(count, np.uint8), np.empty(count, np.float32)
    with _ONE_AT_A_TIME:
        # A few points are done sooner alone than it takes to wake the others, most of all while something is dragged.
        numba.set_num_threads(1 if count < _FEW else _ALL)
        numbers = (program.kinds, program.rows, program.aux, program.dots, program.grain)
        _run(*(_read_only(one) for one in numbers), points, material, tone)
    return Sample(material, tone)


def _read_only(numbers: NDArray[Any]) -> NDArray[Any]:
    """A view that cannot be written to: for others the kernel would be compiled once more, while somebody looks."""
    if not numbers.flags.writeable:
        return numbers
    view = numbers.view()
    view.flags.writeable = False
    return view


@numba.njit(**OPTIONS)
def _stock(kind, rows, i, aux, dots, x, y, z):
    if kind == LAYERED:
        return layered(rows, i, aux, dots, x, y, z)
    if kind == PHOTO:
        return photo(rows, i, aux, dots, x, y, z)
    if kind == STAVES:
        return staves(rows, i, aux, dots, x, y, z)
    if kind == EDGE:
        return edge(rows, i, aux, dots, x, y, z)
    if kind == RODS:
        return rods(rows, i, aux, dots, x, y, z)
    if kind == CHIPS:
        return chips(rows, i, aux, dots, x, y, z)
    if kind == WRAP:
        return wrap(rows, i, aux, dots, x, y, z)
    return core(rows, i, aux, dots, x, y, z)


@numba.njit(**OPTIONS)
def _work(kind, rows, i, aux, dots, x, y, z):
    if kind == ARC:
        return arc(rows, i, aux, dots, x, y, z)
    if kind == SLICE:
        return slices(rows, i, aux, dots, x, y, z)
    if kind == RIP:
        return rip(rows, i, aux, dots, x, y, z)
    if kind == PLUG:
        return plug(rows, i, aux, dots, x, y, z)
    return reorient(rows, i, aux, dots, x, y, z)


@numba.njit(**OPTIONS)
def _point_chunk(kind, rows, i, aux, dots, x, y, z, material, phase, dyes):
    """Any other row over a chunk, point by point."""
    for p in range(material.size):
        if material[p] != UNDECIDED:
            continue
        if kind == DYE:
            dyes[p] = dyes_of(rows, i, x[p], y[p], z[p], dyes[p])
            continue
        if kind < FIRST_WORK:
            found, _, _, _, shade = _stock(kind, rows, i, aux, dots, x[p], y[p], z[p])
        else:
            found, x[p], y[p], z[p], shade = _work(kind, rows, i, aux, dots, x[p], y[p], z[p])
        if found >= 0:
            material[p] = found
            phase[p] = shade


@numba.njit(**OPTIONS)
def _tone_chunk(x, y, z, phase, rings, tone):
    """As `reference._tone`."""
    for p in range(tone.size):
        lean = wave(z[p] * np.float32(grain.LEAN_PER_MM) + phase[p])
        dx = x[p] + np.float32(grain.PITH_X_MM) + np.float32(grain.LEAN_MM) * lean
        dy = y[p] + np.float32(grain.PITH_Y_MM) + phase[p] * np.float32(grain.PITH_TURN_MM)
        ring = np.sqrt(dx * dx + dy * dy) * rings[p]
        wavy = wave(z[p] * np.float32(grain.WAVY_ALONG_PER_MM) + y[p] * np.float32(grain.WAVY_UP_PER_MM))
        fine = wave(ring * np.float32(grain.FINE_PER_MM) + np.float32(grain.WAVY) * wavy)
        coarse = wave(ring * np.float32(grain.RINGS_PER_MM) + phase[p])
        tone[p] = np.float32(grain.RING_SHARE) * coarse + np.float32(grain.FINE_SHARE) * fine


@numba.njit(parallel=True, **OPTIONS)
def _run(kinds, rows, aux, dots, closeness, points, material, tone):
    count = points.shape[1]
    for chunk in numba.prange((count + CHUNK - 1) // CHUNK):
        lo, hi = chunk * CHUNK, min((chunk + 1) * CHUNK, count)
        x, y, z = points[0, lo:hi].copy(), points[1, lo:hi].copy(), points[2, lo:hi].copy()
        m, t = material[lo:hi], tone[lo:hi]
        phase, dyes = np.zeros(hi - lo, np.float32), np.zeros(hi - lo, np.int64)
        m[:] = UNDECIDED
        for i in range(kinds.shape[0]):
            if kinds[i] == CUT:
                cut_chunk(rows, i, aux, x, y, z, m, phase, t)
            elif kinds[i] == SOLID:
                solid_chunk(rows, i, x, z, m)
            elif kinds[i] == CAST:
                cast_chunk(rows, i, aux, x, y, z, m, phase)
            else:
                _point_chunk(kinds[i], rows, i, aux, dots, x, y, z, m, phase, dyes)
        dye_chunk(kinds, rows, aux, dyes, m)
        rings = np.empty(hi - lo, np.float32)  # looked up by itself: what follows is then done eight points at a time
        for p in range(hi - lo):
            rings[p] = closeness[m[p]]
        _tone_chunk(x, y, z, phase, rings, t)
