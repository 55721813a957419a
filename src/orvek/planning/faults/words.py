"""Faults and ways out of them in sentences; screen, card and report take them from here."""

from __future__ import annotations

from orvek.planning.faults.results import FaultPlan, Together, WayOut
from orvek.planning.folding import listed
from orvek.planning.shortening import SHORTEN
from orvek.quantities import Dimension, Units, write

_SURE_PCT = 99.5


def on_what(one: FaultPlan) -> str:
    """The blank, where it is not the first, and the barrel of a fault."""
    blank = f"Blank {one.fault.blank_no}, " if one.fault.blank_no > 1 else ""
    return f"{blank}{one.barrel.name}"


def where(one: FaultPlan, units: Units) -> str:
    """A fault's place in a few words."""
    return f"{on_what(one)}, {write(one.fault.at_mm, Dimension.LENGTH, units)} from its left end"


def in_short(way: WayOut, units: Units) -> str:
    """What a way takes, in a line: hands, waiting, money or what it uses, and how often it succeeds."""
    hands = f"hands {way.hands_min.written(units)}" if way.hands_min.value else "nothing to do"
    wait = f", wait {way.wait_h.written(units)}" if way.wait_h.value else ""
    cost = f", {way.cost.written(units)} of materials" if way.cost else f", {way.uses}" if way.uses != "nothing" else ""
    sure = f"about {way.chance_pct.written(units)}: " if way.chance_pct.value < _SURE_PCT else ""
    return f"{sure}{hands}{wait}{cost}"


def fault_lines(one: FaultPlan, units: Units) -> tuple[str, ...]:
    """What is to be done about a fault by the way that was decided; nothing while none was."""
    way = one.chosen
    if way is None:
        return ()
    who = f" Decided by {one.fault.decided_by}." if one.fault.decided_by else ""
    return (f"{where(one, units)}: {one.fault.kind}. {way.title}, {in_short(way, units)}.{who}", *way.lines)


def together_words(group: Together, units: Units) -> str:
    """The repairs of several flaws: what is done to which, how likely it goes well, what is left where it does not."""
    by_way: dict[str, list[int]] = {}
    for number, way in zip(group.numbers, group.ways, strict=True):
        by_way.setdefault(way.key if way.key in {SHORTEN, "hide"} else way.title, []).append(number + 1)
    hidden = sum(way.key == "hide" for way in group.ways)
    titles = {SHORTEN: _cut_words(group, units), "hide": f"the clip over {'it' if hidden == 1 else 'all of them'}"}
    parts = []
    for key, own in by_way.items():
        flaws = f"flaw{'s' if len(own) > 1 else ''} {listed(tuple(str(number) for number in own))}"
        parts.append(f"{titles.get(key, key)} ({flaws})")
    hands = write(group.hands_min, Dimension.DURATION, units)
    words = f"{'; '.join(parts)}: chance of all {_in_ten(group.chance_pct)}, {hands} of hands."
    if group.fallback is not None:
        words += f" If not: {lowered(group.fallback.title)}; with that {_in_ten(group.with_fallback_pct)}."
    return words[:1].upper() + words[1:]


def _in_ten(chance_pct: float) -> str:
    """A guess as people say it."""
    return "more than 9 in 10" if chance_pct > 92 else f"about {max(1, round(chance_pct / 10))} in 10"


def _cut_words(group: Together, units: Units) -> str:
    left, right = (units.mm(one) for one in group.off_mm)
    return f"shorten by {left} at the left and {right} at the right, {units.mm(group.length_mm)} is left"


def lowered(words: str) -> str:
    """Words as they go on within a sentence."""
    return words[:1].lower() + words[1:]
