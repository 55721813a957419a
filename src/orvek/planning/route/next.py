"""What is next in a job: one thing to put right, to decide, to do at the bench, or to wait for."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from msgspec import Struct

from orvek.planning.findings import Severity, Station
from orvek.planning.history import fates_of, plain
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation
from orvek.quantities import write_moment


class Next(Struct, frozen=True):
    """One sentence, where it leads, the operation that can be begun at the bench; `until` where a wait ends it."""

    words: str
    station: Station
    operation: Operation | None = None
    until: datetime | None = None


def next_of(plan: Plan, now: datetime) -> Next:
    """The next thing of a plan's job as it stands at a moment."""
    stop = next((one for one in plan.findings if one.severity is Severity.STOP), None)
    if stop is not None:
        return Next(f"First put right: {stop.title}", stop.station)
    if plan.job.pen is None and not plan.job.work.actuals:
        return Next("Next: choose the pen", Station.PEN)
    route = plan.route
    if route is None or not route.operations:
        return Next("Next: say how the blank is made", Station.BLANK)
    if not route.open:
        known = fates_of(plan.shop.ledger, plan.job.batch.id)
        if len(known) >= round(plan.bars.blanks.value):
            return Next("All of it is done", Station.BATCH)
        return Next("All of it is done: write down what became of each blank", Station.BATCH)
    one = route.open[0]
    missing = next((words for station, words in _missing(plan) if station is one.station), None)
    if missing is not None:
        return Next(f"Next, at {one.station.words}: {missing}", one.station)
    seen = dict(route.seen)

    def done_at(key: str) -> datetime | None:
        when = plan.job.work.when(key, "done")
        return plain(when) if when is not None else seen.get(key)

    held = route.held_by(one, done_at, lambda before: before.wait_min[1])
    if held is not None and held[0] > now:
        return Next(f"Nothing until {write_moment(held[0])}: {held[1]}", one.station, until=held[0])
    return Next(f"Ready: {one.words[:1].lower()}{one.words[1:]}", one.station, one)


def _missing(plan: Plan) -> Iterator[tuple[Station, str]]:
    """What has to be said before the first operation of a station can be set up."""
    job = plan.job
    if job.cast_index is not None and not plan.bars.in_hand:
        if job.pour.mould is None:
            is_open = len(job.blank.steps) == 1 and not job.cast.cups
            yield Station.POUR, f"choose the mould{', or at Blank another way to make it' if is_open else ''}"
        if job.pour.resin is None:
            yield Station.POUR, "choose the resin"
        if not job.cast.cups:
            yield Station.POUR, "say which colours go in"
    if job.glue_up.machine is None:
        yield Station.GLUE_UP, "say which saw"
    if job.bore.press is None:
        yield Station.BORE, "say which drill press"
    if job.pen is None:
        yield from ((there, "choose the pen") for there in (Station.BORE, Station.FINISH))
