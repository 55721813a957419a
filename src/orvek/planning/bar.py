"""The blank's size and what is turned from it, for whoever draws or measures the field."""

from __future__ import annotations

from orvek.documents import Job
from orvek.planning.results import Layout, Plan
from orvek.workpiece.outline import TurnedBarrel

USUAL_BAR_MM = (20.0, 20.0, 130.0)


def bar_size(layout: Layout | None) -> tuple[float, float, float, bool]:
    """Width, depth and length of the blank in mm and whether it is round; a usual bar while there is no pen."""
    if layout is None:
        return (*USUAL_BAR_MM, False)
    return layout.width_mm, layout.depth_mm, layout.length_mm, layout.is_round


def barrels_of(plan: Plan) -> tuple[TurnedBarrel, ...]:
    """The barrels as they lie on the bar; one plain barrel while there is no pen."""
    if plan.layout is None or plan.job.pen is None:
        width, depth, length, _ = bar_size(None)
        across = min(width, depth) * 0.6
        return (TurnedBarrel(length * 0.1, length * 0.9, across, across, across / 2),)
    return laid_barrels(plan.job, plan.layout)


def laid_barrels(job: Job, layout: Layout) -> tuple[TurnedBarrel, ...]:
    """The barrels of a job as a layout has them; none without a pen."""
    barrels = job.pen.barrels if job.pen else ()
    turns = (*job.blank.tube_turns_deg, *([0.0] * len(barrels)))[: len(barrels)]
    return tuple(
        TurnedBarrel(
            place.tube.start_mm,
            place.tube.end_mm,
            place.finished_left_mm,
            place.finished_right_mm,
            barrel.bit_diameter_mm,
            turn,
        )
        for place, barrel, turn in zip(layout.tubes, barrels, turns, strict=True)
    )
