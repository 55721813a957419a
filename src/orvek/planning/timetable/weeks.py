"""The weeks ahead: all jobs of the workshop in the maker's hours; how sure a day is, and what would make it earlier."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Sequence
from datetime import date, datetime, timedelta
from itertools import accumulate
from typing import TYPE_CHECKING

from msgspec.structs import replace

from orvek.documents import DayHours, Hours
from orvek.planning.results import Plan, Planner
from orvek.planning.route.results import Route
from orvek.planning.timetable.question import job_tasks
from orvek.planning.timetable.results import (
    MOST_DAYS,
    JobTasks,
    Slot,
    Timetable,
    TimetableQuestion,
    Way,
    Weeks,
    WeeksQuestion,
)
from orvek.planning.timetable.settling import NEAR_H, ROUNDS, apart_h, depends_on_hour
from orvek.planning.timetable.solving import quickly, solved
from orvek.planning.timetable.windows import windows, without
from orvek.quantities import later, minutes_between

if TYPE_CHECKING:
    from orvek.planning.cure.results import CureForecast

Tell = Callable[[float], None]
Moved = Callable[["CureForecast", float], "CureForecast"]
Cured = Callable[[Plan], "CureForecast | None"]
_TRIES, _SEED, _NEXT_MIN = 200, 11, 15
_MORE_H = 1.0
MOST_JOBS = 60  # planned at once: about a year of evenings
_FILLED = 0.7  # so much of the hours is filled without gaps by waits (a choice)


def next_step(now: datetime) -> datetime:
    """The next quarter of an hour."""
    whole = now.replace(second=0, microsecond=0)
    return whole + timedelta(minutes=-whole.minute % _NEXT_MIN)


def plan_has_tasks(plan: Plan) -> bool:
    """Whether the job in hand has anything to do, or had."""
    return plan.route is not None and bool(plan.route.operations)


def weeks_question(plan: Plan) -> WeeksQuestion | None:
    """What is asked of a plan: its job and the other open ones of the workshop; None while no job is to be planned."""
    open_ones = [job for job in plan.others if job.work.is_open and job.batch.id != plan.job.batch.id]
    open_ones.sort(key=lambda job: job.promised or date.max)  # and of those without a promise the newest first
    others = tuple(open_ones[: MOST_JOBS - 1])
    own = (plan.job,) if plan.job.work.is_open else ()
    if not plan_has_tasks(plan) and not others:
        return None
    more = len(open_ones) - len(others)
    question = WeeksQuestion((*own, *others), plan.shop, next_step(datetime.now()), more=more)
    return replace(question, cure=plan.cure and plan.cure.times, in_hand=plan.job.batch.id) if own else question


def weeks(
    question: WeeksQuestion,
    planner: Planner,
    tell: Tell = lambda _: None,
    moved: Moved | None = None,
    cured: Cured | None = None,
    early: Callable[[Weeks], None] = lambda _: None,
) -> Weeks:
    """Plan the jobs one by one with `planner`, then all of them into the maker's hours.

    With `moved`, which gives a cure as if poured at another time of day, the cure is as the pour then is, in turns.
    With `cured`, which forecasts one, the other jobs wait as theirs say, too; `early` is told the plan without that,
    and first of all the one that is laid out step by step.
    """
    planned = []
    for number, job in enumerate(question.jobs):
        planned.append(planner(job, question.shop, (), question.cure if job.batch.id == question.in_hand else None))
        tell(0.3 * (number + 1) / len(question.jobs))
    early(_at_once(question, planned))
    if cured is not None and any(_is_poured_later(one, question) for one in planned):
        early(_laid_out(question, planner, planned, lambda _: tell(0.3), None, question.sketched().effort))
        for number, one in enumerate(planned):
            planned[number] = _with_cure(one, question, planner, cured)
            tell(0.3)  # whoever does not wait any more ends it here
    return _laid_out(question, planner, planned, tell, moved, question.effort)


def _is_poured_later(planned: Plan, question: WeeksQuestion) -> bool:
    """Whether a job that is not in hand has still to be poured."""
    open_ones = planned.route.open if planned.route else ()
    return planned.job.batch.id != question.in_hand and any(one.key.startswith("pour.") for one in open_ones)


def _with_cure(planned: Plan, question: WeeksQuestion, planner: Planner, cured: Cured) -> Plan:
    """A job that has still to be poured waits as its cure is forecast."""
    cure = cured(planned) if _is_poured_later(planned, question) else None
    return planned if cure is None else planner(planned.job, question.shop, (), cure)


def _at_once(question: WeeksQuestion, planned: list[Plan]) -> Weeks:
    """Every task as early as it goes, promised jobs first: something to look at while a better plan is made."""
    asked = [_asked(question, one) for one in planned]
    there = _that_fit(question, asked)
    table = quickly(TimetableQuestion(tuple(there), question.shop.hours, question.begin))
    names = tuple((job.batch.id, job.batch.name) for job in question.jobs)
    return Weeks(question, table, names, question.more + len(asked) - len(there), is_first_look=True)


def _laid_out(
    question: WeeksQuestion, planner: Planner, planned: list[Plan], tell: Tell, moved: Moved | None, effort: float
) -> Weeks:
    """Planned jobs laid into the maker's hours, and what is told of the one in hand."""
    names = [(job.batch.id, job.batch.name) for job in question.jobs]
    asked = [_asked(question, one) for one in planned]
    there = _that_fit(question, asked)
    more, asked = question.more + len(asked) - len(there), there
    whole = TimetableQuestion(tuple(asked), question.shop.hours, question.begin, effort)
    table = solved(whole, lambda part: tell(0.3 + 0.5 * part))
    if table.problem or not asked or not question.in_hand:
        return Weeks(question, table, tuple(names), more)
    whole, table, cure_h, is_settled = _settled(question, planner, planned[0], whole, table, moved)
    tell(0.85)
    own = whole.jobs[0]
    tries = tuple(sorted(_tries(own, question, table.slots)))
    ways = tuple(_ways(whole, own, table))
    tell(1.0)
    return Weeks(question, table, tuple(names), more, tries, ways, cure_h, is_settled)


def _that_fit(question: WeeksQuestion, asked: list[JobTasks]) -> list[JobTasks]:
    """The first jobs, as many as the hours of a year hold; always one."""
    there = windows(question.shop.hours, question.begin, MOST_DAYS, loud=False)
    room = _FILLED * sum(last - first for first, last in there)
    hands = accumulate(sum(task.hands_min for task in job.tasks) for job in asked)
    return asked[: max(1, sum(so_far <= room for so_far in hands))]


def _asked(question: WeeksQuestion, planned: Plan) -> JobTasks:
    """A planned job's tasks."""
    route = planned.route or Route((), frozenset())  # nothing of it is decided yet
    return job_tasks(planned.job, route, question.shop.hours, question.begin)


def _settled(
    question: WeeksQuestion,
    planner: Planner,
    planned: Plan,
    whole: TimetableQuestion,
    table: Timetable,
    moved: Moved | None,
) -> tuple[TimetableQuestion, Timetable, float | None, bool]:
    """Forecast the cure as poured when the timetable pours, plan again, until it is the same or is given up."""
    cure, conditions = question.cure, planned.job.pour.conditions
    if cure is None or moved is None or not depends_on_hour(conditions):
        return whole, table, None, True
    assumed_h, cure_h = conditions.poured_h, None
    for _ in range(ROUNDS):
        pour = next((slot for slot in table.of(planned.job.batch.id) if slot.task.key == "pour.1"), None)
        hour = pour.begins.hour + pour.begins.minute / 60 if pour is not None else assumed_h
        if apart_h(hour, assumed_h) <= NEAR_H:
            return whole, table, cure_h, True
        assumed_h = cure_h = hour
        own = _asked(question, planner(planned.job, question.shop, (), moved(cure, hour)))
        again = replace(whole, jobs=(own, *whole.jobs[1:]))
        found = solved(again)
        if found.problem:
            break
        whole, table = again, found
    return whole, table, cure_h, False


def _tries(own: JobTasks, question: WeeksQuestion, slots: tuple[Slot, ...]) -> Iterator[date]:
    """The days on which a job is ready when times and waits come out as they may; other jobs stay where they are."""
    if not own.tasks:
        return

    def minutes(when: datetime) -> float:
        return minutes_between(question.begin, when)

    chance = random.Random(_SEED)
    days = TimetableQuestion((own,), question.shop.hours, question.begin).days
    taken = [(minutes(slot.begins), minutes(slot.ends)) for slot in slots if slot.job != own.job]
    free = {
        loud: without(windows(question.shop.hours, question.begin, days, loud=loud), taken) for loud in (False, True)
    }
    pins = {task: minutes(when) for task, when in own.pins}
    first = max((minutes(wait.ends) for wait in own.waiting), default=0.0)
    for _ in range(_TRIES):
        at = max(0.0, first)
        for task in own.tasks:
            low, high = task.hands_span_min
            at = _through(
                max(at, pins.get(task.key, 0.0)), chance.triangular(low, high, task.hands_min), free[task.is_loud]
            )
            low, usual, most = task.wait_min
            at += chance.triangular(low, most, usual) if most > low else usual
        yield later(question.begin, at).date()


def _through(at: float, hands: float, free: Sequence[tuple[float, float]]) -> float:
    """When so much work of the hands is over that begins no earlier than `at`, pausing where they are not free."""
    left = hands
    for first, last in free:
        begin = max(at, first)
        if last - begin >= left:
            return begin + left
        left -= max(0.0, last - begin)
    return (free[-1][1] if free else at) + left


def _ways(whole: TimetableQuestion, own: JobTasks, table: Timetable) -> Iterator[Way]:
    """Step-by-step plans with one thing changed each, where that makes the job in hand ready a day earlier."""
    planned = table.ready(own.job)
    if planned is None:
        return
    now = min(planned, quickly(whole).ready(own.job) or planned)  # a way has to be earlier than both
    hours = whole.hours
    tried = (
        ("an hour more on each of your days", replace(whole, hours=_longer(hours))),
        ("this job before the others", replace(whole, jobs=tuple(_first(whole.jobs, own)))),
        ("if all waits are as they usually are", replace(whole, hours=hours.with_(waits="as they usually take"))),
        ("a free Sunday", replace(whole, hours=_with_sunday(hours))),
    )
    for words, changed in tried:
        ready = quickly(changed).ready(own.job)
        if ready is not None and ready.date() < now.date():
            yield Way(words, ready)


def _longer(hours: Hours) -> Hours:
    days = tuple(day.with_(from_h=max(0.0, day.from_h - _MORE_H)) if day.is_open else day for day in hours.days)
    return hours.with_(days=days)


def _with_sunday(hours: Hours) -> Hours:
    return hours.with_(days=(*hours.days[:6], DayHours(from_h=10, to_h=17)))


def _first(jobs: tuple[JobTasks, ...], own: JobTasks) -> Iterator[JobTasks]:
    yield replace(own, promised=date.min + timedelta(days=1))
    yield from (job for job in jobs if job.job != own.job)
