"""A timetable made step by step: whenever the hands are free, the first job that can go on does.

It is there at once. Which job comes first is tried in a few orders, or in many; the one that costs least is kept.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator, Sequence
from datetime import date
from functools import partial

from orvek.planning.timetable.board import Board
from orvek.planning.timetable.costing import cost
from orvek.planning.timetable.items import Item, open_steps
from orvek.planning.timetable.results import TimetableQuestion
from orvek.planning.timetable.windows import Window

_SEED = 3
_FURTHER = (-4, -3, -2, -1, 1, 2, 3, 4)  # places by which a job is moved: near ones bring more than any (tried out)
_FILLED, _AMONG = 36, 3  # so many steps before the hours end they are filled, by so many tasks that can go on


def stepwise(
    question: TimetableQuestion,
    items: Sequence[Item],
    tries: int = 0,
    looks: float = math.inf,
    tick: Callable[[], None] = lambda: None,
) -> list[int] | None:
    """Where each item begins in the best of a few orders of the jobs; None where one finds no room.

    With `tries` jobs change their places in the best order so often, or until the board was looked at `looks` times,
    and what costs less is kept. `tick` is called with every try, and may raise to end the search.

    What cannot wait begins soon enough (`is_soon_enough`); only where that finds no room it may come later.
    """
    orders = list(_orders(question, items))
    found = [one for order in orders if (one := _costed(question, items, order, Board(question))) is not None]
    if not found:
        late = (in_order(question, items, order, is_strict=False) for order in orders)
        return min((starts for starts in late if starts), key=partial(cost, question, items), default=None)
    best = min(found, key=lambda one: one[0])
    chance, count = random.Random(_SEED), len(question.jobs)
    for _ in range(tries if count > 1 else 0):
        if looks < 0:
            break
        tick()
        order = list(best[1])
        job = order.pop(place := chance.randrange(count))
        order.insert(max(0, place + chance.choice(_FURTHER)), job)
        board = Board(question)
        other = _costed(question, items, order, board)
        looks -= board.looks
        if other is not None and other[0] < best[0]:
            best = other
    return best[2]


_Costed = tuple[float, Sequence[int], list[int]]  # what it costs, the order of the jobs, where the items begin


def _costed(question: TimetableQuestion, items: Sequence[Item], order: Sequence[int], board: Board) -> _Costed | None:
    starts = in_order(question, items, order, board)
    return None if starts is None else (cost(question, items, starts), order, starts)


def _orders(question: TimetableQuestion, items: Sequence[Item]) -> Iterator[list[int]]:
    """Jobs by their promises; among equals as they come, by the work of the hands, by hands and waits."""
    hands, whole = [0] * len(question.jobs), [0] * len(question.jobs)
    for item in items:
        hands[item.job] += item.hands
        whole[item.job] = item.over(whole[item.job])
    numbers = range(len(question.jobs))
    orders = [
        sorted(numbers, key=lambda n: (question.jobs[n].promised or date.max, by[n]))
        for by in (list(numbers), hands, whole)
    ]
    for place, order in enumerate(orders):
        if order not in orders[:place]:
            yield order


def in_order(
    question: TimetableQuestion,
    items: Sequence[Item],
    order: Sequence[int],
    board: Board | None = None,
    *,
    is_strict: bool = True,
) -> list[int] | None:
    """Where each item begins when, whenever the hands are free, the first job in this order that can go on does.

    Towards the end of the hours it is the first with which, and others after it, they are used up best.
    An item is begun only when those that have to follow it soon can, and their time is kept for them; not so when not
    `is_strict`. None where a task finds no room.
    """
    starts, board = [-1] * len(items), board or Board(question)
    for index, item in enumerate(items):
        if item.pinned is not None:
            starts[index] = item.pinned
            board.take(item, item.pinned)
    chains: dict[int, list[int]] = {job: [] for job in order}
    for index, item in enumerate(items):
        chains[item.job].append(index)
    rows = [_Row(items, starts, chain, is_strict=is_strict) for chain in chains.values()]
    for first, last in open_steps(question, loud=False):
        rows, at = [row for row in rows if row.next], first
        while at < last:
            at = _go_on(rows, board, (at, last))
    return starts if all(not row.next for row in rows) else None


def _go_on(rows: Sequence[_Row], board: Board, window: Window) -> int:
    """Let the first job that can begin now do so. Returns when the hands are free again, or when to ask again."""
    now, last = window
    wakes, can = [last], []
    for row in rows:
        if row.ready > now:
            wakes.append(row.ready)
            continue
        if not row.next or now + row.next[0].hands > last:
            continue
        first, *rest = row.next
        free = board.free_for(first, now)
        if free > now:
            wakes.append(free)
        else:
            followers = board.soon_after(first, now, rest)
            if followers is None:
                wakes.append(now + 1)
                continue
            can.append((row, first.hands, (now, *followers)))
            if last - now > _FILLED or len(can) == _AMONG:
                break
    if not can:
        return min(wakes)
    row, hands, begins = can[_best_filling([hands for _, hands, _ in can], last - now)]
    row.begin(begins, board)
    return now + hands


def _best_filling(hands: Sequence[int], room: int) -> int:
    """The first of several tasks with which, and others of them after it, the least of the room is left over.

    >>> _best_filling([5, 4, 3], 7)
    1
    """
    least, best = room + 1, 0
    for place, own in enumerate(hands):
        reached = 1 << own
        for other, more in enumerate(hands):
            if other != place:
                reached |= reached << more
        left = room + 1 - (reached & ((2 << room) - 1)).bit_length()
        if left < least:
            least, best = left, place
        if left == 0:
            break
    return best


class _Row:
    """How far a job has come: what is next, and from when on it can begin."""

    def __init__(self, items: Sequence[Item], starts: list[int], chain: Sequence[int], *, is_strict: bool) -> None:
        self._items, self._starts, self._left, self._is_strict = items, starts, list(chain), is_strict
        self.ready = 0
        self.next: list[Item] = []  # an item, and those that have to follow it soon
        self._look()

    def begin(self, begins: Sequence[int], board: Board) -> None:
        """What is next has its place now."""
        for item, at in zip(self.next, begins, strict=True):
            board.take(item, at)
            self._starts[self._left.pop(0)] = at
            self.ready = item.over(at)
        self._look()

    def _look(self) -> None:
        while self._left and self._items[self._left[0]].pinned is not None:
            index = self._left.pop(0)
            item = self._items[index]
            self.ready = item.over(self._starts[index])
        self.next = [self._items[index] for index in self._left[:1]]
        if self.next:
            self.ready = max(self.ready, self.next[0].free_at)
        for index in self._left[1:]:
            item = self._items[index]
            if not (self._is_strict and item.follows_soon):
                break
            self.next.append(item)
