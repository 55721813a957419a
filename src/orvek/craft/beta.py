"""The beta distribution's quantiles, without a library that takes half a second to load where a window begins.

`quantile(a, b, share)`; the tests hold it against SciPy's.
"""

from __future__ import annotations

import math
from functools import lru_cache

_TINY, _CLOSE, _MOST_STEPS = 1e-300, 1e-14, 400


def below(a: float, b: float, x: float) -> float:
    """The share of a beta distribution that lies below x, both parameters above 0.

    Source: continued fraction of the regularised incomplete beta function, evaluated from the front (Lentz).

    >>> round(below(1, 1, 0.3), 12), round(below(2, 2, 0.5), 12)
    (0.3, 0.5)
    """
    if x <= 0 or x >= 1:
        return 0.0 if x <= 0 else 1.0
    if x > (a + 1) / (a + b + 2):
        return 1.0 - below(b, a, 1 - x)  # the fraction converges fast on the other side
    log_front = math.lgamma(a + b) - math.lgamma(a) - math.lgamma(b) + a * math.log(x) + b * math.log1p(-x)
    return math.exp(log_front) * _fraction(a, b, x) / a


@lru_cache(maxsize=512)
def quantile(a: float, b: float, share: float) -> float:
    """Below which value so large a share of a beta distribution lies: by halving, to 50 binary digits of the share.

    >>> round(quantile(1, 3, 0.5), 6)
    0.206299
    """
    low, high = 0.0, 1.0
    for _ in range(80):
        # A quantile may be tiny: then it is looked for by its magnitude.
        middle = (low + high) / 2 if low > 1e-6 or high > 1e-3 else math.sqrt(max(low, 1e-18) * high)
        if below(a, b, middle) < share:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _fraction(a: float, b: float, x: float) -> float:
    """The continued fraction beside the front factor."""
    c, d = 1.0, 1.0 / _not_zero(1 - (a + b) * x / (a + 1))
    found = d
    for m in range(1, _MOST_STEPS):
        even = m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m))
        odd = -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))
        for term in (even, odd):
            d = 1.0 / _not_zero(1 + term * d)
            c = _not_zero(1 + term / c)
            found *= c * d
        if abs(c * d - 1) < _CLOSE:
            break
    return found


def _not_zero(value: float) -> float:
    return value if abs(value) > _TINY else _TINY
