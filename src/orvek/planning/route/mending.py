"""Blanks that are saved: `with_mending` puts each way out that was decided for where in the work it belongs.

What is cast round again is worked again from the lathe on, up to where the others are.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from orvek.documents import Fault
from orvek.planning.faults.results import FaultPlan, WayOut
from orvek.planning.findings import Station
from orvek.planning.history import fates_of
from orvek.planning.results import Plan
from orvek.planning.route.casting import ready_wait
from orvek.planning.route.making import blanks_of, operation, span
from orvek.planning.route.results import NO_WAIT, Operation, Wait, Word
from orvek.planning.shortening import SHORTEN

# The operation of a moment, or what stands nearest before it in a job without one.
_MOMENTS = {
    "sawing": ("length",),
    "boring": ("bore", "length"),
    "gluing the tube": ("tube", "bore"),
    "squaring": ("square",),
    "turning": ("turn",),
    "sanding": ("sand", "turn"),
    "coating": ("polish", "level", "coat", "sand", "turn"),
    "pressing": ("press",),
    "later": ("write",),
}
_FIELD_KINDS = {
    "reglue": "glue", "recast": "pour", "resand": "sand", "recoat": "coat", "strip": "coat", "shorten": "square_ends",
    "slimmer": "turn", "remount": "turn", "another pen": "turn", "reclaim": "turn", "hide": "press", "ring": "glue",
    "pack": "glue", "warm": "dry", "true up": "turn", "wick in": "glue", "buff off": "sand", "flood": "coat",
    "press turned back": "press",
}  # fmt: skip
_WAITED = {
    "reglue": "the glue holds", "recast": "the casting hardens", "recoat": "the coats harden", "ring": "the glue holds",
    "strip": "the coats harden", "pack": "the glue holds", "warm": "it cures on", "wick in": "the glue holds",
    "flood": "the glue hardens", "buff off": "the coat hardens",
}  # fmt: skip
_CAUTIONS: dict[str, tuple[str, ...]] = {
    "recast": ("pour.",), "reclaim": ("faults.heat", "finish.lathe"), "hide": ("finish.press",),
    **dict.fromkeys(("fill", "refill", "reglue"), ("faults.glue", "finish.lathe")),
    **dict.fromkeys(("recoat", "strip"), ("finish.glue", "finish.lathe")),
    **dict.fromkeys(("ring", "pack", "wick in", "flood"), ("bore.glue", "finish.lathe")), "warm": (),
    "press turned back": ("finish.press",),
}  # fmt: skip
_ON_THE_LATHE = ("turning", "sanding", "coating", "later")  # what was taken off then is put back, and may run out
_STAYS_ON = (
    "resand", "recoat", "strip", "hide", "warm", "reclaim", "another pen", "ring", "pack", "buff off", "flood",
    "press turned back",
)  # fmt: skip
_NO_WORK = ("turn on", "show", "again")  # nothing for the hands, or another blank
_WORKED_AGAIN = ("turn", "voids", "wrap", "sand", "coat", "level", "polish")


def with_mending(plan: Plan, operations: Sequence[Operation]) -> tuple[Operation, ...]:
    """The operations with what the hands do to save blanks: each right after the moment at which its flaw came."""
    found = list(operations)
    for stem, one, way in reversed(list(_decided(plan))):
        place = _place(found, one.fault, way)
        if place is not None:
            found[place:place] = _mended(plan, stem, one, way, found[:place])
    return tuple(found)


def way_of(plan: Plan, task: Operation) -> WayOut | None:
    """The way out that an operation is the work of; None where it is of none."""
    return next((way for stem, _, way in _decided(plan) if stem == task.key.partition(":")[0]), None)


def mended(plan: Plan, operations: Iterable[Operation], done: frozenset[str]) -> frozenset[str]:
    """The keys of mendings that are over though nobody ticked them.

    The blank has its outcome; or the pens are together, and the flaw came before that.
    """
    known = fates_of(plan.shop.ledger, plan.job.batch.id)
    over = {
        stem
        for stem, one, _ in _decided(plan)
        if one.fault.blank_no in known or ("press" in done and one.fault.moment != "later")
    }
    return frozenset(one.key for one in operations if one.key.partition(":")[0] in over)


def _decided(plan: Plan) -> Iterator[tuple[str, FaultPlan, WayOut]]:
    """Each fault whose way out is work, with the stem of its operations' keys: one for all that one cut clears."""
    seen: dict[str, int] = {}
    for one in plan.faults.found if plan.faults is not None else ():
        way = one.chosen
        if way is None or not way.can or way.key in _NO_WORK:
            continue
        what = stem_of(one.fault)
        seen[what] = seen.get(what, 0) + 1
        if seen[what] == 1 or way.key != SHORTEN:
            yield f"{what}.{seen[what]}", one, way


def stem_of(fault: Fault) -> str:
    """How the keys of its operations begin: the same as long as its blank, barrel and way are."""
    return f"mend.{fault.blank_no}.{fault.barrel}.{fault.way}"


def _place(operations: Sequence[Operation], fault: Fault, way: WayOut) -> int | None:
    """Where in the work a flaw is mended: after what was done when it came; what a clip hides, before it is pressed."""
    keys = [one.key for one in operations]
    if way.key == "hide" and "press" in keys:
        return keys.index("press")
    return next((keys.index(key) + 1 for key in _MOMENTS[fault.moment] if key in keys), None)


def _mended(plan: Plan, stem: str, one: FaultPlan, way: WayOut, before: Sequence[Operation]) -> Iterator[Operation]:
    name = f"Blank {one.fault.blank_no}, {one.barrel.name}"
    wait, source = _waited(plan, way)
    yield operation(
        plan, stem, "mend", Station.FINISH, words=f"{name}: {way.title[:1].lower()}{way.title[1:]}",
        minutes=way.hands_min.value, wait=wait, wait_source=source,
        wait_words=_WAITED.get(way.key, "the fill hardens"), lines=way.lines,
        cautions=_CAUTIONS.get(way.key, ("finish.lathe",)),
        field_kind=_FIELD_KINDS.get(way.key, "fill"),
    )  # fmt: skip
    again = [other for other in before if other.kind in _WORKED_AGAIN]
    if one.fault.moment in _ON_THE_LATHE and way.key not in _STAYS_ON:
        yield operation(
            plan, f"{stem}:true", "true", Station.FINISH, words=f"{name}: see that it runs true",
            lines=hold_again(plan, one.fault.barrel), cautions=("finish.lathe", "finish.mandrel"), field_kind="turn",
        )  # fmt: skip
    if way.key == "recast" and again:
        yield operation(
            plan, f"{stem}:again", "mend", Station.FINISH, words=f"{name}: once more, from the lathe on",
            minutes=sum(other.hands_min for other in again) / blanks_of(plan), cautions=("finish.lathe",),
            lines=(f"{other.words}: {'; '.join(_own(other, one.barrel.name))}" for other in again), field_kind="turn",
        )  # fmt: skip


def hold_again(plan: Plan, barrel: int) -> Iterator[str]:
    """How a barrel that was taken off is put back."""
    name = plan.finish.sizes[barrel].barrel.name if plan.finish is not None else "The barrel"
    yield f"{name}: wipe bushings and ends, put it back mark to mark, nut or quill no tighter than by fingers."
    yield f"{name}: by hand, a nail at both ends: does a lip stay with the bushing, or go round with the barrel?"


def _waited(plan: Plan, way: WayOut) -> tuple[Wait, Word]:
    if way.key == "recast":
        return ready_wait(plan)
    return (span(way.wait_h.value) if way.wait_h.value else NO_WAIT), "generic"


def _own(one: Operation, barrel: str) -> Iterator[str]:
    """Its lines, but those of the other barrels."""
    for line in one.lines:
        name, colon, rest = line.partition(": ")
        if not colon or name == barrel:
            yield (rest or line).rstrip(".")
