"""At the lathe: which tool for this stuff, how fast, what is left for tear-out, and how the bushings wear."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

from orvek.craft.lathe import speeds, support_mm, tool_words
from orvek.documents import JOB, BushingReading, Job, Shop, path_to
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.finish.edges import tool_of
from orvek.planning.results import Plan
from orvek.planning.stuff import FIBRE, grains_of, stuff_of, tears
from orvek.quantities import Dimension, Units, write

_MOST_MM = 0.8  # nobody sands more than that off (a choice)
_SOFT_MM, _BRITTLE_MM, _MORE_MM = 0.4, 0.3, 0.1  # left for tear-out: 0.3 to 0.5 (workshop practice)
_TORN = {"blow-out", "chip at an end"}
_WORN_MM = 0.1  # a bushing worn by so much makes barrels visibly slimmer than their parts (practice)


def lathe_lines(plan: Plan) -> tuple[str, ...]:
    """Tool and speeds, step by step."""
    stuff, at = stuff_of(plan.job), speeds()
    lines = [
        f"{stuff.name.capitalize()}. {tool_words(tool_of(plan.job))}",
        f"Square at {_rpm(at.square)}, corners off first; round at {_rpm(at.round)}; last cut at {_rpm(at.last)}.",
        f"Sand at {_rpm(at.sand)} and no faster: heat lifts glue and smears resin.",
    ]
    if tears(plan.job):
        lines.append("Wick thin glue in at low speed, no activator; let it cool and stop smoking between cuts.")
    if _wants_support(plan):
        lines = [_support_line(plan), *lines]
        lines.append("Cut from the middle towards the ends, never in from an end; the last of it by sanding.")
    return tuple(lines)


def advised_more_mm(plan: Plan) -> tuple[float | None, str]:
    """What to leave for tear-out and because of what; 0 where nothing asks for it, None where no allowance is enough.

    As deep as this blank's own tear-outs, and a little more; without any by what it is made of. Workshop practice.
    """
    torn = [f.deep_mm for f in plan.job.faults.found if f.kind in _TORN and f.moment in {"turning", "sanding"}]
    if torn:
        many = "once" if len(torn) == 1 else f"{len(torn)} times"
        deep, more = plan.units.mm(max(torn), 1), 2 * max(torn) + _MORE_MM
        if more <= _MOST_MM:
            return more, f"It tore out {many}, up to {deep} deep: twice that on the diameter and a little more."
        return None, f"It tore out {many}, up to {deep} deep: no allowance covers that. Lighter cuts, wicked glue."
    if tears(plan.job):
        return _SOFT_MM, "Fibre, cob and punky wood tear before they cut: 0.3 to 0.5 mm more, sanded down at the end."
    if stuff_of(plan.job).key in {"polyester", "bone"}:
        return _BRITTLE_MM, "It chips out at the last cuts: 0.3 to 0.5 mm more, sanded down at the end."
    return 0.0, ""


def tear_out(plan: Plan) -> Iterator[Finding]:
    """Stuff that tears or chips out, with less left for it than it asks for."""
    if plan.finish is None:
        return
    more, because = advised_more_mm(plan)
    if more is None:
        yield Finding(Severity.CAUTION, Station.FINISH, "It tears out deeper than sanding reaches.", because)
    elif more > plan.job.finish.more_mm + 0.05:
        asked = min(5.0, round(more, 1))
        remedy = Remedy(f"Leave {plan.units.mm(asked)} more", (Edit(path_to(JOB.finish.more_mm), asked),))
        title = "Leave more for soft wood." if tears(plan.job) else "Leave more for tear-out."
        yield Finding(Severity.NOTE, Station.FINISH, title, because, (remedy,))


def support(plan: Plan) -> Iterator[Finding]:
    """Fibre, before its first blow-out: how it is held together, and in which order it comes to its size."""
    dummies = "on dummy bushings, by calipers"
    if plan.finish is None or not _wants_support(plan) or plan.job.finish.tenths == dummies:
        return
    because = (
        f"{_support_line(plan)} Wick thin glue in before and while you turn; stop the tool early and sand the last "
        "tenths on dummy bushings, by calipers."
    )
    remedy = Remedy("Last tenths on dummy bushings", (Edit(path_to(JOB.finish.tenths), dummies),))
    yield Finding(Severity.NOTE, Station.FINISH, "Fibre blows out at its corners and ends.", because, (remedy,))


def wear(plan: Plan) -> Iterator[Finding]:
    """Bushings that have worn since they were first measured."""
    for words, by in _worn(plan.job, plan.shop, plan.units):
        if plan.finish is not None and by >= _WORN_MM:
            because = (
                f"{words} A barrel turned to it comes out slimmer than its part: measure the part, or use calipers."
            )
            yield Finding(Severity.NOTE, Station.FINISH, "A bushing has worn.", because)


def wear_lines(job: Job, shop: Shop, units: Units) -> tuple[str, ...]:
    """How much each bushing of this pen has worn."""
    return tuple(words for words, _ in _worn(job, shop, units))


def readings_now(job: Job, today: date) -> tuple[BushingReading, ...]:
    """The bushings as they were typed at Pen, to be kept with the day."""
    found = []
    for barrel in job.pen.barrels if job.pen else ():
        for end, size in (("left", barrel.bushing_left_mm), ("right", barrel.bushing_right_mm)):
            if size is not None and job.pen is not None:
                name = f"{job.pen.name[:28]}, {barrel.name[:20]}, {end}, {today.isoformat()}"
                reading = BushingReading().with_(
                    name=name, pen=job.pen.name, barrel=barrel.name, size_mm=size, day=today
                )
                found.append(reading.with_(end=end))
    return tuple(found)


def _worn(job: Job, shop: Shop, units: Units) -> Iterator[tuple[str, float]]:
    pen = job.pen
    for barrel in pen.barrels if pen else ():
        for end in ("left", "right"):
            kept = [r for r in shop.bushings if pen and (r.pen, r.barrel, r.end) == (pen.name, barrel.name, end)]
            if len(kept) < 2:
                continue
            first, last = (pick(kept, key=lambda reading: reading.day) for pick in (min, max))
            by, days = first.size_mm - last.size_mm, (last.day - first.day).days
            worn = write(max(0.0, by), Dimension.LENGTH, units, 2)
            yield f"{barrel.name}, {end}: worn by {worn} in {days} days.", by


def _wants_support(plan: Plan) -> bool:
    return plan.layout is not None and not plan.layout.is_round and FIBRE in grains_of(plan.job)


def _support_line(plan: Plan) -> str:
    units = plan.units
    assert plan.layout is not None
    thick = support_mm(plan.layout.across_mm)
    return (
        f"Before it turns: strips at least {units.mm(thick)} thick glued on its four flats, as long as it is, so that "
        "the tool meets no corner."
    )


def _rpm(span: tuple[int, int]) -> str:
    return f"{span[0]} to {span[1]} rpm"
