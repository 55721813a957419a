"""Calendars of others: repeats, exceptions, what is called off; what cannot be taken is said."""

from __future__ import annotations

from datetime import date

import pytest

from orvek.cards.calendar import busy_times
from orvek.errors import CannotReadError

THURSDAY = date(2026, 11, 26)
EVENING = "DTSTART:20261126T190000\nDTEND:20261126T210000"
DAILY = "DTSTART:20200101T120000\nDTEND:20200101T123000\nRRULE:FREQ=DAILY"


def calendar_of(*events: str) -> str:
    listed = "".join(f"BEGIN:VEVENT\n{event}\nEND:VEVENT\n" for event in events)
    return f"BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\n{listed}END:VCALENDAR\n".replace("\n", "\r\n")


@pytest.mark.parametrize(
    ("events", "days"),
    [
        ((f"UID:1\n{EVENING}\nRRULE:FREQ=WEEKLY;COUNT=4",), [26, 3, 10, 17]),
        ((f"UID:1\n{EVENING}\nRRULE:FREQ=WEEKLY;COUNT=4\nEXDATE:20261203T190000",), [26, 10, 17]),
        ((f"UID:1\n{EVENING}\nRRULE:FREQ=DAILY;UNTIL=20261128T235900Z",), [26, 27, 28]),
        (("UID:1\nDTSTART:20261126T190000\nDURATION:PT2H",), [26]),
        (("UID:1\nDTSTART:20261126T190000",), [26]),
        (("UID:1\nDTSTART;VALUE=DATE:20261127",), []),
        ((f"UID:1\n{EVENING}\nSTATUS:CANCELLED", f"UID:2\n{EVENING}\nTRANSP:TRANSPARENT"), []),
        (
            (
                f"UID:1\n{EVENING}\nRRULE:FREQ=WEEKLY;COUNT=2",
                "UID:1\nRECURRENCE-ID:20261203T190000\nDTSTART:20261204T190000\nDTEND:20261204T200000",
            ),
            [26, 4],
        ),
        ((f"UID:1\n{DAILY};BYMONTH=2;BYMONTHDAY=30",), []),
        ((f"UID:1\n{DAILY};BYMONTH=2;BYMONTHDAY=30;COUNT=5",), []),
    ],
)
def test_calendars_of_others(events: tuple[str, ...], days: list[int]) -> None:
    found = busy_times(calendar_of(*events), "choir.ics", THURSDAY)
    assert [one.begins.day for one in found.busy] == days
    assert found.left_out == ""


def test_a_daily_event_of_old_is_there_every_day() -> None:
    found = busy_times(calendar_of(f"UID:1\n{DAILY}"), "noon.ics", THURSDAY)
    days = {one.begins.date() for one in found.busy}
    assert len(days) == len(found.busy) >= 180
    assert min(days) == THURSDAY


@pytest.mark.parametrize(
    ("event", "reason"),
    [
        (DAILY.replace("DAILY", "SECONDLY"), "too often"),
        (f"{DAILY};BYHOUR=1,2,3;BYMINUTE=1,2,3", "too often"),
        (f"{DAILY};INTERVAL=0", "understood"),
        ("DTSTART:00010101T120000\nDTEND:20200101T120000\nRRULE:FREQ=DAILY", "understood"),
    ],
)
def test_what_a_calendar_holds_that_is_not_taken_is_said(event: str, reason: str) -> None:
    found = busy_times(calendar_of(f"UID:1\n{event}", f"UID:2\n{EVENING}"), "odd.ics", THURSDAY)
    assert [one.begins.day for one in found.busy] == [26], "the others are there"
    assert reason in found.left_out
    assert "1 " in found.left_out


def test_a_large_calendar_ends_in_time_and_says_so() -> None:
    many = calendar_of(*(f"UID:{n}\n{DAILY}" for n in range(300)))
    assert "300" in busy_times(many, "many.ics", THURSDAY, limit_s=0.0).left_out
    parts: list[float] = []
    four = calendar_of(*(f"UID:{n}\n{DAILY}" for n in range(4)))
    found = busy_times(four, "four.ics", THURSDAY, tell=parts.append)
    assert parts == [0, 0.25, 0.5, 0.75]
    assert len(found.busy) == 500
    assert "after the first 500" in found.left_out


@pytest.mark.parametrize(
    "bad", ["", "banana", "BEGIN:VCALENDAR\r\nVER", "BEGIN:VEVENT\r\nDTSTART:never\r\nEND:VEVENT\r\n"]
)
def test_what_is_no_calendar_is_refused(bad: str) -> None:
    with pytest.raises(CannotReadError):
        busy_times(bad, "bad.ics", THURSDAY)
