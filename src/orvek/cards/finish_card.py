"""The finish and press card: sizes at each place, grits to tick, coats, the parts in order; faults and decisions."""

from __future__ import annotations

from datetime import date

from orvek.cards.bench_card import MARGIN, bench_card, cautions_at, take_care, ticked
from orvek.cards.sheet import HAIRLINE, INK, QUIET, Sheet
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.faults.words import fault_lines
from orvek.planning.finish.press import press_lines
from orvek.planning.finish.results import PLACES, FinishPlan
from orvek.planning.finish.words import along_lines, finish_lines
from orvek.quantities import Units


def finish_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the lathe from the roughed barrel to the pen.

    Raises:
        NothingToDoError: there is no pen.
    """
    finish, pen, units = plan.finish, plan.job.pen, shop.preferences.units
    if finish is None or pen is None:
        raise NothingToDoError("A finish card", "a pen")
    sheet = bench_card(plan, shop, "Finish and press card", f"{pen.name} · {finish.school.name}", today)
    y = _sizes(sheet, 44.0, finish, units)
    y = ticked(sheet, y + 1, "At the lathe", finish.lathe)
    if finish.voids is not None:
        there = finish.voids
        glue = f", {there.glue_g.written(units)} of thin glue" if there.glue_g else ""
        first = f"{there.void.count} voids: {there.powder_g.written(units)} of {there.fill.key}{glue}."
        y = ticked(sheet, y + 3, "Voids", (first, *there.lines))
    y = ticked(sheet, y + 3, "Sanding and coats", finish_lines(finish, plan.job.finish, units))
    y = _grits(sheet, y + 2, finish)
    y = ticked(sheet, y + 4, "Press", (*press_lines(pen, units), *(finish.clip.lines if finish.clip else ())))
    for one in plan.faults.found if plan.faults else ():
        if lines := fault_lines(one, units):
            y = ticked(sheet, y + 4, "What went wrong", lines)
    take_care(sheet, y, (*cautions_at(plan, "finish"), *cautions_at(plan, "faults")))
    return sheet.bytes()


def _sizes(sheet: Sheet, y: float, finish: FinishPlan, units: Units) -> float:
    """A row a barrel: what the tool leaves at each place, and room for what was measured."""
    right = sheet.width_mm - MARGIN
    sheet.text(MARGIN, y, "Stop the tool at", 11, "bold")
    columns = [MARGIN + 42 + 46 * number for number in range(3)]
    for x, place in zip(columns, PLACES, strict=True):
        sheet.text(x, y, place, 8.5, colour=QUIET)
    y += 7
    for size in finish.sizes:
        sheet.fitted(MARGIN, y, size.barrel.name, 38, 11, "medium")
        for x, figure in zip(columns, size.tool_mm, strict=True):
            sheet.text(x, y, figure.written(units), 13, "bold")
            sheet.line(x + 24, y + 0.8, x + 42, y + 0.8, 0.2, INK)
        sheet.line(MARGIN, y + 3, right, y + 3, 0.2, HAIRLINE)
        y += 9
    for words in along_lines(finish.sizes, units):
        y = sheet.paragraph(MARGIN, y, words, right - MARGIN, 9.5) + 1
    return y


def _grits(sheet: Sheet, y: float, finish: FinishPlan) -> float:
    """A box a grit, in rows of six."""
    rungs = (*finish.bare, *finish.level)
    for number, rung in enumerate(rungs):
        if number % 6 == 0:
            y = sheet.room_for(y + (6 if number else 0), 6)
        x = MARGIN + (number % 6) * 30
        sheet.tick_box(x, y)
        sheet.fitted(x + 4.5, y, rung.abrasive.name, 24, 9)
    return y + 3
