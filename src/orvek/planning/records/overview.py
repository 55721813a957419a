"""The next batch of each kind of work: what it will cost, how many to start, the one thing to change, and why."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

from msgspec import Struct
from msgspec.structs import replace

from orvek.documents import Batch, ClosedEntry, Job
from orvek.planning.bars import to_start
from orvek.planning.history import Seen, closed_batches, kind_of_work, plain, seen, works_seen
from orvek.planning.records.changes import Proposal, Tried, proposals, tried
from orvek.planning.records.costs import PenCost, pen_cost
from orvek.planning.results import Plan, Planner

_USUAL_PENS = 5


class NextBatch(Struct, frozen=True):
    """What the records say of the next batch of a kind of work.

    Attributes:
        seen: what was spoilt of how many, why and where.
        pens: good pens wanted: as many as the last batch of that kind wanted.
        start: blanks to start, as the newest job of that kind says it.
        chance: that so many good ones come of them.
        cost: of a good pen, by the newest job of that kind; None where there is no such job any more.
        closed: the batch of that kind that was finished last, as it stood then; None without one.
        change: what is to be changed, where a cause came twice.
        trying: the newest change that was made, and what came of it.
    """

    seen: Seen
    pens: int
    start: int
    chance: float
    cost: PenCost | None
    closed: ClosedEntry | None
    change: Proposal | None
    trying: Tried | None

    @property
    def advice(self) -> str:
        """The one thing to change, with its reason."""
        if self.change is not None:
            return f"{self.change.cause}, {self.change.count} of {self.change.of}: {self.change.words}"
        if self.trying is not None:
            return f"{self.trying.change.cause}: {self.trying.verdict}"
        if self.seen.missed:
            return f"Nothing yet: {self.seen.causes[0][0]} came once, and once is no pattern."
        return "Nothing: none was scrapped." if self.seen.of else "No outcomes yet: enter one for each blank."


def next_batches(plan: Plan, planner: Planner, others: Sequence[Job], today: date) -> tuple[NextBatch, ...]:
    """Every kind of work that a fate was written of, or that a job is, the one with most blanks first.

    `planner` plans the newest job of each kind.
    """
    jobs = (plan.job, *others)
    own: dict[str, list[Job]] = {work: [] for work in works_seen(plan.shop.ledger)}
    for job in jobs:
        if job.pen is not None:
            own.setdefault(kind_of_work(job), []).append(job)
    known = (tried(plan.shop.ledger), proposals(plan.shop.ledger), closed_batches(plan.shop.ledger))
    return tuple(_next(work, plan, planner, there, known, today) for work, there in own.items())


def with_job_in_hand(rows: Sequence[NextBatch], plan: Plan, today: date) -> tuple[NextBatch, ...]:
    """Rows of the same shop and the same other jobs, after an edit that left the job its kind of work."""
    own = kind_of_work(plan.job)
    return tuple(_of_job_in_hand(row, plan, today) if row.seen.work == own else row for row in rows)


def _of_job_in_hand(row: NextBatch, plan: Plan, today: date) -> NextBatch:
    start, chance = to_start(plan.job.batch, row.seen)
    return replace(row, pens=plan.job.batch.pens_wanted, start=start, chance=chance, cost=pen_cost(plan, today))


_Known = tuple[tuple[Tried, ...], tuple[Proposal, ...], Sequence[ClosedEntry]]


def _next(work: str, plan: Plan, planner: Planner, own: Sequence[Job], known: _Known, today: date) -> NextBatch:
    there = seen(plan.shop.ledger, work)
    newest = _newest(own, plan.job)
    whole = None if newest is None else plan if newest is plan.job else planner(newest, plan.shop)
    batch = newest.batch if newest is not None else Batch(pens_wanted=_USUAL_PENS, spoilage_pct=None)
    start, chance = to_start(batch, there)
    made, proposed, every_closed = known
    closed = [one for one in every_closed if one.work == work]
    return NextBatch(
        seen=there,
        pens=batch.pens_wanted,
        start=start,
        chance=chance,
        cost=pen_cost(whole, today) if whole is not None else None,
        closed=closed[-1] if closed else None,
        change=next((one for one in proposed if one.work == work), None),
        trying=next((one for one in made if one.change.work == work), None),
    )


def _newest(jobs: Sequence[Job], in_hand: Job) -> Job | None:
    """The job in hand where it is of that kind, else the one in which something happened last."""
    if any(job is in_hand for job in jobs):
        return in_hand
    return max(jobs, key=_last_deed, default=None)


def _last_deed(job: Job) -> datetime:
    return max((plain(one.when) for one in job.work.actuals), default=datetime.min)
