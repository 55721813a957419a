"""What is to be said of promises."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date

from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.timetable.reasons import chain
from orvek.planning.timetable.weeks import Weeks
from orvek.quantities import write_moment

_SURE_PCT = 90.0


def promises(plan: Plan) -> Iterator[Finding]:
    """A promise in the past, with work still to be done."""
    promised = plan.job.work.promised
    if plan.tasks is not None and promised is not None and plan.tasks.open and promised < date.today():
        because = f"It was promised for {promised.day} {promised:%B}, and {len(plan.tasks.open)} tasks are open."
        remedy = Remedy("Take the promise back", (Edit(("work", "promised"), None),))
        yield Finding(Severity.CAUTION, Station.TIMETABLE, "The promised day is past.", because, (remedy,))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (promises,)


def weeks_findings(plan: Plan) -> Iterator[Finding]:
    """What the timetable adds: a job that finds no room, one that will be late, a promise that is unsure."""
    weeks = plan.weeks
    if weeks is None:
        return
    if weeks.table.problem:
        yield Finding(Severity.CAUTION, Station.TIMETABLE, "There is no timetable.", weeks.table.problem)
        return
    promised, ready = plan.job.work.promised, weeks.table.ready(plan.job.batch.id)
    for job, days in weeks.table.late:
        if job != plan.job.batch.id or ready is None:
            continue
        why = " ".join(chain(weeks.table, job, 2))
        earlier = " ".join(_ways(weeks))
        chance = weeks.chance_pct(promised) if promised is not None else None
        sure = f"In {chance:.0f} of 100 tries it was ready in time. " if chance else ""
        because = f"It is ready {write_moment(ready)}. {sure}{why} {earlier}".strip()
        title = f"It will be {days} day{'s' if days > 1 else ''} late."
        day = Remedy(f"Promise it for {ready.day} {ready:%B}", (Edit(("work", "promised"), ready.date()),))
        yield Finding(Severity.CAUTION, Station.TIMETABLE, title, because, (day,))
        return
    chance = weeks.chance_pct(promised) if promised is not None else None
    if promised is not None and chance is not None and chance < _SURE_PCT:
        because = f"In {chance:.0f} of 100 tries it was ready by {promised.day} {promised:%B}: times and waits vary."
        yield Finding(Severity.NOTE, Station.TIMETABLE, "The promise is not sure.", because)


def _ways(weeks: Weeks) -> Iterator[str]:
    for way in weeks.ways[:2]:
        yield f"Earlier: {way.words}, {write_moment(way.ready)}."
