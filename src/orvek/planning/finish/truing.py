"""True or not: what four readings at either end of a barrel say, whose fault it is, and how it is held."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft import truing
from orvek.craft.coating import mandrel_bow
from orvek.documents import ANGLES, Barrel, Holding, Job, Round, Shop, Truing
from orvek.planning.findings import Finding, Severity, Station
from orvek.planning.finish.results import PLACES, HoldPlan, SizePlan, TrueEnd, TruePlan
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, Units

_MM = Dimension.LENGTH
_SQUARE_MM = 2.0  # readings that far apart are of a bar that is not round yet, or of a dial that slipped (a choice)
_FELT_MM = 0.05  # a lip that a nail feels (workshop practice)
_TURNS_NM = (0.3, 1.0)  # a nut tightened by fingers, and by a spanner (workshop practice)
_ENDS = ("left", "right")
# What to look at, in order, by whose fault it is.
_REMEDIES: dict[truing.Fault, tuple[str, ...]] = {
    "none": ("Turn on.",),
    "tailstock": (
        "The tailstock's end of the holding is off: wipe the centre and its seat, slacken the nut or the quill.",
        "Centres that do not meet tip to tip: set the tailstock over. A mandrel that is bent: roll it on a flat plate.",
    ),
    "headstock": (
        "The headstock's end of the holding is off: wipe the spindle's taper and the collet, look for a burr.",
        "Turn the mandrel half round in its collet and read again: if the high side goes with it, the mandrel is bent.",
    ),
    "holding": (
        "The holding is off alike at both ends: dirt in the taper or the jaws, or a chuck that does not run true.",
        "Take it out, wipe both faces, put it back; then read again.",
    ),
    "left end": (
        "The barrel's left end is out of square, or its bushing is dirty or worn.",
        "Turn that bushing end for end: if the high side goes with it, it is the bushing. Else square the end again.",
    ),
    "right end": (
        "The barrel's right end is out of square, or its bushing is dirty or worn.",
        "Turn that bushing end for end: if the high side goes with it, it is the bushing. Else square the end again.",
    ),
    "hole": ("The hole lies off the outside, alike at both ends: turning puts that right, as far as it cleans up.",),
    "askew": (
        "The hole runs askew through the barrel, or both its ends are out of square.",
        "Square both ends to the hole, then read again.",
    ),
    "both": ("Holding and barrel are both off. Put the holding right first, then read again.",),
}
_FAULTS: dict[truing.Fault, str] = {
    "none": "It runs true",
    "tailstock": "Off at the tailstock's end of the holding",
    "headstock": "Off at the headstock's end of the holding",
    "holding": "The holding is off",
    "left end": "The barrel's left end, or its bushing",
    "right end": "The barrel's right end, or its bushing",
    "hole": "The hole lies off the outside",
    "askew": "The hole runs askew",
    "both": "Holding and barrel are both off",
}
_LIPS = {
    "stays with the bushing": "A lip that stays with the bushing is the bushing's: wipe it; look for wear and glue.",
    "goes round with the barrel": "A lip that goes round with the barrel is the barrel's: its end is not square.",
    "does both": "A lip of both kinds: look at the two centres tip to tip before anything else.",
}


def true_plans(job: Job, sizes: tuple[SizePlan, ...], units: Units) -> tuple[TruePlan, ...]:
    """What was read of each barrel, and what follows."""
    return tuple(_true_plan(job.finish.truing(size.number), size, units) for size in sizes)


def true_answer(true: TruePlan, units: Units) -> str:
    """Whose fault it is, or what is still to be read."""
    if true.fault is not None:
        return f"{_FAULTS[true.fault]}: {units.mm(true.most_mm, 2)} at most"
    if not true.most_mm:
        return "Not read yet: a dial at four angles, or a nail at the bushing"
    rest = "whose fault it is shows half a turn on" if true.read.by == "a dial" else "read the other end too"
    return f"{units.mm(true.most_mm, 2)} off: {rest}"


def hold_plan(job: Job, shop: Shop) -> HoldPlan | None:
    """The stack on the mandrel; None where barrels are held otherwise, or nobody has said how."""
    holding = shop.holding
    if holding.way != "mandrel" or job.pen is None:
        return None
    barrels = job.pen.barrels
    bushings = len(barrels) + 1
    stack = sum(one.tube_length_mm for one in barrels) + bushings * holding.bushing_mm + holding.nut_mm
    fill, spacers = truing.spacers_mm(holding.shaft_mm, stack, holding.spacers_mm)
    terms = (
        Term("S", "the mandrel's free length", holding.shaft_mm, _MM),
        Term("B", "barrels", sum(one.tube_length_mm for one in barrels), _MM),
        Term("b", f"{bushings} bushings", bushings * holding.bushing_mm, _MM),
        Term("N", "nut and washer", holding.nut_mm, _MM),
    )
    figure = Figure("Spacers must fill", fill, _MM, "S − B − b − N", terms, "so that the nut reaches its thread")
    order = barrels if holding.governs == "the left end" else barrels[::-1]
    return HoldPlan(_names(order, spacers), figure, spacers, tuple(_bow_lines(holding)))


def hold_lines(way: str, hold: HoldPlan | None) -> tuple[str, ...]:
    """How the barrels go onto the lathe, before the tool touches them."""
    if hold is not None:
        return (f"On the mandrel, from the headstock: {', '.join(hold.stack)}.", *hold.lines)
    if way == "between centres":
        return ("Between centres: both meet tip to tip; each barrel with its two bushings, the quill just snug.",)
    if way == "chuck and tailstock":
        return ("In the chuck: wipe jaws and spindle, bring the tailstock up to the bushing, snug and no more.",)
    return ()


def stacks(plan: Plan) -> Iterator[Finding]:
    """Barrels that do not go onto the mandrel together."""
    hold = plan.finish.hold if plan.finish is not None else None
    if hold is not None and hold.fill_mm.value < 0:
        because = (
            f"Barrels, bushings and nut are {plan.units.mm(-hold.fill_mm.value)} longer than the mandrel is free. "
            "Turn them one after the other, or between centres."
        )
        yield Finding(Severity.CAUTION, Station.FINISH, "The barrels do not go onto the mandrel together.", because)


def out_of_true(plan: Plan) -> Iterator[Finding]:
    """A barrel that does not run true, and one that does not clean up."""
    for true in plan.finish.trues if plan.finish is not None else ():
        name = true.barrel.name
        if true.clean_mm is not None and true.clean_mm.value < 0:
            because = (
                f"Turned round in this holding {plan.units.mm(-true.clean_mm.value, 2)} are missing on the radius at "
                "its thinnest. Put the holding right, or fill it up and turn it again."
            )
            yield Finding(Severity.STOP, Station.FINISH, f"{name} does not clean up as it is held.", because)
        elif true.fault not in {None, "none", "hole"} and true.most_mm > _FELT_MM:
            because = f"It is {plan.units.mm(true.most_mm, 2)} off. {' '.join(true.lines[:2])}"
            yield Finding(Severity.CAUTION, Station.FINISH, f"{name} does not run true.", because)


def _true_plan(read: Truing, size: SizePlan, units: Units) -> TruePlan:
    is_wall = read.by == "the wall, by calipers"
    ends = tuple(_end(name, getattr(read, name), getattr(read, f"{name}_turned"), is_wall=is_wall) for name in _ENDS)
    holding = [end.holding for end in ends if end.holding is not None]
    barrel = [end.barrel for end in ends if end.barrel is not None]
    fault: truing.Fault | None = None
    if len(holding) == len(barrel) == len(_ENDS):
        fault = truing.fault_of((holding[0], holding[1]), (barrel[0], barrel[1]))
        if is_wall and fault != "none":
            fault = "hole"  # calipers see the hole and the outside; how an end sits in a holding they do not
    lines = [*_wrong(read, ends, units), *_fault_lines(read, ends, fault, units)]
    return TruePlan(size.number, size.barrel, read, (ends[0], ends[1]), fault, _clean(size, ends), tuple(lines))


def _end(name: str, first: Round, turned: Round, *, is_wall: bool) -> TrueEnd:
    """One end: how far off, how oval, and the shares of holding and barrel where it was read twice."""
    one, other = _runout(first), _runout(turned)
    if one is None:
        return TrueEnd(name, None, None, None, None)
    terms = tuple(
        Term(f"d{angle}", f"read at {angle}°", value, _MM)
        for angle, value in zip((0, 90, 180, 270), first.read, strict=True)
    )
    formula = "½ √((d0 − d180)² + (d90 − d270)²)"
    off = Figure(f"Off the axis, {name}", one.eccentricity_mm, _MM, formula, terms, "geometry", digits=2)
    oval = Figure(f"Oval, {name}", abs(one.oval_mm), _MM, "|d0 − d90 + d180 − d270| / 4", terms, "geometry", digits=2)
    holding, barrel = (0j, one.off) if is_wall else (None, None)
    if other is not None and not is_wall:
        holding, barrel = truing.shares(one.off, other.off)
    return TrueEnd(name, off, oval, holding, barrel, one.direction_deg)


def _runout(readings: Round) -> truing.Runout | None:
    read = readings.read
    if len(read) < len(ANGLES) or max(read) - min(read) > _SQUARE_MM:
        return None
    return truing.runout((read[0], read[1], read[2], read[3]))


def _wrong(read: Truing, ends: tuple[TrueEnd, ...], units: Units) -> Iterator[str]:
    """Readings that say nothing: one is missing, or they are too far apart."""
    for name in (*_ENDS, *(f"{end}_turned" for end in _ENDS)):
        values, where = (
            getattr(read, name).read,
            name.replace("_turned", " end, turned") if "_" in name else f"{name} end",
        )
        if 0 < len(values) < len(ANGLES):
            yield f"At the {where} {len(values)} of four angles are read: the others are still wanted."
        elif values and max(values) - min(values) > _SQUARE_MM:
            apart = units.mm(max(values) - min(values))
            yield f"At the {where} the readings are {apart} apart: round it first, or see whether the dial slipped."
    if any(end.off is not None and end.holding is None for end in ends):
        yield "Turn the barrel half round in its holding and read again: then it shows whose fault it is."


def _fault_lines(read: Truing, ends: tuple[TrueEnd, ...], fault: truing.Fault | None, units: Units) -> Iterator[str]:
    """What is wrong and what to do about it, first what was measured, then what was felt."""
    if fault is not None:
        yield from _REMEDIES[fault]
    for end in ends:
        if end.off is not None and end.off.value > _FELT_MM and fault not in {"none", "hole"}:
            most = units.mm(end.off.value, 2)
            yield f"Turned as it is held, a lip of up to {most} would be felt at the {end.name} end."
    if read.lip in _LIPS:
        yield _LIPS[read.lip]
    if read.centres == "do not meet":
        yield "The centres do not meet: set the tailstock over until their tips do, then feel for the lip again."


def _clean(size: SizePlan, ends: tuple[TrueEnd, ...]) -> Figure | None:
    """What is left at the worse end when it is turned round to its size; None where nobody has measured it."""
    found = []
    for end in ends:
        place = PLACES.index(end.name)
        now, tool = size.now_mm[place], size.tool_mm[place]
        if now is None or end.off is None:
            continue
        left = truing.left_to_clean_mm(now, tool.value, end.off.value)
        terms = (
            Term("D", f"it measures now, {end.name}", now, _MM, "measured"),
            Term("T", "it is turned to", tool.value, _MM),
            Term("e", "off the axis", end.off.value, _MM),
        )
        found.append(Figure("Left to clean up, radius", left, _MM, "D / 2 − T / 2 − e", terms, "geometry", digits=2))
    return min(found, key=lambda figure: figure.value, default=None)


def _names(barrels: tuple[Barrel, ...], spacers: tuple[float, ...]) -> tuple[str, ...]:
    stack = ["bushing"]
    for barrel in barrels:
        stack += [barrel.name, "bushing"]
    return (*stack, *(f"spacer {size:g}" for size in spacers), "nut")


def _bow_lines(holding: Holding) -> Iterator[str]:
    """How much more a mandrel bows when its nut is tightened with a spanner."""
    gently, hard = (mandrel_bow(holding.rod_mm, holding.shaft_mm, torque)[2] for torque in _TURNS_NM)
    if hard > gently * 1.2:
        worse = f"{hard:.1f} times as far" if hard < 10 else "until it whips"
        yield f"Nut finger-tight and an eighth of a turn: by the spanner a bent shaft bows {worse}."
    else:
        yield "Nut finger-tight and an eighth of a turn: a tight nut bows the shaft."
