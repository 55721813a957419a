"""What a timetable costs, `cost`."""

from __future__ import annotations

from collections.abc import Sequence

from orvek.planning.timetable.items import DAY, Item, due_step, steps_into_day
from orvek.planning.timetable.results import TimetableQuestion

# What they cost beside one another (a choice): an evening saved is worth two days of one job's being ready earlier.
LATE_A_DAY, SESSION, EARLY_A_DAY = 1000, 20, 10


def cost(question: TimetableQuestion, items: Sequence[Item], starts: Sequence[int]) -> float:
    """Days late, days at the bench, and how late everything is ready, as steps."""
    offset = steps_into_day(question.begin)
    days = {(start + offset) // DAY for start in starts}
    ready = {item.job: item.over(start) for item, start in zip(items, starts, strict=True)}  # of each job's last task
    late = sum(
        max(0, at - due_step(question, question.jobs[job]))
        for job, at in ready.items()
        if question.jobs[job].promised is not None
    )
    return LATE_A_DAY * late + SESSION * DAY * len(days) + EARLY_A_DAY * sum(ready.values())
