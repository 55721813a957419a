"""Tasks, and when they are done."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from msgspec import Struct

from orvek.planning.findings import Station

if TYPE_CHECKING:
    from orvek.planning.timetable.question import TimetableQuestion


class Task(Struct, frozen=True):
    """One thing to do at the bench, and the wait after it.

    Attributes:
        key: what it is called in pins and actuals: stays the same as long as the step does.
        kind: what kind of work, for learning how long it takes.
        words: what it is called.
        station: where it is decided about.
        hands_min: how long the hands are needed.
        hands_span_min: from where to where nine in ten times fall.
        readings: how many of the maker's own times that comes from.
        wait_min: after the hands, until what follows can begin: at least, usually, at most.
        wait_words: what is waited for.
        place: the machine it needs, "" for the bench; one that waits there too is held until it is over.
        holds: whether the place is taken during the wait.
        is_loud: not to be done in quiet hours.
        after: keys of the tasks that must be over.
        soon_min: to be begun at most so long after the one before it; None where it does not matter.
        pieces: for how many.
        lines: what the hands do, one step a line.
        cautions: the keys of what can hurt; one that ends with a dot is the first of its kind.
    """

    key: str
    kind: str
    words: str
    station: Station
    hands_min: float
    hands_span_min: tuple[float, float]
    readings: int = 0
    wait_min: tuple[float, float, float] = (0.0, 0.0, 0.0)
    wait_words: str = ""
    place: str = ""
    holds: bool = False
    is_loud: bool = False
    after: tuple[str, ...] = ()
    soon_min: float | None = None
    pieces: int = 1
    lines: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


class Slot(Struct, frozen=True):
    """A task of a job at its time.

    `ends` is when the hands are free again, `ready` when the wait after it is over; `why` says what kept it from
    beginning earlier.
    """

    job: str
    task: Task
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


class TasksPlan(Struct, frozen=True):
    """The tasks of one job in their order; those that are done stand in `done`, with when where a log shows it."""

    tasks: tuple[Task, ...]
    done: frozenset[str]
    seen: tuple[tuple[str, datetime], ...] = ()

    @property
    def hands_min(self) -> float:
        """What the hands have still to do."""
        return sum(task.hands_min for task in self.open)

    @property
    def open(self) -> tuple[Task, ...]:
        """The tasks that are still to be done."""
        return tuple(task for task in self.tasks if task.key not in self.done)


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
