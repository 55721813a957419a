"""At the saw: cuts and arcs with their sheets, slices, rips."""

from __future__ import annotations

import math

import numpy as np

from orvek.documents import ArcStep, CutStep, RipStep, SliceStep
from orvek.workpiece import columns as col
from orvek.workpiece.grain import LAYER_PHASE
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State

_TURNS = {"90": 1.0, "180": 2.0, "end for end": 3.0}


def _let_in(compiler: Compiler, step: CutStep | ArcStep) -> tuple[float, float, float]:
    """The layers of a sheet: aux start, count, thickness; a bonded one has glue on its two outsides only."""
    if not step.sheet:
        return 0.0, 0.0, 0.0
    return compiler.layers(step.sheet, step.glue_mm, ends=True, between=step.sheet_form == "single layers")


def _cut_rows(compiler: Compiler, step: CutStep) -> None:
    start, count, sheet = _let_in(compiler, step)
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    u = (math.cos(azimuth), math.sin(azimuth))
    n = (math.cos(angle) * u[0], math.cos(angle) * u[1], math.sin(angle))
    d = n[2] * step.centre_mm
    limit = -math.inf
    moved = sheet - step.kerf_mm
    if step.tab_mm > 0:
        # Nothing moves; the sheet fills the kerf down to the tab on the far side.
        half = abs(u[0]) * compiler.width_mm / 2 + abs(u[1]) * compiler.depth_mm / 2
        limit, moved = -half + step.tab_mm, 0.0
        sheet = step.kerf_mm
    move = n if step.register_by == "normal" else (0.0, 0.0, 1 / n[2])
    if step.register_by == "normal" and moved:
        # The halves no longer lie flush; what both have is squared up, and its middle is the bar's axis from then on.
        compiler.row(Kind.REORIENT, *u, 1.0, 0.0, 0.0, 0.0, moved * math.cos(angle) / 2)
    down = (-n[2] * u[0], -n[2] * u[1], math.cos(angle))  # the slope of the cut: in its plane, and in that of the axis
    slip = 0.0 if step.tab_mm > 0 else step.slip_mm  # a tab keeps the halves where they were
    shift = tuple(moved * m + slip * d for m, d in zip(move, down, strict=True))
    compiler.row(Kind.CUT, *n, d, -step.kerf_mm / 2, sheet, *shift, start, count, limit, *u)


def _arc_rows(compiler: Compiler, step: ArcStep) -> None:
    start, count, sheet = _let_in(compiler, step)
    azimuth = math.radians(step.azimuth_deg)
    compiler.row(
        Kind.ARC,
        math.cos(azimuth),
        math.sin(azimuth),
        step.distance_mm,
        step.radius_mm,
        step.centre_mm,
        -step.kerf_mm / 2,
        sheet,
        sheet - step.kerf_mm,
        start,
        count,
    )


def _slice_rows(compiler: Compiler, step: SliceStep) -> None:
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    u = (math.cos(azimuth), math.sin(azimuth))
    n = (math.cos(angle) * u[0], math.cos(angle) * u[1], math.sin(angle))
    across = (-math.sin(azimuth), math.cos(azimuth), 0.0)
    thickness = step.pitch_mm * n[2]
    spacer = compiler.index(step.spacer)
    compiler.row(Kind.SLICE, *n, 0.0, thickness, step.kerf_mm, step.glue_mm, _TURNS[step.turn], *across, spacer)


def _rip_rows(compiler: Compiler, step: RipStep) -> None:
    azimuth = math.radians(step.azimuth_deg)
    flip = 1.0 if step.flip == "end for end" else 2.0
    # The bar as it was before the saw: a kerf wider across the rip than it is when the halves are together again.
    across = abs(math.cos(azimuth)) * compiler.width_mm + abs(math.sin(azimuth)) * compiler.depth_mm
    half = (across + step.kerf_mm) / 2
    # The half that slid leaves a step at both ends; the bar begins where both halves are.
    slid = max(0.0, step.shift_mm), max(0.0, -step.shift_mm)
    compiler.row(Kind.RIP, math.cos(azimuth), math.sin(azimuth), step.kerf_mm, flip, compiler.length_mm, half, *slid)


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _cut_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    depth = s.x * r[col.CUT_NX] + s.y * r[col.CUT_NY] + s.z * r[col.CUT_NZ] - r[col.CUT_D] - r[col.CUT_LOW]
    reached = s.x * r[col.CUT_UX] + s.y * r[col.CUT_UY] > r[col.CUT_LIMIT]
    start, count = int(r[col.CUT_START]), int(r[col.CUT_COUNT])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        inside = (depth >= 0) & (depth < r[col.CUT_SHEET]) & reached
        s.decide(inside, aux[start + count + layer], LAYER_PHASE * layer)
    high = s.open & (depth >= r[col.CUT_SHEET])
    s.x, s.y, s.z = (
        v - np.where(high, m, 0.0) for v, m in zip((s.x, s.y, s.z), r[col.CUT_MX : col.CUT_MZ + 1], strict=True)
    )


def _arc_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q = s.x * r[col.ARC_COS] + s.y * r[col.ARC_SIN]
    depth = np.hypot(r[col.ARC_DISTANCE] - q, s.z - r[col.ARC_Z0]) - r[col.ARC_RADIUS] - r[col.ARC_LOW]
    start, count = int(r[col.ARC_START]), int(r[col.ARC_COUNT])
    if count:
        layer = np.minimum(np.searchsorted(aux[start : start + count], depth, side="right"), count - 1)
        s.decide((depth >= 0) & (depth < r[col.ARC_SHEET]), aux[start + count + layer], LAYER_PHASE * layer)
    high = s.open & (depth >= r[col.ARC_SHEET])
    s.z = s.z - np.where(high, np.where(s.z >= r[col.ARC_Z0], r[col.ARC_MOVE], -r[col.ARC_MOVE]), 0.0)


def _slice_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    n, u = r[col.SLICE_NX : col.SLICE_NZ + 1], r[col.SLICE_UX : col.SLICE_UZ + 1]
    t = s.x * n[0] + s.y * n[1] + s.z * n[2] - r[col.SLICE_START]
    number = np.floor(t / (r[col.SLICE_SLICE] + r[col.SLICE_GAP]))
    inside = t - number * (r[col.SLICE_SLICE] + r[col.SLICE_GAP])
    s.decide(inside >= r[col.SLICE_SLICE], r[col.SLICE_MATERIAL], 0.0)
    here = s.open
    back = number * (r[col.SLICE_KERF] - r[col.SLICE_GAP])
    # Closed along the axis, so that the bar stays straight however the slices lean.
    point = [s.x, s.y, s.z + back / n[2]]
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


def _rip_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.RIP_COS] + s.y * r[col.RIP_SIN], -s.x * r[col.RIP_SIN] + s.y * r[col.RIP_COS]
    high = s.open & (q >= 0)
    # The two halves meet where the kerf was: each has lost half of it.
    if int(r[col.RIP_FLIP]) == 1:
        across, along, z = q + r[col.RIP_KERF] / 2, -w, r[col.RIP_LENGTH] - s.z - r[col.RIP_SLID]
    else:
        across, along, z = r[col.RIP_HALF] - q, -w, s.z + r[col.RIP_SLID]
    low = q - r[col.RIP_KERF] / 2
    across = np.where(high, across, low)
    along = np.where(high, along, w)
    here = s.open
    x, y = across * r[col.RIP_COS] - along * r[col.RIP_SIN], across * r[col.RIP_SIN] + along * r[col.RIP_COS]
    s.x, s.y = np.where(here, x, s.x), np.where(here, y, s.y)
    s.z = np.where(high, z, np.where(here, s.z + r[col.RIP_LEFT], s.z))


_PLANE = (("angle", "angle_deg"), ("stop", "centre_mm"), ("kerf", "kerf_mm"), ("index", "azimuth_deg"))
KINDS: dict[type, StepKind] = {
    CutStep: StepKind(
        _cut_rows,
        set_by=(*_PLANE, ("slip", "slip_mm")),
        layers="sheet",
    ),
    ArcStep: StepKind(
        _arc_rows, set_by=(("stop", "centre_mm"), ("kerf", "kerf_mm"), ("index", "azimuth_deg")), layers="sheet"
    ),
    SliceStep: StepKind(_slice_rows, set_by=(("stop", "pitch_mm"), ("kerf", "kerf_mm"), ("index", "azimuth_deg"))),
    RipStep: StepKind(_rip_rows, set_by=(("kerf", "kerf_mm"), ("slip", "shift_mm"))),
}
CASES: dict[Kind, Case] = {
    Kind.CUT: _cut_case,
    Kind.ARC: _arc_case,
    Kind.SLICE: _slice_case,
    Kind.RIP: _rip_case,
}
