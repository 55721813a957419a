"""How the bar lies, and how much is left of it."""

from __future__ import annotations

import math

import numpy as np

from orvek.documents import ReorientStep, RoundStep, SquareStep
from orvek.workpiece import columns as col
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State


def _reorient_rows(compiler: Compiler, step: ReorientStep) -> None:
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    middle = compiler.length_mm / 2
    seen, turned = (math.cos(azimuth), math.sin(azimuth)), (math.cos(angle), math.sin(angle))
    compiler.row(Kind.REORIENT, *seen, *turned, step.shift_mm, middle, step.across_mm)


def _bounds_only_rows(_compiler: Compiler, _step: RoundStep | SquareStep) -> None:
    """Changes how much is left of the bar, not what it is made of: planning knows."""


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _reorient_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.REORIENT_COS] + s.y * r[col.REORIENT_SIN], -s.x * r[col.REORIENT_SIN] + s.y * r[col.REORIENT_COS]
    z = s.z - r[col.REORIENT_MIDDLE]
    q, z = (
        q * r[col.REORIENT_TURN_COS] - z * r[col.REORIENT_TURN_SIN] + r[col.REORIENT_ACROSS],
        q * r[col.REORIENT_TURN_SIN] + z * r[col.REORIENT_TURN_COS] + r[col.REORIENT_MIDDLE] + r[col.REORIENT_SHIFT],
    )
    here = s.open
    x, y = q * r[col.REORIENT_COS] - w * r[col.REORIENT_SIN], q * r[col.REORIENT_SIN] + w * r[col.REORIENT_COS]
    s.x, s.y, s.z = np.where(here, x, s.x), np.where(here, y, s.y), np.where(here, z, s.z)


KINDS: dict[type, StepKind] = {
    RoundStep: StepKind(_bounds_only_rows),
    SquareStep: StepKind(_bounds_only_rows),
    ReorientStep: StepKind(_reorient_rows),
}
CASES: dict[Kind, Case] = {
    Kind.REORIENT: _reorient_case,
}
