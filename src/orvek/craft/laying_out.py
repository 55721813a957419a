"""Laying out: pieces from a length, the length a pen needs, where the tubes and saw cuts lie. All in mm."""

from __future__ import annotations

import math
from dataclasses import dataclass

_GUARD = 1e-9  # so that 600 mm in pieces of 20 with a kerf of 3.2 gives exactly 26


@dataclass(frozen=True, slots=True)
class Span:
    """A stretch along the bar."""

    start_mm: float
    end_mm: float

    @property
    def length_mm(self) -> float:
        """How long it is."""
        return self.end_mm - self.start_mm


def pieces(length_mm: float, piece_mm: float, kerf_mm: float) -> tuple[int, float]:
    """How many pieces a length gives, and what is left: n = ⌊(L+k)/(l+k)⌋, left = L − n·l − (n−1)·k.

    >>> pieces(1000, 130, 2.4)
    (7, 75.6)
    """
    count = max(0, math.floor((length_mm + kerf_mm) / (piece_mm + kerf_mm) + _GUARD))
    left = length_mm - count * piece_mm - max(0, count - 1) * kerf_mm
    return count, round(max(0.0, left), 6)


def blanks_for(pens: int, spoilage: float) -> int:
    """Blanks to start with so that `pens` good ones are expected: ⌈n/(1−s)⌉."""
    return math.ceil(pens / (1 - spoilage) - _GUARD)


def blank_length_mm(tubes: tuple[tuple[float, float], ...], kerf_mm: float, end_waste_mm: float) -> float:
    """Length of bar that a pen needs: Σ(tube + 2·trim) + (n+1)·kerf + 2·waste.

    Args:
        tubes: (tube length, trim at each end) of each barrel, in mm.
        kerf_mm: of the saw; a cut between two barrels and one at each outer end.
        end_waste_mm: lost at each end of the bar.
    """
    return sum(tube + 2 * trim for tube, trim in tubes) + (len(tubes) + 1) * kerf_mm + 2 * end_waste_mm


def packed_starts_mm(tubes: tuple[tuple[float, float], ...], kerf_mm: float, bar_mm: float) -> tuple[float, ...]:
    """Where each tube begins when the barrels lie side by side, one kerf apart, in the middle of the bar."""
    total = sum(tube + 2 * trim for tube, trim in tubes) + max(0, len(tubes) - 1) * kerf_mm
    place = (bar_mm - total) / 2
    starts = []
    for tube, trim in tubes:
        starts.append(place + trim)
        place += tube + 2 * trim + kerf_mm
    return tuple(starts)


def gaps(spans: tuple[Span, ...], bar_mm: float) -> tuple[Span, ...]:
    """The stretches of the bar that no span covers, from left to right."""
    free, place = [], 0.0
    for span in sorted(spans, key=lambda s: s.start_mm):
        end = min(span.start_mm, bar_mm)
        if end > place + _GUARD:
            free.append(Span(place, end))
        place = max(place, span.end_mm)
    if place < bar_mm - _GUARD:
        free.append(Span(place, bar_mm))
    return tuple(free)
