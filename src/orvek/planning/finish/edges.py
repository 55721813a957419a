"""The tool's edge: how many barrels it has turned since it was renewed, and when a fresh one pays."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from orvek.craft.lathe import edge_life_barrels, tool_for
from orvek.documents import Job, Shop
from orvek.documents.deeds.records import last_series
from orvek.planning.findings import Finding, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.stuff import stuff_of, turned_as
from orvek.planning.words import counted

_DUE = 1.0  # of its life


def tool_of(job: Job) -> str:
    """The tool that this job is turned with."""
    return tool_for(turned_as(job)) if job.finish.tool == "as advised" else job.finish.tool


def edge_of(tool: str) -> str:
    """What a fresh edge begins a new series of."""
    return f"edge, {tool}"


def renewed_at(shop: Shop, tool: str) -> datetime | None:
    """When the edge of a tool was renewed; None where nobody ever wrote it down."""
    last = last_series(shop.ledger, edge_of(tool))
    return last.when.replace(tzinfo=None) if last is not None else None


def worn(plan: Plan) -> tuple[int, float] | None:
    """Barrels since the edge of this job's tool was renewed, and what part of its life they took; None unknown."""
    tool = tool_of(plan.job)
    since = renewed_at(plan.shop, tool)
    if since is None:
        return None
    turned = [(job, _turned_since(job, since)) for job in (plan.job, *plan.others) if tool_of(job) == tool]
    life = sum(count / edge_life_barrels(turned_as(job)) for job, count in turned)
    return sum(count for _, count in turned), life


def edge_lines(plan: Plan) -> Iterator[str]:
    """What is said of the edge at the lathe; before the last cut of stuff that chips, and of bought bars."""
    wear = worn(plan)
    if wear is not None:
        left = "it is due" if wear[1] >= _DUE else f"about {100 * wear[1]:.0f} % of what it lasts in this stuff"
        yield f"The {tool_of(plan.job)}: {counted(wear[0], 'barrel')} since its edge was renewed, {left}."
    if stuff_of(plan.job).is_brittle or plan.job.blank.photographed is not None:
        yield "A fresh edge before the last millimetre (E); the rest again: scrapers on centre, gouges a little above."


def edge_due(plan: Plan) -> Iterator[Finding]:
    """An edge that has turned as much as it usually lasts, before more is turned with it."""
    wear = worn(plan)
    if wear is not None and wear[1] >= _DUE and plan.finish is not None and "turn" not in plan.job.work.done():
        because = (
            f"{counted(wear[0], 'barrel')} since it was renewed. Evenly spaced marks are a nick, tearing everywhere is "
            "a dull edge: grind until a marker on the bevel is gone everywhere, set the rest again."
        )
        yield Finding(Severity.NOTE, Station.FINISH, f"The edge of the {tool_of(plan.job)} is due.", because)


def _turned_since(job: Job, since: datetime) -> int:
    """Barrels of a job that were turned after a moment: those whose last end was measured, else all once it is done."""
    measured = [one for one in job.work.actuals if one.step.startswith("turn:") and one.step.endswith(".right")]
    if measured:
        late = (one for one in measured if one.when.replace(tzinfo=None) > since)
        return len({(one.step, one.blank) for one in late})
    done = job.work.when("turn", "done")
    is_late = done is not None and done.replace(tzinfo=None) > since
    return job.batch.pens_wanted * len(job.laid) if is_late else 0
