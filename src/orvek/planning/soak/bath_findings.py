"""What is to be said of the chamber, the vacuum, the uptake, the oven and the colours."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft import bubbles
from orvek.craft.dyeing import depth_mm, hours_needed
from orvek.documents import DyeStep
from orvek.planning.bar import USUAL_BAR_MM
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.soak.dyes import dyeing_of, seen_before
from orvek.planning.soak.results import DyePlan
from orvek.quantities import Dimension, write

_TOO_MUCH_PCT = 105.0
_HOT_C = 110.0
_STACKED = 3
_SHOWN_PART = 0.25  # of a depth: more off, and the pictures mislead
_CLEARLY = 1.3  # times what is needed: a guess that much deeper is not doubted aloud (a choice)
_DAYS_H = 14 * 24.0


def chamber(plan: Plan) -> Iterator[Finding]:
    """A vessel that implodes."""
    if plan.soak is None or plan.soak.bath is None:
        return
    rated = Remedy("A rated steel chamber", (Edit(("soak", "bath", "chamber"), "steel"),))
    match plan.job.soak.bath.chamber:
        case "plain glass":
            because = "Plain glass bursts inwards under vacuum without warning, and throws splinters."
            yield Finding(Severity.STOP, Station.SOAK, "Never pull a vacuum on plain glass.", because, (rated,))
        case "not known":
            because = "Only a vessel that its maker rates for vacuum: steel, thick acrylic, tempered glass in a cage."
            yield Finding(Severity.CAUTION, Station.SOAK, "What is the chamber made of?", because, (rated,))
        case "thick acrylic, rated":
            because = "Some resins and all alcohol craze it: look along its wall against the light before every use."
            yield Finding(Severity.NOTE, Station.SOAK, "Look the acrylic over for crazing.", because)


def fits(plan: Plan) -> Iterator[Finding]:
    """Whether pieces and foam find room in the chamber."""
    if plan.soak is None or plan.soak.bath is None:
        return
    bath, head = plan.job.soak.bath, plan.soak.bath.head_mm
    liquid = bath.chamber_high_mm - head.value
    lying = Remedy("Lay them down", (Edit(("soak", "bath", "stands"), "lying"),))
    if head.value < 0:
        because = f"Pieces and cover take {plan.mm(liquid)}; it is {plan.mm(bath.chamber_high_mm)} high."
        remedies = (lying,) if bath.stands == "upright" else ()
        yield Finding(Severity.CAUTION, Station.SOAK, "They do not fit into the chamber.", because, remedies)
    elif head.value < liquid:
        because = (
            f"{plan.mm(head.value)} free above {plan.mm(liquid)} of resin: it foams to twice its height when the air "
            "comes out. Fewer pieces, or begin with little vacuum."
        )
        yield Finding(Severity.NOTE, Station.SOAK, "The froth may reach the lid.", because)


def dial(plan: Plan) -> Iterator[Finding]:
    """What the vacuum gauge can and cannot say."""
    soak = plan.soak
    if soak is None or soak.bath is None or soak.bath.left_kpa is None:
        return
    left, most = soak.bath.left_kpa, soak.bath.dial_most
    if left < 0:
        because = (
            f"At this height the air presses with {most.written(plan.units)}; more than that no pump takes away. The "
            "dial, or the height in your preferences, is off."
        )
        yield Finding(Severity.NOTE, Station.SOAK, "The dial shows more than there is.", because)
        return
    warm = plan.job.batch.shop_temperature_c
    water = bubbles.water_vapour_kpa(warm)
    if left < max(water, bubbles.GAUGE_ERROR_KPA):
        because = (
            f"{plan.kpa(max(0.0, left))} are left, within the gauge's error of all; water boils at {plan.kpa(water)}. "
            "Damp wood froths for hours: crack the valve a little, and if the froth stops at once it was boiling."
        )
        yield Finding(Severity.NOTE, Station.SOAK, "Froth may be boiling, not air.", because)
    vapour = plan.job.soak.bath.boils_kpa
    if vapour is not None and bubbles.boils(vapour, warm, left):
        because = f"{plan.kpa(left)} are left, and by its safety sheet it boils near {plan.kpa(vapour)}."
        yield Finding(Severity.CAUTION, Station.SOAK, "The resin itself boils away.", because)


def pressed(plan: Plan) -> Iterator[Finding]:
    """Pressure that the pot is not rated for, or that no pot was named for."""
    bar = plan.job.soak.bath.pressed_bar
    if plan.soak is None or plan.soak.bath is None or bar is None:
        return
    pot = plan.job.pour.pot
    none = Remedy("No pressure", (Edit(("soak", "bath", "pressed_bar"), None),))
    if pot is None:
        because = f"{plan.bar(bar)} in a vessel that nobody described. Only a pot that its plate rates for it."
        yield Finding(Severity.CAUTION, Station.SOAK, "Is the pot rated for this pressure?", because, (none,))
    elif bar > pot.rated_bar:
        because = f"The plate of {pot.name} says {plan.bar(pot.rated_bar)}."
        edit = Edit(("soak", "bath", "pressed_bar"), round(0.8 * pot.rated_bar, 1))
        less = Remedy(f"Press with {plan.bar(0.8 * pot.rated_bar)}", (edit,))
        yield Finding(Severity.STOP, Station.SOAK, "The pot is not rated for this.", because, (less, none))


def soak_time(plan: Plan) -> Iterator[Finding]:
    """Pieces that are taken out too soon after the vacuum."""
    if plan.soak is None or plan.soak.bath is None:
        return
    least, planned = plan.soak.bath.soak_least_min, plan.job.soak.bath.soaked_min
    if planned < least.value - 0.5:
        because = (
            f"{plan.minutes(planned)} after {plan.minutes(plan.job.soak.bath.vacuum_min)} of vacuum. The air's "
            "pressure drives the resin in once it is back, and that goes with the root of the time."
        )
        remedy = Remedy(
            f"Leave them in {least.written(plan.units)}", (Edit(("soak", "bath", "soaked_min"), least.value),)
        )
        yield Finding(Severity.NOTE, Station.SOAK, "They come out of the resin too soon.", because, (remedy,))


def uptake(plan: Plan) -> Iterator[Finding]:
    """What was weighed after the bath."""
    soak = plan.soak
    if soak is None or soak.bath is None:
        return
    if plan.job.soak.bath.after_g is not None and soak.wood.dry_g is None:
        because = "Without the weight they had when dry, nobody knows how much of it is resin."
        yield Finding(Severity.NOTE, Station.SOAK, "What did they weigh oven-dry?", because)
    if soak.bath.taken_pct is None:
        return
    taken, usual = soak.bath.taken_pct.value, soak.wood.takes_pct
    range_words = f"{usual.low:.0f} to {usual.high:.0f} % ({soak.wood.takes_source})"
    if taken > _TOO_MUCH_PCT:
        because = f"{taken:.0f} % of what there is room for: wet on the outside, or a weight or size is wrong."
        yield Finding(Severity.CAUTION, Station.SOAK, "They took up more than there is room for.", because)
    elif taken < usual.low:
        because = (
            f"{taken:.0f} % of the possible; such wood takes {range_words}. Back into the bath, or go on as it is."
        )
        yield Finding(Severity.CAUTION, Station.SOAK, "They took up little.", because)
    else:
        because = f"{taken:.0f} % of the possible; such wood takes {range_words}."
        yield Finding(Severity.NOTE, Station.SOAK, "They took up enough.", because)


def heat(plan: Plan) -> Iterator[Finding]:
    """An oven in which the core never arrives, is too hot, or holds too thick a stack."""
    if plan.soak is None or plan.soak.heat is None:
        return
    how = plan.job.soak.heat
    if not math.isfinite(plan.soak.heat.core_min.value):
        because = f"The oven is at {plan.degrees_c(how.oven_c)}, the core is to reach {plan.degrees_c(how.core_c)}."
        warmer = Remedy(
            f"Oven at {plan.degrees_c(how.core_c + 5)}", (Edit(("soak", "heat", "oven_c"), how.core_c + 5),)
        )
        yield Finding(Severity.CAUTION, Station.SOAK, "The core never gets that warm.", because, (warmer,))
    if how.oven_c > _HOT_C:
        because = f"At {plan.degrees_c(how.oven_c)} resin gives off more heat than it loses and can crack the wood."
        yield Finding(Severity.CAUTION, Station.SOAK, "The oven is hot for stabilising resin.", because)
    if max(how.wide, how.high) >= _STACKED:
        because = (
            "Touching pieces warm like one thick block: hours longer, and their middle may overheat while it sets."
        )
        edits = (Edit(("soak", "heat", "wide"), 1), Edit(("soak", "heat", "high"), 1))
        yield Finding(
            Severity.NOTE, Station.SOAK, "Lay them apart in the oven.", because, (Remedy("Lay them apart", edits),)
        )


def survives(plan: Plan) -> Iterator[Finding]:
    """Whether the colour is still there once it is turned; what was seen decides, a guess says "may"."""
    for number, dye in enumerate(plan.soak.dyes if plan.soak else (), 1):
        if dye.needed_mm is None or _is_clear(dye):
            continue
        need, has = dye.needed_mm.written(plan.units), dye.side_mm.written(plan.units)
        wanted = dye.needed_mm.value * _CLEARLY
        remedies = (*(() if dye.is_seen else _deeper(plan, dye.step, dye.dye, wanted)), *_drawn(plan, dye))
        if not dye.is_seen and dye.side.best >= dye.needed_mm.value:
            because = (
                f"It may be {has} deep, a guess that may be {plan.mm(dye.side.low)} as well, and must be {need}. "
                "Saw an end off and look."
            )
            title = f"Colour {number} may be turned away in places."
            yield Finding(Severity.NOTE, Station.SOAK, title, because, remedies)
            continue
        what = "was" if dye.is_seen else "may be"
        longer = (
            f" The same way it would take {plan.minutes(60 * math.ceil(dye.hours_wanted))}."
            if not dye.is_seen and dye.hours_wanted < _DAYS_H
            else " A slimmer bar, rounded down first, needs less."
        )
        because = f"It {what} {has} deep at the sides, and the lathe takes off {need}.{longer}"
        title = f"Colour {number} {'is' if dye.is_seen else 'may be'} turned away."
        yield Finding(Severity.CAUTION, Station.SOAK, title, because, remedies)


def shown(plan: Plan) -> Iterator[Finding]:
    """A depth on the bar's pictures that is not the one that is expected or was seen."""
    for number, dye in enumerate(plan.soak.dyes if plan.soak else (), 1):
        remedies = tuple(_drawn(plan, dye))
        if _is_clear(dye) and remedies:
            basis = "was seen" if dye.is_seen else "is guessed"
            because = f"The pictures go by {plan.mm(dye.dye.depth_mm)}; {dye.side_mm.written(plan.units)} {basis}."
            yield Finding(Severity.NOTE, Station.SOAK, f"Colour {number} is drawn otherwise.", because, remedies)


def _boils(step: DyeStep) -> bool:
    """Whether a dye's carrier boils and burns in the way it is put in."""
    return step.carrier == "alcohol" and step.way == "under vacuum"


def _is_clear(dye: DyePlan) -> bool:
    """Whether the colour surely survives the lathe: as seen, or by a guess that is well above what is needed."""
    return dye.needed_mm is None or dye.side.best >= dye.needed_mm.value * (1.0 if dye.is_seen else _CLEARLY)


def _drawn(plan: Plan, dye: DyePlan) -> Iterator[Remedy]:
    """Draw the colour as deep as it lies, where it is drawn otherwise; deeper than the middle is all the same."""
    middle = plan.layout.across_mm / 2 if plan.layout else USUAL_BAR_MM[0] / 2
    drawn, told = min(dye.dye.depth_mm, middle), min(dye.side.best, middle)
    if abs(drawn - told) <= _SHOWN_PART * max(told, drawn):
        return
    depth, ends = round(min(60.0, max(0.1, dye.side.best)), 1), round(min(300.0, max(0.1, dye.end_mm.value)), 1)
    path = ("blank", "steps", dye.step)
    yield Remedy(
        f"Draw it {plan.mm(depth)} deep", (Edit((*path, "depth_mm"), depth), Edit((*path, "end_depth_mm"), ends))
    )


def bleeds(plan: Plan) -> Iterator[Finding]:
    """Colours that run again, and alcohol where it must not be."""
    boiling = [dye for dye in plan.soak.dyes if _boils(dye.dye)] if plan.soak else []
    if boiling:
        because = (
            "It boils as soon as the pump runs, and its vapour goes through the pump: that is how fires begin, and the "
            "colour goes no deeper. Water or resin may stand under vacuum; alcohol is dipped."
        )
        steps = [("blank", "steps", dye.step) for dye in boiling]
        dipped = Remedy("Dip it instead", tuple(Edit((*path, "way"), "dipped") for path in steps))
        water = Remedy("Dye in water", tuple(Edit((*path, "carrier"), "water") for path in steps))
        yield Finding(Severity.STOP, Station.SOAK, "No alcohol under vacuum.", because, (dipped, water))
    if plan.soak is not None and any(dye.dye.carrier == "alcohol" for dye in plan.soak.dyes):
        because = "It runs when it is wiped with alcohol, and thin glue pulls it along: wipe with a dry brush instead."
        yield Finding(Severity.NOTE, Station.SOAK, "Alcohol dye bleeds.", because)


def soft(plan: Plan) -> Iterator[Finding]:
    """Soft wood that stays as it is."""
    soak = plan.job.soak
    if soak.route == "soft, not stabilised" and plan.bore is not None and plan.bore.stuff.key != "burl":
        because = "It tears out, turns away fast and soaks up glue: bored like burl it gets a longer exit and a pilot."
        remedy = Remedy("Bore it like burl and fibre", (Edit(("bore", "stuff"), "burl"),))
        yield Finding(Severity.NOTE, Station.SOAK, "Soft wood is bored gently.", because, (remedy,))


def _deeper(plan: Plan, number: int, step: DyeStep, wanted_mm: float) -> Iterator[Remedy]:
    """Other carriers and ways, and as last the time, that would bring the colour deep enough."""
    path = ("blank", "steps", number)
    for changes, words in (
        ({"carrier": "alcohol"}, "Dye in alcohol"),
        ({"way": "under vacuum"}, "Dye it under vacuum"),
        ({"carrier": "water", "way": "under vacuum"}, "Dye in water, under vacuum"),
    ):
        other = step.with_(**changes)
        if other == step or _boils(other):
            continue
        seen = seen_before(plan.job, plan.shop, other, at_end=False)
        if depth_mm(dyeing_of(plan.job, other), seen).best >= wanted_mm:
            yield Remedy(words, tuple(Edit((*path, name), value) for name, value in changes.items()))
            return
    how = dyeing_of(plan.job, step)
    now = depth_mm(how, seen_before(plan.job, plan.shop, step, at_end=False)).best
    minutes = 60.0 * math.ceil(hours_needed(how, now, wanted_mm))
    if step.soaked_min < minutes <= 60 * _DAYS_H:
        words = f"Leave it in {write(minutes, Dimension.DURATION, plan.units)}"
        yield Remedy(words, (Edit((*path, "soaked_min"), minutes),))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    chamber, fits, dial, pressed, soak_time, uptake, heat, survives, shown, bleeds, soft,
)  # fmt: skip
