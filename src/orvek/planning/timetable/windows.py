"""When the maker can be at the bench: hours by weekday, less days off, busy times and, for loud work, quiet hours."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, time, timedelta
from functools import lru_cache
from typing import TypeVar

from orvek.documents import Hours
from orvek.quantities import minutes_between

T = TypeVar("T", float, datetime)
Window = tuple[int, int]  # in minutes from the beginning
STEP_MIN = 5  # everything begins on a step


@lru_cache(maxsize=32)
def windows(hours: Hours, begin: datetime, days: int, *, loud: bool) -> tuple[Window, ...]:
    """The windows of so many days from `begin` on, in minutes from it, in their order; none shorter than a step."""
    found: list[tuple[datetime, datetime]] = []
    midnight = datetime.combine(begin.date(), time())
    for day in range(days + 1):
        at = midnight + timedelta(days=day)
        there = hours.days[at.weekday()]
        if at.date() in hours.off or not there.is_open:
            continue
        found += without([_window(at, there.from_h, there.to_h)], _taken(hours, at, loud=loud))
    # Minutes that pass, not that the clock shows: a wait over the night in which clocks are changed is as long as ever.
    shifted = ((minutes_between(begin, first), minutes_between(begin, last)) for first, last in found)
    steps = ((_up(max(0.0, first)), _down(last)) for first, last in shifted)
    return _joined([(first, last) for first, last in steps if last - first >= STEP_MIN])


def _joined(steps: list[Window]) -> tuple[Window, ...]:
    """Windows that touch are one: whoever is there over midnight works through."""
    found: list[Window] = []
    for first, last in sorted(steps):
        if found and first <= found[-1][1]:
            found[-1] = (found[-1][0], max(last, found[-1][1]))
        else:
            found.append((first, last))
    return tuple(found)


def without(stretches: Iterable[tuple[T, T]], taken: Iterable[tuple[T, T]]) -> list[tuple[T, T]]:
    """What is left of stretches of time beside what is taken; of moments or of numbers alike.

    >>> without([(0, 10)], [(2, 3), (8, 12)])
    [(0, 2), (3, 8)]
    """
    left = list(stretches)
    for first, last in taken:
        rest: list[tuple[T, T]] = []
        for begins, ends in left:
            if last <= begins or first >= ends:
                rest.append((begins, ends))
                continue
            rest += [(begins, first)] if begins < first else []
            rest += [(last, ends)] if last < ends else []
        left = rest
    return left


def longest(of: tuple[Window, ...]) -> int:
    """The length of the longest window in minutes; 0 without any."""
    return max((last - first for first, last in of), default=0)


def usual(of: tuple[Window, ...]) -> int:
    """The length of the window in the middle when they lie sorted; 0 without any."""
    lengths = sorted(last - first for first, last in of)
    return lengths[len(lengths) // 2] if lengths else 0


def _window(midnight: datetime, from_h: float, to_h: float) -> tuple[datetime, datetime]:
    return midnight + timedelta(hours=from_h), midnight + timedelta(hours=to_h)


def _taken(hours: Hours, midnight: datetime, *, loud: bool) -> list[tuple[datetime, datetime]]:
    """What is booked on a day, and when it has to be quiet."""
    taken = [(busy.begins, busy.ends) for busy in hours.busy]
    if loud and hours.quiet_from_h != hours.quiet_to_h:
        for day in (-1, 0):
            first = midnight + timedelta(days=day, hours=hours.quiet_from_h)
            until = 24.0 if hours.quiet_to_h <= hours.quiet_from_h else 0.0
            taken.append((first, midnight + timedelta(days=day, hours=hours.quiet_to_h + until)))
    return taken


def _up(minutes: float) -> int:
    return int(-(-minutes // STEP_MIN)) * STEP_MIN


def _down(minutes: float) -> int:
    return int(minutes // STEP_MIN) * STEP_MIN
