"""The finish and press card: sizes at each place, grits to tick, coats, the parts in order; faults and decisions."""

from __future__ import annotations

from datetime import date

from reportlab.platypus import Table

from orvek.cards.bench_card import bench_card, cautions_at, take_care
from orvek.cards.sheet import QUIET
from orvek.cards.story import Cell, blank_line, gap, table, tick_box, ticked, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.faults.words import fault_lines
from orvek.planning.finish.press import press_lines
from orvek.planning.finish.results import PLACES, FinishPlan
from orvek.planning.finish.words import along_lines, finish_lines
from orvek.quantities import Units

_GRITS = 6  # on a row
_OWN_BOX = {"end_piece", "seal", "recess", "part_off", "thread"}  # as the route has them, in its order


def finish_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What is needed at the lathe from the roughed barrel to the pen.

    Raises:
        NothingToDoError: there is no pen.
    """
    finish, pen, units = plan.finish, plan.job.pen, shop.preferences.units
    if finish is None or pen is None:
        raise NothingToDoError("A finish card", "a pen")
    story = bench_card(plan, shop, "Finish and press card", f"{pen.name} · {finish.school.name}", today)
    story.add(_sizes(story.wide_mm, finish, units), gap(1.5))
    for line in along_lines(finish.sizes, units):
        story.add(words(line, after_mm=1))
    ticked(story, "At the lathe", finish.lathe)
    if finish.voids is not None:
        there = finish.voids
        glue = f", {there.glue_g.written(units)} of thin glue" if there.glue_g else ""
        first = f"{there.void.count} voids: {there.powder_g.written(units)} of {there.fill.key}{glue}."
        ticked(story, "Voids", (first, *there.lines))
    ticked(story, "Sanding and coats", finish_lines(finish, plan.finishing, units))
    story.add(_grits(story.wide_mm, finish), gap(2.5))
    for task in plan.route.operations if plan.route is not None else ():
        if task.kind in _OWN_BOX:
            ticked(story, task.words, task.lines)
    ticked(
        story,
        "Press",
        (*press_lines(pen, units, plan.job.finish.pressed_in), *(finish.clip.lines if finish.clip else ())),
    )
    for one in plan.faults.found if plan.faults else ():
        if lines := fault_lines(one, units):
            ticked(story, "What went wrong", lines)
    take_care(story, (*cautions_at(plan, "finish"), *cautions_at(plan, "faults")))
    return story.pdf()


def _sizes(wide_mm: float, finish: FinishPlan, units: Units) -> Table:
    """A row a barrel: what the tool leaves at each place, and room for what was measured."""
    heads = [part for place in PLACES for part in (words(place, 8.5, colour=QUIET), "")]
    rows: list[list[Cell]] = [[words("Stop the tool at", 11, "bold"), *heads]]
    for size in finish.sizes:
        told = [part for figure in size.tool_mm for part in (words(figure.written(units), 13, "bold"), blank_line(18))]
        rows.append([words(size.barrel.name, 11, "medium"), *told])
    each = (wide_mm - 42) / len(PLACES)
    return table(rows, (42, *(24, each - 24) * len(PLACES)), heads=1, pad_mm=1.2)


def _grits(wide_mm: float, finish: FinishPlan) -> Table:
    """A box a grit, in rows of six."""
    cells = [part for rung in (*finish.bare, *finish.level) for part in (tick_box(), words(rung.abrasive.name, 9))]
    cells += [""] * (-len(cells) % (2 * _GRITS))
    rows = [cells[n : n + 2 * _GRITS] for n in range(0, len(cells), 2 * _GRITS)]
    return table(rows or [[""] * 2 * _GRITS], (4.5, wide_mm / _GRITS - 4.5) * _GRITS, ruled=False, pad_mm=0.6)
