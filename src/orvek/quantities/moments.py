"""Days and times as nobody misreads them, Sun 29 Nov 11:00; and time that passes while the clocks are changed."""

from __future__ import annotations

from datetime import date, datetime, timedelta

_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
_WHOLE_MONTHS = (
    *("January", "February", "March", "April", "May", "June", "July"),
    *("August", "September", "October", "November", "December"),
)


def write_day(day: date) -> str:
    """A day with its weekday.

    >>> write_day(date(2026, 11, 29))
    'Sun 29 Nov'
    """
    return f"{_DAYS[day.weekday()]} {day.day} {_MONTHS[day.month - 1]}"


def write_month_day(day: date) -> str:
    """A day of some year that is known.

    >>> write_month_day(date(2026, 11, 9))
    '9 November'
    """
    return f"{day.day} {_WHOLE_MONTHS[day.month - 1]}"


def write_date(day: date) -> str:
    """A day of any year.

    >>> write_date(date(2026, 11, 9))
    '9 November 2026'
    """
    return f"{write_month_day(day)} {day.year}"


def write_moment(when: datetime) -> str:
    """A day and a time.

    >>> write_moment(datetime(2026, 11, 29, 11, 5))
    'Sun 29 Nov 11:05'
    """
    return f"{write_day(when)} {when:%H:%M}"


def later(when: datetime, minutes: float) -> datetime:
    """What the clock on the wall shows so many minutes after it showed a moment.

    In the night in which clocks are changed that is an hour more or less than adding tells: resin and glue take as
    long as they take. A moment that knows its zone keeps it.
    """
    if when.tzinfo is not None:
        return when + timedelta(minutes=minutes)
    return (when.astimezone() + timedelta(minutes=minutes)).astimezone().replace(tzinfo=None)


def minutes_between(first: datetime, last: datetime) -> float:
    """How many minutes passed between two moments as the clock on the wall showed them."""
    return (last.astimezone() - first.astimezone()).total_seconds() / 60
