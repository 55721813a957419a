"""The cure's part of the plan is a forecast, made in the background; what to be careful of is known at once."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.findings import Caution
from orvek.planning.results import Plan

WARMING = "cure.warming"


def cautions(plan: Plan) -> Iterator[Caution]:
    """What warming a casting asks for."""
    if plan.job.pour.resin is not None and plan.job.pour.conditions.warm_c is not None:
        words = (
            "Warm only what has gelled, never in a food oven; vent outdoors, smoke detector on, no solvents near. "
            "The resin's safety sheet and the oven's rating decide."
        )
        yield Caution(WARMING, words)
