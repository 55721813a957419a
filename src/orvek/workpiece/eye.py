"""Colours as the eye has them: CIE L*a*b*, how far two are apart, and what a maker would call one."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

_GREY, _WOODY = 9.0, 45.0  # chroma below which a colour is grey, and an orange or yellow is a brown (choices)
_HUES = (
    (20.0, "pink"),
    (45.0, "red"),
    (70.0, "orange"),
    (105.0, "yellow"),
    (170.0, "green"),
    (220.0, "turquoise"),
    (295.0, "blue"),
    (330.0, "violet"),
    (361.0, "pink"),
)
_XYZ = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
_D65 = _XYZ.sum(axis=1)


def lab(rgb: NDArray[np.float64]) -> NDArray[np.float64]:
    """A colour, 0 to 255 sRGB, as CIE L*a*b* under D65. Source: IEC 61966-2-1 and CIE 15.

    >>> np.round(lab(np.array([255.0, 255.0, 255.0])), 1).tolist()
    [100.0, 0.0, 0.0]
    """
    part = np.asarray(rgb, dtype=float) / 255
    linear = np.where(part <= 0.04045, part / 12.92, ((part + 0.055) / 1.055) ** 2.4)
    xyz = linear @ _XYZ.T / _D65
    f = np.where(xyz > (6 / 29) ** 3, np.cbrt(xyz), xyz / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1) + 0.0


def colour_name(there: NDArray[np.float64]) -> str:
    """What a maker would call a colour of L*a*b*: light, mid or dark, and its hue."""
    light, a, b = (float(part) for part in there)
    chroma, hue = math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360
    if chroma < _GREY:
        return "black" if light < 20 else "dark grey" if light < 45 else "grey" if light < 75 else "white"
    shade = "dark " if light < 35 else "light " if light > 70 else ""
    if chroma < _WOODY and 20 <= hue < 100:
        return ("dark " if light < 35 else "light " if light > 65 else "") + "brown"
    return shade + next(name for most, name in _HUES if hue < most)
