"""One job in a column, so that two stand side by side: what it was, what came of it and what it cost."""

from __future__ import annotations

from datetime import date

from orvek.documents import LessonEntry
from orvek.planning.history import closed_batches, fates_of, is_missed, kind_of_work
from orvek.planning.orders import price_words
from orvek.planning.records.costs import begun_on, pen_cost
from orvek.planning.results import Plan
from orvek.quantities import Dimension, write, write_day

COMPARED = (
    "Kind of work", "Pen", "Good pens wanted", "Blanks", "Good", "Scrapped by", "Hands, a blank", "Before scrap",
    "Including scrap", "Price agreed", "Resin", "Colours", "Coats", "Started", "Repeat", "Avoid",
)  # fmt: skip
_MONEY, _DASH = Dimension.MONEY, "–"


def beside(plan: Plan, today: date) -> tuple[str, ...]:
    """What is said of a job, in the order of `COMPARED`."""
    job, units, ledger = plan.job, plan.units, plan.shop.ledger
    fates, cost = fates_of(ledger, job.batch.id), pen_cost(plan, today)
    closed = [one for one in closed_batches(ledger) if one.job_id == job.batch.id]
    missed = [fate for fate in fates.values() if is_missed(fate)]
    minutes = sum(stage.minutes for stage in cost.stages) if cost else 0.0
    spoilt = closed[-1].cost_good if closed else cost.with_spoilt.value if cost else None
    said = {
        again: "; ".join(
            one.words
            for one in ledger
            if isinstance(one, LessonEntry) and one.job_id == job.batch.id and one.again == again
        )
        for again in ("do again", "do not")
    }
    begun, coats = begun_on(job), plan.finishing
    return (
        kind_of_work(job),
        job.pen.name if job.pen else _DASH,
        str(job.batch.pens_wanted),
        f"{plan.bars.blanks.value:.0f} to start, {len(fates)} decided",
        str(len(fates) - len(missed)) if fates else _DASH,
        ", ".join(dict.fromkeys(fate.cause or fate.stage for fate in missed)) or _DASH,
        write(minutes, Dimension.DURATION, units),
        write(cost.told.value, _MONEY, units, 2) if cost else _DASH,
        write(spoilt, _MONEY, units, 2) if spoilt is not None else _DASH,
        price_words(job, units) or _DASH,
        job.pour.resin.name if job.pour.resin and job.cast_index is not None else _DASH,
        ", ".join(cup.name for cup in job.cast.cups) or _DASH,
        f"{coats.thin_coats} thin, {coats.medium_coats} medium"
        if plan.finish and plan.finish.coats_mm.value
        else _DASH,
        write_day(begun) if begun is not None else _DASH,
        said["do again"] or _DASH,
        said["do not"] or _DASH,
    )
