"""The plain NumPy reading of a program: the reference that the compiled kernel is held to, and its stand-in.

Each row is a function from the state of all points to the same state carried one step back.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

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
            start, places, number = (int(value) for value in program.rows[index, 4:7])
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
    x, z = s.x * r[1] - s.z * r[2], s.x * r[2] + s.z * r[1]
    here = s.open
    s.x, s.z = np.where(here, x, s.x), np.where(here, z, s.z)
    s.decide(here, r[0], 0.0)


def _layered(s: State, r: Floats, aux: Floats, _i: int) -> None:
    start, count, total = int(r[4]), int(r[5]), r[6]
    t = s.x * r[0] + s.y * r[1] + s.z * r[2] - r[3]
    sheet = np.floor(t / total) if r[7] else np.zeros_like(t)
    t = t - sheet * total
    layer = np.minimum(np.searchsorted(aux[start : start + count], t, side="right"), count - 1)
    s.decide(s.open, aux[start + count + layer], 0.37 * layer + 0.61 * sheet)


def _staves(s: State, r: Floats, aux: Floats, _i: int) -> None:
    width = 2 * np.pi / r[0]
    ring = np.floor(s.z / r[6]) if r[6] > 0 else np.zeros_like(s.z)
    angle = (np.arctan2(s.y, s.x) - r[5] * s.z - r[7] * ring) / width
    stave = np.floor(angle)
    radius = np.hypot(s.x, s.y)
    edge = radius * width * np.minimum(angle - stave, 1 - (angle - stave))
    number = np.mod(stave, r[0])
    apothem = r[8] + r[9] * (s.z - r[10])
    s.decide((r[8] > 0) & (radius * np.cos((angle - stave - 0.5) * width) < apothem), r[11], 0.0)
    s.decide(edge < r[1], r[2], 0.0)
    s.decide(s.open, aux[int(r[3]) + np.mod(number, r[4]).astype(int)], 0.37 * number)


def _cast(s: State, r: Floats, aux: Floats, _i: int) -> None:
    cups, start = int(r[0]), int(r[2])
    if r[3]:
        level = s.y / r[4] + 0.5
    else:
        waves = aux[int(r[1]) : int(r[1]) + GROUPS * OCTAVES * WAVE].reshape(GROUPS, OCTAVES, WAVE)
        level = swirl_pattern(waves, s.x, s.y, s.z)
    cup = np.searchsorted(aux[start : start + cups - 1], level, side="right")
    s.decide(s.open, aux[start + cups - 1 + cup], 0.2 * level)


def _edge(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q, w = s.x * r[0] + s.y * r[1], -s.x * r[1] + s.y * r[0]
    edge = r[2] + r[3] * (s.z - r[5])
    for octave in range(OCTAVES):
        k, across, phase = aux[int(r[6]) + 3 * octave : int(r[6]) + 3 * octave + 3]
        edge = edge + r[4] * 0.5**octave * wave(k * s.z + across * w + phase)
    if r[9] > 1:
        line = aux[int(r[8]) : int(r[8]) + int(r[9])]
        edge = edge + np.interp(s.z / r[10], np.arange(line.size), line)
    s.decide(q < edge, r[7], 0.0)


def _chips(s: State, r: Floats, aux: Floats, _i: int) -> None:
    waves = aux[int(r[0]) : int(r[0]) + GROUPS * OCTAVES * WAVE].reshape(GROUPS, OCTAVES, WAVE)
    s.decide(swirl_pattern(waves, s.x, s.y, s.z) > r[1], r[2], 0.0)


def _core(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    s.decide(s.x**2 + s.y**2 < r[0] ** 2, r[1], 0.0)


def _rods(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    step = 2 * np.pi / r[2]
    nearest = np.floor((np.arctan2(s.y, s.x) - r[4]) / step + 0.5) * step + r[4]
    s.decide((s.x - r[3] * np.cos(nearest)) ** 2 + (s.y - r[3] * np.sin(nearest)) ** 2 < r[0], r[1], 0.0)


def _wrap(s: State, r: Floats, aux: Floats, _i: int) -> None:
    radius = np.hypot(s.x, s.y)
    s.decide(radius < r[0], r[2], 0.0)
    s.decide(radius >= r[1], r[5], 0.0)
    around, along = np.arctan2(s.y, s.x) * r[7] / (2 * np.pi), s.z / r[8]
    if r[6] == 3:
        row, column = np.floor((around - np.floor(around)) * r[10]), np.floor((along - np.floor(along)) * r[11])
        dot = np.minimum(row, r[10] - 1) * r[11] + np.minimum(column, r[11] - 1)
        s.decide(s.open, aux[int(r[9]) + dot.astype(int)], 0.0)
        return
    if r[6] == 0:
        count = np.floor(2 * along)
    elif r[6] == 1:
        count = np.floor(2 * around) + np.floor(2 * along)
    else:
        count = np.floor(2 * along + 0.6 * wave(around))
    s.decide(s.open, np.where(np.mod(count, 2) == 0, r[3], r[4]), 0.0)


def _cut(s: State, r: Floats, aux: Floats, _i: int) -> None:
    depth = s.x * r[0] + s.y * r[1] + s.z * r[2] - r[3] - r[4]
    reached = s.x * r[12] + s.y * r[13] > r[11]
    start, count = int(r[9]), int(r[10])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        inside = (depth >= 0) & (depth < r[5]) & reached
        s.decide(inside, aux[start + count + layer], 0.37 * layer)
    high = s.open & (depth >= r[5])
    s.x, s.y, s.z = (v - np.where(high, m, 0.0) for v, m in zip((s.x, s.y, s.z), r[6:9], strict=True))


def _arc(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q = s.x * r[0] + s.y * r[1]
    depth = np.hypot(r[2] - q, s.z - r[4]) - r[3] - r[5]
    start, count = int(r[8]), int(r[9])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        s.decide((depth >= 0) & (depth < r[6]), aux[start + count + layer], 0.37 * layer)
    high = s.open & (depth >= r[6])
    s.z = s.z - np.where(high, np.where(s.z >= r[4], r[7], -r[7]), 0.0)


def _slice(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    n, u = r[0:3], r[8:11]
    t = s.x * n[0] + s.y * n[1] + s.z * n[2] - r[3]
    number = np.floor(t / (r[4] + r[6]))
    inside = t - number * (r[4] + r[6])
    s.decide(inside >= r[4], r[11], 0.0)
    here = s.open
    back = number * (r[5] - r[6])
    point = [v + back * m for v, m in zip((s.x, s.y, s.z), n, strict=True)]
    middle = (number * (r[4] + r[5]) + r[4] / 2 + r[3]) / n[2]
    turned = _turned(point, middle, n, u, int(r[7]))
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
    q, w = s.x * r[0] + s.y * r[1], -s.x * r[1] + s.y * r[0]
    high = s.open & (q >= 0)
    # The two halves meet where the kerf was: each has lost half of it.
    if int(r[3]) == 1:
        across, along, z = q + r[2] / 2, -w, r[4] - s.z
    else:
        across, along, z = r[5] - q, -w, s.z
    low = q - r[2] / 2
    across = np.where(high, across, low)
    along = np.where(high, along, w)
    here = s.open
    x, y = across * r[0] - along * r[1], across * r[1] + along * r[0]
    s.x, s.y = np.where(here, x, s.x), np.where(here, y, s.y)
    s.z = np.where(high, z, s.z)


def _plug(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    x, y, z = s.x - r[3], s.y - r[4], s.z - r[5]
    along = x * r[0] + y * r[1] + z * r[2]
    s.decide(x * x + y * y + z * z - along * along < r[6], r[7], 0.0)


def _dye(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    inside = np.minimum(np.minimum(r[1] - np.abs(s.x), r[2] - np.abs(s.y)), np.minimum(s.z, r[3] - s.z))
    s.dyes[s.open & (inside < r[0])] |= 1 << int(r[6])


def _reorient(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    q, w = s.x * r[0] + s.y * r[1], -s.x * r[1] + s.y * r[0]
    z = s.z - r[5]
    q, z = q * r[2] - z * r[3], q * r[3] + z * r[2] + r[5] + r[4]
    here = s.open
    x, y = q * r[0] - w * r[1], q * r[1] + w * r[0]
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
