"""How much glue the tubes of a batch take, in how many mixes while it stays open."""

from __future__ import annotations

import math
from typing import NamedTuple


class Mixes(NamedTuple):
    """The glue of all tubes: grams in one gap, grams of one mix, tubes to a mix, mixes."""

    each_g: float
    mix_g: float
    tubes: int
    times: int


def mixes(
    each_g: float, tubes: int, open_min: float, a_tube_min: float, waste: float = 0.6, least_g: float = 1.0
) -> Mixes:
    """As many tubes to a mix as go in while it stays open; what sticks to cup and stick is wasted, less is not mixed.

    Source: workshop practice for waste and the least.

    >>> mixes(0.1, 10, 5, 1.0)
    Mixes(each_g=0.1, mix_g=1.0, tubes=5, times=2)
    """
    to_a_mix = max(1, min(tubes, int(open_min / a_tube_min)))
    return Mixes(each_g, max(least_g, each_g * to_a_mix * (1 + waste)), to_a_mix, math.ceil(tubes / to_a_mix))
