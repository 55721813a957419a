"""Each colour that is soaked in: how deep it goes, how deep it must lie, and whether it survives the lathe."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft import dyeing
from orvek.craft.drying import Band
from orvek.craft.dyeing import Dyeing
from orvek.documents import JOB, DyeStep, Job, Shop, deeds, path_to
from orvek.documents.shelf.soaked import DYE_END, DYE_SIDE
from orvek.planning.bar import USUAL_BAR_MM, section_at
from orvek.planning.drift import drift_mm
from orvek.planning.results import Plan
from orvek.planning.soak.results import DyePlan
from orvek.planning.soak.room import is_soft
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


def dye_plans(plan: Plan) -> Iterator[DyePlan]:
    """Every dye of the job, in the order of its steps."""
    job = plan.job
    for number, step in enumerate(job.blank.steps):
        if not isinstance(step, DyeStep):
            continue
        how = dyeing_of(job, step)
        side = _told(job, plan.shop, step, how, at_end=False)
        end = _told(job, plan.shop, step, how, at_end=True)
        is_seen, needed = step.seen_mm is not None, _needed(plan, number)
        yield DyePlan(
            step=number,
            dye=step,
            side_mm=_figure("Colour goes in, at the sides", side, _middle_mm(plan, number), how, is_seen=is_seen),
            end_mm=_figure("… and at the ends", end, _half_mm(plan), how, is_seen=step.seen_end_mm is not None),
            side=side,
            needed_mm=needed,
            is_seen=is_seen,
        )


def with_colour(job: Job, shop: Shop) -> Job:
    """The job with one more colour, drawn as deep as it is guessed to go."""
    added = deeds.add_dye(job)
    number = max(n for n, step in enumerate(added.blank.steps) if isinstance(step, DyeStep))
    step = added.blank.steps[number]
    assert isinstance(step, DyeStep)
    deep = (_told(added, shop, step, dyeing_of(added, step), at_end=at_end).best for at_end in (False, True))
    side, end = (round(min(most, one), 1) for most, one in zip((60.0, 300.0), deep, strict=True))
    return deeds.set_value(added, path_to(JOB.blank.steps[number]), step.with_(depth_mm=side, end_depth_mm=end))


def dyeing_of(job: Job, step: DyeStep) -> Dyeing:
    """How a step's colour is put in."""
    return Dyeing(step.carrier, step.way, step.soaked_min / 60, is_soft(job))


def seen_before(job: Job, shop: Shop, step: DyeStep, *, at_end: bool) -> list[tuple[float, float]]:
    """What the shop saw of this wood and carrier: (seen, calculated)."""
    what = DYE_END if at_end else DYE_SIDE
    return [
        (one.value, one.expected)
        for one in shop.soaked
        if one.seen == what and one.species == job.treated_wood and one.carrier == step.carrier
    ]


def _told(job: Job, shop: Shop, step: DyeStep, how: Dyeing, *, at_end: bool) -> Band:
    """What was seen goes before what is calculated."""
    seen = step.seen_end_mm if at_end else step.seen_mm
    if seen is not None:
        return Band(seen, seen, seen)
    return dyeing.depth_mm(how, seen_before(job, shop, step, at_end=at_end), at_end=at_end)


def _middle_mm(plan: Plan, number: int) -> float:
    """Half the bar, across, as it is when it is soaked: no colour goes deeper."""
    width, depth, _ = section_at(plan, number)
    return min(width, depth) / 2


def _half_mm(plan: Plan) -> float:
    return plan.layout.length_mm / 2 if plan.layout else USUAL_BAR_MM[2] / 2


def _figure(label: str, band: Band, most_mm: float, how: Dyeing, *, is_seen: bool) -> Figure:
    """A depth, at most as far as the bar goes."""
    if band.best >= most_mm:
        label = f"{label}, right through"
        band = Band(min(band.low, most_mm), most_mm, most_mm)
    if is_seen:
        return Figure(label, band.best, _MM, "as seen", (), "seen when it was bored")
    terms = (
        Term("t", f"{how.way}, in {how.carrier}", 60 * how.hours, Dimension.DURATION),
        Term("low", "9 in 10 deeper than", band.low, _MM),
        Term("high", "and less deep than", band.high, _MM),
    )
    source = "a guess: what you see when it is bored replaces it, by wood and carrier"
    return Figure(label, band.best, _MM, "depth ∝ √t", terms, source)


def _needed(plan: Plan, number: int) -> Figure | None:
    """How deep a colour must lie so that some of it stays all along, with the bar as it is when it is soaked."""
    job = plan.job
    if plan.layout is None or job.pen is None:
        return None
    width, depth, _ = section_at(plan, number)
    across = min(width, depth)
    slimmest = job.pen.slimmest_mm
    drift = drift_mm(plan.shop)
    terms = (
        Term("w", "the bar, across, when it is soaked", across, _MM),
        Term("D", "finished, where it is slimmest", slimmest, _MM),
        Term("e", "the hole may lie off by", drift, _MM),
    )
    value = dyeing.needed_mm(across, slimmest, drift)
    return Figure("It must lie deeper than", value, _MM, "(w − D) / 2 + e", terms, "derived")
