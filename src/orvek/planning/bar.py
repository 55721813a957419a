"""The blank's size and what is turned from it, for whoever draws or measures the field."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from orvek.craft.laying_out import Span, blank_length_mm, gaps, packed_starts_mm
from orvek.craft.moulding import BarSection
from orvek.documents import Barrel, Blank, CutStep, Job, Pen, RipStep, RoundStep, SquareStep, Step
from orvek.planning.bars import blank_mm, end_loss_mm, is_sawn_first
from orvek.planning.results import BarsPlan, Layout, Plan, TubePlace
from orvek.workpiece.lengths import lengths_mm, sheet_mm
from orvek.workpiece.outline import TurnedBarrel

_SLIVER_MM = (
    4.0  # less than this and the kerf is squared off with the trim, never sawn: it would fly (workshop practice)
)
_ASLANT = 0.01  # of a plane that is seen from a face but for rounding
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
            barrel.profile[1:-1],
        )
        for place, barrel, turn in zip(layout.tubes, barrels, turns, strict=True)
    )


def widest_radius_mm(job: Job) -> float:
    """Half the widest finished diameter; a usual one while there is no pen."""
    barrels = job.pen.barrels if job.pen else ()
    return max((barrel.widest_mm for barrel in barrels), default=12.0) / 2


def laid_out(job: Job, bars: BarsPlan) -> Layout | None:
    """The blank of a job with its tubes on it; None without a pen."""
    if job.pen is None:
        return None
    alone = is_sawn_first(job)
    start = blank_mm(bars, job.blank.saw_kerf_mm) if alone or bars.section is None else bars.section.length_mm
    finished = None if start is None else lengths_mm(job.blank.steps, start)[-1]
    return layout(job.pen, job.blank, bars.section, finished, 1 if alone else bars.blanks_per_bar)


def layout(
    pen: Pen, blank: Blank, section: BarSection | None, length_mm: float | None, blanks_in_it: int = 1
) -> Layout:
    """Lay the tubes on the bar: where the maker put them, else packed in its middle, further blanks beside them.

    Without a mould or a bar in hand the bar is as long as the pen needs.
    """
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    lost = end_loss_mm(section, blank)
    needed = blank_length_mm(tubes, blank.saw_kerf_mm, lost)
    # Barrels that must come from several bars are drawn on one that would hold them all.
    length = max(length_mm, needed) if length_mm and blank.bars else length_mm or needed
    by_hand = len(blank.tube_starts_mm) == len(tubes)
    packed = packed_starts_mm(tubes * blanks_in_it, blank.saw_kerf_mm, length)
    starts = blank.tube_starts_mm if by_hand else packed[: len(tubes)]
    places = tuple(_place(barrel, start) for barrel, start in zip(pen.barrels, starts, strict=True))
    pieces = [tube + 2 * trim for tube, trim in tubes] * (blanks_in_it - 1)
    others = _beside(places, pieces, (lost, length - lost), blank.saw_kerf_mm) if pieces else ()
    spans = (*(place.piece for place in places), *others)
    kerfs = _kerfs(spans, blank.saw_kerf_mm, length, lost)
    widest = max(barrel.widest_mm for barrel in pen.barrels)
    raw = _raw(section, widest + 4)
    width, depth, is_round = narrowed(blank.steps, raw)
    return Layout(
        length_mm=length,
        width_mm=width,
        depth_mm=depth,
        is_round=is_round,
        tubes=places,
        kerfs=kerfs,
        waste=gaps((*spans, *kerfs), length),
        ends=(Span(0, lost), Span(length - lost, length)),
        is_from_mould=section is not None,
        placed_by_hand=by_hand,
        others=others,
        wanted_others=len(pieces),
        raw=raw,
    )


def window_mm(layout: Layout, index: int, kerf_mm: float) -> Span:
    """From where to where a tube can begin without its piece meeting another or a lost end."""
    place = layout.tubes[index]
    low, high = layout.ends[0].end_mm, layout.ends[1].start_mm
    around = [other.piece for n, other in enumerate(layout.tubes) if n != index]
    for piece in (*around, *layout.others):
        if piece.end_mm <= place.piece.start_mm + 1e-6:
            low = max(low, piece.end_mm + kerf_mm)
        elif piece.start_mm >= place.piece.end_mm - 1e-6:
            high = min(high, piece.start_mm - kerf_mm)
    trim = place.tube.start_mm - place.piece.start_mm
    return Span(min(low + trim, place.tube.start_mm), max(high - trim - place.tube.length_mm, place.tube.start_mm))


def _beside(
    places: tuple[TubePlace, ...], pieces: list[float], sound_mm: tuple[float, float], kerf_mm: float
) -> tuple[Span, ...]:
    """Further pieces in what is free beside the tubes, from left to right, the first that fits; a kerf between all."""
    free: list[list[float]] = []
    left = sound_mm[0] if sound_mm[0] > 0 else -kerf_mm  # a clean end needs no cut
    for piece in sorted((place.piece for place in places), key=lambda span: span.start_mm):
        free.append([left + kerf_mm, piece.start_mm - kerf_mm])
        left = piece.end_mm
    free.append([left + kerf_mm, sound_mm[1] - (kerf_mm if sound_mm[0] > 0 else 0.0)])
    found = []
    for piece_mm in pieces:
        room = next((span for span in free if span[1] - span[0] >= piece_mm - 1e-6), None)
        if room is not None:
            found.append(Span(room[0], room[0] + piece_mm))
            room[0] += piece_mm + kerf_mm
    return tuple(found)


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


def _raw(section: BarSection | None, without_mould_mm: float) -> tuple[float, float, bool]:
    if section is None:
        return without_mould_mm, without_mould_mm, False
    return section.width_mm, section.depth_mm, section.is_round


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


def _place(barrel: Barrel, start_mm: float) -> TubePlace:
    end_mm = start_mm + barrel.tube_length_mm
    return TubePlace(
        name=barrel.name,
        tube=Span(start_mm, end_mm),
        piece=Span(start_mm - barrel.trim_mm, end_mm + barrel.trim_mm),
        tube_diameter_mm=barrel.tube_diameter_mm,
        finished_left_mm=barrel.finished_left_mm,
        finished_right_mm=barrel.finished_right_mm,
        profile=barrel.profile,
    )


def _kerfs(pieces: tuple[Span, ...], kerf_mm: float, bar_mm: float, lost_mm: float) -> tuple[Span, ...]:
    """The saw's cuts: between two pieces one, or two where waste lies between; one at each outer edge.

    None there where the end is sound and only a sliver lies beyond the piece.
    """
    if kerf_mm <= 0:
        return ()
    ordered = sorted(pieces, key=lambda piece: piece.start_mm)
    worth = 0.0 if lost_mm > 0 else kerf_mm + _SLIVER_MM
    cuts = [Span(ordered[0].start_mm - kerf_mm, ordered[0].start_mm)] if ordered[0].start_mm > worth else []
    for left, right in pairwise(ordered):
        cuts.append(Span(left.end_mm, left.end_mm + kerf_mm))
        if right.start_mm - left.end_mm > kerf_mm + 1e-6:
            cuts.append(Span(right.start_mm - kerf_mm, right.start_mm))
    if bar_mm - ordered[-1].end_mm > worth:
        cuts.append(Span(ordered[-1].end_mm, ordered[-1].end_mm + kerf_mm))
    inside = (Span(max(0, cut.start_mm), min(bar_mm, cut.end_mm)) for cut in cuts)
    return tuple(cut for cut in inside if cut.length_mm > 1e-6)
