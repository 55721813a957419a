"""Will it still be there? What the lathe takes away, what comes out at an end, what the bit meets.

Every judgement is made at the finished radius of each barrel, with the drift of the hole that this shop admits: a hole
that lies off the middle moves the finished barrel by as much.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from orvek.documents import JOB, CutStep, InsertStep, PlugStep, WrapStep, as_kind, path_to
from orvek.planning.bar import laid_barrels, section_at
from orvek.planning.blank.islands import islands
from orvek.planning.drift import drift_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.quantities import Dimension, write
from orvek.workpiece.lengths import reach_mm
from orvek.workpiece.outline import TurnedBarrel

_OVER_SHEET_MM = 1.0  # of clear over a wrapped sheet: workshop practice
_UNDER_COATS_MM = 0.2  # of diameter: what the clear coats of a sheet take (workshop practice)
_SEEN_ML = 0.02  # a loose piece smaller than this is dust


def wraps(plan: Plan) -> Iterator[Finding]:
    """A wrapped sheet that the tool reaches, or that has little over it."""
    units = plan.units
    drift = drift_mm(plan.shop)
    for index, step, barrels in _steps_of(plan, WrapStep):
        outer = step.core_mm / 2 + step.sheet_mm
        thin = min(_radii(barrels))
        over = thin - outer
        hole = max(barrel.hole_mm for barrel in barrels) / 2
        remedies = tuple(_kept_sheet(plan, index, step, thin, hole + drift))
        because = (
            f"The sheet's outside is at {units.mm(2 * outer, 2)}; the barrel is turned to {units.mm(2 * thin, 2)} at "
            f"its thinnest, and the hole may lie {units.mm(drift, 2)} off. {units.mm(_OVER_SHEET_MM)} of clear over it "
            "is wanted."
        )
        if over > 0 and step.covered == "coated":
            continue  # it is turned to its size before, and coats lie over it: the station Finish says how thick
        if step.covered == "cast over" and step.core_mm / 2 < hole + drift:
            surely = outer <= hole
            title = f"The {'printed sheet is bored away' if surely else 'bit may reach the printed sheet'}."
            because = (
                f"The sheet's core is {units.mm(step.core_mm, 2)} across; the hole is {units.mm(2 * hole, 2)} and may "
                f"lie {units.mm(drift, 2)} off."
            )
            yield Finding(Severity.STOP if surely else Severity.CAUTION, Station.BLANK, title, because, remedies)
            continue
        if over <= 0:
            yield Finding(Severity.STOP, Station.BLANK, "The printed sheet is removed in turning.", because, remedies)
        elif over < drift:
            yield Finding(Severity.CAUTION, Station.BLANK, "The tool may reach the printed sheet.", because, remedies)
        elif over < _OVER_SHEET_MM - 1e-6:
            yield Finding(Severity.NOTE, Station.BLANK, "There is little over the printed sheet.", because, remedies)


def _kept_sheet(plan: Plan, index: int, step: WrapStep, thin_mm: float, hole_mm: float) -> Iterator[Remedy]:
    """A core between the hole, with what it may lie off, and the finished outside; else coats instead of a casting."""
    fits = math.floor(10 * (2 * (thin_mm - _OVER_SHEET_MM - step.sheet_mm))) / 10
    if fits / 2 >= hole_mm and fits != step.core_mm:
        yield _set(index, "core_mm", fits, f"Turn the core to {plan.units.mm(fits)}")
        return
    under = math.floor(10 * 2 * (thin_mm - step.sheet_mm)) / 10 - _UNDER_COATS_MM
    if step.covered == "cast over" and under / 2 >= hole_mm:
        sheet = as_kind(WrapStep, JOB.blank.steps[index])
        edits = (Edit(path_to(sheet.covered), "coated"), Edit(path_to(sheet.core_mm), round(under, 1)))
        yield Remedy(f"Coat it instead, on a core of {plan.units.mm(under)}", edits)


def cores(plan: Plan) -> Iterator[Finding]:
    """A core that comes out at an end, or that the bit takes away whole."""
    units = plan.units
    drift = drift_mm(plan.shop)
    for index, step, barrels in _steps_of(plan, InsertStep):
        if step.form != "core":
            continue
        radius = step.diameter_mm / 2
        hole = max(barrel.hole_mm for barrel in barrels) / 2
        thin, sizes = min(_radii(barrels)), units.mm(step.diameter_mm, 2)
        if radius <= hole:
            because = f"It is {sizes} across, the hole {units.mm(2 * hole, 2)}: nothing of it is left."
            yield Finding(Severity.CAUTION, Station.BLANK, f"The core of step {index + 1} is bored away.", because)
        elif radius > thin - drift and radius < max(_radii(barrels)) + drift:
            may = "may come" if radius <= thin else "comes"
            because = (
                f"It is {sizes} across; the barrel is {units.mm(2 * thin, 2)} at its thinnest, and the hole may lie "
                f"{units.mm(drift, 2)} off. There what lies round it is gone."
            )
            fits = math.floor(10 * 2 * (thin - drift)) / 10
            remedies = (_set(index, "diameter_mm", fits, f"Make the core {units.mm(fits)}"),) if fits > 2 * hole else ()
            title = f"The core of step {index + 1} {may} out at an end."
            yield Finding(Severity.CAUTION, Station.BLANK, title, because, remedies)


def rods(plan: Plan) -> Iterator[Finding]:
    """Rods and fillings along the bar that are turned away, bored away, or cut open by the bit."""
    units = plan.units
    for index, step, barrels in (*_steps_of(plan, InsertStep), *_steps_of(plan, PlugStep)):
        if isinstance(step, InsertStep):
            if step.form != "rods":
                continue
            ring, what = step.ring_mm, "The rods"
        elif step.way == "along":
            ring, what = abs(step.offset_mm), "The filling"
        else:
            continue
        low, high = ring - step.diameter_mm / 2, ring + step.diameter_mm / 2
        thick, hole = max(_radii(barrels)), max(barrel.hole_mm for barrel in barrels) / 2
        are, lie = ("are", "They lie") if what == "The rods" else ("is", "It lies")
        spans = f"from {units.mm(max(low, 0), 2)} to {units.mm(high, 2)} off the axis"
        if low >= thick:
            because = f"{lie} {spans}; the thickest barrel ends at {units.mm(thick, 2)}."
            yield Finding(
                Severity.CAUTION, Station.BLANK, f"{what} of step {index + 1} {are} removed in turning.", because
            )
        elif high <= hole:
            because = f"{lie} {spans}; the hole reaches to {units.mm(hole, 2)}."
            yield Finding(Severity.CAUTION, Station.BLANK, f"{what} of step {index + 1} {are} bored away.", because)


def tabs(plan: Plan) -> Iterator[Finding]:
    """Tabs that stay inside the finished barrel: every loop is open there."""
    units = plan.units
    for index, step, barrels in _steps_of(plan, CutStep):
        if step.tab_mm <= 0:
            continue
        width, depth, is_round = section_at(plan, index)
        half = reach_mm(width, depth, step.azimuth_deg, is_round=is_round)
        thick = max(_radii(barrels))
        most = half - thick
        if step.tab_mm <= most:
            continue
        closes = math.floor(10 * (most - drift_mm(plan.shop))) / 10
        because = (
            f"{units.mm(step.tab_mm)} is left uncut and {units.mm(most)} is removed in turning there: the sheet ends "
            f"{units.mm(step.tab_mm - most)} inside the finished barrel, and the loop does not close."
        )
        remedies = (_set(index, "tab_mm", closes, f"Leave a tab of {units.mm(closes)}"),) if closes >= 0.3 else ()
        title = f"The tab of step {index + 1} stays in the barrel."
        yield Finding(Severity.CAUTION, Station.BLANK, title, because, remedies)


def loose(plan: Plan) -> Iterator[Finding]:
    """Resin that hangs on nothing else in the finished shell of a natural edge."""
    units = plan.units
    edge = any(isinstance(step, InsertStep) and step.form == "edge" for step in plan.job.blank.steps)
    if not edge or plan.layout is None or plan.job.pen is None:
        return
    found = [one for one in islands(plan.job, plan.layout) if one.volume_ml >= _SEEN_ML]
    if not found:
        return
    places = ", ".join(
        f"{write(one.volume_ml, Dimension.VOLUME, units, 2)} of {one.material.lower()} at {units.mm(one.at_mm, 0)}"
        for one in found[:3]
    )
    because = (
        f"About {places} of the bar {'is' if len(found) == 1 else 'are'} held by the bond alone. Seal the edge before "
        "the pour, cut lightly there, thin glue into the joint first."
    )
    count = "A piece hangs" if len(found) == 1 else f"{len(found)} pieces hang"
    yield Finding(Severity.NOTE, Station.BLANK, f"{count} by the bond alone.", because)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (wraps, cores, rods, tabs, loose)


def _steps_of(plan: Plan, kind: type[Any]) -> Iterator[tuple[int, Any, tuple[TurnedBarrel, ...]]]:
    """Steps of a kind with the barrels that are turned from the bar; nothing without a pen."""
    if plan.layout is None or plan.job.pen is None:
        return
    barrels = laid_barrels(plan.job, plan.layout)
    for index, step in enumerate(plan.job.blank.steps):
        if isinstance(step, kind):
            yield index, step, barrels


def _radii(barrels: tuple[TurnedBarrel, ...]) -> tuple[float, ...]:
    return tuple(value / 2 for barrel in barrels for _, value in barrel.profile)


def _set(index: int, field: str, value: float, label: str) -> Remedy:
    return Remedy(label, (Edit((*path_to(JOB.blank.steps[index]), field), value),))
