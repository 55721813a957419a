"""A photographed face laid flat: the projective map from the four corners on the photo onto length by width.

Source: projective geometry; four points, no three of them in a line, fix the map.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def flattening(corners: Floats, length_mm: float, width_mm: float) -> Floats:
    """The (3, 3) matrix that carries the photo onto the face: pixels in, mm out.

    Args:
        corners: (4, 2) places on the photo, from the face's upper left corner on clockwise.
        length_mm: the face along the bar; x runs along it from the left end.
        width_mm: the face across; y runs down from its upper edge.

    Raises:
        ValueError: three of the corners lie in a line, so that no map is fixed.
    """
    target = np.array([(0, 0), (length_mm, 0), (length_mm, width_mm), (0, width_mm)], dtype=float)
    source = np.asarray(corners, dtype=float)
    rows = []
    for (x, y), (u, v) in zip(source, target, strict=True):
        rows.append((x, y, 1, 0, 0, 0, -u * x, -u * y, u))
        rows.append((0, 0, 0, x, y, 1, -v * x, -v * y, v))
    system = np.array(rows)
    try:
        found = np.linalg.solve(system[:, :8], system[:, 8])
    except np.linalg.LinAlgError as error:
        raise ValueError("three corners in a line") from error
    return np.append(found, 1.0).reshape(3, 3)


def carried(matrix: Floats, points: Floats) -> Floats:
    """Points (n, 2) through a projective map.

    >>> carried(np.diag([2.0, 3.0, 1.0]), np.array([(1.0, 1.0)])).tolist()
    [[2.0, 3.0]]
    """
    x, y, w = matrix @ np.column_stack([points, np.ones(len(points))]).T
    return np.column_stack([x / w, y / w])


def seen_proportion(corners: Floats, size_px: tuple[float, float]) -> float | None:
    """Length over width of the face that four corners are the picture of; None where the photo does not tell.

    The camera's centre is taken to be the picture's, its pixels square. A face that is photographed straight from
    above has no vanishing points: then it is the ratio of its sides.
    Source: the image of the absolute conic under two orthogonal directions (plane metric rectification).

    Args:
        corners: (4, 2) in pixels, from the upper left one on clockwise.
        size_px: width and height of the picture.
    """
    c = np.asarray(corners, dtype=float) - np.asarray(size_px, dtype=float) / 2
    m1, m2, m4, m3 = (np.append(point, 1.0) for point in c)
    k2 = _triple(m1, m4, m3) / _triple(m2, m4, m3)
    k3 = _triple(m1, m4, m2) / _triple(m3, m4, m2)
    n2, n3 = k2 * m2 - m1, k3 * m3 - m1
    flat = abs(n2[2]) < _FLAT and abs(n3[2]) < _FLAT
    if flat:
        return float(math.hypot(n2[0], n2[1]) / math.hypot(n3[0], n3[1]))
    if abs(n2[2] * n3[2]) < _FLAT**2:
        return None
    squared = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2])
    if squared <= 0:
        return None
    shrink = np.array([1 / squared, 1 / squared, 1.0])
    return float(math.sqrt((n2 * n2 * shrink).sum() / (n3 * n3 * shrink).sum()))


def proportion_span(corners: Floats, size_px: tuple[float, float]) -> tuple[float, float]:
    """From where to where length over width may lie, corners being placed to within `_SHAKEN_PX`.

    Where perspective says nothing for some of the places that the corners may have, the lines from the middle of one
    side to that of the other do, to within `_MIDLINES`: they are shortened by any tilt.

    Args:
        corners: as for `seen_proportion`.
        size_px: as for `seen_proportion`.
    """
    c = np.asarray(corners, dtype=float)
    shakes = np.random.default_rng(1).uniform(-_SHAKEN_PX, _SHAKEN_PX, (_SHAKES, 4, 2))
    found = [seen_proportion(c + shake, size_px) for shake in shakes]
    sure = [value for value in found if value is not None]
    if len(sure) < len(found):
        a, b, d, e = c
        along = math.hypot(*((b + d) / 2 - (a + e) / 2))
        across = math.hypot(*((e + d) / 2 - (a + b) / 2))
        ratio = along / max(across, 1e-9)
        return ratio * (1 - _MIDLINES), ratio * (1 + _MIDLINES)
    return min(sure), max(sure)


_SHAKEN_PX = 2.0  # how well a hand or a search places a corner
_SHAKES = 80
_MIDLINES = 0.15  # a face that is tilted by 30 degrees looks shorter by so much
_FLAT = 0.004  # how far from parallel the sides may be and still say nothing of the tilt


def _triple(a: Floats, b: Floats, c: Floats) -> float:
    return float(np.cross(a, b) @ c)
