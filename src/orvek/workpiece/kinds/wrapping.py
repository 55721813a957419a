"""A printed sheet round a core."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from orvek.documents import Material, WrapStep, material
from orvek.workpiece import columns as col
from orvek.workpiece.artwork import proof
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State
from orvek.workpiece.waves import wave


def _wrap_rows(compiler: Compiler, step: WrapStep) -> None:
    outer = step.core_mm / 2 + step.sheet_mm
    keys = (step.core, step.one, step.other, step.over)
    pattern = {"bands": 0.0, "checks": 1.0, "waves": 2.0, "picture": 3.0}[step.pattern]
    indices = [compiler.index(key) for key in keys]
    picture = (0.0, 0.0, 0.0)
    shown = proof(step.artwork) if step.pattern == "picture" and step.artwork is not None else None
    if shown is not None:
        inks = np.array(compiler.inks([_printed(colour) for colour in shown.colours]), dtype=np.uint8)
        dots = inks[shown.dots if step.stands == "along the bar" else np.rot90(shown.dots)]
        picture = (compiler.put_dots(dots), float(dots.shape[0]), float(dots.shape[1]))
        indices[1] = compiler.index("paper")
    elif step.pattern == "picture":
        pattern = 0.0  # bands until a picture has been chosen
    placed = (step.shift_mm, step.seam_deg / 360, 1.0 if step.times == "once" else 0.0)
    compiler.row(Kind.WRAP, step.core_mm / 2, outer, *indices, pattern, step.around, step.pitch_mm, *picture, *placed)


@lru_cache(maxsize=1024)
def _printed(colour: str) -> Material:
    paper = material("paper")
    return paper.with_(key=f"print {colour}", name=f"Print {colour}", colour=colour, second=colour)


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _wrap_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    radius = np.hypot(s.x, s.y)
    s.decide(radius < r[col.WRAP_CORE], r[col.WRAP_CORE_MATERIAL], 0.0)
    s.decide(radius >= r[col.WRAP_OUTER], r[col.WRAP_OVER], 0.0)
    around = (np.arctan2(s.y, s.x) / (2 * np.pi) - r[col.WRAP_TURN]) * r[col.WRAP_AROUND]
    along = (s.z - r[col.WRAP_SHIFT]) / r[col.WRAP_PITCH]
    if r[col.WRAP_PATTERN] == 3:
        row, column = (
            np.floor((around - np.floor(around)) * r[col.WRAP_ROWS]),
            np.floor((along - np.floor(along)) * r[col.WRAP_COLUMNS]),
        )
        dot = np.minimum(row, r[col.WRAP_ROWS] - 1) * r[col.WRAP_COLUMNS] + np.minimum(column, r[col.WRAP_COLUMNS] - 1)
        if r[col.WRAP_ONCE]:
            s.decide((along < 0) | (along >= 1), r[col.WRAP_ONE], 0.0)
        s.decide(s.open, s.dots[int(r[col.WRAP_PICTURE]) + dot.astype(int)], 0.0)
        return
    if r[col.WRAP_PATTERN] == 0:
        count = np.floor(2 * along)
    elif r[col.WRAP_PATTERN] == 1:
        count = np.floor(2 * around) + np.floor(2 * along)
    else:
        count = np.floor(2 * along + 0.6 * wave(around))
    s.decide(s.open, np.where(np.mod(count, 2) == 0, r[col.WRAP_ONE], r[col.WRAP_OTHER]), 0.0)


KINDS: dict[type, StepKind] = {
    WrapStep: StepKind(_wrap_rows),
}
CASES: dict[Kind, Case] = {
    Kind.WRAP: _wrap_case,
}
