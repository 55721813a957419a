"""Where a bar's corners lie on a photo, proposed: the largest thing that stands out from the bench, its four sides.

`proposed_corners` looks for it; whoever asks shows the corners on the photo, for the maker to drag. A shadow beside the
bar is no part of it: it is the bench, only darker, and its edge is soft.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.documents import Corners
from orvek.documents.photo import share_of_picture

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float32]
_LOOKED_AT_PX = 900
_LEAST, _MOST = 0.01, 0.97  # of the picture: less is a speck, more is no background
_FILLS = 0.8  # of its four-sided outline: a bar fills it, a hand or a shadow does not
_UNLIKE, _CLEAR_OF = 9.0, 2.0  # in steps of OpenCV's L*a*b*; and over the bench's own unevenness (choices)
_NEAR_PARTS = (0.12, 0.05, 0.02)  # how far off a side, as a part of its length, a point may lie and still be of it
_SHADOW = 0.2  # how much darker than the bench counts, of any other difference: a shadow is nothing else (a choice)
_REACH_PX = 24  # how far from a side that was found its sharp edge is looked for
_PIECES = 28  # of a side: each has its own edge, a line is laid through them
_SCALE_PX, _WIDE_PX, _SHARP = 2, 8, 0.5  # an edge is sharp that is half over in two pixels; a shadow's takes eight
_WEAK = 0.4  # of the middle strength of a side's edges: a weaker one counts for less
_OF_STEEPEST = 0.35  # of the steepest edge there: less is grain or noise
_ON_LINE_PX = 1.6  # an edge that lies so near the line is of it
_SURE = 0.6  # of a side's pieces: fewer on the line, and it wants a look (seen on photos that were made)
_MARGIN = 0.12  # of a side, at each of its ends: left out of the line, for corners are rounded


class Proposed(Struct, frozen=True):
    """The corners as parts of width and height, from the upper left one on clockwise; whether they want a look."""

    corners: Corners
    is_unsure: bool


def proposed_corners(picture: Pixels) -> Proposed | None:
    """The corners of the bar on a photo.

    The bench is taken to be what lies along the picture's border. None where nothing four-sided stands out from it.
    """
    import cv2

    tall, wide = picture.shape[:2]
    shrink = min(1.0, _LOOKED_AT_PX / max(tall, wide))
    small = cv2.resize(picture, None, fx=shrink, fy=shrink, interpolation=cv2.INTER_AREA) if shrink < 1 else picture
    colours = cv2.cvtColor(cv2.GaussianBlur(small, (3, 3), 0), cv2.COLOR_RGB2LAB).astype(np.float32)
    found: list[tuple[float, float, Corners]] = []
    for mask in _masks(np.asarray(small)):
        ring = _largest(mask)
        corners = _four_sides(ring) if ring is not None else None
        if corners is None:
            continue
        on_edges, on_line = _on_edges(colours, corners)
        ordered = _in_order(on_edges / (small.shape[1], small.shape[0]), (wide, tall))
        if _LEAST < share_of_picture(ordered) < _MOST:
            found.append((on_line, share_of_picture(ordered), ordered))
    if not found:
        return None
    # Of those with sharp edges all round the largest: a smaller one is a part of the bar that stands out most.
    on_line, _, best = max(found, key=lambda one: (one[0] > _SURE, one[1] if one[0] > _SURE else one[0]))
    return Proposed(best, on_line <= _SURE)


def _on_edges(colours: Floats, corners: NDArray[np.float64]) -> tuple[NDArray[np.float64], float]:
    """Four corners moved to where the sharp edges beside their sides meet; the least part of a side that has one."""
    inside = np.sign(_area(corners)) or 1.0
    lines, shares = [], []
    for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        along = (b - a) / max(float(np.hypot(*(b - a))), 1e-9)
        normal = inside * np.array([-along[1], along[0]])
        places = a + (b - a) * np.linspace(_MARGIN / 2, 1 - _MARGIN / 2, _PIECES * 6)[:, None]
        off, strength = _edge_offsets(colours, places, normal)
        points = places.reshape(_PIECES, 6, 2).mean(axis=1) + off[:, None] * normal
        line, share = _line_through(points, strength, (a, along))
        lines.append(line)
        shares.append(share)
    found = _crossings(lines)
    return (found, min(shares)) if found is not None else (corners, 0.0)


def _edge_offsets(
    colours: Floats, places: NDArray[np.float64], normal: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """How far inwards of each piece of a side its sharpest edge lies, in px, and how sharp that is."""
    import cv2

    margin = _WIDE_PX
    steps = np.arange(-_REACH_PX - margin, _REACH_PX + margin + 1)
    at = (places[:, None, :] + steps[None, :, None] * normal).astype(np.float32)
    across = cv2.remap(colours, at[..., 0], at[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    across = across.reshape(_PIECES, 6, len(steps), 3).mean(axis=1)

    def over(px: int) -> NDArray[np.float64]:
        """How much the colour changes over so many pixels to either side of each place."""
        part = slice(margin - px, across.shape[1] - margin + px)
        there = across[:, part]
        return np.asarray(np.linalg.norm(there[:, 2 * px :] - there[:, : -2 * px], axis=2), dtype=float)

    steep, wide = over(_SCALE_PX), over(_WIDE_PX)
    peaks = np.zeros(steep.shape, bool)
    peaks[:, 1:-1] = (steep[:, 1:-1] >= steep[:, :-2]) & (steep[:, 1:-1] >= steep[:, 2:])
    # The first from outside: what lies further in is the bar's own pattern. A wide one is a shadow's.
    peaks &= (steep >= _OF_STEEPEST * steep.max(axis=1, keepdims=True)) & (steep >= _SHARP * wide)
    peak = np.where(peaks.any(axis=1), peaks.argmax(axis=1), steep.argmax(axis=1))
    peak = np.clip(peak, 1, steep.shape[1] - 2)
    rows = np.arange(_PIECES)
    left, middle, right = (steep[rows, peak + n] for n in (-1, 0, 1))
    curve = left - 2 * middle + right
    fine = np.where(np.abs(curve) > 1e-6, 0.5 * (left - right) / np.where(curve == 0, 1, curve), 0.0)
    return peak + np.clip(fine, -0.5, 0.5) - _REACH_PX, np.where(peaks.any(axis=1), middle, 0.0)


Line = tuple[NDArray[np.float64], NDArray[np.float64]]  # a place on it, and its way


def _line_through(points: NDArray[np.float64], strength: NDArray[np.float64], begin: Line) -> tuple[Line, float]:
    """The line on which most of the edges lie, and their part; edges that are weak beside the others count for less."""
    weights = strength / max(_WEAK * float(np.median(strength)), 1e-9)
    best, best_share = begin, 0.0
    for i in range(0, len(points), 2):
        for j in range(len(points) - 1, i + len(points) // 3, -2):
            way = points[j] - points[i]
            way = way / max(float(np.hypot(*way)), 1e-9)
            near = np.abs((points - points[i]) @ np.array([-way[1], way[0]])) < _ON_LINE_PX
            share = float(np.minimum(weights, 1.0)[near].sum() / len(points))
            if share > best_share:
                best, best_share = (points[near].mean(axis=0), _way(points[near])), share
    return best, best_share


def _way(points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Along which way points lie."""
    return np.asarray(np.linalg.svd(points - points.mean(axis=0), full_matrices=False)[2][0])


def _masks(picture: Pixels) -> list[NDArray[np.uint8]]:
    """What stands out from the border: by its distance in colour, then with the bench's own unevenness taken off."""
    import cv2

    colours = cv2.cvtColor(cv2.GaussianBlur(picture, (5, 5), 0), cv2.COLOR_RGB2LAB).astype(np.float32)
    tall, wide = colours.shape[:2]
    edge = max(2, min(tall, wide) // 30)
    border = np.ones((tall, wide), bool)
    border[edge:-edge, edge:-edge] = False
    plain = (colours - np.median(colours[border], axis=0)).astype(np.float32)
    # Light that falls off makes a slope of the bench: a plane is fitted to the border, channel by channel.
    y, x = np.mgrid[0:tall, 0:wide].astype(np.float32)
    ground = np.stack([np.ones_like(x), x / wide, y / tall, (x / wide) ** 2, (y / tall) ** 2], axis=2)
    fit = np.linalg.lstsq(ground[border], colours[border], rcond=None)[0]
    flat = (colours - ground @ fit).astype(np.float32)
    made = []
    for far in (_lit(flat), np.linalg.norm(flat, axis=2), _lit(plain), np.linalg.norm(plain, axis=2)):
        # What the bench itself never reaches; else where the colours fall into two, for a bench that is not even.
        unlike = max(_UNLIKE, _CLEAR_OF * float(np.percentile(far[border], 95)))
        halved, _ = cv2.threshold(np.clip(far, 0, 255).astype(np.uint8), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
        for least in (unlike, float(halved)):
            mask = (far > least).astype(np.uint8) * 255
            mask = np.asarray(cv2.morphologyEx(mask, cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8)), dtype=np.uint8)
            made.append(np.asarray(cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8)), dtype=np.uint8))
    return made


def _lit(off: Floats) -> Floats:
    """How far a colour is from the bench's, where one that is only darker may be its shadow."""
    weighed = off.copy()
    weighed[..., 0] *= np.where(off[..., 0] < 0, _SHADOW, 1.0)
    return np.asarray(np.linalg.norm(weighed, axis=2), dtype=np.float32)


def _largest(mask: NDArray[np.uint8]) -> NDArray[np.float64] | None:
    """The outline of the largest thing, (n, 2); None where there is none or it is too small."""
    import cv2

    found, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not found:
        return None
    ring = max(found, key=cv2.contourArea)
    if cv2.contourArea(ring) < _LEAST * mask.size:
        return None
    hull = cv2.convexHull(ring)
    return _dense(hull[:, 0, :].astype(float)) if cv2.contourArea(ring) > _FILLS * cv2.contourArea(hull) else None


def _dense(ring: NDArray[np.float64]) -> NDArray[np.float64]:
    """Points a pixel apart along a polygon."""
    parts = []
    for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        count = max(1, int(np.hypot(*(b - a))))
        parts.append(a + (b - a) * np.arange(count)[:, None] / count)
    return np.concatenate(parts)


def _four_sides(ring: NDArray[np.float64]) -> NDArray[np.float64] | None:
    """The corners of the four-sided outline that a ring of points has; None where it has another shape."""
    rough = _rough(ring)
    corners = rough
    # A rough corner may lie beside the real one: a line fitted near it leads there, fitted once more it is right.
    for near_part in _NEAR_PARTS:
        corners = _fitted(ring, corners, near_part) if corners is not None else None
    if corners is None or rough is None:
        return None
    return corners if np.abs(corners - rough).max() < 0.2 * np.ptp(ring, axis=0).max() else None


def _fitted(ring: NDArray[np.float64], about: NDArray[np.float64], near_part: float) -> NDArray[np.float64] | None:
    """Corners of the lines fitted to the points of a ring that lie near the sides between four corners."""
    import cv2

    lines = []
    sides = np.hypot(*(np.roll(about, -1, axis=0) - about).T)
    thick = cv2.contourArea(about.astype(np.float32)) / float(sides.max())
    for a, b in zip(about, np.roll(about, -1, axis=0), strict=True):
        along = b - a
        long = float(np.hypot(*along))
        if long < 4:
            return None
        part = (ring - a) @ along / long**2
        off = np.abs((ring - a) @ np.array([-along[1], along[0]]) / long)
        near = ring[(part > _MARGIN) & (part < 1 - _MARGIN) & (off < max(3.0, near_part * min(long, 2 * thick)))]
        if len(near) < 2:
            near = np.array([a, b])
        vx, vy, x, y = (float(v) for v in cv2.fitLine(near.astype(np.float32), cv2.DIST_HUBER, 0, 0.01, 0.01).ravel())
        lines.append((np.array([x, y]), np.array([vx, vy])))
    return _crossings(lines)


def _crossings(lines: list[Line]) -> NDArray[np.float64] | None:
    """Where each line meets the one before it; None where two of them do not."""
    corners = []
    for (p, u), (q, v) in zip([lines[-1], *lines[:-1]], lines, strict=True):
        system = np.column_stack([u, -v])
        if abs(np.linalg.det(system)) < 1e-3:
            return None
        corners.append(p + u * np.linalg.solve(system, q - p)[0])
    return np.array(corners)


def _rough(ring: NDArray[np.float64]) -> NDArray[np.float64] | None:
    """Four points that hold the ring: its polygon simplified until four are left."""
    import cv2

    points = ring.astype(np.float32)
    around = cv2.arcLength(points, True)
    for part in np.linspace(0.008, 0.08, 19):
        simple = cv2.approxPolyDP(points, part * around, True)
        if len(simple) == 4:
            return np.asarray(simple[:, 0, :], dtype=float)
        if len(simple) < 4:
            break
    area, box = cv2.contourArea(points), cv2.boxPoints(cv2.minAreaRect(points))
    return np.asarray(box, dtype=float) if area > 0.9 * cv2.contourArea(box) else None


def _in_order(parts: NDArray[np.float64], size_px: tuple[int, int]) -> Corners:
    """Clockwise, from the corner that is the face's upper left one: the bar's long way runs from left to right."""
    px = parts * size_px
    if _area(px) < 0:
        px, parts = px[::-1], parts[::-1]
    sides = np.hypot(*(np.roll(px, -1, axis=0) - px).T)
    first = 0 if sides[0] + sides[2] >= sides[1] + sides[3] else 1
    along = px[(first + 1) % 4] - px[first]
    # A bar that lies on its end in the picture has its left end below.
    backwards = along[0] < 0 if abs(along[0]) >= abs(along[1]) else along[1] > 0
    if backwards:
        first += 2
    a, b, c, d = (tuple(float(round(value, 5)) for value in parts[(first + n) % 4]) for n in range(4))
    return (_pair(a), _pair(b), _pair(c), _pair(d))


def _pair(values: tuple[float, ...]) -> tuple[float, float]:
    return values[0], values[1]


def _area(px: NDArray[np.float64]) -> float:
    x, y = px.T
    return float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum() / 2)
