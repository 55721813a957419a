"""Calendars: busy times read from an .ics file, and the timetable written as one."""

from __future__ import annotations

import math
from collections import Counter, deque
from collections.abc import Callable, Iterator
from datetime import UTC, date, datetime, timedelta
from itertools import islice
from pathlib import Path
from time import monotonic
from typing import Any

from msgspec import Struct

from orvek.documents import Busy
from orvek.documents.base import one_line
from orvek.documents.shelf.hours import MOST_BUSY
from orvek.errors import CannotReadError
from orvek.planning.timetable.results import Weeks
from orvek.planning.timetable.words import wait_line

_AHEAD = timedelta(days=180)
_LIMIT_S = 20.0  # what a calendar of some thousand repeats takes on a slow machine
_OFTEN = {"SECONDLY", "MINUTELY", "HOURLY"}  # no appointment of a maker's; counting them out takes minutes
_MOST_A_DAY, _LONGEST = 6, timedelta(days=100)
_USUAL = timedelta(hours=1)  # of an event that says neither its end nor how long it lasts
Tell = Callable[[float], None]


class BusyFound(Struct, frozen=True):
    """What a calendar holds: the times, and a sentence on what was left out, or none."""

    busy: tuple[Busy, ...]
    left_out: str = ""


def busy_times(
    text: str, name: str, today: date | None = None, *, limit_s: float = _LIMIT_S, tell: Tell = lambda _: None
) -> BusyFound:
    """The times of a calendar's events from today to half a year ahead, in the shop's own time.

    Repeats, exceptions and moved repeats are counted out by a library, event by event. Whole days, what was called
    off and what is marked as free are passed over: a birthday keeps nobody from the bench. What takes longer than
    `limit_s` in all, repeats by the hour or oftener, cannot be understood or is more than a calendar of ours holds is
    left out, and that is said. `tell` is told a part from 0 to 1 and may raise to end the work.

    Raises:
        CannotReadError: it is no calendar.
    """
    from icalendar import Calendar

    begin, ends = datetime.combine(today or date.today(), datetime.min.time()), monotonic() + limit_s
    try:
        calendar = Calendar.from_ical(text)
        groups = _by_event(calendar)
    except Exception as error:  # a damaged calendar can break the reader in any way
        raise CannotReadError(Path(name), "it is no calendar that can be read (.ics)") from error
    if not text.lstrip().startswith("BEGIN:VCALENDAR"):
        raise CannotReadError(Path(name), "it is no calendar that can be read (.ics)")
    found: list[Busy] = []
    reasons: Counter[str] = Counter()
    for number, events in enumerate(groups):
        tell(number / len(groups))
        if monotonic() > ends:
            reasons["for want of time"] += len(groups) - number
            break
        try:
            found += _times(calendar, events, begin)
        except _TooOftenError:
            reasons["because they repeat too often"] += 1
        except Exception:  # one event that cannot be understood keeps no other out
            reasons["because they cannot be understood"] += 1
    kept = sorted(found, key=lambda busy: busy.begins)
    if len(kept) > MOST_BUSY:
        reasons[f"because they come after the first {MOST_BUSY} times"] += len(kept) - MOST_BUSY
    return BusyFound(tuple(kept[:MOST_BUSY]), _left_out(reasons))


class _TooOftenError(Exception):
    """An event that repeats every hour or oftener."""


def _left_out(reasons: Counter[str]) -> str:
    return " ".join(f"Left out: {count} {reason}." for reason, count in reasons.items())


def _by_event(calendar: Any) -> list[list[Any]]:
    """The events with those that move or change one of their repeats."""
    groups: dict[str, list[Any]] = {}
    for number, event in enumerate(calendar.walk("VEVENT")):
        start = event.get("DTSTART")
        if start is not None and isinstance(start.dt, datetime):
            groups.setdefault(str(event.get("UID", f"without {number}")), []).append(event)
    return list(groups.values())


def _times(calendar: Any, events: list[Any], begin: datetime) -> Iterator[Busy]:
    """The times that an event takes within half a year."""
    from icalendar import Calendar
    from recurring_ical_events import of

    alone = Calendar()
    for zone in calendar.walk("VTIMEZONE"):
        alone.add_component(zone)
    for event in events:
        if _long(event) > _LONGEST:
            raise ValueError("no appointment lasts that long")
        _end_in_time(event, begin + _AHEAD)
        alone.add_component(event)
    for one in of(alone, components=["VEVENT"]).between(begin, begin + _AHEAD):
        if str(one.get("STATUS", "")).upper() == "CANCELLED" or str(one.get("TRANSP", "")).upper() == "TRANSPARENT":
            continue
        at, until = _local(one["DTSTART"].dt), _local(one["DTEND"].dt)
        if until == at and not any("DTEND" in event or "DURATION" in event for event in events):
            until = at + _USUAL
        if until > max(at, begin):
            words = str(one_line(str(one.get("SUMMARY", "Busy"))))[:80].strip() or "Busy"
            yield Busy(name=words, begins=at, ends=until)


def _long(event: Any) -> timedelta:
    end, long = event.get("DTEND"), event.get("DURATION")
    if long is not None:
        return timedelta(seconds=long.dt.total_seconds())
    return _local(_at_midnight(end.dt)) - _local(event["DTSTART"].dt) if end else _USUAL


def _end_in_time(event: Any, last: datetime) -> None:
    """Give a rule without an end one: some never come true, and whoever counts them out would not come back."""
    rules = event.get("RRULE", [])
    for rule in rules if isinstance(rules, list) else [rules]:
        times_a_day = math.prod(len(rule.get(part, [0])) for part in ("BYHOUR", "BYMINUTE", "BYSECOND"))
        if set(map(str, rule.get("FREQ", []))) & _OFTEN or times_a_day > _MOST_A_DAY:
            raise _TooOftenError
        if any(int(every) < 1 for every in rule.get("INTERVAL", [])):
            raise ValueError("an interval of nothing never ends")
        if not _comes_true(rule, event["DTSTART"].dt):
            del event["RRULE"]
            return
        own = [until for until in rule.get("UNTIL", []) if _local(_at_midnight(until)) <= last]
        zone = event["DTSTART"].dt.tzinfo
        rule["UNTIL"] = own or [last.replace(tzinfo=UTC) if zone else last]
        if count := rule.pop("COUNT", None):
            rule["UNTIL"] = [_counted_out(rule, event["DTSTART"].dt, int(count[0]))]


def _comes_true(rule: Any, first: datetime) -> bool:
    """Whether a rule has any repeat (30 February has none), seen in the last years that a date can have.

    There counting out ends by itself. Weekdays and leap days come round every 28 years.
    """
    from dateutil.rrule import rrulestr

    told = rule.copy()
    told.pop("UNTIL", None)
    told.pop("COUNT", None)
    last_years = first.replace(year=9944 + (first.year - 9944) % 28, tzinfo=None)
    return next(iter(rrulestr(told.to_ical().decode(), dtstart=last_years)), None) is not None


def _counted_out(rule: Any, first: datetime, count: int) -> datetime:
    """When the last of so many repeats begins, or the end that the rule has."""
    from dateutil.rrule import rrulestr

    until: datetime = rule["UNTIL"][0]
    repeats = deque(islice(rrulestr(rule.to_ical().decode(), dtstart=first), count), maxlen=1)
    ends: list[datetime] = [until, *(at.astimezone(UTC) if first.tzinfo else at for at in repeats)]
    return min(ends)


def _at_midnight(when: date) -> datetime:
    return when if isinstance(when, datetime) else datetime.combine(when, datetime.max.time())


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
