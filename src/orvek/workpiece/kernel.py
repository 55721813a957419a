"""The compiled reading of a program: a chunk of points at a time, small enough to stay close to the processor.

Within a chunk each row runs over all points. Plane cuts, by far the commonest, and the tone are written without
branches, so that the compiler can do eight points at once; the other rows go point by point.
It does what reference.py does, row for row; tests hold it to that. It takes a second or two to load, so it is
loaded in the background (`load_kernel`), and its machine code is kept in the user's cache folder.
"""

from __future__ import annotations

import math
import threading
from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.photographed import ROUND_EDGE
from orvek.workpiece.program import UNDECIDED, Kind, Program, Sample
from orvek.workpiece.waves import BEND_MM, STRETCH

# Machine code knows plain numbers only.
ARC, CAST, CHIPS, CUT, DYE, EDGE, LAYERED, PHOTO, PLUG, RIP, RODS, SLICE, SOLID, STAVES, WRAP = (
    int(Kind.ARC),
    int(Kind.CAST),
    int(Kind.CHIPS),
    int(Kind.CUT),
    int(Kind.DYE),
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
    cups, w, start = int(rows[i, col.CAST_CUPS]), int(rows[i, col.CAST_WAVES]), int(rows[i, col.CAST_START])
    layered, depth = rows[i, col.CAST_LAYERED] != 0, rows[i, col.CAST_DEPTH]
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
def _photo(rows, i, aux, dots, x, y, z):
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
    return int(dots[found])


@numba.njit(**_OPTIONS)
def _stock(kind, rows, i, aux, dots, x, y, z):
    """Material (-1 where the point is not in this piece) and phase."""
    if kind == LAYERED:
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
        layer = _layer(aux, start, count, t)
        return int(aux[start + count + layer]), np.float32(0.37) * layer + np.float32(0.61) * sheet
    if kind == PHOTO:
        return _photo(rows, i, aux, dots, x, y, z), np.float32(0)
    if kind == STAVES:
        width = np.float32(2 * math.pi) / rows[i, col.STAVES_COUNT]
        ring = np.floor(z / rows[i, col.STAVES_RING]) if rows[i, col.STAVES_RING] > 0 else np.float32(0)
        angle = (math.atan2(y, x) - rows[i, col.STAVES_TWIST] * z - rows[i, col.STAVES_RING_TURN] * ring) / width
        stave = np.floor(angle)
        part = angle - stave
        across = math.sqrt(x * x + y * y) * math.cos((part - np.float32(0.5)) * width)
        if rows[i, col.STAVES_HOLE] > 0 and across < rows[i, col.STAVES_HOLE] + rows[i, col.STAVES_GROWS] * (
            z - rows[i, col.STAVES_MIDDLE]
        ):
            return int(rows[i, col.STAVES_INSIDE]), np.float32(0)
        if math.sqrt(x * x + y * y) * width * min(part, np.float32(1) - part) < rows[i, col.STAVES_HALF_GLUE]:
            return int(rows[i, col.STAVES_GLUE]), np.float32(0)
        number = int(stave) % int(rows[i, col.STAVES_COUNT])
        return int(aux[int(rows[i, col.STAVES_START]) + number % int(rows[i, col.STAVES_KEYS])]), np.float32(
            0.37
        ) * number
    if kind == EDGE:
        q, w = (
            x * rows[i, col.EDGE_COS] + y * rows[i, col.EDGE_SIN],
            -x * rows[i, col.EDGE_SIN] + y * rows[i, col.EDGE_COS],
        )
        edge, part, a = (
            rows[i, col.EDGE_MIDDLE] + rows[i, col.EDGE_SLOPE] * (z - rows[i, col.EDGE_Z_MIDDLE]),
            rows[i, col.EDGE_ROUGH],
            int(rows[i, col.EDGE_WAVES]),
        )
        for o in range(a, a + 9, 3):
            edge += part * _wave(aux[o] * z + aux[o + 1] * w + aux[o + 2])
            part *= np.float32(0.5)
        count = int(rows[i, col.EDGE_POINTS])
        if count > 1:
            place = min(max(z / rows[i, col.EDGE_SPACING], np.float32(0)), np.float32(count - 1))
            n = min(int(place), count - 2)
            low, high = aux[int(rows[i, col.EDGE_LINE]) + n], aux[int(rows[i, col.EDGE_LINE]) + n + 1]
            edge += low + (high - low) * (place - n)
        return (int(rows[i, col.EDGE_MATERIAL]) if q < edge else -1), np.float32(0)
    if kind == RODS:
        step = np.float32(2 * math.pi) / rows[i, col.RODS_COUNT]
        nearest = (
            np.floor((math.atan2(y, x) - rows[i, col.RODS_AZIMUTH]) / step + np.float32(0.5)) * step
            + rows[i, col.RODS_AZIMUTH]
        )
        dx, dy = x - rows[i, col.RODS_RING] * math.cos(nearest), y - rows[i, col.RODS_RING] * math.sin(nearest)
        return (
            int(rows[i, col.RODS_MATERIAL]) if dx * dx + dy * dy < rows[i, col.RODS_RADIUS_SQUARED] else -1
        ), np.float32(0)
    if kind == CHIPS:
        return (
            int(rows[i, col.CHIPS_MATERIAL])
            if _swirl(aux, int(rows[i, col.CHIPS_WAVES]), x, y, z) > rows[i, col.CHIPS_THRESHOLD]
            else -1
        ), np.float32(0)
    if kind == WRAP:
        radius = math.sqrt(x * x + y * y)
        if radius < rows[i, col.WRAP_CORE]:
            return int(rows[i, col.WRAP_CORE_MATERIAL]), np.float32(0)
        if radius >= rows[i, col.WRAP_OUTER]:
            return int(rows[i, col.WRAP_OVER]), np.float32(0)
        around, along = (
            (math.atan2(y, x) / np.float32(2 * math.pi) - rows[i, col.WRAP_TURN]) * rows[i, col.WRAP_AROUND],
            np.float32(2) * (z - rows[i, col.WRAP_SHIFT]) / rows[i, col.WRAP_PITCH],
        )
        if rows[i, col.WRAP_PATTERN] == 3:
            along *= np.float32(0.5)
            if rows[i, col.WRAP_ONCE] != 0 and (along < 0 or along >= 1):
                return int(rows[i, col.WRAP_ONE]), np.float32(0)
            row = min(
                np.floor((around - np.floor(around)) * rows[i, col.WRAP_ROWS]), rows[i, col.WRAP_ROWS] - np.float32(1)
            )
            column = min(
                np.floor((along - np.floor(along)) * rows[i, col.WRAP_COLUMNS]),
                rows[i, col.WRAP_COLUMNS] - np.float32(1),
            )
            dot = int(rows[i, col.WRAP_PICTURE]) + int(row) * int(rows[i, col.WRAP_COLUMNS]) + int(column)
            return int(dots[dot]), np.float32(0)
        if rows[i, col.WRAP_PATTERN] == 0:
            count = np.floor(along)
        elif rows[i, col.WRAP_PATTERN] == 1:
            count = np.floor(np.float32(2) * around) + np.floor(along)
        else:
            count = np.floor(along + np.float32(0.6) * _wave(around))
        return int(rows[i, col.WRAP_ONE]) if int(count) % 2 == 0 else int(rows[i, col.WRAP_OTHER]), np.float32(0)
    return (
        int(rows[i, col.CORE_MATERIAL]) if x * x + y * y < rows[i, col.CORE_RADIUS] * rows[i, col.CORE_RADIUS] else -1
    ), np.float32(0)


@numba.njit(**_OPTIONS)
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


@numba.njit(**_OPTIONS)
def _rare(kind, rows, i, aux, x, y, z):
    """The work steps that seldom occur; keeps the common loop small. Returns material (-1: none), x, y, z, phase."""
    zero = np.float32(0)
    if kind == ARC:
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
            return (
                -1,
                x,
                y,
                (z - rows[i, col.ARC_MOVE] if z >= rows[i, col.ARC_Z0] else z + rows[i, col.ARC_MOVE]),
                zero,
            )
        if count > 0 and depth >= 0:
            layer = _layer(aux, start, count, depth)
            return int(aux[start + count + layer]), x, y, z, np.float32(0.37) * layer
        return -1, x, y, z, zero
    if kind == SLICE:
        t = x * rows[i, col.SLICE_NX] + y * rows[i, col.SLICE_NY] + z * rows[i, col.SLICE_NZ] - rows[i, col.SLICE_START]
        number = np.floor(t / (rows[i, col.SLICE_SLICE] + rows[i, col.SLICE_GAP]))
        if t - number * (rows[i, col.SLICE_SLICE] + rows[i, col.SLICE_GAP]) >= rows[i, col.SLICE_SLICE]:
            return int(rows[i, col.SLICE_MATERIAL]), x, y, z, zero
        back = number * (rows[i, col.SLICE_KERF] - rows[i, col.SLICE_GAP])
        # Closed along the axis, so that the bar stays straight however the slices lean.
        z = z + back / rows[i, col.SLICE_NZ]
        if int(number) % 2 != 0:
            x, y, z = _turned(rows, i, x, y, z, number)
        return -1, x, y, z, zero
    if kind == RIP:
        q, w = x * rows[i, col.RIP_COS] + y * rows[i, col.RIP_SIN], -x * rows[i, col.RIP_SIN] + y * rows[i, col.RIP_COS]
        if q < 0:
            q, z = q - rows[i, col.RIP_KERF] * np.float32(0.5), z + rows[i, col.RIP_LEFT]
        elif int(rows[i, col.RIP_FLIP]) == 1:
            z = rows[i, col.RIP_LENGTH] - z - rows[i, col.RIP_SLID]
            q, w = q + rows[i, col.RIP_KERF] * np.float32(0.5), -w
        else:
            q, w, z = rows[i, col.RIP_HALF] - q, -w, z + rows[i, col.RIP_SLID]
        return (
            -1,
            q * rows[i, col.RIP_COS] - w * rows[i, col.RIP_SIN],
            q * rows[i, col.RIP_SIN] + w * rows[i, col.RIP_COS],
            z,
            zero,
        )
    if kind == PLUG:
        px, py, pz = x - rows[i, col.PLUG_PX], y - rows[i, col.PLUG_PY], z - rows[i, col.PLUG_PZ]
        pz *= rows[i, col.PLUG_STRETCH]
        along = px * rows[i, col.PLUG_DX] + py * rows[i, col.PLUG_DY] + pz * rows[i, col.PLUG_DZ]
        inside = px * px + py * py + pz * pz - along * along < rows[i, col.PLUG_RADIUS_SQUARED]
        inside = inside and along >= rows[i, col.PLUG_FLOOR]
        return (int(rows[i, col.PLUG_MATERIAL]) if inside else -1), x, y, z, zero
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
    return (
        -1,
        q * rows[i, col.REORIENT_COS] - w * rows[i, col.REORIENT_SIN],
        q * rows[i, col.REORIENT_SIN] + w * rows[i, col.REORIENT_COS],
        z,
        zero,
    )


@numba.njit(**_OPTIONS)
def _cut_chunk(rows, i, aux, x, y, z, material, phase, depth):
    """One plane cut over a chunk; `depth` is scratch."""
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
def _point_chunk(kind, rows, i, aux, dots, x, y, z, material, phase, dyes):
    """Any other row over a chunk, point by point."""
    for p in range(material.size):
        if material[p] != UNDECIDED:
            continue
        found, shade = -1, np.float32(0)
        if kind < FIRST_WORK:
            found, shade = _stock(kind, rows, i, aux, dots, x[p], y[p], z[p])
        elif kind == DYE:
            if rows[i, col.DYE_ROUND] > 0:
                inside = rows[i, col.DYE_HALF_WIDTH] - math.sqrt(x[p] * x[p] + y[p] * y[p])
            else:
                inside = min(rows[i, col.DYE_HALF_WIDTH] - abs(x[p]), rows[i, col.DYE_HALF_DEPTH] - abs(y[p]))
            end = min(z[p], rows[i, col.DYE_LENGTH] - z[p])
            if inside < rows[i, col.DYE_DEPTH] or end < rows[i, col.DYE_END_DEPTH]:
                dyes[p] |= np.int64(1) << np.int64(rows[i, col.DYE_NUMBER])
        else:
            found, x[p], y[p], z[p], shade = _rare(kind, rows, i, aux, x[p], y[p], z[p])
        if found >= 0:
            material[p] = found
            phase[p] = shade


@numba.njit(**_OPTIONS)
def _solid_chunk(rows, i, x, z, material):
    code, c, s = np.uint8(rows[i, col.SOLID_MATERIAL]), rows[i, col.SOLID_COS], rows[i, col.SOLID_SIN]
    for p in range(material.size):
        here = material[p] == UNDECIDED
        turned = x[p] * c - z[p] * s
        z[p] = x[p] * s + z[p] * c if here else z[p]
        x[p] = turned if here else x[p]
        material[p] = code if here else material[p]


@numba.njit(**_OPTIONS)
def _tone_chunk(x, y, z, phase, rings, tone):
    for p in range(tone.size):
        lean = _wave(z[p] * np.float32(0.0137) + phase[p])
        dx = x[p] + np.float32(31.0) + np.float32(2.5) * lean
        dy = y[p] + np.float32(12.0) + phase[p] * np.float32(7.0)
        ring = np.sqrt(dx * dx + dy * dy) * rings[p]
        fine = _wave(
            ring * np.float32(0.93) + np.float32(0.21) * _wave(z[p] * np.float32(0.041) + y[p] * np.float32(0.09))
        )
        tone[p] = np.float32(0.62) * _wave(ring * np.float32(0.29) + phase[p]) + np.float32(0.38) * fine


@numba.njit(**_OPTIONS)
def _dye_chunk(kinds, rows, aux, dyes, material):
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


@numba.njit(parallel=True, **_OPTIONS)
def _run(kinds, rows, aux, dots, grain, points, material, tone):
    count = points.shape[1]
    for chunk in numba.prange((count + CHUNK - 1) // CHUNK):
        lo, hi = chunk * CHUNK, min((chunk + 1) * CHUNK, count)
        x, y, z = points[0, lo:hi].copy(), points[1, lo:hi].copy(), points[2, lo:hi].copy()
        m, t = material[lo:hi], tone[lo:hi]
        phase, dyes = np.zeros(hi - lo, np.float32), np.zeros(hi - lo, np.int64)
        m[:] = UNDECIDED
        for i in range(kinds.shape[0]):
            if kinds[i] == CUT:
                _cut_chunk(rows, i, aux, x, y, z, m, phase, t)
            elif kinds[i] == SOLID:
                _solid_chunk(rows, i, x, z, m)
            elif kinds[i] == CAST:
                _cast_chunk(rows, i, aux, x, y, z, m, phase)
            else:
                _point_chunk(kinds[i], rows, i, aux, dots, x, y, z, m, phase, dyes)
        _dye_chunk(kinds, rows, aux, dyes, m)
        rings = np.empty(hi - lo, np.float32)  # looked up by itself: what follows is then done eight points at a time
        for p in range(hi - lo):
            rings[p] = grain[m[p]]
        _tone_chunk(x, y, z, phase, rings, t)
