"""What is to be said about a bar as photographed: photos that leave a doubt, a mark that would come to lie on a pen."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import Mark, PhotoStep
from orvek.planning.bar import SAWN
from orvek.planning.findings import Finding, Severity, Station
from orvek.planning.layout import Layout
from orvek.planning.photos import doubts
from orvek.planning.results import Plan


def photos(plan: Plan) -> Iterator[Finding]:
    """What the photos leave in doubt."""
    step = plan.job.blank.photographed
    for doubt in doubts(step, plan.units) if step is not None else ():
        severity = Severity.CAUTION if doubt.gravely else Severity.NOTE
        yield Finding(severity, Station.BLANK, doubt.title, doubt.because)


def marks(plan: Plan) -> Iterator[Finding]:
    """What must not show and lies over a tube: it may go as deep as the barrel's surface."""
    if plan.layout is None or plan.job.pen is None:
        return
    step = plan.job.blank.photographed
    for mark in step.marks if step is not None else ():
        if step is not None and mark.kind != "centre this":
            yield from _on_barrels(plan, plan.layout, step, mark)


def _on_barrels(plan: Plan, layout: Layout, step: PhotoStep, mark: Mark) -> Iterator[Finding]:
    low, high = mark.z_mm - mark.size_mm / 2, mark.z_mm + mark.size_mm / 2
    what = "What must not show" if mark.kind == "must not show" else "Where light comes through"
    for place in layout.tubes:
        if low < place.tube.end_mm and high > place.tube.start_mm:
            below = max(0.0, (min(step.width_mm, step.depth_mm) - place.barrel.widest_mm) / 2)
            because = (
                f"How deep it goes, the photo does not tell; the finished barrel lies {plan.units.mm(below)} below the "
                "face. Slide the tube, or let Look closer, Find the best stretch, keep it off."
            )
            title = f"{what}, at {plan.units.mm(mark.z_mm)}, may come to lie on {place.barrel.name}."
            yield Finding(Severity.CAUTION, Station.BLANK, title, because)


def piece(plan: Plan) -> Iterator[Finding]:
    """A bar of the shelf that is not there: it was sawn or deleted, or the job came from another workshop."""
    code = plan.job.blank.piece
    if code and SAWN not in plan.job.work.done() and all(one.code != code for one in plan.shop.pieces):
        because = f"It begins with the piece {code}: that was sawn or deleted, or the job came from another workshop."
        yield Finding(Severity.CAUTION, Station.BLANK, "The bar of this job is not on the shelf.", because)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (photos, marks, piece)
