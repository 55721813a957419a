"""A hole, filled."""

from __future__ import annotations

import math

from orvek.documents import PlugStep
from orvek.workpiece import columns as col
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.lengths import reach_mm
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State

_RIGHT_THROUGH = -1e6  # a floor so far below that no bar reaches it


def _plug_rows(compiler: Compiler, step: PlugStep) -> None:
    azimuth = math.radians(step.azimuth_deg)
    u, v = (math.cos(azimuth), math.sin(azimuth)), (-math.sin(azimuth), math.cos(azimuth))
    index, squared = compiler.index(step.material), (step.diameter_mm / 2) ** 2
    if step.way == "across":
        face = reach_mm(compiler.width_mm, compiler.depth_mm, step.azimuth_deg, is_round=compiler.is_round)
        floor = _RIGHT_THROUGH if step.deep_mm is None else face - step.deep_mm
        place = (step.offset_mm * v[0], step.offset_mm * v[1], step.centre_mm)
        compiler.row(Kind.PLUG, *u, 0.0, *place, squared, index, floor, step.diameter_mm / step.along_mm)
    else:
        floor = _RIGHT_THROUGH if step.deep_mm is None else -step.deep_mm
        compiler.row(Kind.PLUG, 0, 0, -1, step.offset_mm * u[0], step.offset_mm * u[1], 0, squared, index, floor, 1)


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _plug_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    x, y, z = s.x - r[col.PLUG_PX], s.y - r[col.PLUG_PY], (s.z - r[col.PLUG_PZ]) * r[col.PLUG_STRETCH]
    along = x * r[col.PLUG_DX] + y * r[col.PLUG_DY] + z * r[col.PLUG_DZ]
    inside = x * x + y * y + z * z - along * along < r[col.PLUG_RADIUS_SQUARED]
    s.decide(inside & (along >= r[col.PLUG_FLOOR]), r[col.PLUG_MATERIAL], 0.0)


KINDS: dict[type, StepKind] = {
    PlugStep: StepKind(_plug_rows, set_by=(("stop", "centre_mm"),)),
}
CASES: dict[Kind, Case] = {
    Kind.PLUG: _plug_case,
}
