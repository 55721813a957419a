"""The timetable in sentences: what is now, what is next, what is waited for; and a job's week, line by line."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from orvek.planning.timetable.results import Slot, Wait
from orvek.planning.timetable.weeks import Weeks
from orvek.quantities import write_moment


@dataclass(frozen=True, slots=True)
class Now:
    """What there is to do and to wait for at a moment: slots of the hands to come, and waits under way."""

    next: tuple[Slot, ...]
    waiting: tuple[Wait, ...]


def now_of(weeks: Weeks, when: datetime, most: int = 6) -> Now:
    """From a moment on: what the hands do next, and which waits are under way."""
    coming = tuple(slot for slot in weeks.table.slots if slot.ends > when)
    planned = [wait_of(slot) for slot in weeks.table.slots if slot.ends <= when]
    waiting = [wait for wait in (*weeks.waiting, *planned) if when < wait.ends]
    return Now(coming[:most], tuple(sorted(waiting, key=lambda wait: wait.ends)))


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
