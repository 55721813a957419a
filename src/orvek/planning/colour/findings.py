"""What is to be said of tubes that show through a colour."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import JOB, CastStep, Cup, as_kind, catalogue, path_to
from orvek.planning.colour.part import needed_load
from orvek.planning.colour.results import TubeView
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.quantities import decimal

_WORTH_A_WORD = 0.05  # of a colour's strength


def tube_shows(plan: Plan) -> Iterator[Finding]:
    """Tubes that show through a colour: one finding for all of them, told by the end where it is worst."""
    units = plan.units
    clear = {cup.name for cup in plan.job.cast.cups if not cup.pigments}
    # A light test in the bored blank says more than any calculation; the station Bore tells what it showed.
    tested = {n for n, hole in enumerate(plan.job.bore.holes) if hole.light in {"a little", "much"}}
    seen = [
        view for view in plan.colour if view.verdict != "hidden" and view.cup not in clear and view.barrel not in tested
    ]
    if not seen:
        return
    worst = min(seen, key=lambda view: view.ratio)
    ends = len({(view.barrel, view.side) for view in seen})
    basis = "from a chip you measured" if worst.measured else "from typical pigments, a guess: make a chip"
    if abs(worst.strength - 1) > _WORTH_A_WORD:
        basis = f"with {decimal(round(worst.strength, 1))} times the strength, by your light test"
    because = (
        f"{worst.cup} at {worst.barrel_name}, {worst.side} end, {units.mm(worst.wall_mm, 2)} thick: over brass and "
        f"over black it differs by {100 * (1 - worst.ratio):.0f} %; up to 2 % the eye lets pass. Calculated {basis}."
    )
    certain = worst.measured and worst.verdict == "shows"
    every = 2 * len(plan.job.pen.barrels) if plan.job.pen else ends
    title = f"The tube {'shows' if certain else 'may show'} at {ends} of {every} ends."
    severity = Severity.CAUTION if worst.verdict == "shows" else Severity.NOTE
    station = Station.BORE if plan.bars.in_hand else Station.POUR  # what is cast already is painted inside
    yield Finding(severity, station, title, because, tuple(_remedies(plan, seen, worst)))


def _remedies(plan: Plan, seen: list[TubeView], worst: TubeView) -> Iterator[Remedy]:
    job = plan.job
    bare = sorted({view.barrel for view in seen if job.blank.paint(view.barrel).where == "none"})
    for where in ("hole", "tube") if bare else ():
        words = f"Paint the {where} of {worst.barrel_name}" if len(bare) == 1 else f"Paint the {where}s"
        yield Remedy(words, (Edit(path_to(JOB.blank.paints), job.painted(bare, where)),))
    if plan.bars.in_hand:
        return
    index = next(n for n, cup in enumerate(job.cast.cups) if cup.name == worst.cup)
    most = _most_loads(job.cast.cups[index])
    load = needed_load(job.cast.cups[index], worst.wall_mm, most, worst.strength)
    if load is not None:
        number, pct = load
        dose = job.cast.cups[index].pigments[number]
        path = path_to(as_kind(CastStep, JOB.blank.steps[job.cast_index or 0]).cups[index].pigments[number].load_pct)
        yield Remedy(f"Load {dose.pigment.name} to {decimal(pct)} %", (Edit(path, pct),))


def _most_loads(cup: Cup) -> tuple[float, ...]:
    """How far each pigment of a cup may be loaded, in %."""
    kinds = (catalogue().kind(dose.pigment.kind) for dose in cup.pigments)
    return tuple(kind.most_pct if kind else 5.0 for kind in kinds)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (tube_shows,)
