"""What is to be said about the pen: bits, walls, and where the tubes lie on the bar.

Each check is a function from the plan to the findings it has; a new check is one more function in `CHECKS`.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from itertools import pairwise

from orvek.craft import boring
from orvek.craft.moulding import bar_section
from orvek.craft.turning import LEAST_WALL_MM, THIN_WALL_MM, WANTED_WALL_MM
from orvek.documents import JOB, Barrel, FieldPath, path_to, present
from orvek.planning.bars import room_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.pen.writing import allows, springs, writes
from orvek.planning.results import Plan
from orvek.planning.stuff import tears
from orvek.planning.words import counted, sawn_line, the_barrel

_TOUCHING_MM = 0.005  # rounding
_LEAST_TRIM_MM = 0.5  # an end mill needs so much to square an end (workshop practice)
_FRAGILE_TRIM_MM = 3.0  # at each end of fragile stock (workshop practice)
_BUSHING_MM = 0.1  # of diameter: what a fingernail feels at the lip (workshop practice)


def no_pen(plan: Plan) -> Iterator[Finding]:
    """The first thing to decide."""
    if plan.job.pen is None:
        yield Finding(
            Severity.NOTE,
            Station.PEN,
            "Begin with the pen.",
            "The tubes decide how long the bar must be.",
        )


def bits(plan: Plan) -> Iterator[Finding]:
    """Whether each tube slides into its hole with room for glue."""
    for index, barrel in enumerate(plan.job.pen.barrels if plan.job.pen else ()):
        if barrel.inside == "no tube":
            continue
        room = barrel.bit_diameter_mm - barrel.tube_diameter_mm
        if room < -boring.UNDERSIZE_MM:
            yield _bit_finding(plan, index, barrel, Severity.STOP, f"The {barrel.name.lower()} tube will not go in.")
        elif room < boring.LEAST_CLEARANCE_MM - 1e-9:
            title = f"The {barrel.name.lower()} tube has hardly any room for glue."
            yield _bit_finding(plan, index, barrel, Severity.CAUTION, title)
        elif room > boring.LOOSE_CLEARANCE_MM:
            title = f"The {barrel.name.lower()} tube is loose in its hole."
            yield _bit_finding(plan, index, barrel, Severity.CAUTION, title)


def walls(plan: Plan) -> Iterator[Finding]:
    """Whether enough is left over the hole at the finished size."""
    units = plan.units
    for number, barrel in enumerate(plan.job.pen.barrels if plan.job.pen else ()):
        own = present(JOB.pen).barrels[number]
        places: list[tuple[str, float, FieldPath]] = [
            ("left end", barrel.finished_left_mm, path_to(own.finished_left_mm)),
            ("right end", barrel.finished_right_mm, path_to(own.finished_right_mm)),
        ]
        places += [
            (
                f"place {units.mm(p.at * barrel.tube_length_mm)} in",
                p.diameter_mm,
                path_to(own.outline[n].diameter_mm),
            )
            for n, p in enumerate(barrel.outline)
        ]
        each = [(side, finished, barrel.bit_diameter_mm, path) for side, finished, path in places]
        if barrel.wide_bit_mm is not None:
            beside = f"step at the {barrel.wide_end}"
            each.append((beside, barrel.slimmest_beside_step_mm, barrel.wide_bit_mm, ()))
        side, finished, hole, _ = min(each, key=lambda place: place[1] - place[2])
        wall = (finished - hole) / 2
        because = (
            f"At its {side} {units.mm(finished)} finished over a {units.bit(hole)} hole "
            f"leaves {units.mm(wall, 2)} all round."
        )
        name = barrel.name.lower()
        if wall <= 0:
            title = f"{the_barrel(barrel.name)} is removed in turning."
            because += " The hole is wider than the barrel."
            yield Finding(Severity.STOP, Station.PEN, title, because, tuple(_wider(plan, each)))
        elif wall < LEAST_WALL_MM:
            title = f"The {name} wall is too thin to turn."
            yield Finding(
                Severity.STOP,
                Station.PEN,
                title,
                because + f" Little survives under {units.mm(LEAST_WALL_MM)}.",
                tuple(_wider(plan, each)),
            )
        elif wall < WANTED_WALL_MM - 1e-9:
            severity = Severity.CAUTION if wall < THIN_WALL_MM else Severity.NOTE
            advice = (
                f" Under {units.mm(WANTED_WALL_MM)} paint the hole or the tube, cut lightly with a sharp tool, and "
                "sand the last of it."
            )
            yield Finding(severity, Station.PEN, f"The {name} wall is thin.", because + advice)


def length(plan: Plan) -> Iterator[Finding]:
    """Whether the bar is long enough for the pen."""
    units = plan.units
    if plan.pen is None or plan.bars.section is None or plan.bars.in_hand:
        return
    needed, there = plan.pen.least_length_mm, plan.bars.section.length_mm
    if needed <= there + 1e-6:
        return
    what = "The bar" if plan.job.makes_bars else "Tubes, trim"
    yield Finding(
        Severity.STOP,
        Station.PEN,
        f"The bar is {units.mm(needed - there)} too short.",
        f"{what}, saw cuts and the lost ends take {units.mm(needed)}; the mould gives {units.mm(there)}.",
        tuple(_longer(plan, needed)),
    )


def in_hand(plan: Plan) -> Iterator[Finding]:
    """Whether the bars in hand give the pens that are wanted, and from which bars their barrels come."""
    units = plan.units
    packing, pen = plan.bars.packing, plan.job.pen
    if packing is None or pen is None:
        return
    kerf = plan.job.blank.saw_kerf_mm
    room, longest = max((room_mm(bar, kerf), bar.length_mm) for bar in plan.bars.in_hand)
    for barrel in pen.barrels:
        piece = barrel.piece_mm
        if piece > room + 1e-6:
            lost = "" if room == longest else f", of which {units.mm(room)} are left when its lost ends are sawn off"
            because = f"Tube and trim take {units.mm(piece)}; the longest bar in hand has {units.mm(longest)}{lost}."
            title = f"No bar is long enough for {barrel.name.lower()}."
            yield Finding(Severity.STOP, Station.PEN, title, because, tuple(_shorter(plan, room, longest)))
            return
    blanks = round(plan.bars.blanks.value)
    if packing.pens < blanks:
        enough = packing.pens >= plan.job.batch.pens_wanted
        because = (
            f"Whole {plan.job.thing}s from {counted(len(plan.bars.each_in_hand), 'bar')}, with saw cuts and lost ends: "
            f"{packing.pens}. {blanks} would be started so that {plan.job.batch.pens_wanted} come out good."
        )
        title = f"The bars in hand give {packing.pens} of {blanks}."
        yield Finding(Severity.NOTE if enough else Severity.CAUTION, Station.PEN, title, because)
    if len(pen.barrels) > 1 and packing.pens and not any(all(one.pieces) for one in packing.sawn):
        because = f"No bar takes a whole pen: {sawn_line(plan)}. The strip shows them as if they came from one."
        yield Finding(Severity.NOTE, Station.PEN, "The barrels of a pen come from different bars.", because)


def beside(plan: Plan) -> Iterator[Finding]:
    """Tubes that lie where the pattern is best, and leave no room for the further blanks of the bar."""
    layout, pen = plan.layout, plan.job.pen
    if layout is None or pen is None or not layout.is_fuller_side_by_side:
        return
    there, could = layout.blanks, 1 + layout.wanted_others // len(pen.barrels)
    because = f"Side by side the bar gives {could}; where the tubes lie now, what is left beside them is too short."
    remedies = (Remedy("Lay the tubes side by side", (Edit(path_to(JOB.blank.tube_starts_mm), ()),)),)
    yield Finding(Severity.NOTE, Station.PEN, f"This bar then gives {counted(there, 'blank')}.", because, remedies)


def fragile(plan: Plan) -> Iterator[Finding]:
    """Fibre that is left no longer than sound stuff: its ends are the first to go."""
    if plan.job.pen is None or plan.job.makes_bars or not tears(plan.job):
        return
    short = [n for n, barrel in enumerate(plan.job.pen.barrels) if barrel.trim_mm < _FRAGILE_TRIM_MM]
    if short:
        trim = plan.units.mm(_FRAGILE_TRIM_MM)
        more = plan.units.mm(2 * _FRAGILE_TRIM_MM)
        because = f"The ends crumble at the bit and at the mill: makers saw it {more} longer than the tube."
        edits = tuple(Edit(path_to(present(JOB.pen).barrels[n].trim_mm), _FRAGILE_TRIM_MM) for n in short)
        remedies = (Remedy(f"Leave {trim} at each end", edits),)
        yield Finding(Severity.NOTE, Station.PEN, "Leave fibre longer at its ends.", because, remedies)


def bushings(plan: Plan) -> Iterator[Finding]:
    """Bushings that are not as wide as the barrel is to be at that end."""
    for barrel in plan.job.pen.barrels if plan.job.pen else ():
        ends = zip(
            ("left", "right"), barrel.bushings_mm, (barrel.finished_left_mm, barrel.finished_right_mm), strict=True
        )
        off = [(side, bushing, size) for side, bushing, size in ends if abs(bushing - size) > _BUSHING_MM]
        if off:
            told = "; ".join(
                f"{side} {plan.units.mm(bushing, 2)} for {plan.units.mm(size, 2)}" for side, bushing, size in off
            )
            because = f"{told}. Turn that end by calipers, or type what the part measures as its finished size."
            title = f"{the_barrel(barrel.name)} is not turned down to its bushings."
            yield Finding(Severity.NOTE, Station.PEN, title, because)


def joint(plan: Plan) -> Iterator[Finding]:
    """Pieces that lie over the joint of a two-in-one bar, where it is sawn apart."""
    units = plan.units
    layout = plan.layout
    if layout is None or layout.joint is None:
        if layout is not None and plan.job.blank.joint_mm is not None:
            because = (
                f"The saw cut is at {units.mm(plan.job.blank.joint_mm)}; the bar is {units.mm(layout.length_mm)} long."
            )
            remedy = Remedy("Take it as a bar in one", (Edit(path_to(JOB.blank.joint_mm), None),))
            yield Finding(Severity.CAUTION, Station.PEN, "The joint lies beyond the bar.", because, (remedy,))
        return
    for place in layout.tubes:
        piece = place.trimmed
        if piece.start_mm < layout.joint.end_mm - _TOUCHING_MM and piece.end_mm > layout.joint.start_mm + _TOUCHING_MM:
            because = (
                f"The bar is sawn at {units.mm(plan.job.blank.joint_mm or 0)}; the piece runs from "
                f"{units.mm(piece.start_mm)} to {units.mm(piece.end_mm)}."
            )
            title = f"{the_barrel(place.barrel.name)} lies over the joint."
            remedies = (
                Remedy("Reset the tubes’ places", (Edit(path_to(JOB.blank.tube_starts_mm), ()),)),
                Remedy("Take it as a bar in one", (Edit(path_to(JOB.blank.joint_mm), None),)),
            )
            yield Finding(Severity.STOP, Station.PEN, title, because, remedies)


def tubes(plan: Plan) -> Iterator[Finding]:
    """Whether tubes placed by hand lie on the bar, apart from each other and off its ends."""
    if plan.layout is None or plan.pen is None:
        return
    too_short = plan.layout.length_mm < plan.pen.least_length_mm - 1e-6
    if too_short and not plan.layout.placed_by_hand:
        return
    yield from _beyond_the_bar(plan)
    yield from _overlaps(plan)


STATION = Station.PEN
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    no_pen,
    bits,
    walls,
    length,
    in_hand,
    beside,
    fragile,
    bushings,
    joint,
    tubes,
    writes,
    allows,
    springs,
)


def _bit_finding(plan: Plan, index: int, barrel: Barrel, severity: Severity, title: str) -> Finding:
    units = plan.units
    room = barrel.bit_diameter_mm - barrel.tube_diameter_mm
    better = boring.bit_for_tube(barrel.tube_diameter_mm)
    remedies: tuple[Remedy, ...] = ()
    if better:
        edit = Edit(path_to(present(JOB.pen).barrels[index].bit_diameter_mm), round(better.diameter_mm, 4))
        remedies = (Remedy(f"Drill the {barrel.name.lower()} with {better.name}", (edit,)),)
    because = (
        f"A {units.bit(barrel.bit_diameter_mm)} bit against a {units.mm(barrel.tube_diameter_mm, 2)} tube: "
        f"{units.mm(room, 2)} of room. {units.mm(boring.LEAST_CLEARANCE_MM, 2)} to "
        f"{units.mm(boring.MOST_CLEARANCE_MM, 2)} is usual."
    )
    return Finding(severity, Station.PEN, title, because, remedies)


def _wider(plan: Plan, places: list[tuple[str, float, float, FieldPath]]) -> Iterator[Remedy]:
    """Each place that is too slim finished so wide that enough is left over the hole."""
    slim = [(path, hole + 2 * WANTED_WALL_MM) for _, size, hole, path in places if size < hole + 2 * WANTED_WALL_MM]
    if all(path for path, _ in slim):
        size = max(wanted for _, wanted in slim)
        yield Remedy(
            f"Finish it at {plan.units.mm(size)}", tuple(Edit(path, round(wanted, 2)) for path, wanted in slim)
        )


def _longer(plan: Plan, needed_mm: float) -> Iterator[Remedy]:
    """A mould from the shelf that is long enough, or less lost at the ends."""
    now = plan.job.pour.mould
    fitting = [m for m in plan.shop.moulds if m != now and bar_section(m).length_mm >= needed_mm - 1e-6]
    if fitting:
        best = min(fitting, key=lambda mould: mould.length_mm)
        edits = (Edit(path_to(JOB.pour.mould), best), Edit(path_to(JOB.blank.tube_starts_mm), ()))
        yield Remedy(f"Pour into {best.name}, {plan.units.mm(best.length_mm)}", edits)
    assert plan.bars.section is not None
    waste = plan.job.blank.end_waste_mm - (needed_mm - plan.bars.section.length_mm) / 2
    if waste >= 2:
        lower = int(waste * 10) / 10
        yield Remedy(f"Lose only {plan.units.mm(lower)} at each end", (Edit(path_to(JOB.blank.end_waste_mm), lower),))


def _shorter(plan: Plan, there_mm: float, longest_mm: float) -> Iterator[Remedy]:
    """Less trim, the lost ends taken as sound, or no bars in hand: whichever lets every barrel find a bar."""
    barrels = plan.job.pen.barrels if plan.job.pen else ()
    least = min((there_mm - barrel.tube_length_mm) / 2 for barrel in barrels)
    trim = math.floor(least * 10 + 1e-6) / 10
    if trim >= _LEAST_TRIM_MM:
        short = [n for n, barrel in enumerate(barrels) if barrel.piece_mm > there_mm + 1e-6]
        edits = tuple(Edit(path_to(present(JOB.pen).barrels[n].trim_mm), trim) for n in short)
        yield Remedy(f"Trim only {plan.units.mm(trim)} at each end", edits)
    longest_piece = max(barrel.piece_mm for barrel in barrels)
    if there_mm < longest_piece <= longest_mm:
        bars = tuple(bar.with_(end_loss_mm=0.0) for bar in plan.job.blank.bars)
        yield Remedy("Take the bars' ends as sound", (Edit(path_to(JOB.blank.bars), bars),))
    mould = plan.job.pour.mould
    if mould is not None and plan.job.blank.bars and bar_section(mould).length_mm >= longest_piece:
        yield Remedy(f"Leave these bars; cast in {mould.name}", (Edit(path_to(JOB.blank.bars), ()),))


def _beyond_the_bar(plan: Plan) -> Iterator[Finding]:
    units = plan.units
    layout = plan.layout
    assert layout is not None
    low, high = layout.ends[0].end_mm, layout.ends[1].start_mm
    for index, place in enumerate(layout.tubes):
        off = place.tube.start_mm < -1e-6 or place.tube.end_mm > layout.length_mm + 1e-6
        if not off and place.trimmed.start_mm >= low - 1e-3 and place.trimmed.end_mm <= high + 1e-3:
            continue
        trim = place.barrel.trim_mm
        target = min(max(place.tube.start_mm, low + trim), high - place.tube.length_mm - trim)
        edits = (Edit(path_to(JOB.blank.tube_starts_mm), _moved(layout.starts_mm, index, target)),)
        name = place.barrel.name.lower()
        because = (
            f"The piece runs from {units.mm(place.trimmed.start_mm)} to {units.mm(place.trimmed.end_mm)}; "
            f"the sound part of the bar from {units.mm(low)} to {units.mm(high)}."
        )
        title = (
            f"The {name} tube lies off the bar." if off else f"{the_barrel(place.barrel.name)} reaches into a lost end."
        )
        severity = Severity.STOP if off else Severity.CAUTION
        yield Finding(severity, Station.PEN, title, because, (Remedy(f"Slide {name} to {units.mm(target)}", edits),))


def _overlaps(plan: Plan) -> Iterator[Finding]:
    layout = plan.layout
    assert layout is not None
    kerf = plan.job.blank.saw_kerf_mm
    for left, right in pairwise(sorted(layout.tubes, key=lambda place: place.trimmed.start_mm)):
        room = right.trimmed.start_mm - left.trimmed.end_mm
        if room >= kerf - _TOUCHING_MM:
            continue
        because = (
            f"{left.barrel.name} ends at {plan.units.mm(left.trimmed.end_mm)} with its trim, {right.barrel.name} "
            f"begins at {plan.units.mm(right.trimmed.start_mm)}; the saw takes {plan.units.mm(kerf)}."
        )
        yield Finding(
            Severity.STOP,
            Station.PEN,
            f"{left.barrel.name} and {right.barrel.name.lower()} leave no room for the saw.",
            because,
            (Remedy("Reset the tubes’ places", (Edit(path_to(JOB.blank.tube_starts_mm), ()),)),),
        )


def _moved(starts: tuple[float, ...], index: int, target: float) -> tuple[float, ...]:
    return tuple(round(target if i == index else start, 2) for i, start in enumerate(starts))
