"""A year on paper: what was made, what was spoilt and why, what a good pen cost, batch by batch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date

from orvek.cards.sheet import QUIET
from orvek.cards.story import Cell, Story, gap, table, words
from orvek.documents import FateEntry, LedgerEntry, Shop
from orvek.errors import NothingToDoError
from orvek.planning.history import closed_batches, is_missed, last_fates, ranked_causes
from orvek.planning.records.changes import tried
from orvek.quantities import Dimension, write, write_date, write_day

_COLUMNS = (0.0, 0.34, 0.52, 0.72, 0.86)  # where they begin, as parts of the width
Row = tuple[str, ...]


def years(ledger: tuple[LedgerEntry, ...]) -> tuple[int, ...]:
    """The years that anything was written in, the newest first."""
    return tuple(sorted({entry.when.year for entry in ledger}, reverse=True))


def year_report(shop: Shop, year: int, today: date) -> bytes:
    """The report of a year.

    Raises:
        NothingToDoError: nothing was written in that year.
    """
    ledger = tuple(entry for entry in shop.ledger if entry.when.year == year)
    if not ledger:
        raise NothingToDoError(f"A report of {year}", "entries of that year at Records")
    story = Story(shop.preferences.paper, f"The year {year}", "Orvek records")
    story.add(words("Records", 9, "medium", QUIET), words(f"The year {year}", 22, "bold"))
    story.add(words(f"written {write_date(today)}", 9, colour=QUIET, after_mm=6))
    fates = [one for one in last_fates(shop.ledger) if one.when.year == year]
    heads = ("work", "finished", "good", "scrapped or downsized", "")
    _table(story, "Blanks, by kind of work", heads, _by_work(fates))
    _table(story, "Causes", ("cause", "how often", "most often while", "", ""), _causes(fates))
    heads = ("batch", "good of started", "per good pen", "before scrap", "finished")
    _table(story, "Batches", heads, list(_batches(shop, ledger)))
    made = (one for one in tried(shop.ledger) if one.change.when.year == year)
    changes = [(one.change.cause, one.verdict, "", "", "") for one in made]
    _table(story, "Changed", ("because of", "what came of it", "", "", ""), changes)
    return story.pdf()


def _table(story: Story, title: str, heads: Row, rows: Sequence[Row]) -> None:
    """A table under its title; nothing where it has no rows. The last column that is used takes what room is left."""
    if not rows:
        return
    used = 1 + max((n for n, head in enumerate(heads) if head), default=0)
    ends = [*_COLUMNS[1:used], 1.0]
    widths = [story.wide_mm * (end - begin) for begin, end in zip(_COLUMNS[:used], ends, strict=True)]
    told: list[list[Cell]] = [[words(title, 12, "bold"), *[""] * (used - 1)]]
    told.append([words(head, 8, colour=QUIET) for head in heads[:used]])
    told += [[words(cell) for cell in row[:used]] for row in rows]
    story.add(table(told, widths, heads=2, style=[("SPAN", (0, 0), (-1, 0))]), gap(5))


def _by_work(fates: list[FateEntry]) -> list[Row]:
    rows: list[Row] = []
    for work in dict.fromkeys(one.work for one in fates):
        own = [one for one in fates if one.work == work]
        missed = sum(is_missed(one) for one in own)
        rows.append((work, str(len(own)), str(len(own) - missed), f"{missed}, {100 * missed / len(own):.0f} %", ""))
    return rows


def _causes(fates: list[FateEntry]) -> list[Row]:
    return [(cause, str(count), stage, "", "") for cause, count, stage in ranked_causes(fates)]


def _batches(shop: Shop, ledger: tuple[LedgerEntry, ...]) -> Iterator[Row]:
    units = shop.preferences.units
    for one in closed_batches(shop.ledger):
        if one in ledger:
            each = write(one.cost_good, Dimension.MONEY, units, 2)
            told = write(one.told, Dimension.MONEY, units, 2)
            yield one.job, f"{one.good} of {one.started}", each, told, write_day(one.when.date())
