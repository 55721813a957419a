"""The plain NumPy reading of a program: the reference that the compiled kernel is held to, and its stand-in.

Each row is a function from the state of all points to the same state carried one step back; it stands with its kind
of step in `kinds/`.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.workpiece import columns as col
from orvek.workpiece.kinds.table import CASES
from orvek.workpiece.program import UNDECIDED, Kind, Program, Sample
from orvek.workpiece.state import State
from orvek.workpiece.waves import wave


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
    undecided, dyes = np.full(count, UNDECIDED, np.uint8), np.zeros(count, dtype=np.int64)
    state = State(x, y, z, undecided, np.zeros(count), dyes, program.dots)
    for index, (kind, row) in enumerate(zip(program.kinds, program.rows.astype(np.float64), strict=True)):
        CASES[Kind(kind)](state, row, program.aux.astype(np.float64), index)
    _apply_dyes(state, program)
    return Sample(state.material, _tone(state, program))


def _apply_dyes(state: State, program: Program) -> None:
    """The dye that was done first is applied first: it stands last among the rows."""
    for index in range(len(program.kinds) - 1, -1, -1):
        if program.kinds[index] == Kind.DYE:
            start, places, number = (int(value) for value in program.rows[index, col.DYE_START : col.DYE_NUMBER + 1])
            taken = ((state.dyes >> number) & 1 == 1) & (state.material < places)
            table = program.aux[start : start + places].astype(np.uint8)
            state.material[taken] = table[state.material[taken]]


def _tone(state: State, program: Program) -> NDArray[np.float32]:
    """Light and dark along the grain: rings about a pith that lies well outside the bar, a little wavy."""
    lean = wave(state.z * 0.0137 + state.phase)
    ring = np.sqrt((state.x + 31.0 + 2.5 * lean) ** 2 + (state.y + 12.0 + state.phase * 7.0) ** 2)
    ring = ring * program.grain[state.material]
    fine = wave(ring * 0.93 + 0.21 * wave(state.z * 0.041 + state.y * 0.09))
    return (0.62 * wave(ring * 0.29 + state.phase) + 0.38 * fine).astype(np.float32)
