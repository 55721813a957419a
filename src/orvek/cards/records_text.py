"""The records in words and as tables: the next batch of each kind, what a pen costs, the ledger as CSV and JSON."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orvek.cards.csv_table import csv_table
from orvek.documents import LedgerEntry
from orvek.planning.compared import Compared
from orvek.planning.history import last_fates
from orvek.planning.records.costs import PenCost
from orvek.planning.records.overview import NextBatch
from orvek.quantities import Dimension, Units, write

_MONEY = Dimension.MONEY
_UNITS = {Dimension.MASS: "g", Dimension.LENGTH: "mm", Dimension.DURATION: "min"}
_HEAD = (
    "when", "job", "work", "pen", "blank", "fate", "stage", "cause", "place", "tried", "decided by", "lots",
    "tube saved",
)  # fmt: skip


def records_csv(ledger: tuple[LedgerEntry, ...]) -> bytes:
    """One row a blank, as its fate was written last."""
    rows = [
        (
            one.when.isoformat(sep=" ", timespec="minutes"), one.job, one.work, one.pen, one.blank_no, one.fate,
            one.stage, one.cause, one.place, one.tried, one.decided_by, one.lots,
            "yes" if one.is_tube_saved else "",
        )
        for one in last_fates(ledger)
    ]  # fmt: skip
    return csv_table([_HEAD, *rows])


def records_jsonl(ledger: tuple[LedgerEntry, ...]) -> bytes:
    """Every entry that was ever written, a line each, corrections among them."""
    return "".join(f"{entry.model_dump_json()}\n" for entry in ledger).encode()


def compared_csv(rows: Sequence[Compared]) -> bytes:
    """Planned beside actual, in g, mm and minutes."""
    head = ("what", "planned", "actual", "difference", "unit", "within what the plan allowed", "allowed by")
    told = [
        (
            one.words, round(one.planned, 3), round(one.actual, 3), round(one.actual - one.planned, 3),
            _UNITS.get(one.dimension, ""), "yes" if one.is_within else "no", one.source,
        )
        for one in rows
    ]  # fmt: skip
    return csv_table([head, *told])


def next_lines(one: NextBatch, units: Units) -> Iterator[str]:
    """What the records say of the next batch of a kind of work, line by line."""
    rate = one.seen.rate
    yield (
        f"Scrap rate: {100 * rate.mean:.0f} %, 9 in 10 from {100 * rate.low:.0f} to {100 * rate.high:.0f} % "
        f"({one.seen.source})"
    )
    yield f"Start {one.start} for {one.pens} good: enough {100 * one.chance:.0f} times in 100"
    if one.cost is not None:
        yield from cost_lines(one.cost, units)
    if one.closed is not None and one.closed.cost_good is not None:
        yield (
            f"The last batch: {one.closed.good} good of {one.closed.started}, "
            f"{write(one.closed.cost_good, _MONEY, units, 2)} each"
        )


def cost_lines(cost: PenCost, units: Units) -> Iterator[str]:
    """What a good pen costs, in two lines, and what is left out."""
    yield (
        f"Cost per good pen: {cost.told.written(units)} before scrap, {cost.with_spoilt.written(units)} including scrap"
    )
    if cost.price is not None:
        yield f"Price for your margin: {cost.price.written(units)}"
    if cost.awaited:
        yield f"No price for your margin before these have one: {', '.join(cost.awaited)}"
    if cost.unpriced:
        yield f"Without a price, and left out: {', '.join(cost.unpriced)}"


def records_text(batches: Sequence[NextBatch], units: Units) -> str:
    """All kinds of work, one under the other."""
    blocks = [
        "\n".join([one.seen.work, *(f"  {line}" for line in (*next_lines(one, units), f"Change: {one.advice}"))])
        for one in batches
    ]
    return "\n\n".join(blocks) or "No records yet. They begin with the outcome of each blank, at Batch."


def cost_text(cost: PenCost, units: Units) -> str:
    """What a good pen of a job costs, stage by stage."""

    def money(value: float) -> str:
        return write(value, _MONEY, units, 2)

    rows = [
        f"  {stage.kind.key:<16} {money(stage.cost):>10}  materials {money(stage.materials)}, work {money(stage.work)} "
        f"({stage.minutes:.0f} min), machine {money(stage.machine)}; {100 * stage.passes:.1f} of 100 get through"
        for stage in cost.stages
    ]
    gains = [f"  {gain.words}: {money(gain.saves)} a pen" for gain in cost.gains]
    earned = ["What would earn most:", *gains] if gains else []
    return "\n".join(["A blank, stage by stage:", *rows, *cost_lines(cost, units), *earned, *cost.warnings])
