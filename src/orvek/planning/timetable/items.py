"""The open tasks of all jobs in steps from the beginning, and from when to when each may begin."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from datetime import datetime, time

from msgspec import Struct

from orvek.planning.route.results import Operation
from orvek.planning.timetable.results import JobTasks, TimetableQuestion
from orvek.planning.timetable.windows import STEP_MIN, Window, windows
from orvek.quantities import minutes_between

DAY = 1440 // STEP_MIN


class Item(Struct, frozen=True):
    """One task of one job, in steps from the beginning."""

    job: int
    place: int  # in its job
    task: Operation
    hands: int
    wait: int
    free_at: int  # it cannot begin earlier: what was done before still waits
    pinned: int | None

    def over(self, begin: int) -> int:
        """The step at which its hands and its wait are over when it begins then."""
        return begin + self.hands + self.wait

    @property
    def held(self) -> int:
        """How long it takes its place."""
        return self.hands + (self.wait if self.task.holds else 0)

    @property
    def follows_soon(self) -> bool:
        """Whether it cannot wait after the one before it; when it is pinned that is the maker's own affair."""
        return self.task.soon_min is not None and self.pinned is None


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
    return max(0, math.ceil(minutes_between(question.begin, when) / STEP_MIN))


def steps_into_day(when: datetime) -> int:
    """So many steps from midnight."""
    return (when.hour * 60 + when.minute) // STEP_MIN


def slack_steps(task: Operation) -> int | None:
    """How many steps after the one before it a task may begin at the latest; None where it does not matter."""
    return None if task.soon_min is None else max(1, math.ceil(task.soon_min / STEP_MIN))


def is_soon_enough(items: Sequence[Item], starts: Sequence[int]) -> bool:
    """Whether everything that cannot wait begins soon enough; what was pinned is the maker's own affair."""
    for (before, item), (earlier, start) in zip(itertools.pairwise(items), itertools.pairwise(starts), strict=True):
        if not item.follows_soon or item.job != before.job or before.pinned is not None:
            continue
        if start > before.over(earlier) + (slack_steps(item.task) or 0):
            return False
    return True


def due_step(question: TimetableQuestion, job: JobTasks) -> int:
    """The evening of the promised day, in steps; 0 where it is past."""
    assert job.promised is not None
    evening = datetime.combine(job.promised, time(23, 59))
    return max(0, int(minutes_between(question.begin, evening) // STEP_MIN))


def open_steps(question: TimetableQuestion, *, loud: bool) -> list[Window]:
    """From when to when the maker is at the bench, in steps."""
    found = windows(question.hours, question.begin, question.days, loud=loud)
    return [(first // STEP_MIN, last // STEP_MIN) for first, last in found]


def open_for(question: TimetableQuestion, item: Item) -> list[Window]:
    """From when to when a task may begin, in steps."""
    if item.pinned is not None:
        return [(item.pinned, item.pinned)]
    steps = ((first, last - item.hands) for first, last in open_steps(question, loud=item.task.is_loud))
    return [(max(first, item.free_at), last) for first, last in steps if last >= max(first, item.free_at)]


def taken_places(question: TimetableQuestion) -> list[tuple[str, int]]:
    """Places that what is done already takes, and until when, in steps."""
    waits = [wait for job in question.jobs for wait in job.waiting if wait.place and wait.ends > question.begin]
    return [(wait.place, steps_to(question, wait.ends)) for wait in waits]
