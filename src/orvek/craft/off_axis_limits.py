"""Where a hole may come out at two depths, and how its place scatters there."""

from __future__ import annotations

import math
from functools import cache

from msgspec import Struct

_NODES = 48
FAR = 8.0  # standard deviations beyond which nothing is left


class Limit(Struct, frozen=True):
    """How far the hole may lie off at a depth before something is spoilt.

    Attributes:
        depth_mm: from where the bit enters.
        room_mm: how far off, in either direction of the first way across, or all round.
        other_mm: the room in the second way across; None: the same.
        aimed_mm: where the hole is meant to lie, off the middle of that room.
    """

    depth_mm: float
    room_mm: float
    other_mm: float | None = None
    aimed_mm: tuple[float, float] = (0.0, 0.0)

    @property
    def rooms_mm(self) -> tuple[float, float]:
        """The room in both directions."""
        return self.room_mm, self.room_mm if self.other_mm is None else self.other_mm


class Pair(Struct, frozen=True):
    """How the offsets at a near and a far depth go together in one direction."""

    sigma: float  # of the near one
    slope: float  # of the far one's mean with the near one's error
    rest: float  # what the far one scatters once the near one is known


@cache
def legendre() -> tuple[tuple[float, float], ...]:
    """Places and weights of Gauss and Legendre on −1 to 1, by Newton's method; made once."""
    found = []
    for number in range(1, _NODES + 1):
        x = math.cos(math.pi * (number - 0.25) / (_NODES + 0.5))
        for _ in range(8):
            before, now = 1.0, x
            for order in range(2, _NODES + 1):
                before, now = now, ((2 * order - 1) * x * now - (order - 1) * before) / order
            slope = _NODES * (x * now - before) / (x * x - 1)
            x -= now / slope
        found.append((x, 2 / ((1 - x * x) * slope * slope)))
    return tuple(found)
