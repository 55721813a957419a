"""Whether one lot is scrapped more often than the others by more than luck, and how many more would tell."""

from __future__ import annotations

import math

RARE = 0.05  # a chance below that is no luck (convention)
_MOST = 500


def worse_by_luck(scrapped: int, good: int, others_scrapped: int, others_good: int) -> float:
    """The chance that so many or more of a lot are scrapped though it is as good as the others. Fisher's exact test.

    One-sided, with the margins as they are: the hypergeometric distribution's upper tail.

    >>> round(worse_by_luck(4, 1, 2, 13), 4), worse_by_luck(0, 5, 2, 10)
    (0.0139, 1.0)
    """
    own, lost = scrapped + good, scrapped + others_scrapped
    every = own + others_scrapped + others_good
    ways = math.comb(every, own)
    more = range(scrapped, min(own, lost) + 1)
    return min(1.0, sum(math.comb(lost, k) * math.comb(every - lost, own - k) for k in more) / ways)


def more_to_know(scrapped: int, good: int, others_scrapped: int, others_good: int) -> int | None:
    """How many more blanks of a lot, scrapped as often as until now, make it more than luck; 0: it is already.

    None where it is not scrapped more often than the others, or where five hundred would not do.

    >>> more_to_know(2, 2, 2, 12), more_to_know(4, 1, 2, 13), more_to_know(0, 5, 2, 10)
    (7, 0, None)
    """
    own, others = scrapped + good, others_scrapped + others_good
    if not own or not others or scrapped * others <= others_scrapped * own:
        return None
    for more in range(_MOST + 1):
        lost = round(scrapped / own * (own + more))
        if worse_by_luck(lost, own + more - lost, others_scrapped, others_good) < RARE:
            return more
    return None
