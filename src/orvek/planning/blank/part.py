"""The blank has no part of its own in the plan: what its steps do is read from the field when it is shown."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.findings import Caution
from orvek.planning.results import Plan


def progress(plan: Plan) -> tuple[bool, bool]:
    """Whether there is more than an empty casting; then it is complete too."""
    job = plan.job
    begun = len(job.blank.steps) > 1 or job.cast_index is None or bool(job.cast.cups)
    return begun, begun


def cautions(plan: Plan) -> Iterator[Caution]:
    """What the maker said of materials of their own."""
    for there in plan.job.blank.materials:
        if there.caution:
            yield Caution(f"blank.{there.key}", f"{there.name}: {there.caution}")
