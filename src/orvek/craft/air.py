"""The shop's air: when it makes things wet."""

from __future__ import annotations

import math

USUAL_HUMIDITY_PCT = 60.0  # of a shop's air, where nobody has said otherwise: a guess


def dew_point_c(air_c: float, humidity_pct: float = USUAL_HUMIDITY_PCT) -> float:
    """Temperature at which air of this humidity makes things wet (Magnus form, ISO-like constants 17.62 and 243.12 °C).

    >>> round(dew_point_c(20, 60), 1)
    12.0
    """
    g = math.log(humidity_pct / 100) + 17.62 * air_c / (243.12 + air_c)
    return 243.12 * g / (17.62 - g)
