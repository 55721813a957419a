"""What is to be said of the tube in its hole: room, glue, light through the wall, chips, and squaring."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft import boring
from orvek.craft.boring_plan import may_shorten, shortened_mm
from orvek.craft.turning import LEAST_WALL_MM
from orvek.documents import JOB, path_to, present
from orvek.planning.bore.results import HolePlan
from orvek.planning.bore.tubing import paint_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.shortening import cuts_mm, decided
from orvek.planning.words import counted

_PILOT_WIDE_MM, _PILOT_NARROW_MM = 0.1, 0.3  # than what it goes into (workshop practice)
_TIGHT_MM = 0.02  # a tube that is so much under its hole still goes in


def tube(plan: Plan) -> Iterator[Finding]:
    """Whether the tube goes in and the glue fills the room round it."""
    units = plan.units
    if plan.bore is None:
        return
    glue = plan.bore.glue
    if not any(hole.tube for hole in plan.bore.holes):
        return
    slow = Remedy("Glue with slow epoxy", (Edit(path_to(JOB.bore.glue), "slow epoxy"),))
    if plan.shop.glue(plan.job.bore.glue) is None:
        because = f"Open time and gaps of this glue are not known. The schedule uses those of {glue.key}."
        title = f"“{plan.job.bore.glue}” is not on your glue shelf."
        yield Finding(Severity.CAUTION, Station.BORE, title, because, (slow,))
        return
    for hole in plan.bore.holes:
        if hole.tube is None:
            continue
        room, is_measured = hole.tube.gap_mm.value, hole.hole.measured_mm is not None or hole.hole.tube_mm is not None
        if is_measured and room < -_TIGHT_MM:
            because = (
                f"The hole measures {units.mm(hole.bored_mm, 2)}, with paint {units.mm(-room, 2)} too little. Ream it."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube will not go in.", because)
        elif is_measured and room > boring.LOOSE_CLEARANCE_MM:
            because = f"{units.mm(room, 2)} of room; {glue.key} fills {units.mm(2 * glue.gap_mm, 2)}."
            if glue.gap_mm >= room / 2:
                title = f"{hole.name}: turn the tube until it is wet all round."
                yield Finding(Severity.NOTE, Station.BORE, title, because)
            else:
                because += " Thick epoxy fills more, and a sleeve of paper or shavings takes up the rest."
                yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube is loose.", because, (slow,))
        elif not is_measured and room < boring.LEAST_CLEARANCE_MM - 1e-9 and paint_mm(plan.job, hole.number):
            yield _painted(plan, hole, room)
        elif room / 2 > glue.gap_mm:
            because = f"{units.mm(room / 2, 2)} all round; {glue.key} fills {units.mm(glue.gap_mm, 2)}."
            title = f"{hole.name}: the glue may not fill the gap."
            yield Finding(Severity.CAUTION, Station.BORE, title, because, (slow,))
    if not glue.for_metal and glue.key != "polyurethane":
        because = f"{glue.key.capitalize()} does not hold brass for long."
        yield Finding(Severity.CAUTION, Station.BORE, "This glue lets go of the tube.", because, (slow,))
    if glue.key == "polyurethane" and not plan.job.bore.is_plugged:
        because = "It foams into an open tube, and must then be carved and reamed out."
        plug = Remedy("Plug the tubes", (Edit(path_to(JOB.bore.is_plugged), True),))
        yield Finding(Severity.CAUTION, Station.BORE, "The glue will foam into the tubes.", because, (plug,))


def _painted(plan: Plan, hole: HolePlan, room_mm: float) -> Finding:
    """Paint that leaves the tube no room: fewer coats where that is enough, else a wider bit."""
    units = plan.units
    paint, coats, bare = paint_mm(plan.job, hole.number), plan.job.bore.paint_coats, hole.barrel
    each = paint / coats
    fewer = max((n for n in range(1, coats) if room_mm + (coats - n) * each >= boring.LEAST_CLEARANCE_MM), default=0)
    remedies = []
    if fewer:
        words = f"Paint {'one coat' if fewer == 1 else f'{fewer} coats'}"
        remedies.append(Remedy(words, (Edit(path_to(JOB.bore.paint_coats), fewer),)))
    wider = boring.bit_for_tube(bare.tube_diameter_mm + paint)
    slimmest = min(size for _, size in bare.profile)
    if wider is not None and wider.diameter_mm <= slimmest - 2 * LEAST_WALL_MM:
        edit = Edit(path_to(present(JOB.pen).barrels[hole.number].bit_diameter_mm), round(wider.diameter_mm, 4))
        remedies.append(Remedy(f"Drill with {wider.name}", (edit,)))
    because = (
        f"{counted(coats, 'coat')} of paint take about {units.mm(paint, 2)} of the diameter and leave "
        f"{units.mm(max(0.0, room_mm), 2)}; glue wants {units.mm(boring.LEAST_CLEARANCE_MM, 2)} and more. Try the tube "
        "dry before you glue it."
    )
    title = f"{hole.name}: with its paint the tube will hardly go in."
    return Finding(Severity.CAUTION, Station.BORE, title, because, tuple(remedies))


def reclaimed(plan: Plan) -> Iterator[Finding]:
    """A tube that was used before, whose outside nobody measured."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.tube is not None and hole.hole.tube == "reclaimed" and hole.hole.tube_mm is None:
            because = (
                "Old glue leaves it thicker or, scraped, thinner than the pen says. Scrape it bright, measure it at "
                "three places and see that it is still as long as its barrel."
            )
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: measure the old tube.", because)


def light(plan: Plan) -> Iterator[Finding]:
    """What the light test in the bored blank says of the tube showing."""
    for hole in plan.bore.holes if plan.bore else ():
        is_painted = plan.job.blank.paint(hole.number).where != "none"
        if hole.tube and hole.hole.light in {"a little", "much"} and not is_painted:
            because = (
                f"{hole.hole.light.capitalize()} light came through the wall, and it gets thinner yet: the tube will "
                "show."
            )
            remedies = tuple(
                Remedy(
                    f"Paint the {where} of {hole.name}",
                    (Edit(path_to(JOB.blank.paints), plan.job.painted([hole.number], where)),),
                )
                for where in ("hole", "tube")
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube will show.", because, remedies)


def chip(plan: Plan) -> Iterator[Finding]:
    """What a chip at an end costs."""
    units = plan.units
    for hole in plan.bore.holes if plan.bore else ():
        if hole.hole.chip_mm > 0:
            off = shortened_mm(hole.hole.chip_mm)
            spare = hole.beyond_the_chip_mm
            if off <= spare:
                because = (
                    f"Squaring takes {units.mm(spare)} at that end anyway: the chip of {units.mm(hole.hole.chip_mm)} "
                    "goes."
                )
                yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: the chip comes off in squaring.", because)
            else:
                because = (
                    f"It takes {units.mm(off)} at that end, {units.mm(off - spare)} into the tube; both ends alike "
                    f"keep the pattern in the middle. {_shortening(plan, hole, off - spare)}"
                )
                yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: a chip reaches past the trim.", because)


def _shortening(plan: Plan, hole: HolePlan, cut_mm: float) -> str:
    """Whether the pen lets a barrel become shorter by so much at both ends."""
    play = hole.barrel.play_mm
    if play is None:
        return "See how much shorter this pen's mechanism lets the barrel be, or fill the chip."
    flaws = decided(plan.job, hole.number, 1)
    also = " with the flaws that are to be cut off already" if flaws else ""
    if may_shorten(max(cut_mm, *cuts_mm(flaws, hole.barrel)), play):
        return (
            f"This pen lets the barrel lose {plan.units.mm(play)}: shorten both ends by {plan.units.mm(cut_mm)}{also}."
        )
    return f"This pen lets the barrel lose only {plan.units.mm(play)}{also}: fill the chip, or begin again."


def pilot(plan: Plan) -> Iterator[Finding]:
    """An end mill whose pilot is another pen's: too wide for the tube, or so narrow that it wobbles."""
    units, bore = plan.units, plan.bore
    for hole in bore.holes if bore and plan.job.bore.squared == "with an end mill" else ():
        barrel = hole.barrel
        if barrel.pilot_mm is None:
            continue
        guide = hole.guide_mm
        told = f"The pilot is {units.mm(barrel.pilot_mm, 2)}, what it goes into about {units.mm(guide, 2)}."
        path = path_to(present(JOB.pen).barrels[hole.number].pilot_mm)
        jig = Remedy("Square in a sanding jig", (Edit(path_to(JOB.bore.squared), "in a sanding jig"),))
        if barrel.pilot_mm > guide + _PILOT_WIDE_MM:
            because = f"{told} Take the mill of this pen, a sleeve, or a sanding jig."
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the pilot does not go in.", because, (jig,))
        elif barrel.pilot_mm < guide - _PILOT_NARROW_MM:
            because = f"{told} It wobbles, and the end comes out askew: a sleeve over it, or a sanding jig."
            yield Finding(
                Severity.CAUTION, Station.BORE, f"{hole.name}: the pilot wobbles.", because,
                (jig, Remedy("It was not measured", (Edit(path, None),))),
            )  # fmt: skip


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (tube, reclaimed, light, chip, pilot)
