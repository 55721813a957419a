"""What is to be said of tubes that show through a colour."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import Cup, catalogue
from orvek.planning.colour.part import TubeView, needed_load, paint_of, painted
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan


def tube_shows(plan: Plan) -> Iterator[Finding]:
    """One finding a barrel, for the end and colour where it shows most."""
    for number in sorted({view.barrel for view in plan.tube_views}):
        views = [view for view in plan.tube_views if view.barrel == number and view.verdict != "hidden"]
        clear = [cup.name for cup in plan.job.cast.cups if not cup.pigments]
        views = [view for view in views if view.cup not in clear]
        if not views:
            continue
        worst = min(views, key=lambda view: view.ratio)
        basis = "by a chip you measured" if worst.measured else "by typical pigments, not measured: make a chip"
        because = (
            f"{worst.cup} at the {worst.side} end, {plan.mm(worst.wall_mm, 2)} thick: over brass and over black it "
            f"differs by {100 * (1 - worst.ratio):.0f} %; up to 2 % the eye lets pass. Reckoned {basis}."
        )
        shows = worst.verdict == "shows"
        title = (
            f"The tube shows through {worst.barrel_name}."
            if shows
            else f"The tube may show through {worst.barrel_name}."
        )
        severity = Severity.CAUTION if shows else Severity.NOTE
        yield Finding(severity, Station.POUR, title, because, tuple(_remedies(plan, number, worst)))


def _remedies(plan: Plan, barrel: int, worst: TubeView) -> Iterator[Remedy]:
    job = plan.job
    if paint_of(job, barrel).where == "none":
        for where in ("hole", "tube"):
            words = f"Paint the {where} of {worst.barrel_name}"
            yield Remedy(words, (Edit(("blank", "paints"), painted(job, barrel, where)),))
    index = next(n for n, cup in enumerate(job.cast.cups) if cup.name == worst.cup)
    load = needed_load(job.cast.cups[index], worst.wall_mm, _most_loads(job.cast.cups[index]))
    if load is not None:
        number, pct = load
        dose = job.cast.cups[index].pigments[number]
        path = ("blank", "steps", job.cast_index or 0, "cups", index, "pigments", number, "load_pct")
        yield Remedy(f"Load {dose.pigment.name} to {pct:g} %", (Edit(path, pct),))


def _most_loads(cup: Cup) -> tuple[float, ...]:
    """How far each pigment of a cup may be loaded, in %."""
    kinds = (catalogue().kind(dose.pigment.kind) for dose in cup.pigments)
    return tuple(kind.most_pct if kind else 5.0 for kind in kinds)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (tube_shows,)
