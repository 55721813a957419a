"""Does it run true? From four readings round a barrel: how far off, in which direction, how oval, and whose fault.

Angles are of the barrel as it is held, from a mark on its holding, the way it turns; lengths in mm. Vectors are plain
complex numbers: their size is the distance, their angle the direction. Geometry.
"""

from __future__ import annotations

import cmath
import math
from typing import Literal, NamedTuple

Readings = tuple[float, float, float, float]
Fault = Literal["none", "tailstock", "headstock", "holding", "left end", "right end", "hole", "askew", "both"]
CERTAIN_MM = 0.025  # a vector is sure beyond this with a dial of 0.01 mm that is read to ±0.01 mm
_ALIKE = 0.4  # of the larger: two ends that differ by less are off alike (a choice)
_MAIN = 2.5  # times as large as the other: that is whose fault it is (a choice)


class Runout(NamedTuple):
    """What four readings say.

    Attributes:
        off: how far the middle of the section lies from the axis, and where to, as a vector in mm.
        oval_mm: half of what the section is longer one way than the other, by what the first harmonic leaves over.
    """

    off: complex
    oval_mm: float

    @property
    def eccentricity_mm(self) -> float:
        """How far the middle lies from the axis."""
        return abs(self.off)

    @property
    def direction_deg(self) -> float:
        """Where the high side lies, 0 to 360 from the mark; 0 where nothing is off."""
        turn = math.degrees(cmath.phase(self.off)) % 360 if self.off else 0.0
        return 0.0 if turn >= 360 else turn


def runout(readings_mm: Readings) -> Runout:
    """Eccentricity and ovality from readings at 0, 90, 180 and 270 degrees: a dial's, or walls by calipers.

    >>> one = runout((0.239, -0.139, -0.208, 0.258))
    >>> round(one.eccentricity_mm, 3), round(one.direction_deg), round(one.oval_mm, 3)
    (0.299, 318, -0.022)
    """
    at_0, at_90, at_180, at_270 = readings_mm
    return Runout(complex(at_0 - at_180, at_90 - at_270) / 2, (at_0 - at_90 + at_180 - at_270) / 4)


def shares(first: complex, turned: complex) -> tuple[complex, complex]:
    """The holding's share and the barrel's, where the barrel was turned half round in its holding in between.

    What the holding does stays where it is, what the barrel does comes round: e1 = h + b, e2 = h − b.
    """
    return (first + turned) / 2, (first - turned) / 2


def fault_of(holding: tuple[complex, complex], barrel: tuple[complex, complex]) -> Fault:
    """Whose fault it is, by what both do at the left end and at the right one; the headstock is at the left."""
    most_holding, most_barrel = (max(abs(one) for one in both) for both in (holding, barrel))
    if max(most_holding, most_barrel) < CERTAIN_MM:
        return "none"
    if most_holding > _MAIN * most_barrel or most_barrel < CERTAIN_MM:
        return _one_end(holding, "headstock", "tailstock", "holding", "holding")
    if most_barrel > _MAIN * most_holding or most_holding < CERTAIN_MM:
        return _one_end(barrel, "left end", "right end", "hole", "askew")
    return "both"


def left_to_clean_mm(smallest_mm: float, finished_mm: float, eccentricity_mm: float) -> float:
    """What is left over when it is turned round to its size, on the radius; below 0 it does not clean up.

    >>> round(left_to_clean_mm(12.6, 12.2, 0.15), 3)
    0.05
    """
    return smallest_mm / 2 - finished_mm / 2 - eccentricity_mm


def spacers_mm(shaft_mm: float, stack_mm: float, sizes_mm: tuple[float, ...]) -> tuple[float, tuple[float, ...]]:
    """What spacers must fill on a mandrel, and those of the drawer that fill most of it, each taken once, the fewest.

    `stack_mm` is the length of barrels, bushings and nut together. The nut takes up what is left over.

    >>> spacers_mm(190, 149.3, (5, 10, 20))[1], spacers_mm(190, 165, (10, 15, 20))[1]
    ((20, 10, 5), (15, 10))
    """
    fill = shaft_mm - stack_mm
    filled: dict[float, tuple[float, ...]] = {0.0: ()}  # by what they fill together, to a tenth
    for size in sorted(sizes_mm, reverse=True):
        for length, chosen in tuple(filled.items()):
            longer = round(length + size, 1)
            if longer <= fill + 1e-9 and len(filled.get(longer, sizes_mm)) >= len(chosen) + 1:
                filled[longer] = (*chosen, size)
    return fill, filled[max(filled)]


def _one_end(off: tuple[complex, complex], left: Fault, right: Fault, alike: Fault, apart: Fault) -> Fault:
    """Which end something is off at; both alike, or both differently."""
    at_left, at_right = (abs(one) for one in off)
    larger = max(at_left, at_right)
    if abs(off[0] - off[1]) <= _ALIKE * larger:
        return alike
    if min(at_left, at_right) <= _ALIKE * larger:
        return left if at_left > at_right else right
    return apart
