"""A plan with the answers to its slow questions: what each adds to its figures and to what is to be said."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace

from orvek.planning.faults import part as faults
from orvek.planning.findings import Station, with_a_way_out
from orvek.planning.guard import Attempts
from orvek.planning.plan import in_order, still_to_be_said
from orvek.planning.questions import QUESTIONS, Slow
from orvek.planning.results import Plan
from orvek.planning.route import part as route
from orvek.planning.sentences import shortened

# One subject, one finding: what a forecast knows better takes the place of what a label alone could say.
_OVERRULED = {"cure.lives": ("pour.pace",)}
_CHANGES_THE_ROUTE = {"cure"}  # answers that the route's waits rest on


def answered(made: Plan, slow: Slow, answer: object) -> Plan:
    """A plan with the answer to one of its slow questions, and what that adds to its findings."""
    whole, tried = made.with_part(slow.key, answer), Attempts()
    if slow.key in _CHANGES_THE_ROUTE:
        if made.faults is not None and made.faults.found:
            again = partial(faults.part, whole)
            whole = whole.with_part("faults", tried.part("what went wrong", Station.FINISH, again, made.faults))
        part = partial(route.part, whole)
        whole = whole.with_part("route", tried.part("the route", Station.BATCH, part, made.route))
    added = list(tried.findings(slow.words, slow.station, partial(slow.findings, whole))) if slow.findings else []
    added = still_to_be_said(made, added)
    told = (*map(with_a_way_out, shortened(added, made.job, made.shop)), *tried.as_findings())
    overruled = {key for finding in told for key in _OVERRULED.get(finding.key, ())}
    kept = tuple(finding for finding in whole.findings if finding.key not in overruled)
    return replace(whole, findings=in_order((*kept, *told)))


def with_answer(made: Plan, key: str, answer: object) -> Plan:
    """A plan with the answer to the question of that key, e.g. "cure"."""
    return answered(made, next(slow for slow in QUESTIONS if slow.key == key), answer)
