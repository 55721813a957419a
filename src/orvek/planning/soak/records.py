"""What was seen of this job's wood, as the shop's records take it: the next job's defaults follow from it."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.dyeing import guessed_mm
from orvek.documents import Observation, Shop
from orvek.documents.shelf.soaked import CORE, DRYING, DYE_END, DYE_SIDE, UPTAKE
from orvek.errors import NothingToDoError
from orvek.planning.results import Plan
from orvek.planning.soak.drying import guessed_tail_h
from orvek.planning.soak.dyes import dyeing_of
from orvek.planning.soak.oven import heat_plan

_SAME_PART = 0.02  # of a value: nobody saw it more closely


def observations(plan: Plan) -> tuple[Observation, ...]:
    """All that was measured and is not yet among the shop's records.

    Raises:
        NothingToDoError: nothing was measured, or all of it stands there already.
    """
    found = tuple(one for one in _seen(plan) if not any(_is_same(one, there) for there in plan.shop.soaked))
    if not found:
        raise NothingToDoError("Adding to your records", "a weight, a probe or a depth that is not there yet")
    return found


def _is_same(one: Observation, there: Observation) -> bool:
    """Whether an observation stands there already: a fit moves by a hair once it is among the records."""
    return one == there.with_(value=one.value) and abs(one.value - there.value) <= _SAME_PART * one.value


def _seen(plan: Plan) -> Iterator[Observation]:
    soak, job = plan.soak, plan.job
    if soak is None:
        return
    base = Observation(name=job.batch.name, species=job.treated_wood)
    fit = soak.drying.told
    if fit is not None:
        expected = round(guessed_tail_h(job), 3)
        yield base.with_(seen=DRYING, value=round(fit.tail_h, 3), expected=expected)
    if soak.bath is not None and soak.bath.taken_pct is not None:
        yield base.with_(seen=UPTAKE, value=round(max(0.001, soak.bath.taken_pct.value), 1), expected=100.0)
    if soak.heat is not None and job.soak.heat.core_min is not None:
        expected = heat_plan(job, Shop()).core_min.value  # without what other probes taught
        yield base.with_(seen=CORE, value=job.soak.heat.core_min, expected=round(expected, 2))
    for dye in soak.dyes:
        how = dyeing_of(job, dye.dye)
        for seen, at_end in ((dye.dye.seen_mm, False), (dye.dye.seen_end_mm, True)):
            if seen is not None:
                what = DYE_END if at_end else DYE_SIDE
                expected = round(guessed_mm(how, at_end=at_end), 3)
                yield base.with_(seen=what, carrier=dye.dye.carrier, value=seen, expected=expected)
