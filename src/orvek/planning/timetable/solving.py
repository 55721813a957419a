"""The best timetable: promised dates first, then few sessions at the bench, then early. By OR-Tools' CP-SAT.

A plan that is made step by step, each task as early as it goes, is there at once; the solver begins from it and is
never worse.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, time, timedelta

from orvek.planning.timetable.question import JobTasks, TimetableQuestion
from orvek.planning.timetable.results import Slot, Task, Timetable
from orvek.planning.timetable.windows import STEP_MIN, Window, windows

LATE_A_DAY, SESSION, EARLY_A_DAY = 1000, 20, 3  # what they cost beside one another (a choice)
_SESSIONS_UP_TO = 160  # tasks: of more the days at the bench are not counted, the solver would only count
Tell = Callable[[float], None]


@dataclass(frozen=True, slots=True)
class _Item:
    """One task of one job, in steps from the beginning."""

    job: int
    place: int  # in its job
    task: Task
    hands: int
    wait: int
    free_at: int  # it cannot begin earlier: what was done before still waits
    pinned: int | None


def solved(question: TimetableQuestion, tell: Tell = lambda _: None) -> Timetable:
    """The timetable of a question; where the solver finds nothing better in its time, the step-by-step one."""
    items = _items(question)
    if not items:
        return Timetable(question, ())
    if not windows(question.hours, question.begin, question.days, loud=False):
        return Timetable(question, (), problem="Your hours leave no time at the bench. Change them, or the days off.")
    tell(0.05)
    first = greedy(question, items)
    if first is None:
        return Timetable(question, (), problem=_no_room(question, items))
    starts, is_best, gap = _improved(question, items, first, tell)
    return _told(question, items, starts, is_best=is_best, gap_pct=gap)


def quickly(question: TimetableQuestion) -> Timetable:
    """The step-by-step timetable: each task of each job as early as it goes, promised jobs first."""
    items = _items(question)
    starts = greedy(question, items)
    return Timetable(question, ()) if starts is None else _told(question, items, starts)


def _items(question: TimetableQuestion) -> list[_Item]:
    found = []
    for number, job in enumerate(question.jobs):
        waiting = max((_steps(question, when) for _, when in job.waiting), default=0)
        pins = dict(job.pins)
        for place, task in enumerate(job.tasks):
            hands = max(1, math.ceil(task.hands_min / STEP_MIN))
            pin = pins.get(task.key)
            pinned = None if pin is None or pin < question.begin else _steps(question, pin)
            free = waiting if place == 0 else 0
            found.append(_Item(number, place, task, hands, question.wait_of(task) // STEP_MIN, free, pinned))
    return found


def _steps(question: TimetableQuestion, when: datetime) -> int:
    return max(0, math.ceil((when - question.begin).total_seconds() / 60 / STEP_MIN))


def _open(question: TimetableQuestion, item: _Item) -> list[Window]:
    """From when to when a task may begin, in steps."""
    if item.pinned is not None:
        return [(item.pinned, item.pinned)]
    found = windows(question.hours, question.begin, question.days, loud=item.task.is_loud)
    steps = ((first // STEP_MIN, last // STEP_MIN - item.hands) for first, last in found)
    return [(max(first, item.free_at), last) for first, last in steps if last >= max(first, item.free_at)]


# -- step by step ----------------------------------------------------------------------------------------------


def greedy(question: TimetableQuestion, items: list[_Item]) -> list[int] | None:
    """Where each item begins, jobs by their promises, each task as early as it goes; None where one finds no room."""
    order = sorted(range(len(question.jobs)), key=lambda n: (question.jobs[n].promised or datetime.max.date(), n))
    starts: list[int | None] = [None] * len(items)
    busy: list[Window] = []
    held: dict[str, list[Window]] = {}
    for job in order:
        ready = 0
        for index in (n for n, item in enumerate(items) if item.job == job):
            begin = _earliest(question, items[index], ready, busy, held)
            if begin is None:
                return None
            starts[index] = begin
            ready = begin + items[index].hands + items[index].wait
            busy.append((begin, begin + items[index].hands))
            held.setdefault(items[index].task.place, []).append(_held(items[index], begin))
    return [start for start in starts if start is not None]


def _held(item: _Item, begin: int) -> Window:
    """How long a task takes its place."""
    return begin, begin + item.hands + (item.wait if item.task.holds else 0)


def _earliest(
    question: TimetableQuestion, item: _Item, ready: int, busy: list[Window], held: dict[str, list[Window]]
) -> int | None:
    for first, last in _open(question, item):
        at = max(first, ready) if item.pinned is None else first
        while at <= last:
            clash = _clash(item, at, busy, held)
            if clash is None or item.pinned is not None:
                return at
            at = clash
    return None


def _clash(item: _Item, at: int, busy: list[Window], held: dict[str, list[Window]]) -> int | None:
    """When what is in the way is over; None where nothing is."""
    ends = [last for first, last in busy if first < at + item.hands and at < last]
    if item.task.place:
        begins, until = _held(item, at)
        ends += [last for first, last in held.get(item.task.place, ()) if first < until and begins < last]
    return max(ends, default=None)


# -- the solver ------------------------------------------------------------------------------------------------


def _improved(
    question: TimetableQuestion, items: list[_Item], first: list[int], tell: Tell
) -> tuple[list[int], bool, float]:
    """Starts that cost least, whether they are the best there are, and how far from it they may be, in %."""
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    horizon = question.days * 1440 // STEP_MIN + max(item.wait for item in items)
    starts, hands, places = [], [], {}  # type: ignore[var-annotated]
    for index, item in enumerate(items):
        domain = cp_model.Domain.from_intervals([list(window) for window in _open(question, item)])
        start = model.new_int_var_from_domain(domain, f"begin{index}")
        starts.append(start)
        hands.append(model.new_fixed_size_interval_var(start, item.hands, f"hands{index}"))
        if item.task.place:
            size = item.hands + (item.wait if item.task.holds else 0)
            there = places.setdefault(item.task.place, [])
            there.append(model.new_fixed_size_interval_var(start, size, f"place{index}"))
        model.add_hint(start, first[index])
    free = [there for there, item in zip(hands, items, strict=True) if item.pinned is None]
    model.add_no_overlap(free)
    for there in places.values():
        model.add_no_overlap(there)
    _precedences(model, items, starts)
    cost = _cost(model, question, items, starts, horizon)  # type: ignore[no-untyped-call]
    model.minimize(cost)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = question.seconds
    solver.parameters.num_workers = 2
    solver.parameters.random_seed = 1
    status = solver.solve(model, _Progress(tell, question.seconds))
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return first, False, 100.0  # nothing is known of how good it is
    found = [int(solver.value(start)) for start in starts]
    best, bound = solver.objective_value, solver.best_objective_bound
    gap = 100 * (best - bound) / best if best > 0 else 0.0
    return found, status == cp_model.OPTIMAL, gap


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
            over = starts[before] + items[before].hands + items[before].wait
            model.add(starts[index] >= over)
            if item.task.soon_min is not None and items[before].pinned is None:
                slack = max(1, math.ceil(item.task.soon_min / STEP_MIN))
                model.add(starts[index] <= over + slack)


def _cost(model, question, items, starts, horizon):  # type: ignore[no-untyped-def]
    """Days late, days at the bench, and how late everything is ready."""
    cost = []
    day = 1440 // STEP_MIN
    offset = _steps_into_day(question.begin)
    for number, job in enumerate(question.jobs):
        own = [index for index, item in enumerate(items) if item.job == number]
        if not own:
            continue
        ready = model.new_int_var(0, horizon, f"ready{number}")
        last = own[-1]
        model.add(ready >= starts[last] + items[last].hands + items[last].wait)
        cost.append(EARLY_A_DAY * ready)
        if job.promised is not None:
            due = max(0, _due(question, job))
            late = model.new_int_var(0, horizon, f"late{number}")
            model.add(late >= ready - due)
            cost.append(LATE_A_DAY * late)
    if len(items) <= _SESSIONS_UP_TO:
        days: dict[int, list[object]] = {}
        for index, item in enumerate(items):
            found = model.new_int_var(0, question.days + 1, f"day{index}")
            model.add_division_equality(found, starts[index] + offset, day)
            for number in range(question.days + 1):
                is_then = model.new_bool_var(f"on{index}.{number}")
                model.add(found == number).only_enforce_if(is_then)
                model.add(found != number).only_enforce_if(is_then.negated())
                days.setdefault(number, []).append(is_then)
            del item
        for number, those in days.items():
            used = model.new_bool_var(f"used{number}")
            model.add_max_equality(used, those)
            cost.append(SESSION * day * used)
    return sum(cost)


def _steps_into_day(when: datetime) -> int:
    return (when.hour * 60 + when.minute) // STEP_MIN


def _due(question: TimetableQuestion, job: JobTasks) -> int:
    """The evening of the promised day, in steps."""
    assert job.promised is not None
    evening = datetime.combine(job.promised, time(23, 59))
    return int((evening - question.begin).total_seconds() // 60 // STEP_MIN)


def _Progress(tell: Tell, seconds: float):  # type: ignore[no-untyped-def]  # noqa: N802 - a class that needs the library
    from ortools.sat.python import cp_model

    class Progress(cp_model.CpSolverSolutionCallback):
        def on_solution_callback(self) -> None:
            tell(min(0.95, 0.1 + 0.85 * self.wall_time / seconds))

    return Progress()


# -- what is told ----------------------------------------------------------------------------------------------


def _told(
    question: TimetableQuestion, items: list[_Item], starts: list[int], *, is_best: bool = False, gap_pct: float = 0.0
) -> Timetable:
    from orvek.planning.timetable.reasons import reason

    def when(step: int) -> datetime:
        return question.begin + timedelta(minutes=step * STEP_MIN)

    slots = []
    for index, (item, start) in enumerate(zip(items, starts, strict=True)):
        ends = start + item.hands
        why = reason(question, [(there.job, there.task, there.hands, there.wait) for there in items], starts, index)
        slots.append(
            Slot(
                question.jobs[item.job].job,
                item.task,
                when(start),
                when(ends),
                when(ends + item.wait),
                why,
                item.pinned is not None,
            )
        )
    table = Timetable(question, tuple(sorted(slots, key=lambda slot: slot.begins)), (), is_best, gap_pct)
    late = []
    for job in question.jobs:
        ready = table.ready(job.job)
        if job.promised is not None and ready is not None and ready.date() > job.promised:
            late.append((job.job, (ready.date() - job.promised).days))
    return Timetable(question, table.slots, tuple(late), is_best, gap_pct)


def _no_room(question: TimetableQuestion, items: list[_Item]) -> str:
    tight = next((item for item in items if not _open(question, item)), None)
    if tight is None:
        return f"It does not fit into the next {question.days} days."
    name = question.jobs[tight.job].name
    loud = " outside your quiet hours" if tight.task.is_loud else ""
    return f"{name}: “{tight.task.words}” finds no room{loud}. Give yourself more hours on a day, or fewer quiet ones."
