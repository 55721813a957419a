"""Where an axis has its marks."""

from __future__ import annotations

import math


def round_steps(low: float, high: float) -> list[float]:
    """Two to five round values between two values."""
    step = 10.0 ** math.floor(math.log10(max(high - low, 1e-9)))
    step = next(one for one in (step / 5, step / 2, step, 2 * step) if (high - low) / one < 5)
    return [number * step for number in range(math.ceil(low / step), math.floor(high / step) + 1)]
