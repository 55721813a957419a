"""The cure card: one page beside the pour card, with the times of this casting, its heat, and room for what was seen.

`cure_card(plan, forecast, shop, today)` gives the PDF; `cure_rows` the times on it, in their order.
"""

from __future__ import annotations

import itertools
import math
from datetime import date
from functools import partial

from msgspec import Struct
from reportlab.platypus import Table

from orvek.cards.bench_card import bench_card, take_care
from orvek.cards.pour_card import cautions_of
from orvek.cards.sheet import BRASS, HAIRLINE, INK, QUIET, STOP, Ink
from orvek.cards.story import Cell, Drawing, blank_line, gap, table, tick_box, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.cure.findings import answer
from orvek.planning.cure.question import clock
from orvek.planning.cure.results import Band, CureForecast
from orvek.quantities import Dimension, Units, write

_CHART_MM = 62.0
_NEVER_COMPARED = (
    "Ranges hold in 9 cases of 10, by calculation. Nobody has compared the calculation with your resin: your own "
    "cups correct it."
)
_TICKS = ((15.0, "15 min"), (60.0, "1 h"), (240.0, "4 h"), (1440.0, "1 day"), (4320.0, "3 days"), (10080.0, "7 days"))


class CureRow(Struct, frozen=True):
    """One time: when, and what is to be done or seen then."""

    after_min: float
    when: str
    what: str


def cure_rows(plan: Plan, forecast: CureForecast, units: Units) -> tuple[CureRow, ...]:
    """The times of a casting in their order: pressure, gel, layers, mould, warming, drill."""
    there = forecast.question.conditions
    rows = [CureRow(0, clock(there, 0), "Pour")]

    def add(after_min: float, what: str, band: Band | None = None) -> None:
        when = clock(there, after_min, 10)
        if band is not None:
            last = "…" if math.isinf(band.high) else clock(there, band.high, 10)
            when = f"{clock(there, band.low, 10)} to {last}"
        rows.append(CureRow(after_min, when, what))

    gel, gelled = forecast.gel_min, forecast.gelled_min
    assert gel is not None
    assert gelled is not None
    pressure = plan.job.pour.bubbles.way == "pressure"
    if pressure:
        bar = write(plan.job.pour.bubbles.pressure_bar, Dimension.PRESSURE, units)
        add(min(5.0, gel.low / 2), f"Pressure on, {bar}: before anything begins to gel")
    add(gel.best, "It gels: the first of it stops running", gel)
    if pressure and forecast.pressure_off_min is not None:
        add(forecast.pressure_off_min.best, "Pressure off, better late; let it out slowly", forecast.pressure_off_min)
    if there.layers > 1:
        add(gelled.best, f"Next layer, until {clock(there, forecast.tack_ends_min, 10)}; later scuff and wipe first")
    if forecast.demould_min is not None:
        add(forecast.demould_min.best, "Out of the mould", forecast.demould_min)
    if there.warm_c is not None:
        warm = write(there.warm_c, Dimension.TEMPERATURE, units)
        add(there.warm_after_min, f"Warm it to {warm} for {write(there.warm_min, Dimension.DURATION)}")
    if forecast.ready_min is not None:
        add(forecast.ready_min.best, "Ready to drill and turn", forecast.ready_min)
    return tuple(sorted(rows, key=lambda row: row.after_min))


def cure_card(plan: Plan, forecast: CureForecast, shop: Shop, today: date) -> bytes:
    """The cure card as a PDF on the shop's paper, one page where it fits.

    Raises:
        NothingToDoError: there is no forecast for this job.
    """
    if forecast.curve is None:
        raise NothingToDoError("A cure card", "a forecast: a mould, a resin with its pot life, and colours")
    units = shop.preferences.units
    story = bench_card(plan, shop, "Cure card", forecast.question.resin, today)
    story.add(words(str(answer(forecast)), 10.5, "medium", after_mm=3))
    story.add(_times(story.wide_mm, cure_rows(plan, forecast, units)), gap(4))
    chart = Drawing(story.wide_mm, _CHART_MM + 10, partial(_chart, forecast, units, story.wide_mm))
    story.add(chart, words(_NEVER_COMPARED, 8.5, colour=QUIET, after_mm=2))
    take_care(story, cautions_of(plan))
    return story.pdf()


def _times(wide_mm: float, rows: tuple[CureRow, ...]) -> Table:
    seen = words("what you saw", 8, colour=QUIET, align="right")
    told: list[list[Cell]] = [["", "", "", seen]]
    told += [[tick_box(), words(row.when, 9.5, "medium"), words(row.what), blank_line(30)] for row in rows]
    return table(
        told, (7, 76, wide_mm - 7 - 76 - 32, 32), heads=1, pad_mm=1.5, style=[("ALIGN", (3, 1), (3, -1), "RIGHT")]
    )


def _chart(forecast: CureForecast, units: Units, wide_mm: float, ink: Ink) -> None:
    """The hottest point over time with its range, on a time that is dense at the beginning."""
    curve = forecast.curve
    assert curve is not None
    left, right, y, foot = 14.0, wide_mm, 4.0, 4 + _CHART_MM
    lowest = float(min(curve.air_c)) - 2
    highest = float(max(curve.hottest_high_c)) + 4
    span = math.log(10080.0 / 5.0)

    def place(minutes: float, degrees: float) -> tuple[float, float]:
        part = max(0.0, min(1.0, math.log(max(minutes, 5.0) / 5.0) / span))
        return left + part * (right - left), foot - (degrees - lowest) / (highest - lowest) * (foot - y)

    for low, high, minutes in zip(curve.hottest_low_c, curve.hottest_high_c, curve.time_min, strict=True):
        x, top = place(minutes, high)
        ink.line(x, top, x, place(minutes, low)[1], 0.9, "#EBD9B4")
    points = [place(minutes, degrees) for minutes, degrees in zip(curve.time_min, curve.hottest_c, strict=True)]
    for one, other in itertools.pairwise(points):
        ink.line(*one, *other, 0.5, BRASS)
    limit = forecast.question.hottest_c
    if limit < highest:
        ink.line(left, place(5, limit)[1], right, place(5, limit)[1], 0.3, STOP)
    for minutes, told in _TICKS:
        x = place(minutes, lowest)[0]
        ink.line(x, foot, x, foot + 1.5, 0.2, INK)
        ink.text(x, foot + 5, told, 8, colour=QUIET, align="centre")
    step = 10 if highest - lowest < 60 else 20
    for degrees in range(int(lowest // step + 1) * step, int(highest), step):
        at = place(5, degrees)[1]
        ink.line(left, at, right, at, 0.1, HAIRLINE)
        ink.text(left - 2, at + 1, write(degrees, Dimension.TEMPERATURE, units, 0), 8, colour=QUIET, align="right")
    ink.line(left, foot, right, foot, 0.3, INK)
    ink.text(left, y - 1.5, "The hottest point of a bar", 8, colour=QUIET)
