"""The edge of a slab on its photo, told from the bench that it lies on: `edge_of`."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Corners
from orvek.documents.deeds.photos import square_onto
from orvek.workpiece.photo import flat_picture

Pixels = NDArray[np.uint8]
_AROUND = 0.12  # how much of the bench beside the four corners is looked at, of the slab's length and width
_MOST_PX = 640
_ROUNDS = 4
_LEAST, _WHOLE = 0.25, 0.985  # a slab that fills less of its corners was not found; one that fills more is straight
_FINE_PX = 1.2  # what the edge's corners may leave out of it
_CORE = 0.25  # the middle of the slab is taken for slab


def edge_of(picture: Pixels, corners: Corners, size_mm: tuple[float, float]) -> tuple[tuple[float, float], ...] | None:
    """The slab's edge between the four corners of its photo, from its upper left corner in mm.

    The picture is parted into slab and bench by graph cuts over their colours (Rother, Kolmogorov and Blake 2004, as
    OpenCV has it), begun from what lies outside the four corners. An empty outline: the slab fills them. None: the
    two cannot be told apart.
    """
    import cv2

    across = 1 + 2 * _AROUND
    at = square_onto(corners)
    low, high = -_AROUND, 1 + _AROUND
    a, b, c, d = at(low, low), at(high, low), at(high, high), at(low, high)
    wide_mm, tall_mm = size_mm[0] * across, size_mm[1] * across
    per_mm = _MOST_PX / max(wide_mm, tall_mm)
    flat = flat_picture(picture, (a, b, c, d), (wide_mm, tall_mm), per_mm)
    slab = _parted(flat)
    if slab is None:
        return None
    rings, _ = cv2.findContours(slab, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    ring = max(rings, key=cv2.contourArea)
    share = cv2.contourArea(ring) / (size_mm[0] * size_mm[1] * per_mm**2)
    if share < _LEAST:
        return None
    if share > _WHOLE:
        return ()
    points = cv2.approxPolyDP(ring, _FINE_PX, True)[:, 0, :].astype(float) + 0.5
    places = points / per_mm - _AROUND * np.array(size_mm)
    places = np.clip(places, (0, 0), size_mm).round(1)
    return tuple((float(x), float(y)) for x, y in places)


def _parted(flat: Pixels) -> Pixels | None:
    """Where the slab lies, as 1; None where nothing is left of it."""
    import cv2

    tall, wide = flat.shape[:2]
    edge = _AROUND / (1 + 2 * _AROUND)
    rows, columns = round(edge * tall), round(edge * wide)
    mask = np.full((tall, wide), cv2.GC_BGD, np.uint8)
    mask[rows : tall - rows, columns : wide - columns] = cv2.GC_PR_FGD
    core_y, core_x = round((0.5 - _CORE / 2) * tall), round((0.5 - _CORE / 2) * wide)
    mask[core_y : tall - core_y, core_x : wide - core_x] = cv2.GC_FGD
    soft = cv2.bilateralFilter(cv2.cvtColor(flat, cv2.COLOR_RGB2LAB), 7, 24, 5)
    cv2.setRNGSeed(1)
    cv2.grabCut(soft, mask, (0, 0, 0, 0), np.zeros((1, 65)), np.zeros((1, 65)), _ROUNDS, cv2.GC_INIT_WITH_MASK)
    slab = ((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(np.uint8)
    round_dot = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    slab = cv2.morphologyEx(cv2.morphologyEx(slab, cv2.MORPH_CLOSE, round_dot), cv2.MORPH_OPEN, round_dot)
    return np.asarray(slab, np.uint8) if slab.any() else None
