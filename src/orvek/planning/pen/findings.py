"""What is to be said about the pen: bits, walls, and where the tubes lie on the bar.

Each check is a function from the draft to the findings it has; a new check is one more function in `CHECKS`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import pairwise

from orvek.craft import boring
from orvek.craft.moulding import bar_section
from orvek.craft.turning import LEAST_WALL_MM, WANTED_WALL_MM
from orvek.documents import Barrel
from orvek.planning.draft import Draft
from orvek.planning.results import Edit, Finding, Remedy, Severity, Station

_THIN_WALL_MM = 1.0
_TOUCHING_MM = 0.005


def no_pen(draft: Draft) -> Iterator[Finding]:
    """The first thing to decide."""
    if draft.job.pen is None:
        yield Finding(
            Severity.NOTE,
            Station.PEN,
            "Begin with the pen.",
            "Its tubes decide how long the bar must be, and everything after that.",
        )


def bits(draft: Draft) -> Iterator[Finding]:
    """Whether each tube slides into its hole with room for glue."""
    for index, barrel in enumerate(draft.job.pen.barrels if draft.job.pen else ()):
        room = barrel.bit_diameter_mm - barrel.tube_diameter_mm
        if room < -boring.UNDERSIZE_MM:
            yield _bit_finding(draft, index, barrel, Severity.STOP, f"The {barrel.name.lower()} tube will not go in.")
        elif room < boring.LEAST_CLEARANCE_MM - 1e-9:
            title = f"The {barrel.name.lower()} tube has hardly any room for glue."
            yield _bit_finding(draft, index, barrel, Severity.CAUTION, title)
        elif room > boring.LOOSE_CLEARANCE_MM:
            title = f"The {barrel.name.lower()} tube is loose in its hole."
            yield _bit_finding(draft, index, barrel, Severity.CAUTION, title)


def walls(draft: Draft) -> Iterator[Finding]:
    """Whether enough is left over the hole at the finished size."""
    for barrel in draft.job.pen.barrels if draft.job.pen else ():
        ends = (("left", barrel.finished_left_mm), ("right", barrel.finished_right_mm))
        side, finished = min(ends, key=lambda end: end[1])
        wall = (finished - barrel.bit_diameter_mm) / 2
        because = (
            f"At its {side} end {draft.mm(finished)} finished over a {draft.bit(barrel.bit_diameter_mm)} hole "
            f"leaves {draft.mm(wall, 2)} all round."
        )
        name = barrel.name.lower()
        if wall <= 0:
            title = f"The {name} barrel is turned away."
            yield Finding(Severity.STOP, Station.PEN, title, because + " The hole is wider than the barrel.")
        elif wall < LEAST_WALL_MM:
            title = f"The {name} wall is too thin to turn."
            yield Finding(
                Severity.STOP,
                Station.PEN,
                title,
                because + f" Little survives under {draft.mm(LEAST_WALL_MM)}.",
            )
        elif wall < WANTED_WALL_MM - 1e-9:
            severity = Severity.CAUTION if wall < _THIN_WALL_MM else Severity.NOTE
            advice = (
                f" {draft.mm(WANTED_WALL_MM)} is the usual aim; under that paint the hole or the tube, and cut lightly."
            )
            yield Finding(severity, Station.PEN, f"The {name} wall is thin.", because + advice)


def length(draft: Draft) -> Iterator[Finding]:
    """Whether the bar is long enough for the pen."""
    if draft.pen is None or draft.bars.section is None:
        return
    needed, there = draft.pen.length_needed_mm.value, draft.bars.section.length_mm
    if needed <= there + 1e-6:
        return
    yield Finding(
        Severity.STOP,
        Station.PEN,
        f"The bar is {draft.mm(needed - there)} too short.",
        f"Tubes, trim, saw cuts and the lost ends take {draft.mm(needed)}; the mould gives {draft.mm(there)}.",
        tuple(_longer(draft, needed)),
    )


def tubes(draft: Draft) -> Iterator[Finding]:
    """Whether tubes placed by hand lie on the bar, apart from each other and off its ends."""
    if draft.layout is None or draft.pen is None:
        return
    too_short = draft.layout.length_mm < draft.pen.length_needed_mm.value - 1e-6
    if too_short and not draft.layout.placed_by_hand:
        return
    yield from _beyond_the_bar(draft)
    yield from _overlaps(draft)


STATION = Station.PEN
CHECKS: tuple[Callable[[Draft], Iterator[Finding]], ...] = (no_pen, bits, walls, length, tubes)


def _bit_finding(draft: Draft, index: int, barrel: Barrel, severity: Severity, title: str) -> Finding:
    room = barrel.bit_diameter_mm - barrel.tube_diameter_mm
    better = boring.bit_for_tube(barrel.tube_diameter_mm)
    remedies: tuple[Remedy, ...] = ()
    if better:
        edit = Edit(("pen", "barrels", index, "bit_diameter_mm"), round(better.diameter_mm, 4))
        remedies = (Remedy(f"Drill the {barrel.name.lower()} with {better.name}", (edit,)),)
    because = (
        f"A {draft.bit(barrel.bit_diameter_mm)} bit against a {draft.mm(barrel.tube_diameter_mm, 2)} tube: "
        f"{draft.mm(room, 2)} of room. {draft.mm(boring.LEAST_CLEARANCE_MM, 2)} to "
        f"{draft.mm(boring.MOST_CLEARANCE_MM, 2)} is usual."
    )
    return Finding(severity, Station.PEN, title, because, remedies)


def _longer(draft: Draft, needed_mm: float) -> Iterator[Remedy]:
    """A mould from the shelf that is long enough, or less lost at the ends."""
    now = draft.job.pour.mould
    fitting = [m for m in draft.shop.moulds if m != now and bar_section(m).length_mm >= needed_mm - 1e-6]
    if fitting:
        best = min(fitting, key=lambda mould: mould.length_mm)
        edits = (Edit(("pour", "mould"), best), Edit(("blank", "tube_starts_mm"), ()))
        yield Remedy(f"Pour into {best.name}, {draft.mm(best.length_mm)}", edits)
    assert draft.bars.section is not None
    waste = draft.job.blank.end_waste_mm - (needed_mm - draft.bars.section.length_mm) / 2
    if waste >= 2:
        lower = int(waste * 10) / 10
        yield Remedy(f"Lose only {draft.mm(lower)} at each end", (Edit(("blank", "end_waste_mm"), lower),))


def _beyond_the_bar(draft: Draft) -> Iterator[Finding]:
    layout = draft.layout
    assert layout is not None
    low, high = layout.ends[0].end_mm, layout.ends[1].start_mm
    for index, place in enumerate(layout.tubes):
        off = place.tube.start_mm < -1e-6 or place.tube.end_mm > layout.length_mm + 1e-6
        if not off and place.piece.start_mm >= low - 1e-3 and place.piece.end_mm <= high + 1e-3:
            continue
        trim = place.tube.start_mm - place.piece.start_mm
        target = min(max(place.tube.start_mm, low + trim), high - place.tube.length_mm - trim)
        edits = (Edit(("blank", "tube_starts_mm"), _moved(layout.starts_mm, index, target)),)
        name = place.name.lower()
        because = (
            f"Its piece runs from {draft.mm(place.piece.start_mm)} to {draft.mm(place.piece.end_mm)}; "
            f"the sound part of the bar from {draft.mm(low)} to {draft.mm(high)}."
        )
        title = f"The {name} tube lies off the bar." if off else f"The {name} barrel reaches into a lost end."
        severity = Severity.STOP if off else Severity.CAUTION
        yield Finding(severity, Station.PEN, title, because, (Remedy(f"Slide {name} to {draft.mm(target)}", edits),))


def _overlaps(draft: Draft) -> Iterator[Finding]:
    layout = draft.layout
    assert layout is not None
    kerf = draft.job.blank.saw_kerf_mm
    for left, right in pairwise(sorted(layout.tubes, key=lambda place: place.piece.start_mm)):
        room = right.piece.start_mm - left.piece.end_mm
        if room >= kerf - _TOUCHING_MM:
            continue
        because = (
            f"{left.name} ends at {draft.mm(left.piece.end_mm)} with its trim, {right.name} begins at "
            f"{draft.mm(right.piece.start_mm)}; the saw takes {draft.mm(kerf)}."
        )
        yield Finding(
            Severity.STOP,
            Station.PEN,
            f"{left.name} and {right.name.lower()} leave no room for the saw.",
            because,
            (Remedy("Lay the tubes out afresh", (Edit(("blank", "tube_starts_mm"), ()),)),),
        )


def _moved(starts: tuple[float, ...], index: int, target: float) -> tuple[float, ...]:
    return tuple(round(target if i == index else start, 2) for i, start in enumerate(starts))
