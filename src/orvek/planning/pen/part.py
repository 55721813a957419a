"""From the pen: pieces, bits, walls, the length needed, and where the tubes lie on the bar."""

from __future__ import annotations

import math
from itertools import pairwise

from orvek.craft.laying_out import Span, blank_length_mm, gaps, packed_starts_mm
from orvek.craft.moulding import BarSection
from orvek.craft.turning import finished_wall_mm
from orvek.documents import Barrel, Blank, Pen, RoundStep, SquareStep
from orvek.planning.results import BarrelFigures, Layout, PenPlan, TubePlace
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


def pen_plan(pen: Pen, blank: Blank) -> PenPlan:
    """What follows from the pen and the saw, whatever it is cast in."""
    return PenPlan(tuple(_barrel_figures(barrel) for barrel in pen.barrels), _length_needed(pen, blank))


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


def _barrel_figures(barrel: Barrel) -> BarrelFigures:
    tube, trim = barrel.tube_length_mm, barrel.trim_mm
    bit, outside = barrel.bit_diameter_mm, barrel.tube_diameter_mm
    return BarrelFigures(
        name=barrel.name,
        piece_mm=Figure(
            f"{barrel.name}: piece to saw",
            tube + 2 * trim,
            _MM,
            "piece = tube + 2 · trim",
            (Term("tube", "tube length", tube, _MM), Term("trim", "left proud at each end", trim, _MM)),
            "common workshop practice: tube plus 2 to 4 mm, 6 and more for fragile stock",
        ),
        clearance_mm=Figure(
            f"{barrel.name}: room for glue",
            bit - outside,
            _MM,
            "room = bit − tube",
            (Term("bit", "drill bit", bit, _MM), Term("tube", "tube, outside", outside, _MM)),
            "on the diameter; 0.05 to 0.20 mm is common workshop practice",
            digits=2,
        ),
        wall_left_mm=_wall(f"{barrel.name}: wall, left end", barrel.finished_left_mm, bit),
        wall_right_mm=_wall(f"{barrel.name}: wall, right end", barrel.finished_right_mm, bit),
    )


def _wall(label: str, finished_mm: float, bit_mm: float) -> Figure:
    return Figure(
        label,
        finished_wall_mm(finished_mm, bit_mm),
        _MM,
        "wall = (finished − hole) / 2",
        (Term("finished", "finished diameter", finished_mm, _MM), Term("hole", "drill bit", bit_mm, _MM)),
        "turned on its tube the barrel is concentric with the hole, so an off-centre hole does not thin it",
        digits=2,
    )


def _length_needed(pen: Pen, blank: Blank) -> Figure:
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    kerf, waste = blank.saw_kerf_mm, blank.end_waste_mm
    terms = tuple(
        Term(f"piece {n}", b.name, b.tube_length_mm + 2 * b.trim_mm, _MM) for n, b in enumerate(pen.barrels, 1)
    )
    return Figure(
        "Length of bar a pen needs",
        blank_length_mm(tubes, kerf, waste),
        _MM,
        "length = Σ pieces + (n + 1) · kerf + 2 · waste",
        (
            *terms,
            Term("n", "barrels", len(tubes), Dimension.COUNT),
            Term("kerf", "taken by each saw cut", kerf, _MM),
            Term("waste", "lost at each end of the bar", waste, _MM),
        ),
        "tube and trim of each barrel, a saw cut beside each, and the ends of the bar",
    )
