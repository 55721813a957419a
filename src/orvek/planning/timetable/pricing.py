"""What no timetable can cost less than, by prices for the hours: `priced_bound`.

Each step of work gets a price by its day. Every job then lays its own tasks, alone, so that how late it is ready and
what its hours cost is least together; a day whose hours are worth more than a day at the bench costs is taken whole.
Whatever the prices, no timetable costs less than all of that less the worth of the hours (Lagrangian relaxation;
M. L. Fisher, Management Science 27, 1981). Prices rise where more is wanted than there are hours, and fall where less
(subgradients; Held, Wolfe and Crowder, Mathematical Programming 6, 1974).

Left out, which only lowers it: places, what cannot wait, pinned tasks and what stands before them.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from orvek.planning.timetable.costing import EARLY_A_DAY, LATE_A_DAY, SESSION, cost, unpinned
from orvek.planning.timetable.items import DAY, Item, due_step, open_steps, steps_into_day
from orvek.planning.timetable.question import TimetableQuestion

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

_ROUNDS, _STEP, _PATIENCE = 200, 0.1, 3  # the steps are halved when so many rounds brought nothing (tried out)
_KEPT = 0.5  # so much of the last direction stays in the next one, against to and fro (tried out)
# So long after the plan's last day hours have prices still: a day at the bench is worth seven days of one job's wait,
# so that much later a handful of days would not be put off for nothing.
_LATER_DAYS = 45


def priced_bound(
    question: TimetableQuestion,
    items: Sequence[Item],
    starts: Sequence[int],
    cells: float = math.inf,
    tick: Callable[[], None] = lambda: None,
) -> float:
    """What no timetable costs less than; `starts` are those of a plan, which tells where hours are short.

    Better the longer it goes on: so many rounds as look at `cells` steps of tasks, at least one and at most 200.
    `tick` is called with every round, and may raise to end it.
    """
    grid = _Grid.of(question, items, max(starts, default=0))
    if not grid.at.size:
        return 0.0
    jobs = [_Job(question, own) for number in range(len(question.jobs)) if (own := unpinned(items, number))]
    above, step, idle = cost(question, items, starts), _STEP, 0
    prices = best_prices = _first_prices(question, items, starts, grid)
    best, direction = -math.inf, None
    rounds = max(1.0, cells / (len(items) * grid.at.size))
    for _ in range(int(min(_ROUNDS, rounds))):
        tick()
        least, over = _least(grid, jobs, prices)
        if least > best:
            best, best_prices, idle = least, prices, 0
        else:
            idle += 1
        if idle == _PATIENCE:
            prices, step, idle, direction = best_prices, step / 2, 0, None
            continue
        if best >= above:
            break
        direction = over if direction is None else (1 - _KEPT) * over + _KEPT * direction
        length = float(direction @ direction)
        if length == 0:
            break
        prices = np.maximum(0.0, prices + step * (above - least) / length * direction)
    return max(0.0, best)


class _Grid(Struct, frozen=True):
    """The steps on which the hands may begin, as far as hours have prices.

    Attributes:
        at: (n,) the steps, in their order.
        closes: (n,) when the hours end in which each lies.
        day: (n,) the day of each, from the first on.
        room: (days,) how many steps of work may begin on each day.
        end: from here on nothing has a price.
        fits: by hands and whether it is loud, (n,) 0 where such a task may begin and infinite where not.
        following: by length, (n,) the place in `at` of the first step that is so much later.
    """

    at: Ints
    closes: Ints
    day: Ints
    room: Floats
    end: int
    fits: dict[tuple[int, bool], Floats] = field(default_factory=dict)
    following: dict[int, Ints] = field(default_factory=dict)

    @classmethod
    def of(cls, question: TimetableQuestion, items: Sequence[Item], last: int) -> _Grid:
        """Up to some days after the step `last`."""
        offset = steps_into_day(question.begin)
        end = ((last + offset) // DAY + 1 + _LATER_DAYS) * DAY - offset
        stretches = [
            (first, min(close, end), close) for first, close in open_steps(question, loud=False) if first < end
        ]
        at = np.concatenate([np.arange(first, stop) for first, stop, _ in stretches] or [np.zeros(0, np.int64)])
        closes = np.repeat([c for _, _, c in stretches], [stop - first for first, stop, _ in stretches])
        room = np.zeros((end + offset) // DAY + 1)
        for first, stop, close in stretches:
            for day in range((first + offset) // DAY, (stop - 1 + offset) // DAY + 1):
                # A task belongs to the day on which it begins, and may last over midnight.
                room[day] += close - max(first, day * DAY - offset)
        made = cls(at.astype(np.int64), closes.astype(np.int64), (at.astype(np.int64) + offset) // DAY, room, end)
        for hands, is_loud in {(item.hands, item.task.is_loud) for item in items}:
            made.fits[hands, is_loud] = made.room_for(question, hands, is_loud=is_loud)
        for length in {item.hands + item.wait for item in items}:
            made.following[length] = np.searchsorted(made.at, made.at + length)
        return made

    def room_for(self, question: TimetableQuestion, hands: int, *, is_loud: bool) -> Floats:
        """(n,) 0 where a task may begin, infinite where not."""
        may = self.at + hands <= self.closes
        if is_loud:
            loud = np.zeros(self.at.size, bool)
            for first, close in open_steps(question, loud=True):
                loud |= (self.at >= first) & (self.at + hands <= close)
            may &= loud
        return np.where(may, 0.0, math.inf)


class _Job:
    """A job alone: its tasks, and what it costs to be ready at a step."""

    def __init__(self, question: TimetableQuestion, own: Sequence[Item]) -> None:
        job = question.jobs[own[0].job]
        self._due = None if job.promised is None else due_step(question, job)
        self._own = own
        lengths = [item.hands + item.wait for item in own]
        self._rest = [sum(lengths[place + 1 :]) for place in range(len(own))]

    def least(self, grid: _Grid, priced: dict[tuple[int, bool], Floats], wanted: Floats) -> float:
        """What the job costs at least at these prices; what it wants of each day is added to `wanted`."""
        place = int(np.searchsorted(grid.at, self._own[0].free_at))
        if place >= grid.at.size:
            return float(self._ready(grid.end + self._own[0].hands + self._own[0].wait + self._rest[0]))
        values = self._values(grid, priced)
        for item, value in zip(self._own, values, strict=True):
            chosen = int(np.searchsorted(value, value[place], side="right")) - 1  # it stays so up to where it is chosen
            if chosen == grid.at.size - 1 and priced[item.hands, item.task.is_loud][chosen] == math.inf:
                break  # the rest is done where nothing has a price
            wanted[grid.day[chosen]] += item.hands
            place = int(grid.following[item.hands + item.wait][chosen])
            if place >= grid.at.size:
                break
        return float(values[0][np.searchsorted(grid.at, self._own[0].free_at)])

    def _values(self, grid: _Grid, priced: dict[tuple[int, bool], Floats]) -> list[Floats]:
        """For each task, (n,): what it and all after it cost when it begins at a step or later; rising."""
        values: list[Floats] = []
        for item, rest in zip(reversed(self._own), reversed(self._rest), strict=True):
            length = item.hands + item.wait
            following = grid.following[length]
            inside = int(np.searchsorted(following, grid.at.size)) if values else 0
            then = np.empty(grid.at.size)
            if inside:
                # "clip", because a checked take into a place of ours goes by way of a copy
                np.take(values[-1], following[:inside], out=then[:inside], mode="clip")
            then[inside:] = self._ready(grid.at[inside:] + length + rest)
            then += priced[item.hands, item.task.is_loud]
            value = np.minimum.accumulate(then[::-1])[::-1]
            beyond = float(self._ready(grid.end + length + rest))
            value[np.searchsorted(value, beyond) :] = beyond
            values.append(value)
        return values[::-1]

    def _ready(self, step: Ints | int) -> Floats:
        early = EARLY_A_DAY * np.asarray(step, float)
        return early if self._due is None else early + LATE_A_DAY * np.maximum(0.0, step - self._due)


def _least(grid: _Grid, jobs: Sequence[_Job], prices: Floats) -> tuple[float, Floats]:
    """What everything costs at least at these prices, and by how much each day's hours fall short of what is wanted."""
    wanted, by_step = np.zeros(grid.room.size), prices[grid.day]
    priced = {(hands, is_loud): hands * by_step + fits for (hands, is_loud), fits in grid.fits.items()}
    least = sum(job.least(grid, priced, wanted) for job in jobs)
    worth = SESSION * DAY - prices * grid.room
    taken = np.where(worth < 0, grid.room, 0.0)
    return least + float(np.minimum(0.0, worth).sum()), wanted - taken


def _first_prices(question: TimetableQuestion, items: Sequence[Item], starts: Sequence[int], grid: _Grid) -> Floats:
    """What a step of work is worth on each day, about.

    One less delays every job that is not ready by then, and takes its part of a day at the bench, on the longest days
    the least; and no step is worth less than its part of its own day. (The best prices found were these, within a
    tenth.)
    """
    ends = {item.job: start + item.hands for item, start in zip(items, starts, strict=True)}
    order = sorted(ends, key=lambda job: ends[job])
    costs = np.array([EARLY_A_DAY + LATE_A_DAY * _is_late(question, job, ends[job]) for job in order])
    moments = np.array([0, *(ends[job] for job in order)])
    noons = np.arange(grid.room.size) * DAY - steps_into_day(question.begin) + DAY / 2
    # Between two ends the number of jobs that wait is taken as falling evenly: prices then fall evenly too.
    delayed = np.interp(noons, moments, costs.sum() - np.array([0.0, *np.cumsum(costs)])) + costs.mean() / 2
    delayed[noons > moments[-1]] = 0.0
    open_share = grid.room.sum() / (DAY * grid.room.size)
    is_open = grid.room > 0
    session = np.divide(SESSION * DAY, grid.room, where=is_open, out=np.zeros(grid.room.size))
    prices = np.maximum(session, delayed / open_share + session[is_open].min())
    return np.where(is_open, prices, 0.0)


def _is_late(question: TimetableQuestion, number: int, end: int) -> bool:
    job = question.jobs[number]
    return job.promised is not None and end > due_step(question, job)
