"""What is to be said of faults: what is not decided yet, and what lies beside its barrel."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import JOB, path_to
from orvek.planning.faults.results import Together
from orvek.planning.faults.words import in_short, on_what, together_words
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan

_OFFERED = 3


def undecided(plan: Plan) -> Iterator[Finding]:
    """Faults for which no way out was decided yet: the first ways, each with what it costs.

    Of several on one barrel the set of repairs is offered that suits them all.
    """
    if plan.faults is None:
        return
    said: set[int] = set()
    for group in plan.faults.together:
        open_ones = [one for one in plan.faults.found if one.number in group.numbers and one.chosen is None]
        if len(open_ones) > 1:
            said |= set(group.numbers)
            title = f"{on_what(open_ones[0])}: {len(group.numbers)} flaws. Choose their repairs together."
            all_so = Remedy("Decide all so", tuple(decide_all(group)))
            because = together_words(group, plan.units)
            yield Finding(Severity.CAUTION, Station.FINISH, title, because, (all_so,), place=str(group.barrel.name))
    for one in plan.faults.found:
        if one.chosen is not None or one.number in said:
            continue
        ways = one.open_ways[:_OFFERED]
        remedies = tuple(Remedy(way.title, (Edit(path_to(JOB.faults.found[one.number].way), way.key),)) for way in ways)
        because = " ".join(f"{way.title}: {in_short(way, plan.units)}." for way in ways)
        title, severity = f"{on_what(one)}: {one.fault.kind}. Choose a repair.", Severity.CAUTION
        if one.fault.parked:
            title, severity = f"{on_what(one)}: {one.fault.kind}, put aside.", Severity.NOTE
            why = one.fault.parked.rstrip(".")
            because = f"{why[:1].upper()}{why[1:]}. When there is an hour for it: {because}"
        yield Finding(severity, Station.FINISH, title, because, remedies, place=str(one.barrel.name))


def decide_all(group: Together) -> Iterator[Edit]:
    """The edits that decide for a set of repairs."""
    for number, way in zip(group.numbers, group.ways, strict=True):
        yield Edit(path_to(JOB.faults.found[number].way), way.key)


def no_longer(plan: Plan) -> Iterator[Finding]:
    """A way out that was decided and cannot work any more: another flaw, a size or a shortening came after it."""
    for one in plan.faults.found if plan.faults else ():
        chosen = one.chosen
        if chosen is None or chosen.can:
            continue
        remedies = tuple(
            Remedy(way.title, (Edit(path_to(JOB.faults.found[one.number].way), way.key),))
            for way in one.open_ways[:_OFFERED]
        )
        title = f"{on_what(one)}, {one.fault.kind}: {chosen.title.lower()} is not possible."
        because = " ".join(chosen.lines)
        yield Finding(Severity.CAUTION, Station.FINISH, title, because, remedies, place=str(one.barrel.name))


def outside(plan: Plan) -> Iterator[Finding]:
    """Faults that lie beyond the end of their barrel, or on one that the pen does not have."""
    for number in plan.faults.outside if plan.faults else ():
        fault, laid = plan.job.faults.found[number], plan.job.laid
        if fault.barrel >= len(laid):
            because = f"This pen has {len(laid)} barrel{'s' if len(laid) > 1 else ''}."
            remedies: tuple[Remedy, ...] = (
                Remedy(f"Put it on {laid[0].name}", (Edit(path_to(JOB.faults.found[number].barrel), 0),)),
            )
        else:
            length = laid[fault.barrel].tube_length_mm
            because = (
                f"It lies {plan.units.mm(fault.at_mm)} from the left end; the barrel is {plan.units.mm(length)} long."
            )
            edit = Edit(path_to(JOB.faults.found[number].at_mm), length)
            remedies = (Remedy(f"Put it at {plan.units.mm(length)}", (edit,)),)
        title = f"The {fault.kind} lies beside its barrel."
        yield Finding(Severity.CAUTION, Station.FINISH, title, because, remedies)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (undecided, no_longer, outside)
