"""The compiled reading of a program: a chunk of points at a time, small enough to stay close to the processor.

Within a chunk each row runs over all points. Plane cuts, by far the commonest, and the tone are written without
branches, so that the compiler can do eight points at once; the other rows go point by point.
It does what reference.py does, row for row; tests hold it to that. It takes a second or two to load, so it is
loaded in the background (`load_kernel`), and its machine code is kept in the user's cache folder.
"""

from __future__ import annotations

import math
import threading

import numba
import numpy as np
from numpy.typing import NDArray

from orvek.workpiece.program import UNDECIDED, Program, Sample
from orvek.workpiece.waves import BEND_MM, STRETCH

CHUNK = 2048
NO_TAB = -1e30  # the limit of a cut that goes all the way through
# numba's plain thread pool must not be entered twice at once; a second caller waits a few milliseconds.
_ONE_AT_A_TIME = threading.Lock()
_OPTIONS = {"cache": True, "fastmath": {"nnan", "nsz", "arcp", "contract", "reassoc"}, "error_model": "numpy"}


def evaluate_kernel(program: Program, points_mm: NDArray[np.float32]) -> Sample:
    """Material and tone at points: `points_mm` (3, n) float32; see `evaluate_reference`."""
    points = np.ascontiguousarray(points_mm, dtype=np.float32)
    count = points.shape[1]
    material, tone = np.empty(count, np.uint8), np.empty(count, np.float32)
    with _ONE_AT_A_TIME:
        _run(program.kinds, program.rows, program.aux, points, material, tone)
    return Sample(material, tone)


@numba.njit(inline="always")
def _wave(turns):
    t = turns - np.floor(turns)
    side = np.float32(1.0) if t < np.float32(0.5) else np.float32(-1.0)
    t -= np.float32(0.25) + np.float32(0.25) * (np.float32(1.0) - side)
    return side * (np.float32(1.0) - np.float32(16.0) * t * t)


@numba.njit(inline="always")
def _layer(aux, start, count, t):
    for layer in range(count - 1):
        if t < aux[start + layer]:
            return layer
    return count - 1


@numba.njit(inline="always")
def _swirl(aux, w, x, y, z):
    """The three groups of three waves of waves.swirl_pattern."""
    along, bend_z, bend_x = z * np.float32(STRETCH), np.float32(0), np.float32(0)
    for n in range(3):
        o = w + 5 * n
        bend_z += aux[o + 4] * _wave(aux[o] * along + aux[o + 1] * x + aux[o + 2] * y + aux[o + 3])
        o += 15
        bend_x += aux[o + 4] * _wave(aux[o] * along + aux[o + 1] * x + aux[o + 2] * y + aux[o + 3])
    along += np.float32(BEND_MM) * bend_z
    across = x + np.float32(BEND_MM) * bend_x
    level = np.float32(0)
    for n in range(3):
        o = w + 30 + 5 * n
        level += aux[o + 4] * _wave(aux[o] * along + aux[o + 1] * across + aux[o + 2] * y + aux[o + 3])
    return level


@numba.njit(**_OPTIONS)
def _cast_chunk(rows, i, aux, x, y, z, material, phase):
    cups, w, start = int(rows[i, 0]), int(rows[i, 1]), int(rows[i, 2])
    layered, depth = rows[i, 3] != 0, rows[i, 4]
    for p in range(material.size):
        level = y[p] / depth + np.float32(0.5)
        if not layered:
            level = _swirl(aux, w, x[p], y[p], z[p])
        code = aux[start + cups - 1]
        for n in range(cups - 1):
            code = aux[start + cups + n] if level >= aux[start + n] else code
        here = material[p] == UNDECIDED
        phase[p] = np.float32(0.2) * level if here else phase[p]
        material[p] = np.uint8(code) if here else material[p]


@numba.njit(**_OPTIONS)
def _stock(kind, rows, i, aux, x, y, z):
    """Material (-1 where the point is not in this piece) and phase."""
    if kind == 2:
        t = x * rows[i, 0] + y * rows[i, 1] + z * rows[i, 2] - rows[i, 3]
        sheet = np.float32(0)
        if rows[i, 7] != 0:
            sheet = np.floor(t / rows[i, 6])
            t -= sheet * rows[i, 6]
        start, count = int(rows[i, 4]), int(rows[i, 5])
        layer = _layer(aux, start, count, t)
        return int(aux[start + count + layer]), np.float32(0.37) * layer + np.float32(0.61) * sheet
    if kind == 3:
        width = np.float32(2 * math.pi) / rows[i, 0]
        ring = np.floor(z / rows[i, 6]) if rows[i, 6] > 0 else np.float32(0)
        angle = (math.atan2(y, x) - rows[i, 5] * z - rows[i, 7] * ring) / width
        stave = np.floor(angle)
        part = angle - stave
        across = math.sqrt(x * x + y * y) * math.cos((part - np.float32(0.5)) * width)
        if rows[i, 8] > 0 and across < rows[i, 8] + rows[i, 9] * (z - rows[i, 10]):
            return int(rows[i, 11]), np.float32(0)
        if math.sqrt(x * x + y * y) * width * min(part, np.float32(1) - part) < rows[i, 1]:
            return int(rows[i, 2]), np.float32(0)
        number = int(stave) % int(rows[i, 0])
        return int(aux[int(rows[i, 3]) + number % int(rows[i, 4])]), np.float32(0.37) * number
    if kind == 5:
        q, w = x * rows[i, 0] + y * rows[i, 1], -x * rows[i, 1] + y * rows[i, 0]
        edge, part, a = rows[i, 2] + rows[i, 3] * (z - rows[i, 5]), rows[i, 4], int(rows[i, 6])
        for o in range(a, a + 9, 3):
            edge += part * _wave(aux[o] * z + aux[o + 1] * w + aux[o + 2])
            part *= np.float32(0.5)
        count = int(rows[i, 9])
        if count > 1:
            place = min(max(z / rows[i, 10], np.float32(0)), np.float32(count - 1))
            n = min(int(place), count - 2)
            low, high = aux[int(rows[i, 8]) + n], aux[int(rows[i, 8]) + n + 1]
            edge += low + (high - low) * (place - n)
        return (int(rows[i, 7]) if q < edge else -1), np.float32(0)
    if kind == 7:
        step = np.float32(2 * math.pi) / rows[i, 2]
        nearest = np.floor((math.atan2(y, x) - rows[i, 4]) / step + np.float32(0.5)) * step + rows[i, 4]
        dx, dy = x - rows[i, 3] * math.cos(nearest), y - rows[i, 3] * math.sin(nearest)
        return (int(rows[i, 1]) if dx * dx + dy * dy < rows[i, 0] else -1), np.float32(0)
    if kind == 9:
        return (int(rows[i, 2]) if _swirl(aux, int(rows[i, 0]), x, y, z) > rows[i, 1] else -1), np.float32(0)
    if kind == 8:
        radius = math.sqrt(x * x + y * y)
        if radius < rows[i, 0]:
            return int(rows[i, 2]), np.float32(0)
        if radius >= rows[i, 1]:
            return int(rows[i, 5]), np.float32(0)
        around, along = math.atan2(y, x) * rows[i, 7] / np.float32(2 * math.pi), np.float32(2) * z / rows[i, 8]
        if rows[i, 6] == 3:
            along *= np.float32(0.5)
            row = min(np.floor((around - np.floor(around)) * rows[i, 10]), rows[i, 10] - np.float32(1))
            column = min(np.floor((along - np.floor(along)) * rows[i, 11]), rows[i, 11] - np.float32(1))
            return int(aux[int(rows[i, 9]) + int(row * rows[i, 11] + column)]), np.float32(0)
        if rows[i, 6] == 0:
            count = np.floor(along)
        elif rows[i, 6] == 1:
            count = np.floor(np.float32(2) * around) + np.floor(along)
        else:
            count = np.floor(along + np.float32(0.6) * _wave(around))
        return int(rows[i, 3]) if int(count) % 2 == 0 else int(rows[i, 4]), np.float32(0)
    return (int(rows[i, 1]) if x * x + y * y < rows[i, 0] * rows[i, 0] else -1), np.float32(0)


@numba.njit(**_OPTIONS)
def _turned(rows, i, x, y, z, number):
    """A slice that was turned, turned back."""
    middle = (number * (rows[i, 4] + rows[i, 5]) + rows[i, 4] * np.float32(0.5) + rows[i, 3]) / rows[i, 2]
    z -= middle
    turn = int(rows[i, 7])
    a, b, c = (rows[i, 8], rows[i, 9], rows[i, 10]) if turn == 3 else (rows[i, 0], rows[i, 1], rows[i, 2])
    dot = x * a + y * b + z * c
    if turn == 1:
        return dot * a + y * c - z * b, dot * b + z * a - x * c, dot * c + x * b - y * a + middle
    return 2 * dot * a - x, 2 * dot * b - y, 2 * dot * c - z + middle


@numba.njit(**_OPTIONS)
def _rare(kind, rows, i, aux, x, y, z):
    """The work steps that seldom occur; keeps the common loop small. Returns material (-1: none), x, y, z, phase."""
    zero = np.float32(0)
    if kind == 11:
        q = x * rows[i, 0] + y * rows[i, 1]
        depth = (
            math.sqrt((rows[i, 2] - q) * (rows[i, 2] - q) + (z - rows[i, 4]) * (z - rows[i, 4]))
            - rows[i, 3]
            - rows[i, 5]
        )
        start, count = int(rows[i, 8]), int(rows[i, 9])
        if depth >= rows[i, 6]:
            return -1, x, y, (z - rows[i, 7] if z >= rows[i, 4] else z + rows[i, 7]), zero
        if count > 0 and depth >= 0:
            layer = _layer(aux, start, count, depth)
            return int(aux[start + count + layer]), x, y, z, np.float32(0.37) * layer
        return -1, x, y, z, zero
    if kind == 12:
        t = x * rows[i, 0] + y * rows[i, 1] + z * rows[i, 2] - rows[i, 3]
        number = np.floor(t / (rows[i, 4] + rows[i, 6]))
        if t - number * (rows[i, 4] + rows[i, 6]) >= rows[i, 4]:
            return int(rows[i, 11]), x, y, z, zero
        back = number * (rows[i, 5] - rows[i, 6])
        x, y, z = x + back * rows[i, 0], y + back * rows[i, 1], z + back * rows[i, 2]
        if int(number) % 2 != 0:
            x, y, z = _turned(rows, i, x, y, z, number)
        return -1, x, y, z, zero
    if kind == 13:
        q, w = x * rows[i, 0] + y * rows[i, 1], -x * rows[i, 1] + y * rows[i, 0]
        if q < 0:
            q -= rows[i, 2] * np.float32(0.5)
        elif int(rows[i, 3]) == 1:
            q, w, z = q + rows[i, 2] * np.float32(0.5), -w, rows[i, 4] - z
        else:
            q, w = rows[i, 5] - q, -w
        return -1, q * rows[i, 0] - w * rows[i, 1], q * rows[i, 1] + w * rows[i, 0], z, zero
    if kind == 14:
        px, py, pz = x - rows[i, 3], y - rows[i, 4], z - rows[i, 5]
        along = px * rows[i, 0] + py * rows[i, 1] + pz * rows[i, 2]
        inside = px * px + py * py + pz * pz - along * along < rows[i, 6]
        return (int(rows[i, 7]) if inside else -1), x, y, z, zero
    q, w, z = x * rows[i, 0] + y * rows[i, 1], -x * rows[i, 1] + y * rows[i, 0], z - rows[i, 5]
    q, z = q * rows[i, 2] - z * rows[i, 3], q * rows[i, 3] + z * rows[i, 2] + rows[i, 5] + rows[i, 4]
    return -1, q * rows[i, 0] - w * rows[i, 1], q * rows[i, 1] + w * rows[i, 0], z, zero


@numba.njit(**_OPTIONS)
def _cut_chunk(rows, i, aux, x, y, z, material, phase, depth):
    """One plane cut over a chunk; `depth` is scratch."""
    nx, ny, nz, d = rows[i, 0], rows[i, 1], rows[i, 2], rows[i, 3] + rows[i, 4]
    sheet, mx, my, mz = rows[i, 5], rows[i, 6], rows[i, 7], rows[i, 8]
    start, count, limit, ux, uy = int(rows[i, 9]), int(rows[i, 10]), rows[i, 11], rows[i, 12], rows[i, 13]
    for p in range(material.size):
        depth[p] = x[p] * nx + y[p] * ny + z[p] * nz - d
    below = np.float32(0)
    for layer in range(count):
        above = sheet if layer == count - 1 else min(aux[start + layer], sheet)
        code, shade = np.uint8(aux[start + count + layer]), np.float32(0.37) * layer
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


@numba.njit(**_OPTIONS)
def _point_chunk(kind, rows, i, aux, x, y, z, material, phase, dyes):
    """Any other row over a chunk, point by point."""
    for p in range(material.size):
        if material[p] != UNDECIDED:
            continue
        found, shade = -1, np.float32(0)
        if kind < 10:
            found, shade = _stock(kind, rows, i, aux, x[p], y[p], z[p])
        elif kind == 15:
            inside = min(min(rows[i, 1] - abs(x[p]), rows[i, 2] - abs(y[p])), min(z[p], rows[i, 3] - z[p]))
            if inside < rows[i, 0]:
                dyes[p] |= np.int64(1) << np.int64(rows[i, 6])
        else:
            found, x[p], y[p], z[p], shade = _rare(kind, rows, i, aux, x[p], y[p], z[p])
        if found >= 0:
            material[p] = found
            phase[p] = shade


@numba.njit(**_OPTIONS)
def _solid_chunk(rows, i, x, z, material):
    code, c, s = np.uint8(rows[i, 0]), rows[i, 1], rows[i, 2]
    for p in range(material.size):
        here = material[p] == UNDECIDED
        turned = x[p] * c - z[p] * s
        z[p] = x[p] * s + z[p] * c if here else z[p]
        x[p] = turned if here else x[p]
        material[p] = code if here else material[p]


@numba.njit(**_OPTIONS)
def _tone_chunk(x, y, z, phase, tone):
    for p in range(tone.size):
        lean = _wave(z[p] * np.float32(0.0137) + phase[p])
        dx = x[p] + np.float32(31.0) + np.float32(2.5) * lean
        dy = y[p] + np.float32(12.0) + phase[p] * np.float32(7.0)
        ring = np.sqrt(dx * dx + dy * dy)
        fine = _wave(
            ring * np.float32(0.93) + np.float32(0.21) * _wave(z[p] * np.float32(0.041) + y[p] * np.float32(0.09))
        )
        tone[p] = np.float32(0.62) * _wave(ring * np.float32(0.29) + phase[p]) + np.float32(0.38) * fine


@numba.njit(**_OPTIONS)
def _dye_chunk(kinds, rows, aux, dyes, material):
    """The dye that was done first is applied first: it stands last among the rows."""
    for i in range(len(kinds) - 1, -1, -1):
        if kinds[i] == 15:
            start, places, number = int(rows[i, 4]), int(rows[i, 5]), np.int64(rows[i, 6])
            for p in range(material.size):
                if (dyes[p] >> number) & 1 and material[p] < places:
                    material[p] = np.uint8(aux[start + material[p]])


@numba.njit(parallel=True, **_OPTIONS)
def _run(kinds, rows, aux, points, material, tone):
    count = points.shape[1]
    for chunk in numba.prange((count + CHUNK - 1) // CHUNK):
        lo, hi = chunk * CHUNK, min((chunk + 1) * CHUNK, count)
        x, y, z = points[0, lo:hi].copy(), points[1, lo:hi].copy(), points[2, lo:hi].copy()
        m, t = material[lo:hi], tone[lo:hi]
        phase, dyes = np.zeros(hi - lo, np.float32), np.zeros(hi - lo, np.int64)
        m[:] = UNDECIDED
        for i in range(kinds.shape[0]):
            if kinds[i] == 10:
                _cut_chunk(rows, i, aux, x, y, z, m, phase, t)
            elif kinds[i] == 1:
                _solid_chunk(rows, i, x, z, m)
            elif kinds[i] == 4:
                _cast_chunk(rows, i, aux, x, y, z, m, phase)
            else:
                _point_chunk(kinds[i], rows, i, aux, x, y, z, m, phase, dyes)
        _dye_chunk(kinds, rows, aux, dyes, m)
        _tone_chunk(x, y, z, phase, t)
