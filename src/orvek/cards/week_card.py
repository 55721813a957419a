"""The week's card: seven days with what the hands do and what is waited for, to hang beside the lathe."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from reportlab.platypus import Table

from orvek.cards.sheet import HAIRLINE, QUIET
from orvek.cards.story import Cell, Story, table, tick_box, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.timetable.results import Weeks
from orvek.planning.timetable.words import wait_line
from orvek.quantities import write_day

_DAYS = 7


def week_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """All jobs' tasks of the seven days from today on.

    Raises:
        NothingToDoError: there is no timetable yet.
    """
    weeks = plan.weeks
    if weeks is None or weeks.table.problem:
        raise NothingToDoError("A week's card", "the timetable of the station Timetable, which is not there yet")
    last = today + timedelta(days=_DAYS - 1)
    story = Story(shop.preferences.paper, f"Week from {write_day(today)}", "Orvek timetable")
    story.add(words(f"{write_day(today)} to {write_day(last)}", 18, "bold", after_mm=4))
    for number in range(_DAYS):
        story.add(_day(story.wide_mm, today + timedelta(days=number), weeks))
    return story.pdf()


def _day(wide_mm: float, day: date, weeks: Weeks) -> Table:
    """One day: its tasks with a box each, then what is waited for."""
    hands = [slot for slot in weeks.table.slots if slot.begins.date() == day]
    waits = [slot for slot in weeks.table.slots if slot.waits and slot.ends.date() <= day <= slot.ready.date()]
    rows: list[list[Cell]] = []
    for slot in hands:
        at = words(f"{slot.begins:%H:%M} to {slot.ends:%H:%M}", weight="medium")
        rows.append(["", tick_box(), at, words(f"{weeks.name(slot.job)}: {slot.task.words}")])
    style: list[tuple[Any, ...]] = [("LINEABOVE", (0, 0), (-1, 0), 0.6, HAIRLINE)]
    for slot in waits:
        line = f"{weeks.name(slot.job)}: {wait_line(slot).removeprefix('then ')}"
        style.append(("SPAN", (2, len(rows)), (3, len(rows))))
        rows.append(["", "", words(line, 8.5, colour=QUIET), ""])
    rows = rows or [["", "", words("nothing", colour=QUIET), ""]]
    rows[0][0] = words(write_day(day), 11, "bold")
    return table(rows, (32, 6, 28, wide_mm - 66), ruled=False, pad_mm=0.7, style=style)
