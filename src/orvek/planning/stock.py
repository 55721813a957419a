"""What is left on the shelf: as it was counted, less what the work has used since, and what the work has made.

Nothing is booked by hand: a task that is done uses and makes, one that is open again gives it back.
`held` says what is left of each piece, `born` which pieces the work has made.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from datetime import datetime

from msgspec import Struct

from orvek.documents import CONSUMABLES, WEIGHED, Job, MadeLook, PhotoStep, Piece, PieceKind, Step, WrapStep
from orvek.documents.deeds.photos import stretch_of
from orvek.planning.bar import narrowed
from orvek.planning.history import fates_of, is_missed
from orvek.planning.layout import Layout
from orvek.planning.results import Plan
from orvek.planning.route.pieces import LEAST_LEFT_MM

_LABELLED = ".1"  # tells bars that are ready to be sold from those out of the mould
_LOTS_LETTERS = 80  # an outcome keeps no more (`Words`)
_USED_UP: tuple[PieceKind, ...] = ("abrasive", "insert", "consumable")  # no part of the pen
_LONG_AGO = datetime.min  # when what nobody has counted since it was written down was counted


class Used(Struct, frozen=True):
    """Something that a task took off the shelf: `what` and `name` say of which pieces."""

    what: str
    name: str
    amount: float
    when: datetime
    job: str


class Held(Struct, frozen=True):
    """A piece and what is left of it; `left` below nothing: more was used than was counted."""

    piece: Piece
    left: float
    used: tuple[Used, ...] = ()


def held(pieces: tuple[Piece, ...], plans: Iterable[Plan]) -> tuple[Held, ...]:
    """What is left of each piece. Of several lots the one that was counted first is used up first."""
    open_uses: dict[tuple[str, str], list[Used]] = {}
    for plan in plans:
        for use in uses(plan):
            open_uses.setdefault((use.what, use.name), []).append(use)
    taken: dict[str, list[Used]] = {piece.code: [] for piece in pieces}
    for key, found in open_uses.items():
        lots = sorted((p for p in pieces if _key(p) == key), key=lambda p: p.counted_at or _LONG_AGO)
        left = {lot.code: lot.amount for lot in lots}
        for use in sorted(found, key=lambda one: one.when):
            _book(use, lots, left, taken)
    return tuple(
        Held(piece, piece.amount - sum(use.amount for use in taken[piece.code]), tuple(taken[piece.code]))
        for piece in pieces
    )


def uses(plan: Plan) -> Iterator[Used]:
    """What the tasks of a job that are done have taken off the shelf."""
    job = plan.job
    for task in plan.route.operations if plan.route else ():
        when = job.work.when(task.key, "done")
        if when is None:
            continue
        for use in task.uses:
            yield Used(use.item, use.name, use.amount, when.replace(tzinfo=None), job.batch.name)


def born(plan: Plan, known: frozenset[str]) -> Iterator[Piece]:
    """The pieces that a job's tasks have made so far, but for those that stand on the shelf already by their birth."""
    return (piece for piece in _made(plan) if piece.born not in known)


def photos_of_new(piece: Piece, job: Job) -> PhotoStep | None:
    """The photos of a piece that a job has made: its part of those of the bar; None where that was worked on."""
    photo = job.blank.photographed
    if photo is None or len(job.blank.steps) > 1:
        return None
    return stretch_of(photo, piece.from_mm, min(photo.length_mm, piece.from_mm + piece.length_mm))


def job_of_new(piece: Piece) -> str:
    """The id of the job whose work has made a piece; nothing for any other."""
    return piece.born.partition(" ")[0]


def _made(plan: Plan) -> Iterator[Piece]:
    route, layout, job = plan.route, plan.layout, plan.job
    if route is None or layout is None:
        return
    demoulded = [task for task in route.operations if task.kind == "demould" and task.key in job.work.done()]
    sawn = job.work.when("length", "done")
    bars = round(plan.bars.bars.value)
    if sawn is None and demoulded:
        count = min(bars, len(demoulded) * max(1, plan.bars.bars_per_casting))
        yield _piece(plan, layout, (0.0, layout.length_mm), "bar", count, job.work.when(demoulded[-1].key, "done"))
    if sawn is None:
        return
    if job.makes_bars and job.work.when("label", "done") is not None:
        fates = fates_of(plan.shop.ledger, job.batch.id)
        good = sum(not is_missed(fate) for fate in fates.values()) if fates else round(plan.bars.blanks.value)
        left, place = good - sum(order.delivered for order in job.orders), layout.tubes[0].trimmed
        if left > 0:
            span = (place.start_mm, place.end_mm)
            yield _piece(plan, layout, span, "bar", left, job.work.when("label", "done"), _LABELLED)
    for number, span in enumerate(_ends(layout)):
        if span[1] - span[0] >= LEAST_LEFT_MM:
            yield _piece(plan, layout, span, "leftover", bars, sawn, f".{number}")


def _ends(layout: Layout) -> tuple[tuple[float, float], ...]:
    """What is left of a bar at its ends and between its pieces, kerfs left out."""
    return tuple((waste.start_mm, waste.end_mm) for waste in layout.waste)


def _piece(
    plan: Plan,
    layout: Layout,
    span: tuple[float, float],
    kind: str,
    count: int,
    when: datetime | None,
    number: str = "",
) -> Piece:
    job = plan.job
    width, depth, is_round = narrowed(job.blank.steps, layout.raw)
    what = "bar" if kind == "bar" else "leftover"
    resin = job.pour.resin.name if job.pour.resin is not None and job.cast_index is not None else ""
    content = {
        "name": f"{job.batch.name[:60]}, {what}{number.replace('.', ' ') if what == 'leftover' else ''}",
        "code": _code(job.batch.id, kind, number),
        "kind": kind,
        "count": max(1, count),
        "form": "round" if is_round else "rectangular",
        "length_mm": round(span[1] - span[0], 1),
        "width_mm": width,
        "depth_mm": depth,
        "recipe": resin,
        "parent": job.blank.piece,
        "from_mm": round(max(0.0, span[0]), 1),
        "made_on": when.date() if when is not None else None,
        "born": f"{job.batch.id} {kind}{number}",
        "look": None if _has_pictures(job.blank.steps) else _look(plan, layout, span[0]),
    }
    return Piece.model_validate(content)


def _code(job_id: str, kind: str, number: str) -> str:
    """The same code each time: what the work makes is not new because it was looked at again."""
    side = int(number.removeprefix(".") or 0)
    return f"{job_id[:8].upper()}{'B' if kind == 'bar' else 'L'}{side}"


def _look(plan: Plan, layout: Layout, from_mm: float) -> MadeLook:
    job = plan.job
    return MadeLook(
        steps=job.blank.steps,
        materials=job.blank.materials,
        length_mm=layout.length_mm,
        width_mm=layout.width_mm,
        depth_mm=layout.depth_mm,
        is_round=layout.is_round,
        from_mm=max(0.0, from_mm),
    )


def _has_pictures(steps: tuple[Step, ...]) -> bool:
    return any(isinstance(step, PhotoStep) or (isinstance(step, WrapStep) and step.artwork) for step in steps)


def _key(piece: Piece) -> tuple[str, str]:
    """What uses of a piece are called by."""
    if piece.is_solid:
        return "piece", piece.code
    return piece.kind, piece.name if piece.kind in {"jar", *CONSUMABLES} else piece.fits


def _book(use: Used, lots: list[Piece], left: dict[str, float], taken: dict[str, list[Used]]) -> None:
    """Take a use from the lots that had been counted before it, the first first; what is missing from the last."""
    open_g = use.amount
    fit = [lot for lot in lots if use.when > (lot.counted_at or _LONG_AGO)]
    for place, lot in enumerate(fit):
        is_last = place == len(fit) - 1
        part = open_g if is_last else min(open_g, max(0.0, left[lot.code]))
        if part > 0:
            left[lot.code] -= part
            open_g -= part
            taken[lot.code].append(Used(use.what, use.name, part, use.when, use.job))


def lots_of(job: Job, stock: Iterable[Held]) -> str:
    """The lots, or codes where there are none, of what the pen is made of: its bar, then what its work has used."""
    found = [job.blank.piece] if job.blank.piece else []
    for one in stock:
        if one.piece.kind not in _USED_UP and any(use.job == job.batch.name for use in one.used):
            found.append(" ".join((one.piece.lot or one.piece.code).replace(",", " ").split()))
    kept = ""
    for word in dict.fromkeys(found):
        longer = f"{kept}, {word}" if kept else word
        kept = longer if len(longer) <= _LOTS_LETTERS else kept
    return kept


class ToBuy(Struct, frozen=True):
    """What a job still needs and the shelf has not: how much is needed, there, and to be bought in whole lots."""

    what: str
    name: str
    needed: float
    there: float
    buy: float
    unit: str


def to_buy(plan: Plan, stock: tuple[Held, ...]) -> tuple[ToBuy, ...]:
    """The shopping list of a job: of what is left to do, what the shelf does not hold."""
    found = []
    for (what, name), needed in _needs(plan).items():
        lots = [one for one in stock if _key(one.piece) == (what, name) and one.piece.state == "free"]
        there = max(0.0, sum(one.left for one in lots))
        if needed - there > 1e-9 and (lots or what not in CONSUMABLES):
            by = max((one.piece.sold_by for one in lots), default=1)
            found.append(_bought(_stuff(plan, name) if what == "jar" else what, name, needed, there, by))
    known = {(one.what, one.name) for one in found}
    return (*found, *(one for one in _below_their_mark(plan, stock) if (one.what, one.name) not in known))


def _below_their_mark(plan: Plan, stock: tuple[Held, ...]) -> Iterator[ToBuy]:
    """What is to be there for any job, and of which less is left, all lots of it together."""
    lots: dict[tuple[str, str], list[Held]] = {}
    for one in stock:
        if one.piece.state == "free" and not one.piece.is_solid:
            kind, name = _key(one.piece)
            lots.setdefault((kind, name or one.piece.name), []).append(one)
    for (kind, name), own in lots.items():
        least = max((one.piece.least for one in own if one.piece.least is not None), default=0.0)
        there = sum(max(0.0, one.left) for one in own)
        if there < least:
            what = _stuff(plan, name) if kind == "jar" else kind
            yield _bought(what, name, least, there, max(one.piece.sold_by for one in own))


def reach_pens(plan: Plan, one: Held) -> int | None:
    """For how many pens like the job's what is left of a piece is enough; None where the job uses none of it."""
    pens = plan.job.batch.pens_wanted
    tasks = plan.route.operations if plan.route is not None else ()
    each = sum(use.amount for task in tasks for use in task.uses if (use.item, use.name) == _key(one.piece)) / pens
    return max(0, int(one.left / each + 1e-9)) if each else None


def _bought(what: str, name: str, needed: float, there: float, by: int) -> ToBuy:
    """In whole lots, but for what is weighed."""
    is_weighed, missing = what in {"resin", "pigment", *WEIGHED}, needed - there
    buy = missing if is_weighed else float(-(-missing // by) * by)
    return ToBuy(what, name, needed, there, buy, "g" if is_weighed else "")


def _stuff(plan: Plan, name: str) -> str:
    """What is in a jar of this name, as the job takes it: only a pour takes from jars."""
    resin = plan.job.pour.resin
    return "resin" if resin is not None and resin.name == name else "pigment"


def _needs(plan: Plan) -> dict[tuple[str, str], float]:
    """What the operations that are not done yet will take off the shelf."""
    needs: dict[tuple[str, str], float] = {}
    for one in plan.route.open if plan.route else ():
        for use in one.uses:
            if use.item != "piece":  # it is on the shelf: the job was begun with it
                needs[use.item, use.name] = needs.get((use.item, use.name), 0.0) + use.amount
    return needs
