"""Tasks, and when they are done."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from orvek.documents import Hours, Job, Shop
from orvek.planning.route.results import Operation

if TYPE_CHECKING:
    from orvek.planning.cure.results import CureForecast

import math
from datetime import timedelta
from typing import TYPE_CHECKING

from orvek.planning.timetable.windows import STEP_MIN


class Slot(Struct, frozen=True):
    """A task of a job at its time.

    `ends` is when the hands are free again, `ready` when the wait after it is over; `why` says what kept it from
    beginning earlier.
    """

    job: str
    task: Operation
    begins: datetime
    ends: datetime
    ready: datetime
    why: str = ""
    is_pinned: bool = False

    @property
    def waits(self) -> timedelta:
        """How long is waited after the hands."""
        return self.ready - self.ends

    @property
    def whole(self) -> str:
        """The key of the whole task, where this is a part of it."""
        return self.task.key.split("/", maxsplit=1)[0]


class Wait(Struct, frozen=True):
    """What is still waited for after a task that is done, until when, and which place it takes meanwhile, if any."""

    job: str
    words: str
    ends: datetime
    place: str = ""


class Timetable(Struct, frozen=True):
    """All open tasks of all jobs at their times.

    Attributes:
        question: what it answers.
        slots: by their beginning.
        is_best: whether no better plan exists, so far as what is planned goes.
        problem: a sentence where no plan was found.
    """

    question: TimetableQuestion
    slots: tuple[Slot, ...]
    is_best: bool = False
    problem: str = ""

    @property
    def late(self) -> tuple[tuple[str, int], ...]:
        """Jobs that are ready after their promise, with by how many days."""
        jobs = ((job.job, job.promised, self.ready(job.job)) for job in self.question.jobs)
        days = ((job, (ready.date() - day).days) for job, day, ready in jobs if day is not None and ready is not None)
        return tuple((job, by) for job, by in days if by > 0)

    def of(self, job: str) -> tuple[Slot, ...]:
        """The slots of one job."""
        return tuple(slot for slot in self.slots if slot.job == job)

    def ready(self, job: str) -> datetime | None:
        """When a job is ready; None where it has nothing left to do."""
        return max((slot.ready for slot in self.of(job)), default=None)


class JobTasks(Struct, frozen=True):
    """One job's open tasks in their order."""

    job: str
    name: str
    tasks: tuple[Operation, ...]
    promised: date | None
    pins: tuple[tuple[str, datetime], ...] = ()
    waiting: tuple[Wait, ...] = ()  # after tasks that are done


class TimetableQuestion(Struct, frozen=True):
    """All that a timetable depends on."""

    jobs: tuple[JobTasks, ...]
    hours: Hours
    begin: datetime
    effort: float = 8.0  # of looking for a better one: about so many seconds, counted in work and not by a clock

    @property
    def days(self) -> int:
        """How far ahead is planned: what is fixed, twice the hands' work in the usual week, the waits, some more."""
        week = sum(day.to_h - day.from_h for day in self.hours.days if day.is_open) * 60 or 60.0
        hands = sum(task.hands_min for job in self.jobs for task in job.tasks)
        waits = max((sum(task.wait_min[2] for task in job.tasks) for job in self.jobs), default=0.0)
        fixed = [when for job in self.jobs for _, when in job.pins] + [
            one.ends for job in self.jobs for one in job.waiting
        ]
        later = max(((when - self.begin).days + 1 for when in fixed), default=0)
        return min(MOST_DAYS, _LEAST_DAYS + max(0, later) + math.ceil(14 * hands / week + 2 * waits / 1440))

    def wait_of(self, task: Operation) -> int:
        """What is waited after a task, in whole steps, as carefully as the maker wants it."""
        return math.ceil(min(wait_min_of(self.hours, task), 60 * 1440.0) / STEP_MIN) * STEP_MIN


class WeeksQuestion(Struct, frozen=True):
    """The jobs to be planned, in which shop, from when on, and how much is thought about it.

    `in_hand` is the job that more is asked of: the chance of a day, ways to make it earlier; the first of them, or
    none where it is not to be planned. `cure` is its forecast, where it is known; `more` jobs are open beside these.
    """

    jobs: tuple[Job, ...]
    shop: Shop
    begin: datetime
    effort: float = 6.0
    cure: CureForecast | None = None
    in_hand: str = ""
    more: int = 0

    def sketched(self) -> WeeksQuestion:
        """The same with little thought, for as long as the cure is not known."""
        return replace(self, effort=min(self.effort, _SKETCH_S))


class Way(Struct, frozen=True):
    """What would make the job in hand ready earlier, and when then."""

    words: str
    ready: datetime


class Weeks(Struct, frozen=True):
    """The answer: the timetable, names of the jobs, and what is known of the one in hand.

    `more` jobs are open and not planned. `ready_days` are the days on which it was ready in so many tries, sorted:
    times and waits come out as they may.
    """

    question: WeeksQuestion
    table: Timetable
    names: tuple[tuple[str, str], ...]
    more: int = 0
    ready_days: tuple[date, ...] = ()
    ways: tuple[Way, ...] = ()
    cure_h: float | None = None  # the cure was forecast anew as if poured at that time of day
    is_settled: bool = True  # whether the pour came out at the time that its cure was forecast for
    is_first_look: bool = False  # a better one is being made: nothing is judged by this one

    @property
    def more_words(self) -> str:
        """What is said of open jobs that are not planned."""
        if not self.more:
            return ""
        jobs = "open job is" if self.more == 1 else "open jobs are"
        return f"{self.more} more {jobs} not planned yet. What is given up or done can be taken out of the plan."

    @property
    def waiting(self) -> tuple[Wait, ...]:
        """What is still waited for after tasks that are done, by when it is over."""
        waits = (wait for job in self.table.question.jobs for wait in job.waiting)
        return tuple(sorted(waits, key=lambda wait: wait.ends))

    def name(self, job: str) -> str:
        """What a job is called."""
        return dict(self.names).get(job, "")

    def is_more_of(self, slot: Slot) -> bool:
        """Whether a later part of the same task follows."""
        return any(one.begins > slot.begins for one in self.table.of(slot.job) if one.whole == slot.whole)

    def key_when_done(self, slot: Slot) -> str:
        """What is written down as done with a slot: its part; with the last part the whole task."""
        return slot.task.key if self.is_more_of(slot) else slot.whole

    def chance_pct(self, day: date) -> float | None:
        """How often the job in hand is ready by a day; None where nothing of it is left to do."""
        if not self.ready_days:
            return None
        return 100 * sum(ready <= day for ready in self.ready_days) / len(self.ready_days)


_SKETCH_S = 0.3  # of work, while what it rests on is still being worked out
MOST_DAYS = 400  # more than a year: whoever plans further ahead guesses


_LEAST_DAYS = 21


def wait_min_of(hours: Hours, task: Operation) -> float:
    return task.wait_min[2] if hours.waits == "as long as they may take" else task.wait_min[1]
