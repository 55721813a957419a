"""The plain NumPy reading of a program: the reference that the compiled kernel is held to, and its stand-in.

Each row is a function from the state of all points to the same state carried one step back; it stands with its kind
of step in `kinds/`.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.workpiece import columns as col
from orvek.workpiece import grain
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
    lean = wave(state.z * grain.LEAN_PER_MM + state.phase)
    across = state.x + grain.PITH_X_MM + grain.LEAN_MM * lean
    ring = np.hypot(across, state.y + grain.PITH_Y_MM + state.phase * grain.PITH_TURN_MM)
    ring = ring * program.grain[state.material]
    wavy = wave(state.z * grain.WAVY_ALONG_PER_MM + state.y * grain.WAVY_UP_PER_MM)
    fine = wave(ring * grain.FINE_PER_MM + grain.WAVY * wavy)
    coarse = wave(ring * grain.RINGS_PER_MM + state.phase)
    return (grain.RING_SHARE * coarse + grain.FINE_SHARE * fine).astype(np.float32)
