"""Where a bar's corners lie on a photo, proposed: the largest thing that stands out from the bench, its four sides.

`proposed_corners` looks for it; whoever asks shows the corners on the photo, for the maker to drag.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Corners
from orvek.documents.photo import share_of_picture

Pixels = NDArray[np.uint8]
_LOOKED_AT_PX = 900
_LEAST, _MOST = 0.01, 0.97  # of the picture: less is a speck, more is no background
_FILLS = 0.8  # of its four-sided outline: a bar fills it, a hand or a shadow does not
_UNLIKE, _CLEAR_OF = 9.0, 2.0  # in steps of OpenCV's L*a*b*; and over the bench's own unevenness (choices)
_NEAR_PARTS = (0.12, 0.05, 0.02)  # how far off a side, as a part of its length, a point may lie and still be of it
_SPREAD_PX = 1.8  # how far smoothing carries the bar's colour out over its edge (seen on photos that were made)
_MARGIN = 0.12  # of a side, at each of its ends: left out of the line, for corners are rounded


def proposed_corners(picture: Pixels) -> Corners | None:
    """The corners of the bar on a photo, from its upper left one on clockwise, as parts of width and height.

    The bench is taken to be what lies along the picture's border. None where nothing four-sided stands out from it.
    """
    import cv2

    tall, wide = picture.shape[:2]
    shrink = min(1.0, _LOOKED_AT_PX / max(tall, wide))
    small = cv2.resize(picture, None, fx=shrink, fy=shrink, interpolation=cv2.INTER_AREA) if shrink < 1 else picture
    for mask in _masks(np.asarray(small)):
        ring = _largest(mask)
        if ring is None:
            continue
        corners = _four_sides(ring)
        if corners is None:
            continue
        parts = corners / (small.shape[1], small.shape[0])
        ordered = _in_order(parts, (wide, tall))
        if _LEAST < share_of_picture(ordered) < _MOST:
            return ordered
    return None


def _masks(picture: Pixels) -> list[NDArray[np.uint8]]:
    """What stands out from the border: by its distance in colour, then with the bench's own unevenness taken off."""
    import cv2

    colours = cv2.cvtColor(cv2.GaussianBlur(picture, (5, 5), 0), cv2.COLOR_RGB2LAB).astype(np.float32)
    tall, wide = colours.shape[:2]
    edge = max(2, min(tall, wide) // 30)
    border = np.ones((tall, wide), bool)
    border[edge:-edge, edge:-edge] = False
    plain = np.linalg.norm(colours - np.median(colours[border], axis=0), axis=2)
    # Light that falls off makes a slope of the bench: a plane is fitted to the border, channel by channel.
    y, x = np.mgrid[0:tall, 0:wide].astype(np.float32)
    ground = np.stack([np.ones_like(x), x / wide, y / tall, (x / wide) ** 2, (y / tall) ** 2], axis=2)
    fit = np.linalg.lstsq(ground[border], colours[border], rcond=None)[0]
    flat = np.linalg.norm(colours - ground @ fit, axis=2)
    made = []
    for far in (flat, plain):
        # What the bench itself never reaches; else where the colours fall into two, for a bench that is not even.
        unlike = max(_UNLIKE, _CLEAR_OF * float(np.percentile(far[border], 95)))
        halved, _ = cv2.threshold(np.clip(far, 0, 255).astype(np.uint8), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
        for least in (unlike, float(halved)):
            mask = (far > least).astype(np.uint8) * 255
            mask = np.asarray(cv2.morphologyEx(mask, cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8)), dtype=np.uint8)
            made.append(np.asarray(cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8)), dtype=np.uint8))
    return made


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
        inwards = np.array([-vy, vx])
        inwards *= np.sign(inwards @ (about.mean(axis=0) - (x, y)))
        lines.append((np.array([x, y]) + _SPREAD_PX * inwards, np.array([vx, vy])))
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
