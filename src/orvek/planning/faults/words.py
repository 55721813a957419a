"""Faults and ways out of them in sentences; screen, card and report take them from here."""

from __future__ import annotations

from orvek.planning.faults.results import FaultPlan, WayOut
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
