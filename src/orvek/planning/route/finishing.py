"""From the lathe to the pen: turned, a printed sheet laid round, filled, sanded, coated, levelled, pressed."""

from __future__ import annotations

import math
from collections.abc import Iterator

from orvek.craft.abrasives import COARSE_UM_MIN
from orvek.craft.lathe import removed_ml, set_up_min, turning_min, turning_rate_ml_min
from orvek.craft.task_kinds import task_kind
from orvek.documents import Finish, Pen
from orvek.planning.findings import Station
from orvek.planning.finish.results import FinishPlan
from orvek.planning.results import Plan
from orvek.planning.route.making import blanks_of, of, operation, span
from orvek.planning.route.results import NO_WAIT, Operation, Setting, Use
from orvek.planning.stuff import turned_as
from orvek.planning.threads import back_deg, is_threaded, thread_lines
from orvek.planning.words import counted
from orvek.planning.working import Figure
from orvek.quantities import Dimension, Units, write

_COAT_SOON_MIN = 24 * 60.0  # sanded bare wood gathers dirt and damp: coat it within a day (workshop practice)
_FULL_MIN = 24 * 60.0  # cyanoacrylate coats are hard after a day (workshop practice)
_SEAL_MIN = 2.0  # hands for one coat of sealer on one barrel, sanded back: a guess
_HOLDS_MIN = 12 * 60.0  # glue of an end piece where the tubes have none
SEALED = "thin, with a cloth, on wood, paper and open pores"
_END_KINDS = {"end_piece": "glue", "recess": "turn", "part_off": "turn"}
_INK_MIN = 60.0  # a sealed sheet before its first coat (workshop practice)


def finishing(plan: Plan) -> Iterator[Operation]:
    """Everything at the lathe and the press."""
    finish = plan.finish
    if finish is None:
        return
    pieces = blanks_of(plan) * len(finish.sizes)
    yield from _turned(plan, finish, pieces)
    if finish.voids is not None:
        wait = finish.voids.wait.value
        yield operation(
            plan, "voids", "voids", Station.FINISH, pieces=blanks_of(plan), wait=(wait, wait, 1.5 * wait),
            wait_words="the fill hardens", wait_source="label", lines=finish.voids.lines, cautions=("finish.fill",),
        )  # fmt: skip
    if finish.bare:
        yield operation(
            plan, "sand", "sand", Station.FINISH, pieces=pieces, cautions=("finish.lathe",),
            minutes=pieces * (2.0 + _torn_min(plan) + sum(rung.minutes for rung in finish.bare)),
            lines=(rung.abrasive.name for rung in finish.bare),
        )  # fmt: skip
    yield from _ends(plan, finish, "a piece on a spigot", "end_piece")
    yield from _coated(plan, finish, pieces)
    yield from _ends(plan, finish, "a ring in a recess", "recess")
    yield from _ends(plan, finish, "parted off, nub by hand", "part_off")
    yield from _threaded(plan)
    yield _pressed(plan, plan.job.pen)
    yield operation(
        plan, "write", "write", Station.FINISH, pieces=plan.job.batch.pens_wanted, field_kind="write_test",
        lines=("A page without a skip, the mechanism in and out.",),
    )  # fmt: skip
    days = plan.job.work.trial_days
    if days:
        yield operation(
            plan, "trial", "trial", Station.FINISH, wait=(days * 1440.0,) * 3, wait_words="one is carried, used",
            wait_source="log", lines=(f"Carry one for {counted(days, 'day')} and write with it before any leaves.",),
        )  # fmt: skip


def _ends(plan: Plan, finish: FinishPlan, what: str, kind: str) -> Iterator[Operation]:
    """What is done to ends, each on every blank: a piece is glued on before the finish, a recess cut after it."""
    blanks, holds = blanks_of(plan), plan.bore.wait_min.value if plan.bore is not None else _HOLDS_MIN
    for one in finish.ends:
        if one.work.kind == what:
            yield operation(
                plan, f"{kind}.{one.index}", kind, Station.FINISH, pieces=blanks, lines=one.lines,
                words=f"{task_kind(kind).words}: {one.where}", settings=of(one.where, one.cut_mm, one.long_mm),
                cautions=("finish.lathe", "bore.glue") if kind != "part_off" else ("finish.lathe",),
                wait=(holds, holds, 1.5 * holds) if kind == "end_piece" else NO_WAIT, wait_words="the glue holds",
                field_kind=_END_KINDS[kind],
            )  # fmt: skip


def _threaded(plan: Plan) -> Iterator[Operation]:
    """A thread that starts anywhere: seen where it stops, before a part is pressed that cannot be turned any more."""
    if is_threaded(plan.job):
        yield operation(
            plan, "thread", "thread", Station.FINISH, pieces=blanks_of(plan), lines=thread_lines(plan.job, plan.units),
            field_kind="press",
        )  # fmt: skip


def _turning_min(plan: Plan, finish: FinishPlan) -> float:
    """All barrels of a blank: what comes off, over what the tool takes off of this stuff in a minute."""
    if plan.layout is None:
        return task_kind("turn").minutes * len(finish.sizes)
    rate = turning_rate_ml_min(turned_as(plan.job))
    is_square, minutes = not plan.layout.is_round, 0.0
    side = plan.layout.across_mm if plan.layout.is_round else math.sqrt(plan.layout.width_mm * plan.layout.depth_mm)
    for size in finish.sizes:
        mean = sum(figure.value for figure in size.tool_mm) / len(size.tool_mm)
        volume = removed_ml(side, mean, size.barrel.tube_length_mm, is_square=is_square)
        minutes += turning_min(volume, rate, set_up_min(), is_square=is_square)
    return minutes


def _torn_min(plan: Plan) -> float:
    """What is left for tear-out is sanded off with the first grit."""
    return plan.job.finish.more_mm / 2 * 1000 / COARSE_UM_MIN


def _turned(plan: Plan, finish: FinishPlan, pieces: int) -> Iterator[Operation]:
    sizes = (
        f"{size.barrel.name}: {', '.join(figure.written(plan.units) for figure in size.tool_mm)}."
        for size in finish.sizes
    )
    yield operation(
        plan, "turn", "turn", Station.FINISH, pieces=pieces, lines=sizes,
        cautions=("finish.lathe", "finish.mandrel", "finish.metal"),
        minutes=_turning_min(plan, finish) * blanks_of(plan),
        settings=(one for size in finish.sizes for one in of(size.barrel.name, *size.tool_mm)),
    )  # fmt: skip
    wrap = finish.wrap
    if wrap is not None and wrap.is_coated:
        yield operation(
            plan, f"join.{wrap.index}", "wrap", Station.FINISH, pieces=pieces, lines=wrap.lines,
            wait=(_INK_MIN, _INK_MIN, 4 * _INK_MIN), wait_words="the seal dries", cautions=("finish.glue",),
            settings=(one for sheet in wrap.sheets for one in of(sheet.name, *dict.fromkeys(sheet.under_mm))),
        )  # fmt: skip


def _coated(plan: Plan, finish: FinishPlan, pieces: int) -> Iterator[Operation]:
    minutes = _coating_min(plan, pieces) if finish.coats_mm.value else 0.0
    if finish.coats_mm.value or plan.job.finish.seal:
        yield operation(
            plan, "inspect", "inspect", Station.FINISH, pieces=pieces, lines=_inspected(plan, minutes / pieces),
            cautions=("finish.lathe",), soon_min=_COAT_SOON_MIN,
        )  # fmt: skip
    yield from _sealed(plan, pieces)
    if finish.coats_mm.value:
        yield operation(
            plan, "coat", "coat", Station.FINISH, pieces=pieces, minutes=minutes, soon_min=_COAT_SOON_MIN,
            wait=(60.0, _FULL_MIN / 2, _FULL_MIN), wait_words="the coats harden", cautions=("finish.glue",),
            lines=_coat_lines(plan),
            settings=(Setting("each barrel", finish.coats_mm),),
        )  # fmt: skip
    for kind, rungs in (("level", finish.levelling), ("polish", finish.polishing)):
        if rungs:
            yield operation(
                plan, kind, kind, Station.FINISH, pieces=pieces, cautions=("finish.lathe", "finish.friction"),
                minutes=pieces * (1.0 + sum(rung.minutes for rung in rungs)),
                lines=(rung.abrasive.name for rung in rungs),
            )  # fmt: skip


def _sealed(plan: Plan, pieces: int) -> Iterator[Operation]:
    """Sealer before the coats: each dries and is sanded back, so that it adds nothing in depth."""
    how = plan.job.finish
    if how.seal:
        dry = how.seal * how.seal_wait_min
        yield operation(
            plan, "seal", "seal", Station.FINISH, pieces=pieces, minutes=_SEAL_MIN * how.seal * pieces,
            wait=span(dry), wait_words="the sealer dries", cautions=("finish.lathe",), soon_min=_COAT_SOON_MIN,
            lines=_seal_lines(how, plan.units), field_kind="coat",
        )  # fmt: skip


def sealed_back(how: Finish) -> str:
    """How a coat of sealer is taken back, for the list and for the bench."""
    return f"back with {how.bare_to} by hand, along the barrel, until it is dull: the pores stay full."


def _seal_lines(how: Finish, units: Units) -> tuple[str, ...]:
    """How sealer goes on before the coats."""
    waits = write(how.seal_wait_min, Dimension.DURATION, units)
    return (
        f"{counted(how.seal, 'coat')} of sealer, {SEALED}; {waits} after each.",
        f"Each sanded {sealed_back(how)}",
    )


def _coating_min(plan: Plan, pieces: int) -> float:
    """All coats: barrels that are on the lathe together are coated in turn and share the wait after each coat."""
    how, finish = plan.finishing, plan.finish
    assert finish is not None
    at_once = 1 if plan.shop.holding.way == "between centres" else len(finish.sizes)
    kinds = ((how.thin_coats, 0.5, how.thin_wait_min), (how.medium_coats, 0.7, how.medium_wait_min))
    return pieces / at_once * sum(count * max(at_once * spread, spread + wait) for count, spread, wait in kinds)


def _inspected(plan: Plan, coats_min: float) -> Iterator[str]:
    """What is looked for while it still costs nothing."""
    wasted = write(max(5.0, coats_min), Dimension.DURATION, plan.units)
    yield "Wet it with alcohol or water under a lamp from the side; turn it by hand: four quarters, end to end."
    yield "Scratches across, glue spots, dust in pores, chips at the ends: away with them now, the grit before again."
    yield f"A flaw: write it down (F). Under the coats it costs them once more, {wasted} a barrel, and the sanding."


def _coat_lines(plan: Plan) -> Iterator[str]:
    """How many of which, in their order, with the wait after each."""
    how = plan.finishing
    kinds = [("thin", how.thin_coats, how.thin_wait_min), ("medium", how.medium_coats, how.medium_wait_min)]
    for kind, count, wait_min in reversed(kinds) if how.order == "medium first" else kinds:
        if count:
            waits = write(wait_min, Dimension.DURATION, plan.units)
            oiled = f", the last {how.oil_coats} with a drop of oil" if kind == "thin" and how.oil_coats else ""
            in_turn = ", in turn with the others" if how.order == "in turn" else ""
            yield f"{counted(count, f'{kind} coat')}, {waits} after each{in_turn}{oiled}."
    yield "Other bushings than for turning, cones or waxed ones: glue and dark slurry stay off the good ones."
    if how.activator != "none":
        yield "Activator only of the glue's own make, away from the face: it spatters, and its fumes burn."


def _pressed(plan: Plan, pen: Pen | None) -> Operation:
    pens = plan.job.batch.pens_wanted
    parts = pen.parts if pen is not None else ()
    return operation(
        plan, "press", "press", Station.FINISH, pieces=pens, lines=(f"{part.line}." for part in parts),
        cautions=("finish.press",), settings=(*_depths(pen), *_turned_back(plan)),
        uses=(Use("part set", pen.part_set, pens), Use("refill", pen.name, pens)) if pen is not None else (),
    )  # fmt: skip


def _turned_back(plan: Plan) -> Iterator[Setting]:
    if back := back_deg(plan.job):
        figure = Figure(
            "Turned, clockwise from the nib", back, Dimension.ANGLE, "as you read it", (), "typed", digits=0
        )
        yield Setting("the threaded part", figure)


def _depths(pen: Pen | None) -> Iterator[Setting]:
    for part in pen.parts if pen is not None else ():
        for words, value in (("Goes in at least", part.depth_low_mm), ("Goes in at most", part.depth_high_mm)):
            if value is not None:
                yield Setting(part.name, Figure(words, value, Dimension.LENGTH, "as the pen's sheet says", (), "typed"))
