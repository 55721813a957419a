"""The cards for the saw and the glue: cut list, settings, glue-up; and the cut list as CSV.

A second person makes the same bar from them alone: every board, every cut with its two numbers, every face, every wait.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date
from functools import partial
from itertools import pairwise

from reportlab.platypus import Table

from orvek.cards.bench_card import bench_card, cautions_at, stops, take_care
from orvek.cards.csv_table import csv_table
from orvek.cards.sheet import INK, QUIET, STOP, Ink
from orvek.cards.story import Cell, Drawing, Story, blank_line, gap, table, tick_box, ticked, words
from orvek.documents import Shop, step_line
from orvek.errors import NothingToDoError
from orvek.planning import Plan, Station
from orvek.planning.glue_up.saw import (
    CutPlan,
    GlueJoint,
    SawCut,
    Stock,
    added_up,
    after_words,
    setting_words,
    under_words,
)
from orvek.planning.words import taken_lines
from orvek.quantities import Dimension, Units, write, write_sizes

_LEAST_SETTING = 36.0  # in mm: smaller it is not read at arm's length
_ROOM_MM = 200.0  # for settings on a page, about
_LENGTH, _ANGLE = Dimension.LENGTH, Dimension.ANGLE
_COLUMNS = (
    *("what", "number", "name", "material", "count", "length_mm", "width_mm", "thickness_mm", "step"),
    *("stop_mm", "fence_mm", "set_deg", "set_by", "kerf_mm", "face_down", "face_at_fence", "keep"),
    *("then", "radius_mm", "centre_mm", "centre_off_axis_mm"),
)


def cut_list_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """What to begin with and every cut in its order.

    Raises:
        NothingToDoError: nothing is sawn or glued.
    """
    story, cutting, units = _begin(plan, shop, today, "Cut list")
    bars = cutting.bars
    title = "To begin with" if bars == 1 else f"To begin with, for {bars} bars; every cut below is made on each"
    ticked(story, title, [*taken_lines(plan), *(_stock_line(one, plan, units) for one in added_up(cutting.stock))])
    kerf = f"Kerf {write(cutting.machine.kerf_mm, _LENGTH, units, 2)}"
    kerf += "." if plan.bars.in_hand else f"; {cutting.yield_pct:.0f} % of it ends in the bar."
    story.add(words(kerf, 8.5, colour=QUIET, after_mm=3))
    if cutting.cuts:
        story.add(_cut_rows(story.wide_mm, cutting, units), gap(3))
    _foot(story, plan, units)
    return story.pdf()


def settings_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """Every cut drawn to scale with the two numbers that are set.

    Raises:
        NothingToDoError: nothing is sawn.
    """
    story, cutting, units = _begin(plan, shop, today, "Settings")
    cuts = cutting.cuts
    if not cuts:
        raise NothingToDoError("A settings card", "a cut")
    columns = 1 if len(cuts) <= 4 else 2
    tall = max(_LEAST_SETTING, min(46.0, _ROOM_MM / math.ceil(len(cuts) / columns)))
    wide = (story.wide_mm - (columns - 1) * 8) / columns
    drawn = [Drawing(wide, tall, partial(_setting, cut, n, wide, tall, units)) for n, cut in enumerate(cuts, 1)]
    rows = [
        drawn[n : n + columns] + [""] * (columns - len(drawn[n : n + columns])) for n in range(0, len(cuts), columns)
    ]
    story.add(table(rows, [wide + 8] * (columns - 1) + [wide], ruled=False, pad_mm=0), gap(4))
    _foot(story, plan, units)
    return story.pdf()


def glue_up_card(plan: Plan, shop: Shop, today: date) -> bytes:
    """Every glue-up in its order: joints, faces, open time, wait.

    Raises:
        NothingToDoError: nothing is glued.
    """
    story, cutting, units = _begin(plan, shop, today, "Glue-up")
    glue = cutting.glue
    if not cutting.joints:
        raise NothingToDoError("A glue-up card", "a joint")
    activator = ", activator on one face and glue on the other" if glue.activator and plan.job.glue_up.activator else ""
    told = (
        f"{glue.key.capitalize()}{activator}: open for {write(glue.open_min, Dimension.DURATION)}, holds after "
        f"{write(glue.handle_min, Dimension.DURATION)}, full strength after "
        f"{write(glue.full_min, Dimension.DURATION)}. "
        f"{glue.note[:1].upper()}{glue.note[1:]}."
    )
    story.add(words(told, after_mm=2))
    story.add(words("Fit everything dry first; mark the faces A to D at the left end.", weight="medium", after_mm=2))
    right = 52.0
    rows = [[tick_box(), *_joint_cells(number, joint, right)] for number, joint in enumerate(cutting.joints, 1)]
    story.add(table(rows, (7, story.wide_mm - 7 - right, right), pad_mm=1.4), gap(4))
    _foot(story, plan, units)
    return story.pdf()


def _stock_line(one: Stock, plan: Plan, units: Units) -> str:
    sizes = write_sizes((one.length_mm, one.width_mm, one.thickness_mm), units)
    wood = plan.job.blank.material(one.material)
    return f"{one.count} × {wood.name}, {one.name.lower()}: {sizes}, grain along its length"


def _joint_cells(number: int, joint: GlueJoint, right_mm: float) -> list[Cell]:
    """What is glued and how long it rests; how long there is for it, and a line for the time."""
    need, left = (write(v, Dimension.DURATION) for v in (joint.needed_min, joint.open_min))
    wait = f"{joint.face_down} on the table; then wait {write(joint.rest_min, Dimension.DURATION)}. {joint.then}."
    what = [words(f"{number} · Step {joint.step + 1}: {joint.what}", 10.5, "medium", after_mm=0.8)]
    plural = "" if joint.joints == 1 else "s"
    time = words(f"{joint.joints} joint{plural} in {need} of {left}", 9, align="right")
    glued = table(
        [[words("glued at", 7.5, colour=QUIET, align="right"), blank_line(22)]], (right_mm - 24, 24), ruled=False
    )
    return [[*what, words(wait[:1].upper() + wait[1:], 8.5)], [time, glued]]


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
    if plan.glue_up is None:
        raise NothingToDoError("A cut list", "a pen, and steps that are sawn or glued")
    return plan.glue_up


def _begin(plan: Plan, shop: Shop, today: date, title: str) -> tuple[Story, CutPlan, Units]:
    cutting, units = _cutting(plan), shop.preferences.units
    bar = ""
    if plan.layout is not None:
        sizes = (plan.layout.length_mm, plan.layout.width_mm, plan.layout.depth_mm)
        bar = f"bar of {write_sizes(sizes, units)} · "
    story = bench_card(plan, shop, title, f"{bar}{cutting.machine.name}", today)
    stops(story, plan, Station.GLUE_UP)
    return story, cutting, units


def _cut_rows(wide_mm: float, cutting: CutPlan, units: Units) -> Table:
    """A row a cut: its number and name, what is set, and under it how the bar lies."""
    title = "Cuts, in this order. Faces A, B, C, D run round the bar; the stop is at its left end."
    rows: list[list[Cell]] = [[words(title, 9, "medium"), "", ""]]
    set_mm = 62.0
    for number, cut in enumerate(cutting.cuts, 1):
        times = f", {cut.count} times" if cut.count > 1 else ""
        what = words(f"{number} · Step {cut.step + 1}: {cut.title}{times}", 9.5, "medium", after_mm=0.6)
        under = words(under_words(cut, units), 8, colour=QUIET)
        rows.append([tick_box(), [what, under], words(setting_words(cut, units), 10.5, "bold", align="right")])
    widths = (7, wide_mm - 7 - set_mm, set_mm)
    return table(rows, widths, heads=1, pad_mm=0.8, style=[("SPAN", (0, 0), (-1, 0))])


def _setting(cut: SawCut, number: int, wide: float, tall: float, units: Units, ink: Ink) -> None:
    """The bar at the fence, to scale, the blade's line across it."""
    ink.fitted(0, 4, f"{number}  {cut.title}", wide, 9.5, "medium")
    ink.fitted(0, 9, setting_words(cut, units), wide, 10.5, "bold")
    scale = min((wide - 14) / cut.length_mm, (tall - 28) / cut.across_mm)
    left, foot = 8.0, 14 + cut.across_mm * scale
    ink.box(left, foot - cut.across_mm * scale, cut.length_mm * scale, cut.across_mm * scale, "#EFE9DC", INK)
    ink.box(left - 5, foot, cut.length_mm * scale + 10, 2.2, "#DDD6C6", INK)
    if cut.fence_mm is not None:
        at = foot - cut.fence_mm * scale
        ink.line(left - 4, at, left + cut.length_mm * scale + 4, at, 0.4, STOP)
    elif cut.radius_mm is not None:
        for one, other in pairwise(_arc_points(cut)):
            ends = [(left + z * scale, foot - (q + cut.across_mm / 2) * scale) for z, q in (one, other)]
            ink.line(*ends[0], *ends[1], 0.4, STOP)
        ink.line(left + cut.centre_mm * scale, foot, left + cut.centre_mm * scale, foot + 2.2, 0.4, STOP)
    elif cut.stop_mm is not None:
        ink.box(left - 4, foot - 4, 4, 4, INK)
        slope = 1 / math.tan(math.radians(cut.angle_deg)) if cut.angle_deg < 90 else 0.0
        low = left + cut.stop_mm * scale
        ink.line(low, foot, low - slope * cut.across_mm * scale, foot - cut.across_mm * scale, 0.4, STOP)
    if cut.nearest_stop_mm is None or cut.radius_mm is not None:
        ink.fitted(0, foot + 6.5, after_words(cut, units), wide, 8.5, colour=QUIET)
        return
    near = f"nearest marks {write(cut.nearest_stop_mm, _LENGTH, units)}"
    near += f", {write(cut.nearest_deg, _ANGLE, units)}" if cut.set_deg else ""
    near += f": moves the line {write(cut.cost_mm, _LENGTH, units, 2)}" if cut.cost_mm >= 0.005 else ""
    ink.fitted(0, foot + 6.5, f"face {cut.face_down} down, {cut.face_fence} at the fence", wide, 8.5)
    ink.fitted(0, foot + 10.5, near, wide, 8.5, colour=QUIET)


def _arc_points(cut: SawCut) -> list[tuple[float, float]]:
    """The middle of an arc's kerf inside the bar, from the left: along the bar, and up from the axis."""
    radius, off, half = cut.radius_mm or 0.0, cut.off_mm or 0.0, cut.across_mm / 2
    across = [half - 2 * half * n / 40 for n in range(41)]
    rows = [(math.sqrt(radius**2 - (off - q) ** 2), q) for q in across if abs(off - q) <= radius]
    if rows and rows[-1][1] > -half + 1e-9:
        rows.append((0.0, off - radius))  # where it turns inside the bar
    whole = [*((cut.centre_mm - z, q) for z, q in rows), *((cut.centre_mm + z, q) for z, q in reversed(rows))]
    return [(z, q) for z, q in whole if 0 <= z <= cut.length_mm]


def _foot(story: Story, plan: Plan, units: Units) -> None:
    """What to take care of, and the steps for whoever did not draw the bar."""
    steps = "; ".join(
        f"{n} {step_line(step, units, plan.job.blank.materials)}" for n, step in enumerate(plan.job.blank.steps[:14], 1)
    )
    more = " …" if len(plan.job.blank.steps) > 14 else ""
    take_care(story, cautions_at(plan, "glue_up"))
    story.add(gap(1.5), words(f"The steps: {steps}{more}", 7.5, colour=QUIET))
