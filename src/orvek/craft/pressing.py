"""Pressing a pen together: how a pen lies on a desk by its clip, and what a clip covers."""

from __future__ import annotations

import math


def up_from_clip_deg(radius_mm: float, clip_off_mm: float) -> float:
    """How far round from the clip the side lies that is up when the pen rests on barrel and clip.

    Both touch the desk: cos γ = r / (r + h) between the clip and the barrel's lowest line; up is 180° from that line.
    The pen may lie to either hand, so it is this far to the left or to the right of the clip. Geometry.

    Args:
        radius_mm: of the barrel under the clip.
        clip_off_mm: how far the clip's outside stands off the barrel.

    >>> round(up_from_clip_deg(6.3, 3.0))
    133
    """
    return 180 - math.degrees(math.acos(radius_mm / (radius_mm + clip_off_mm)))


def clip_covers_deg(width_mm: float, diameter_mm: float) -> float:
    """What a flat clip of a width hides of a barrel, seen from above: 2 asin(w / D). Geometry.

    >>> round(clip_covers_deg(4, 12.8), 1)
    36.4
    """
    return 2 * math.degrees(math.asin(min(1.0, width_mm / diameter_mm)))


def apart_deg(one_deg: float, other_deg: float) -> float:
    """The angle between two directions, 0 to 180.

    >>> apart_deg(350, 20), apart_deg(10, 190)
    (30.0, 180.0)
    """
    return abs((one_deg - other_deg + 180.0) % 360.0 - 180.0)
