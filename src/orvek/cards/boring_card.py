"""The boring card: one hole after another with its section, pecks and speed; and a strip to lay along the bar, 1:1.

`boring_card(plan, shop, today)` and `marking_strip(plan, shop)` give PDFs.
"""

from __future__ import annotations

from datetime import date
from itertools import pairwise

from orvek.cards.bench_card import MARGIN, bench_card, cautions_at, take_care, ticked
from orvek.cards.sheet import BRASS, HAIRLINE, INK, QUIET, Sheet
from orvek.documents import Bore, Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.bore.part import BorePlan, HolePlan
from orvek.planning.bore.words import (
    centre_line,
    chances_line,
    depth_line,
    from_line,
    pecks_line,
    step_line,
    travels_line,
    tube_lines,
)
from orvek.planning.results import Layout
from orvek.quantities import Dimension, Units, write, write_bit

_HOLE_MM = 70.0  # what one hole takes on the card
_CHECK_MM = 100.0
_ROW_MM, _FACT_MM = 44.0, 4.7


def boring_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the press and at the glue bottle.

    Raises:
        NothingToDoError: there is nothing to bore yet.
    """
    bore, units = _bore(plan, "A boring card"), shop.preferences.units
    machine = f"{bore.press.name} · " if bore.is_own_press else ""
    line = f"{machine}{bore.stuff.name} · held {plan.job.bore.holding}"
    sheet = bench_card(plan, shop, "Boring card", line, today)
    y = 42.0
    for hole in bore.holes:
        y = _hole(sheet, sheet.room_for(y, _HOLE_MM), hole, bore, plan.job.bore, units)
    y = sheet.paragraph(MARGIN, y, chances_line(bore, units), sheet.width_mm - 2 * MARGIN, 8.5, colour=QUIET)
    y = ticked(sheet, y, "The tubes", tube_lines(bore, plan.job.bore, units))
    take_care(sheet, y, cautions_at(plan, "bore"))
    return sheet.bytes()


def marking_strip(plan: Plan, shop: Shop) -> bytes:
    """A strip to lay along the bar: saw cuts, tubes, centres, which end the bit enters; one millimetre is one.

    A bar that is longer than the paper goes on in another row, which begins where a mark says.

    Raises:
        NothingToDoError: there is nothing to bore yet.
    """
    bore, units, layout = _bore(plan, "A marking strip"), shop.preferences.units, plan.layout
    assert layout is not None
    sheet = Sheet(shop.preferences.paper, f"{plan.job.batch.name} – marking strip", "Print at 100 %")
    sheet.text(MARGIN, 20, f"{plan.job.batch.name}: marking strip", 13, "bold")
    sheet.text(MARGIN, 26, "Print at 100 %, no fitting to the page. Cut it out and lay it along the bar.", 9)
    sheet.text(MARGIN, 30.5, "Copy the jaw marks: this face to the fixed jaw, the marked end up, every time.", 9)
    row_mm = sheet.width_mm - 2 * MARGIN
    y, begin = 44.0, 0.0
    while begin < layout.length_mm - 1e-6:
        end = min(layout.length_mm, begin + row_mm)
        y = sheet.room_for(y, _ROW_MM)
        _strip_row(sheet, y, layout, bore, (begin, end), units)
        y, begin = y + _ROW_MM, end
    y = sheet.room_for(y + 4, 10)
    sheet.line(MARGIN, y, MARGIN + _CHECK_MM, y, 0.3, INK)
    for x in (0.0, _CHECK_MM):
        sheet.line(MARGIN + x, y - 2, MARGIN + x, y + 2, 0.3, INK)
    sheet.text(MARGIN + _CHECK_MM + 3, y + 1, "this line is 100 mm long, or the print is not 1:1", 8, colour=QUIET)
    return sheet.bytes()


def _bore(plan: Plan, what: str) -> BorePlan:
    if plan.bore is None:
        raise NothingToDoError(what, "a pen")
    return plan.bore


def _hole(sheet: Sheet, y: float, hole: HolePlan, bore: BorePlan, how: Bore, units: Units) -> float:
    right = sheet.width_mm - MARGIN
    sheet.line(MARGIN, y, right, y, 0.4, INK)
    bit = f"{hole.bit.name}, " if hole.bit else ""
    title = f"{hole.name}: {bit}{write_bit(hole.barrel.bit_diameter_mm, units)} bit"
    sheet.text(MARGIN, y + 6.5, title, 13, "bold")
    sheet.fitted(MARGIN, y + 11.5, from_line(hole), right - MARGIN, 9.5)
    _sketch(sheet, y + 15, hole)
    steps = (hole.wide.depth_mm, hole.wide.wall_mm) if hole.wide else ()
    facts = (
        hole.saw_mm,
        hole.depth_mm,
        *steps,
        hole.turns_min,
        hole.minutes,
        hole.scatter_mm,
        hole.flat_pct,
        hole.side_pct,
    )
    x, top = MARGIN + 92, y + 16.5
    for number, figure in enumerate(facts):
        sheet.text(x, top + number * _FACT_MM, figure.label, 9, colour=QUIET)
        sheet.text(right, top + number * _FACT_MM, figure.written(units), 11, "bold", align="right")
    y += max(50, 16.5 + len(facts) * _FACT_MM + 2)
    for number, peck in enumerate(hole.pecks_mm[:14]):
        at = MARGIN + number * 12.8
        sheet.tick_box(at, y)
        sheet.text(at + 4, y, write(peck, Dimension.LENGTH, units).removesuffix(" mm").removesuffix(" in"), 9, "medium")
    lines = [centre_line(hole, how, units), depth_line(hole, units), step_line(hole, units)]
    lines += [pecks_line(hole, bore, units), travels_line(hole, bore, units) if bore.is_own_press else ""]
    return sheet.paragraph(MARGIN, y + 5.5, " ".join(line for line in lines if line), right - MARGIN, 9) + 3


def _sketch(sheet: Sheet, y: float, hole: HolePlan) -> None:
    """The hole in its bar, seen from the side, entry at the left whichever end that is on the strip."""
    long, across = hole.saw_mm.value, min(hole.section_mm[:2])
    scale = min(82 / long, 27 / across)
    left, middle = MARGIN, y + 15
    sheet.box(left, middle - across * scale / 2, long * scale, across * scale, "#EEE9DD", INK)
    radius = hole.barrel.bit_diameter_mm / 2
    sheet.box(left, middle - radius * scale, hole.depth_mm.value * scale, 2 * radius * scale, "#FFFFFF", QUIET)
    begin, end = hole.ends_mm
    if hole.wide is not None:
        deep, half = hole.wide.depth_mm.value * scale, hole.wide.bit_mm / 2 * scale
        at_entry = hole.wide.at_left == hole.from_left
        x = left if at_entry else left + (end + hole.barrel.trim_mm) * scale - deep
        sheet.box(x, middle - half, deep, 2 * half, "#FFFFFF", QUIET)
    if hole.barrel.glued_from_to_mm is not None:
        tube = hole.barrel.tube_diameter_mm / 2
        first, last = hole.barrel.glued_from_to_mm
        first = begin + (first if hole.from_left else hole.barrel.tube_length_mm - last)
        long = hole.barrel.glued_mm * scale
        sheet.box(left + first * scale, middle - tube * scale, long, 2 * tube * scale, None, BRASS)
    for side in (1, -1):
        for (z0, first), (z1, last) in pairwise(hole.finished):
            here, there = (middle + side * size / 2 * scale for size in (first, last))
            sheet.line(left + z0 * scale, here, left + z1 * scale, there, 0.3, INK)
    depth = hole.depth_mm.value
    for edge in (1, -1):
        near, far = (edge * (radius + hole.spread_mm(z)) * scale for z in (0, depth))
        sheet.line(left, middle + near, left + depth * scale, middle + far, 0.15, "#C98A1B")
    for peck in hole.pecks_mm:
        sheet.line(
            left + peck * scale, middle - across * scale / 2 - 2, left + peck * scale, middle - across * scale / 2
        )


def _jaw_mark(sheet: Sheet, x: float, y: float, from_left: bool) -> None:
    """An arrow on the edge at the end that is bored from: that face to the fixed jaw, that end up."""
    way = 1 if from_left else -1
    sheet.line(x + way * 2, y + 1.2, x + way * 9, y + 1.2, 0.5, INK)
    for side in (-1, 1):
        sheet.line(x + way * 2, y + 1.2, x + way * 4, y + 1.2 + side, 0.5, INK)
    sheet.text(x + way * 10, y + 2.2, "jaw, up", 6.5, align="left" if from_left else "right")


def _strip_row(sheet: Sheet, y: float, layout: Layout, bore: BorePlan, part: tuple[float, float], units: Units) -> None:
    """One row of the strip: the stretch `part` of the bar in mm from its left end."""
    begin, end = part
    tall = min(22.0, layout.across_mm)

    def at(z_mm: float) -> float:
        return MARGIN + min(max(z_mm, begin), end) - begin

    sheet.box(at(begin), y, end - begin, tall, None, INK)
    sheet.line(at(begin), y + tall / 2, at(end), y + tall / 2, 0.15, HAIRLINE)
    for kerf in layout.kerfs:
        if kerf.end_mm > begin and kerf.start_mm < end:
            sheet.box(at(kerf.start_mm), y, at(kerf.end_mm) - at(kerf.start_mm), tall, "#E4DFD2", INK)
            sheet.text(at(kerf.start_mm), y - 1.5, write(kerf.start_mm, Dimension.LENGTH, units), 7, "medium")
    for place, hole in zip(layout.tubes, bore.holes, strict=True):
        tube = place.tube
        if tube.end_mm <= begin or tube.start_mm >= end:
            continue
        half = place.tube_diameter_mm / 2
        if place.glued is not None:
            long = at(place.glued.end_mm) - at(place.glued.start_mm)
            sheet.box(at(place.glued.start_mm), y + tall / 2 - half, long, 2 * half, None, BRASS)
        arrow = "bit from both ends" if hole.from_both else "bit enters →" if hole.from_left else "← bit enters"
        _jaw_mark(sheet, at(place.piece.start_mm if hole.from_left else place.piece.end_mm), y, hole.from_left)
        sheet.text(at(tube.start_mm) + 2, y + tall / 2 + 3.5, f"{hole.name}  {arrow}", 8, "medium")
        sheet.line(at((tube.start_mm + tube.end_mm) / 2), y, at((tube.start_mm + tube.end_mm) / 2), y + 3, 0.2, INK)
    for number in range(int(begin / 10), int(end / 10) + 1):
        if begin <= number * 10 <= end:
            sheet.line(at(number * 10), y + tall, at(number * 10), y + tall + 2, 0.2, INK)
            sheet.text(at(number * 10), y + tall + 5.5, f"{number * 10}", 7, align="centre", colour=QUIET)
    if end < layout.length_mm - 1e-6:
        sheet.text(at(end), y - 1.5, f"goes on at {write(end, Dimension.LENGTH, units)}", 7, align="right")
