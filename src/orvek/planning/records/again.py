"""One more like this: a job decided by what was really done, where that was written down, not by what was planned."""

from __future__ import annotations

from orvek.documents import CastStep, Cup, Finish, Job, Step
from orvek.documents.deeds.work import another_like
from orvek.planning.coating import finishing_of
from orvek.planning.results import Plan

_LEAST_PART, _MOST_PART = 0.05, 20.0  # beyond that a weighing was of something else


def as_done(plan: Plan) -> Job:
    """A new job like a plan's: its cups as they were weighed, its coats as they were counted, nothing done yet."""
    job = plan.job
    steps = tuple(_as_weighed(plan, step) if isinstance(step, CastStep) else step for step in job.blank.steps)
    finish = _as_coated(job)
    return another_like(job.with_(blank=job.blank.with_(steps=steps), finish=finish))


def what_differs(plan: Plan) -> tuple[str, ...]:
    """What a job like this one takes from the work instead of from the plan, in words."""
    done, told = as_done(plan), []
    for before, after in zip(plan.job.cast.cups, done.cast.cups, strict=True):
        if before != after:
            told.append(f"{before.name}: shares and pigments as they were weighed")
    planned, counted = plan.finishing, finishing_of(done, plan.shop)
    if (counted.thin, counted.medium) != (planned.thin, planned.medium):
        told.append(f"{counted.thin} thin and {counted.medium} medium coats, as they were counted")
    return tuple(told)


def _as_weighed(plan: Plan, step: CastStep) -> Step:
    """The cups of the first casting as they were weighed."""
    weighings = (one for one in plan.job.work.actuals if one.what == "weighed")
    weighed = {one.task: one.value / one.planned for one in weighings if one.value and one.planned}
    wet, cups, number = set(map(id, step.wet)), [], 0
    for cup in step.cups:
        if id(cup) in wet:
            number += 1
            cups.append(_cup(cup, weighed, f"weigh.1:{number}"))
        else:
            cups.append(cup)
    return step.with_(cups=tuple(cups))


def _cup(cup: Cup, weighed: dict[str, float], stem: str) -> Cup:
    """A cup that got so much more or less of its resin, and of each pigment beside that."""
    part = weighed.get(f"{stem}.A", 1.0)
    if not _LEAST_PART < part < _MOST_PART:
        return cup
    doses = []
    for place, dose in enumerate(cup.pigments, 1):
        load = dose.load_pct * weighed.get(f"{stem}.p{place}", part) / part
        doses.append(dose.with_(load_pct=round(min(30.0, load), 3)))
    return cup.with_(share=round(min(1000.0, max(0.1, cup.share * part)), 2), pigments=tuple(doses))


def _as_coated(job: Job) -> Finish:
    """Coats as many as were counted; as planned where none was."""
    counted = [a.step.partition(":")[2] for a in job.work.actuals if a.what == "counted"]
    thin, medium = (len({one for one in counted if one.startswith(f"{kind}.")}) for kind in ("thin", "medium"))
    return job.finish.with_(thin=thin, medium=medium) if thin or medium else job.finish
