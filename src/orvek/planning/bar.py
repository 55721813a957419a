"""The blank's size and what is turned from it, for whoever draws or measures the field."""

from __future__ import annotations

import math
from collections.abc import Sequence

from orvek.documents import CutStep, Job, RipStep, RoundStep, SquareStep, Step
from orvek.planning.layout import Layout
from orvek.planning.results import Plan
from orvek.workpiece.lengths import sheet_mm
from orvek.workpiece.outline import TurnedBarrel, barrel_at

_ASLANT = 0.01  # of a plane that is seen from a face but for rounding
SAWN = "length"  # the operation by which a bar of the shelf is no more
USUAL_BAR_MM = (20.0, 20.0, 130.0)  # what is shown until a pen or a mould says better: workshop practice


def bar_size(layout: Layout | None) -> tuple[float, float, float, bool]:
    """Width, depth and length of the blank in mm and whether it is round; a usual bar while there is no pen."""
    if layout is None:
        return (*USUAL_BAR_MM, False)
    return layout.width_mm, layout.depth_mm, layout.length_mm, layout.is_round


def raw_size_mm(layout: Layout | None) -> tuple[float, float, float]:
    """Length, width and depth of the bar before any step takes something off it; a usual bar while there is no pen."""
    if layout is None:
        width, depth, length = USUAL_BAR_MM
        return length, width, depth
    return layout.length_mm, layout.raw[0], layout.raw[1]


def barrels_of(plan: Plan) -> tuple[TurnedBarrel, ...]:
    """The barrels as they lie on the bar; one plain barrel while there is no pen."""
    if plan.layout is None or plan.job.pen is None:
        width, depth, length, _ = bar_size(None)
        across = min(width, depth) * 0.6
        return (TurnedBarrel(length * 0.1, length * 0.9, across, across, across / 2),)
    return laid_barrels(plan.job, plan.layout)


def laid_barrels(job: Job, layout: Layout) -> tuple[TurnedBarrel, ...]:
    """The barrels of a job as a layout has them; none without a pen."""
    turns = (*job.blank.tube_turns_deg, *([0.0] * len(layout.tubes)))
    return tuple(
        barrel_at(place.barrel, place.tube.start_mm, turn) for place, turn in zip(layout.tubes, turns, strict=False)
    )


def clip_mm(plan: Plan) -> tuple[float, float]:
    """From where to where the clip lies on the bar."""
    last = barrels_of(plan)[-1]
    if not plan.job.laid:
        return last.end_mm - min(plan.job.finish.clip_long_mm, last.end_mm - last.start_mm), last.end_mm
    first, end = clip_from_to_mm(plan.job)
    return last.start_mm + first, last.start_mm + end


def clip_from_to_mm(job: Job) -> tuple[float, float]:
    """Where the clip lies on the last barrel of a pen, from its left end: at its right one, or at its left one where
    the barrel lies end for end.
    """
    last = job.laid[-1]
    long = min(job.finish.clip_long_mm, last.tube_length_mm)
    if job.blank.is_flipped(len(job.laid) - 1):
        return 0.0, long
    return last.tube_length_mm - long, last.tube_length_mm


def widest_radius_mm(job: Job) -> float:
    """Half the widest finished diameter; a usual one while there is no pen."""
    barrels = job.pen.barrels if job.pen else ()
    return max((barrel.widest_mm for barrel in barrels), default=12.0) / 2


def section_at(plan: Plan, step: int) -> tuple[float, float, bool]:
    """Width, depth and roundness of the bar as it is when a step begins."""
    if plan.layout is None:
        width, depth, _, is_round = bar_size(None)
        return width, depth, is_round
    return narrowed(plan.job.blank.steps[:step], plan.layout.raw)


def narrowed(steps: Sequence[Step], section: tuple[float, float, bool]) -> tuple[float, float, bool]:
    """Width, depth and roundness of the bar after the steps that take something off it across."""
    for step in steps:
        section = narrowed_by(step, section)
    return section


def narrowed_by(step: Step, section: tuple[float, float, bool]) -> tuple[float, float, bool]:
    """Width, depth and roundness of a bar after one step."""
    width, depth, is_round = section
    if isinstance(step, RoundStep):
        across = min(width, depth, step.diameter_mm)
        return across, across, True
    if isinstance(step, RipStep):
        # The saw takes its kerf out of the middle; the halves are glued together again.
        return (*_narrowed(width, depth, step.azimuth_deg, step.kerf_mm), is_round)
    if isinstance(step, CutStep) and step.register_by == "normal" and step.tab_mm == 0:
        # Halves that slide along the cut's normal no longer lie flush.
        off = abs(sheet_mm(step) - step.kerf_mm) * math.cos(math.radians(step.angle_deg))
        return (*_narrowed(width, depth, step.azimuth_deg, off), is_round)
    if isinstance(step, SquareStep):
        # A square from a round is at most as wide as its half diagonal allows.
        most = min(width, depth) / math.sqrt(2) if is_round else min(width, depth)
        across = min(most, step.side_mm)
        return across, across, False
    return section


def _narrowed(width_mm: float, depth_mm: float, azimuth_deg: float, by_mm: float) -> tuple[float, float]:
    """A bar that has lost so much across, seen from an azimuth; off its faces the loss counts for both sides."""
    c, s = abs(math.cos(math.radians(azimuth_deg))), abs(math.sin(math.radians(azimuth_deg)))
    lost = (by_mm if c > _ASLANT else 0.0, by_mm if s > _ASLANT else 0.0)
    return max(1.0, width_mm - lost[0]), max(1.0, depth_mm - lost[1])
