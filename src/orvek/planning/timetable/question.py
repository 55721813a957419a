"""What a timetable is asked: the open tasks of all jobs, the maker's hours, from when on."""

from __future__ import annotations

import math
from datetime import datetime
from functools import partial

from msgspec.structs import replace

from orvek.documents import Hours, Job
from orvek.planning.route.results import Operation, Route
from orvek.planning.timetable.results import JobTasks, Wait, wait_min_of
from orvek.planning.timetable.windows import longest, usual, windows

_IN_ONE = frozenset({"weigh", "pour", "join", "tube", "wrap"})  # resin, glue and paste wait for nobody


def job_tasks(job: Job, made: Route, hours: Hours, begin: datetime) -> JobTasks:
    """A job's open tasks, longer ones cut into parts that go into a usual evening; what still waits from those done."""
    done, every, seen = made.done, made.operations, dict(made.seen)
    open_windows = {is_loud: windows(hours, begin, 14, loud=is_loud) for is_loud in (False, True)}
    parts: list[Operation] = []
    for task in every:
        if task.key not in done:
            there = open_windows[task.is_loud]
            room = usual(there) if task.pieces > 1 else longest(there)
            parts += (part for part in _parts(task, room) if part.key not in done)
    keys = {task.key for task in parts}
    chained = tuple(_chained(task, parts[n - 1].key if n else "", keys) for n, task in enumerate(parts))

    def done_at(key: str) -> datetime | None:
        return job.work.when(key, "done") or seen.get(key)

    over = [(task, made.over(task, done_at, partial(wait_min_of, hours))) for task in every if task.wait_min[2]]
    waiting = tuple(
        Wait(job.batch.id, task.wait_words or task.words, ends, _held(task)) for task, ends in over if ends is not None
    )
    pins = tuple((pin.task, pin.begins) for pin in job.work.pins)
    return JobTasks(job.batch.id, job.batch.name, chained, job.promised, pins, waiting)


def _held(task: Operation) -> str:
    return task.place if task.holds else ""


def _parts(task: Operation, longest_min: int) -> list[Operation]:
    """A task in as many parts as the longest window asks for; its wait comes after the last.

    Where something gels or sets meanwhile a piece is never left half done: what is longer than the window fills it.
    """
    count = math.ceil(task.hands_min / longest_min) if longest_min else 1
    if task.kind in _IN_ONE and count > task.pieces:
        count = task.pieces
        task = replace(task, hands_min=float(count * longest_min))
    if count < 2:
        return [task]
    each = task.hands_min / count
    nothing = (0.0, 0.0, 0.0)
    return [
        replace(
            task,
            key=f"{task.key}/{part}",
            words=f"{task.words}, part {part} of {count}",
            hands_min=each,
            wait_min=task.wait_min if part == count else nothing,
            wait_words=task.wait_words if part == count else "",
            soon_min=task.soon_min if part == 1 else None,
            after=task.after if part == 1 else (f"{task.key}/{part - 1}",),
        )
        for part in range(1, count + 1)
    ]


def _chained(task: Operation, before: str, keys: set[str]) -> Operation:
    """After what is still to be done of what it was to follow; else after the one before it in the list."""
    kept = tuple(key for key in task.after if key in keys)
    return replace(task, after=kept or ((before,) if before else ()))
