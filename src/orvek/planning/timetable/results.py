"""Tasks, and when they are done."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from msgspec import Struct

from orvek.planning.route.results import Operation

if TYPE_CHECKING:
    from orvek.planning.timetable.question import TimetableQuestion


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
