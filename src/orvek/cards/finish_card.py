"""The finish and press card: sizes at each place, the grits to tick, coats, and the parts in their order."""

from __future__ import annotations

from datetime import date

from orvek.cards.sheet import HAIRLINE, INK, QUIET, Sheet
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.finish.press import press_lines
from orvek.planning.finish.results import PLACES, FinishPlan
from orvek.planning.finish.words import finish_lines
from orvek.quantities import Units

_MARGIN = 15.0


def finish_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the lathe from the roughed barrel to the pen.

    Raises:
        NothingToDoError: there is no pen.
    """
    finish, pen, units = plan.finish, plan.job.pen, shop.preferences.units
    if finish is None or pen is None:
        raise NothingToDoError("A finish card", "a pen")
    sheet = Sheet(shop.preferences.paper, f"{plan.job.batch.name} – finish card", f"Orvek job {plan.job.batch.id}")
    right = sheet.width_mm - _MARGIN
    sheet.text(_MARGIN, 19, "Finish and press", 9, "medium", QUIET)
    sheet.fitted(_MARGIN, 27.5, plan.job.batch.name, right - _MARGIN - 32, 22, "bold")
    sheet.fitted(_MARGIN, 33.5, f"{pen.name} · {finish.school.key} · {today:%d %B %Y}", right - _MARGIN - 32, 9.5)
    sheet.qr(right - 24, 14, 24, f"orvek:job:{plan.job.batch.id}")
    y = _sizes(sheet, 44.0, finish, units)
    y = _list(sheet, y + 3, "Sanding and coats", finish_lines(finish, plan.job.finish, units))
    y = _grits(sheet, y + 2, finish)
    y = _list(sheet, y + 4, "Press", press_lines(pen))
    told = [one for one in plan.cautions if one.key.startswith("finish.")]
    y = sheet.room_for(y, 8 + 8 * len(told))
    sheet.text(_MARGIN, y + 4, "Take care", 11, "bold")
    y += 9
    for caution in told:
        sheet.text(_MARGIN, y, "–", 8.5)
        y = sheet.paragraph(_MARGIN + 3.5, y, caution.words, right - _MARGIN - 4, 8.5) + 0.7
    return sheet.bytes()


def _sizes(sheet: Sheet, y: float, finish: FinishPlan, units: Units) -> float:
    """A row a barrel: what the tool leaves at each place, and room for what was measured."""
    right = sheet.width_mm - _MARGIN
    sheet.text(_MARGIN, y, "Stop the tool at", 11, "bold")
    columns = [_MARGIN + 42 + 46 * number for number in range(3)]
    for x, place in zip(columns, PLACES, strict=True):
        sheet.text(x, y, place, 8.5, colour=QUIET)
    y += 7
    for size in finish.sizes:
        sheet.fitted(_MARGIN, y, size.barrel.name, 38, 11, "medium")
        for x, figure in zip(columns, size.tool_mm, strict=True):
            sheet.text(x, y, figure.written(units), 13, "bold")
            sheet.line(x + 24, y + 0.8, x + 42, y + 0.8, 0.2, INK)
        sheet.line(_MARGIN, y + 3, right, y + 3, 0.2, HAIRLINE)
        y += 9
    return y


def _list(sheet: Sheet, y: float, title: str, lines: tuple[str, ...]) -> float:
    right = sheet.width_mm - _MARGIN
    y = sheet.room_for(y, 14)
    sheet.text(_MARGIN, y + 4, title, 11, "bold")
    y += 9.5
    for words in lines:
        y = sheet.room_for(y, sheet.lines(words, right - _MARGIN - 6, 9.5) * 4.4 + 2)
        sheet.tick_box(_MARGIN, y)
        y = sheet.paragraph(_MARGIN + 6, y, words, right - _MARGIN - 6, 9.5) + 1
    return y


def _grits(sheet: Sheet, y: float, finish: FinishPlan) -> float:
    """A box a grit, in rows of six."""
    rungs = (*finish.bare, *finish.level)
    for number, rung in enumerate(rungs):
        if number % 6 == 0:
            y = sheet.room_for(y + (6 if number else 0), 6)
        x = _MARGIN + (number % 6) * 30
        sheet.tick_box(x, y)
        sheet.fitted(x + 4.5, y, rung.abrasive.name, 24, 9)
    return y + 3
