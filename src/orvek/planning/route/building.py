"""The route of a plan: `route_of`, in the order of the steps, then bore, finish and press; and what of it is done.

The order of the steps is the order of the work: a bar cast round a glue-up is glued first, one glued of cast pieces is
cast first. A printed sheet that is coated goes on when the barrel is turned, whatever its place among the steps.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from msgspec.structs import replace

from orvek.planning.results import Plan
from orvek.planning.route.bars import bars
from orvek.planning.route.boring import boring
from orvek.planning.route.casting import casting
from orvek.planning.route.consumed import consumed
from orvek.planning.route.finishing import finishing
from orvek.planning.route.gluing import gluing, milling
from orvek.planning.route.mending import mended, with_mending
from orvek.planning.route.pieces import with_pieces
from orvek.planning.route.results import Operation, Route
from orvek.planning.route.treating import DRYING, treating

_BEFORE_A_BAR = ("soak", "weigh", "pour", "demould")


def operations_of(plan: Plan) -> tuple[Operation, ...]:
    """All operations of a plan's job, each after the one before it; a cure that was forecast is waited for."""
    chain = with_mending(plan, tuple(_chain(plan)))
    after = (replace(one, after=(before.key,)) for before, one in pairwise(chain))
    every = (replace(one, uses=(*one.uses, *consumed(plan, one))) for one in (*chain[:1], *after))
    return with_pieces(plan, tuple(every))


def route_of(plan: Plan) -> Route:
    """All operations, and which are done: ticked, or plain from what was measured since.

    Where cast bars lie on the bench, all that brought them there is done. Wood that was weighed dries since then. What
    comes before a treatment's operation that was ticked is done too: not every part of it was one at all times.
    """
    operations, done = operations_of(plan), plan.job.work.done()
    if plan.job.cast_index is not None and plan.bars.in_hand:
        done |= {one.key for one in operations if one.kind in _BEFORE_A_BAR}
    treated = [one.key for one in operations if one.kind == "soak"]
    done |= set(treated[: max((place for place, key in enumerate(treated) if key in done), default=0)])
    log = plan.job.soak.drying.log
    seen = ((DRYING, log[0].when),) if log and any(one.key == DRYING for one in operations) else ()
    return Route(operations, done | mended(plan, operations, done) | {key for key, _ in seen}, seen)


def _chain(plan: Plan) -> Iterator[Operation]:
    yield from treating(plan)
    is_milled = False
    for index, step in enumerate(plan.job.blank.steps):
        if step.kind == "cast" and index == plan.job.cast_index:
            yield from casting(plan)
        found = tuple(gluing(plan, index))
        if found and not is_milled:
            yield from milling(plan)
            is_milled = True
        yield from found
    if not is_milled:
        yield from milling(plan)
    yield from bars(plan)
    yield from boring(plan)
    yield from finishing(plan)
