"""The soak card: the treatment in its order, to be ticked, with room for what was seen; the weights on their curve."""

from __future__ import annotations

from datetime import date

from reportlab.platypus import KeepTogether, Table

from orvek.cards.bench_card import bench_card, cautions_at, take_care
from orvek.cards.sheet import QUIET
from orvek.cards.story import Cell, blank_line, gap, table, tick_box, together, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.soak.part import SoakPlan
from orvek.planning.soak.words import treatment_lines
from orvek.planning.working import Figure
from orvek.quantities import Units, write_moment

_SEEN_MM = 52.0
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
    named = plan.job.blank.material(plan.job.treated_wood).name
    story = bench_card(plan, shop, "Soak card", f"{wood.count} × {named}", today)
    story.add(_figures(story.wide_mm, soak, units), gap(3))
    story.add(_steps(story.wide_mm, treatment_lines(soak, plan.job, units)), gap(3))
    if plan.job.soak.route != "nothing":
        story.add(_weights(story.wide_mm, plan), gap(4))
    take_care(story, cautions_at(plan, "soak"))
    return story.pdf()


def _figures(wide_mm: float, soak: SoakPlan, units: Units) -> Table:
    """The figures that are read at the bench, in two columns."""
    told: list[Figure | None] = [soak.drying.end_g, soak.drying.dry_rate_pct, soak.drying.weigh_apart]
    if soak.bath is not None and soak.heat is not None:
        told += [soak.bath.takes_ml, soak.bath.bath_ml, soak.bath.buy_g, soak.bath.soak_least_min]
        told += [soak.heat.core_min, soak.heat.clock_min]
    told += [dye.side_mm for dye in soak.dyes]
    cells: list[tuple[Cell, Cell]] = [
        (words(one.label, 9, colour=QUIET), words(one.written(units), 11, "bold", align="right"))
        for one in told
        if one is not None
    ]
    cells += [("", "")] * (len(cells) % 2)
    rows = [[*left, "", *right] for left, right in zip(cells[::2], cells[1::2], strict=True)]
    label = (wide_mm - 8) / 2 - 32
    return table(rows, (label, 32, 8, label, 32), ruled=False, pad_mm=0.4)


def _steps(wide_mm: float, lines: tuple[str, ...]) -> Table:
    """The steps with a box each, and a line at the right for what was seen."""
    seen = words("when, and what was seen", 8.5, colour=QUIET)
    rows: list[list[Cell]] = [[words("In this order", 11, "bold"), "", "", seen]]
    rows += [[tick_box(), words(line), "", blank_line(_SEEN_MM)] for line in lines]
    widths = (6, wide_mm - 6 - _SEEN_MM - 4, 4, _SEEN_MM)
    return table(rows, widths, heads=1, ruled=False, pad_mm=1.2, style=[("SPAN", (0, 0), (1, 0))])


def _weights(wide_mm: float, plan: Plan) -> KeepTogether:
    """Empty rows for the next weights, after the last that are known."""
    assert plan.soak is not None
    log = plan.soak.drying.log
    last = f"the last: {write_moment(log[-1].when)}, {plan.units.g(log[-1].mass_g)}" if log else ""
    day, gram = words("day, hour", 8, colour=QUIET), words("g", 8, colour=QUIET)
    half = [day, blank_line(30), gram, blank_line(30)]
    widths = (16, 34, 4, (wide_mm - 108) / 2)
    rows = [[*half, *half] for _ in range(_WEIGHT_ROWS // 2)]
    head = table(
        [[words("Weights", 11, "bold"), words(last, 9, colour=QUIET, align="right")]], (40, wide_mm - 40), ruled=False
    )
    return together(head, table(rows, (*widths, *widths), ruled=False, pad_mm=1.2))
