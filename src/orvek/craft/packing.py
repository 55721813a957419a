"""Pieces of several lengths sawn from bars of several lengths, so that whole pens come of them. All in mm."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from functools import lru_cache

from msgspec import Struct

_GUARD = 1e-6
_BEAM = 40  # states kept from bar to bar
_MOST_WAYS = 60  # of sawing one bar that are all looked at


class Sawn(Struct, frozen=True):
    """What is sawn from one bar.

    Attributes:
        bar: which of the bars.
        pieces: how many of each length.
        left_mm: what is left over in one piece, the lost ends taken off.
    """

    bar: int
    pieces: tuple[int, ...]
    left_mm: float


class Packing(Struct, frozen=True):
    """Pens and the bars they come from; bars that are not touched are not among them."""

    pens: int
    sawn: tuple[Sawn, ...]


@lru_cache(maxsize=64)
def packed(
    bars_mm: tuple[tuple[float, float], ...],
    pieces_mm: tuple[float, ...],
    kerf_mm: float,
    wanted: int,
    most_in_bar: int | None = None,
) -> Packing:
    """Saw as many whole pens as are wanted from bars, leaving the longest leftover there can be.

    Args:
        bars_mm: (length, what is lost at each end) of the bars, in the order in which they are to be taken.
        pieces_mm: one piece for each barrel of a pen, squaring allowances included.
        kerf_mm: of the saw; a cut between two pieces and before what is left, and one at an end that is lost.
        wanted: pens.
        most_in_bar: no more of each piece from one bar, where its tubes lie so that no more find room.

    Exact for a few bars that each give a few pieces; beyond that, the best that a search of limited width finds.
    """
    most = wanted if most_in_bar is None else min(wanted, most_in_bar)
    ways = {bar: _fullest(_ways(*bar, pieces_mm, kerf_mm, most)) for bar in set(bars_mm)}
    states: dict[tuple[int, ...], _Chain] = {(0,) * len(pieces_mm): _Chain(0, None, None)}
    for number, bar in enumerate(bars_mm):
        after = dict(states)  # a bar may be left as it is
        for totals, chain in states.items():
            for counts, left in ways[bar]:
                now = tuple([min(wanted, a + b) for a, b in zip(totals, counts, strict=True)])
                there = after.get(now)
                if there is None or chain.bars + 1 < there.bars:
                    after[now] = _Chain(chain.bars + 1, Sawn(number, counts, left), chain)
        best = sorted(after.items(), key=lambda item: (-min(item[0]), -sum(item[0]), item[1].bars))[:_BEAM]
        states = dict(best)
        if min(best[0][0]) >= wanted:
            break
    pens = max(min(totals) for totals in states)
    if pens == 0:
        return Packing(0, ())
    chain = min((one for totals, one in states.items() if min(totals) == pens), key=lambda one: one.bars)
    return Packing(pens, _without_surplus(chain.sawn(), pieces_mm, kerf_mm, pens))


class _Chain(Struct, frozen=True):
    """Bars sawn so far: the last one, and what came before."""

    bars: int
    last: Sawn | None
    before: _Chain | None

    def sawn(self) -> tuple[Sawn, ...]:
        found: list[Sawn] = []
        here: _Chain | None = self
        while here is not None and here.last is not None:
            found.append(here.last)
            here = here.before
        return tuple(reversed(found))


def _without_surplus(
    sawn: tuple[Sawn, ...], pieces_mm: tuple[float, ...], kerf_mm: float, pens: int
) -> tuple[Sawn, ...]:
    """Leave the pieces that no pen needs in the bar where that keeps the longest leftover."""
    surplus = [sum(one.pieces[n] for one in sawn) - pens for n in range(len(pieces_mm))]

    def spared(one: Sawn) -> Sawn:
        kept = tuple(count - min(count, more) for count, more in zip(one.pieces, surplus, strict=True))
        gained = sum((a - b) * (p + kerf_mm) for a, b, p in zip(one.pieces, kept, pieces_mm, strict=True))
        return Sawn(one.bar, kept, round(one.left_mm + gained, 6))

    place = max(range(len(sawn)), key=lambda n: spared(sawn[n]).left_mm)
    found = (*sawn[:place], spared(sawn[place]), *sawn[place + 1 :])
    return tuple(one for one in found if any(one.pieces))


def _fullest(ways: list[tuple[tuple[int, ...], float]]) -> list[tuple[tuple[int, ...], float]]:
    """Those of which no other gives as many of every piece."""

    def is_less(one: tuple[int, ...], other: tuple[int, ...]) -> bool:
        return one != other and all(a <= b for a, b in zip(one, other, strict=True))

    return [way for way in ways if any(way[0]) and not any(is_less(way[0], other[0]) for other in ways)]


def _ways(
    long_mm: float, lost_mm: float, pieces_mm: tuple[float, ...], kerf_mm: float, wanted: int
) -> list[tuple[tuple[int, ...], float]]:
    """What can be sawn from one bar: counts of each piece, and what is left.

    All ways where they are few; of a long bar and many short pieces, whole pens and then what still fits of each.
    """
    room_mm = long_mm - 2 * lost_mm
    # A clean end needs no cut, and the last piece of a bar none behind it; what is left over then has its own cut.
    beside = kerf_mm if lost_mm > 0 else -kerf_mm
    room = room_mm - beside
    most = [max(0, min(wanted, math.floor(room / (piece + kerf_mm) + _GUARD))) for piece in pieces_mm]
    none = (0,) * len(pieces_mm)
    if math.prod(count + 1 for count in most) <= _MOST_WAYS:
        counts = list(itertools.product(*(range(count + 1) for count in most)))
    else:
        counts = [none, *_whole_pens(room, pieces_mm, kerf_mm, wanted)]
    found = []
    for taken in counts:
        used = sum(count * (piece + kerf_mm) for count, piece in zip(taken, pieces_mm, strict=True))
        if used <= room + _GUARD:
            left = room_mm - max(beside, 0.0) - used
            found.append((taken, round(max(0.0, left), 6) if any(taken) else room_mm))
    return found or [(none, room_mm)]


def _whole_pens(room_mm: float, pieces_mm: tuple[float, ...], kerf_mm: float, wanted: int) -> Iterator[tuple[int, ...]]:
    """As many whole pens as go in, or one or two fewer, each with as many of one piece more as still fit."""
    each = sum(piece + kerf_mm for piece in pieces_mm)
    whole = max(0, min(wanted, math.floor(room_mm / each + _GUARD)))
    for pens in range(whole, max(-1, whole - 3), -1):
        yield (pens,) * len(pieces_mm)
        for place, piece in enumerate(pieces_mm):
            more = math.floor((room_mm - pens * each) / (piece + kerf_mm) + _GUARD)
            if more > 0:
                yield tuple(min(wanted, pens + more * (n == place)) for n in range(len(pieces_mm)))
