"""A timetable made step by step: job after job, each task as early as it goes; what a timetable costs, and its bound.

It is there at once. Which job comes first is tried in a few orders; the one that costs least is kept.
"""

from __future__ import annotations

import itertools
import math
import random
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time
from time import monotonic

from orvek.planning.timetable.question import JobTasks, TimetableQuestion
from orvek.planning.timetable.results import Task
from orvek.planning.timetable.windows import STEP_MIN, Window, windows

LATE_A_DAY, SESSION, EARLY_A_DAY = 1000, 20, 3  # what they cost beside one another (a choice)
DAY = 1440 // STEP_MIN
_SEED, _FAR, _SPREAD_DAYS = 3, 10**9, 30


@dataclass(frozen=True, slots=True)
class Item:
    """One task of one job, in steps from the beginning."""

    job: int
    place: int  # in its job
    task: Task
    hands: int
    wait: int
    free_at: int  # it cannot begin earlier: what was done before still waits
    pinned: int | None

    @property
    def held(self) -> int:
        """How long it takes its place."""
        return self.hands + (self.wait if self.task.holds else 0)


def items_of(question: TimetableQuestion) -> list[Item]:
    """All open tasks, job after job."""
    found = []
    for number, job in enumerate(question.jobs):
        waiting = max((steps_to(question, wait.ends) for wait in job.waiting), default=0)
        pins = dict(job.pins)
        for place, task in enumerate(job.tasks):
            hands = max(1, math.ceil(task.hands_min / STEP_MIN))
            pin = pins.get(task.key)
            pinned = None if pin is None or pin < question.begin else steps_to(question, pin)
            free = waiting if place == 0 else 0
            found.append(Item(number, place, task, hands, question.wait_of(task) // STEP_MIN, free, pinned))
    return found


def steps_to(question: TimetableQuestion, when: datetime) -> int:
    """So many steps from the beginning to a moment; 0 for one before it."""
    return max(0, math.ceil((when - question.begin).total_seconds() / 60 / STEP_MIN))


def steps_into_day(when: datetime) -> int:
    """So many steps from midnight."""
    return (when.hour * 60 + when.minute) // STEP_MIN


def due_step(question: TimetableQuestion, job: JobTasks) -> int:
    """The evening of the promised day, in steps; 0 where it is past."""
    assert job.promised is not None
    evening = datetime.combine(job.promised, time(23, 59))
    return max(0, int((evening - question.begin).total_seconds() // 60 // STEP_MIN))


def open_for(question: TimetableQuestion, item: Item) -> list[Window]:
    """From when to when a task may begin, in steps."""
    if item.pinned is not None:
        return [(item.pinned, item.pinned)]
    found = windows(question.hours, question.begin, question.days, loud=item.task.is_loud)
    steps = ((first // STEP_MIN, last // STEP_MIN - item.hands) for first, last in found)
    return [(max(first, item.free_at), last) for first, last in steps if last >= max(first, item.free_at)]


def taken_places(question: TimetableQuestion) -> list[tuple[str, int]]:
    """Places that what is done already takes, and until when, in steps."""
    waits = [wait for job in question.jobs for wait in job.waiting if wait.place and wait.ends > question.begin]
    return [(wait.place, steps_to(question, wait.ends)) for wait in waits]


# -- step by step ----------------------------------------------------------------------------------------------


def stepwise(
    question: TimetableQuestion, items: Sequence[Item], tries: int = 0, until: float = math.inf
) -> list[int] | None:
    """Where each item begins in the best of a few orders of the jobs; None where one finds no room.

    With `tries` jobs change their places in the best order so often, or until `time.monotonic()` says `until`, and
    what costs less is kept.
    """
    orders = _orders(question, items)
    found = [one for order in orders if (one := _costed(question, items, order)) is not None]
    if not found:
        return None
    best = min(found, key=lambda one: one[0])
    chance, count = random.Random(_SEED), len(question.jobs)
    for _ in range(tries if count > 1 else 0):
        if monotonic() > until:
            break
        order = list(best[1])
        order.insert(chance.randrange(count), order.pop(chance.randrange(count)))
        other = _costed(question, items, order)
        if other is not None and other[0] < best[0]:
            best = other
    return best[2]


_Costed = tuple[float, Sequence[int], list[int]]  # what it costs, the order of the jobs, where the items begin


def _costed(question: TimetableQuestion, items: Sequence[Item], order: Sequence[int]) -> _Costed | None:
    starts = in_order(question, items, order)
    return None if starts is None else (cost(question, items, starts), order, starts)


def _orders(question: TimetableQuestion, items: Sequence[Item]) -> Iterator[list[int]]:
    """Jobs by their promises; among equals as they come, by the work of the hands, by hands and waits."""
    hands, whole = [0] * len(question.jobs), [0] * len(question.jobs)
    for item in items:
        hands[item.job] += item.hands
        whole[item.job] += item.hands + item.wait
    numbers = range(len(question.jobs))
    orders = [
        sorted(numbers, key=lambda n: (question.jobs[n].promised or date.max, by[n]))
        for by in (list(numbers), hands, whole)
    ]
    for place, order in enumerate(orders):
        if order not in orders[:place]:
            yield order


def in_order(question: TimetableQuestion, items: Sequence[Item], order: Sequence[int]) -> list[int] | None:
    """Where each item begins when, whenever the hands are free, the first job in this order that can go on does.

    None where a task finds no room.
    """
    starts, hands, places = [-1] * len(items), _Taken(), {item.task.place: _Taken() for item in items}
    for place, until in taken_places(question):
        places.setdefault(place, _Taken()).take(0, until)
    for index, item in enumerate(items):
        if item.pinned is not None:
            starts[index] = item.pinned
            hands.take(item.pinned, item.pinned + item.hands)
            places[item.task.place].take(item.pinned, item.pinned + item.held)
    chains = [[n for n, item in enumerate(items) if item.job == job] for job in order]
    rows = [_Row(items, starts, chain) for chain in chains if chain]
    loud = _steps(question, loud=True)
    for first, last in _steps(question, loud=False):
        at = first
        while at < last:
            rows = [row for row in rows if row.index is not None]
            if not rows:
                return starts
            wakes = []
            for row in rows:
                item = items[row.index]  # type: ignore[index]
                free = max(at, row.ready)
                if item.task.is_loud:
                    free = _within(loud, free, item.hands)
                free = max(hands.free_after(free, free + item.hands), free)
                if item.task.place:
                    free = max(places[item.task.place].free_after(free, free + item.held), free)
                if free == at and at + item.hands <= last:
                    starts[row.index] = at  # type: ignore[index]
                    hands.take(at, at + item.hands)
                    places[item.task.place].take(at, at + item.held)
                    row.go_on()
                    at += item.hands
                    break
                wakes.append(free if free > at else last)
            else:
                at = min(wakes)
    return starts if all(row.index is None for row in rows) else None


class _Row:
    """How far a job has come: which item is next, and from when on it can begin."""

    def __init__(self, items: Sequence[Item], starts: list[int], chain: Sequence[int]) -> None:
        self._items, self._starts, self._left = items, starts, list(reversed(chain))
        self.index: int | None = None
        self.ready = 0
        self._next()

    def go_on(self) -> None:
        """Its item has its place now."""
        assert self.index is not None
        self.ready = self._over(self.index)
        self._next()

    def _next(self) -> None:
        while self._left and self._items[self._left[-1]].pinned is not None:
            self.ready = self._over(self._left.pop())
        self.index = self._left.pop() if self._left else None
        if self.index is not None:
            self.ready = max(self.ready, self._items[self.index].free_at)

    def _over(self, index: int) -> int:
        return self._starts[index] + self._items[index].hands + self._items[index].wait


def _steps(question: TimetableQuestion, *, loud: bool) -> list[Window]:
    found = windows(question.hours, question.begin, question.days, loud=loud)
    return [(first // STEP_MIN, last // STEP_MIN) for first, last in found]


def _within(open_: Sequence[Window], at: int, hands: int) -> int:
    """From when on so much work goes into one of the windows, `at` or later; far away where into none."""
    for first, last in open_[max(0, bisect_right(open_, (at, _FAR)) - 1) :]:
        if max(first, at) + hands <= last:
            return max(first, at)
    return _FAR


@dataclass(slots=True)
class _Taken:
    """Stretches that are taken, sorted; those that meet are one."""

    begins: list[int] = field(default_factory=list)
    ends: list[int] = field(default_factory=list)

    def take(self, begin: int, end: int) -> None:
        low, high = bisect_left(self.ends, begin), bisect_right(self.begins, end)
        if low < high:
            begin, end = min(begin, self.begins[low]), max(end, self.ends[high - 1])
        self.begins[low:high], self.ends[low:high] = [begin], [end]

    def free_after(self, begin: int, end: int) -> int:
        """When the last of what is in the way from `begin` to `end` is over; `begin` where nothing is."""
        last = bisect_left(self.begins, end) - 1
        return self.ends[last] if last >= 0 and self.ends[last] > begin else begin


# -- what it costs ---------------------------------------------------------------------------------------------


def cost(question: TimetableQuestion, items: Sequence[Item], starts: Sequence[int]) -> float:
    """Days late, days at the bench, and how late everything is ready, as steps."""
    offset = steps_into_day(question.begin)
    days = {(start + offset) // DAY for start in starts}
    ready = {
        item.job: start + item.hands + item.wait for item, start in zip(items, starts, strict=True)
    }  # of each job's last task
    late = sum(
        max(0, at - due_step(question, question.jobs[job]))
        for job, at in ready.items()
        if question.jobs[job].promised is not None
    )
    return LATE_A_DAY * late + SESSION * DAY * len(days) + EARLY_A_DAY * sum(ready.values())


def bound(question: TimetableQuestion, items: Sequence[Item]) -> float:
    """What no timetable can cost less than.

    The k-th job to be ready has had the hands' work of at least the k shortest jobs behind it, laid into the hours
    without a gap, and no job is ready before its own tasks, one after another, allow (one machine, the shortest
    first: the usual bound). Days late pair the k-th ready with the k-th promise. Days at the bench: the fullest days
    that hold all the work, or fewer ones where the last job is ready so much later. Pinned tasks, and what stands
    before one, are left out: that only lowers it.
    """
    jobs = [_rest(items, number) for number in range(len(question.jobs))]
    free = [number for number, rest in enumerate(jobs) if rest]
    done = _Hours(question)
    ends = {number: _alone(question, jobs[number]) for number in free}
    last_wait = {number: jobs[number][-1].wait for number in free}
    hands = {number: sum(item.hands for item in jobs[number]) for number in free}
    through = [done.step_of(work) for work in itertools.accumulate(sorted(hands.values()))]
    over = sum(map(max, through, sorted(ends.values())))
    early = over + sum(last_wait.values())
    promised = [number for number in free if question.jobs[number].promised is not None]
    through = [done.step_of(work) for work in itertools.accumulate(sorted(hands[number] for number in promised))]
    ready = map(max, through, sorted(ends[number] + last_wait[number] for number in promised))
    dues = sorted(due_step(question, question.jobs[number]) for number in promised)
    late = sum(max(0, at - due) for at, due in zip(ready, dues, strict=True))
    return (
        EARLY_A_DAY * early + LATE_A_DAY * late + done.cost_of_days(sum(hands.values()), max(ends.values(), default=0))
    )


def _rest(items: Sequence[Item], job: int) -> list[Item]:
    """A job's tasks after its last pinned one."""
    own = [item for item in items if item.job == job]
    pins = [place for place, item in enumerate(own) if item.pinned is not None]
    return own[pins[-1] + 1 :] if pins else own


def _alone(question: TimetableQuestion, own: Sequence[Item]) -> int:
    """When the hands' last task of a job is over if nothing else is to be done; the horizon where there is no room."""
    ready = 0
    for item in own:
        begin = next((max(first, ready) for first, last in open_for(question, item) if max(first, ready) <= last), None)
        if begin is None:
            return question.days * DAY
        ready = begin + item.hands + item.wait
    return ready - own[-1].wait


class _Hours:
    """How much work goes into the maker's hours."""

    def __init__(self, question: TimetableQuestion) -> None:
        found = windows(question.hours, question.begin, question.days, loud=False)
        self._windows = [(first // STEP_MIN, last // STEP_MIN) for first, last in found]
        self._offset = steps_into_day(question.begin)
        self._sums = list(itertools.accumulate(last - first for first, last in self._windows))

    def step_of(self, work: int) -> int:
        """When so many steps of work are behind the hands at the earliest."""
        place = bisect_left(self._sums, work)
        if place == len(self._sums):
            return self._windows[-1][1] if self._windows else 0
        return self._windows[place][1] - (self._sums[place] - work)

    def cost_of_days(self, work: int, ready: int) -> float:
        """What days at the bench for so much work, and the last job's being ready for them later, cost at least."""
        least, end = math.inf, max(self.step_of(work), ready)
        for more in range(_SPREAD_DAYS):
            days = self._days_for(work, end + more * DAY)
            least = min(least, EARLY_A_DAY * max(0, more - 1) * DAY + SESSION * DAY * days)
        return min(least, EARLY_A_DAY * (_SPREAD_DAYS - 1) * DAY + SESSION * DAY * self._days_for(work, _FAR))

    def _days_for(self, work: int, end: int) -> int:
        """On how few days before a step so much work goes."""
        room: dict[int, int] = {}
        for first, last in self._windows:
            for day in range((first + self._offset) // DAY, (last + self._offset) // DAY + 1):
                if first < end:  # a task belongs to the day on which it begins, and may last over midnight
                    room[day] = room.get(day, 0) + min(last, end) - first
        sums = list(itertools.accumulate(sorted(room.values(), reverse=True)))
        return min(len(sums), bisect_left(sums, work) + 1) if work else 0
