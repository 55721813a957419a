"""From steps to a program: each step becomes one row or a few, the last step first.

`compiled(steps, section)` raises `NothingToDoError` where the list cannot make a bar. A new kind of step adds its
function here and its name in `_WORK` or `_STOCK`.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache
from typing import Any

import numpy as np

from orvek.documents import (
    ArcStep,
    CastStep,
    Cup,
    CutStep,
    DyeStep,
    InsertStep,
    Known,
    LaminateStep,
    Layer,
    Material,
    PlugStep,
    ReorientStep,
    RipStep,
    RoundStep,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
    material,
    missing_stock,
)
from orvek.errors import NothingToDoError
from orvek.workpiece.columns import columns_of
from orvek.workpiece.lengths import starts_mm, staves_hole_mm
from orvek.workpiece.optics import passes
from orvek.workpiece.program import COLUMNS, MOST_MATERIALS, Kind, Program
from orvek.workpiece.waves import edge_waves, swirl_pattern, swirl_waves

_SEEN_INTO = 0.08  # a colour that lets less through in a millimetre is drawn as if it hid everything
_OTHER_SEED = 40_000  # so that chips do not lie where the swirl round them turns
_CHIP_WAVE_MM = 14.0  # how long the pattern is whose peaks are the chips, at scale 1
_TURNS = {"90": 1.0, "180": 2.0, "end for end": 3.0}
_STOCKS = (CastStep, SolidStep, LaminateStep, StackStep, StavesStep, WrapStep)


class Compiler:
    """Collects rows, materials and the aux table of one blank."""

    def __init__(self, width_mm: float, depth_mm: float, length_mm: float, is_round: bool) -> None:
        self.width_mm, self.depth_mm, self.length_mm, self.is_round = width_mm, depth_mm, length_mm, is_round
        self.kinds: list[int] = []
        self.rows: list[list[float]] = []
        self.aux: list[float] = []
        self.materials: list[Material] = []
        self.gone: set[int] = set()  # woods of which a dye that goes all the way through has left nothing as it was
        self.dye_number = 0  # how many dyes came before this part's

    def row(self, kind: Kind, *columns: float) -> None:
        """Append a row; its values in the order of columns.py."""
        if len(columns) != columns_of(kind.name):
            raise ValueError(f"a row {kind.name} has {columns_of(kind.name)} columns, not {len(columns)}")
        self.kinds.append(int(kind))
        self.rows.append([*columns, *([0.0] * (COLUMNS - len(columns)))])

    def put(self, values: Any) -> float:
        """Append to the aux table; returns where it begins."""
        start = len(self.aux)
        self.aux.extend(float(value) for value in np.asarray(values, dtype=float).ravel())
        return float(start)

    def index(self, key: str) -> float:
        """The index of a material of the catalogue in this program."""
        return self.own(material(key))

    def own(self, wanted: Material) -> float:
        """The index of any material in this program."""
        for place, known in enumerate(self.materials):
            if known is wanted or (known.key == wanted.key and known == wanted):
                return float(place)
        if len(self.materials) >= MOST_MATERIALS:
            return float(self._nearest(wanted))
        self.materials.append(wanted)
        return float(len(self.materials) - 1)

    def _nearest(self, wanted: Material) -> int:
        """Of the materials there are, the one that looks most like another for which there is no room."""
        alike = [n for n, known in enumerate(self.materials) if known.look == wanted.look]
        return min(alike or range(len(self.materials)), key=lambda n: _far(self.materials[n].colour, wanted.colour))

    def layers(self, layers: tuple[Layer, ...], glue_mm: float, ends: bool) -> tuple[float, float, float]:
        """Bounds and materials of a pile of layers with glue between them (and outside, with `ends`).

        Returns:
            aux start, count and total thickness; aux holds all upper bounds, then all materials.
        """
        pile: list[tuple[float, float]] = []
        glue = (glue_mm, self.index("glue")) if glue_mm > 0 else None
        for n, layer in enumerate(layers):
            if glue and (n or ends):
                pile.append(glue)
            pile.append((layer.thickness_mm, self.index(layer.material)))
        if glue and ends:
            pile.append(glue)
        bounds = np.cumsum([thickness for thickness, _ in pile])
        start = self.put(bounds)
        self.put([index for _, index in pile])
        return start, float(len(pile)), float(bounds[-1]) if pile else 0.0


def compiled(
    steps: tuple[Step, ...], width_mm: float, depth_mm: float, length_mm: float, is_round: bool = False
) -> Program:
    """Compile the steps of a blank on a bar that has this size when they are done.

    Raises:
        NothingToDoError: the first step is no stock, or a slab is laid into no casting.
    """
    missing = missing_stock(steps)
    if missing:
        raise NothingToDoError(*missing)
    stock = next(n for n, step in enumerate(steps) if isinstance(step, _STOCKS))
    compiler = Compiler(width_mm, depth_mm, length_mm, is_round)
    before = starts_mm(steps, length_mm)
    # Materials of the stock come first, so that a dye knows all that it may meet.
    later = zip(steps[stock + 1 :], before[stock + 1 :], strict=True)
    work = [(step, long) for step, long in later if not isinstance(step, (*_STOCKS, InsertStep))]
    stock_part = Compiler(width_mm, depth_mm, before[stock], is_round)
    stock_part.materials, stock_part.aux = compiler.materials, compiler.aux
    for step in (*steps[:stock], steps[stock]):
        _STOCK[type(step)](stock_part, step)
    parts = []
    dyes = 0
    for step, long in work:
        part = Compiler(width_mm, depth_mm, long, is_round)
        part.materials, part.aux, part.gone = compiler.materials, compiler.aux, compiler.gone
        part.dye_number = dyes
        dyes += isinstance(step, DyeStep)
        _WORK[type(step)](part, step)
        parts.append(part)
    for part in (*reversed(parts), stock_part):
        compiler.kinds += part.kinds
        compiler.rows += part.rows
    return _program(compiler)


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
        ring_mm=3.0,
        clearness_per_mm=clearness,
    )


def _program(compiler: Compiler) -> Program:
    arrays = (
        np.asarray(compiler.kinds, dtype=np.int32),
        np.asarray(compiler.rows, dtype=np.float32).reshape(-1, COLUMNS),
        np.asarray(compiler.aux or [0.0], dtype=np.float32),
    )
    for array in arrays:
        array.setflags(write=False)
    kinds, rows, aux = arrays
    return Program(
        kinds,
        rows,
        aux,
        tuple(compiler.materials),
        compiler.width_mm,
        compiler.depth_mm,
        compiler.length_mm,
        compiler.is_round,
        len(compiler.materials) >= MOST_MATERIALS,
    )


# -- stock -----------------------------------------------------------------------------------------------------


def _solid(compiler: Compiler, step: SolidStep) -> None:
    grain = math.radians(step.grain_deg)
    compiler.row(Kind.SOLID, compiler.index(step.material), math.cos(grain), math.sin(grain))


def _laminate(compiler: Compiler, step: LaminateStep) -> None:
    start, count, total = compiler.layers(step.strips, step.glue_mm, ends=False)
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    n = (math.cos(angle) * math.cos(azimuth), math.cos(angle) * math.sin(azimuth), math.sin(angle))
    offset = n[2] * compiler.length_mm / 2 - total / 2
    compiler.row(Kind.LAYERED, *n, offset, start, count, total, 1.0)


def _stack(compiler: Compiler, step: StackStep) -> None:
    start, count, total = compiler.layers(step.pieces, step.glue_mm, ends=False)
    compiler.row(Kind.LAYERED, 0, 0, 1, 0, start, count, total, 0.0)


def _staves(compiler: Compiler, step: StavesStep) -> None:
    start = compiler.put([compiler.index(key) for key in step.materials])
    glue = compiler.index("glue")
    twist, turn = math.radians(step.twist_deg) / 100, math.radians(step.ring_turn_deg)
    hole = staves_hole_mm(step, compiler.width_mm)
    grows, middle = math.tan(math.radians(step.taper_deg)), compiler.length_mm / 2
    inside = compiler.index(step.inside) if step.thickness_mm > 0 else 0.0
    staves = (step.count, step.glue_mm / 2, glue, start, len(step.materials))
    compiler.row(Kind.STAVES, *staves, twist, step.ring_mm, turn, hole, grows if hole > 0 else 0.0, middle, inside)


def _wrap(compiler: Compiler, step: WrapStep) -> None:
    outer = step.core_mm / 2 + step.sheet_mm
    keys = (step.core, step.one, step.other, step.over)
    pattern = {"bands": 0.0, "checks": 1.0, "waves": 2.0, "picture": 3.0}[step.pattern]
    indices = [compiler.index(key) for key in keys]
    picture = (0.0, 0.0, 0.0)
    if step.pattern == "picture" and step.picture is not None:
        inks = [compiler.own(_printed(colour)) for colour in step.picture.colours]
        dots = [[inks[int(digit, 16)] for digit in row] for row in step.picture.rows]
        picture = (compiler.put(dots), float(len(dots)), float(len(dots[0])))
    elif step.pattern == "picture":
        pattern = 0.0  # bands until a picture has been chosen
    compiler.row(Kind.WRAP, step.core_mm / 2, outer, *indices, pattern, step.around, step.pitch_mm, *picture)


def _cast(compiler: Compiler, step: CastStep) -> None:
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


def _chips(compiler: Compiler, seed: int, chip_mm: float, share: float, index: float) -> None:
    """Pieces that fill a share of the bar: the peaks of a pattern of their own."""
    chips = (seed, chip_mm / _CHIP_WAVE_MM, 1.0, 1.0)
    size = (compiler.width_mm, compiler.depth_mm, compiler.length_mm)
    threshold = float(np.quantile(_levels(chips, *size), 1 - share))
    compiler.row(Kind.CHIPS, compiler.put(swirl_waves(*chips)), threshold, index)


def _insert(compiler: Compiler, step: InsertStep) -> None:
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


# -- work ------------------------------------------------------------------------------------------------------


def _cut(compiler: Compiler, step: CutStep) -> None:
    start, count, sheet = compiler.layers(step.sheet, step.glue_mm, ends=True) if step.sheet else (0.0, 0.0, 0.0)
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
    shift = tuple(moved * m for m in move)
    compiler.row(Kind.CUT, *n, d, -step.kerf_mm / 2, sheet, *shift, start, count, limit, *u)


def _arc(compiler: Compiler, step: ArcStep) -> None:
    start, count, sheet = compiler.layers(step.sheet, step.glue_mm, ends=True) if step.sheet else (0.0, 0.0, 0.0)
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


def _slice(compiler: Compiler, step: SliceStep) -> None:
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    u = (math.cos(azimuth), math.sin(azimuth))
    n = (math.cos(angle) * u[0], math.cos(angle) * u[1], math.sin(angle))
    across = (-math.sin(azimuth), math.cos(azimuth), 0.0)
    thickness = step.pitch_mm * n[2]
    spacer = compiler.index(step.spacer)
    compiler.row(Kind.SLICE, *n, 0.0, thickness, step.kerf_mm, step.glue_mm, _TURNS[step.turn], *across, spacer)


def _rip(compiler: Compiler, step: RipStep) -> None:
    azimuth = math.radians(step.azimuth_deg)
    flip = 1.0 if step.flip == "end for end" else 2.0
    half = compiler.width_mm / 2
    compiler.row(Kind.RIP, math.cos(azimuth), math.sin(azimuth), step.kerf_mm, flip, compiler.length_mm, half)


def _plug(compiler: Compiler, step: PlugStep) -> None:
    azimuth = math.radians(step.azimuth_deg)
    u, v = (math.cos(azimuth), math.sin(azimuth)), (-math.sin(azimuth), math.cos(azimuth))
    index, squared = compiler.index(step.material), (step.diameter_mm / 2) ** 2
    if step.way == "across":
        place = (step.offset_mm * v[0], step.offset_mm * v[1], step.centre_mm)
        compiler.row(Kind.PLUG, *u, 0.0, *place, squared, index)
    else:
        compiler.row(Kind.PLUG, 0, 0, 1, step.offset_mm * u[0], step.offset_mm * u[1], 0, squared, index)


def _dye(compiler: Compiler, step: DyeStep) -> None:
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
    compiler.row(Kind.DYE, step.depth_mm, *size, start, len(pairs), compiler.dye_number)


def _reorient(compiler: Compiler, step: ReorientStep) -> None:
    angle, azimuth = math.radians(step.angle_deg), math.radians(step.azimuth_deg)
    middle = compiler.length_mm / 2
    compiler.row(
        Kind.REORIENT, math.cos(azimuth), math.sin(azimuth), math.cos(angle), math.sin(angle), step.shift_mm, middle
    )


def _bounds_only(_compiler: Compiler, _step: RoundStep | SquareStep) -> None:
    """Changes how much is left of the bar, not what it is made of: planning knows."""


_STOCK: dict[type, Callable[[Compiler, Any], None]] = {
    SolidStep: _solid,
    LaminateStep: _laminate,
    StackStep: _stack,
    StavesStep: _staves,
    WrapStep: _wrap,
    CastStep: _cast,
    InsertStep: _insert,
}
_WORK: dict[type, Callable[[Compiler, Any], None]] = {
    CutStep: _cut,
    ArcStep: _arc,
    SliceStep: _slice,
    RipStep: _rip,
    PlugStep: _plug,
    DyeStep: _dye,
    RoundStep: _bounds_only,
    SquareStep: _bounds_only,
    ReorientStep: _reorient,
}


@lru_cache(maxsize=32)
def _levels(swirl: tuple[int, float, float, float], width_mm: float, depth_mm: float, length_mm: float) -> Any:
    """The swirl's pattern at 20,000 points of the bar, to find which level a share ends at."""
    points = np.random.default_rng(0).random((3, 20_000)) - 0.5
    x, y, z = points[0] * width_mm, points[1] * depth_mm, (points[2] + 0.5) * length_mm
    return swirl_pattern(swirl_waves(*swirl), x, y, z)


def _printed(colour: str) -> Material:
    paper = material("paper")
    return paper.with_(key=f"print {colour}", name=f"Print {colour}", colour=colour, second=colour)


def _far(one: str, other: str) -> int:
    """How unlike two colours are."""
    return sum(abs(int(one[n : n + 2], 16) - int(other[n : n + 2], 16)) for n in (1, 3, 5))


def _lighter(colour: str) -> str:
    parts = [int(colour[n : n + 2], 16) for n in (1, 3, 5)]
    return "#" + "".join(f"{min(255, part + (255 - part) // 4):02x}" for part in parts)


def _dyed(there: Material, step: DyeStep) -> Material:
    def mixed(colour: str) -> str:
        pairs = [(int(colour[n : n + 2], 16), int(step.colour[n : n + 2], 16)) for n in (1, 3, 5)]
        return "#" + "".join(f"{round(old + (new - old) * step.strength):02x}" for old, new in pairs)

    name = f"{there.name}, dyed"[:80]
    return there.with_(key=f"dyed {there.key}"[:80], name=name, colour=mixed(there.colour), second=mixed(there.second))
