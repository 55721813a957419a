"""What operations use up beside wood, resin and parts: glue, cups, sheets of abrasive, cutting edges, gloves.

Only what the maker counts on the shelf is ever missed; amounts are guesses of workshop practice but for glue and cups.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft.coating import GLUE_G_ML
from orvek.craft.lathe import edge_life_barrels
from orvek.documents import Bottle
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation, Use
from orvek.planning.stuff import turned_as
from orvek.quantities import Dimension, write

GLOVES, STICKS, INSERT = "gloves, a pair", "stir stick", "carbide insert"
_SHEET_BARRELS, _PAD_BARRELS = 8.0, 30.0  # barrels that a quarter sheet, and a pad, last (guesses)
_EDGES = 4  # of an insert that is turned round


def consumed(plan: Plan, task: Operation) -> Iterator[Use]:
    """What one operation uses up."""
    yield from _OF_KIND.get(task.kind, _nothing)(plan, task)


def cup_name(vessel_ml: float) -> str:
    """What a mixing cup is called on the shelf."""
    return f"cup of {write(vessel_ml, Dimension.VOLUME, None, 0)}"


def _nothing(_plan: Plan, _task: Operation) -> Iterator[Use]:
    yield from ()


def _weighed(plan: Plan, _task: Operation) -> Iterator[Use]:
    cups = plan.mixture.wet if plan.mixture is not None else ()
    for size in sorted({cup.vessel_ml for cup in cups}):
        yield Use("consumable", cup_name(size), sum(cup.vessel_ml == size for cup in cups))
    yield Use("consumable", STICKS, len(cups))
    yield Use("consumable", GLOVES, 1)


def _tubed(plan: Plan, _task: Operation) -> Iterator[Use]:
    bore = plan.bore
    if bore is not None and bore.mixed is not None:
        yield Use("glue", bore.glue.key, round(bore.mixed.mixes * bore.mixed.mix_g.value, 2), "g")
        yield Use("consumable", GLOVES, 1)


def _turned(plan: Plan, task: Operation) -> Iterator[Use]:
    if plan.job.finish.tool == "carbide" or turned_as(plan.job) == "metal":
        yield Use("insert", INSERT, round(task.pieces / (_EDGES * edge_life_barrels(turned_as(plan.job))), 3))


def _sanded(plan: Plan, task: Operation) -> Iterator[Use]:
    if plan.finish is None:
        return
    for rung in plan.finish.rungs(task.kind):
        life = _SHEET_BARRELS if rung.abrasive.kind == "paper" else _PAD_BARRELS
        yield Use("abrasive", rung.abrasive.name, round(task.pieces / life, 3))


def _coated(plan: Plan, task: Operation) -> Iterator[Use]:
    """All coats of all barrels, with what the paper keeps."""
    name = plan.job.finish.bottle
    if plan.finish is None or not name:
        return
    bottle = next((one for one in plan.shop.bottles if one.name == name), Bottle())
    area = sum(
        math.pi * (one.finished_left_mm + one.finished_right_mm) / 2 * one.tube_length_mm for one in plan.job.laid
    )
    grams = plan.finish.coats_mm.value * area / 1000 * GLUE_G_ML / (bottle.kept_pct / 100)
    yield Use("glue", name, round(grams * task.pieces / len(plan.finish.sizes), 2), "g")


_OF_KIND: dict[str, Callable[[Plan, Operation], Iterator[Use]]] = {
    "weigh": _weighed, "tube": _tubed, "turn": _turned, "sand": _sanded, "level": _sanded, "polish": _sanded,
    "coat": _coated,
}  # fmt: skip
