"""Flaws that were put aside, offered when an hour is free that their repair fits into."""

from __future__ import annotations

from collections.abc import Iterable

from orvek.planning.results import Plan
from orvek.quantities import Dimension, write


def parked_lines(plans: Iterable[Plan], free_min: float) -> tuple[str, ...]:
    """What was put aside in these jobs and can be mended in so many minutes, what takes least first."""
    found = []
    for plan in plans:
        for one in plan.faults.found if plan.faults is not None else ():
            ways = [way for way in one.open_ways if way.hands_min.value <= free_min]
            if not one.fault.parked or one.chosen is not None or not ways:
                continue
            minutes = ways[0].hands_min.value
            takes = write(minutes, Dimension.DURATION, plan.units, 0)
            where = f"{plan.job.batch.name}, blank {one.fault.blank_no}, {one.barrel.name}"
            found.append((minutes, f"{where}: {one.fault.kind}, put aside. {ways[0].title}: about {takes}."))
    return tuple(words for _, words in sorted(found))
