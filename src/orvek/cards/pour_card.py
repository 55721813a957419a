"""The pour card: everything that is needed at the scale, in the order of weighing; on one page where it fits.

What is weighed is never printed smaller than 11 points: many cups and colours go on to another page.

`pour_card(plan, shop, today)` gives the PDF. Its figures are the plan's, written as the screen writes them.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from io import BytesIO
from itertools import accumulate

from orvek.cards.sheet import BRASS, HAIRLINE, INK, QUIET, STOP, Sheet
from orvek.documents import BarMould, InsertStep, LoafMould, Mould, Resin, Shop
from orvek.errors import NothingToDoError
from orvek.planning import CupPlan, MixturePlan, Plan, Severity
from orvek.planning.history import expected_pct
from orvek.planning.results import Caution
from orvek.planning.words import bars_line, dose_name, mould_size, pot_life_line, ratio_line, weighed
from orvek.quantities import Dimension, Units, decimal, write

_MARGIN = 15.0
_QR = 24.0
_LARGEST_ROW, _LEAST_ROW = 9.0, 7.3  # in mm: the least makes 11 points
_TIMES_MM = 34.0
_SKETCH_PIXELS = 360  # along the bar: five to the millimetre of paper


@dataclass(frozen=True, slots=True)
class Row:
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
    job, resin, mould = plan.job, plan.job.pour.resin, plan.job.pour.mould
    assert resin is not None
    assert mould is not None
    sheet = Sheet(shop.preferences.paper, f"{job.batch.name} – pour card", f"Orvek job {job.batch.id}")
    y = _heading(sheet, plan, today)
    y = _stops(sheet, plan, y)
    y = _mould_and_resin(sheet, y, plan, mixture, mould, resin, units)
    foot = sheet.height_mm - _MARGIN - _cautions_height(plan) - 44
    y = _weighing(sheet, y + 2, foot, mixture, weighing_rows(plan, units), job.pour.weighing)
    y = _times(sheet, sheet.room_for(y + 5, _TIMES_MM), plan, resin, units)
    _cautions(sheet, sheet.room_for(y + 4, _cautions_height(plan)), plan)
    return sheet.bytes()


def _mixture(plan: Plan) -> MixturePlan:
    if plan.mixture is None or plan.mixture.mass_g is None or not plan.mixture.cups:
        missing = "a mould" if plan.job.pour.mould is None else "a resin" if plan.job.pour.resin is None else "a colour"
        raise NothingToDoError("A pour card", missing)
    return plan.mixture


def _heading(sheet: Sheet, plan: Plan, today: date) -> float:
    batch, right = plan.job.batch, sheet.width_mm - _MARGIN
    sheet.text(_MARGIN, 19, "Pour card", 9, "medium", QUIET)
    sheet.fitted(_MARGIN, 27.5, batch.name, right - _MARGIN - _QR - 8, 22, "bold")
    pen = f"{plan.job.pen.name} · " if plan.job.pen else ""
    wanted = f"{batch.pens_wanted} good pen{'' if batch.pens_wanted == 1 else 's'} wanted"
    spoilt = decimal(round(expected_pct(plan.job, plan.shop.ledger), 1))
    line = f"{pen}{wanted}, {spoilt} % expected to spoil · {bars_line(plan.bars)}"
    sheet.fitted(_MARGIN, 33.5, line, right - _MARGIN - _QR - 8, 9.5)
    sheet.text(_MARGIN, 38.5, f"Job {batch.id} · {today:%d %B %Y} · figures for one casting", 8, colour=QUIET)
    sheet.qr(right - _QR, 14, _QR, f"orvek:job:{batch.id}")
    return 43


def _stops(sheet: Sheet, plan: Plan, y: float) -> float:
    """What forbids pouring stands above everything else."""
    for finding in [f for f in plan.findings if f.severity is Severity.STOP][:3]:
        width = sheet.width_mm - 2 * _MARGIN - 4
        top = y
        y = sheet.paragraph(
            _MARGIN + 4, y, f"{finding.severity.words}. {finding.title} {finding.because}", width, 9, "medium", STOP
        )
        sheet.line(_MARGIN + 1, top - 3, _MARGIN + 1, y - 3.5, 0.8, STOP)
    return y


def _mould_and_resin(
    sheet: Sheet, y: float, plan: Plan, mixture: MixturePlan, mould: Mould, resin: Resin, units: Units
) -> float:
    sheet.line(_MARGIN, y, sheet.width_mm - _MARGIN, y)
    left = 78.0
    _mould_sketch(sheet, _MARGIN, y + 9, left - 6, 42, plan, mould)
    sheet.text(_MARGIN, y + 5.5, mould.name, 9.5, "medium")
    sheet.text(
        _MARGIN,
        y + 56,
        f"{mould_size(mould, units)} · {mixture.mould_ml.written(units)} · colours by share",
        8,
        colour=QUIET,
    )
    assert mixture.mass_g is not None
    assert mixture.ratio is not None
    facts = (
        ("Resin", resin.name),
        ("Mix", f"{ratio_line(resin)} · B is {decimal(100 * mixture.ratio.value, 1)} % of A by mass"),
        ("Pour", f"{mixture.volume_ml.written(units)} with {decimal(plan.job.pour.overage_pct)} % overage"),
        ("Weigh in all", f"{mixture.mass_g.written(units)}, {decimal(plan.job.pour.cup_residue_g)} g left in each cup"),
        (
            "Scale",
            f"{plan.job.pour.scale.name}, {decimal(plan.job.pour.scale.resolution_g)} g steps, {_weighing_habit(plan)}",
        ),
    )
    x, width = _MARGIN + left, sheet.width_mm - 2 * _MARGIN - left
    for n, (word, fact) in enumerate(facts):
        baseline = y + 8 + n * 10.5
        sheet.text(x, baseline, word, 8, colour=QUIET)
        sheet.fitted(x + 22, baseline, fact, width - 22, 9.5, "medium")
        sheet.line(x, baseline + 2.6, x + width, baseline + 2.6)
    return y + 60


def _weighing_habit(plan: Plan) -> str:
    return "tare before each part" if plan.job.pour.weighing == "tared" else "running sum, no tare"


def _mould_sketch(sheet: Sheet, x: float, y: float, width: float, height: float, plan: Plan, mould: Mould) -> None:
    """The mould from above, to scale, the cavities of this casting filled in the cups' colours by share."""
    count = 1 if isinstance(mould, LoafMould) else mould.cavities
    across = mould.width_mm if isinstance(mould, BarMould | LoafMould) else mould.diameter_mm
    wall = 4.0
    scale = min(width / (mould.length_mm + 2 * wall), height / (count * (across + wall) + wall))
    sheet.box(x, y, (mould.length_mm + 2 * wall) * scale, (count * (across + wall) + wall) * scale, "#E9E4D8", INK)
    filled = 1 if isinstance(mould, LoafMould) else plan.bars.bars_per_casting
    cups = plan.mixture.cups if plan.mixture else ()
    lying = _with_wood(plan)
    for n in range(count):
        left, top = x + wall * scale, y + (wall + n * (across + wall)) * scale
        if lying is not None and n < filled:
            sheet.picture(left, top, mould.length_mm * scale, across * scale, BytesIO(lying))
            continue
        for cup, start, end in _stripes(cups if n < filled else ()):
            at, tall = top + start * across * scale, (end - start) * across * scale
            sheet.box(left, at, mould.length_mm * scale, tall, cup.colour, None)
        sheet.box(left, top, mould.length_mm * scale, across * scale, colour=BRASS if n < filled else HAIRLINE)


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


def _weighing(sheet: Sheet, y: float, foot: float, mixture: MixturePlan, rows: tuple[Row, ...], habit: str) -> float:
    """The rows to weigh, one under another, going on to another page rather than getting small."""
    y = _weighing_head(sheet, y, habit)
    fitting = (foot - y) / (len(rows) + 1)
    row_mm = min(_LARGEST_ROW, fitting) if fitting >= _LEAST_ROW else _LARGEST_ROW
    size = min(12.0, row_mm * 1.55)
    right = sheet.width_mm - _MARGIN
    hardener_from = next(n for n, row in enumerate(rows) if row.is_hardener)
    for n, row in enumerate(rows):
        at = sheet.room_for(y, row_mm * (2 if n == hardener_from else 1))
        is_turned = at < y
        y = _weighing_head(sheet, at, habit) if is_turned else at
        if n == hardener_from:
            sheet.line(_MARGIN, y, right, y, 0.5, INK)
            words = "The clock starts here: hardener into each cup, then stir to the corners, scrape and stir again."
            sheet.text(_MARGIN, y + row_mm * 0.68, words, 8.5, "medium")
            y += row_mm
        named = is_turned or n == 0 or rows[n - 1].cup != row.cup
        _weighing_row(sheet, y, row_mm, size, row, mixture.cups[row.cup], named)
        y += row_mm
    sheet.line(_MARGIN, y, right, y, 0.3, INK)
    return y


def _weighing_head(sheet: Sheet, y: float, habit: str) -> float:
    sheet.text(_MARGIN, y + 2, "In the order of weighing", 11, "bold")
    right = sheet.width_mm - _MARGIN
    if habit == "cumulative":
        sheet.text(right - 32, y + 2, "the scale reads, empty cup at zero", 8, colour=QUIET, align="right")
    sheet.text(right, y + 2, "weighed", 8, colour=QUIET, align="right")
    return y + 4.5


def _weighing_row(sheet: Sheet, y: float, row_mm: float, size: float, row: Row, cup: CupPlan, first: bool) -> None:
    right, baseline = sheet.width_mm - _MARGIN, y + row_mm * 0.68
    sheet.line(_MARGIN, y, right, y, 0.3 if first else 0.15, INK if first else HAIRLINE)
    sheet.tick_box(_MARGIN, baseline, min(3.6, row_mm * 0.5))
    if first:
        sheet.disc(_MARGIN + 9, baseline - size * 0.11, min(4.4, row_mm * 0.55), cup.colour)
        vessel = "" if row.is_hardener or cup.is_solid else f" in a {cup.vessel_ml:.0f} ml cup"
        sheet.fitted(_MARGIN + 13, baseline, f"{row.cup + 1}  {cup.name}{vessel}", 58, size, "medium")
    sheet.fitted(_MARGIN + 76, baseline, row.what, 56, size)
    sheet.text(right - 32, baseline, row.amount, size, "bold", align="right")
    sheet.line(right - 24, baseline + 0.8, right, baseline + 0.8, 0.15)


def _times(sheet: Sheet, y: float, plan: Plan, resin: Resin, units: Units) -> float:
    assert plan.pace is not None
    pour = plan.job.pour
    sheet.text(_MARGIN, y + 2, "On the clock", 11, "bold")
    stir = write(pour.mix_min_per_cup, Dimension.DURATION, units)
    words = (
        f"Stir each cup {stir}, pour a bar in {decimal(pour.pour_s_per_bar)} s: "
        f"{plan.pace.working_min.written(units)} in all. "
        f"Pot life on the label: {pot_life_line(resin, units)}. "
        f"Shop at {write(plan.job.batch.shop_temperature_c, Dimension.TEMPERATURE, units)}."
    )
    words = f"{words} {pouring_order(plan)}"
    y = sheet.paragraph(_MARGIN, y + 7.5, words, sheet.width_mm - 2 * _MARGIN, 9.5)
    step = (sheet.width_mm - 2 * _MARGIN) / 4
    for n, word in enumerate(("Hardener in", "Poured", "Gelled", "Out of the mould")):
        sheet.text(_MARGIN + n * step, y + 4, word, 8, colour=QUIET)
        sheet.line(_MARGIN + n * step, y + 10, _MARGIN + (n + 1) * step - 5, y + 10)
    return y + 14


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


def _cautions_height(plan: Plan) -> float:
    return 7 + 8.6 * len(cautions_of(plan))


def _cautions(sheet: Sheet, y: float, plan: Plan) -> None:
    sheet.text(_MARGIN, y + 2, "Take care", 11, "bold")
    y += 7.2
    for caution in cautions_of(plan):
        sheet.text(_MARGIN, y, "–", 8.5)
        y = sheet.paragraph(_MARGIN + 3.5, y, caution.words, sheet.width_mm - 2 * _MARGIN - 4, 8.5) + 0.7
