"""What is to be said about a bar as photographed: photos that leave a doubt, a mark that would come to lie on a pen."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import JOB, Mark, PhotoStep, as_kind, path_to
from orvek.documents.deeds.photos import stretch_of
from orvek.planning.bar import SAWN
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.layout import Layout
from orvek.planning.photos import doubts
from orvek.planning.results import Plan

_HAIR_MM, _MOST_PARTS = 0.1, 2


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
        title = "The bar of this job is not on the shelf."
        yield Finding(Severity.CAUTION, Station.BLANK, title, because, tuple(_parts(plan)))


def _parts(plan: Plan) -> Iterator[Remedy]:
    """The parts that the job's bar was sawn into, the longest first: the job goes on with one of them."""
    blank, photo = plan.job.blank, plan.job.blank.photographed
    if photo is None:
        return
    parts = [
        one
        for one in plan.shop.pieces
        if (one.parent, one.state, one.width_mm) == (blank.piece, "free", photo.width_mm)
        and one.from_mm + one.length_mm <= photo.length_mm + _HAIR_MM
    ]
    index = blank.steps.index(photo)
    for part in sorted(parts, key=lambda one: -one.length_mm)[:_MOST_PARTS]:
        step = stretch_of(photo, part.from_mm, min(photo.length_mm, part.from_mm + part.length_mm))
        edits = (
            Edit(path_to(JOB.blank.steps[index]), step),
            Edit(path_to(JOB.blank.piece), part.code),
            Edit(path_to(JOB.blank.tube_starts_mm), ()),
        )
        yield Remedy(f"Go on with {part.name}, {plan.units.mm(part.length_mm)}", edits)


def made_of(plan: Plan) -> Iterator[Finding]:
    """A photo does not tell what a bar is made of: how it is bored, turned and cared for follows from it."""
    blank = plan.job.blank
    if blank.photographed is None or blank.photographed.made_of != "not said" or "bore" in plan.job.work.done():
        return
    path = path_to(as_kind(PhotoStep, JOB.blank.steps[blank.steps.index(blank.photographed)]).made_of)
    because = "It is planned as sound wood. Speeds, pecks, tools, allowances and the care card follow from it."
    ways = (
        "wood",
        "resin",
        "wood and resin",
        "stabilised wood",
        "burl or spalted wood",
        "glued layers",
        "compressed fibre",
    )
    remedies = tuple(Remedy(f"It is {one}", (Edit(path, one),)) for one in ways)
    yield Finding(Severity.NOTE, Station.BLANK, "Nobody has said what the bar is made of.", because, remedies)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (photos, made_of, marks, piece)
