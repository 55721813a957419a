"""Where the saw goes to free the bars that were laid over a slab, in the order of its cuts; see `slab`."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from orvek.workpiece.slab import Floats, Slab, SlabBar

Ends = tuple[tuple[float, float], tuple[float, float]]
_SAME_LINE_MM = 0.05  # what a fence is set to; lines further apart are two cuts
_HAIR_MM = 0.1  # what a bar may lose to a line that it shares with another within a fence's truth
_LEAST_MM = 1.0  # what a saw line is at least long


class SlabCut(Struct, frozen=True):
    """One straight line of the saw: from where to where, from the slab's upper left corner; what it frees.

    `parts` are several where a bar lies in between: the line is sawn on one strip after another, at one setting.
    `turn_deg` is its direction, `offset_mm` how far it lies from that corner, square to itself. `is_short`: it ends
    before the slab does, because another bar lies beyond.
    """

    parts: tuple[Ends, ...]
    frees: str
    is_across: bool
    turn_deg: float
    offset_mm: float
    is_short: bool = False


def cuts(slab: Slab, bars: tuple[SlabBar, ...], kerf_mm: float) -> tuple[SlabCut, ...]:
    """The saw cuts in their order: for each angle along the bars' sides first, then across their ends.

    A line that two strips share is one cut; one that lies along the slab's own edge is none. A line that would run
    through another bar is as long as what it frees. `ends` are the line's middle; the blade takes half the kerf on
    either side.
    """
    made: list[SlabCut] = []
    for angle in dict.fromkeys(round(bar.angle_deg % 180, 3) for bar in bars):
        group = [(n + 1, bar) for n, bar in enumerate(bars) if round(bar.angle_deg % 180, 3) == angle]
        for is_across in (False, True):
            turn = angle + (90 if is_across else 0)
            lines: dict[float, dict[int, SlabBar]] = {}
            for number, bar in group:
                for offset in _offsets(bar, turn, kerf_mm, is_across):
                    near = next((known for known in lines if abs(known - offset) <= _SAME_LINE_MM), offset)
                    lines.setdefault(near, {})[number] = bar
            for offset in sorted(lines, reverse=is_across):  # from above, and from the left end on
                made += _sawn(slab, bars, lines[offset], (turn, offset, kerf_mm), is_across)
    return tuple(made)


def _sawn(
    slab: Slab,
    bars: tuple[SlabBar, ...],
    freed: dict[int, SlabBar],
    line: tuple[float, float, float],
    is_across: bool,
) -> list[SlabCut]:
    """The cut along one line: from edge to edge, else along all that it frees, else a part for each of them.

    The whole blade stays off every bar. A part that frees one bar alone goes a little beyond its ends where it may.
    """
    turn, offset, kerf_mm = line
    whole = -math.inf, math.inf

    def along(span: tuple[float, float]) -> Ends | None:
        """The line over a span, where it meets the slab and no bar."""
        ends = _ends(slab, turn, offset, span)
        return None if ends is None or any(_bites(bar, ends, kerf_mm) for bar in bars) else ends

    reach = {number: _reach(bar.corners(kerf_mm / 2), turn) for number, bar in freed.items()}
    together = min(low for low, _ in reach.values()), max(high for _, high in reach.values())
    for span in (whole, together):
        ends = along(span)
        if ends is not None:
            return [SlabCut((ends,), _told(sorted(freed)), is_across, turn, offset, span is not whole)]
    parts = {
        number: along(reach[number]) or _ends(slab, turn, offset, _reach(freed[number].corners(), turn))
        for number in sorted(freed)
    }
    there = {number: ends for number, ends in parts.items() if ends is not None}
    return [SlabCut(tuple(there.values()), _told(list(there)), is_across, turn, offset, True)] if there else []


def _told(numbers: list[int]) -> str:
    return f"bar{'s' if len(numbers) > 1 else ''} {', '.join(str(number) for number in numbers)}"


def _reach(points: Floats, turn_deg: float) -> tuple[float, float]:
    """From where to where points lie along a direction."""
    turn = math.radians(turn_deg)
    along = points @ (math.cos(turn), math.sin(turn))
    return float(along.min()), float(along.max())


def _bites(bar: SlabBar, ends: Ends, kerf_mm: float) -> bool:
    """Whether a blade along a line takes more than a hair from a bar: the line clipped by the bar and half a kerf."""
    (u0, v0), (u1, v1) = (bar.own(*end) for end in ends)
    more = kerf_mm / 2 - _HAIR_MM
    first, last = 0.0, 1.0
    for begin, end, half in ((u0, u1, bar.length_mm / 2 + more), (v0, v1, bar.width_mm / 2 + more)):
        run = end - begin
        if abs(run) < 1e-12:
            if abs(begin) >= half:
                return False
            continue
        low, high = sorted(((-half - begin) / run, (half - begin) / run))
        first, last = max(first, low), min(last, high)
    return last - first > 1e-9


def _offsets(bar: SlabBar, turn_deg: float, kerf_mm: float, is_across: bool) -> tuple[float, float]:
    """How far the middle of a saw line on either side of a bar lies from the origin, along the line's normal."""
    turn = math.radians(turn_deg)
    middle = -math.sin(turn) * bar.x_mm + math.cos(turn) * bar.y_mm
    half = (bar.length_mm if is_across else bar.width_mm) / 2 + kerf_mm / 2
    return middle - half, middle + half


def _ends(slab: Slab, angle: float, offset: float, span: tuple[float, float]) -> Ends | None:
    """Where a stretch of a line enters the slab and leaves it at last; None where it runs beside it or along an edge.

    A line runs along an edge where one beside it by a hair lies off the slab.
    """
    if any(_crossings(slab, angle, offset + hair) is None for hair in (-_HAIR_MM, _HAIR_MM)):
        return None
    crossed = _crossings(slab, angle, offset)
    if crossed is None:
        return None
    low, high = max(crossed[0], span[0]), min(crossed[1], span[1])
    if high - low < _LEAST_MM:
        return None
    turn = math.radians(angle)
    along, start = np.array([math.cos(turn), math.sin(turn)]), np.array([-math.sin(turn), math.cos(turn)]) * offset
    a, b = start + along * low, start + along * high
    return (round(float(a[0]), 1), round(float(a[1]), 1)), (round(float(b[0]), 1), round(float(b[1]), 1))


def _crossings(slab: Slab, angle: float, offset: float) -> tuple[float, float] | None:
    """How far along a line its first and its last crossing of the slab's edge lie; None where it crosses none."""
    turn = math.radians(angle)
    points = np.array(slab.edge) @ np.array([(math.cos(turn), -math.sin(turn)), (math.sin(turn), math.cos(turn))])
    after = np.roll(points, -1, axis=0)
    (u0, v0), (u1, v1) = points.T, after.T
    over = (v0 > offset) != (v1 > offset)
    if not over.any():
        return None
    at = u0[over] + (offset - v0[over]) / (v1[over] - v0[over]) * (u1[over] - u0[over])
    return float(at.min()), float(at.max())
