"""A table of weights that was pasted or read from a file: `read_weighings(text)` says of every line what it is.

Days are read as a notebook has them: 2026-11-20 18:30, 20.11.2026 18:30, 11/20/2026 6:30 pm, 20 Nov 18:30; or hours
after the first weighing: 4, 4.5, 4:30, 4 h. Which of day and month comes first in 11/12/2026 is settled by the whole
table.
"""

from __future__ import annotations

import re
from datetime import datetime, timedelta

from msgspec import Struct

from orvek.documents import Weighing
from orvek.documents.base import checked
from orvek.errors import OrvekError, OutOfBoundsError

MOST_LINES = 300
_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_NUMBERS = re.compile(r"(\d{1,4})[./-](\d{1,2})(?:[./-](\d{2,4}))?")
_NAMED = re.compile(r"(\d{1,2})\.?\s+([A-Za-z]{3})[a-z]*\.?(?:\s+(\d{4}))?")
_CLOCK = re.compile(r"(\d{1,2}):(\d{2})(?::\d{2})?\s*([ap]m)?", re.IGNORECASE)
_HOURS = re.compile(r"(\d+(?:[.,]\d+)?)\s*h?|(\d+):(\d{2})")
_MASS = re.compile(r"(\d+(?:[.,]\d+)?)\s*g?$")


class ReadLine(Struct, frozen=True):
    """One line: its number, the weighing it holds, or the sentence that says why it holds none."""

    number: int
    weighing: Weighing | None = None
    sentence: str = ""


class ReadLog(Struct, frozen=True):
    """All lines in their order, and what was taken for granted in reading them."""

    lines: tuple[ReadLine, ...]
    note: str = ""

    @property
    def weighings(self) -> tuple[Weighing, ...]:
        """What can be taken."""
        return tuple(line.weighing for line in self.lines if line.weighing is not None)


def read_weighings(text: str, now: datetime) -> ReadLog:
    """Read a table of times and weights; a heading is passed over.

    Args:
        text: lines of "when, mass" with tabs, semicolons, commas or wide spaces between.
        now: a day without a year is the last such day before it; hours count from the first line's day, or from now.

    Raises:
        OutOfBoundsError: there is no line, or more than a log can hold.
    """
    rows = [(number, row) for number, row in enumerate(text.splitlines(), 1) if row.strip()]
    rows = [(number, row) for number, row in rows if any(letter.isdigit() for letter in row)]
    if not rows:
        raise OutOfBoundsError("The table", "empty", "a line for each weight: when, and how much")
    if len(rows) > MOST_LINES:
        raise OutOfBoundsError("The table", f"{len(rows)} lines", f"at most {MOST_LINES} lines")
    cells = [(number, *_parted(row)) for number, row in rows]
    order, note = _order([when for _, when, _ in cells])
    began: list[datetime] = []
    lines = []
    for number, when, mass in cells:
        try:
            moment = _moment(when, order, now, began)
            grams = _grams(mass)
            weighing = checked(Weighing, {"when": moment, "mass_g": grams})
        except (OrvekError, ValueError) as error:
            lines.append(ReadLine(number, sentence=str(error)))
            continue
        began.append(weighing.when)
        lines.append(ReadLine(number, weighing))
    return ReadLog(tuple(lines), note)


def _parted(row: str) -> tuple[str, str]:
    """When, and how much: the weight is the last number of the line."""
    for between in ("\t", ";"):
        if between in row:
            parts = [part.strip().strip('"') for part in row.split(between) if part.strip()]
            return " ".join(parts[:-1]), parts[-1]
    row = row.strip()
    for between in (r"\s{2,}", r'"\s*,\s*"', r",\s+", r"(?<=:\d\d),(?=\d)"):  # a comma may be a decimal one
        parts = re.split(between, row)
        if len(parts) > 1:
            return " ".join(parts[:-1]).strip('"'), parts[-1].strip('"')
    head, _, last = row.removesuffix(" g").rpartition(" ")
    return head, last


def _order(whens: list[str]) -> tuple[str, str]:
    """Whether day or month comes first, by the whole table, and what is to be said of it."""
    firsts, seconds = [], []
    for when in whens:
        found = _NUMBERS.search(when)
        if found and len(found[1]) <= 2 and "." not in found[0]:
            firsts.append(int(found[1]))
            seconds.append(int(found[2]))
    if any(one > 12 for one in seconds) and not any(one > 12 for one in firsts):
        return "month", ""
    if firsts and max(firsts) <= 12 and max(seconds) <= 12:
        return "day", "Read with the day before the month."
    return "day", ""


def _moment(when: str, order: str, now: datetime, began: list[datetime]) -> datetime:
    clock = _CLOCK.search(when)
    rest = (when[: clock.start()] + when[clock.end() :]).strip(" ,T") if clock else when.strip()
    day = _day(rest, order, now)
    if day is not None:
        hour, minute = _time(clock) if clock else (12, 0)
        return day.replace(hour=hour, minute=minute)
    hours = _HOURS.fullmatch(when.strip())
    if hours is None:
        raise ValueError(f"“{when[:40]}” is no day and no number of hours.")
    passed = float(hours[1].replace(",", ".")) if hours[1] else int(hours[2]) + int(hours[3]) / 60
    if passed > 24 * 365:
        raise ValueError(f"“{when[:40]}” is more than a year of hours.")
    return (began[0] if began else now) + timedelta(hours=passed)


def _day(text: str, order: str, now: datetime) -> datetime | None:
    numbers, named = _NUMBERS.search(text), _NAMED.search(text)
    if numbers:
        one, two, three = int(numbers[1]), int(numbers[2]), numbers[3]
        if len(numbers[1]) == 4:
            return _date(one, two, int(three) if three else 1, text)
        day, month = (two, one) if order == "month" and "." not in numbers[0] else (one, two)
        return _with_year(three, month, day, now, text)
    if named and named[2].lower() in _MONTHS:
        return _with_year(named[3], _MONTHS.index(named[2].lower()) + 1, int(named[1]), now, text)
    return None


def _with_year(year: str | None, month: int, day: int, now: datetime, text: str) -> datetime:
    if year is not None:
        return _date(int(year) + (2000 if len(year) == 2 else 0), month, day, text)
    found = _date(now.year, month, day, text)
    return found if found <= now + timedelta(days=1) else _date(now.year - 1, month, day, text)


def _date(year: int, month: int, day: int, text: str) -> datetime:
    try:
        return datetime(year, month, day)
    except ValueError as error:
        raise ValueError(f"“{text[:40]}” is no day of any year.") from error


def _time(clock: re.Match[str]) -> tuple[int, int]:
    hour, minute, half = int(clock[1]), int(clock[2]), (clock[3] or "").lower()
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    if hour > 23 or minute > 59:
        raise ValueError(f"“{clock[0]}” is no time of day.")
    return hour, minute


def _grams(text: str) -> float:
    found = _MASS.match(text.strip())
    if found is None:
        raise ValueError(f"“{text[:40]}” is no weight in grams.")
    return float(found[1].replace(",", "."))
