"""How the holes may come to lie, to be drawn: as designed, typical, unlucky, as measured, with the ends shortened."""

from __future__ import annotations

import math

from msgspec import Struct
from msgspec.structs import replace

from orvek.planning.bar import barrels_of
from orvek.planning.bore.results import HolePlan
from orvek.planning.results import Plan
from orvek.quantities import Dimension, write
from orvek.workpiece.drifted import Crooked
from orvek.workpiece.outline import TurnedBarrel

_MIDDLE = 0.48  # of what is not passed nineteen times in twenty: half of all holes lie nearer (1.18 σ of 2.45 σ)
_LEFT_MM = 1.0  # of a barrel at least: shortened more, it is drawn as it was


class Case(Struct, frozen=True):
    """One way the holes may lie: in words, as holes, and the barrels that are turned on them."""

    words: str
    holes: tuple[Crooked, ...]
    barrels: tuple[TurnedBarrel, ...]


def cases(plan: Plan) -> tuple[Case, ...]:
    """How the holes of a plan with a pen may lie, the best first."""
    assert plan.bore is not None
    holes, barrels = plan.bore.holes, barrels_of(plan)
    found = [Case("as designed", (), barrels)]
    for words, part in (("a typical hole", _MIDDLE), ("an unlucky one in twenty", 1.0)):
        drawn = tuple(_likely(plan, hole, part) for hole in holes)
        most = max(_at_exit_mm(hole, one) for hole, one in zip(holes, drawn, strict=True))
        off = write(most, Dimension.LENGTH, plan.units, 2)
        found.append(Case(f"{words}: {off} off at the exit", drawn, barrels))
    bored = tuple(one for hole in holes if (one := _as_bored(plan, hole)) is not None)
    if bored:
        found.append(Case("as you measured it", bored, barrels))
    if any(hole.past_trim_mm > 0 for hole in holes):
        shorter = tuple(_shortened(barrel, hole) for barrel, hole in zip(barrels, holes, strict=True))
        found.append(Case("shortened at both ends, the chips squared off", bored, shorter))
    return tuple(found)


def _shortened(barrel: TurnedBarrel, hole: HolePlan) -> TurnedBarrel:
    """A barrel as it is once its chip is squared off, both ends alike."""
    by = hole.past_trim_mm
    if barrel.end_mm - barrel.start_mm <= 2 * by + _LEFT_MM:
        return barrel
    return replace(barrel, start_mm=barrel.start_mm + by, end_mm=barrel.end_mm - by)


def _likely(plan: Plan, hole: HolePlan, part: float) -> Crooked:
    """A hole that lies off by a part of what is not passed nineteen times in twenty."""
    near, far = (part * hole.spread_mm(depth) for depth in (0.0, hole.depth_mm.value))
    first, last = (near, far) if hole.from_left else (far, near)
    (x0, y0), (x1, y1) = hole.aimed_off_mm(on_pattern=plan.job.bore.centred == "on the pattern")
    way = -1 if x0 + x1 < 0 else 1  # the way in which it does most harm
    return Crooked(*_piece(plan, hole), (x0 + way * first, y0), (x1 + way * last, y1))


def _at_exit_mm(hole: HolePlan, drawn: Crooked) -> float:
    return math.hypot(*(drawn.at_end_mm if hole.from_left else drawn.at_start_mm))


def _as_bored(plan: Plan, hole: HolePlan) -> Crooked | None:
    offsets = hole.off_pattern_mm
    return None if offsets is None else Crooked(*_piece(plan, hole), *offsets)


def _piece(plan: Plan, hole: HolePlan) -> tuple[float, float]:
    assert plan.layout is not None
    piece = plan.layout.tubes[hole.number].piece
    return piece.start_mm, piece.end_mm
