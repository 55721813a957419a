"""The blank's size and what is turned from it, for whoever draws or measures the field."""

from __future__ import annotations

import math
from itertools import pairwise

from orvek.craft.laying_out import Span, blank_length_mm, gaps, packed_starts_mm
from orvek.craft.moulding import BarSection
from orvek.documents import Barrel, Blank, Job, Pen, RoundStep, SquareStep
from orvek.planning.bars import blank_mm
from orvek.planning.results import BarsPlan, Layout, Plan, TubePlace
from orvek.workpiece.lengths import lengths_mm
from orvek.workpiece.outline import TurnedBarrel

USUAL_BAR_MM = (20.0, 20.0, 130.0)  # what is shown until a pen or a mould says better: workshop practice


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


def widest_radius_mm(job: Job) -> float:
    """Half the widest finished diameter; a usual one while there is no pen."""
    barrels = job.pen.barrels if job.pen else ()
    return max((max(b.finished_left_mm, b.finished_right_mm) for b in barrels), default=12.0) / 2


def laid_out(job: Job, bars: BarsPlan) -> Layout | None:
    """The blank of a job with its tubes on it; None without a pen."""
    if job.pen is None:
        return None
    start = blank_mm(bars, job.blank.saw_kerf_mm)
    finished = None if start is None else lengths_mm(job.blank.steps, start)[-1]
    return layout(job.pen, job.blank, bars.section, finished)


def layout(pen: Pen, blank: Blank, section: BarSection | None, blank_mm: float | None) -> Layout:
    """Lay the tubes on the blank: where the maker put them, else packed in its middle.

    Without a mould the blank is as long as the pen needs.
    """
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    length = blank_mm or blank_length_mm(tubes, blank.saw_kerf_mm, blank.end_waste_mm)
    by_hand = len(blank.tube_starts_mm) == len(tubes)
    starts = blank.tube_starts_mm if by_hand else packed_starts_mm(tubes, blank.saw_kerf_mm, length)
    places = tuple(_place(barrel, start) for barrel, start in zip(pen.barrels, starts, strict=True))
    kerfs = _kerfs(places, blank.saw_kerf_mm, length)
    taken = (*(place.piece for place in places), *kerfs)
    widest = max(max(b.finished_left_mm, b.finished_right_mm) for b in pen.barrels)
    width, depth, is_round = _section(blank, section, widest + 4)
    return Layout(
        length_mm=length,
        width_mm=width,
        depth_mm=depth,
        is_round=is_round,
        tubes=places,
        kerfs=kerfs,
        waste=gaps(taken, length),
        ends=(Span(0, blank.end_waste_mm), Span(length - blank.end_waste_mm, length)),
        is_from_mould=section is not None,
        placed_by_hand=by_hand,
    )


def _section(blank: Blank, section: BarSection | None, without_mould_mm: float) -> tuple[float, float, bool]:
    """Width, depth and roundness of the bar after the steps that round or square it down."""
    width = section.width_mm if section else without_mould_mm
    depth = section.depth_mm if section else without_mould_mm
    is_round = bool(section and section.is_round)
    for step in blank.steps:
        if isinstance(step, RoundStep):
            across = min(width, depth, step.diameter_mm)
            width, depth, is_round = across, across, True
        elif isinstance(step, SquareStep):
            # A square from a round is at most as wide as its half diagonal allows.
            most = min(width, depth) / math.sqrt(2) if is_round else min(width, depth)
            across = min(most, step.side_mm)
            width, depth, is_round = across, across, False
    return width, depth, is_round


def _place(barrel: Barrel, start_mm: float) -> TubePlace:
    end_mm = start_mm + barrel.tube_length_mm
    return TubePlace(
        name=barrel.name,
        tube=Span(start_mm, end_mm),
        piece=Span(start_mm - barrel.trim_mm, end_mm + barrel.trim_mm),
        tube_diameter_mm=barrel.tube_diameter_mm,
        finished_left_mm=barrel.finished_left_mm,
        finished_right_mm=barrel.finished_right_mm,
    )


def _kerfs(places: tuple[TubePlace, ...], kerf_mm: float, bar_mm: float) -> tuple[Span, ...]:
    """The saw's cuts: one at each outer edge; between two pieces one cut, or two where waste lies between."""
    if kerf_mm <= 0:
        return ()
    ordered = sorted((place.piece for place in places), key=lambda piece: piece.start_mm)
    cuts = [Span(ordered[0].start_mm - kerf_mm, ordered[0].start_mm)]
    for left, right in pairwise(ordered):
        cuts.append(Span(left.end_mm, left.end_mm + kerf_mm))
        if right.start_mm - left.end_mm > kerf_mm + 1e-6:
            cuts.append(Span(right.start_mm - kerf_mm, right.start_mm))
    cuts.append(Span(ordered[-1].end_mm, ordered[-1].end_mm + kerf_mm))
    inside = (Span(max(0, cut.start_mm), min(bar_mm, cut.end_mm)) for cut in cuts)
    return tuple(cut for cut in inside if cut.length_mm > 1e-6)
