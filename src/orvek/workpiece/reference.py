"""The plain NumPy reading of a program: the reference that the compiled kernel is held to, and its stand-in.

Each row is a function from the state of all points to the same state carried one step back.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orvek.workpiece import columns as col
from orvek.workpiece.program import UNDECIDED, Kind, Program, Sample
from orvek.workpiece.waves import GROUPS, OCTAVES, WAVE, swirl_pattern, wave

Floats = NDArray[np.float64]


@dataclass(slots=True)
class State:
    """Where the points are by now, and what is known of them."""

    x: Floats
    y: Floats
    z: Floats
    material: NDArray[np.uint8]
    phase: Floats
    dyes: NDArray[np.int64]

    @property
    def open(self) -> NDArray[np.bool_]:
        """Points whose material is not decided yet."""
        return np.asarray(self.material == UNDECIDED)

    def decide(self, where: NDArray[np.bool_], material: NDArray[np.float64] | float, phase: Floats | float) -> None:
        """Set material and tone phase of points that are still open."""
        where = where & self.open
        self.material[where] = np.broadcast_to(material, where.shape)[where].astype(np.uint8)
        self.phase[where] = np.broadcast_to(phase, where.shape)[where]


def evaluate_reference(program: Program, points_mm: NDArray[np.floating]) -> Sample:
    """Material and tone at points.

    Args:
        program: from `compiled`.
        points_mm: (3, n) x, y, z.

    Returns:
        A `Sample` of n materials and tones.
    """
    x, y, z = (np.array(part, dtype=np.float64) for part in points_mm)
    count = x.size
    state = State(x, y, z, np.full(count, UNDECIDED, np.uint8), np.zeros(count), np.zeros(count, dtype=np.int64))
    for index, (kind, row) in enumerate(zip(program.kinds, program.rows.astype(np.float64), strict=True)):
        _CASES[Kind(kind)](state, row, program.aux.astype(np.float64), index)
    _apply_dyes(state, program)
    return Sample(state.material, _tone(state))


def _apply_dyes(state: State, program: Program) -> None:
    """The dye that was done first is applied first: it stands last among the rows."""
    for index in range(len(program.kinds) - 1, -1, -1):
        if program.kinds[index] == Kind.DYE:
            start, places, number = (int(value) for value in program.rows[index, col.DYE_START : col.DYE_NUMBER + 1])
            taken = ((state.dyes >> number) & 1 == 1) & (state.material < places)
            table = program.aux[start : start + places].astype(np.uint8)
            state.material[taken] = table[state.material[taken]]


def _tone(state: State) -> NDArray[np.float32]:
    """Light and dark along the grain: rings about a pith that lies well outside the bar, a little wavy."""
    lean = wave(state.z * 0.0137 + state.phase)
    ring = np.sqrt((state.x + 31.0 + 2.5 * lean) ** 2 + (state.y + 12.0 + state.phase * 7.0) ** 2)
    fine = wave(ring * 0.93 + 0.21 * wave(state.z * 0.041 + state.y * 0.09))
    return (0.62 * wave(ring * 0.29 + state.phase) + 0.38 * fine).astype(np.float32)


def _solid(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    x, z = s.x * r[col.SOLID_COS] - s.z * r[col.SOLID_SIN], s.x * r[col.SOLID_SIN] + s.z * r[col.SOLID_COS]
    here = s.open
    s.x, s.z = np.where(here, x, s.x), np.where(here, z, s.z)
    s.decide(here, r[col.SOLID_MATERIAL], 0.0)


def _layered(s: State, r: Floats, aux: Floats, _i: int) -> None:
    start, count, total = int(r[col.LAYERED_START]), int(r[col.LAYERED_COUNT]), r[col.LAYERED_TOTAL]
    t = s.x * r[col.LAYERED_NX] + s.y * r[col.LAYERED_NY] + s.z * r[col.LAYERED_NZ] - r[col.LAYERED_OFFSET]
    sheet = np.floor(t / total) if r[col.LAYERED_PERIODIC] else np.zeros_like(t)
    t = t - sheet * total
    layer = np.minimum(np.searchsorted(aux[start : start + count], t, side="right"), count - 1)
    s.decide(s.open, aux[start + count + layer], 0.37 * layer + 0.61 * sheet)


def _staves(s: State, r: Floats, aux: Floats, _i: int) -> None:
    width = 2 * np.pi / r[col.STAVES_COUNT]
    ring = np.floor(s.z / r[col.STAVES_RING]) if r[col.STAVES_RING] > 0 else np.zeros_like(s.z)
    angle = (np.arctan2(s.y, s.x) - r[col.STAVES_TWIST] * s.z - r[col.STAVES_RING_TURN] * ring) / width
    stave = np.floor(angle)
    radius = np.hypot(s.x, s.y)
    edge = radius * width * np.minimum(angle - stave, 1 - (angle - stave))
    number = np.mod(stave, r[col.STAVES_COUNT])
    apothem = r[col.STAVES_HOLE] + r[col.STAVES_GROWS] * (s.z - r[col.STAVES_MIDDLE])
    s.decide(
        (r[col.STAVES_HOLE] > 0) & (radius * np.cos((angle - stave - 0.5) * width) < apothem), r[col.STAVES_INSIDE], 0.0
    )
    s.decide(edge < r[col.STAVES_HALF_GLUE], r[col.STAVES_GLUE], 0.0)
    s.decide(s.open, aux[int(r[col.STAVES_START]) + np.mod(number, r[col.STAVES_KEYS]).astype(int)], 0.37 * number)


def _cast(s: State, r: Floats, aux: Floats, _i: int) -> None:
    cups, start = int(r[col.CAST_CUPS]), int(r[col.CAST_START])
    if r[col.CAST_LAYERED]:
        level = s.y / r[col.CAST_DEPTH] + 0.5
    else:
        waves = aux[int(r[col.CAST_WAVES]) : int(r[col.CAST_WAVES]) + GROUPS * OCTAVES * WAVE].reshape(
            GROUPS, OCTAVES, WAVE
        )
        level = swirl_pattern(waves, s.x, s.y, s.z)
    cup = np.searchsorted(aux[start : start + cups - 1], level, side="right")
    s.decide(s.open, aux[start + cups - 1 + cup], 0.2 * level)


def _edge(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.EDGE_COS] + s.y * r[col.EDGE_SIN], -s.x * r[col.EDGE_SIN] + s.y * r[col.EDGE_COS]
    edge = r[col.EDGE_MIDDLE] + r[col.EDGE_SLOPE] * (s.z - r[col.EDGE_Z_MIDDLE])
    for octave in range(OCTAVES):
        k, across, phase = aux[int(r[col.EDGE_WAVES]) + 3 * octave : int(r[col.EDGE_WAVES]) + 3 * octave + 3]
        edge = edge + r[col.EDGE_ROUGH] * 0.5**octave * wave(k * s.z + across * w + phase)
    if r[col.EDGE_POINTS] > 1:
        line = aux[int(r[col.EDGE_LINE]) : int(r[col.EDGE_LINE]) + int(r[col.EDGE_POINTS])]
        edge = edge + np.interp(s.z / r[col.EDGE_SPACING], np.arange(line.size), line)
    s.decide(q < edge, r[col.EDGE_MATERIAL], 0.0)


def _chips(s: State, r: Floats, aux: Floats, _i: int) -> None:
    waves = aux[int(r[col.CHIPS_WAVES]) : int(r[col.CHIPS_WAVES]) + GROUPS * OCTAVES * WAVE].reshape(
        GROUPS, OCTAVES, WAVE
    )
    s.decide(swirl_pattern(waves, s.x, s.y, s.z) > r[col.CHIPS_THRESHOLD], r[col.CHIPS_MATERIAL], 0.0)


def _core(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    s.decide(s.x**2 + s.y**2 < r[col.CORE_RADIUS] ** 2, r[col.CORE_MATERIAL], 0.0)


def _rods(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    step = 2 * np.pi / r[col.RODS_COUNT]
    nearest = np.floor((np.arctan2(s.y, s.x) - r[col.RODS_AZIMUTH]) / step + 0.5) * step + r[col.RODS_AZIMUTH]
    s.decide(
        (s.x - r[col.RODS_RING] * np.cos(nearest)) ** 2 + (s.y - r[col.RODS_RING] * np.sin(nearest)) ** 2
        < r[col.RODS_RADIUS_SQUARED],
        r[col.RODS_MATERIAL],
        0.0,
    )


def _wrap(s: State, r: Floats, aux: Floats, _i: int) -> None:
    radius = np.hypot(s.x, s.y)
    s.decide(radius < r[col.WRAP_CORE], r[col.WRAP_CORE_MATERIAL], 0.0)
    s.decide(radius >= r[col.WRAP_OUTER], r[col.WRAP_OVER], 0.0)
    around, along = np.arctan2(s.y, s.x) * r[col.WRAP_AROUND] / (2 * np.pi), s.z / r[col.WRAP_PITCH]
    if r[col.WRAP_PATTERN] == 3:
        row, column = (
            np.floor((around - np.floor(around)) * r[col.WRAP_ROWS]),
            np.floor((along - np.floor(along)) * r[col.WRAP_COLUMNS]),
        )
        dot = np.minimum(row, r[col.WRAP_ROWS] - 1) * r[col.WRAP_COLUMNS] + np.minimum(column, r[col.WRAP_COLUMNS] - 1)
        s.decide(s.open, aux[int(r[col.WRAP_PICTURE]) + dot.astype(int)], 0.0)
        return
    if r[col.WRAP_PATTERN] == 0:
        count = np.floor(2 * along)
    elif r[col.WRAP_PATTERN] == 1:
        count = np.floor(2 * around) + np.floor(2 * along)
    else:
        count = np.floor(2 * along + 0.6 * wave(around))
    s.decide(s.open, np.where(np.mod(count, 2) == 0, r[col.WRAP_ONE], r[col.WRAP_OTHER]), 0.0)


def _cut(s: State, r: Floats, aux: Floats, _i: int) -> None:
    depth = s.x * r[col.CUT_NX] + s.y * r[col.CUT_NY] + s.z * r[col.CUT_NZ] - r[col.CUT_D] - r[col.CUT_LOW]
    reached = s.x * r[col.CUT_UX] + s.y * r[col.CUT_UY] > r[col.CUT_LIMIT]
    start, count = int(r[col.CUT_START]), int(r[col.CUT_COUNT])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        inside = (depth >= 0) & (depth < r[col.CUT_SHEET]) & reached
        s.decide(inside, aux[start + count + layer], 0.37 * layer)
    high = s.open & (depth >= r[col.CUT_SHEET])
    s.x, s.y, s.z = (
        v - np.where(high, m, 0.0) for v, m in zip((s.x, s.y, s.z), r[col.CUT_MX : col.CUT_MZ + 1], strict=True)
    )


def _arc(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q = s.x * r[col.ARC_COS] + s.y * r[col.ARC_SIN]
    depth = np.hypot(r[col.ARC_DISTANCE] - q, s.z - r[col.ARC_Z0]) - r[col.ARC_RADIUS] - r[col.ARC_LOW]
    start, count = int(r[col.ARC_START]), int(r[col.ARC_COUNT])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        s.decide((depth >= 0) & (depth < r[col.ARC_SHEET]), aux[start + count + layer], 0.37 * layer)
    high = s.open & (depth >= r[col.ARC_SHEET])
    s.z = s.z - np.where(high, np.where(s.z >= r[col.ARC_Z0], r[col.ARC_MOVE], -r[col.ARC_MOVE]), 0.0)


def _slice(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    n, u = r[col.SLICE_NX : col.SLICE_NZ + 1], r[col.SLICE_UX : col.SLICE_UZ + 1]
    t = s.x * n[0] + s.y * n[1] + s.z * n[2] - r[col.SLICE_START]
    number = np.floor(t / (r[col.SLICE_SLICE] + r[col.SLICE_GAP]))
    inside = t - number * (r[col.SLICE_SLICE] + r[col.SLICE_GAP])
    s.decide(inside >= r[col.SLICE_SLICE], r[col.SLICE_MATERIAL], 0.0)
    here = s.open
    back = number * (r[col.SLICE_KERF] - r[col.SLICE_GAP])
    point = [v + back * m for v, m in zip((s.x, s.y, s.z), n, strict=True)]
    middle = (number * (r[col.SLICE_SLICE] + r[col.SLICE_KERF]) + r[col.SLICE_SLICE] / 2 + r[col.SLICE_START]) / n[2]
    turned = _turned(point, middle, n, u, int(r[col.SLICE_TURN]))
    odd = np.mod(number, 2) == 1
    s.x, s.y, s.z = (
        np.where(here, np.where(odd, new, old), was)
        for new, old, was in zip(turned, point, (s.x, s.y, s.z), strict=True)
    )


def _turned(point: list[Floats], middle: Floats, n: Floats, u: Floats, turn: int) -> tuple[Floats, Floats, Floats]:
    """A quarter or half turn about the normal n, or a half turn about u, through the axis at z = middle."""
    x, y, z = point[0], point[1], point[2] - middle
    axis = u if turn == 3 else n
    dot = x * axis[0] + y * axis[1] + z * axis[2]
    if turn == 1:
        cross = (y * n[2] - z * n[1], z * n[0] - x * n[2], x * n[1] - y * n[0])
        new = [dot * a + c for a, c in zip(axis, cross, strict=True)]
    else:
        new = [2 * dot * a - v for a, v in zip(axis, (x, y, z), strict=True)]
    return new[0], new[1], new[2] + middle


def _rip(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.RIP_COS] + s.y * r[col.RIP_SIN], -s.x * r[col.RIP_SIN] + s.y * r[col.RIP_COS]
    high = s.open & (q >= 0)
    # The two halves meet where the kerf was: each has lost half of it.
    if int(r[col.RIP_FLIP]) == 1:
        across, along, z = q + r[col.RIP_KERF] / 2, -w, r[col.RIP_LENGTH] - s.z
    else:
        across, along, z = r[col.RIP_HALF] - q, -w, s.z
    low = q - r[col.RIP_KERF] / 2
    across = np.where(high, across, low)
    along = np.where(high, along, w)
    here = s.open
    x, y = across * r[col.RIP_COS] - along * r[col.RIP_SIN], across * r[col.RIP_SIN] + along * r[col.RIP_COS]
    s.x, s.y = np.where(here, x, s.x), np.where(here, y, s.y)
    s.z = np.where(high, z, s.z)


def _plug(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    x, y, z = s.x - r[col.PLUG_PX], s.y - r[col.PLUG_PY], s.z - r[col.PLUG_PZ]
    along = x * r[col.PLUG_DX] + y * r[col.PLUG_DY] + z * r[col.PLUG_DZ]
    s.decide(x * x + y * y + z * z - along * along < r[col.PLUG_RADIUS_SQUARED], r[col.PLUG_MATERIAL], 0.0)


def _dye(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    inside = np.minimum(
        np.minimum(r[col.DYE_HALF_WIDTH] - np.abs(s.x), r[col.DYE_HALF_DEPTH] - np.abs(s.y)),
        np.minimum(s.z, r[col.DYE_LENGTH] - s.z),
    )
    s.dyes[s.open & (inside < r[col.DYE_DEPTH])] |= 1 << int(r[col.DYE_NUMBER])


def _reorient(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.REORIENT_COS] + s.y * r[col.REORIENT_SIN], -s.x * r[col.REORIENT_SIN] + s.y * r[col.REORIENT_COS]
    z = s.z - r[col.REORIENT_MIDDLE]
    q, z = (
        q * r[col.REORIENT_TURN_COS] - z * r[col.REORIENT_TURN_SIN],
        q * r[col.REORIENT_TURN_SIN] + z * r[col.REORIENT_TURN_COS] + r[col.REORIENT_MIDDLE] + r[col.REORIENT_SHIFT],
    )
    here = s.open
    x, y = q * r[col.REORIENT_COS] - w * r[col.REORIENT_SIN], q * r[col.REORIENT_SIN] + w * r[col.REORIENT_COS]
    s.x, s.y, s.z = np.where(here, x, s.x), np.where(here, y, s.y), np.where(here, z, s.z)


_CASES: dict[Kind, Callable[[State, Floats, Floats, int], None]] = {
    Kind.SOLID: _solid,
    Kind.LAYERED: _layered,
    Kind.STAVES: _staves,
    Kind.CAST: _cast,
    Kind.EDGE: _edge,
    Kind.CORE: _core,
    Kind.RODS: _rods,
    Kind.WRAP: _wrap,
    Kind.CHIPS: _chips,
    Kind.CUT: _cut,
    Kind.ARC: _arc,
    Kind.SLICE: _slice,
    Kind.RIP: _rip,
    Kind.PLUG: _plug,
    Kind.DYE: _dye,
    Kind.REORIENT: _reorient,
}
