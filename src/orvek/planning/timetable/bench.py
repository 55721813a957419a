"""A task at the bench, step by step: what is done, weighed to which mass, counted, and waited for in between."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import datetime
from typing import Literal

from msgspec import Struct

from orvek.craft.pouring import pot_life_min
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation
from orvek.quantities import later, minutes_between

PLACES = ("left", "middle", "right")
_TOO_MUCH = 1.05  # more of a pigment than that is seen (a choice)
_CLOSE_MM = 0.03  # nearer than that nobody measures on a lathe
Kind = Literal["do", "weigh", "count", "measure", "temperature"]


class BenchStep(Struct, frozen=True):
    """One step, as large as a wall: `key` names it among the actuals.

    Attributes:
        key: of the task and the step.
        words: what to do.
        kind: something done, weighed to `target_g`, counted, measured to `target_mm`, or as warm as `target_c`.
        target_g: what the scale shall show; None where nothing is weighed.
        of: the key of a weighing that this one stands in a ratio to, and that ratio: over-poured A asks for more B.
        wait_s: seconds until the next step.
    """

    key: str
    words: str
    kind: Kind = "do"
    target_g: float | None = None
    of: tuple[str, float] | None = None
    wait_s: float = 0.0
    target_mm: float | None = None
    target_c: float | None = None
    place: tuple[int, str] | None = None  # of a measuring: which barrel, "left", "middle" or "right"
    pigment_of: int | None = None  # of a pigment: the number of its cup
    hardens: int | None = None  # of part B: the number of its cup, whose time runs from the first drop


def bench_steps(plan: Plan, task: Operation) -> tuple[BenchStep, ...]:
    """All steps of a task; one that has no lines is one step."""
    found = _STEPS_OF.get(task.kind, _lines)(plan, task)
    return tuple(found) or (BenchStep(f"{task.key}:1", f"{task.words}."),)


def _lines(_plan: Plan, task: Operation) -> Iterator[BenchStep]:
    for number, words in enumerate(task.lines, 1):
        yield BenchStep(f"{task.key}:{number}", words)


def _weighing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Cup by cup: part A, the pigments, part B; every one tared."""
    for number, cup in enumerate(plan.mixture.wet if plan.mixture else ()):
        stem = f"{task.key}:{number + 1}"
        yield BenchStep(f"{stem}.cup", f"{cup.name}: cup on the scale, tare.")
        yield BenchStep(f"{stem}.A", f"{cup.name}: part A, then tare.", "weigh", cup.weighed_a_g)
        for place, dose in enumerate(cup.doses, 1):
            words = f"{cup.name}: {dose.name}, then tare."
            yield BenchStep(f"{stem}.p{place}", words, "weigh", dose.weighed_g, pigment_of=number)
        if cup.weighed_b_g > 0:
            ratio = cup.weighed_b_g / cup.weighed_a_g if cup.weighed_a_g > 0 else 0.0
            words = f"{cup.name}: part B. From the first drop on the clock runs."
            yield BenchStep(f"{stem}.B", words, "weigh", cup.weighed_b_g, (f"{stem}.A", ratio), hardens=number)
        yield BenchStep(f"{stem}.stir", f"{cup.name}: stir slowly, scrape sides and bottom.", wait_s=60.0)


def _pouring(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """How warm the resin is, where a thermometer is at the bench; then as for any task."""
    if any(meter.kind == "thermometer" for meter in plan.shop.meters):
        wanted = plan.job.pour.conditions.parts_c
        target = wanted if wanted is not None else plan.job.batch.shop_temperature_c
        yield BenchStep(f"{task.key}:warm", "Resin: how warm is it?", "temperature", target_c=target)
    yield from _lines(plan, task)


def _boring(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each hole peck by peck."""
    for hole in plan.bore.holes if plan.bore else ():
        stem = f"{task.key}:{hole.number}"
        yield BenchStep(f"{stem}.set", f"{hole.name}: bit in, stop at {hole.depth_mm.written(plan.units)}, clamp.")
        pecks = len(hole.pecks_mm)
        for peck, deep in enumerate(hole.pecks_mm, 1):
            words = f"{hole.name}: peck {peck} of {pecks}, to {plan.mm(deep)}. Withdraw, clear the flutes."
            yield BenchStep(f"{stem}.{peck}", words, "count")


def _turning(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """What to do at the lathe, then each size at each place by the calipers."""
    finish = plan.finish
    for number, words in enumerate(finish.lathe if finish else (), 1):
        yield BenchStep(f"{task.key}:{number}", words)
    for size in finish.sizes if finish else ():
        for place, figure in zip(PLACES, size.tool_mm, strict=True):
            where = "in the middle" if place == "middle" else f"at the {place}"
            words = f"{size.barrel.name}: turn to {figure.written(plan.units)} {where}. Lathe off, calipers."
            key = f"{task.key}:{size.number}.{place}"
            yield BenchStep(key, words, "measure", target_mm=figure.value, place=(size.number, place))


def _coats(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Coat by coat, with the wait after each."""
    how = plan.finishing
    thin = [("thin", n, how.thin_coats, how.thin_wait_min) for n in range(1, how.thin_coats + 1)]
    medium = [("medium", n, how.medium_coats, how.medium_wait_min) for n in range(1, how.medium_coats + 1)]
    coats = [*medium, *thin] if how.order == "medium first" else [*thin, *medium]
    for kind, number, of, wait in coats:
        yield BenchStep(
            f"{task.key}:{kind}.{number}", f"{kind.capitalize()} coat {number} of {of}.", "count", wait_s=60 * wait
        )


_STEPS_OF: dict[str, Callable[[Plan, Operation], Iterator[BenchStep]]] = {
    "weigh": _weighing, "pour": _pouring, "bore": _boring, "turn": _turning, "coat": _coats,
}  # fmt: skip


class Mixed(Struct, frozen=True):
    """A cup that has its hardener and is not poured yet: since when, and how long it stays liquid at its mass."""

    name: str
    since: datetime
    life_min: float

    def left_min(self, now: datetime) -> float:
        """Minutes until it may gel; a clock that was set back gives no more than all of it."""
        return min(self.life_min, self.life_min - minutes_between(self.since, now))


def mixed(plan: Plan, task: Operation) -> tuple[Mixed, ...]:
    """The cups of one casting whose time runs while it is weighed and poured, the one that gels first at first."""
    kind, _, number = task.key.partition(".")
    work = plan.job.work
    if kind not in {"weigh", "pour"} or f"pour.{number}" in work.done() or plan.mixture is None:
        return ()
    found = []
    for place, cup in enumerate(plan.mixture.wet):
        since, life = work.when(f"weigh.{number}:{place + 1}.B", "began"), cup_life_min(plan, place)
        if since is not None and life is not None:
            found.append(Mixed(cup.name, since.replace(tzinfo=None), life))
    return tuple(sorted(found, key=lambda one: later(one.since, one.life_min)))


def cup_life_min(plan: Plan, place: int) -> float | None:
    """How long a cup stays liquid: by the forecast at its mass and warmth, else by the label at its mass."""
    if plan.cure is not None and place < len(plan.cure.cup_lives_min):
        return plan.cure.cup_lives_min[place].best
    resin = plan.job.pour.resin
    if resin is None or resin.pot_life_min is None or plan.mixture is None:
        return None
    return pot_life_min(resin.pot_life_min.value, resin.pot_life_mass_g, plan.mixture.wet[place].mass_g.value)


def pigment_words(plan: Plan, step: BenchStep, mass_g: float) -> str:
    """What a cup needs to be right after too much of a pigment went in; nothing where it is right.

    As much more of A and B as makes the load what it was to be; where the cup cannot hold that, it is said.
    """
    if step.pigment_of is None or not step.target_g or plan.mixture is None or mass_g <= step.target_g * _TOO_MUCH:
        return ""
    cup = plan.mixture.wet[step.pigment_of]
    factor = mass_g / step.target_g
    if cup.volume_ml.value * factor > cup.vessel_ml:
        return f"Too much by {100 * (factor - 1):.0f} %, and the cup is too small to make up for it. Weigh again."
    more_a, more_b = (mass * (factor - 1) for mass in (cup.weighed_a_g, cup.weighed_b_g))
    more = f"{plan.g(more_a, 1)} more A and {plan.g(more_b, 1)} more B"
    return f"Too much by {100 * (factor - 1):.0f} %: it is right with {more}."


def still_words(target_mm: float, measured_mm: float, plan: Plan) -> str:
    """What a caliper reading is answered with."""
    off = measured_mm - target_mm
    if abs(off) < _CLOSE_MM:
        return "That is it."
    return f"{plan.mm(off, 2)} more." if off > 0 else f"{plan.mm(-off, 2)} too small."


def wanted_g(step: BenchStep, weighed: dict[str, float]) -> float | None:
    """What the scale shall show at a step now that others have come out as they did.

    >>> wanted_g(BenchStep("1.B", "B", "weigh", 10.0, ("1.A", 0.5)), {"1.A": 22.0})
    11.0
    """
    if step.of is not None and step.of[0] in weighed:
        return weighed[step.of[0]] * step.of[1]
    return step.target_g
