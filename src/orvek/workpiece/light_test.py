"""What a light in the bored hole says of a colour: how many times as strong it is as was calculated.

A lamp in the hole shows a little light through a wall that passes about one part in a hundred; two in a thousand are
not seen, one in twenty is much. These three are estimates: the eye and the room differ. A colour whose chip was
measured is moved less by it than one that was guessed.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Literal

from msgspec import Struct

from orvek.documents import Cup
from orvek.workpiece.optics import light_of, transmittance, wall_of

Seen = Literal["none", "a little", "much"]
PASSES: dict[Seen, float] = {"none": 0.002, "a little": 0.01, "much": 0.05}
_MOST_LN = math.log(8)  # no test makes a colour stronger or weaker than eightfold
_GUESSED_LN, _CHIP_LN, _READING_LN = 0.8, 0.15, 0.5  # standard deviations of ln(strength): of a guess, a chip, a look


class LightTest(Struct, frozen=True):
    """What was seen of a colour through a bored wall of so many mm."""

    wall_mm: float
    seen: Seen


def strength(cup: Cup, tests: Iterable[LightTest]) -> float:
    """How many times as strong the colour is as calculated, by all tests together; 1 without any, or without pigment.

    Each look that contradicts the calculation moves it part of the way, by what each of the two is worth. "None" says
    only that it is no weaker, "much" that it is no stronger.
    """
    if not cup.pigments:
        return 1.0
    measured = all(light_of(dose.pigment)[2] for dose in cup.pigments)
    prior = (_CHIP_LN if measured else _GUESSED_LN) ** 2
    moved, weight = 0.0, 1 / prior
    for test in tests:
        wanted = math.log(_needed(cup, test))
        if (test.seen == "none" and wanted <= 0) or (test.seen == "much" and wanted >= 0):
            continue
        moved += wanted / _READING_LN**2
        weight += 1 / _READING_LN**2
    return math.exp(moved / weight)


def _needed(cup: Cup, test: LightTest) -> float:
    """The strength at which the wall passes as much light as was seen, by halving."""
    absorbed, scattered = wall_of(cup, max(test.wall_mm, 0.1))
    low, high = -_MOST_LN, _MOST_LN
    for _ in range(40):
        middle = (low + high) / 2
        times = math.exp(middle)
        if transmittance(absorbed * times, scattered * times) > PASSES[test.seen]:
            low = middle
        else:
            high = middle
    return math.exp((low + high) / 2)
