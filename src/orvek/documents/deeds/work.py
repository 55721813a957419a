"""Deeds on a job's work in time."""

from datetime import date, datetime

from orvek.documents.artwork import Artwork
from orvek.documents.deeds.tuples import without
from orvek.documents.job.faults import Faults
from orvek.documents.job.finish import Sized
from orvek.documents.job.job import Job, new_id
from orvek.documents.job.work import Actual, Pin, Work, WorkPhoto
from orvek.documents.shelf.hours import DurationSeen
from orvek.quantities import minutes_between

_LEAST_MIN, _MOST_MIN = 0.2, 24 * 60.0
_CLICKED = 3.0  # what is over in a third of the usual time was clicked through (a choice)


def another_like(job: Job) -> Job:
    """A job like this one, to be made again: decided alike, and nothing has happened to it yet."""
    batch = job.batch.with_(id=new_id(), name=f"{job.batch.name[:72]}, again")
    there = job.pour.conditions.with_(poured_on=None, drill_on=None)
    return job.with_(
        batch=batch,
        blank=job.blank.with_(piece=""),  # one bar, one job: the other has it
        pour=job.pour.with_(conditions=there),
        soak=job.soak.with_(drying=job.soak.drying.with_(log=()), bath=job.soak.bath.with_(after_g=None)),
        finish=job.finish.with_(truings=(), sized=tuple(_not_turned(one) for one in job.finish.sized)),
        work=Work(),
        faults=Faults(),
        orders=(),
    )


def _not_turned(sized: Sized) -> Sized:
    """A barrel whose parts were measured, and that nobody has turned yet."""
    return sized.with_(now_left_mm=None, now_middle_mm=None, now_right_mm=None)


def promise(job: Job, day: date | None) -> Job:
    """Promise a job for a day, or take the promise back."""
    return job.with_(work=job.work.with_(promised=day))


def pin_task(job: Job, task: str, begins: datetime | None) -> Job:
    """Let a task begin at a time, or leave it free again."""
    kept = tuple(pin for pin in job.work.pins if pin.task != task)
    return job.with_(work=job.work.with_(pins=(*kept, Pin(task=task, begins=begins)) if begins else kept))


def write_actual(job: Job, actual: Actual) -> Job:
    """Write down what happened."""
    return job.with_(work=job.work.with_(actuals=(*job.work.actuals, actual)))


def finish_task(job: Job, task: str, when: datetime) -> Job:
    """A task is done."""
    return write_actual(job, Actual(task=task, what="done", when=when))


def lasted(
    job: Job,
    task: str,
    kind: str,
    pieces: int,
    now: datetime,
    *,
    hands_min: float = 0.0,
    usual_min: float | None = None,
) -> DurationSeen | None:
    """How long a task took from its beginning until now, to be kept; None where that says nothing.

    A task that is over in less than a third of what is usual was only clicked through, one that lasts longer than a day
    was forgotten. `hands_min` is what was planned for it, `usual_min` what is usual for so much work.
    """
    began = job.work.when(task, "began")
    minutes = minutes_between(began, now) if began is not None else 0.0
    if not max(_LEAST_MIN, hands_min / _CLICKED) <= minutes <= _MOST_MIN:
        return None
    name = f"{job.batch.name[:40]}, {task[:20]}, {now:%Y-%m-%d %H:%M}"
    return DurationSeen(name=name, kind=kind, minutes=round(minutes, 1), pieces=pieces, usual_min=usual_min)


def add_work_photo(job: Job, artwork: Artwork, task: str, when: datetime) -> Job:
    """A photo more of the work; of which task."""
    photo = WorkPhoto(artwork=artwork, task=task, when=when)
    return job.with_(work=job.work.with_(photos=(*job.work.photos, photo)))


def remove_work_photo(job: Job, index: int) -> Job:
    """A photo less."""
    return job.with_(work=job.work.with_(photos=without(job.work.photos, index)))


def open_task_again(job: Job, task: str) -> Job:
    """A task is not done after all."""
    kept = tuple(one for one in job.work.actuals if (one.task, one.what) != (task, "done"))
    return job.with_(work=job.work.with_(actuals=kept))
