"""From a plan to its tasks: what the hands do, in their order, and what is waited for between."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from msgspec.structs import replace

from orvek.craft.durations import lasting
from orvek.craft.task_kinds import task_kind
from orvek.documents import Shop
from orvek.planning.findings import Station
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation, Route

if TYPE_CHECKING:
    from orvek.planning.soak.results import Stage

Wait = tuple[float, float, float]
_SAW = "glue_up.saw"  # the key of what can hurt there
_DRYING = "soak.1"  # the key of the task by which wood begins to dry
_BEFORE_A_BAR = ("soak", "weigh", "pour", "demould")
_NO_WAIT: Wait = (0.0, 0.0, 0.0)
_LONGEST_MIN = 14 * 1440.0  # a wait that never ends is planned as two weeks
_CURE_MIN, _WAIT_LOW, _WAIT_HIGH = 1440.0, 0.8, 1.6  # where neither forecast nor label says when a casting is hard
_COOL_MIN = 60.0  # a casting that is out of its mould is left to cool before it is bored (workshop practice)
_COAT_SOON_MIN = 24 * 60.0  # sanded bare wood gathers dirt and damp: coat it within a day (workshop practice)
_FULL_MIN = 24 * 60.0  # cyanoacrylate coats are hard after a day (workshop practice)


def tasks_of(plan: Plan) -> tuple[Operation, ...]:
    """All tasks of a plan's job, each after the one before it; a cure that was forecast is waited for as it says."""
    made = list(_chain(plan))
    return tuple(
        task if number == 0 or task.after else _after(task, made[number - 1]) for number, task in enumerate(made)
    )


def made_of(plan: Plan) -> Route:
    """All tasks, and which are done: ticked, or plain from what was measured since.

    Where cast bars lie on the bench, all that brought them there is done. Wood that was weighed dries since then. What
    comes before a treatment's task that was ticked is done too: not every part of it was a task at all times.
    """
    tasks, done = tasks_of(plan), plan.job.work.done()
    if plan.job.cast_index is not None and plan.bars.in_hand:
        done |= {task.key for task in tasks if task.kind in _BEFORE_A_BAR}
    treated = [task.key for task in tasks if task.kind == "soak"]
    done |= set(treated[: max((place for place, key in enumerate(treated) if key in done), default=0)])
    log = plan.job.soak.drying.log
    seen = ((_DRYING, log[0].when),) if log and any(task.key == _DRYING for task in tasks) else ()
    return Route(tasks, done | {key for key, _ in seen}, seen)


def _after(task: Operation, before: Operation) -> Operation:
    return replace(task, after=(before.key,))


def _chain(plan: Plan) -> Iterator[Operation]:
    yield from _soak(plan)
    if plan.job.cast_index is not None:
        yield from _pour(plan)
    yield from _glue_up(plan)
    if plan.bore is not None:
        yield from _bore(plan)
    if plan.finish is not None:
        yield from _finish(plan)


def _made(
    plan: Plan,
    key: str,
    kind: str,
    station: Station,
    *,
    pieces: int = 1,
    minutes: float | None = None,
    wait: Wait = _NO_WAIT,
    wait_words: str = "",
    words: str = "",
    place: str | None = None,
    holds: bool = False,
    soon_min: float | None = None,
    lines: Iterable[str] = (),
    cautions: tuple[str, ...] = (),
) -> Operation:
    """A task of a kind; `minutes` are for all its pieces, where the plan knows better than the kind."""
    usual = task_kind(kind)
    each = pieces if usual.each else 1
    told = minutes if minutes is not None else usual.minutes * each
    readings = _readings(plan.shop, kind, each)
    time = lasting(max(0.5, told), readings)
    return Operation(
        key=key,
        kind=kind,
        words=words or usual.words,
        station=station,
        hands_min=time.median_min,
        hands_span_min=(time.low_min, time.high_min),
        readings=len(readings),
        wait_min=wait,
        wait_words=wait_words,
        place=usual.place if place is None else place,
        holds=holds,
        is_loud=usual.loud,
        soon_min=soon_min,
        pieces=pieces,
        lines=tuple(lines),
        cautions=cautions,
    )


def _readings(shop: Shop, kind: str, pieces: int) -> list[float]:
    """The maker's own times of this kind, for as many pieces as there are now."""
    usual = task_kind(kind)
    return [
        seen.minutes * (pieces / seen.pieces if usual.each else 1.0) for seen in shop.durations if seen.kind == kind
    ]


def _span(minutes: float) -> Wait:
    return minutes * _WAIT_LOW, minutes, minutes * _WAIT_HIGH


def _soak(plan: Plan) -> Iterator[Operation]:
    """Drying, soaking and the oven: a stretch of hands and the wait after it make a task."""
    stages = plan.soak.stages if plan.soak and plan.job.soak.route != "nothing" else ()
    number = 0
    for hands, waits in _stretches(stages):
        number += not hands.key
        place = next((wait.place for wait in waits if wait.place), "")
        wait = sum(wait.minutes for wait in waits)
        yield _made(
            plan, f"soak.{hands.key or number}", "soak", Station.SOAK, minutes=hands.minutes,
            words=f"{hands.words[:1].upper()}{hands.words[1:60]}", wait=_span(wait) if wait else _NO_WAIT,
            wait_words=", ".join(wait.words for wait in waits), place=place, holds=bool(place), cautions=hands.cautions,
            lines=(hands.line,) if hands.line else (),
        )  # fmt: skip


def _stretches(stages: Iterable[Stage]) -> Iterator[tuple[Stage, list[Stage]]]:
    """What the hands do, each with what is waited for after it."""
    hands: Stage | None = None
    waits: list[Stage] = []
    for stage in stages:
        if not stage.is_hands:
            waits.append(stage)
            continue
        if hands is not None:
            yield hands, waits
        hands, waits = stage, []
    if hands is not None:
        yield hands, waits


def _pour(plan: Plan) -> Iterator[Operation]:
    castings = max(1, plan.bars.castings)
    cups = len(plan.job.cast.cups)
    pot = plan.job.pour.bubbles.way == "pressure"
    ready = _cure(plan)
    for number in range(1, castings + 1):
        of = f" {number} of {castings}" if castings > 1 else ""
        yield _made(
            plan, f"weigh.{number}", "weigh", Station.POUR, words=f"Weigh and mix{of}", minutes=4.0 + 4.0 * cups,
            lines=_weighing_lines(plan), cautions=("pour.",),
        )  # fmt: skip
        minutes = 5.0 + (plan.pace.working_min.value if plan.pace else 10.0)
        yield _made(
            plan, f"pour.{number}", "pour", Station.POUR, words=f"Pour{of}", minutes=minutes, wait=ready,
            wait_words="the casting hardens", place="pressure pot" if pot else "mould", holds=True, soon_min=10.0,
            lines=("Look into each cup: no streaks, sides and bottom scraped.", "Pour at one end, let it run.",
                   *(("Into the pot before it gels; pressure on.",) if pot else ())), cautions=("pour.", "bubbles."),
        )  # fmt: skip
        yield _made(
            plan, f"demould.{number}", "demould", Station.POUR, words=f"Out of the mould{of}",
            wait=(_COOL_MIN, _COOL_MIN, 3 * _COOL_MIN), wait_words="it cools to the shop",
            lines=("Press a nail into the overflow: no mark.", "Out of the mould, number the bars, file the edges."),
        )  # fmt: skip


def _cure(plan: Plan) -> Wait:
    """Until the casting can leave the mould: by the forecast, else by the label, else a day."""
    forecast = plan.cure
    if forecast is not None and forecast.demould_min is not None:
        band = forecast.demould_min
        low, best, high = (min(minutes, _LONGEST_MIN) for minutes in (band.low, band.best, band.high))
        return low, best, max(best, high)
    resin = plan.job.pour.resin
    label = resin.demould_min if resin is not None else None
    return _span(label.value if label is not None else _CURE_MIN)


def _weighing_lines(plan: Plan) -> Iterator[str]:
    mixture = plan.mixture
    for cup in mixture.wet if mixture else ():
        parts = [f"{cup.part_a_g.written(plan.units)} of A", f"{cup.part_b_g.written(plan.units)} of B"]
        yield f"{cup.name}: {', '.join(parts)}."


def _glue_up(plan: Plan) -> Iterator[Operation]:
    cutting = plan.cutting
    if cutting is None:
        return
    bars = max(1, cutting.bars)
    if cutting.stock:
        pieces = sum(piece.count for piece in cutting.stock)
        yield _made(
            plan, "mill", "mill", Station.GLUE_UP, minutes=10.0 + 2.0 * pieces,
            lines=_stock_lines(plan), cautions=(_SAW, "blank."),
        )  # fmt: skip
    sawn = [cut for cut in cutting.cuts if not cut.is_to_length]  # those come when everything is glued
    steps = sorted({cut.step for cut in sawn} | {joint.step for joint in cutting.joints})
    for step in steps:
        cuts = [cut for cut in sawn if cut.step == step]
        joints = [joint for joint in cutting.joints if joint.step == step]
        if cuts:
            yield _made(
                plan, f"cut.{step}", "cut", Station.GLUE_UP, pieces=bars * sum(cut.count for cut in cuts),
                words=f"Saw, step {step + 1}", lines=(cut.title for cut in cuts), cautions=(_SAW,),
            )  # fmt: skip
        if joints:
            rest = max(joint.rest_min for joint in joints)
            yield _made(
                plan, f"join.{step}", "join", Station.GLUE_UP, pieces=bars,
                minutes=bars * sum(max(3.0, joint.needed_min) for joint in joints), words=f"Glue, step {step + 1}",
                wait=(rest, rest, 1.5 * rest), wait_words="the glue holds", holds=rest > 0,
                lines=(joint.what for joint in joints), cautions=("glue_up.glue",),
            )  # fmt: skip


def _stock_lines(plan: Plan) -> Iterator[str]:
    """What is milled, alike pieces of several steps together."""
    alike: dict[str, int] = {}
    for piece in plan.cutting.stock if plan.cutting else ():
        words = f"{piece.name}: {plan.mm(piece.length_mm)} long."
        alike[words] = alike.get(words, 0) + piece.count
    yield from (f"{count} × {words}" for words, count in alike.items())


def _bore(plan: Plan) -> Iterator[Operation]:
    bore = plan.bore
    assert bore is not None
    blanks = max(1, round(plan.bars.blanks.value))
    holes = blanks * len(bore.holes)
    to_length = [cut.title for cut in plan.cutting.cuts if cut.is_to_length] if plan.cutting else []
    yield _made(plan, "length", "length", Station.BORE, pieces=holes, lines=to_length, cautions=(_SAW,))
    minutes = blanks * sum(hole.minutes.value for hole in bore.holes) + 3.0 * len(bore.holes)
    yield _made(
        plan, "bore", "bore", Station.BORE, pieces=holes, minutes=minutes, cautions=("bore.press",),
        lines=(f"{hole.name}: {hole.depth_mm.written(plan.units)} deep." for hole in bore.holes),
    )  # fmt: skip
    painted = [hole for hole in bore.holes if plan.job.blank.paint(hole.number).where != "none"]
    if painted:
        coats = plan.job.bore.paint_coats
        yield _made(
            plan, "paint", "paint", Station.BORE, pieces=blanks * len(painted), wait=_span(60.0 * coats),
            wait_words="the paint dries",
        )  # fmt: skip
    tubes = [hole for hole in bore.holes if hole.tube is not None]
    if tubes:
        wait = bore.wait_min.value
        yield _made(
            plan, "tube", "tube", Station.BORE, pieces=blanks * len(tubes), wait=(wait, wait, 1.5 * wait),
            wait_words=f"{bore.glue.key} holds", cautions=("bore.glue", "bore.reclaimed"),
            lines=(f"{hole.name}: dry fit, scuff, {bore.glue.key} all round, turn it in." for hole in tubes),
        )  # fmt: skip
    yield _made(plan, "square", "square", Station.BORE, pieces=holes, cautions=("finish.lathe",))


def _finish(plan: Plan) -> Iterator[Operation]:
    finish, how = plan.finish, plan.finishing
    assert finish is not None
    blanks, barrels = max(1, round(plan.bars.blanks.value)), len(finish.sizes)
    pieces = blanks * barrels
    sizes = (
        f"{size.barrel.name}: {', '.join(figure.written(plan.units) for figure in size.tool_mm)}."
        for size in finish.sizes
    )
    yield _made(plan, "turn", "turn", Station.FINISH, pieces=pieces, lines=sizes, cautions=("finish.lathe",))
    if finish.voids is not None:
        wait = finish.voids.wait.value
        yield _made(
            plan, "voids", "voids", Station.FINISH, pieces=blanks, wait=(wait, wait, 1.5 * wait),
            wait_words="the fill hardens", lines=finish.voids.lines, cautions=("finish.fill",),
        )  # fmt: skip
    bare = sum(rung.minutes for rung in finish.bare)
    yield _made(
        plan, "sand", "sand", Station.FINISH, pieces=pieces, minutes=pieces * (2.0 + bare),
        lines=(rung.abrasive.name for rung in finish.bare), cautions=("finish.lathe",),
    )  # fmt: skip
    if finish.coats_mm.value:
        each = how.thin_coats * (0.5 + how.thin_wait_min) + how.medium_coats * (0.7 + how.medium_wait_min)
        yield _made(
            plan, "coat", "coat", Station.FINISH, pieces=pieces, minutes=pieces * each, soon_min=_COAT_SOON_MIN,
            wait=(60.0, _FULL_MIN / 2, _FULL_MIN), wait_words="the coats harden",
            lines=(f"{how.thin_coats} thin coats.", f"{how.medium_coats} medium coats."), cautions=("finish.glue",),
        )  # fmt: skip
    level = sum(rung.minutes for rung in finish.level)
    if finish.level:
        yield _made(
            plan, "level", "level", Station.FINISH, pieces=pieces, minutes=pieces * (2.0 + level),
            lines=(rung.abrasive.name for rung in finish.level), cautions=("finish.lathe",),
        )  # fmt: skip
    pens = plan.job.batch.pens_wanted
    parts = plan.job.pen.parts if plan.job.pen else ()
    yield _made(
        plan, "press", "press", Station.FINISH, pieces=pens, lines=(f"{part.line}." for part in parts),
        cautions=("finish.press",),
    )  # fmt: skip
