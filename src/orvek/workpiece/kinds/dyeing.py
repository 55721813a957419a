"""Dyes: every wood has a dyed twin, to a depth."""

from __future__ import annotations

import numpy as np

from orvek.documents import DyeStep, Material
from orvek.workpiece import columns as col
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State


def _dye_rows(compiler: Compiler, step: DyeStep) -> None:
    """Every wood there is by now has a dyed twin; what is hard and tight stays as it is."""
    through = step.depth_mm >= min(compiler.width_mm, compiler.depth_mm) / 2
    pairs = [float(index) for index in range(len(compiler.materials))]
    for index, there in enumerate(list(compiler.materials)):
        if there.look == "wood" and index not in compiler.gone:
            pairs[index] = compiler.own(_dyed(there, step))
            if through and pairs[index] != index:
                compiler.gone.add(index)
    compiler.gone -= {int(index) for index in pairs if index >= len(pairs)}
    start, size = compiler.put(pairs), (compiler.width_mm / 2, compiler.depth_mm / 2, compiler.length_mm)
    ends = step.end_depth_mm if step.end_depth_mm is not None else step.depth_mm
    compiler.row(Kind.DYE, step.depth_mm, *size, start, len(pairs), compiler.dye_number, ends, float(compiler.is_round))


def _dyed(there: Material, step: DyeStep) -> Material:
    def mixed(colour: str) -> str:
        pairs = [(int(colour[n : n + 2], 16), int(step.colour[n : n + 2], 16)) for n in (1, 3, 5)]
        return "#" + "".join(f"{round(old + (new - old) * step.strength):02x}" for old, new in pairs)

    name = f"{there.name}, dyed"[:80]
    return there.with_(key=f"dyed {there.key}"[:80], name=name, colour=mixed(there.colour), second=mixed(there.second))


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _dye_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    if r[col.DYE_ROUND] > 0:
        inside = r[col.DYE_HALF_WIDTH] - np.hypot(s.x, s.y)
    else:
        inside = np.minimum(r[col.DYE_HALF_WIDTH] - np.abs(s.x), r[col.DYE_HALF_DEPTH] - np.abs(s.y))
    end = np.minimum(s.z, r[col.DYE_LENGTH] - s.z)
    s.dyes[s.open & ((inside < r[col.DYE_DEPTH]) | (end < r[col.DYE_END_DEPTH]))] |= 1 << int(r[col.DYE_NUMBER])


KINDS: dict[type, StepKind] = {
    DyeStep: StepKind(_dye_rows),
}
CASES: dict[Kind, Case] = {
    Kind.DYE: _dye_case,
}
