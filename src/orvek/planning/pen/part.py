"""From the pen: pieces, bits, walls, the length needed, and where the tubes lie on the bar."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.laying_out import blank_length_mm, saw_cuts
from orvek.craft.turning import finished_wall_mm
from orvek.documents import Barrel, Pen, Writing
from orvek.planning.bars import end_loss_mm
from orvek.planning.exits import exit_of
from orvek.planning.layout import TubePlace
from orvek.planning.pen.results import BarrelFigures, PenPlan
from orvek.planning.pen.writing import writing_plan
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


def part(plan: Plan) -> PenPlan | None:
    """What follows from the pen alone; None while there is none."""
    if plan.job.pen is None:
        return None
    lost = end_loss_mm(plan.bars.section, plan.job.blank)
    spare = exit_of(plan.job, plan.shop)
    places = plan.layout.tubes if plan.layout else (None,) * len(plan.job.pen.barrels)
    figures = tuple(
        _barrel_figures(barrel, place, spare.source) for barrel, place in zip(plan.job.pen.barrels, places, strict=True)
    )
    exits_mm = spare.length_mm * sum(barrel.is_through for barrel in plan.job.pen.barrels)
    needed = _length_needed(plan.job.pen, plan.job.blank.saw_kerf_mm, lost, exits_mm, spare.source)
    return PenPlan(figures, needed, writing_plan(plan.job, plan.job.pen), needed.value - exits_mm)


def progress(plan: Plan) -> tuple[bool, bool]:
    """A pen that is chosen is begun and complete."""
    return plan.pen is not None, plan.pen is not None


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    if plan.pen:
        figures = []
        for told in plan.pen.barrels:
            room = () if told.barrel.inside == "no tube" else (told.clearance_mm,)
            figures += [told.piece_mm, *room, told.wall_left_mm, told.wall_right_mm]
        yield "Pen", [*figures, plan.pen.length_needed_mm]
        if plan.job.pen is not None and plan.job.pen.writing != Writing():
            yield "Refill and length", list(plan.pen.writing.figures)


def _barrel_figures(barrel: Barrel, place: TubePlace | None, source: str) -> BarrelFigures:
    exit_mm, enter_mm = (place.exit_mm, place.enter_mm) if place is not None else (0.0, 0.0)
    tube, trim = barrel.tube_length_mm, barrel.trim_mm
    bit, outside = barrel.bit_diameter_mm, barrel.tube_diameter_mm
    return BarrelFigures(
        barrel=barrel,
        piece_mm=Figure(
            f"{barrel.name}: piece to saw",
            barrel.piece_mm + exit_mm + enter_mm,
            _MM,
            "piece = tube + 2 · trim + exit + unsawn",
            (
                Term("tube", "tube length", tube, _MM),
                Term("trim", "left proud at each end", trim, _MM),
                Term(
                    "exit",
                    "may tear out at the exit, where the bar has the length",
                    exit_mm,
                    _MM,
                    source=source,
                ),
                Term("unsawn", "beyond the trim, too little to be sawn off", enter_mm, _MM),
            ),
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


def _length_needed(pen: Pen, kerf: float, waste: float, exits_mm: float, source: str) -> Figure:
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    terms = tuple(Term(f"piece {n}", b.name, b.piece_mm, _MM) for n, b in enumerate(pen.barrels, 1))
    return Figure(
        "Length of bar a pen needs",
        blank_length_mm(tubes, kerf, waste) + exits_mm,
        _MM,
        "length = Σ pieces + exits + cuts · kerf + 2 · waste",
        (
            *terms,
            Term("exits", "may tear out where the bits come out", exits_mm, _MM, source=source),
            Term("cuts", "between two pieces, and where an end is lost", saw_cuts(len(tubes), waste), Dimension.COUNT),
            Term("kerf", "taken by each saw cut", kerf, _MM),
            Term("waste", "lost at each end of the bar", waste, _MM),
        ),
        "tube and trim of each barrel, the saw cuts, and the ends of the bar; a bar whose ends are clean loses none",
    )
