"""The timetable in sentences: what is now, what is next, what is waited for; and a job's week, line by line."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from datetime import datetime, timedelta

from msgspec import Struct

from orvek.documents import Job
from orvek.planning.route.results import Operation, Route
from orvek.planning.timetable.results import Slot, Wait, Weeks
from orvek.quantities import later, write_moment

_TOLD_MIN, _LATE_MIN, _SHORT_MIN = 30.0, 60.0, 60.0


class Now(Struct, frozen=True):
    """What there is to do and to wait for at a moment: slots of the hands to come, and waits under way."""

    next: tuple[Slot, ...]
    waiting: tuple[Wait, ...]


def now_of(weeks: Weeks, when: datetime, most: int = 6) -> Now:
    """From a moment on: what the hands do next, and which waits are under way."""
    coming = tuple(slot for slot in weeks.table.slots if slot.ends > when)
    planned = [wait_of(slot) for slot in weeks.table.slots if slot.ends <= when]
    waiting = [wait for wait in (*weeks.waiting, *planned) if when < wait.ends]
    return Now(coming[:most], tuple(sorted(waiting, key=lambda wait: wait.ends)))


class Closing(Struct, frozen=True):
    """A task that cannot wait: of which job, to be begun before a moment, and from when on that is to be said."""

    job: str
    task: Operation
    before: datetime
    told_from: datetime
    job_id: str

    @property
    def is_short(self) -> bool:
        """Whether nothing else fits in before: mixed resin waits in no cup."""
        return (self.task.soon_min or 0.0) <= _SHORT_MIN


def closing(job: Job, tasks: tuple[Operation, ...]) -> Iterator[Closing]:
    """The tasks of a job whose time runs: what comes before them is done, and they are to follow soon.

    Said at half of that time, at most half an hour before it is over.
    """
    done = job.work.done()
    waits = {task.key: task.wait_min[1] for task in tasks}
    for task in tasks:
        if task.soon_min is None or task.key in done or not task.after or not done.issuperset(task.after):
            continue
        ends = [(job.work.when(key, "done"), waits.get(key, 0.0)) for key in task.after]
        over = max((later(when, wait) for when, wait in ends if when is not None), default=None)
        if over is not None:
            before = later(over, task.soon_min)
            told_from = before - timedelta(minutes=min(_TOLD_MIN, task.soon_min / 2))
            yield Closing(job.batch.name, task, before, told_from, job.batch.id)


def duties(ones: Iterable[Closing], now: datetime) -> tuple[Closing, ...]:
    """What must be begun now, the most urgent first: its time is short, nearly over, or over by less than an hour."""
    due = [
        one
        for one in ones
        if (one.is_short or one.told_from <= now) and now < one.before + timedelta(minutes=_LATE_MIN)
    ]
    return tuple(sorted(due, key=lambda one: one.before))


def duty_line(one: Closing, now: datetime) -> str:
    """A duty with its countdown."""
    left = math.ceil((one.before - now).total_seconds() / 60)
    told = f"{left} min left" if left > 0 else f"{-left} min late"
    return f"{one.job}: {one.task.words.lower()} now, before {write_moment(one.before)} ({told})"


def not_yet(job: Job, route: Route, task: Operation, now: datetime) -> str:
    """Why a task should not begin yet: what is waited for, and until when at the earliest; empty where it may."""
    held = route.held_by(task, lambda key: job.work.when(key, "done"), lambda one: one.wait_min[0])
    if held is None or held[0] <= now:
        return ""
    return f"Not yet: {held[1]} until {write_moment(held[0])} at the earliest."


def closing_line(one: Closing) -> str:
    """One of them in a line."""
    return f"{one.job}: {one.task.words} before {write_moment(one.before)}"


def wait_of(slot: Slot) -> Wait:
    """What is waited for after a slot."""
    return Wait(slot.job, slot.task.wait_words or slot.task.words, slot.ready)


def waiting_line(wait: Wait, weeks: Weeks) -> str:
    """One wait in a line: which job, what, until when."""
    return f"{weeks.name(wait.job)}: {wait.words} until {write_moment(wait.ends)}"


def slot_line(slot: Slot, weeks: Weeks) -> str:
    """One slot in a line: when, which job, what, how long."""
    minutes = round((slot.ends - slot.begins).total_seconds() / 60)
    long = f"{minutes} min" if minutes < 90 else f"{minutes / 60:.1f} h"
    return f"{write_moment(slot.begins)} · {weeks.name(slot.job)} · {slot.task.words}, {long}"


def wait_line(slot: Slot) -> str:
    """What is waited for after a slot; nothing where nothing is."""
    if slot.ready <= slot.ends:
        return ""
    return f"then {slot.task.wait_words or 'it rests'} until {write_moment(slot.ready)}"


def week_lines(weeks: Weeks, job: str) -> Iterator[str]:
    """All of a job's slots, a line each, with what is waited for after it."""
    for slot in weeks.table.of(job):
        yield "; ".join(part for part in (slot_line(slot, weeks), wait_line(slot)) if part)
