"""The week's card: seven days with what the hands do and what is waited for, to hang beside the lathe."""

from __future__ import annotations

from datetime import date, timedelta

from orvek.cards.bench_card import MARGIN
from orvek.cards.sheet import HAIRLINE, QUIET, Sheet
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.timetable.weeks import Weeks
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
    sheet = Sheet(shop.preferences.paper, f"Week from {write_day(today)}", "Orvek timetable")
    sheet.text(MARGIN, 20, f"{write_day(today)} to {write_day(last)}", 18, "bold")
    y = 30.0
    for number in range(_DAYS):
        y = _day(sheet, y, today + timedelta(days=number), weeks)
    return sheet.bytes()


def _day(sheet: Sheet, y: float, day: date, weeks: Weeks) -> float:
    """One day: its tasks with a box each, then what is waited for. Returns where the next day goes."""
    right = sheet.width_mm - MARGIN
    hands = [slot for slot in weeks.table.slots if slot.begins.date() == day]
    waits = [slot for slot in weeks.table.slots if slot.waits and slot.ends.date() <= day <= slot.ready.date()]
    y = sheet.room_for(y, 12 + 6 * len(hands))
    sheet.line(MARGIN, y, right, y, 0.2, HAIRLINE)
    sheet.text(MARGIN, y + 6, write_day(day), 11, "bold")
    if not hands and not waits:
        sheet.text(MARGIN + 40, y + 6, "nothing", 9.5, colour=QUIET)
        return y + 10
    y += 6
    for slot in hands:
        y = sheet.room_for(y, 6)
        sheet.tick_box(MARGIN + 32, y)
        sheet.text(MARGIN + 38, y, f"{slot.begins:%H:%M} to {slot.ends:%H:%M}", 9.5, "medium")
        words = f"{weeks.name(slot.job)}: {slot.task.words}"
        sheet.fitted(MARGIN + 66, y, words, right - MARGIN - 66, 9.5)
        y += 6
    for slot in waits:
        y = sheet.room_for(y, 5)
        words = f"{weeks.name(slot.job)}: {wait_line(slot).removeprefix('then ')}"
        sheet.fitted(MARGIN + 38, y, words, right - MARGIN - 38, 8.5, colour=QUIET)
        y += 5
    return y + 2
