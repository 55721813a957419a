"""Calendars: busy times read from an .ics file, and the timetable written as one."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from typing import Any

from orvek.documents import Busy
from orvek.documents.base import one_line
from orvek.documents.shelf.hours import MOST_BUSY
from orvek.errors import CannotReadError
from orvek.planning.timetable.weeks import Weeks
from orvek.planning.timetable.words import wait_line

_AHEAD = timedelta(days=180)
_MOST_REPEATS = 400


def busy_times(text: str, name: str, today: date | None = None) -> tuple[Busy, ...]:
    """The times of a calendar's events from today to half a year ahead, in the shop's own time.

    Whole days are left out: a birthday keeps nobody from the bench.

    Raises:
        CannotReadError: it is no calendar.
    """
    from pathlib import Path

    from icalendar import Calendar

    begin = datetime.combine(today or date.today(), datetime.min.time())
    try:
        calendar = Calendar.from_ical(text)
        found = [busy for event in calendar.walk("VEVENT") for busy in _of(event, begin)]
    except Exception as error:  # a damaged calendar can break the reader in any way
        raise CannotReadError(Path(name), "it is no calendar that can be read (.ics)") from error
    if not text.lstrip().startswith("BEGIN:VCALENDAR"):
        raise CannotReadError(Path(name), "it is no calendar that can be read (.ics)")
    return tuple(sorted(found, key=lambda busy: busy.begins)[:MOST_BUSY])


def _of(event: Any, begin: datetime) -> Iterator[Busy]:
    """The times of one event, with its repeats."""
    start = event.get("DTSTART")
    if start is None or not isinstance(start.dt, datetime):
        return
    first = _local(start.dt)
    end = event.get("DTEND")
    long = _local(end.dt) - first if end is not None and isinstance(end.dt, datetime) else timedelta(hours=1)
    words = str(one_line(str(event.get("SUMMARY", "Busy"))))[:80].strip() or "Busy"
    if long <= timedelta(0):
        return
    for number, at in enumerate(_repeats(event, first)):
        if number >= _MOST_REPEATS or at > begin + _AHEAD:
            return
        if at + long > begin:
            yield Busy(name=words, begins=at, ends=at + long)


def _repeats(event: Any, first: datetime) -> Iterator[datetime]:
    rule = event.get("RRULE")
    if rule is None:
        yield first
        return
    from dateutil.rrule import rrulestr

    told = rule.to_ical().decode().replace("Z", "")  # an end in world time is taken as the shop's own: hours matter
    yield from rrulestr(told, dtstart=first)


def _local(when: datetime) -> datetime:
    """In the shop's own time, as clocks on the wall show it."""
    return when.astimezone().replace(tzinfo=None) if when.tzinfo is not None else when


def timetable_ics(weeks: Weeks, job: str | None = None, now: datetime | None = None) -> bytes:
    """The hands' tasks of a timetable, of one job or of all, as a calendar; what is waited for stands in the notes."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Orvek//Timetable//EN")
    calendar.add("version", "2.0")
    for slot in weeks.table.slots if job is None else weeks.table.of(job):
        event = Event()
        event.add("uid", f"{slot.job}-{slot.task.key.replace('/', '-')}@orvek")
        event.add("summary", f"{weeks.name(slot.job)}: {slot.task.words}")
        event.add("dtstart", slot.begins.astimezone().astimezone(UTC))
        event.add("dtend", slot.ends.astimezone().astimezone(UTC))
        event.add("dtstamp", now or datetime.now(UTC))
        event.add("description", "\n".join(part for part in (*slot.task.lines, wait_line(slot)) if part))
        calendar.add_component(event)
    made: bytes = calendar.to_ical()
    return made
