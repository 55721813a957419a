"""What is to be said of the chamber, the vacuum, the uptake and the oven."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft import bubbles
from orvek.craft.soaking import across_mm
from orvek.documents import JOB, path_to
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.soak.results import DyePlan
from orvek.planning.soak.room import TOO_MUCH_PCT
from orvek.planning.vacuum import boiling, vessel

_HOT_C = 110.0
_STACKED = 3
_TIGHT_MM = 1.0  # nobody measures a chamber closer


def chamber(plan: Plan) -> Iterator[Finding]:
    """A vessel that implodes, under whatever goes in: wood in resin, or a colour."""
    if plan.soak is not None and plan.soak.vacuum is not None:
        yield from vessel(Station.SOAK, plan.job.soak.bath.chamber, path_to(JOB.soak.bath.chamber))


def fits(plan: Plan) -> Iterator[Finding]:
    """Whether pieces and foam find room in the chamber."""
    units = plan.units
    if plan.soak is None or plan.soak.bath is None:
        return
    bath, head = plan.job.soak.bath, plan.soak.bath.head_mm
    across = _across_mm(plan, bath.stands)
    if across > bath.chamber_mm + _TIGHT_MM:
        because = (
            f"{bath.stands.capitalize()} they take {units.mm(across)} across; it is {units.mm(bath.chamber_mm)} wide."
        )
        upright = Remedy("Stand them upright", (Edit(path_to(JOB.soak.bath.stands), "upright"),))
        tall = plan.job.soak.wood.length_mm + bath.cover_mm
        fits_upright = tall <= bath.chamber_high_mm and _across_mm(plan, "upright") <= bath.chamber_mm + _TIGHT_MM
        remedies = (upright,) if bath.stands == "lying" and fits_upright else ()
        yield Finding(Severity.CAUTION, Station.SOAK, "They do not fit into the chamber.", because, remedies)
        return
    liquid = bath.chamber_high_mm - head.value
    lying = Remedy("Lay them down", (Edit(path_to(JOB.soak.bath.stands), "lying"),))
    if head.value < 0:
        because = f"Pieces and cover take {units.mm(liquid)}; it is {units.mm(bath.chamber_high_mm)} high."
        fits_lying = _across_mm(plan, "lying") <= bath.chamber_mm + _TIGHT_MM
        remedies = (lying,) if bath.stands == "upright" and fits_lying else ()
        yield Finding(Severity.CAUTION, Station.SOAK, "They do not fit into the chamber.", because, remedies)
    elif head.value < liquid:
        because = (
            f"{units.mm(head.value)} free above {units.mm(liquid)} of resin: it foams to twice its height when the air "
            "comes out. Fewer pieces, or begin with little vacuum."
        )
        yield Finding(Severity.NOTE, Station.SOAK, "The froth may reach the lid.", because)


def _across_mm(plan: Plan, stands: str) -> float:
    """How wide a round chamber must be at least: for the ends of all of them, or for one that lies."""
    wood = plan.job.soak.wood
    if stands == "lying":
        return math.hypot(wood.length_mm, min(wood.width_mm, wood.thick_mm))
    is_round = wood.form in {"round", "hollow round"}
    return across_mm(wood.width_mm, wood.thick_mm, wood.count, is_round=is_round)


def dial(plan: Plan) -> Iterator[Finding]:
    """What the vacuum gauge can and cannot say."""
    units = plan.units
    vacuum = plan.soak.vacuum if plan.soak else None
    if vacuum is None or vacuum.left_kpa is None:
        return
    left = vacuum.left_kpa
    if left < 0:
        because = (
            f"At this height the air presses with {vacuum.dial_most.written(units)}; more than that no pump takes "
            "away. The dial, or the height in your preferences, is off."
        )
        yield Finding(Severity.NOTE, Station.SOAK, "The dial shows more than there is.", because)
        return
    warm = plan.job.batch.shop_temperature_c
    water = bubbles.water_vapour_kpa(warm)
    in_water = any(dye.dye.way == "under vacuum" and dye.dye.carrier == "water" for dye in _dyes(plan))
    if left < water + bubbles.GAUGE_ERROR_KPA:
        because = (
            f"{units.kpa(left)} are left, and the gauge may be {units.kpa(bubbles.GAUGE_ERROR_KPA)} off; water boils "
            f"at {units.kpa(water)}. "
        )
        because += "The dye's own water boils then. " if in_water else "Damp wood froths for hours. "
        because += "Crack the valve a little: if the froth stops at once, it was boiling."
        yield Finding(Severity.NOTE, Station.SOAK, "Froth may be boiling, not air.", because)
    vapour = plan.job.soak.bath.boils_kpa
    has_resin = plan.job.soak.route == "stabilised" or any(
        dye.dye.way == "under vacuum" and dye.dye.carrier == "resin" for dye in _dyes(plan)
    )
    if vapour is not None and has_resin:
        boils_at = bubbles.boils_below_kpa(vapour, warm)
        yield from boiling(plan, Station.SOAK, left, boils_at, path_to(JOB.soak.bath.gauge_bar))


def _dyes(plan: Plan) -> tuple[DyePlan, ...]:
    return plan.soak.dyes if plan.soak else ()


def pressed(plan: Plan) -> Iterator[Finding]:
    """Pressure that the pot is not rated for, or that no pot was named for."""
    bar = plan.job.soak.bath.pressed_bar
    if plan.soak is None or plan.soak.bath is None or bar is None:
        return
    pot = plan.job.pour.pot
    none = Remedy("No pressure", (Edit(path_to(JOB.soak.bath.pressed_bar), None),))
    if pot is None:
        because = f"{plan.units.bar(bar)} in a vessel that nobody described. Only a pot that its plate rates for it."
        yield Finding(Severity.CAUTION, Station.SOAK, "Is the pot rated for this pressure?", because, (none,))
    elif bar > pot.rated_bar:
        because = f"The plate of {pot.name} says {plan.units.bar(pot.rated_bar)}."
        edit = Edit(path_to(JOB.soak.bath.pressed_bar), round(0.8 * pot.rated_bar, 1))
        less = Remedy(f"Press with {plan.units.bar(0.8 * pot.rated_bar)}", (edit,))
        yield Finding(Severity.STOP, Station.SOAK, "The pot is not rated for this.", because, (less, none))


def soak_time(plan: Plan) -> Iterator[Finding]:
    """Pieces that are taken out too soon after the vacuum."""
    units = plan.units
    if plan.soak is None or plan.soak.bath is None:
        return
    least, planned = plan.soak.bath.soak_least_min, plan.job.soak.bath.soaked_min
    if planned < least.value - 0.5:
        because = (
            f"{units.minutes(planned)} after {units.minutes(plan.job.soak.bath.vacuum_min)} of vacuum. The air's "
            "pressure drives the resin in once it is back, and that goes with the root of the time."
        )
        remedy = Remedy(
            f"Leave them in {least.written(units)}", (Edit(path_to(JOB.soak.bath.soaked_min), least.value),)
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
    if taken > TOO_MUCH_PCT:
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
    units = plan.units
    if plan.soak is None or plan.soak.heat is None:
        return
    how = plan.job.soak.heat
    if not math.isfinite(plan.soak.heat.core_min.value):
        because = f"The oven is at {units.degrees_c(how.oven_c)}, the core is to reach {units.degrees_c(how.core_c)}."
        warmer = Remedy(
            f"Oven at {units.degrees_c(how.core_c + 5)}", (Edit(path_to(JOB.soak.heat.oven_c), how.core_c + 5),)
        )
        yield Finding(Severity.CAUTION, Station.SOAK, "The core never gets that warm.", because, (warmer,))
    if how.oven_c > _HOT_C:
        because = f"At {units.degrees_c(how.oven_c)} resin gives off more heat than it loses and can crack the wood."
        yield Finding(Severity.CAUTION, Station.SOAK, "The oven is hot for stabilising resin.", because)
    if max(how.wide, how.high) >= _STACKED:
        because = (
            "Touching pieces warm like one thick block: hours longer, and their middle may overheat while it sets."
        )
        edits = (Edit(path_to(JOB.soak.heat.wide), 1), Edit(path_to(JOB.soak.heat.high), 1))
        yield Finding(
            Severity.NOTE, Station.SOAK, "Lay them apart in the oven.", because, (Remedy("Lay them apart", edits),)
        )


def soft(plan: Plan) -> Iterator[Finding]:
    """Soft wood that stays as it is."""
    soak = plan.job.soak
    if soak.route == "soft, not stabilised" and plan.bore is not None and plan.bore.stuff.key not in {"burl", "fibre"}:
        because = "It tears out, turns away fast and soaks up glue: bored like burl it gets a longer exit and a pilot."
        remedy = Remedy("Bore it like burl", (Edit(path_to(JOB.bore.stuff), "burl"),))
        yield Finding(Severity.NOTE, Station.SOAK, "Soft wood is bored gently.", because, (remedy,))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    chamber, fits, dial, pressed, soak_time, uptake, heat, soft,
)  # fmt: skip
