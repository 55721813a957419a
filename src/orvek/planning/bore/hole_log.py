"""What is written down of a hole that was bored."""

from __future__ import annotations

import math

from orvek.documents import BoredHole
from orvek.errors import NothingToDoError
from orvek.planning.results import Plan


def log_entry(plan: Plan, number: int) -> BoredHole:
    """A hole as the shop's log takes it: how far off it came out where the bit left the bar.

    Raises:
        NothingToDoError: it was not measured; a hole that nobody measured must not teach that it was straight.
    """
    bore = plan.bore
    hole = bore.holes[number] if bore else None
    if bore is None or hole is None or hole.hole.offsets_mm is None:
        raise NothingToDoError("Adding a hole to the log", "how far off it lies at both ends")
    at_exit = hole.hole.offsets_mm[1 if hole.from_left else 0]
    return BoredHole(
        name=f"{plan.job.batch.name[:60]}, {hole.name[:16]}",
        bit_mm=hole.barrel.bit_diameter_mm,
        depth_mm=hole.depth_mm.value,
        off_mm=round(math.hypot(*at_exit), 2),
        stuff=bore.stuff.key,
    )
