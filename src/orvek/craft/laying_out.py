"""Laying out: pieces from a length, the length a pen needs, where the tubes and saw cuts lie. All in mm."""

from __future__ import annotations

import math

from msgspec import Struct

_GUARD = 1e-9  # so that 600 mm in pieces of 20 with a kerf of 3.2 gives exactly 26


class Span(Struct, frozen=True):
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


def blank_length_mm(tubes: tuple[tuple[float, float], ...], kerf_mm: float, end_waste_mm: float) -> float:
    """Length of bar that a pen needs: Σ(tube + 2·trim) + cuts·kerf + 2·waste.

    Args:
        tubes: (tube length, trim at each end) of each barrel, in mm.
        kerf_mm: of the saw; see `saw_cuts`.
        end_waste_mm: lost at each end of the bar.
    """
    pieces_mm = sum(tube + 2 * trim for tube, trim in tubes)
    return pieces_mm + saw_cuts(len(tubes), end_waste_mm) * kerf_mm + 2 * end_waste_mm


def saw_cuts(pieces_in_bar: int, end_waste_mm: float) -> int:
    """Cuts that a bar's pieces take: one between two of them, and one at each end where the end is lost.

    A bar whose ends are clean is its own first and last face: n − 1 cuts, else n + 1.
    """
    return max(0, pieces_in_bar + (1 if end_waste_mm > 0 else -1))


def blanks_in_bar(length_mm: float, tubes: tuple[tuple[float, float], ...], kerf_mm: float, end_waste_mm: float) -> int:
    """How many blanks a bar gives; what is lost at its ends is lost once a bar, not once a blank.

    n·Σ(tube + 2·trim + kerf) ± kerf + 2·waste ≤ L: one cut more than pieces where the ends are lost, else one less.

    >>> blanks_in_bar(160, ((60, 2),), 2, 4)
    2
    """
    one = sum(tube + 2 * trim + kerf_mm for tube, trim in tubes)
    beside_mm = kerf_mm if end_waste_mm > 0 else -kerf_mm
    return max(0, math.floor((length_mm - 2 * end_waste_mm - beside_mm) / one + _GUARD))


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
