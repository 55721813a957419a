"""The ends of a barrel: a ring in a recess, a piece on a spigot, a nub that is parted off and finished by hand."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.turning import LEAST_WALL_MM, RING_MORE_MM, SPIGOT_DIAMETERS, SPIGOT_UNDER_MM, tube_inside_mm
from orvek.documents import JOB, Barrel, EndWork, Job, path_to
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.finish.results import EndPlan
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, Units

_MM = Dimension.LENGTH
_ON_TUBE_MM = 0.05


def end_plans(job: Job, units: Units) -> tuple[EndPlan, ...]:
    """What each end is cut to; nothing for a barrel that the pen does not have."""
    barrels = job.pen.barrels if job.pen is not None else ()
    return tuple(
        _end_plan(index, work, barrels[work.barrel_no - 1], units)
        for index, work in enumerate(job.finish.ends)
        if work.barrel_no <= len(barrels)
    )


def ends(plan: Plan) -> Iterator[Finding]:
    """Ends that cannot be worked so."""
    job, units = plan.job, plan.units
    count = len(job.pen.barrels) if job.pen is not None else 0
    for work in job.finish.ends if count else ():
        if work.barrel_no > count:
            left = tuple(one for one in job.finish.ends if one.barrel_no <= count)
            remedy = Remedy("Remove it", (Edit(path_to(JOB.finish.ends), left),))
            because = f"Of {work.kind} on barrel {work.barrel_no} nothing is planned: the pen has {count}."
            yield Finding(Severity.NOTE, Station.FINISH, "An end belongs to no barrel.", because, (remedy,))
            break  # the remedy is for all of them
    for one in plan.finish.ends if plan.finish is not None else ():
        yield from _too_deep(one, units)


def _too_deep(one: EndPlan, units: Units) -> Iterator[Finding]:
    barrel, across = one.barrel, one.work.across_mm
    if one.work.kind != "a ring in a recess" or across is None:
        return
    size = barrel.finished_left_mm if one.work.end == "left" else barrel.finished_right_mm
    hole = barrel.tube_diameter_mm if barrel.inside != "no tube" else barrel.bit_diameter_mm
    inside, wall = units.mm(across, 2), (across - hole) / 2
    if across >= size:
        because = f"It is {inside} wide inside, the barrel {units.mm(size, 2)} there: it finds no shoulder."
        yield Finding(Severity.STOP, Station.FINISH, f"The ring slides over {one.barrel.name}.", because)
    elif wall < -_ON_TUBE_MM:
        because = f"The ring is {inside} wide inside; what lies in the hole is {units.mm(hole, 2)}."
        yield Finding(Severity.STOP, Station.FINISH, f"The recess of {one.barrel.name} cuts into its tube.", because)
    elif _ON_TUBE_MM < wall < LEAST_WALL_MM:  # a ring that sits on the tube itself needs no wall
        because = f"Under the ring {units.mm(wall, 2)} are left: a narrow sharp tool, light, the ring glued on at once."
        yield Finding(Severity.CAUTION, Station.FINISH, f"The recess of {one.barrel.name} is thin.", because)


def _end_plan(index: int, work: EndWork, barrel: Barrel, units: Units) -> EndPlan:
    where = f"{barrel.name}, {work.end} end"
    match work.kind:
        case "a ring in a recess":
            cut, long = _ring(work)
            lines = _ring_lines(work, long, units)
        case "a piece on a spigot":
            cut, long = _spigot(work, barrel)
            lines = _spigot_lines(cut, long, units)
        case _:
            cut, long = None, Figure("Nub length", work.long_mm, _MM, "as you said", (), "typed")
            lines = _nub_lines(long, units)
    return EndPlan(index, work, barrel, where, cut, long, lines)


def _ring(work: EndWork) -> tuple[Figure | None, Figure]:
    terms = (Term("w", "the ring", work.long_mm, _MM), Term("m", "more, to be sanded flush", RING_MORE_MM, _MM))
    long = Figure("Recess length", work.long_mm + RING_MORE_MM, _MM, "w + m", terms, "practice", digits=2)
    if work.across_mm is None:
        return None, long
    told = (Term("d", "the ring inside", work.across_mm, _MM, "measured"),)
    return Figure("Floor across", work.across_mm, _MM, "d", told, "the ring, measured", digits=2), long


def _ring_lines(work: EndWork, long: Figure, units: Units) -> tuple[str, ...]:
    across = work.across_mm
    floor = "the ring's inside (measure it, type it at Size)" if across is None else units.mm(across, 2)
    return (
        f"The last coat is hard: a knife line round it {long.written(units)} from the end, or the coat chips there.",
        f"A narrow tool, lathe slow: down to {floor}, the shoulder square. Try the ring dry; no light under it.",
        "Ring on with thin glue, wiped at once; its edge is flush with the barrel's end, not proud.",
    )


def _spigot(work: EndWork, barrel: Barrel) -> tuple[Figure, Figure]:
    guess = tube_inside_mm(barrel.tube_diameter_mm) if barrel.has_tube else barrel.bit_diameter_mm
    hole = work.across_mm if work.across_mm is not None else guess
    words = "the hole, measured" if work.across_mm is not None else "the hole, by the pen's sheet"
    terms = (
        Term("h", words, hole, _MM, "measured" if work.across_mm is not None else "guess"),
        Term("u", "under it, for the glue", SPIGOT_UNDER_MM, _MM, "practice"),
    )
    cut = Figure("Spigot across", hole - SPIGOT_UNDER_MM, _MM, "h − u", terms, "workshop practice", digits=2)
    told = (Term("d", "the spigot", cut.value, _MM), Term("n", "times as long", SPIGOT_DIAMETERS, Dimension.RATIO))
    deep = min(SPIGOT_DIAMETERS * cut.value, barrel.tube_length_mm / 2)
    return cut, Figure(
        "Spigot length", deep, _MM, "n · d, at most half the barrel", told, "workshop practice", digits=1
    )


def _spigot_lines(cut: Figure | None, long: Figure, units: Units) -> tuple[str, ...]:
    across = cut.written(units) if cut is not None else ""
    return (
        f"Turn a spigot on the piece: {across} across, {long.written(units)} long, its shoulder square. Try it dry.",
        "Epoxy in the hole and on the spigot, the tailstock presses it home in line; wipe the joint.",
        "When it holds: turn the piece down to the barrel, sand over the joint with the last two grits.",
    )


def _nub_lines(long: Figure, units: Units) -> tuple[str, ...]:
    return (
        f"Cut in with the parting tool, lathe slow, down to a nub of about {long.written(units)}; no hand under it.",
        "Lathe off: saw the nub off. Sand it by hand through the same grits, a quarter turn at each.",
        "Two or three thin coats on it with a fold of paper, as the barrel has; polish by hand.",
    )
