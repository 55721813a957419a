"""The cards for the saw and the glue: cut list, settings, glue-up; and the cut list as CSV.

A second person makes the same bar from them alone: every board, every cut with its two numbers, every face, every wait.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from orvek.cards.csv_table import csv_table
from orvek.cards.sheet import HAIRLINE, INK, QUIET, STOP, Sheet
from orvek.documents import CutStep, Shop, step_line
from orvek.errors import NothingToDoError
from orvek.planning import Plan, Severity, Station
from orvek.planning.glue_up.saw import CutPlan, SawCut, added_up, after_words, setting_words, under_words
from orvek.planning.words import taken_lines
from orvek.quantities import Dimension, Units, write, write_sizes

_MARGIN = 15.0
_LEAST_JOINT, _LEAST_SETTING = 14.0, 36.0  # in mm: smaller it is not read at arm's length
_FOOT_MM = 26.0
_LENGTH, _ANGLE = Dimension.LENGTH, Dimension.ANGLE
_COLUMNS = (
    *("what", "number", "name", "material", "count", "length_mm", "width_mm", "thickness_mm", "step"),
    *("stop_mm", "fence_mm", "set_deg", "set_by", "kerf_mm", "face_down", "face_at_fence", "keep"),
    *("then", "radius_mm", "centre_mm", "centre_off_axis_mm"),
)


@dataclass(frozen=True, slots=True)
class _Page:
    """A begun page: its sheet, the plan, the units, and where the next line goes."""

    sheet: Sheet
    cutting: CutPlan
    units: Units
    y: float

    @property
    def right(self) -> float:
        return float(self.sheet.width_mm - _MARGIN)


def cut_list_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What to begin with and every cut in its order.

    Raises:
        NothingToDoError: nothing is sawn or glued.
    """
    page = _begin(plan, shop, today, "Cut list")
    sheet, y = page.sheet, page.y
    bars = page.cutting.bars
    words = "To begin with" if bars == 1 else f"To begin with, for {bars} bars; every cut below is made on each"
    sheet.text(_MARGIN, y, words, 11, "bold")
    y += 5
    stock, taken = added_up(page.cutting.stock), taken_lines(plan)
    row = 6.5
    for line in taken:
        sheet.tick_box(_MARGIN, y + row * 0.7, min(3.2, row * 0.6))
        sheet.fitted(_MARGIN + 7, y + row * 0.7, line, page.right - _MARGIN - 10, min(9.5, row * 1.5))
        y += row
    for one in stock:
        y = sheet.room_for(y, row)
        sheet.tick_box(_MARGIN, y + row * 0.7, min(3.2, row * 0.6))
        sizes = write_sizes((one.length_mm, one.width_mm, one.thickness_mm), page.units)
        wood = plan.job.blank.material(one.material)
        words = f"{one.count} × {wood.name}, {one.name.lower()}: {sizes}, grain along its length"
        sheet.fitted(_MARGIN + 7, y + row * 0.7, words, page.right - _MARGIN - 10, min(9.5, row * 1.5))
        y += row
    words = f"Kerf {write(page.cutting.machine.kerf_mm, _LENGTH, page.units, 2)}"
    words += "." if plan.bars.in_hand else f"; {page.cutting.yield_pct:.0f} % of it ends in the bar."
    y = sheet.room_for(y, 30)
    sheet.text(_MARGIN, y + 4, words, 8.5, colour=QUIET)
    y = _cut_rows(page, y + 12)
    _foot(page, plan, y + 4)
    return sheet.bytes()


def settings_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """Every cut drawn to scale with the two numbers that are set.

    Raises:
        NothingToDoError: nothing is sawn.
    """
    page = _begin(plan, shop, today, "Settings")
    cuts = page.cutting.cuts
    if not cuts:
        raise NothingToDoError("A settings card", "a cut")
    room = page.sheet.height_mm - page.y - 34
    columns = 1 if len(cuts) <= 4 else 2
    tall = max(_LEAST_SETTING, min(46.0, room / math.ceil(len(cuts) / columns)))
    wide = (page.right - _MARGIN - (columns - 1) * 8) / columns
    y = page.y
    for number, cut in enumerate(cuts):
        if number and number % columns == 0:
            y += tall
        if number % columns == 0:
            y = page.sheet.room_for(y, tall)
        _setting(page, cut, number + 1, _MARGIN + (number % columns) * (wide + 8), y, wide, tall)
    _foot(page, plan, y + tall + 4)
    return page.sheet.bytes()


def glue_up_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """Every glue-up in its order: joints, faces, open time, wait.

    Raises:
        NothingToDoError: nothing is glued.
    """
    page = _begin(plan, shop, today, "Glue-up")
    sheet, y, hand = page.sheet, page.y, page.cutting.glue
    if not page.cutting.joints:
        raise NothingToDoError("A glue-up card", "a joint")
    activator = ", activator on one face and glue on the other" if hand.activator and plan.job.glue_up.activator else ""
    words = (
        f"{hand.key.capitalize()}{activator}: open for {write(hand.open_min, Dimension.DURATION)}, holds after "
        f"{write(hand.handle_min, Dimension.DURATION)}, full strength after "
        f"{write(hand.full_min, Dimension.DURATION)}. "
        f"{hand.note[:1].upper()}{hand.note[1:]}."
    )
    y = sheet.paragraph(_MARGIN, y, words, page.right - _MARGIN, 9.5) + 3
    y = (
        sheet.paragraph(
            _MARGIN,
            y,
            "Fit everything dry first; mark the faces A to D at the left end.",
            page.right - _MARGIN,
            9.5,
            "medium",
        )
        + 2
    )
    row = max(_LEAST_JOINT, min(17.0, (sheet.height_mm - y - 50) / len(page.cutting.joints)))
    for number, joint in enumerate(page.cutting.joints, 1):
        y = sheet.room_for(y, row)
        sheet.line(_MARGIN, y, page.right, y, 0.2, HAIRLINE)
        sheet.tick_box(_MARGIN, y + row * 0.38)
        words = f"{number}  Step {joint.step + 1}: {joint.what}"
        sheet.fitted(_MARGIN + 7, y + row * 0.38, words, page.right - _MARGIN - 60, min(10.5, row * 0.7), "medium")
        need, left = (write(v, Dimension.DURATION) for v in (joint.needed_min, joint.open_min))
        plural = "" if joint.joints == 1 else "s"
        sheet.text(page.right, y + row * 0.38, f"{joint.joints} joint{plural} in {need} of {left}", 9, align="right")
        wait = f"{joint.face_down} on the table; then wait {write(joint.rest_min, Dimension.DURATION)}. {joint.then}."
        sheet.fitted(_MARGIN + 7, y + row * 0.76, wait[:1].upper() + wait[1:], page.right - _MARGIN - 45, 8.5)
        sheet.text(page.right - 24, y + row * 0.76, "glued at", 7.5, colour=QUIET, align="right")
        sheet.line(page.right - 22, y + row * 0.8, page.right, y + row * 0.8, 0.15)
        y += row
    _foot(page, plan, y + 6)
    return sheet.bytes()


def cut_list_csv(plan: Plan) -> bytes:
    """Stock and cuts as CSV, lengths in mm and angles in degrees, whatever the maker's units.

    Raises:
        NothingToDoError: nothing is sawn or glued.
    """
    cutting = _cutting(plan)
    rows: list[Sequence[object]] = [_COLUMNS]
    for number, one in enumerate(added_up(cutting.stock), 1):
        rows.append(["stock", number, one.name, one.material, one.count, one.length_mm, one.width_mm, one.thickness_mm])
    for number, cut in enumerate(cutting.cuts, 1):
        stop, fence = ("" if value is None else f"{value:.3f}" for value in (cut.stop_mm, cut.fence_mm))
        settings = (stop, fence, f"{cut.set_deg:.4f}", cut.set_by, round(cut.kerf_mm, 3))
        faces = (cut.face_down, cut.face_fence, cut.keep, cut.then)
        arc = (cut.radius_mm, cut.centre_mm, cut.off_mm) if cut.radius_mm is not None else ("", "", "")
        rows.append(["cut", number, cut.title, "", cut.count, "", "", "", cut.step + 1, *settings, *faces, *arc])
    return csv_table(rows)


def _cutting(plan: Plan) -> CutPlan:
    if plan.cutting is None:
        raise NothingToDoError("A cut list", "a pen, and steps that are sawn or glued")
    return plan.cutting


def _begin(plan: Plan, shop: Shop, today: date, title: str) -> _Page:
    cutting = _cutting(plan)
    sheet = Sheet(shop.preferences.paper, f"{plan.job.batch.name} – {title.lower()}", f"Orvek job {plan.job.batch.id}")
    right = sheet.width_mm - _MARGIN
    sheet.text(_MARGIN, 19, title, 9, "medium", QUIET)
    sheet.fitted(_MARGIN, 27.5, plan.job.batch.name, right - _MARGIN, 22, "bold")
    bar = ""
    if plan.layout is not None:
        sizes = (plan.layout.length_mm, plan.layout.width_mm, plan.layout.depth_mm)
        bar = f"bar of {write_sizes(sizes, shop.preferences.units)} · "
    line = f"{bar}{cutting.machine.name} · job {plan.job.batch.id} · {today:%d %B %Y}"
    sheet.fitted(_MARGIN, 33.5, line, right - _MARGIN, 9.5)
    y = 41.0
    for finding in [f for f in plan.findings if f.severity is Severity.STOP and f.station is Station.GLUE_UP][:2]:
        y = sheet.paragraph(
            _MARGIN,
            y,
            f"{finding.severity.words}. {finding.title} {finding.because}",
            right - _MARGIN,
            9,
            "medium",
            STOP,
        )
    return _Page(sheet, cutting, shop.preferences.units, y + 3)


def _cut_rows(page: _Page, y: float) -> float:
    sheet = page.sheet
    sheet.text(
        _MARGIN, y, "Cuts, in this order. Faces A, B, C, D run round the bar; the stop is at its left end.", 9, "medium"
    )
    y += 3
    cuts = page.cutting.cuts
    for number, cut in enumerate(cuts, 1):
        under = under_words(cut, page.units)
        wide = page.right - _MARGIN - 10
        tall = 7.2 + 3.7 * sheet.lines(under, wide, 8)
        y = sheet.room_for(y, tall)
        sheet.line(_MARGIN, y, page.right, y, 0.15, HAIRLINE)
        sheet.tick_box(_MARGIN, y + 4.8)
        times = f", {cut.count} times" if cut.count > 1 else ""
        sheet.fitted(_MARGIN + 7, y + 4.8, f"{number}  Step {cut.step + 1}: {cut.title}{times}", 100, 9.5, "medium")
        sheet.text(page.right, y + 4.8, setting_words(cut, page.units), 10.5, "bold", align="right")
        sheet.paragraph(_MARGIN + 7, y + 9, under, wide, 8, colour=QUIET)
        y += tall
    return y


def _setting(page: _Page, cut: SawCut, number: int, x: float, y: float, wide: float, tall: float) -> None:
    """The bar at the fence, to scale, the blade's line across it."""
    sheet = page.sheet
    sheet.fitted(x, y + 4, f"{number}  {cut.title}", wide, 9.5, "medium")
    sheet.fitted(x, y + 9, setting_words(cut, page.units), wide, 10.5, "bold")
    scale = min((wide - 14) / cut.length_mm, (tall - 24) / cut.across_mm)
    left, foot = x + 8, y + 14 + cut.across_mm * scale
    sheet.box(left, foot - cut.across_mm * scale, cut.length_mm * scale, cut.across_mm * scale, "#EFE9DC", INK)
    sheet.box(left - 5, foot, cut.length_mm * scale + 10, 2.2, "#DDD6C6", INK)
    if cut.fence_mm is not None:
        at = foot - cut.fence_mm * scale
        sheet.line(left - 4, at, left + cut.length_mm * scale + 4, at, 0.4, STOP)
    elif cut.radius_mm is not None:
        for one, other in pairwise(_arc_points(cut)):
            ends = [(left + z * scale, foot - (q + cut.across_mm / 2) * scale) for z, q in (one, other)]
            sheet.line(*ends[0], *ends[1], 0.4, STOP)
        sheet.line(left + cut.centre_mm * scale, foot, left + cut.centre_mm * scale, foot + 2.2, 0.4, STOP)
    elif cut.stop_mm is not None:
        sheet.box(left - 4, foot - 4, 4, 4, INK)
        slope = 1 / math.tan(math.radians(cut.angle_deg)) if cut.angle_deg < 90 else 0.0
        low = left + cut.stop_mm * scale
        sheet.line(low, foot, low - slope * cut.across_mm * scale, foot - cut.across_mm * scale, 0.4, STOP)
    if cut.nearest_stop_mm is None or cut.radius_mm is not None:
        sheet.fitted(x, foot + 6.5, after_words(cut, page.units), wide, 7.5, colour=QUIET)
        return
    near = f"nearest marks {write(cut.nearest_stop_mm, _LENGTH, page.units)}"
    near += f", {write(cut.nearest_deg, _ANGLE, page.units)}" if cut.set_deg else ""
    near += f": moves the line {write(cut.cost_mm, _LENGTH, page.units, 2)}" if cut.cost_mm >= 0.005 else ""
    sheet.fitted(
        x, foot + 6.5, f"face {cut.face_down} down, {cut.face_fence} at the fence · {near}", wide, 7.5, colour=QUIET
    )


def _arc_points(cut: SawCut) -> list[tuple[float, float]]:
    """The middle of an arc's kerf inside the bar, from the left: along the bar, and up from the axis."""
    radius, off, half = cut.radius_mm or 0.0, cut.off_mm or 0.0, cut.across_mm / 2
    across = [half - 2 * half * n / 40 for n in range(41)]
    rows = [(math.sqrt(radius**2 - (off - q) ** 2), q) for q in across if abs(off - q) <= radius]
    if rows and rows[-1][1] > -half + 1e-9:
        rows.append((0.0, off - radius))  # where it turns inside the bar
    whole = [*((cut.centre_mm - z, q) for z, q in rows), *((cut.centre_mm + z, q) for z, q in reversed(rows))]
    return [(z, q) for z, q in whole if 0 <= z <= cut.length_mm]


def _foot(page: _Page, plan: Plan, y: float) -> None:
    sheet = page.sheet
    y = sheet.room_for(y, _FOOT_MM)
    sheet.text(_MARGIN, y + 3, "Take care", 10, "bold")
    y = sheet.paragraph(_MARGIN, y + 8, CutStep.caution.full, page.right - _MARGIN, 8.5)
    steps = "; ".join(
        f"{n} {step_line(step, page.units, plan.job.blank.materials)}"
        for n, step in enumerate(plan.job.blank.steps[:14], 1)
    )
    more = " …" if len(plan.job.blank.steps) > 14 else ""
    sheet.paragraph(_MARGIN, y + 1, f"The steps: {steps}{more}", page.right - _MARGIN, 7.5, colour=QUIET)
