"""What a timetable costs, `cost`, and what none can cost less than, `bound`."""

from __future__ import annotations

import itertools
import math
from bisect import bisect_left
from collections.abc import Sequence

from orvek.planning.timetable.items import DAY, Item, due_step, open_for, open_steps, steps_into_day
from orvek.planning.timetable.question import TimetableQuestion

LATE_A_DAY, SESSION, EARLY_A_DAY = 1000, 20, 3  # what they cost beside one another (a choice)
_SPREAD_DAYS = 30  # later than that nothing is put off for a day at the bench less


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
    jobs = [unpinned(items, number) for number in range(len(question.jobs))]
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


def unpinned(items: Sequence[Item], job: int) -> list[Item]:
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
        self._windows = open_steps(question, loud=False)
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
        return min(least, EARLY_A_DAY * (_SPREAD_DAYS - 1) * DAY + SESSION * DAY * self._days_for(work, math.inf))

    def _days_for(self, work: int, end: float) -> int:
        """On how few days before a step so much work goes."""
        room: dict[int, int] = {}
        for first, last in self._windows:
            for day in range((first + self._offset) // DAY, (last + self._offset) // DAY + 1):
                if first < end:  # a task belongs to the day on which it begins, and may last over midnight
                    room[day] = room.get(day, 0) + int(min(last, end)) - first
        sums = list(itertools.accumulate(sorted(room.values(), reverse=True)))
        return min(len(sums), bisect_left(sums, work) + 1) if work else 0
