"""Days and times as nobody misreads them: Sun 29 Nov, Sun 29 Nov 11:00."""

from __future__ import annotations

from datetime import date, datetime

_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def write_day(day: date) -> str:
    """A day with its weekday.

    >>> write_day(date(2026, 11, 29))
    'Sun 29 Nov'
    """
    return f"{_DAYS[day.weekday()]} {day.day} {_MONTHS[day.month - 1]}"


def write_moment(when: datetime) -> str:
    """A day and a time.

    >>> write_moment(datetime(2026, 11, 29, 11, 5))
    'Sun 29 Nov 11:05'
    """
    return f"{write_day(when)} {when:%H:%M}"
