"""The boring card: one hole after another with its section, pecks and speed; and a strip to lay along the bar, 1:1.

`boring_card(plan, shop, today)` and `marking_strip(plan, shop, today)` give PDFs.
"""

from __future__ import annotations

from datetime import date
from itertools import pairwise

from reportlab.platypus import KeepTogether

from orvek.cards.bench_card import bench_card, cautions_at, take_care
from orvek.cards.sheet import BRASS, HAIRLINE, INK, MARGIN, QUIET, Ink, Sheet, job_line
from orvek.cards.story import Drawing, gap, table, ticked, together, words
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
from orvek.planning.layout import Layout
from orvek.quantities import Dimension, Units, write, write_bit

_SKETCH_MM, _MOST_PECKS = 84.0, 14
_ROW_MM = 44.0


def boring_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the press and at the glue bottle.

    Raises:
        NothingToDoError: there is nothing to bore yet.
    """
    bore, units = _bore(plan, "A boring card"), shop.preferences.units
    machine = f"{bore.press.name} · " if bore.is_own_press else ""
    line = f"{machine}{bore.stuff.name} · held {plan.job.bore.holding}"
    story = bench_card(plan, shop, "Boring card", line, today)
    if bore.small_mm is not None:
        small = f"Every half to {write_bit(bore.small_mm, units)} first; then choose the cap, mark it, open it up."
        story.add(words(small, 10, after_mm=2))
    for hole in bore.holes:
        story.add(_hole(story.wide_mm, hole, bore, plan.job.bore, units), gap(3))
    story.add(words(chances_line(bore, units), 8.5, colour=QUIET, after_mm=2))
    ticked(story, "The tubes", tube_lines(bore, plan.job.bore, units))
    take_care(story, cautions_at(plan, "bore"))
    return story.pdf()


def marking_strip(plan: Plan, shop: Shop, today: date) -> bytes:
    """A strip to lay along the bar: saw cuts, tubes, centres, which end the bit enters; one millimetre is one.

    A bar that is longer than the paper goes on in another row, which begins where a mark says.

    Raises:
        NothingToDoError: there is nothing to bore yet.
    """
    bore, units, layout = _bore(plan, "A marking strip"), shop.preferences.units, plan.layout
    assert layout is not None
    sheet = Sheet(shop.preferences.paper, f"{plan.job.batch.name} – marking strip", "Print at 100 %")
    sheet.text(MARGIN, 20, f"{plan.job.batch.name}: marking strip", 13, "bold")
    sheet.text(sheet.width_mm - MARGIN, 20, job_line(plan.job.batch.id, today), 8, colour=QUIET, align="right")
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
    sheet.check_line(MARGIN, y)
    return sheet.bytes()


def _bore(plan: Plan, what: str) -> BorePlan:
    if plan.bore is None:
        raise NothingToDoError(what, "a pen")
    return plan.bore


def _hole(wide_mm: float, hole: HolePlan, bore: BorePlan, how: Bore, units: Units) -> KeepTogether:
    """One hole: its bit, its section beside its figures, its pecks to be ticked, and how it is bored."""
    bit = f"{hole.bit.name}, " if hole.bit else ""
    title = f"{hole.name}: {bit}{write_bit(hole.barrel.bit_diameter_mm, units)} bit"
    steps = (hole.wide.depth_mm, hole.wide.wall_mm) if hole.wide else ()
    drawn = (hole.turns_min, hole.minutes, hole.scatter_mm, hole.flat_pct, hole.side_pct)
    facts = [
        [words(figure.label, 9, colour=QUIET), words(figure.written(units), 11, "bold", align="right")]
        for figure in (hole.saw_mm, hole.depth_mm, *steps, *drawn)
    ]
    right = wide_mm - _SKETCH_MM - 8
    beside = table(facts, (right - 30, 30), ruled=False, pad_mm=0)
    sketch = Drawing(_SKETCH_MM, 34, lambda ink: _sketch(ink, hole))
    lines = [centre_line(hole, how, units), depth_line(hole, units), step_line(hole, units)]
    lines += [pecks_line(hole, bore, units), travels_line(hole, bore, units) if bore.is_own_press else ""]
    return together(
        Drawing(wide_mm, 1, lambda ink: ink.line(0, 0, wide_mm, 0, 0.4, INK)),
        words(title, 13, "bold"),
        words(from_line(hole), after_mm=1.5),
        table([[sketch, "", beside]], (_SKETCH_MM, 8, right), ruled=False, pad_mm=0),
        Drawing(wide_mm, 6, lambda ink: _pecks(ink, hole, units)),
        words(" ".join(line for line in lines if line), 9),
    )


def _pecks(ink: Ink, hole: HolePlan, units: Units) -> None:
    """A box for each withdrawal, with its depth."""
    for number, peck in enumerate(hole.pecks_mm[:_MOST_PECKS]):
        at = number * 12.8
        ink.tick_box(at, 4)
        ink.text(at + 4, 4, write(peck, Dimension.LENGTH, units).removesuffix(" mm").removesuffix(" in"), 9, "medium")


def _sketch(ink: Ink, hole: HolePlan) -> None:
    """The hole in its bar, seen from the side, entry at the left whichever end that is on the strip."""
    long, across = hole.saw_mm.value, min(hole.section_mm[:2])
    scale = min(82 / long, 27 / across)
    left, middle = 0.0, 17.0
    ink.box(left, middle - across * scale / 2, long * scale, across * scale, "#EEE9DD", INK)
    radius = hole.barrel.bit_diameter_mm / 2
    bored = min(hole.depth_mm.value, long)  # a bit's point may stand out at the other end
    ink.box(left, middle - radius * scale, bored * scale, 2 * radius * scale, "#FFFFFF", QUIET)
    begin, _ = hole.ends_mm
    if hole.wide is not None:
        deep, half = hole.wide.depth_mm.value * scale, hole.wide.bit_mm / 2 * scale
        at_entry = hole.wide.at_left == hole.from_left
        x = left if at_entry else left + hole.saw_mm.value * scale - deep
        ink.box(x, middle - half, deep, 2 * half, "#FFFFFF", QUIET)
    if hole.barrel.glued_from_to_mm is not None:
        tube = hole.barrel.tube_diameter_mm / 2
        first, last = hole.barrel.glued_from_to_mm
        first = begin + (first if hole.from_left else hole.barrel.tube_length_mm - last)
        long = hole.barrel.glued_mm * scale
        ink.box(left + first * scale, middle - tube * scale, long, 2 * tube * scale, None, BRASS)
    for side in (1, -1):
        for (z0, first), (z1, last) in pairwise(hole.finished):
            here, there = (middle + side * size / 2 * scale for size in (first, last))
            ink.line(left + z0 * scale, here, left + z1 * scale, there, 0.3, INK)
    depth = hole.depth_mm.value
    for edge in (1, -1):
        near, far = (edge * (radius + hole.spread_mm(z)) * scale for z in (0, depth))
        ink.line(left, middle + near, left + depth * scale, middle + far, 0.15, "#C98A1B")
    for peck in hole.pecks_mm:
        ink.line(left + peck * scale, middle - across * scale / 2 - 2, left + peck * scale, middle - across * scale / 2)


def _jaw_mark(sheet: Sheet, x: float, y: float, from_left: bool) -> None:
    """An arrow on the edge at the end that is bored from: that face to the fixed jaw, that end up."""
    way = 1 if from_left else -1
    sheet.line(x + way * 2, y + 1.2, x + way * 9, y + 1.2, 0.5, INK)
    for side in (-1, 1):
        sheet.line(x + way * 2, y + 1.2, x + way * 4, y + 1.2 + side, 0.5, INK)
    sheet.text(x + way * 10, y + 2.2, "jaw, up", 8, align="left" if from_left else "right")


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
            sheet.text(at(kerf.start_mm), y - 1.5, write(kerf.start_mm, Dimension.LENGTH, units), 8, "medium")
    for place, hole in zip(layout.tubes, bore.holes, strict=True):
        tube = place.tube
        if tube.end_mm <= begin or tube.start_mm >= end:
            continue
        half = place.barrel.tube_diameter_mm / 2
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
            sheet.text(at(number * 10), y + tall + 5.5, f"{number * 10}", 8, align="centre", colour=QUIET)
    if end < layout.length_mm - 1e-6:
        sheet.text(at(end), y - 1.5, f"goes on at {write(end, Dimension.LENGTH, units)}", 8, align="right")
