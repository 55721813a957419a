"""Bars laid over a slab, at any place and angle: whether they lie on it and apart, where the saw goes, what they are.

The slab lies with its length along x and its width along y, from its upper left corner; mm. A bar's angle is
clockwise as it is seen from above.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ends = tuple[tuple[float, float], tuple[float, float]]
ANGLES_DEG = (0.0, 90.0, 15.0, -15.0, 30.0, -30.0, 45.0, -45.0, 60.0, -60.0, 75.0, -75.0)
_TOUCH_MM = 1e-6
_SAME_LINE_MM = 0.05  # what a fence is set to; lines further apart are two cuts
_HAIR_MM = 0.1  # what a bar may lose to a line that it shares with another within a fence's truth
_SHIFTS = 10  # how many ways a row of strips is moved across


class Slab(Struct, frozen=True):
    """A slab from above, with places that no bar may lie on: x, y and size in mm."""

    length_mm: float
    width_mm: float
    bad: tuple[tuple[float, float, float], ...] = ()


class SlabBar(Struct, frozen=True):
    """A bar on it: its middle, how it is turned, its size."""

    x_mm: float
    y_mm: float
    angle_deg: float
    length_mm: float
    width_mm: float

    def corners(self, more_mm: float = 0.0) -> Floats:
        """Its corners (4, 2) from its upper left one on clockwise; `more_mm` wider on every side."""
        c, s = math.cos(math.radians(self.angle_deg)), math.sin(math.radians(self.angle_deg))
        long, wide = self.length_mm / 2 + more_mm, self.width_mm / 2 + more_mm
        own = np.array([(-long, -wide), (long, -wide), (long, wide), (-long, wide)])
        found: Floats = own @ np.array([(c, s), (-s, c)]) + (self.x_mm, self.y_mm)
        return found

    def own(self, x_mm: float, y_mm: float) -> tuple[float, float]:
        """A place of the slab as the bar has it: along and across it from its middle."""
        c, s = math.cos(math.radians(self.angle_deg)), math.sin(math.radians(self.angle_deg))
        dx, dy = x_mm - self.x_mm, y_mm - self.y_mm
        return c * dx + s * dy, -s * dx + c * dy

    def holds(self, x_mm: float, y_mm: float) -> bool:
        """Whether a place of the slab lies on it."""
        along, across = self.own(x_mm, y_mm)
        return abs(along) <= self.length_mm / 2 and abs(across) <= self.width_mm / 2


def lies_on(slab: Slab, bar: SlabBar) -> bool:
    """Whether a bar lies wholly on the slab, and on no bad place."""
    x, y = bar.corners().T
    inside = x.min() >= -_TOUCH_MM and x.max() <= slab.length_mm + _TOUCH_MM
    inside = inside and y.min() >= -_TOUCH_MM and y.max() <= slab.width_mm + _TOUCH_MM
    return bool(inside) and not any(_covers(bar, spot) for spot in slab.bad)


def apart(one: SlabBar, other: SlabBar, kerf_mm: float) -> bool:
    """Whether the saw fits between two bars. Two flat four-sided things are apart if a side of one parts them."""
    a, b = one.corners(), other.corners()
    for corners in (a, b):
        for n in range(2):
            along = corners[n + 1] - corners[n]
            normal = np.array([-along[1], along[0]]) / float(np.hypot(*along))
            one_low, one_high = (a @ normal).min(), (a @ normal).max()
            other_low, other_high = (b @ normal).min(), (b @ normal).max()
            if one_high + kerf_mm <= other_low + _TOUCH_MM or other_high + kerf_mm <= one_low + _TOUCH_MM:
                return True
    return False


def troubles(slab: Slab, bars: tuple[SlabBar, ...], kerf_mm: float) -> tuple[tuple[int, ...], ...]:
    """The numbers of bars that do not lie on the slab, alone, and of pairs that leave no room for the saw."""
    off = [(n,) for n, bar in enumerate(bars) if not lies_on(slab, bar)]
    pairs = [(a, b) for a in range(len(bars)) for b in range(a + 1, len(bars)) if not apart(bars[a], bars[b], kerf_mm)]
    return (*off, *pairs)


def laid_out(
    slab: Slab, length_mm: float, width_mm: float, kerf_mm: float, angle_deg: float | None = None
) -> tuple[SlabBar, ...]:
    """As many bars of a size as lie on the slab in straight strips, all at one angle: at this one, or at the best.

    Strips are moved across together, a tenth of a strip at a time, bars along each strip; the first with most wins,
    so that a straight layout is taken where a slanting one gives no more.
    """
    best: tuple[SlabBar, ...] = ()
    for angle in ANGLES_DEG if angle_deg is None else (angle_deg,):
        found = _strips(slab, length_mm, width_mm, kerf_mm, angle)
        if len(found) > len(best):
            best = found
    return best


def share_used(slab: Slab, bars: tuple[SlabBar, ...]) -> float:
    """How much of the slab's area becomes bars."""
    return sum(bar.length_mm * bar.width_mm for bar in bars) / (slab.length_mm * slab.width_mm)


class SlabCut(Struct, frozen=True):
    """One straight cut: from where to where, from the slab's upper left corner; what it frees.

    `is_short`: it ends before the slab does, because another bar lies beyond.
    """

    ends: Ends
    frees: str
    is_across: bool
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
            for offset in sorted(lines):
                made += _sawn(slab, bars, lines[offset], (turn, offset, kerf_mm), is_across)
    return tuple(made)


def _sawn(
    slab: Slab,
    bars: tuple[SlabBar, ...],
    freed: dict[int, SlabBar],
    line: tuple[float, float, float],
    is_across: bool,
) -> list[SlabCut]:
    """The cuts along one line: one from edge to edge, else one along all that it frees, else one for each of them.

    The whole blade stays off every bar. A cut that frees one bar alone goes a little beyond its ends where it may.
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
            words = ", ".join(str(number) for number in sorted(freed))
            told = f"bar{'s' if len(freed) > 1 else ''} {words}"
            return [SlabCut(ends, told, is_across, span is not whole)]
    found = []
    for number in sorted(freed):
        ends = along(reach[number]) or _ends(slab, turn, offset, _reach(freed[number].corners(), turn))
        if ends is not None:
            found.append(SlabCut(ends, f"bar {number}", is_across, True))
    return found


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
    """Where a stretch of a line meets the slab's edges; None where it runs beside it or along an edge."""
    turn = math.radians(angle)
    along, normal = np.array([math.cos(turn), math.sin(turn)]), np.array([-math.sin(turn), math.cos(turn)])
    low, high = span
    start = normal * offset
    for axis, most in ((0, slab.length_mm), (1, slab.width_mm)):
        if abs(along[axis]) < 1e-9:
            if not 0.1 < start[axis] < most - 0.1:
                return None
            continue
        first, last = sorted(((0 - start[axis]) / along[axis], (most - start[axis]) / along[axis]))
        low, high = max(low, first), min(high, last)
    if high - low < 1.0:
        return None
    a, b = start + along * low, start + along * high
    return (round(float(a[0]), 1), round(float(a[1]), 1)), (round(float(b[0]), 1), round(float(b[1]), 1))


def _strips(slab: Slab, length_mm: float, width_mm: float, kerf_mm: float, angle: float) -> tuple[SlabBar, ...]:
    """The most bars in strips at one angle."""
    turn = math.radians(angle)
    c, s = math.cos(turn), math.sin(turn)
    edge = np.array([(0, 0), (slab.length_mm, 0), (slab.length_mm, slab.width_mm), (0, slab.width_mm)])
    across = edge @ (-s, c)
    pitch = width_mm + kerf_mm
    best: tuple[SlabBar, ...] = ()
    for shift in np.linspace(0.0, pitch, _SHIFTS, endpoint=False):
        found: list[SlabBar] = []
        for v in np.arange(across.min() + shift + width_mm / 2, across.max() - width_mm / 2 + _TOUCH_MM, pitch):
            found += _along(slab, (c, s), float(v), (length_mm, width_mm, kerf_mm, angle))
        if len(found) > len(best):
            best = tuple(found)
        if angle % 90 == 0 and not slab.bad:
            break  # nothing is gained by moving straight strips on a whole slab
    return best


def _along(slab: Slab, way: tuple[float, float], v: float, size: tuple[float, float, float, float]) -> list[SlabBar]:
    """Bars along one strip: as many as go into each stretch of it that lies on the slab and clear of bad places."""
    length_mm, width_mm, kerf_mm, angle = size
    (c, s), half = way, (length_mm / 2, width_mm / 2)
    low, high = -math.inf, math.inf
    for du in (-half[0], half[0]):
        for dv in (-half[1], half[1]):
            for factor, rest, most in (
                (c, -s * (v + dv) + c * du, slab.length_mm),
                (s, c * (v + dv) + s * du, slab.width_mm),
            ):
                if abs(factor) < 1e-12:
                    if not -_TOUCH_MM <= rest <= most + _TOUCH_MM:
                        return []
                    continue
                first, last = sorted((-rest / factor, (most - rest) / factor))
                low, high = max(low, first), min(high, last)
    free, u = [], low
    for begins, ends in sorted(_barred(slab, way, v, half)):
        free.append((u, min(high, begins)))
        u = max(u, ends)
    free.append((u, high))
    found: list[SlabBar] = []
    after = -math.inf
    for begins, ends in free:
        u = max(begins, after)
        while u <= ends + _TOUCH_MM:
            found.append(SlabBar(c * u - s * v, s * u + c * v, angle, length_mm, width_mm))
            u += length_mm + kerf_mm
            after = u
    return found


def _barred(slab: Slab, way: tuple[float, float], v: float, half: tuple[float, float]) -> list[tuple[float, float]]:
    """Where along a strip no bar's middle may lie for the bad places, a little too much at their corners."""
    c, s = way
    found = []
    for x, y, size in slab.bad:
        u, off = c * x + s * y, -s * x + c * y - v
        if abs(off) < half[1] + size / 2:
            found.append((u - half[0] - size / 2, u + half[0] + size / 2))
    return found


def _covers(bar: SlabBar, spot: tuple[float, float, float]) -> bool:
    """Whether a round bad place reaches under a bar."""
    along, across = bar.own(spot[0], spot[1])
    out = math.hypot(max(0.0, abs(along) - bar.length_mm / 2), max(0.0, abs(across) - bar.width_mm / 2))
    return out < spot[2] / 2 - _TOUCH_MM
