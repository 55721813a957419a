"""The pour card: everything that is needed at the scale, in the order of weighing; on one page where it fits.

What is weighed is never printed smaller than 11 points: many cups and colours go on to another page.

`pour_card(plan, shop, today)` gives the PDF. Its figures are the plan's, written as the screen writes them.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from io import BytesIO
from itertools import accumulate
from typing import Any

from msgspec import Struct
from msgspec.structs import replace
from reportlab.platypus import KeepTogether, Table

from orvek.cards.bench_card import bench_card, stops, take_care
from orvek.cards.sheet import BRASS, HAIRLINE, INK, QUIET, Ink
from orvek.cards.story import Cell, Drawing, blank_line, gap, heading, line_mm, table, tick_box, together, words
from orvek.documents import BarMould, InsertStep, LoafMould, Mould, Resin, Shop
from orvek.errors import NothingToDoError
from orvek.planning import CupPlan, MixturePlan, Plan
from orvek.planning.findings import Caution
from orvek.planning.history import expected_pct
from orvek.planning.words import bars_line, counted, dose_name, mould_size, pot_life_line, ratio_line, weighed
from orvek.quantities import Dimension, Units, decimal, write

_ROWS_MM = (9.0, 8.1, 7.3)  # how high a row to weigh is: the least makes 11 points
_SKETCH_MM = 72.0
_CLOCK_STARTS = "The clock starts here: hardener into each cup, then stir to the corners, scrape and stir again."
_SKETCH_PIXELS = 360  # along the bar: five to the millimetre of paper


class Row(Struct, frozen=True):
    """One thing to weigh: into which cup, how much, and what it is."""

    cup: int
    what: str
    amount: str
    is_hardener: bool = False


def weighing_rows(plan: Plan, units: Units | None = None) -> tuple[Row, ...]:
    """What is weighed, in the order of the hands: part A and colours of each cup, then the hardener of each.

    The hardener comes last, because the clock starts with its first drop. For makers who read the running sum
    the amounts are what the scale shows then, with the empty cup at zero.
    """
    mixture, pour = _mixture(plan), plan.job.pour
    before: list[Row] = []
    hardener: list[Row] = []
    for n, cup in enumerate(mixture.cups):
        if cup.is_solid:
            amount = weighed(cup.mass_g.value, pour.scale.resolution_g, units)
            before.append(Row(n, "Chips, laid in dry", amount))
            continue
        parts = [("Part A", cup.weighed_a_g), *((dose_name(d, units), d.weighed_g) for d in cup.doses)]
        parts.append(("Part B", cup.weighed_b_g))
        if pour.weighing == "cumulative":
            sums = accumulate(mass for _, mass in parts)
            parts = [(what, mass) for (what, _), mass in zip(parts, sums, strict=True)]
        rows = [Row(n, what, weighed(mass, pour.scale.resolution_g, units)) for what, mass in parts]
        before += rows[:-1]
        hardener.append(replace(rows[-1], is_hardener=True))
    return (*before, *hardener)


def pour_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """The pour card as a PDF on the shop's paper.

    Raises:
        NothingToDoError: the job has no mould, resin or cups yet.
    """
    mixture, units = _mixture(plan), shop.preferences.units
    resin, mould = plan.job.pour.resin, plan.job.pour.mould
    assert resin is not None
    assert mould is not None
    largest = b""
    for row_mm in _ROWS_MM:
        story = bench_card(plan, shop, "Pour card", _line(plan), today, f"Job {plan.job.batch.id} · for one casting")
        stops(story, plan)
        story.add(_mould_and_resin(story.wide_mm, plan, mixture, mould, resin, units), gap(2.5))
        story.add(_weighing(story.wide_mm, row_mm, mixture, weighing_rows(plan, units), plan.job.pour.weighing), gap(4))
        story.add(_times(story.wide_mm, plan, resin, units), gap(4))
        take_care(story, cautions_of(plan))
        made = story.pdf()
        if story.pages == 1:
            return made
        largest = largest or made
    return largest


def _mixture(plan: Plan) -> MixturePlan:
    if plan.mixture is None or plan.mixture.mass_g is None or not plan.mixture.cups:
        missing = "a mould" if plan.job.pour.mould is None else "a resin" if plan.job.pour.resin is None else "a colour"
        raise NothingToDoError("A pour card", missing)
    return plan.mixture


def _line(plan: Plan) -> str:
    batch = plan.job.batch
    pen = f"{plan.job.pen.name} · " if plan.job.pen else ""
    wanted = f"{counted(batch.pens_wanted, f'good {plan.job.thing}')} wanted"
    spoilt = decimal(round(expected_pct(plan.job, plan.shop.ledger), 1))
    return f"{pen}{wanted}, scrap rate {spoilt} % · {bars_line(plan.bars)}"


def _mould_and_resin(
    wide_mm: float, plan: Plan, mixture: MixturePlan, mould: Mould, resin: Resin, units: Units
) -> Table:
    """The mould as it is filled at the left, what goes into it at the right."""
    assert mixture.mass_g is not None
    assert mixture.ratio is not None
    pour, right = plan.job.pour, wide_mm - _SKETCH_MM - 6
    sizes = f"{mould_size(mould, units)} · {mixture.mould_ml.written(units)} · colours by share"
    sketch = Drawing(_SKETCH_MM, 40, lambda ink: _mould_sketch(ink, _SKETCH_MM, 40, plan, mould))
    facts = (
        ("Resin", resin.name),
        ("Mix", f"{ratio_line(resin)} · B is {decimal(100 * mixture.ratio.value, 1)} % of A by mass"),
        ("Pour", f"{mixture.volume_ml.written(units)} with {decimal(pour.overage_pct)} % overage"),
        ("Weigh in all", f"{mixture.mass_g.written(units)}, {decimal(pour.cup_residue_g)} g left in each cup"),
        ("Scale", f"{pour.scale.name}, {decimal(pour.scale.resolution_g)} g steps, {_weighing_habit(plan)}"),
    )
    rows = [[words(name, 8, colour=QUIET), words(fact, 9.5, "medium")] for name, fact in facts]
    left = [words(mould.name, 9.5, "medium", after_mm=1), sketch, words(sizes, 8, colour=QUIET)]
    return table([[left, "", table(rows, (22, right - 22), pad_mm=1.6)]], (_SKETCH_MM, 6, right), ruled=False)


def _weighing_habit(plan: Plan) -> str:
    return "tare before each part" if plan.job.pour.weighing == "tared" else "running sum, no tare"


def _mould_sketch(ink: Ink, width: float, height: float, plan: Plan, mould: Mould) -> None:
    """The mould from above, to scale, the cavities of this casting filled in the cups' colours by share."""
    count = 1 if isinstance(mould, LoafMould) else mould.cavities
    across = mould.width_mm if isinstance(mould, BarMould | LoafMould) else mould.diameter_mm
    wall = 4.0
    scale = min(width / (mould.length_mm + 2 * wall), height / (count * (across + wall) + wall))
    ink.box(0, 0, (mould.length_mm + 2 * wall) * scale, (count * (across + wall) + wall) * scale, "#E9E4D8", INK)
    filled = 1 if isinstance(mould, LoafMould) else plan.bars.bars_per_casting
    cups = plan.mixture.cups if plan.mixture else ()
    lying = _with_wood(plan)
    for n in range(count):
        left, top = wall * scale, (wall + n * (across + wall)) * scale
        if lying is not None and n < filled:
            ink.picture(left, top, mould.length_mm * scale, across * scale, BytesIO(lying))
            continue
        for cup, start, end in _stripes(cups if n < filled else ()):
            at, tall = top + start * across * scale, (end - start) * across * scale
            ink.box(left, at, mould.length_mm * scale, tall, cup.colour, None)
        ink.box(left, top, mould.length_mm * scale, across * scale, colour=BRASS if n < filled else HAIRLINE)


def _with_wood(plan: Plan) -> bytes | None:
    """The bar from above with what is laid into the mould, as PNG; None where nothing is, or for a loaf."""
    job = plan.job
    laid = any(isinstance(step, InsertStep) for step in job.blank.steps)
    if not laid or job.cast_index is None or isinstance(job.pour.mould, LoafMould):
        return None
    from orvek.cards.picture_file import picture_png
    from orvek.workpiece.reference import evaluate_reference

    as_cast = job.with_(blank=job.blank.with_(steps=job.blank.steps[: job.cast_index + 1]))
    return picture_png(replace(plan, job=as_cast), evaluate_reference, "bar", _SKETCH_PIXELS)


def _stripes(cups: tuple[CupPlan, ...]) -> Iterator[tuple[CupPlan, float, float]]:
    place = 0.0
    for cup in cups:
        yield cup, place, place + cup.share_pct.value / 100
        place += cup.share_pct.value / 100


def _weighing(wide_mm: float, row_mm: float, mixture: MixturePlan, rows: tuple[Row, ...], habit: str) -> Table:
    """The rows to weigh, one under another, going on to another page rather than getting small."""
    size = min(12.0, row_mm * 1.55)
    widths = (8.0, 70.0, wide_mm - 8 - 70 - 32 - 26, 32.0, 26.0)
    reads = "the scale reads, empty cup at zero" if habit == "cumulative" else ""
    head: list[Cell] = [words("In the order of weighing", 11, "bold"), "", words(reads, 8, colour=QUIET, align="right")]
    told: list[list[Cell]] = [[*head, "", words("weighed", 8, colour=QUIET, align="right")]]
    style: list[tuple[Any, ...]] = [("SPAN", (0, 0), (1, 0)), ("SPAN", (2, 0), (3, 0))]
    before: Row | None = None
    for row in rows:
        if row.is_hardener and (before is None or not before.is_hardener):
            at = len(told)
            told.append([words(_CLOCK_STARTS, 8.5, "medium"), "", "", "", ""])
            style += [("SPAN", (0, at), (-1, at)), ("LINEABOVE", (0, at), (-1, at), 1.4, INK)]
        cup = mixture.cups[row.cup]
        is_first = before is None or before.cup != row.cup
        if is_first:
            style.append(("LINEABOVE", (0, len(told)), (-1, len(told)), 0.85, INK))
        told.append([
            tick_box(min(3.6, row_mm * 0.5)),
            _cup_cell(row, cup, size, row_mm) if is_first else "",
            words(row.what, size),
            words(row.amount, size, "bold", align="right"),
            blank_line(24),
        ])  # fmt: skip
        before = row
    style += [("ALIGN", (4, 1), (4, -1), "RIGHT"), ("LINEBELOW", (0, -1), (-1, -1), 0.85, INK)]
    return table(told, widths, heads=1, pad_mm=(row_mm - line_mm(size)) / 2, valign="MIDDLE", style=style)


def _cup_cell(row: Row, cup: CupPlan, size: float, row_mm: float) -> Table:
    """The cup's number and name beside its colour."""
    vessel = "" if row.is_hardener or cup.is_solid else f" in a {cup.vessel_ml:.0f} ml cup"
    across = min(4.4, row_mm * 0.55)
    disc = Drawing(across + 0.4, across + 0.4, lambda ink: ink.disc(across / 2, across / 2, across, cup.colour))
    named = words(f"{row.cup + 1} {cup.name}{vessel}", size, "medium")
    return table([[disc, named]], (6, 64), ruled=False, pad_mm=0, valign="MIDDLE")


def _times(wide_mm: float, plan: Plan, resin: Resin, units: Units) -> KeepTogether:
    assert plan.pace is not None
    pour = plan.job.pour
    stir = write(pour.mix_min_per_cup, Dimension.DURATION, units)
    told = (
        f"Stir each cup {stir}, pour a bar in {decimal(pour.pour_s_per_bar)} s: "
        f"{plan.pace.working_min.written(units)} in all. "
        f"By its label: {pot_life_line(resin, units)}. "
        f"Shop at {write(plan.job.batch.shop_temperature_c, Dimension.TEMPERATURE, units)}. {pouring_order(plan)}"
    )
    step = wide_mm / 4
    seen = [words(moment, 8, colour=QUIET) for moment in ("Hardener in", "Poured", "Gelled", "Out of the mould")]
    lines = [blank_line(step - 5) for _ in seen]
    return together(heading("On the clock"), words(told, after_mm=2), table([seen, lines], (step,) * 4, ruled=False))


def pouring_order(plan: Plan) -> str:
    """When each cup gets its hardener and when it is poured, in minutes of the clock."""
    pour, cups = plan.job.pour, plan.job.cast.wet
    starts = [n * pour.mix_min_per_cup for n in range(len(cups))]
    end = len(cups) * pour.mix_min_per_cup
    hardener = ", ".join(f"{cup.name} at {decimal(start)}" for cup, start in zip(cups, starts, strict=True))
    return f"Hardener: {hardener} min; pour from {decimal(end)} min."


_ELSEWHERE = ("bore.", "glue_up.", "soak.", "finish.")  # told on the cards of those stations


def cautions_of(plan: Plan) -> tuple[Caution, ...]:
    """What can hurt while resin is mixed, poured and cured; boring has a card of its own."""
    return tuple(caution for caution in plan.cautions if not caution.key.startswith(_ELSEWHERE))
