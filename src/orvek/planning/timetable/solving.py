"""The best timetable: promised dates first, then few sessions at the bench, then early. By OR-Tools' CP-SAT.

A plan that is made step by step, each task as early as it goes, is there at once; the solver begins from it and is
never worse. How long is looked for better ones is counted in work: a slow machine waits longer and is told the same.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from time import monotonic

from orvek.planning.timetable.costing import EARLY_A_DAY, LATE_A_DAY, SESSION, cost
from orvek.planning.timetable.earlier import earlier
from orvek.planning.timetable.items import (
    DAY,
    Item,
    due_step,
    is_soon_enough,
    items_of,
    open_for,
    slack_steps,
    steps_into_day,
    taken_places,
)
from orvek.planning.timetable.reasons import reasons
from orvek.planning.timetable.results import Slot, Timetable, TimetableQuestion
from orvek.planning.timetable.stepwise import stepwise
from orvek.planning.timetable.windows import STEP_MIN, windows
from orvek.planning.watching import watched
from orvek.quantities import later

_SOLVED_UP_TO = 160  # tasks: with more the solver finds nothing in its time that changing the jobs' order does not
_TRIES, _MANY = 200, 1_000_000  # orders of the jobs, of few tasks and of many
_LOOKS, _SOLVED = 100_000, 0.35  # what an ordinary machine does in a second: at the board, by the solver's own count
_LATER_DAYS = 3  # than the step-by-step plan no task is looked for, to keep the search small
Tell = Callable[[float], None]


def solved(question: TimetableQuestion, tell: Tell = lambda _: None) -> Timetable:
    """The timetable of a question; where the solver finds nothing better in its time, the step-by-step one."""
    items = items_of(question)
    if not items:
        return Timetable(question, ())
    if not windows(question.hours, question.begin, question.days, loud=False):
        return Timetable(question, (), problem="Your hours leave no time at the bench. Change them, or the days off.")
    tell(0.05)
    found = (_of_few if len(items) <= _SOLVED_UP_TO else _of_many)(question, items, tell)
    if found is None:
        return Timetable(question, (), problem=_no_room(question, items))
    starts, is_best = found
    return told(question, items, starts, is_best=is_best)


def quickly(question: TimetableQuestion) -> Timetable:
    """The step-by-step timetable: each task of each job as early as it goes, promised jobs first."""
    items = items_of(question)
    starts = stepwise(question, items)
    return Timetable(question, ()) if starts is None else told(question, items, starts)


_Found = tuple[list[int], bool]  # where the items begin, whether it is the best there is


def _of_few(question: TimetableQuestion, items: list[Item], tell: Tell) -> _Found | None:
    """Few tasks: some orders of the jobs, and the solver goes on from the best of them."""
    tick = _ticking(tell, question.effort, 0.05)
    first = stepwise(question, items, _TRIES, question.effort * _LOOKS, tick)
    if first is None:
        return None
    found, is_best = _improved(question, items, first, tell)
    return earlier(question, items, found), is_best


def _of_many(question: TimetableQuestion, items: list[Item], tell: Tell) -> _Found | None:
    """Many tasks: orders of the jobs, for all of the effort."""
    tick = _ticking(tell, question.effort, 0.9)
    found = stepwise(question, items, _MANY, question.effort * _LOOKS, tick)
    return None if found is None else (found, False)


def _ticking(tell: Tell, seconds: float, part: float) -> Callable[[], None]:
    """Tells how much of the time has gone that it takes about, as so large a part of the whole."""
    began = monotonic()
    return lambda: tell(0.05 + part * min(1.0, (monotonic() - began) / seconds))


# -- the solver ------------------------------------------------------------------------------------------------


def _improved(question: TimetableQuestion, items: list[Item], first: list[int], tell: Tell) -> _Found:
    """Starts that cost least, and whether they are the best there are."""
    from ortools.sat.python import cp_model

    cost_first = cost(question, items, first)
    model = cp_model.CpModel()
    offset, latest = steps_into_day(question.begin), max(first) + _LATER_DAYS * DAY
    horizon = question.days * DAY + max(item.wait for item in items)
    starts, hands, places, days = [], [], {}, {}  # type: ignore[var-annotated]
    for index, item in enumerate(items):
        there = [window for window in open_for(question, item) if window[0] <= latest]
        start = model.new_int_var_from_domain(cp_model.Domain.from_intervals([list(one) for one in there]), "")
        starts.append(start)
        model.add_hint(start, first[index])
        hands.append(model.new_fixed_size_interval_var(start, item.hands, ""))
        if item.task.place:
            places.setdefault(item.task.place, []).append(model.new_fixed_size_interval_var(start, item.held, ""))
        _on_days(model, start, there, offset, days, first[index])
    model.add_no_overlap([one for one, item in zip(hands, items, strict=True) if item.pinned is None])
    for place, until in taken_places(question):
        places.setdefault(place, []).append(model.new_fixed_size_interval_var(0, until, ""))
    for one in places.values():
        model.add_no_overlap(one)
    _precedences(model, items, starts)
    model.minimize(_cost(model, question, items, starts, horizon, days))  # type: ignore[no-untyped-call]
    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time = _SOLVED * question.effort
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    with watched(solver, lambda part: tell(0.1 + 0.85 * part), question.effort):
        status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return first, False
    found = [int(solver.value(start)) for start in starts]
    if cost_first < cost(question, items, found) and is_soon_enough(items, first):
        found = first
    return found, status == cp_model.OPTIMAL


def _on_days(model, start, there, offset, days, hint) -> None:  # type: ignore[no-untyped-def]
    """Whether a task begins on a day, as one of the windows of the day it begins in."""
    from ortools.sat.python import cp_model

    own: dict[int, list[list[int]]] = {}
    for first, last in there:
        while first <= last:
            day = (first + offset) // DAY
            until = min(last, (day + 1) * DAY - offset - 1)
            own.setdefault(day, []).append([first, until])
            first = until + 1
    chosen = []
    for day, windows_then in own.items():
        is_then = model.new_bool_var("")
        chosen.append(is_then)
        model.add_hint(is_then, (hint + offset) // DAY == day)
        domain = cp_model.Domain.from_intervals(windows_then)
        model.add_linear_expression_in_domain(start, domain).only_enforce_if(is_then)
        days.setdefault(day, []).append(is_then)
    model.add_exactly_one(chosen)


def _precedences(model, items, starts) -> None:  # type: ignore[no-untyped-def]
    """Each task after those before it, and soon enough after the one that cannot wait."""
    at = {(item.job, item.task.key): index for index, item in enumerate(items)}
    for index, item in enumerate(items):
        if item.pinned is not None:
            continue
        for key in item.task.after:
            before = at.get((item.job, key))
            if before is None:
                continue
            over = items[before].over(starts[before])
            model.add(starts[index] >= over)
            slack = slack_steps(item.task)
            if slack is not None and items[before].pinned is None:
                model.add(starts[index] <= over + slack)


def _cost(model, question, items, starts, horizon, days):  # type: ignore[no-untyped-def]
    """Days late, days at the bench, and how late everything is ready: `costing.cost` for the solver."""
    terms = []
    for number, job in enumerate(question.jobs):
        last = max((index for index, item in enumerate(items) if item.job == number), default=None)
        if last is None:
            continue
        ready = items[last].over(starts[last])
        terms.append(EARLY_A_DAY * ready)
        if job.promised is not None:
            late = model.new_int_var(0, horizon, "")
            model.add(late >= ready - due_step(question, job))
            terms.append(LATE_A_DAY * late)
    for those in days.values():
        used = model.new_bool_var("")
        for is_then in those:
            model.add_implication(is_then, used)
        terms.append(SESSION * DAY * used)
    return sum(terms)


# -- what is told ----------------------------------------------------------------------------------------------


def told(question: TimetableQuestion, items: list[Item], starts: list[int], *, is_best: bool = False) -> Timetable:
    """The timetable in which the items begin so, with why each begins no earlier."""

    def when(step: int) -> datetime:
        return later(question.begin, step * STEP_MIN)

    whys = reasons(question, items, starts)
    slots = [
        Slot(
            question.jobs[item.job].job,
            item.task,
            when(start),
            when(start + item.hands),
            when(item.over(start)),
            why,
            item.pinned is not None,
        )
        for item, start, why in zip(items, starts, whys, strict=True)
    ]
    return Timetable(question, tuple(sorted(slots, key=lambda slot: slot.begins)), is_best)


def _no_room(question: TimetableQuestion, items: list[Item]) -> str:
    tight = next((item for item in items if not open_for(question, item)), None)
    if tight is None:
        return f"It does not fit into the next {question.days} days."
    name = question.jobs[tight.job].name
    loud = " outside your quiet hours" if tight.task.is_loud else ""
    return f"{name}: “{tight.task.words}” finds no room{loud}. Give yourself more hours on a day, or fewer quiet ones."
