"""What the shop's own observations do to a guess: they move it towards themselves and make it surer."""

from __future__ import annotations

import math
from collections.abc import Iterable

GUESS_WORTH = 2.0  # observations that a guess counts as beside the maker's own (a choice)


def times_the_guess(seen: Iterable[tuple[float, float]], guess_worth: float = GUESS_WORTH) -> float:
    """How many times as much as calculated to expect, from (seen, calculated), both above 0.

    The mean of the ratios' logarithms, the guess among them as so many ratios of 1; 1 without any. Textbook, shrinkage
    towards a prior.

    >>> times_the_guess([(4.0, 1.0), (4.0, 1.0)])
    2.0
    """
    ratios = [math.log(found / told) for found, told in seen]
    return math.exp(sum(ratios) / (guess_worth + len(ratios))) if ratios else 1.0


def narrowed(observations: int) -> float:
    """What is left of a guess's spread after so many observations: √((g + 1) / (g + n + 1)), 1 without any."""
    return math.sqrt((GUESS_WORTH + 1) / (GUESS_WORTH + observations + 1))
