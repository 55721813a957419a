"""At the mould: the cups of a pour as one field, and what is laid into it."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

import numpy as np

from orvek.documents import CastStep, Cup, InsertStep, Known, Material
from orvek.workpiece import columns as col
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.optics import passes
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State
from orvek.workpiece.waves import GROUPS, OCTAVES, WAVE, edge_waves, swirl_pattern, swirl_waves, wave

_SEEN_INTO = 0.08  # a colour that lets less through in a millimetre is drawn as if it hid everything


_OTHER_SEED = 40_000  # so that chips do not lie where the swirl round them turns


_CHIP_WAVE_MM = 14.0  # how long the pattern is whose peaks are the chips, at scale 1


def cup_material(cup: Cup) -> Material:
    """A cup's colour as a material: pearl where a pearl goes in, clear where nothing does."""
    kinds = {dose.pigment.kind for dose in cup.pigments if dose.load_pct > 0}
    look = "pearl" if kinds & {"pearl", "flake"} else "clear" if not kinds else "resin"
    clearness = 0.75 if not kinds else min(0.75, passes(cup, 1.0))
    clearness = clearness if clearness > _SEEN_INTO else 0.0
    known = Known(value=1.1, standing="practice", source="typical of resins")
    return Material(
        key=f"cup {cup.name}"[:80],
        name=cup.name,
        look=look,
        colour=cup.colour,
        second=_lighter(cup.colour),
        density_g_ml=known,
        clearness_per_mm=clearness,
    )


def _cast_rows(compiler: Compiler, step: CastStep) -> None:
    cups = step.cups
    if not cups:
        compiler.row(Kind.SOLID, compiler.index("clear-resin"), 1.0, 0.0)
        return
    first = [compiler.own(cup_material(cup)) for cup in cups]
    if step.style == "chips" and len(cups) > 1:
        _chips(
            compiler, step.seed + _OTHER_SEED, step.chip_mm, cups[0].share / sum(cup.share for cup in cups), first[0]
        )
        cups, first = cups[1:], first[1:]
    shares = np.cumsum([cup.share for cup in cups]) / sum(cup.share for cup in cups)
    swirl = (step.seed, step.scale, step.stretch, step.contrast)
    table = swirl_waves(*swirl)
    waves = compiler.put(table)
    size = (compiler.width_mm, compiler.depth_mm, compiler.length_mm)
    borders = shares[:-1] if step.style == "layers" else np.quantile(_levels(swirl, *size), shares[:-1])
    thresholds = compiler.put(borders)
    compiler.put(first)
    compiler.row(Kind.CAST, len(cups), waves, thresholds, step.style == "layers", compiler.depth_mm)


def _insert_rows(compiler: Compiler, step: InsertStep) -> None:
    index = compiler.index(step.material)
    if step.form == "core":
        compiler.row(Kind.CORE, step.diameter_mm / 2, index)
        return
    azimuth = math.radians(step.azimuth_deg)
    if step.form == "rods":
        compiler.row(Kind.RODS, (step.diameter_mm / 2) ** 2, index, step.rods, step.ring_mm, azimuth)
        return
    if step.form == "chips":
        _chips(compiler, step.seed, step.chip_mm, step.chips_pct / 100, index)
        return
    waves = compiler.put(edge_waves(step.seed))
    slope = math.tan(math.radians(step.slope_deg))
    middle = compiler.length_mm / 2
    line, count = compiler.put(step.line_mm or (0.0,)), float(len(step.line_mm))
    spacing = compiler.length_mm / max(1.0, count - 1)
    u = (math.cos(azimuth), math.sin(azimuth))
    compiler.row(Kind.EDGE, *u, step.middle_mm, slope, step.rough_mm, middle, waves, index, line, count, spacing)


def _chips(compiler: Compiler, seed: int, chip_mm: float, share: float, index: float) -> None:
    """Pieces that fill a share of the bar: the peaks of a pattern of their own."""
    chips = (seed, chip_mm / _CHIP_WAVE_MM, 1.0, 1.0)
    size = (compiler.width_mm, compiler.depth_mm, compiler.length_mm)
    threshold = float(np.quantile(_levels(chips, *size), 1 - share))
    compiler.row(Kind.CHIPS, compiler.put(swirl_waves(*chips)), threshold, index)


@lru_cache(maxsize=32)
def _levels(swirl: tuple[int, float, float, float], width_mm: float, depth_mm: float, length_mm: float) -> Any:
    """The swirl's pattern at 20,000 points of the bar, to find which level a share ends at."""
    points = np.random.default_rng(0).random((3, 20_000)) - 0.5
    x, y, z = points[0] * width_mm, points[1] * depth_mm, (points[2] + 0.5) * length_mm
    return swirl_pattern(swirl_waves(*swirl), x, y, z)


def _lighter(colour: str) -> str:
    parts = [int(colour[n : n + 2], 16) for n in (1, 3, 5)]
    return "#" + "".join(f"{min(255, part + (255 - part) // 4):02x}" for part in parts)


# -- the reference, row by row: the points of a finished blank carried back ------------------------------------


def _cast_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
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


def _edge_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    q, w = s.x * r[col.EDGE_COS] + s.y * r[col.EDGE_SIN], -s.x * r[col.EDGE_SIN] + s.y * r[col.EDGE_COS]
    edge = r[col.EDGE_MIDDLE] + r[col.EDGE_SLOPE] * (s.z - r[col.EDGE_Z_MIDDLE])
    for octave in range(OCTAVES):
        k, across, phase = aux[int(r[col.EDGE_WAVES]) + 3 * octave : int(r[col.EDGE_WAVES]) + 3 * octave + 3]
        edge = edge + r[col.EDGE_ROUGH] * 0.5**octave * wave(k * s.z + across * w + phase)
    if r[col.EDGE_POINTS] > 1:
        line = aux[int(r[col.EDGE_LINE]) : int(r[col.EDGE_LINE]) + int(r[col.EDGE_POINTS])]
        edge = edge + np.interp(s.z / r[col.EDGE_SPACING], np.arange(line.size), line)
    s.decide(q < edge, r[col.EDGE_MATERIAL], 0.0)


def _chips_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    waves = aux[int(r[col.CHIPS_WAVES]) : int(r[col.CHIPS_WAVES]) + GROUPS * OCTAVES * WAVE].reshape(
        GROUPS, OCTAVES, WAVE
    )
    s.decide(swirl_pattern(waves, s.x, s.y, s.z) > r[col.CHIPS_THRESHOLD], r[col.CHIPS_MATERIAL], 0.0)


def _core_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    s.decide(s.x**2 + s.y**2 < r[col.CORE_RADIUS] ** 2, r[col.CORE_MATERIAL], 0.0)


def _rods_case(s: State, r: Floats, _aux: Floats, _i: int) -> None:
    step = 2 * np.pi / r[col.RODS_COUNT]
    nearest = np.floor((np.arctan2(s.y, s.x) - r[col.RODS_AZIMUTH]) / step + 0.5) * step + r[col.RODS_AZIMUTH]
    s.decide(
        (s.x - r[col.RODS_RING] * np.cos(nearest)) ** 2 + (s.y - r[col.RODS_RING] * np.sin(nearest)) ** 2
        < r[col.RODS_RADIUS_SQUARED],
        r[col.RODS_MATERIAL],
        0.0,
    )


KINDS: dict[type, StepKind] = {
    CastStep: StepKind(_cast_rows),
    InsertStep: StepKind(_insert_rows),
}
CASES: dict[Kind, Case] = {
    Kind.CAST: _cast_case,
    Kind.EDGE: _edge_case,
    Kind.CHIPS: _chips_case,
    Kind.CORE: _core_case,
    Kind.RODS: _rods_case,
}
