"""What is marked on a slab by hand: its edge, round places, cracks. Each has handles: places that are dragged.

The handles of the edge are its corners, of round places their middles, of cracks both ends, one crack after another.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Literal

from msgspec.structs import replace

from orvek.documents.deeds.tuples import replaced, without
from orvek.workpiece.slab import Slab

Marks = Literal["edge", "spots", "cracks"]
Place = tuple[float, float]
SPOT_MM, CRACK_MM = 6.0, 2.0  # as large as they are until they are dragged
_LEAST_MM, _MOST_MM = 1.0, 100.0


def handles(slab: Slab, marks: Marks) -> tuple[Place, ...]:
    """Where the marks of a kind are taken hold of."""
    if marks == "edge":
        return slab.edge
    if marks == "spots":
        return tuple((x, y) for x, y, _ in slab.bad)
    return tuple(place for x0, y0, x1, y1, _ in slab.cracks for place in ((x0, y0), (x1, y1)))


def moved(slab: Slab, marks: Marks, index: int, place: Place) -> Slab:
    """A slab with a handle elsewhere; one of its edge stays within its length and width."""
    x, y = _within(slab, place)
    if marks == "edge":
        return replace(slab, outline=replaced(slab.edge, index, (x, y)))
    if marks == "spots":
        return replace(slab, bad=replaced(slab.bad, index, (x, y, slab.bad[index][2])))
    x0, y0, x1, y1, width = slab.cracks[index // 2]
    crack = (x0, y0, x, y, width) if index % 2 else (x, y, x1, y1, width)
    return replace(slab, cracks=replaced(slab.cracks, index // 2, crack))


def added(slab: Slab, marks: Marks, place: Place, reach_mm: float = math.inf) -> tuple[Slab, int] | None:
    """A slab with one mark more, and its handle that is dragged on; None beside the edge by more than a reach."""
    place = _within(slab, place)
    if marks == "spots":
        return replace(slab, bad=(*slab.bad, (*place, SPOT_MM))), len(slab.bad)
    if marks == "cracks":
        return replace(slab, cracks=(*slab.cracks, (*place, *place, CRACK_MM))), 2 * len(slab.cracks) + 1
    sides = list(pairwise((*slab.edge, slab.edge[0])))
    away_mm = [_away(place, side) for side in sides]
    side = away_mm.index(min(away_mm))
    if away_mm[side] > reach_mm:
        return None
    outline = (*slab.edge[: side + 1], place, *slab.edge[side + 1 :])
    return replace(slab, outline=outline), side + 1


def removed(slab: Slab, marks: Marks, index: int) -> Slab:
    """A slab with the mark of a handle taken away; an edge keeps three corners."""
    if marks == "edge":
        return replace(slab, outline=without(slab.edge, index)) if len(slab.edge) > 3 else slab
    if marks == "spots":
        return replace(slab, bad=without(slab.bad, index))
    return replace(slab, cracks=without(slab.cracks, index // 2))


def sized(slab: Slab, marks: Marks, index: int, size_mm: float) -> Slab:
    """A slab with a round place, or a crack, of another size; an edge has none."""
    size = round(min(max(_LEAST_MM, size_mm), _MOST_MM), 1)
    if marks == "spots":
        return replace(slab, bad=replaced(slab.bad, index, (*slab.bad[index][:2], size)))
    if marks == "cracks":
        return replace(slab, cracks=replaced(slab.cracks, index // 2, (*slab.cracks[index // 2][:4], size)))
    return slab


def size_mm(slab: Slab, marks: Marks, index: int) -> float:
    """How large the mark of a handle is; 0 of the edge."""
    if marks == "edge":
        return 0.0
    return slab.bad[index][2] if marks == "spots" else slab.cracks[index // 2][4]


def _within(slab: Slab, place: Place) -> Place:
    """A place, or the nearest to it on the slab's length and width."""
    x, y = (round(min(max(0.0, mm), most), 1) for mm, most in zip(place, (slab.length_mm, slab.width_mm), strict=True))
    return x, y


def _away(place: Place, side: tuple[Place, Place]) -> float:
    """How far a place lies from a side."""
    (x0, y0), (x1, y1) = side
    run = (x1 - x0) ** 2 + (y1 - y0) ** 2
    part = ((place[0] - x0) * (x1 - x0) + (place[1] - y0) * (y1 - y0)) / run if run else 0.0
    part = min(1.0, max(0.0, part))
    return math.dist(place, (x0 + part * (x1 - x0), y0 + part * (y1 - y0)))
