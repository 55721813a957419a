"""A year on paper: what was made, what was spoilt and why, what a good pen cost, batch by batch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date

from orvek.cards.sheet import HAIRLINE, QUIET, Sheet
from orvek.documents import FateEntry, LedgerEntry, Shop
from orvek.errors import NothingToDoError
from orvek.planning.history import closed_batches, is_missed, last_fates, ranked_causes
from orvek.planning.records.changes import tried
from orvek.quantities import Dimension, write, write_day

_MARGIN, _LINE = 15.0, 5.6
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
    sheet = Sheet(shop.preferences.paper, f"The year {year}", "Orvek records")
    right = sheet.width_mm - _MARGIN
    sheet.text(_MARGIN, 19, "Records", 9, "medium", QUIET)
    sheet.text(_MARGIN, 29, f"The year {year}", 22, "bold")
    sheet.text(right, 29, f"written {today:%d %B %Y}", 9, colour=QUIET, align="right")
    fates = [one for one in last_fates(shop.ledger) if one.when.year == year]
    heads = ("work", "finished", "good", "spoilt or smaller", "")
    y = _table(sheet, 42, "Blanks, by kind of work", heads, _by_work(fates))
    y = _table(sheet, y, "Causes", ("cause", "how often", "most often while", "", ""), _causes(fates))
    heads = ("batch", "good of started", "a good pen", "as told", "finished")
    y = _table(sheet, y, "Batches", heads, list(_batches(shop, ledger)))
    made = (one for one in tried(shop.ledger) if one.change.when.year == year)
    changes = [(one.change.cause, one.verdict, "", "", "") for one in made]
    _table(sheet, y, "Changed", ("because of", "what came of it", "", "", ""), changes)
    return sheet.bytes()


def _table(sheet: Sheet, y: float, title: str, heads: Row, rows: Sequence[Row]) -> float:
    """A table under its title; nothing where it has no rows. Returns where the next one goes."""
    if not rows:
        return y
    y = sheet.room_for(y, 3 * _LINE)
    sheet.text(_MARGIN, y, title, 12, "bold")
    y += _LINE + 1
    wide = sheet.width_mm - 2 * _MARGIN
    columns = [_MARGIN + wide * part for part in (0.0, 0.34, 0.52, 0.72, 0.86)]
    for x, words in zip(columns, heads, strict=True):
        sheet.text(x, y, words, 8, colour=QUIET)
    y += _LINE
    last = max((n for n, words in enumerate(heads) if words), default=0)
    for row in rows:
        y = sheet.room_for(y, _LINE)
        for n, (x, words) in enumerate(zip(columns, row, strict=True)):
            end = columns[n + 1] if n < last else sheet.width_mm - _MARGIN
            if words:
                sheet.fitted(x, y, words, end - x - 2, 9.5)
        sheet.line(_MARGIN, y + 1.6, sheet.width_mm - _MARGIN, y + 1.6, 0.1, HAIRLINE)
        y += _LINE
    return y + 5


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
