"""What is to be said of promises."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date

from orvek.documents import JOB, FieldPath, Job, Order, path_to
from orvek.documents.deeds.orders import free_pens
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station, changes
from orvek.planning.results import Plan
from orvek.planning.timetable.items import slack_steps
from orvek.planning.timetable.reasons import chain
from orvek.planning.timetable.results import Weeks
from orvek.planning.timetable.settling import NEAR_H, apart_h, depends_on_hour
from orvek.planning.timetable.windows import STEP_MIN
from orvek.quantities import minutes_between, write_day, write_moment, write_month_day

_SURE_PCT = 90.0


def promises(plan: Plan) -> Iterator[Finding]:
    """A promise in the past, with work still to be done."""
    promised = plan.job.promised
    if plan.route is not None and promised is not None and plan.route.open and promised < date.today():
        to = f" to {order.customer}" if (order := _order_of(plan.job)) is not None and order.customer else ""
        because = f"It was promised{to} for {write_month_day(promised)}, and {len(plan.route.open)} tasks are open."
        remedy = Remedy("Take the promise back", (Edit(_promise_path(plan.job), None),))
        yield Finding(Severity.CAUTION, Station.BATCH, "The promised day is past.", because, (remedy,))


def orders(plan: Plan) -> Iterator[Finding]:
    """More pens that are ordered than are made."""
    short = -free_pens(plan.job)
    if short > 0:
        ordered = plan.job.batch.pens_wanted + short
        because = f"{ordered} are ordered, and {plan.job.batch.pens_wanted} good ones are wanted of this batch."
        remedy = Remedy(f"Make {ordered} {plan.job.thing}s", (Edit(path_to(JOB.batch.pens_wanted), ordered),))
        yield Finding(
            Severity.CAUTION, Station.BATCH, f"More {plan.job.thing}s are ordered than are made.", because, (remedy,)
        )


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (promises, orders)


def _order_of(job: Job) -> Order | None:
    """The order whose promise comes first; None where that is the whole job's."""
    own = [order for order in job.orders if order.promised == job.promised and not order.is_delivered]
    return own[0] if own and job.work.promised != job.promised else None


def _promise_path(job: Job) -> FieldPath:
    """Where the promise stands that comes first."""
    order = _order_of(job)
    return path_to(JOB.work.promised if order is None else JOB.orders[job.orders.index(order)].promised)


def weeks_findings(plan: Plan) -> Iterator[Finding]:
    """What the timetable adds: a job that finds no room, one that will be late, a promise that is unsure."""
    weeks = plan.weeks
    if weeks is None or weeks.is_first_look:
        return
    if weeks.table.problem:
        yield Finding(Severity.CAUTION, Station.BATCH, "There is no timetable.", weeks.table.problem)
        return
    yield from _pour_moved(plan, weeks)
    yield from _too_late(plan, weeks)
    yield from _too_long(plan, weeks)
    promised, ready = plan.job.promised, weeks.table.ready(plan.job.batch.id)
    for job, days in weeks.table.late:
        if job != plan.job.batch.id or ready is None:
            continue
        why = " ".join(chain(weeks.table, job, 2))
        earlier = " ".join(_ways(weeks))
        chance = weeks.chance_pct(promised) if promised is not None else None
        sure = f"In {chance:.0f} of 100 tries it was ready in time. " if chance else ""
        because = f"It is ready {write_moment(ready)}. {sure}{why} {earlier}".strip()
        title = f"It will be {days} day{'s' if days > 1 else ''} late."
        day = Remedy(f"Promise it for {write_month_day(ready)}", (Edit(_promise_path(plan.job), ready.date()),))
        yield Finding(Severity.CAUTION, Station.BATCH, title, because, (day,))
        return
    chance = weeks.chance_pct(promised) if promised is not None else None
    if promised is not None and chance is not None and chance < _SURE_PCT:
        because = f"In {chance:.0f} of 100 tries it was ready by {write_month_day(promised)}: times and waits vary."
        yield Finding(Severity.NOTE, Station.BATCH, "The promise is not sure.", because)


def _too_late(plan: Plan, weeks: Weeks) -> Iterator[Finding]:
    """What cannot wait and does: the hours are too short for it, or it was pinned apart."""
    slots = {slot.task.key: slot for slot in weeks.table.of(plan.job.batch.id)}
    for slot in slots.values():
        slack = slack_steps(slot.task)
        for before in (slots[key] for key in slot.task.after if key in slots):
            wait_min = minutes_between(before.ready, slot.begins)
            if slack is None or wait_min <= slack * STEP_MIN:
                continue
            waited, most = plan.units.minutes(wait_min), plan.units.minutes(slack * STEP_MIN)
            because = (
                f"It begins {write_moment(slot.begins)}, {waited} after “{before.task.words}” is over; it should "
                f"within {most}. Give yourself a longer day, or free what is pinned."
            )
            title = f"“{slot.task.words}” cannot wait so long."
            yield Finding(Severity.CAUTION, Station.BATCH, title, because)


def _too_long(plan: Plan, weeks: Weeks) -> Iterator[Finding]:
    """What cannot be left half done, and is longer than any time at the bench."""
    units = plan.units
    taken = {slot.task.key: slot.task.hands_min for slot in weeks.table.of(plan.job.batch.id)}
    for one in plan.route.open if plan.route is not None else ():
        there = taken.get(one.key)
        if there is not None and one.hands_min > there + STEP_MIN:
            because = (
                f"It takes about {units.minutes(one.hands_min)} and cannot be left half done; your longest time at the "
                f"bench is {units.minutes(there)}. Give yourself a longer day for it, and pin it there."
            )
            title = f"“{one.words}” is longer than your time."
            yield Finding(Severity.CAUTION, Station.BATCH, title, because)


def _pour_moved(plan: Plan, weeks: Weeks) -> Iterator[Finding]:
    """A cure that is forecast from another time than the timetable pours at."""
    there = plan.job.pour.conditions
    pour = next((slot for slot in weeks.table.of(plan.job.batch.id) if slot.task.key == "pour.1"), None)
    if pour is None or plan.job.pour.resin is None:
        return
    hour = pour.begins.hour + pour.begins.minute / 60
    is_another_hour = depends_on_hour(there) and apart_h(there.poured_h, hour) > NEAR_H
    is_another_day = there.poured_on is not None and there.poured_on != pour.begins.date()
    if not is_another_hour and not is_another_day:
        return
    told = f"{write_day(there.poured_on)}" if there.poured_on is not None else "no day yet"
    counted = " The timetable counts with the other time already." if weeks.cure_h is not None else ""
    if not weeks.is_settled:
        counted = (
            " Poured later it hardens at another time, which moves the pour again: it did not settle. Pin the pour."
        )
    because = (
        f"The timetable pours {write_moment(pour.begins)}; the cure is forecast for {told}, from "
        f"{int(there.poured_h):02d}:{round(there.poured_h % 1 * 60):02d} on. A night in a cold shop makes a difference."
        f"{counted}"
    )
    moved = there.with_(poured_on=pour.begins.date(), poured_h=hour)
    remedy = Remedy(
        f"Forecast it from {write_moment(pour.begins)}", changes(path_to(JOB.pour.conditions), there, moved)
    )
    yield Finding(Severity.NOTE, Station.BATCH, "The cure is forecast for another time.", because, (remedy,))


def _ways(weeks: Weeks) -> Iterator[str]:
    for way in weeks.ways[:2]:
        yield f"Earlier: {way.words}, {write_moment(way.ready)}."
