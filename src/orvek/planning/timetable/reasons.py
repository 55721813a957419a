"""Why a task begins when it does, and the chain of reasons that makes a job ready when it is."""

from __future__ import annotations

from collections.abc import Sequence

from orvek.planning.timetable.board import Board
from orvek.planning.timetable.items import Item
from orvek.planning.timetable.results import Slot, Timetable, TimetableQuestion
from orvek.quantities import minutes_between, write_moment


def reasons(question: TimetableQuestion, items: Sequence[Item], starts: Sequence[int]) -> list[str]:
    """What kept each task from beginning earlier, in a few words; empty where it begins at once."""
    at = {(item.job, item.task.key): n for n, item in enumerate(items)}
    hands = {start + item.hands: n for n, (item, start) in enumerate(zip(items, starts, strict=True))}
    places = {
        (item.task.place, start + item.held): n
        for n, (item, start) in enumerate(zip(items, starts, strict=True))
        if item.task.place and item.task.holds
    }

    board = Board(question)
    for item, start in zip(items, starts, strict=True):
        board.take(item, start)

    def name(number: int) -> str:
        return question.jobs[items[number].job].name

    def reason(item: Item, begin: int) -> str:
        for before in (at[item.job, key] for key in item.task.after if (item.job, key) in at):
            if items[before].wait and items[before].over(starts[before]) == begin:
                return items[before].task.wait_words or "what was done before has to rest"
        if begin in hands:
            return f"your hands are at {name(hands[begin])}: {items[hands[begin]].task.words.lower()}"
        if item.task.place and (item.task.place, begin) in places:
            return f"the {item.task.place} is taken by {name(places[item.task.place, begin])}"
        if not begin:
            return ""
        ready = max((items[n].over(starts[n]) for n in map(at.get, _before(item)) if n is not None), default=0)
        is_kept = board.earliest(item, max(ready, item.free_at), begin - 1) is not None
        return "it goes in one evening with other work" if is_kept else "your hours begin then"

    return [reason(item, begin) for item, begin in zip(items, starts, strict=True)]


def _before(item: Item) -> list[tuple[int, str]]:
    return [(item.job, key) for key in item.task.after]


def chain(table: Timetable, job: str, most: int = 4) -> tuple[str, ...]:
    """From the end backwards: what a job's being ready hangs on, the longest waits and the gaps first to be named."""
    slots = table.of(job)
    if not slots:
        return ()
    told: list[tuple[float, str]] = []
    for before, slot in zip((None, *slots), slots, strict=False):
        gap = minutes_between(before.ends, slot.begins) / 60 if before is not None else 0.0
        if slot.why and gap > 1.0:
            told.append((gap, f"{slot.task.words} not before {write_moment(slot.begins)}: {slot.why}."))
    told.sort(key=lambda one: -one[0])
    kept = {words for _, words in told[:most]}
    return tuple(words for slot in slots for words in _of(slot, kept))


def _of(slot: Slot, kept: set[str]) -> list[str]:
    words = f"{slot.task.words} not before {write_moment(slot.begins)}: {slot.why}."
    return [words] if words in kept else []
