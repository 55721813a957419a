"""What is to be said before the press is switched on, and of a hole that was bored."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft import boring
from orvek.craft.boring_plan import rpm
from orvek.craft.wander import v_jaw_shift_mm
from orvek.documents import JOB, RoundStep, path_to, present
from orvek.planning.bore.drilling import SAME_BIT_MM
from orvek.planning.bore.results import HolePlan
from orvek.planning.drift import drift_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.quantities import Dimension, write

# Choices of this program, in %: a maker with a day's work in the bar wants to know of one in twenty, and of the side
# breaking out, which throws pieces, of one in a hundred.
TELL_FLAT_PCT, TELL_SIDE_PCT, TELL_SHIFT_PCT = 5.0, 1.0, 20.0
_STRAIGHT_MM = 0.2  # nobody sees less (workshop practice)
_JAMS_MM = 0.1  # a step in the middle of a hole that no tube passes without a reamer (an estimate)
_V_UNDER_MM = 0.5  # how much thinner a bar may come out of its mould than the one that was centred (an estimate)


def holding(plan: Plan) -> Iterator[Finding]:
    """A round bar spins, in whatever is made for square ones."""
    units = plan.units
    bore, layout = plan.job.bore, plan.layout
    if plan.bore is None or layout is None:
        return
    held_round = bore.holding.startswith("round")
    if layout.is_round and (not held_round or bore.holding == "round in jaws"):
        because = "Round stock turns in flat jaws when the bit grabs, and the hole is burnished or the bar is thrown."
        remedies = (
            Remedy("Hold it in a collet", (Edit(path_to(JOB.bore.holding), "round in a collet"),)),
            Remedy("Plane a flat on it first", (Edit(path_to(JOB.bore.holding), "round with a flat"),)),
        )
        yield Finding(Severity.CAUTION, Station.BORE, "The round bar may spin.", because, remedies)
    elif not layout.is_round and held_round:
        remedy = Remedy("Hold it square in a vice", (Edit(path_to(JOB.bore.holding), "square in a vice"),))
        across = int(layout.across_mm * 10 - 1) / 10
        steps = (*plan.job.blank.steps, RoundStep(diameter_mm=across))
        rounded = Remedy(f"Round it down first, to {units.mm(across)}", (Edit(path_to(JOB.blank.steps), steps),))
        because = "A round holding touches only the corners of a square bar."
        yield Finding(Severity.NOTE, Station.BORE, "The bar is still square.", because, (remedy, rounded))
    elif bore.holding == "square in a fixed V":
        off = v_jaw_shift_mm(_V_UNDER_MM)
        because = (
            f"A bar {units.mm(_V_UNDER_MM)} thinner than the one you centred on lies {units.mm(off, 2)} off in a fixed "
            "V of 90°. Jaws that close from both sides centre every bar."
        )
        remedy = Remedy("Hold it in closing jaws", (Edit(path_to(JOB.bore.holding), "square in jaws"),))
        yield Finding(Severity.NOTE, Station.BORE, "Centre the bit for every bar.", because, (remedy,))


def which_way(plan: Plan) -> Iterator[Finding]:
    """A bit that enters on the points of V's is pushed aside by them."""
    has_vs = any(step.kind == "rip" for step in plan.job.blank.steps)
    if plan.bore is not None and has_vs and plan.job.bore.v_opens == "there are none":
        because = (
            "Bored from the side to which they are open the bit stays in the pocket; entering on the points it may "
            "leave sideways, small bits most."
        )
        remedies = tuple(
            Remedy(f"They open to the {side}", (Edit(path_to(JOB.bore.v_opens), f"to the {side}"),))
            for side in ("left", "right")
        )
        yield Finding(Severity.NOTE, Station.BORE, "To which side do the V's open?", because, remedies)


def side(plan: Plan) -> Iterator[Finding]:
    """Whether the bit may come out of the side."""
    units = plan.units
    for hole in plan.bore.holes if plan.bore else ():
        room = (min(hole.section_mm[:2]) - hole.barrel.bit_diameter_mm) / 2
        if room <= 0:
            because = (
                f"A hole of {units.bit(hole.barrel.bit_diameter_mm)} in a bar of {units.mm(min(hole.section_mm[:2]))}."
            )
            yield Finding(Severity.STOP, Station.BORE, f"{hole.name}: the bit is as wide as the bar.", because)
        elif hole.side_pct.value >= TELL_SIDE_PCT:
            because = (
                f"{units.mm(room, 2)} of wall at best, and at the exit the hole may lie "
                f"{units.mm(hole.scatter_mm.value, 2)} "
                f"off: {hole.side_pct.written(units)} of bars. Bore it in the lathe, from a pilot hole, or take a "
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
            accepted = plan.units.mm(plan.job.bore.pattern_mm)
            because = (
                f"{hole.shift_pct.written(plan.units)} of such holes lie more than {accepted} off at one end. Where "
                "only a centred pattern will do, bore in the lathe and hold the piece by its centre line, not by its "
                "faces."
            )
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: the pattern may come out off centre.", because)


def bits(plan: Plan) -> Iterator[Finding]:
    """Whether a bit of this size is in the rack, and long enough."""
    units = plan.units
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
                Remedy(f"Drill with {bit.name}, {units.bit(bit.hole_mm)}", (_bit_edit(index, bit.hole_mm),))
                for bit in sorted(fits, key=lambda bit: bit.hole_mm)[:2]
            )
            because = f"The pen needs {units.bit(size)}; no bit in your rack bores that."
            title = f"{hole.name}: no such bit in your rack."
            yield Finding(Severity.NOTE, Station.BORE, title, because, remedies)
        elif hole.bit.flutes_mm < hole.depth_mm.value:
            because = (
                f"The hole is {hole.depth_mm.written(units)} deep, the flutes of {hole.bit.name} are "
                f"{units.mm(hole.bit.flutes_mm)}: beyond them chips pack, heat and grab. Lift right out after every "
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
                f"{stuff.name.capitalize()} needs at most {write(most, Dimension.TURNS)} with this bit; the machine "
                f"begins at {write(slowest, Dimension.TURNS)}. It will melt or burn: short pecks, air, let it cool."
            )
            yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: the machine is too fast.", because)


def travel(plan: Plan) -> Iterator[Finding]:
    """A press whose quill is shorter than the hole."""
    units = plan.units
    if plan.bore is None or not plan.bore.is_own_press:
        return
    long = [hole for hole in plan.bore.holes if len(hole.stages_mm) > 1]
    if long and plan.bore.press.kind == "drill press":
        hole = max(long, key=lambda one: one.depth_mm.value)
        first = units.mm(hole.stages_mm[0])
        because = (
            f"{hole.name} is {hole.depth_mm.written(units)} deep, the quill gives "
            f"{units.mm(plan.bore.press.travel_mm)}: {len(hole.stages_mm)} travels. At {first} stop the motor, raise "
            "the table without unclamping the bar, and put the bit into the hole before you switch on again."
        )
        yield Finding(Severity.NOTE, Station.BORE, "The quill is shorter than the hole.", because)


def exit_room(plan: Plan) -> Iterator[Finding]:
    """Whether there is bar to lose where the bit comes out."""
    units = plan.units
    layout = plan.layout
    if plan.bore is None or layout is None or plan.bars.packing is not None:
        return
    for hole in plan.bore.holes:
        wanted, free = hole.exit_wanted_mm, layout.tubes[hole.number].exit_mm
        if hole.hole.offsets_mm is None and free < wanted - 0.05:
            because = (
                f"{units.mm(wanted)} more are usual there ({hole.exit_source}), and the bar has {units.mm(free)}. "
                "Clamp a sacrificial backer against it and slow down before the bit comes through."
            )
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: nothing to spare at the exit.", because)


def both_ends(plan: Plan) -> Iterator[Finding]:
    """Holes from both ends that do not meet closely enough for a tube."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.meets_mm is not None and hole.meets_mm.value > _JAMS_MM and hole.hole.offsets_mm is None:
            because = (
                f"The two may meet with a step of up to {hole.meets_mm.written(plan.units)}, and a tube jams at it. "
                "Only with a reamer that goes right through."
            )
            path = path_to(JOB.bore.holes[hole.number].from_end)
            remedy = Remedy("Bore it from one end", (Edit(path, "as advised"),))
            title = f"{hole.name}: ream it where the two holes meet."
            yield Finding(Severity.NOTE, Station.BORE, title, because, (remedy,))


def step(plan: Plan) -> Iterator[Finding]:
    """The bit that steps a hole up: in the rack, and before or after the small one."""
    for hole in plan.bore.holes if plan.bore else ():
        if hole.wide is None or not plan.shop.rack:
            continue
        if not any(abs(bit.hole_mm - hole.wide.bit_mm) <= SAME_BIT_MM for bit in plan.shop.rack):
            because = f"The pen needs a step of {plan.units.bit(hole.wide.bit_mm)}; no bit in your rack bores that."
            yield Finding(Severity.NOTE, Station.BORE, f"{hole.name}: no bit for the step in your rack.", because)


def pattern(plan: Plan) -> Iterator[Finding]:
    """A hole that is to follow the pattern, whose middle nobody measured."""
    if plan.bore is None:
        return
    unknown = [hole.name for hole in plan.bore.holes if hole.hole.pattern_mm is None]
    if plan.job.bore.centred == "on the pattern" and unknown:
        because = (
            "Measure at both ends how far its middle lies off the bar's, sideways and up or down. Until then the hole "
            f"is planned down the bar's own middle: {', '.join(unknown)}."
        )
        remedy = Remedy("Centre it on the outside", (Edit(path_to(JOB.bore.centred), "on the outside"),))
        yield Finding(Severity.NOTE, Station.BORE, "Where is the middle of the pattern?", because, (remedy,))


def measured(plan: Plan) -> Iterator[Finding]:
    """What two measured ends of a hole mean: fine, or to which size it still cleans up."""
    units = plan.units
    for hole in plan.bore.holes if plan.bore else ():
        cleans = hole.cleans_to_mm
        if cleans is None or hole.hole.offsets_mm is None:
            continue
        wanted = hole.widest_mm
        off = max((x * x + y * y) ** 0.5 for x, y in hole.off_pattern_mm or ())
        if cleans >= wanted:
            yield _cleans_up(plan, hole, cleans, off)
            continue
        smaller = [
            pen.name
            for pen in plan.shop.pens
            if any(b.widest_mm <= cleans and abs(b.bit_diameter_mm - hole.bored_mm) < 0.06 for b in pen.barrels)
        ]
        rest = f" It still makes a barrel of {', '.join(smaller[:3])}." if smaller else ""
        because = (
            f"Turned on its tube it cleans up to {units.mm(cleans)} only, and {units.mm(wanted)} is wanted.{rest} Or "
            "mount it on the hole and see whether a slimmer shape pleases; the finish over a flat never does."
        )
        yield Finding(Severity.CAUTION, Station.BORE, f"{hole.name}: a flat stays.", because)


def _cleans_up(plan: Plan, hole: HolePlan, cleans_mm: float, off_mm: float) -> Finding:
    """A hole on which the barrel comes out round, with its pattern as far off as is accepted, or further."""
    units = plan.units
    because = f"Turned on its tube it is round from {units.mm(cleans_mm)}, and {units.mm(hole.widest_mm)} is wanted."
    accepted = plan.job.bore.pattern_mm
    if off_mm <= accepted:
        title = f"{hole.name}: {'crooked but fine' if off_mm > _STRAIGHT_MM else 'straight'}."
        return Finding(Severity.NOTE, Station.BORE, title, because)
    because += (
        f" The pattern lies {units.mm(off_mm, 2)} off its middle; {units.mm(accepted, 2)} is what you would not mind."
    )
    size = math.ceil(10 * off_mm) / 10
    remedy = Remedy(f"I do not mind {units.mm(size)}", (Edit(path_to(JOB.bore.pattern_mm), size),))
    title = f"{hole.name}: the pattern may be off centre."
    return Finding(Severity.CAUTION, Station.BORE, title, because, (remedy,))


def _bit_edit(barrel: int, size_mm: float) -> Edit:
    return Edit(path_to(present(JOB.pen).barrels[barrel].bit_diameter_mm), size_mm)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    holding, which_way, side, flat, shift, bits, both_ends, step, pattern, speed, travel, exit_room, measured,
)  # fmt: skip
