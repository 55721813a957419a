"""How far off the axis the hole may lie in this shop: what every judgement about the finished barrel reckons with."""

from __future__ import annotations

import math

from orvek.documents import Accuracy

SURE = 2.0  # standard deviations that are reckoned with: nineteen times in twenty


def drift_mm(accuracy: Accuracy) -> float:
    """How far the hole may lie off the bar's axis: centring and the bit's wander together, nineteen times in twenty."""
    return SURE * math.hypot(accuracy.centring_mm, accuracy.boring_mm)
