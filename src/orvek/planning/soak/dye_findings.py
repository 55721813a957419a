"""What is to be said of the colours that are soaked in: whether they survive the lathe, and what they must not meet."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft.dyeing import depth_mm, hours_needed
from orvek.documents import JOB, DyeStep, as_kind, path_to
from orvek.planning.bar import USUAL_BAR_MM
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.soak.dyes import dyeing_of, seen_before
from orvek.planning.soak.results import DyePlan
from orvek.quantities import Dimension, write

_SHOWN_PART = 0.25  # of a depth: more off, and the pictures mislead
_CLEARLY = 1.3  # times what is needed: a guess that much deeper is not doubted aloud (a choice)
_DAYS_H = 14 * 24.0


def survives(plan: Plan) -> Iterator[Finding]:
    """Whether the colour is still there once it is turned; what was seen decides, a guess says "may"."""
    for number, dye in enumerate(plan.soak.dyes if plan.soak else (), 1):
        if dye.needed_mm is None or _is_clear(dye):
            continue
        need, has = dye.needed_mm.written(plan.units), dye.side_mm.written(plan.units)
        wanted = dye.needed_mm.value * _CLEARLY
        remedies = (*(() if dye.is_seen else _deeper(plan, dye.step, dye.dye, wanted)), *_drawn(plan, dye))
        if not dye.is_seen and dye.side.best >= dye.needed_mm.value:
            because = (
                f"It may be {has} deep, a guess that may be {plan.units.mm(dye.side.low)} as well, and must be {need}. "
                "Saw an end off and look."
            )
            title = f"Colour {number} may be removed in turning in places."
            yield Finding(Severity.NOTE, Station.SOAK, title, because, remedies)
            continue
        what = "was" if dye.is_seen else "may be"
        because = f"It {what} {has} deep at the sides, and the lathe takes off {need}. {_longer(plan, dye)}"
        title = f"Colour {number} {'is' if dye.is_seen else 'may be'} removed in turning."
        yield Finding(Severity.CAUTION, Station.SOAK, title, because, remedies)


def _longer(plan: Plan, dye: DyePlan) -> str:
    """What more time would do; a brush leaves nothing to soak in."""
    if dye.dye.way == "brushed on":
        return "A brush brings it no deeper."
    if dye.needed_mm is not None and not dye.is_seen:
        # As much deeper as makes it sure: the button leaves it in for as long.
        hours = hours_needed(dyeing_of(plan.job, dye.dye), dye.side.best, dye.needed_mm.value * _CLEARLY)
        if hours < _DAYS_H:
            return f"The same way, to be sure of it, would take {plan.units.minutes(60 * math.ceil(hours))}."
    return "A slimmer bar, rounded down first, needs less."


def shown(plan: Plan) -> Iterator[Finding]:
    """A depth on the bar's pictures that is not the one that is expected or was seen."""
    for number, dye in enumerate(plan.soak.dyes if plan.soak else (), 1):
        remedies = tuple(_drawn(plan, dye))
        if _is_clear(dye) and remedies and (dye.is_seen or _is_shown_turned_away(dye)):
            basis = "was seen" if dye.is_seen else "is guessed"
            because = (
                f"The pictures go by {plan.units.mm(dye.dye.depth_mm)}; {dye.side_mm.written(plan.units)} {basis}."
            )
            yield Finding(Severity.NOTE, Station.SOAK, f"Colour {number} is drawn otherwise.", because, remedies)


def bleeds(plan: Plan) -> Iterator[Finding]:
    """Colours that run again, and alcohol where it must not be."""
    boiling = [dye for dye in plan.soak.dyes if _boils(dye.dye)] if plan.soak else []
    if boiling:
        because = (
            "It boils as soon as the pump runs, and its vapour goes through the pump: that is how fires begin, and the "
            "colour goes no deeper. Water or resin may stand under vacuum; alcohol is dipped."
        )
        steps = [as_kind(DyeStep, JOB.blank.steps[dye.step]) for dye in boiling]
        dipped = Remedy("Dip it instead", tuple(Edit(path_to(step.way), "dipped") for step in steps))
        water = Remedy("Dye in water", tuple(Edit(path_to(step.carrier), "water") for step in steps))
        yield Finding(Severity.STOP, Station.SOAK, "No alcohol under vacuum.", because, (dipped, water))
    if plan.soak is not None and any(dye.dye.carrier == "alcohol" for dye in plan.soak.dyes):
        because = "It runs when it is wiped with alcohol, and thin glue pulls it along: wipe with a dry brush instead."
        yield Finding(Severity.NOTE, Station.SOAK, "Alcohol dye bleeds.", because)


def _boils(step: DyeStep) -> bool:
    """Whether a dye's carrier boils and burns in the way it is put in."""
    return step.carrier == "alcohol" and step.way == "under vacuum"


def _is_clear(dye: DyePlan) -> bool:
    """Whether the colour surely survives the lathe: as seen, or by a guess that is well above what is needed."""
    return dye.needed_mm is None or dye.side.best >= dye.needed_mm.value * (1.0 if dye.is_seen else _CLEARLY)


def _is_shown_turned_away(dye: DyePlan) -> bool:
    """Whether the pictures show a colour turned away that is guessed to stay."""
    return dye.needed_mm is not None and dye.dye.depth_mm < dye.needed_mm.value


def _drawn(plan: Plan, dye: DyePlan) -> Iterator[Remedy]:
    """Draw the colour as deep as it lies, where it is drawn otherwise; deeper than the middle is all the same."""
    middle = plan.layout.across_mm / 2 if plan.layout else USUAL_BAR_MM[0] / 2
    drawn, told = min(dye.dye.depth_mm, middle), min(dye.side.best, middle)
    if abs(drawn - told) <= _SHOWN_PART * max(told, drawn):
        return
    depth, ends = round(min(60.0, max(0.1, dye.side.best)), 1), round(min(300.0, max(0.1, dye.end_mm.value)), 1)
    step = as_kind(DyeStep, JOB.blank.steps[dye.step])
    deep = Edit(path_to(step.depth_mm), depth), Edit(path_to(step.end_depth_mm), ends)
    yield Remedy(f"Draw it {plan.units.mm(depth)} deep", deep)


def _deeper(plan: Plan, number: int, step: DyeStep, wanted_mm: float) -> Iterator[Remedy]:
    """Other carriers and ways, and as last the time, that would bring the colour deep enough."""
    path = path_to(JOB.blank.steps[number])
    for changes, words in (
        ({"way": "dipped"}, "Dip it"),
        ({"carrier": "alcohol"}, "Dye in alcohol"),
        ({"way": "under vacuum"}, "Dye it under vacuum"),
        ({"carrier": "water", "way": "under vacuum"}, "Dye in water, under vacuum"),
    ):
        other = step.with_(**changes)
        if other == step or _boils(other):
            continue
        seen = seen_before(plan.job, plan.shop, other, at_end=False)
        if depth_mm(dyeing_of(plan.job, other), seen).best >= wanted_mm:
            yield Remedy(words, tuple(Edit((*path, name), value) for name, value in changes.items()))
            return
    is_brushed = step.way == "brushed on"
    left_in = step.with_(way="dipped") if is_brushed else step
    how = dyeing_of(plan.job, left_in)
    now = depth_mm(how, seen_before(plan.job, plan.shop, left_in, at_end=False)).best
    minutes = 60.0 * math.ceil(hours_needed(how, now, wanted_mm))
    if (is_brushed or step.soaked_min < minutes) and minutes <= 60 * _DAYS_H:
        longer = {"soaked_min": minutes, "way": "dipped"} if is_brushed else {"soaked_min": minutes}
        words = f"{'Dip it for' if is_brushed else 'Leave it in'} {write(minutes, Dimension.DURATION, plan.units)}"
        yield Remedy(words, tuple(Edit((*path, name), value) for name, value in longer.items()))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (survives, shown, bleeds)
