"""The lay-out list: what the hands need for the operations of an evening, each thing once, with where it lies.

What the shelf counts and has none of left is marked; what nobody counts is only named.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from datetime import date

from msgspec import Struct

from orvek.planning.bore.results import HolePlan
from orvek.planning.finish.results import FinishPlan
from orvek.planning.results import Plan
from orvek.planning.route.consumed import cup_name
from orvek.planning.route.mending import way_of
from orvek.planning.route.results import Operation
from orvek.planning.stock import Held, ToBuy, to_buy
from orvek.quantities import write_bit

KINDS = (
    "machine",
    "mould and cups",
    "bits and blades",
    "holding",
    "glue and resin",
    "grits and cloths",
    "parts",
    "care",
)


class Thing(Struct, frozen=True):
    """One thing to lay out.

    Attributes:
        kind: where on the list, one of `KINDS`.
        words: what it is.
        place: where it lies; empty where nobody said.
        missing: the shelf counts such things, and has none left.
        jobs: the names of the jobs that want it.
    """

    kind: str
    words: str
    place: str = ""
    missing: bool = False
    jobs: tuple[str, ...] = ()


_Found = tuple[str, str, tuple[str, str] | None]  # kind, words, and which pieces of the shelf it is


def laid_out(
    wanted: Iterable[tuple[Plan, Operation]], stock: tuple[Held, ...], today: date = date.min
) -> tuple[Thing, ...]:
    """What operations of several jobs need, in the order of `KINDS`, alike things once; what is too old says so."""
    found: dict[tuple[str, str], Thing] = {}
    for plan, task in wanted:
        for kind, words, piece in _of(plan, task):
            known = found.get((kind, words))
            jobs = known.jobs if known is not None else ()
            name = plan.job.batch.name
            place, missing = _on_the_shelf(piece, stock, today)
            found[kind, words] = Thing(kind, words, place, missing, jobs if name in jobs else (*jobs, name))
    return tuple(sorted(found.values(), key=lambda one: KINDS.index(one.kind)))


def where(one: Thing) -> str:
    """Where it lies, or that the shelf has none of it left."""
    return "none left" if one.missing else one.place


def by_kind(things: tuple[Thing, ...]) -> Iterator[tuple[str, tuple[Thing, ...]]]:
    """The things of each kind that there are any of, in the order of `KINDS`."""
    for kind in KINDS:
        own = tuple(one for one in things if one.kind == kind)
        if own:
            yield kind, own


def _on_the_shelf(piece: tuple[str, str] | None, stock: tuple[Held, ...], today: date = date.min) -> tuple[str, bool]:
    """Where it lies, and whether it is counted and all gone."""
    if piece is None:
        return "", False
    kind, of = piece
    own = [
        one
        for one in stock
        if one.piece.kind == kind and of in {one.piece.fits, one.piece.name} and one.piece.state == "free"
    ]
    there = next((one for one in own if one.left > 0), None)
    if there is None:
        return "", bool(own)
    is_old = there.piece.until is not None and there.piece.until < today
    return ", ".join(part for part in (there.piece.place, "past its date" if is_old else "") if part), False


def _of(plan: Plan, task: Operation) -> Iterator[_Found]:
    yield from _OF_KIND.get(task.kind, _nothing)(plan, task)
    if "finish.lathe" in task.cautions:
        yield "care", "face shield, dust mask", None
    elif task.cautions:
        yield "care", "glasses, gloves as the safety sheet says", None


def _nothing(_plan: Plan, _task: Operation) -> Iterator[_Found]:
    yield from ()


def _sawn(plan: Plan, _task: Operation) -> Iterator[_Found]:
    machine = plan.job.glue_up.machine
    yield "machine", machine.name.lower() if machine is not None else "the saw", None
    yield "machine", "stop block, push stick, square", None


def _milled(plan: Plan, task: Operation) -> Iterator[_Found]:
    yield from _sawn(plan, task)
    for line in task.lines:
        yield "parts", f"stock for {line.rstrip('.')}", None


_TREATED = {
    "dry": ("machine", "oven"), "weigh_wood": ("mould and cups", "scale"),
    "dye": ("glue and resin", "colour, jar with a lid, gloves"),
    "stabilise": ("machine", "vacuum chamber, pump, weights, foil"),
}  # fmt: skip


def _treated(_plan: Plan, task: Operation) -> Iterator[_Found]:
    if task.field_kind in _TREATED:
        yield (*_TREATED[task.field_kind], None)


def _glued(plan: Plan, _task: Operation) -> Iterator[_Found]:
    if plan.glue_up is not None:
        yield "glue and resin", plan.glue_up.glue.key, ("glue", plan.glue_up.glue.key)
    yield "holding", "clamps, cauls, baking paper", None


def _weighed(plan: Plan, _task: Operation) -> Iterator[_Found]:
    yield "mould and cups", "scale", None
    cups = plan.mixture.wet if plan.mixture is not None else ()
    for size in sorted({cup.vessel_ml for cup in cups}):
        count = sum(cup.vessel_ml == size for cup in cups)
        name = cup_name(size)
        yield "mould and cups", f"{count} × {name}", ("consumable", name)
    resin = plan.job.pour.resin
    if resin is not None:
        yield "glue and resin", f"{resin.name}, A and B", ("jar", resin.name)
    for name in dict.fromkeys(dose.name for cup in cups for dose in cup.doses):
        yield "glue and resin", name, ("jar", name)
    yield "grits and cloths", "stir sticks, towel", None


def _poured(plan: Plan, _task: Operation) -> Iterator[_Found]:
    mould = plan.job.pour.mould
    yield "mould and cups", mould.name.lower() if mould is not None else "the mould", None
    pot = plan.job.pour.pot
    if pot is not None:
        yield "machine", pot.name.lower(), None


def _bored(plan: Plan, task: Operation) -> Iterator[_Found]:
    bore = plan.bore
    if bore is None:
        return
    if bore.is_own_press:
        yield "machine", bore.press.name.lower(), None
    yield "holding", f"held {plan.job.bore.holding}", None
    for hole in bore.holes:
        size = bore.first_mm(hole) if task.kind == "bore" else hole.bored_mm
        name = hole.bit.name if hole.bit is not None and size == hole.bored_mm else ""
        words = f"bit {write_bit(size, plan.units)}{f', {name}' if name else ''}"
        yield "bits and blades", words, ("bit", name or _pen(plan))
    yield "holding", "centre finder, depth stop, brush", None


def _tubes(plan: Plan, task: Operation) -> Iterator[_Found]:
    bore = plan.bore
    if bore is None:
        return
    yield "parts", f"tubes, {_pen(plan)}", ("tube", _pen(plan))
    yield "grits and cloths", "scuff paper, alcohol", None
    if task.kind == "tube":
        yield "glue and resin", bore.glue.key, ("glue", bore.glue.key)
        if plan.job.bore.is_plugged:
            yield "glue and resin", "plugs for the tube ends", None


def _squared(plan: Plan, _task: Operation) -> Iterator[_Found]:
    if plan.job.bore.squared == "in a sanding jig":
        yield "holding", "sanding jig, disc paper", None
        return
    for size in dict.fromkeys(_pilot_mm(hole) for hole in plan.bore.holes) if plan.bore is not None else ():
        yield "bits and blades", f"end mill, pilot {plan.units.mm(size, 1)}", None


def _pilot_mm(hole: HolePlan) -> float:
    """The mill's pilot goes into the tube, or into the hole where there is none."""
    return hole.barrel.pilot_mm if hole.barrel.pilot_mm is not None else round(hole.guide_mm, 1)


def _turned(plan: Plan, _task: Operation) -> Iterator[_Found]:
    if plan.finish is None:
        return
    yield "holding", _HELD.get(plan.shop.holding.way, "mandrel or centres"), None
    yield from _bushings(plan, plan.finish)
    yield "holding", "calipers", None


_HELD = {"between centres": "centres", "mandrel": "mandrel, spacers", "chuck and tailstock": "chuck, live centre"}


def _bushings(plan: Plan, finish: FinishPlan) -> Iterator[_Found]:
    if plan.job.finish.tenths == "on dummy bushings, by calipers":
        size = min(one.dummy_mm.value for one in finish.sizes)
        yield "holding", f"dummy bushings, at most {plan.units.mm(size)}", None
        return
    sizes = dict.fromkeys(round(size, 2) for one in finish.sizes for size in one.barrel.bushings_mm)
    listed = ", ".join(plan.units.mm(size, 2) for size in sizes)
    yield "holding", f"bushings, {_pen(plan)}: {listed}", ("bushing", _pen(plan))


def _sanded(plan: Plan, task: Operation) -> Iterator[_Found]:
    if plan.finish is None:
        return
    rungs = plan.finish.rungs(task.kind)
    if rungs:
        yield "grits and cloths", ", ".join(rung.abrasive.name for rung in rungs), None


def _coated(plan: Plan, _task: Operation) -> Iterator[_Found]:
    how = plan.finishing
    yield "glue and resin", how.bottle or "glue for the coats", ("glue", how.bottle) if how.bottle else None
    if how.activator != "none":
        yield "glue and resin", "activator of the glue's own make", None
    yield "holding", "bushings that glue does not stick to", None
    yield "grits and cloths", "paper towel", None


def _filled(plan: Plan, _task: Operation) -> Iterator[_Found]:
    if plan.finish is not None and plan.finish.voids is not None:
        yield "glue and resin", f"{plan.finish.voids.fill.key}, thin glue", None


def _pressed(plan: Plan, task: Operation) -> Iterator[_Found]:
    yield "machine", plan.job.finish.pressed_in, None
    for use in task.uses:
        yield "parts", f"{use.amount:.0f} × {use.item}, {use.name}", (use.item, use.name)
    against = dict.fromkeys(part.against for part in (plan.job.pen.parts if plan.job.pen else ()) if part.against)
    if against:
        yield "holding", f"press faces: {', '.join(against)}", None


_NOT_LAID = {"warm", "reclaim"}  # ways out that nothing is brought for
_OF_PARTS = {"ring", "another pen"}


def _mended(plan: Plan, task: Operation) -> Iterator[_Found]:
    way = way_of(plan, task)
    if way is not None and way.uses != "nothing" and way.key not in _NOT_LAID:
        yield "parts" if way.key in _OF_PARTS else "glue and resin", way.uses, None


def _pen(plan: Plan) -> str:
    return plan.job.pen.name if plan.job.pen is not None else ""


def _told(kind: str, words: str) -> Callable[[Plan, Operation], Iterator[_Found]]:
    def tell(_plan: Plan, _task: Operation) -> Iterator[_Found]:
        yield kind, words, None

    return tell


_OF_KIND: dict[str, Callable[[Plan, Operation], Iterator[_Found]]] = {
    "soak": _treated, "mill": _milled, "cut": _sawn, "length": _sawn, "join": _glued,
    "wipe": _told("grits and cloths", "alcohol, rag"),
    "weigh": _weighed, "pour": _poured, "bore": _bored, "open_up": _bored, "scuff": _tubes, "tube": _tubes,
    "paint": _told("glue and resin", "paint for the hole, swab"), "square": _squared, "turn": _turned, "sand": _sanded,
    "level": _sanded, "polish": _sanded, "coat": _coated, "voids": _filled, "press": _pressed,
    "true": _told("holding", "dial, or a nail"), "inspect": _told("grits and cloths", "lamp, alcohol"),
    "seal": _told("glue and resin", "sealer, cloth"), "recess": _told("parts", "the ring, narrow tool"),
    "end_piece": _told("parts", "the end piece, epoxy"), "part_off": _told("bits and blades", "parting tool, fine saw"),
    "write": _told("parts", "paper to write on"), "demould": _told("holding", "knife, soft mallet, scraper"),
    "lay": _told("grits and cloths", "alcohol, scuff paper, seal, pins"), "thread": _told("holding", "tape, pencil"),
    "plug": _told("bits and blades", "bit for the plugs, and what fills them"),
    "wrap": _told("parts", "the printed sheet, cut; its glue"),
    "mend": _mended,
    "trial": _told("parts", "one pen of the batch"),
}  # fmt: skip


def all_to_buy(plan: Plan, stock: tuple[Held, ...]) -> tuple[ToBuy, ...]:
    """What a job still needs and the shelf has not, its bits and bushings among it."""
    return *to_buy(plan, stock), *missing_tools(plan, stock)


def missing_tools(plan: Plan, stock: tuple[Held, ...]) -> tuple[ToBuy, ...]:
    """Bits and bushings that what is left to do needs and the shelf, which counts them, has none of."""
    found = {
        piece: ToBuy(*piece, needed=1, there=0, buy=1, unit="")
        for task in (plan.route.open if plan.route is not None else ())
        for _, _, piece in _of(plan, task)
        if piece is not None and piece[0] in {"bit", "bushing"} and _on_the_shelf(piece, stock)[1]
    }
    return tuple(found.values())
