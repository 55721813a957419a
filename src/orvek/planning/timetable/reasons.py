"""Why a task begins when it does, and the chain of reasons that makes a job ready when it is."""

from __future__ import annotations

from collections.abc import Sequence

from orvek.planning.timetable.question import TimetableQuestion
from orvek.planning.timetable.results import Slot, Task, Timetable
from orvek.quantities import write_moment

_Row = tuple[int, Task, int, int]  # job, task, hands and wait in steps


def reason(question: TimetableQuestion, rows: Sequence[_Row], starts: Sequence[int], index: int) -> str:
    """What kept a task from beginning earlier, in a few words; empty where it begins at once."""
    job, task, hands, _ = rows[index]
    begin = starts[index]
    at = {(row[0], row[1].key): n for n, row in enumerate(rows)}
    for key in task.after:
        before = at.get((job, key))
        if before is None:
            continue
        over = starts[before] + rows[before][2] + rows[before][3]
        if over == begin and rows[before][3]:
            return rows[before][1].wait_words or "what was done before has to rest"
    for number, (_, other, other_hands, other_wait) in enumerate(rows):
        if number != index and starts[number] + other_hands == begin:
            return f"your hands are at {question.jobs[rows[number][0]].name}: {other.words.lower()}"
        held = other.holds and other.place == task.place and task.place
        if number != index and held and starts[number] + other_hands + other_wait == begin:
            return f"the {task.place} is taken by {question.jobs[rows[number][0]].name}"
    del hands
    return "your hours begin then" if begin else ""


def chain(table: Timetable, job: str, most: int = 4) -> tuple[str, ...]:
    """From the end backwards: what a job's being ready hangs on, the longest waits and the gaps first to be named."""
    slots = table.of(job)
    if not slots:
        return ()
    told: list[tuple[float, str]] = []
    for before, slot in zip((None, *slots), slots, strict=False):
        gap = (slot.begins - before.ends).total_seconds() / 3600 if before is not None else 0.0
        if slot.why and gap > 1.0:
            told.append((gap, f"{slot.task.words} not before {write_moment(slot.begins)}: {slot.why}."))
    told.sort(key=lambda one: -one[0])
    kept = {words for _, words in told[:most]}
    return tuple(words for slot in slots for words in _of(slot, kept))


def _of(slot: Slot, kept: set[str]) -> list[str]:
    words = f"{slot.task.words} not before {write_moment(slot.begins)}: {slot.why}."
    return [words] if words in kept else []
