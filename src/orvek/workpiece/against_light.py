"""Where a bar lets light through: bright places on a photo that was taken against the light."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
MOST = 12
_BRIGHTER, _LEAST_MM = 2.2, 0.6  # over the bar's own middle brightness, and how wide a place at least is (choices)


def bright_places(flat: Pixels, length_mm: float) -> tuple[tuple[float, float, float], ...]:
    """Bright places on a face laid flat: mm from the left end, mm below the middle, size in mm; the largest first.

    A place is bright that is far above what the face usually has; a rim along its edges is the light beside the bar.
    """
    import cv2

    per_mm = flat.shape[1] / length_mm
    light = cv2.GaussianBlur(flat.astype(np.float32).mean(axis=2), (0, 0), max(0.5, 0.2 * per_mm))
    usual, spread = float(np.median(light)), float(np.percentile(light, 75) - np.percentile(light, 25))
    mask = (light > max(usual * _BRIGHTER, usual + 4 * spread + 25)).astype(np.uint8)
    rim = max(1, round(0.8 * per_mm))
    mask[:rim], mask[-rim:], mask[:, :rim], mask[:, -rim:] = 0, 0, 0, 0
    count, _, stats, centres = cv2.connectedComponentsWithStats(mask)
    found = []
    for n in range(1, count):
        size = max(stats[n, cv2.CC_STAT_WIDTH], stats[n, cv2.CC_STAT_HEIGHT]) / per_mm
        if size >= _LEAST_MM:
            x, y = centres[n]
            found.append(((float(x) + 0.5) / per_mm, (float(y) + 0.5 - flat.shape[0] / 2) / per_mm, float(size)))
    found.sort(key=lambda place: -place[2])
    return tuple(found[:MOST])
