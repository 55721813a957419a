"""All flaws of one barrel together: the set of repairs that saves it most likely, in least time, and a fallback."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import groupby, product

from orvek.craft.boring_plan import may_lose
from orvek.craft.faults import covered_deg
from orvek.craft.pressing import clip_covers_deg
from orvek.planning.faults.results import FaultPlan, Together, WayOut
from orvek.planning.results import Plan
from orvek.planning.shortening import AT_END_MM, SHORTEN, beyond_mm, cuts_mm

_ONCE = frozenset({SHORTEN, "hide", "recoat", "strip", "resand", "slimmer", "recast", "another pen"})
_FOR_ALL = ("recast", "another pen", "strip")  # what saves the barrel whatever its flaws are
_NO_REPAIR = frozenset({"show", "again", "reclaim", *_FOR_ALL})
_MOST_WAYS, _MOST_FLAWS = 5, 6  # of a flaw, the likeliest; more flaws than that are no repair any more (choices)
Picks = tuple[WayOut, ...]


def together(plan: Plan, found: tuple[FaultPlan, ...]) -> tuple[Together, ...]:
    """For each barrel with several flaws the best set of repairs; none where no set can work."""
    ordered = sorted(found, key=_barrel)
    groups = ((key, tuple(group)) for key, group in groupby(ordered, key=_barrel))
    made = (_best(plan, group) for _, group in groups if 1 < len(group) <= _MOST_FLAWS)
    return tuple(one for one in made if one is not None)


def chance_of(picks: Picks) -> float:
    """How likely all of them succeed, 0 to 1: what is done once for several flaws counts once."""
    return math.prod(way.chance_pct.value / 100 for way in _done(picks))


def fits_together(plan: Plan, flaws: tuple[FaultPlan, ...], picks: Picks) -> bool:
    """Whether the barrel may lose what all cuts take, and one clip covers all that it is to hide."""
    barrel = flaws[0].barrel
    cut = [one.fault for one, way in zip(flaws, picks, strict=True) if way.key == SHORTEN]
    if cut and (barrel.play_mm is None or not may_lose(*cuts_mm(cut, barrel), barrel.play_mm)):
        return False
    hidden = [one for one, way in zip(flaws, picks, strict=True) if way.key == "hide"]
    return not hidden or _arc_deg(hidden) <= clip_covers_deg(plan.job.finish.clip_mm, barrel.widest_mm)


def _best(plan: Plan, flaws: tuple[FaultPlan, ...]) -> Together | None:
    sets = [picks for picks in _sets(flaws) if fits_together(plan, flaws, picks)]
    if not sets:
        return None
    best = max(sets, key=lambda picks: (round(chance_of(picks), 3), -_hours(picks)))
    barrel = flaws[0].barrel
    cut = [one.fault for one, way in zip(flaws, best, strict=True) if way.key == SHORTEN]
    left, right = cuts_mm(cut, barrel) if cut else (0.0, 0.0)
    chance = chance_of(best)
    fallback = max(
        (picks[0] for picks in _for_all(flaws) if picks[0].key != best[0].key),
        key=lambda way: way.chance_pct.value,
        default=None,
    )
    pair = 1 - (1 - chance) * (1 - fallback.chance_pct.value / 100) if fallback is not None else chance
    return Together(
        numbers=tuple(one.number for one in flaws),
        barrel=barrel,
        blank_no=flaws[0].fault.blank_no,
        ways=best,
        chance_pct=100 * chance,
        hands_min=sum(way.hands_min.value for way in _done(best)),
        wait_min=max(way.wait_h.value for way in best),
        off_mm=(left, right),
        length_mm=barrel.tube_length_mm - left - right,
        fallback=fallback,
        with_fallback_pct=100 * pair,
    )


def _sets(flaws: tuple[FaultPlan, ...]) -> Iterator[Picks]:
    """Every set of repairs that is worth a thought: one for each flaw, or one that saves the barrel from all."""
    yield from product(*(_own(one) for one in flaws))
    yield from _for_all(flaws)


def _own(one: FaultPlan) -> list[WayOut]:
    """A flaw's own repairs, the likeliest; a cut is judged with the others of its barrel."""
    ways = [way for way in one.ways if way.key not in _NO_REPAIR and (way.can or _may_be_cut(one, way))]
    return sorted(ways, key=lambda way: -way.chance_pct.value)[:_MOST_WAYS]


def _may_be_cut(one: FaultPlan, way: WayOut) -> bool:
    return way.key == SHORTEN and min(beyond_mm(one.fault, one.barrel)) <= AT_END_MM


def _for_all(flaws: tuple[FaultPlan, ...]) -> Iterator[Picks]:
    for key in _FOR_ALL:
        picks = tuple(next((way for way in one.ways if way.key == key and way.can), None) for one in flaws)
        if None not in picks:
            yield picks  # type: ignore[misc]


def _done(picks: Picks) -> tuple[WayOut, ...]:
    """What is really done: of what is done once for several flaws one."""
    once: dict[str, WayOut] = {}
    rest = []
    for way in picks:
        if way.key in _ONCE:
            once.setdefault(way.key, way)
        else:
            rest.append(way)
    return (*once.values(), *rest)


def _hours(picks: Picks) -> float:
    return sum(way.hands_min.value for way in _done(picks)) + max(way.wait_h.value for way in picks)


def _arc_deg(flaws: list[FaultPlan]) -> float:
    """The narrowest angle that holds all of them."""
    spans = []
    for one in flaws:
        half = covered_deg(one.fault.wide_mm, one.barrel.widest_mm) / 2
        spans.append((one.fault.azimuth_deg - half, 2 * half))
    return min(max((begin - first) % 360 + wide for begin, wide in spans) for first, _ in spans)


def _barrel(one: FaultPlan) -> tuple[int, int]:
    return one.fault.blank_no, one.fault.barrel
