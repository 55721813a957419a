"""What is to be said before the press is switched on, and of a hole that was bored."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft import boring
from orvek.craft.boring_plan import may_shorten, rpm, shortened_mm
from orvek.documents import Paint
from orvek.planning.bore.part import HolePlan, exit_length_mm, spare_mm
from orvek.planning.drift import drift_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.quantities import Dimension, write

# Choices of this program, in %: a maker with a day's work in the bar wants to know of one in twenty, and of the side
# breaking out, which throws pieces, of one in a hundred.
TELL_FLAT_PCT, TELL_SIDE_PCT, TELL_SHIFT_PCT = 5.0, 1.0, 20.0
_TIGHT_MM = 0.02  # a tube that is so much under its hole still goes in


def holding(plan: Plan) -> Iterator[Finding]:
    """A round bar spins, in whatever is made for square ones."""
    bore, layout = plan.job.bore, plan.layout
    if plan.bore is None or layout is None:
        return
    held_round = bore.holding.startswith("round")
    if layout.is_round and (not held_round or bore.holding == "round in jaws"):
        because = "Round stock turns in flat jaws when the bit grabs, and the hole is burnished or the bar is thrown."
        remedies = (
            Remedy("Hold it in a collet", (Edit(("bore", "holding"), "round in a collet"),)),
            Remedy("Plane a flat on it first", (Edit(("bore", "holding"), "round with a flat"),)),
        )
        yield Finding(Severity.CAUTION, Station.BORE, "The round bar may spin.", because, remedies)
    elif not layout.is_round and held_round:
        remedy = Remedy("Hold it square in a vice", (Edit(("bore", "holding"), "square in a vice"),))
        because = "Its corners are all that a round holding touches. Bored square, it cannot turn."
        yield Finding(Severity.NOTE, Station.BORE, "The bar is still square.", because, (remedy,))


def which_way(plan: Plan) -> Iterator[Finding]:
    """A bit that enters on the points of V's is pushed aside by them."""
    has_vs = any(step.kind == "rip" for step in plan.job.blank.steps)
    if plan.bore is not None and has_vs and plan.job.bore.v_opens == "there are none":
        because = (
            "Bored from the side to which they are open the bit stays in the pocket; entering on the points it may "
            "leave sideways, small bits most."
        )
        remedies = tuple(
            Remedy(f"They open to the {side}", (Edit(("bore", "v_opens"), f"to the {side}"),))
            for side in ("left", "right")
        )
        yield Finding(Severity.NOTE, Station.BORE, "To which side do the V's open?", because, remedies)


def side(plan: Plan) -> Iterator[Finding]:
    """Whether the bit may come out of the side."""
    for hole in plan.bore.holes if plan.bore else ():
        room = (min(hole.section_mm[:2]) - hole.barrel.bit_diameter_mm) / 2
        if room <= 0:
            because = (
                f"A hole of {plan.bit(hole.barrel.bit_diameter_mm)} in a bar of {plan.mm(min(hole.section_mm[:2]))}."
            )
            yield Finding(Severity.STOP, Station.BORE, f"{hole.name}: the bit is as wide as the bar.", because)
        elif hole.side_pct.value >= TELL_SIDE_PCT:
            because = (
                f"{plan.mm(room, 2)} of wall at best, and at the exit the hole may lie "
                f"{plan.mm(hole.scatter_mm.value, 2)} "
                f"off: {hole.side_pct.written(plan.units)} of bars. Bore it in the lathe, from a pilot hole, or take a "
                "thicker bar."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the side may break out.", because)


def flat(plan: Plan) -> Iterator[Finding]:
    """Whether the barrel may keep a flat; where the bar is thinner still, the station Pour has said so."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.hole.offsets_mm is not None or hole.flat_pct.value < TELL_FLAT_PCT:
            continue
        spare = (min(hole.section_mm[:2]) - hole.widest_mm) / 2
        if plan.job.bore.turned == "on the tube" and spare <= drift_mm(plan.shop):
            continue
        what = "keep a flat" if plan.job.bore.turned == "on the tube" else "have a thin wall"
        because = (
            f"{hole.flat_pct.written(plan.units)} of holes as deep as this come out further off than its bar allows. "
            "Centre it closely, start with a short stiff bit, clear often; a longer bar lets you bore a second time."
        )
        yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: it may {what}.", because)


def shift(plan: Plan) -> Iterator[Finding]:
    """Whether the pattern may lie further off than the maker accepts."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.hole.offsets_mm is None and hole.shift_pct.value >= TELL_SHIFT_PCT:
            accepted = plan.mm(plan.job.bore.pattern_mm)
            because = (
                f"{hole.shift_pct.written(plan.units)} of such holes lie more than {accepted} off at one end. Where "
                "only a centred pattern will do, bore in the lathe and hold the piece by its centre line, not by its "
                "faces."
            )
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: the pattern may come out off centre.", because)


def bits(plan: Plan) -> Iterator[Finding]:
    """Whether a bit of this size is in the rack, and long enough."""
    if plan.bore is None or not plan.shop.rack:
        return
    for index, hole in enumerate(plan.bore.holes):
        size = hole.barrel.bit_diameter_mm
        if hole.bit is None:
            tube = hole.barrel.tube_diameter_mm
            fits = [
                bit
                for bit in plan.shop.rack
                if boring.LEAST_CLEARANCE_MM <= bit.hole_mm - tube <= boring.MOST_CLEARANCE_MM
            ]
            remedies = tuple(
                Remedy(f"Drill with {bit.name}, {plan.bit(bit.hole_mm)}", (_bit_edit(index, bit.hole_mm),))
                for bit in sorted(fits, key=lambda bit: bit.hole_mm)[:2]
            )
            because = f"The pen asks for {plan.bit(size)}; none in your rack bores that."
            title = f"{hole.name}: no such bit in your rack."
            yield Finding(Severity.NOTE, Station.BORE, title, because, remedies)
        elif hole.bit.flutes_mm < hole.depth_mm.value:
            because = (
                f"The hole is {hole.depth_mm.written(plan.units)} deep, the flutes of {hole.bit.name} are "
                f"{plan.mm(hole.bit.flutes_mm)}: beyond them chips pack, heat and grab. Lift right out after every "
                "peck."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the flutes are too short.", because)


def speed(plan: Plan) -> Iterator[Finding]:
    """Whether the machine can go slowly enough."""
    if plan.bore is None or not plan.bore.is_own_press:
        return
    slowest, stuff = plan.bore.press.slowest_rpm, plan.bore.stuff
    for hole in plan.bore.holes:
        most = rpm(stuff.fastest_m_min, hole.barrel.bit_diameter_mm)
        if slowest > most:
            because = (
                f"{stuff.name.capitalize()} wants at most {write(most, Dimension.TURNS)} with this bit; the machine "
                f"begins at {write(slowest, Dimension.TURNS)}. It will melt or burn: short pecks, air, let it cool."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the machine is too fast.", because)


def travel(plan: Plan) -> Iterator[Finding]:
    """A press whose quill is shorter than the hole."""
    if plan.bore is None or not plan.bore.is_own_press:
        return
    long = [hole for hole in plan.bore.holes if len(hole.stages_mm) > 1]
    if long and plan.bore.press.kind == "drill press":
        hole = max(long, key=lambda one: one.depth_mm.value)
        first = plan.mm(hole.stages_mm[0])
        because = (
            f"{hole.name} is {hole.depth_mm.written(plan.units)} deep, the quill gives "
            f"{plan.mm(plan.bore.press.travel_mm)}: {len(hole.stages_mm)} travels. At {first} stop the motor, raise "
            "the table without unclamping the bar, and put the bit into the hole before you switch on again."
        )
        yield Finding(Severity.NOTE, Station.BORE, "The quill is shorter than the hole.", because)


def exit_room(plan: Plan) -> Iterator[Finding]:
    """Whether there is bar to lose where the bit comes out."""
    layout = plan.layout
    if plan.bore is None or layout is None or plan.bars.packing is not None:
        return
    wanted, source = exit_length_mm(plan.job, plan.shop, plan.bore.stuff)
    for hole in plan.bore.holes:
        piece = layout.tubes[hole.number].piece
        free = spare_mm(layout, piece, right=hole.from_left)
        if hole.hole.offsets_mm is None and free < wanted - 1e-6:
            because = (
                f"{plan.mm(wanted)} more are usual there ({source}), and the bar has {plan.mm(free)}. Clamp a "
                "sacrificial backer against it and slow down before the bit comes through."
            )
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: nothing to spare at the exit.", because)


def measured(plan: Plan) -> Iterator[Finding]:
    """What two measured ends of a hole mean: fine, or to which size it still cleans up."""
    for hole in plan.bore.holes if plan.bore else ():
        cleans = hole.cleans_to_mm
        if cleans is None or hole.hole.offsets_mm is None:
            continue
        wanted = hole.widest_mm
        off = max((x * x + y * y) ** 0.5 for x, y in hole.hole.offsets_mm)
        if cleans >= wanted:
            more = f" The pattern lies {plan.mm(off, 2)} off." if off > plan.job.bore.pattern_mm else ""
            because = f"Turned on its tube it is round from {plan.mm(cleans)}, and {plan.mm(wanted)} is wanted.{more}"
            title = f"{hole.name}: {'crooked but fine' if off > 0.2 else 'straight'}."
            yield Finding(Severity.NOTE, Station.BORE, title, because)
            continue
        smaller = [
            pen.name
            for pen in plan.shop.pens
            if any(b.widest_mm <= cleans and abs(b.bit_diameter_mm - hole.bored_mm) < 0.06 for b in pen.barrels)
        ]
        rest = f" It still makes a barrel of {', '.join(smaller[:3])}." if smaller else ""
        because = (
            f"Turned on its tube it cleans up to {plan.mm(cleans)} only, and {plan.mm(wanted)} is wanted.{rest} Or "
            "mount it on the hole and see whether a slimmer shape pleases; the finish over a flat never does."
        )
        yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: a flat stays.", because)


def tube(plan: Plan) -> Iterator[Finding]:
    """Whether the tube goes in and the glue fills the room round it."""
    if plan.bore is None:
        return
    glue = plan.bore.glue
    slow = Remedy("Glue with slow epoxy", (Edit(("bore", "glue"), "slow epoxy"),))
    if plan.shop.glue(plan.job.bore.glue) is None:
        because = f"Its times and gaps are not known. Until you choose one that is, it is planned like {glue.key}."
        title = f"“{plan.job.bore.glue}” is no glue that Orvek knows."
        yield Finding(Severity.CAUTION, Station.BORE, title, because, (slow,))
        return
    for hole in plan.bore.holes:
        room, is_measured = hole.gap_mm.value, hole.hole.measured_mm is not None
        if is_measured and room < -_TIGHT_MM:
            because = (
                f"The hole measures {plan.mm(hole.bored_mm, 2)}, with paint {plan.mm(-room, 2)} too little. Ream it."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube will not go in.", because)
        elif is_measured and room > boring.LOOSE_CLEARANCE_MM:
            because = f"{plan.mm(room, 2)} of room; {glue.key} fills {plan.mm(2 * glue.gap_mm, 2)}."
            if glue.gap_mm >= room / 2:
                title = f"{hole.name}: turn the tube until it is wet all round."
                yield Finding(Severity.NOTE, Station.BORE, title, because)
            else:
                because += " Thick epoxy fills more, and a sleeve of paper or shavings takes up the rest."
                yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube is loose.", because, (slow,))
        elif room / 2 > glue.gap_mm:
            because = f"{plan.mm(room / 2, 2)} all round; {glue.key} fills {plan.mm(glue.gap_mm, 2)}."
            title = f"{hole.name}: the glue may not fill the gap."
            yield Finding(Severity.CAUTION, Station.BORE, title, because, (slow,))
    if not glue.for_metal and glue.key != "polyurethane":
        because = f"{glue.key.capitalize()} does not hold brass for long."
        yield Finding(Severity.CAUTION, Station.BORE, "This glue lets go of the tube.", because, (slow,))
    if glue.key == "polyurethane" and not plan.job.bore.is_plugged:
        because = "It foams into an open tube, and must then be carved and reamed out."
        plug = Remedy("Plug the tubes", (Edit(("bore", "is_plugged"), True),))
        yield Finding(Severity.CAUTION, Station.BORE, "The glue will foam into the tubes.", because, (plug,))


def light(plan: Plan) -> Iterator[Finding]:
    """What the light test in the bored blank says of the tube showing."""
    for hole in plan.bore.holes if plan.bore else ():
        is_painted = hole.number < len(plan.job.blank.paints) and plan.job.blank.paints[hole.number].where != "none"
        if hole.hole.light in {"a little", "much"} and not is_painted:
            because = (
                f"{hole.hole.light.capitalize()} light came through the wall, and it gets thinner yet: the tube will "
                "show."
            )
            remedies = tuple(
                Remedy(f"Paint the {where} of {hole.name}", (Edit(("blank", "paints"), _painted(plan, hole, where)),))
                for where in ("hole", "tube")
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the tube will show.", because, remedies)


def chip(plan: Plan) -> Iterator[Finding]:
    """What a chip at an end costs."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.hole.chip_mm > 0:
            off = shortened_mm(hole.hole.chip_mm)
            spare = hole.barrel.trim_mm
            if off <= spare:
                because = (
                    f"Squaring takes {plan.mm(spare)} at each end anyway: the chip of {plan.mm(hole.hole.chip_mm)} "
                    "goes."
                )
                yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: the chip comes off in squaring.", because)
            else:
                because = (
                    f"It takes {plan.mm(off)} at that end, {plan.mm(off - spare)} into the tube; both ends alike keep "
                    f"the pattern in the middle. {_shortening(plan, hole, off - spare)}"
                )
                yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: a chip reaches past the trim.", because)


def _shortening(plan: Plan, hole: HolePlan, cut_mm: float) -> str:
    """Whether the pen lets a barrel become shorter by so much at both ends."""
    play = hole.barrel.play_mm
    if play is None:
        return "See how much shorter this pen's mechanism lets the barrel be, or fill the chip."
    if may_shorten(cut_mm, play):
        return f"This pen lets the barrel lose {plan.mm(play)}: shorten both ends by {plan.mm(cut_mm)}."
    return f"This pen lets the barrel lose only {plan.mm(play)}: fill the chip, or begin again."


def _bit_edit(barrel: int, size_mm: float) -> Edit:
    return Edit(("pen", "barrels", barrel, "bit_diameter_mm"), size_mm)


def _painted(plan: Plan, hole: HolePlan, where: str) -> tuple[Paint, ...]:
    there = plan.job.blank.paints
    count = len(plan.bore.holes) if plan.bore else 0
    return tuple(
        Paint(where=where) if n == hole.number else there[n] if n < len(there) else Paint() for n in range(count)
    )


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    holding, which_way, side, flat, shift, bits, speed, travel, exit_room, measured, tube, light, chip,
)  # fmt: skip
