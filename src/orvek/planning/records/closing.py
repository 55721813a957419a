"""A batch that is finished: how many came of it, and what each of them really cost."""

from __future__ import annotations

from datetime import datetime

from orvek.documents import ClosedEntry, deeds
from orvek.planning.history import begun, fates_of, is_missed, kind_of_work
from orvek.planning.records.costs import pen_cost, spent
from orvek.planning.results import Plan


def closed(plan: Plan, when: datetime) -> ClosedEntry:
    """How a plan's batch stands by the fates of its blanks; what a good one cost where there are any."""
    fates = tuple(fates_of(plan.shop.ledger, plan.job.batch.id).values())
    cost, good = pen_cost(plan, when.date()), sum(not is_missed(fate) for fate in fates)
    stages = tuple((stage.kind.key, round(stage.minutes, 1)) for stage in cost.stages) if cost else ()
    return ClosedEntry(
        started=begun(fates),
        good=good,
        told=round(cost.told.value, 2) if cost else 0.0,
        cost_good=round(max(0.0, spent(cost, fates) / good), 2) if cost is not None and good else None,
        minutes=round(sum(minutes for _, minutes in stages), 1),
        by_stage_min=stages,
        **deeds.records.about(plan.job, kind_of_work(plan.job), when),
    )
