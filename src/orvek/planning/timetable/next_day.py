"""The next day at work: what the hands do on it, and which operations of which jobs that is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime

from orvek.planning.results import Plan
from orvek.planning.route.results import Operation
from orvek.planning.timetable.results import Slot


def next_slots(slots: Iterable[Slot], now: datetime) -> tuple[Slot, ...]:
    """What the hands do on the next day on which they do anything."""
    coming = [slot for slot in slots if slot.ends > now]
    day = min((slot.begins.date() for slot in coming), default=None)
    return tuple(slot for slot in coming if slot.begins.date() == day)


def operations_in(slots: Iterable[Slot], plans: Mapping[str, Plan]) -> Iterator[tuple[Plan, Operation]]:
    """The operations of slots, each with its job's plan; nothing for a job or an operation that is gone by now."""
    for slot in slots:
        own = plans.get(slot.job)
        for task in own.route.operations if own is not None and own.route is not None else ():
            if own is not None and task.key == slot.whole:
                yield own, task
