"""Bars laid over a slab, at any place and angle: whether they lie on what is sound of it, and apart.

The slab lies with its length along x and its width along y, from its upper left corner; mm. A bar's angle is
clockwise as it is seen from above. An outline follows a natural edge; bad places are round, cracks straight stretches.
"""

from __future__ import annotations

import math
from functools import lru_cache
from itertools import pairwise

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Floats = NDArray[np.float64]
ANGLES_DEG = (0.0, 90.0, 15.0, -15.0, 30.0, -30.0, 45.0, -45.0, 60.0, -60.0, 75.0, -75.0)
_TOUCH_MM = 1e-6
_SHIFTS = 10  # how many ways a row of strips is moved across
_ROUND = 24  # sides of the ring that a round place is taken for; the ring lies around it


class Slab(Struct, frozen=True):
    """A slab from above.

    Attributes:
        length_mm, width_mm: what its outline lies in.
        bad: round places that no bar may lie on: x, y and size.
        cracks: straight stretches that no bar may lie on: from x, y to x, y, and how wide.
        outline: the corners of its edge, in order; none of a slab with four straight sides.
        margin_mm: how far bars stay off its edge, for bark and sapwood.
    """

    length_mm: float
    width_mm: float
    bad: tuple[tuple[float, float, float], ...] = ()
    cracks: tuple[tuple[float, float, float, float, float], ...] = ()
    outline: tuple[tuple[float, float], ...] = ()
    margin_mm: float = 0.0

    @property
    def edge(self) -> tuple[tuple[float, float], ...]:
        """The corners of its edge, in order."""
        long, wide = self.length_mm, self.width_mm
        return self.outline or ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))


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
    """Whether a bar lies wholly on the slab, and on no bad place: no edge runs through it, and its middle is sound."""
    c, s = math.cos(math.radians(bar.angle_deg)), math.sin(math.radians(bar.angle_deg))
    u, v = c * bar.x_mm + s * bar.y_mm, -s * bar.x_mm + c * bar.y_mm
    low, high = _reach(slab, bar.angle_deg, v, bar.width_mm / 2)
    half = bar.length_mm / 2 - _TOUCH_MM
    return not bool(((low < u + half) & (high > u - half)).any()) and is_sound(slab, bar.x_mm, bar.y_mm)


def is_sound(slab: Slab, x_mm: float, y_mm: float) -> bool:
    """Whether a place lies on the slab, and within no bad place.

    A line to its right crosses the ring that it lies in an odd number of times.
    """
    edges, rings = _edges(slab), _ring_of(slab)
    (x0, y0), (x1, y1) = edges[:, 0].T, edges[:, 1].T
    over = np.flatnonzero((y0 > y_mm) != (y1 > y_mm))
    at = x0[over] + (y_mm - y0[over]) / (y1[over] - y0[over]) * (x1[over] - x0[over])
    within = np.bincount(rings[over[at > x_mm]], minlength=int(rings[-1]) + 1) % 2
    return bool(within[0]) and not within[1:].any()


def apart(one: SlabBar, other: SlabBar, kerf_mm: float) -> bool:
    """Whether the saw fits between two bars. Two flat four-sided things are apart if a side of one parts them."""
    reach_mm = (math.hypot(one.length_mm, one.width_mm) + math.hypot(other.length_mm, other.width_mm)) / 2 + kerf_mm
    if math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm) >= reach_mm:
        return True
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
    x, y = np.array(slab.edge).T
    area = abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
    return sum(bar.length_mm * bar.width_mm for bar in bars) / area


def _strips(slab: Slab, length_mm: float, width_mm: float, kerf_mm: float, angle: float) -> tuple[SlabBar, ...]:
    """The most bars in strips at one angle."""
    turn = math.radians(angle)
    across = np.array(slab.edge) @ (-math.sin(turn), math.cos(turn))
    pitch = width_mm + kerf_mm
    best: tuple[SlabBar, ...] = ()
    for shift in np.linspace(0.0, pitch, _SHIFTS, endpoint=False):
        found: list[SlabBar] = []
        for v in np.arange(across.min() + shift + width_mm / 2, across.max() - width_mm / 2 + _TOUCH_MM, pitch):
            found += _along(slab, float(v), (length_mm, width_mm, kerf_mm, angle))
        if len(found) > len(best):
            best = tuple(found)
        if angle % 90 == 0 and slab == Slab(slab.length_mm, slab.width_mm):
            break  # nothing is gained by moving straight strips on a whole slab
    return best


def _along(slab: Slab, v: float, size: tuple[float, float, float, float]) -> list[SlabBar]:
    """Bars along one strip: as many as go into each stretch of it that no edge runs through."""
    length_mm, width_mm, kerf_mm, angle = size
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    low, high = _reach(slab, angle, v, width_mm / 2)
    order = np.argsort(low)
    found: list[SlabBar] = []
    end = after = -math.inf
    for begins, ends in zip(low[order].tolist(), high[order].tolist(), strict=True):
        u = max(end + length_mm / 2, after)
        while u + length_mm / 2 <= begins + _TOUCH_MM and math.isfinite(u):
            x, y = c * u - s * v, s * u + c * v
            if not is_sound(slab, x, y):
                break
            found.append(SlabBar(x, y, angle, length_mm, width_mm))
            u = after = u + length_mm + kerf_mm
        end = max(end, ends)
    return found


def _reach(slab: Slab, angle_deg: float, v_mm: float, half_mm: float) -> tuple[Floats, Floats]:
    """From where to where each edge, of the slab and of bad places, reaches along a strip; only those that reach in.

    `v_mm` is where the strip's middle line lies across the angle, `half_mm` half its width.
    """
    (u0, v0), (u1, v1) = _turned(slab, angle_deg)
    half = half_mm - _TOUCH_MM
    low_v, high_v = v_mm - half, v_mm + half
    near = np.flatnonzero((np.minimum(v0, v1) < high_v) & (np.maximum(v0, v1) > low_v))
    u0, v0, u1, v1 = u0[near], v0[near], u1[near], v1[near]
    rise = np.where(np.abs(v1 - v0) < 1e-12, np.inf, v1 - v0)  # a level edge reaches over all of itself
    first, last = (low_v - v0) / rise, (high_v - v0) / rise
    begin = np.where(np.isinf(rise), 0.0, np.clip(np.minimum(first, last), 0, 1))
    end = np.where(np.isinf(rise), 1.0, np.clip(np.maximum(first, last), 0, 1))
    a, b = (u0 + part * (u1 - u0) for part in (begin, end))
    return np.minimum(a, b), np.maximum(a, b)


@lru_cache(maxsize=32)
def _turned(slab: Slab, angle_deg: float) -> Floats:
    """Every edge along and across an angle: (2, 2, n), its begin and its end, u and v."""
    c, s = math.cos(math.radians(angle_deg)), math.sin(math.radians(angle_deg))
    turned: Floats = np.ascontiguousarray((_edges(slab) @ np.array([(c, -s), (s, c)])).transpose(1, 2, 0))
    return turned


@lru_cache(maxsize=4)
def _rings(slab: Slab) -> tuple[Floats, ...]:
    """The corners of its edge, and of a ring around each bad place, each crack and each side to keep off."""
    bad = ((x, y, x, y, size) for x, y, size in slab.bad)
    sides = pairwise((*slab.edge, slab.edge[0])) if slab.margin_mm > 0 else ()
    kept_off = ((*begin, *end, 2 * slab.margin_mm) for begin, end in sides)
    return (np.array(slab.edge), *(_ring(*stretch) for stretch in (*bad, *slab.cracks, *kept_off)))


@lru_cache(maxsize=4)
def _edges(slab: Slab) -> Floats:
    """Every edge of those rings, (n, 2, 2)."""
    return np.concatenate([np.stack([ring, np.roll(ring, -1, axis=0)], axis=1) for ring in _rings(slab)])


@lru_cache(maxsize=4)
def _ring_of(slab: Slab) -> NDArray[np.intp]:
    """To which ring each of those edges belongs; the slab's own is the first."""
    rings = _rings(slab)
    return np.repeat(np.arange(len(rings)), [len(ring) for ring in rings])


def _ring(x0: float, y0: float, x1: float, y1: float, size: float) -> Floats:
    """A ring around all that lies within half a size of a stretch."""
    turn = math.atan2(y1 - y0, x1 - x0) - math.pi / 2
    angles = turn + (np.arange(_ROUND) + 0.5) * 2 * math.pi / _ROUND
    radius = size / 2 / math.cos(math.pi / _ROUND)
    own = radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    half = _ROUND // 2
    found: Floats = np.concatenate([own[:half] + np.array((x1, y1)), own[half:] + np.array((x0, y0))])
    return found
