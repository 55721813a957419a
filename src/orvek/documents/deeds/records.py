"""Deeds on the ledger: entries are added, never changed or taken away."""

import json
from datetime import datetime
from typing import Any

from orvek.documents.base import Document, checked
from orvek.documents.job.job import Job
from orvek.documents.shelf.ledger import LedgerEntry, SeriesEntry
from orvek.documents.shelf.shop import Shop
from orvek.errors import BadFieldError, NothingToDoError
from orvek.quantities import write_date

_FUTURE_MIN = 10.0  # a clock that is so far ahead is not only a second late


def write_entry(shop: Shop, entry: LedgerEntry) -> Shop:
    """Write an entry down.

    Raises:
        BadFieldError: it is of a time before the last entry: a clock goes backwards.
    """
    last = max((one.when.replace(tzinfo=None) for one in shop.ledger), default=None)
    if last is not None and (last - entry.when.replace(tzinfo=None)).total_seconds() > 60 * _FUTURE_MIN:
        then, now = (f"{write_date(one)}, {one:%H:%M}" for one in (last, entry.when))
        told = f"The last entry is of {then}, and now it is {now}"
        raise BadFieldError("The ledger", f"{told}: the computer's clock went backwards. Set it, then write again")
    return shop.with_(ledger=(*shop.ledger, entry))


def about(job: Job, work: str, when: datetime) -> dict[str, Any]:
    """What an entry says of its job."""
    pen = job.pen.name if job.pen is not None else ""
    return {"when": when, "job_id": job.batch.id, "job": job.batch.name, "work": work, "pen": pen}


def begin_series(shop: Shop, of: str, when: datetime, shelf: str = "", items: tuple[Document, ...] = ()) -> Shop:
    """What was seen of something does not count any more: it leaves its log and is kept in the ledger."""
    entry = SeriesEntry(when=when, of=of, shelf=shelf, items=tuple(item.model_dump_json() for item in items))
    after = write_entry(shop, entry)
    if not shelf:
        return after
    return after.with_(**{shelf: tuple(one for one in getattr(shop, shelf) if one not in items)})


def take_up_again(shop: Shop, of: str, when: datetime) -> Shop:
    """What the last new series of something set aside counts again.

    Raises:
        NothingToDoError: there was none, or it has been taken up already.
    """
    last = last_series(shop.ledger, of)
    if last is None:
        raise NothingToDoError("Taking it up again", "something that was set aside")
    after = write_entry(shop, SeriesEntry(when=when, of=of, shelf=last.shelf, is_ended=True))
    if not last.shelf:
        return after
    there = getattr(shop, last.shelf, None)
    if not isinstance(there, tuple):
        raise NothingToDoError("Taking it up again", "a log that it came from")
    found = checked(Shop, {last.shelf: [json.loads(item) for item in last.items]})
    return after.with_(**{last.shelf: (*getattr(found, last.shelf), *there)})


def last_series(ledger: tuple[LedgerEntry, ...], of: str) -> SeriesEntry | None:
    """The series of something that runs now; None where the first one still does, or does again."""
    last = next((one for one in reversed(ledger) if isinstance(one, SeriesEntry) and one.of == of), None)
    return None if last is None or last.is_ended else last
