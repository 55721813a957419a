"""Bars made of solid pieces: one bar, strips side by side, pieces end to end, staves."""

from __future__ import annotations

import math

import numpy as np

from orvek.documents import LaminateStep, SolidStep, StackStep, StavesStep
from orvek.workpiece import columns as col
from orvek.workpiece.grain import LAYER_PHASE, STACK_PHASE
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.lengths import staves_hole_mm
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State


def _solid_rows(compiler: Compiler, step: SolidStep) -> None:
    grain = math.radians(step.grain_deg)
    compiler.row(Kind.SOLID, compiler.index(step.material), math.cos(grain), math.sin(grain))


def _laminate_rows(compiler: Compiler, step: LaminateStep) -> None:
    start, count, total = compiler.layers(step.strips, step.glue_mm, ends=False)
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    n = (math.cos(angle) * math.cos(azimuth), math.cos(angle) * math.sin(azimuth), math.sin(angle))
    offset = n[2] * compiler.length_mm / 2 - total / 2
    compiler.row(Kind.LAYERED, *n, offset, start, count, total, 1.0)


def _stack_rows(compiler: Compiler, step: StackStep) -> None:
    start, count, total = compiler.layers(step.pieces, step.glue_mm, ends=False)
    compiler.row(Kind.LAYERED, 0, 0, 1, 0, start, count, total, 0.0)


def _staves_rows(compiler: Compiler, step: StavesStep) -> None:
    start = compiler.put([compiler.index(key) for key in step.materials])
    glue = compiler.index("glue")
    twist, turn = math.radians(step.twist_deg) / 100, math.radians(step.ring_turn_deg)
    hole = staves_hole_mm(step, compiler.width_mm)
    grows, middle = math.tan(math.radians(step.taper_deg)), compiler.length_mm / 2
    inside = compiler.index(step.inside) if step.thickness_mm > 0 else 0.0
    staves = (step.count, step.glue_mm / 2, glue, start, len(step.materials))
    compiler.row(Kind.STAVES, *staves, twist, step.ring_mm, turn, hole, grows if hole > 0 else 0.0, middle, inside)


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _solid_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    x, z = s.x * r[col.SOLID_COS] - s.z * r[col.SOLID_SIN], s.x * r[col.SOLID_SIN] + s.z * r[col.SOLID_COS]
    here = s.open
    s.x, s.z = np.where(here, x, s.x), np.where(here, z, s.z)
    s.decide(here, r[col.SOLID_MATERIAL], 0.0)


def _layered_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    start, count, total = int(r[col.LAYERED_START]), int(r[col.LAYERED_COUNT]), r[col.LAYERED_TOTAL]
    t = s.x * r[col.LAYERED_NX] + s.y * r[col.LAYERED_NY] + s.z * r[col.LAYERED_NZ] - r[col.LAYERED_OFFSET]
    sheet = np.floor(t / total) if r[col.LAYERED_PERIODIC] else np.zeros_like(t)
    t = t - sheet * total
    layer = np.minimum(np.searchsorted(aux[start : start + count], t, side="right"), count - 1)
    s.decide(s.open, aux[start + count + layer], LAYER_PHASE * layer + STACK_PHASE * sheet)


def _staves_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
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
    s.decide(
        s.open, aux[int(r[col.STAVES_START]) + np.mod(number, r[col.STAVES_KEYS]).astype(int)], LAYER_PHASE * number
    )


KINDS: dict[type, StepKind] = {
    SolidStep: StepKind(_solid_rows),
    LaminateStep: StepKind(_laminate_rows, layers="strips"),
    StackStep: StepKind(_stack_rows, layers="pieces"),
    StavesStep: StepKind(_staves_rows),
}
CASES: dict[Kind, Case] = {
    Kind.SOLID: _solid_case,
    Kind.LAYERED: _layered_case,
    Kind.STAVES: _staves_case,
}
