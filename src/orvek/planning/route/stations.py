"""Which stations a job goes through, in the order of its work."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import JOB, DyeStep, WrapStep, path_to
from orvek.documents.deeds import is_set
from orvek.planning.findings import Severity, Station
from orvek.planning.results import Plan

_SELDOM = ("jobs", "charts")  # of the workshop: the chooser has every job, and what charts show stands at its page
OF_JOB = (
    Station.PEN, Station.BLANK, Station.SOAK, Station.POUR, Station.GLUE_UP, Station.BORE, Station.FINISH,
    Station.BATCH,
)  # fmt: skip


def stations_of(plan: Plan) -> tuple[Station, ...]:
    """The stations of a plan's job: where something of it is decided or done, or has to be looked at.

    Pen and Blank come first, for what they decide makes the route; then in the order of the operations, and Batch last.
    """
    worked = dict.fromkeys(one.station for one in (plan.route.operations if plan.route else ()))
    others = [there for there in OF_JOB if there in {*_decided(plan), *_asked(plan)} and there not in worked]
    middle = sorted((*worked, *others), key=lambda there: _place(there, list(worked)))
    return tuple(dict.fromkeys((Station.PEN, Station.BLANK, *middle, Station.BATCH)))


def _place(station: Station, worked: list[Station]) -> tuple[float, int]:
    """As in the operations; what has none yet stands where it usually does."""
    usual = OF_JOB.index(station)
    if station in worked:
        return float(worked.index(station)), usual
    before = [n for n, there in enumerate(worked) if OF_JOB.index(there) < usual]
    return (max(before) + 0.5 if before else -0.5), usual


def _decided(plan: Plan) -> Iterator[Station]:
    """Where something is to be decided, whether it makes an operation already or not."""
    job = plan.job
    over = any(isinstance(step, WrapStep) and step.covered == "cast over" for step in job.blank.steps)
    if (job.cast_index is not None or over) and not plan.bars.in_hand:
        yield Station.POUR
    if plan.soak is not None:
        yield Station.SOAK
    if plan.glue_up is not None and (plan.glue_up.cuts or plan.glue_up.joints):
        yield Station.GLUE_UP
    if job.pen is not None and not job.makes_bars:
        yield from (Station.BORE, Station.FINISH)


def rare_pages(plan: Plan) -> frozenset[str]:
    """The pages that a job has no use for: their thing is not there, and no finding speaks of it."""
    job, spoken_of = plan.job, {one.key.partition(".")[0] for one in plan.findings}
    has_joints = plan.glue_up is not None and bool(plan.glue_up.joints)
    used = {
        "wrap": plan.finish is not None and plan.finish.wrap is not None,
        "voids": plan.finish is not None and plan.finish.voids is not None,
        "gluing": has_joints,
        "meet": has_joints,
        "pattern": has_joints,
        "boards": bool(plan.shop.boards),
        "dyes": any(isinstance(step, DyeStep) for step in job.blank.steps),
        "resin": plan.soak is not None and plan.soak.bath is not None,
        "bubbles": is_set(job, path_to(JOB.pour.bubbles)) or is_set(job, path_to(JOB.pour.pot)),
    }
    found = {name for name, is_used in used.items() if not is_used and name not in spoken_of}
    return frozenset({*found, *_SELDOM})


def _asked(plan: Plan) -> Iterator[Station]:
    """Where a stop or a caution stands: it always marks its station."""
    yield from (one.station for one in plan.findings if one.severity is not Severity.NOTE and one.station in OF_JOB)
