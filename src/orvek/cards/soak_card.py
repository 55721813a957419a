"""The soak card: the treatment in its order, to be ticked, with room for what was seen; the weights on their curve."""

from __future__ import annotations

from datetime import date

from orvek.cards.bench_card import MARGIN, bench_card, cautions_at, take_care
from orvek.cards.sheet import HAIRLINE, INK, QUIET, Sheet
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.soak.part import SoakPlan
from orvek.planning.soak.words import treatment_lines
from orvek.planning.working import Figure
from orvek.quantities import Units, write_moment

_SEEN_MM, _ROW_MM = 52.0, 7.0
_WEIGHT_ROWS = 8


def soak_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the oven and the chamber, and columns for what was seen there.

    Raises:
        NothingToDoError: nothing is to be done to the wood.
    """
    soak, units = plan.soak, shop.preferences.units
    if soak is None:
        raise NothingToDoError("A soak card", "wood that is dried, stabilised or dyed")
    wood = plan.job.soak.wood
    named = plan.job.blank.material(wood.species).name
    sheet = bench_card(plan, shop, "Soak card", f"{wood.count} × {named}", today)
    y = _figures(sheet, 44.0, soak, units)
    y = _steps(sheet, y + 3, treatment_lines(soak, plan.job, units))
    y = _weights(sheet, y + 3, plan)
    take_care(sheet, y, cautions_at(plan, "soak"))
    return sheet.bytes()


def _figures(sheet: Sheet, y: float, soak: SoakPlan, units: Units) -> float:
    """The figures that are read at the bench, in two columns."""
    told: list[Figure | None] = [soak.drying.end_g, soak.drying.dry_rate_pct, soak.drying.weigh_apart]
    if soak.bath is not None and soak.heat is not None:
        told += [soak.bath.takes_ml, soak.bath.bath_ml, soak.bath.buy_g, soak.bath.soak_least_min]
        told += [soak.heat.core_min, soak.heat.clock_min]
    told += [dye.side_mm for dye in soak.dyes]
    figures = [one for one in told if one is not None]
    half = (sheet.width_mm - 2 * MARGIN) / 2
    for number, figure in enumerate(figures):
        x, row = MARGIN + (number % 2) * half, y + (number // 2) * 5.6
        sheet.fitted(x, row, figure.label, half - 30, 9, colour=QUIET)
        sheet.text(x + half - 6, row, figure.written(units), 11, "bold", align="right")
    return y + (len(figures) + 1) // 2 * 5.6


def _steps(sheet: Sheet, y: float, lines: tuple[str, ...]) -> float:
    """The steps with a box each, and a line at the right for what was seen."""
    right = sheet.width_mm - MARGIN
    wide = right - MARGIN - 6 - _SEEN_MM - 4
    sheet.text(MARGIN, y + 4, "In this order", 11, "bold")
    sheet.text(right - _SEEN_MM, y + 4, "when, and what was seen", 8.5, colour=QUIET)
    y += 10
    for words in lines:
        tall = max(_ROW_MM, sheet.lines(words, wide, 9.5) * 4.4 + 2)
        y = sheet.room_for(y, tall)
        sheet.tick_box(MARGIN, y)
        end = sheet.paragraph(MARGIN + 6, y, words, wide, 9.5)
        sheet.line(right - _SEEN_MM, y + 1, right, y + 1, 0.2, HAIRLINE)
        y = max(end + 1.2, y + _ROW_MM)
    return y


def _weights(sheet: Sheet, y: float, plan: Plan) -> float:
    """Empty rows for the next weights, after the last that are known."""
    assert plan.soak is not None
    if plan.job.soak.route == "nothing":
        return y
    y = sheet.room_for(y, 12 + _WEIGHT_ROWS / 2 * _ROW_MM)
    right = sheet.width_mm - MARGIN
    sheet.text(MARGIN, y + 4, "Weights", 11, "bold")
    log = plan.soak.drying.log
    if log:
        last = f"the last: {write_moment(log[-1].when)}, {plan.g(log[-1].mass_g)}"
        sheet.text(right, y + 4, last, 9, colour=QUIET, align="right")
    half = (right - MARGIN) / 2
    for number in range(_WEIGHT_ROWS):
        x, row = MARGIN + (number % 2) * half, y + 13 + (number // 2) * _ROW_MM
        sheet.text(x, row, "day, hour", 8, colour=QUIET)
        sheet.line(x + 16, row + 0.6, x + 46, row + 0.6, 0.2, INK)
        sheet.text(x + 50, row, "g", 8, colour=QUIET)
        sheet.line(x + 53, row + 0.6, x + half - 6, row + 0.6, 0.2, INK)
    return y + 13 + _WEIGHT_ROWS / 2 * _ROW_MM
