"""How long a casting hardens depends on when it is poured, and when it is poured on the timetable: asked in turns."""

from __future__ import annotations

from orvek.documents import Conditions

ROUNDS = 3  # then it is said that it does not settle
NEAR_H = 1.5  # a pour moved by less makes no difference to a cure (a choice)


def apart_h(one_h: float, other_h: float) -> float:
    """How far two times of day are from one another.

    >>> apart_h(23.0, 1.5)
    2.5
    """
    apart = abs(one_h - other_h) % 24
    return min(apart, 24 - apart)


def depends_on_hour(conditions: Conditions) -> bool:
    """Whether it matters at what time of day is poured: only where the night is colder than the day."""
    return conditions.night_c is not None
