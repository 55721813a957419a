"""Down to which diameter the tool goes, at both ends, in the middle and wherever the outline has a point."""

from __future__ import annotations

from orvek.craft import coating
from orvek.craft.wrapping import under_mm
from orvek.documents import Barrel, Finish, Job, Sized
from orvek.planning.finish.coats import Taken
from orvek.planning.finish.results import SizePlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _GRAIN = Dimension.LENGTH, Dimension.GRAIN
_MIDDLE = 0.5
_DUMMY_UNDER_MM = 1.0  # a dummy bushing is so much thinner than the barrel, out of the paper's way (practice)


def size_plan(job: Job, number: int, barrel: Barrel, taken: Taken) -> SizePlan:
    """What one barrel is turned to."""
    sized = job.finish.of(number)
    finished = _finished(barrel, sized)
    left, middle, right = (_tool(figure, place, job.finish, taken) for place, figure in finished)
    return SizePlan(
        number=number,
        barrel=barrel,
        sized=sized,
        finished_mm=(finished[0][1], finished[1][1], finished[2][1]),
        tool_mm=(left, middle, right),
        now_mm=(sized.now_left_mm, sized.now_middle_mm, sized.now_right_mm),
        along=tuple(_along(job, barrel, at, size, taken) for at, size in barrel.profile[1:-1]),
        dummy_mm=_dummy(barrel, min(left.value, right.value)),
    )


def _finished(barrel: Barrel, sized: Sized) -> list[tuple[str, Figure]]:
    """What it is to measure at the end: by the part that meets it there, else as the pen says."""
    ends = {"left": sized.part_left_mm, "right": sized.part_right_mm}
    at = {"left": 0.0, "middle": _MIDDLE, "right": 1.0}
    found = []
    for place, where in at.items():
        part_mm = ends.get(place)
        value = part_mm if part_mm is not None else barrel.finished_mm(where)
        words, standing = ("the part, measured", "measured") if part_mm is not None else ("as the pen says", None)
        terms = (Term("D", words, value, _MM, "measured" if standing else None),)
        found.append((place, Figure(f"Finished, {place}", value, _MM, "D", terms, words, digits=2)))
    return found


def _along(job: Job, barrel: Barrel, at: float, size_mm: float, taken: Taken) -> tuple[float, Figure]:
    """A point of the outline: how far from the left end, and what to turn to there."""
    terms = (Term("D", "as the pen says", size_mm, _MM),)
    finished = Figure("Finished there", size_mm, _MM, "D", terms, "as the pen says", digits=2)
    return at * barrel.tube_length_mm, _tool(finished, "there", job.finish, taken)


def _tool(finished: Figure, place: str, finish: Finish, taken: Taken) -> Figure:
    if taken.sheet_mm:
        return _under(finished, place, taken)
    value = coating.tool_size_mm(finished.value, taken.sanded, taken.coats, taken.levelled) + finish.more_mm
    terms = (
        Term("D", finished.source, finished.value, _MM),
        Term("S", "grits take", taken.sanded, _GRAIN),
        Term("C", "coats put on", taken.coats, _GRAIN),
        Term("L", "levelling takes", taken.levelled, _GRAIN),
        Term("more", "left for tear-out", finish.more_mm, _MM),
    )
    return Figure(f"To, {place}", value, _MM, "D + 2 · (S − (C − L)) + more", terms, "derived", digits=2)


def _under(finished: Figure, place: str, taken: Taken) -> Figure:
    """Down to what is turned under a printed sheet that is coated."""
    terms = (
        Term("D", finished.source, finished.value, _MM),
        Term("t", "the printed sheet", taken.sheet_mm, _MM),
        Term("C", "coats put on", taken.coats, _GRAIN),
        Term("L", "levelling takes", taken.levelled, _GRAIN),
    )
    value = under_mm(finished.value, taken.sheet_mm, taken.coats, taken.levelled)
    return Figure(f"Under the sheet, {place}", value, _MM, "D − 2 · (t + C − L)", terms, "derived", digits=2)


def _dummy(barrel: Barrel, slimmest_mm: float) -> Figure:
    terms = (
        Term("D", "the slimmer end off the tool", slimmest_mm, _MM),
        Term("u", "under it, out of the paper's way", _DUMMY_UNDER_MM, _MM, "practice"),
    )
    source = f"and thicker than the tube's {barrel.tube_diameter_mm:g} mm, or it slips in"
    value = slimmest_mm - _DUMMY_UNDER_MM
    return Figure("Dummy bushings at most", value, _MM, "D − u", terms, source, digits=1)
