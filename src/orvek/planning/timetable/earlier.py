"""The same timetable with everything as early as it goes on the same days, `earlier`.

The solver does not mind when a task is done that nothing waits for. A maker at the bench tonight pours tonight.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orvek.planning.timetable.board import Board
from orvek.planning.timetable.items import DAY, Item, steps_into_day
from orvek.planning.timetable.results import TimetableQuestion


def earlier(question: TimetableQuestion, items: Sequence[Item], starts: Sequence[int]) -> list[int]:
    """Where the items begin when one after another goes to the first place that is free, on a day that is used.

    None begins later than it did; what is pinned stays.
    """
    offset, found = steps_into_day(question.begin), list(starts)
    days = {(start + offset) // DAY for start in starts}
    for group in sorted(_groups(items), key=lambda group: starts[group[0]]):
        board = Board(question)
        for index in set(range(len(items))) - set(group):
            board.take(items[index], found[index])
        own, at = [items[index] for index in group], _ready(items, found, group[0])
        while (begin := board.earliest(own[0], at, found[group[0]])) is not None:
            then = board.soon_after(own[0], begin, own[1:])
            if then is not None and all((one + offset) // DAY in days for one in (begin, *then)):
                for index, one in zip(group, (begin, *then), strict=True):
                    found[index] = one
                break
            at = begin + 1
    return found


def _groups(items: Sequence[Item]) -> Iterator[list[int]]:
    """The places of an item and of those that have to follow it soon; without what is pinned."""
    group: list[int] = []
    for index, item in enumerate(items):
        if group and not (item.follows_soon and items[group[-1]].job == item.job):
            yield group
            group = []
        if item.pinned is None:
            group.append(index)
    if group:
        yield group


def _ready(items: Sequence[Item], starts: Sequence[int], index: int) -> int:
    """When all is over that comes before an item."""
    item = items[index]
    before = [n for n, one in enumerate(items) if one.job == item.job and one.task.key in item.task.after]
    return max([item.free_at, *(items[n].over(starts[n]) for n in before)])
