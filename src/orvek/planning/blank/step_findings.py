"""What is to be said about single steps: cuts that miss, arcs too deep, staves that leave a hole, a saw that eats."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from msgspec.structs import replace

from orvek.craft.segmenting import ArcCut
from orvek.documents import (
    JOB,
    ArcStep,
    CutStep,
    DyeStep,
    InsertStep,
    SliceStep,
    StavesStep,
    WrapStep,
    material_keys,
    materials,
    missing_stock,
    path_to,
)
from orvek.documents.steps import STOCK_STEPS
from orvek.planning.bar import bar_size, widest_radius_mm
from orvek.planning.bars import blank_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.workpiece.lengths import lengths_mm, sheet_mm, starts_mm, staves_hole_mm

_ARC_DEEP_MM = 1.0  # an arc that goes so deep into the finished barrel is seen well (a choice)


def misses(plan: Plan) -> Iterator[Finding]:
    """Cuts and arcs that do not meet the bar at all."""
    units = plan.units
    width, depth, length, _ = bar_size(plan.layout)
    long = starts_mm(plan.job.blank.steps, length)
    for index, step in enumerate(plan.job.blank.steps):
        if isinstance(step, CutStep):
            reach = min(width, depth) / 2 / math.tan(math.radians(step.angle_deg))
        elif isinstance(step, ArcStep):
            reach = ArcCut(step.radius_mm, step.distance_mm, sheet_mm(step)).reach_mm(width / 2)
        else:
            continue
        edge_mm = math.hypot(width, depth) / 2
        if isinstance(step, ArcStep) and step.distance_mm - step.radius_mm > edge_mm:
            nearest = units.mm(step.distance_mm - step.radius_mm)
            because = f"It comes to {nearest} from the axis, and the bar's edges lie {units.mm(edge_mm)} from it."
            # its centre stays outside the bar
            nearer = round(max(edge_mm + 1, step.radius_mm + widest_radius_mm(plan.job) - _ARC_DEEP_MM), 1)
            remedy = _set(index, "distance_mm", nearer, f"Move its centre in to {units.mm(nearer)}")
        elif step.centre_mm + reach < 0 or step.centre_mm - reach > long[index]:
            because = (
                f"The arc's middle is at {units.mm(step.centre_mm)}; the bar is {units.mm(long[index])} long there."
            )
            remedy = _set(index, "centre_mm", round(long[index] / 2, 1), f"Put it at {units.mm(long[index] / 2)}")
        else:
            continue
        found = _caution(f"Step {index + 1} does not meet the bar.", because, remedy)
        yield replace(found, place=str(index + 1), many="Steps {} do not meet the bar.")


def deep_arcs(plan: Plan) -> Iterator[Finding]:
    """Arcs whose centre lies inside the bar, or that reach the hole on the finished barrel."""
    units = plan.units
    holes = [barrel.bit_diameter_mm / 2 for barrel in plan.job.pen.barrels] if plan.job.pen else []
    width, depth, _, _ = bar_size(plan.layout)
    for index, step in enumerate(plan.job.blank.steps):
        if not isinstance(step, ArcStep):
            continue
        radius, arc = widest_radius_mm(plan.job), ArcCut(step.radius_mm, step.distance_mm, sheet_mm(step))
        if step.distance_mm < math.hypot(width, depth) / 2:
            because = (
                f"It lies {units.mm(step.distance_mm)} from the axis, inside the bar: the saw cannot follow it, "
                "and the two sides of the cut are no longer two pieces."
            )
            out = math.ceil(math.hypot(width, depth) / 2 + 1)
            remedy = _set(index, "distance_mm", float(out), f"Move its centre out to {units.mm(out)}")
            found = _caution(f"The centre of the arc of step {index + 1} is inside the bar.", because, remedy)
            yield replace(found, place=str(index + 1), many="The centres of the arcs of steps {} are inside the bar.")
        elif holes and arc.depth_mm(radius) > radius - min(holes) + 1e-6:
            wall = radius - min(holes)
            further = math.ceil((step.distance_mm + arc.depth_mm(radius) - 0.8 * wall) * 10) / 10
            because = (
                f"On the finished barrel it goes {units.mm(arc.depth_mm(radius))} deep over a wall of "
                f"{units.mm(wall)}; what stays above it holds by the glue on the tube alone."
            )
            remedy = _set(index, "distance_mm", further, f"Move its centre out to {units.mm(further)}")
            title, many = f"The arc of step {index + 1} reaches the tube.", "The arcs of steps {} reach the tube."
            yield Finding(Severity.NOTE, Station.BLANK, title, because, remedy, place=str(index + 1), many=many)


def hollow_staves(plan: Plan) -> Iterator[Finding]:
    """Staves too thin to meet, around nothing, with a hole wider than the bit takes away."""
    units = plan.units
    width, _, length, _ = bar_size(plan.layout)
    bits = [barrel.bit_diameter_mm for barrel in plan.job.pen.barrels] if plan.job.pen else [0.0]
    for index, step in enumerate(plan.job.blank.steps):
        if not isinstance(step, StavesStep) or step.inside != "air":
            continue
        hole = staves_hole_mm(step, width)
        widest = hole + abs(math.tan(math.radians(step.taper_deg))) * length / 2 if hole > 0 else 0.0
        across = 2 * widest / math.cos(math.pi / step.count)
        if widest <= 0 or across <= min(bits):
            continue
        wanted = math.ceil((step.thickness_mm + (across - min(bits)) / 2 + 0.5) * 2) / 2
        because = (
            f"{step.count} staves {units.mm(step.thickness_mm)} thick leave {units.mm(across)} open, and the bit takes "
            f"only {units.mm(min(bits))}: the tube would touch the staves nowhere."
        )
        remedy = _set(index, "thickness_mm", wanted, f"Use staves of {units.mm(wanted)}")
        title = f"The staves of step {index + 1} leave a hole wider than the bore."
        yield Finding(Severity.STOP, Station.BLANK, title, because, remedy)


def no_picture(plan: Plan) -> Iterator[Finding]:
    """A sheet printed with a picture that has not been chosen."""
    for index, step in enumerate(plan.job.blank.steps):
        if isinstance(step, WrapStep) and step.pattern == "picture" and step.artwork is None:
            because = "Choose a picture file at the step; until then bands are drawn."
            yield Finding(Severity.NOTE, Station.BLANK, f"Step {index + 1} has no picture yet.", because)


def eaten(plan: Plan) -> Iterator[Finding]:
    """What slicing takes from a cast bar."""
    units = plan.units
    start = blank_mm(plan.bars, plan.job.blank.saw_kerf_mm)
    steps = plan.job.blank.steps
    if start is None or not any(isinstance(step, SliceStep) for step in steps):
        return
    end = lengths_mm(steps, start)[-1]
    if start - end > 1:
        because = (
            f"Every cut takes its kerf and gives back only its glue line: {units.mm(start)} become {units.mm(end)}."
        )
        yield Finding(Severity.NOTE, Station.BLANK, f"The saw shortens the bar by {units.mm(start - end)}.", because)


def crowded(plan: Plan) -> Iterator[Finding]:
    """More looks in one bar than the pictures can tell apart."""
    steps = plan.job.blank.steps
    if missing_stock(steps) or sum(isinstance(step, DyeStep | WrapStep) for step in steps) < _MANY:
        return
    from orvek.workpiece.compiling import compiled  # NumPy comes along: only where it is needed
    from orvek.workpiece.program import MOST_MATERIALS

    if compiled(steps, *bar_size(plan.layout), plan.job.blank.materials).is_crowded:
        because = (
            f"Every dye gives each wood one look more, and the pictures tell {MOST_MATERIALS} apart: beyond that a "
            "look is drawn as the one most like it. Sizes, cuts and volumes of the bar stand."
        )
        yield Finding(Severity.NOTE, Station.BLANK, "Some colours are drawn alike.", because)


def second_stock(plan: Plan) -> Iterator[Finding]:
    """A bar that would begin once more: it is neither drawn nor poured for, and never left out in silence."""
    steps = plan.job.blank.steps
    if missing_stock(steps):
        return
    stocks = [n for n, step in enumerate(steps) if isinstance(step, STOCK_STEPS)]
    first = next(n for n in stocks if not isinstance(steps[n], InsertStep))
    for index in stocks:
        if index <= first:
            continue
        rest = (*steps[:index], *steps[index + 1 :])
        because = (
            f"Step {first + 1} makes the bar already; a second one is neither drawn nor counted in what is poured. To "
            "cast round a piece, lay it into the mould before the casting. A bar glued up of bars is a job of its own, "
            "and the bar in hand for the next."
        )
        remedies = (Remedy(f"Remove step {index + 1}", (Edit(path_to(JOB.blank.steps), rest),)),)
        title = f"Step {index + 1} would make a second bar."
        yield Finding(Severity.STOP, Station.BLANK, title, because, remedies)
        return


def unknown_materials(plan: Plan) -> Iterator[Finding]:
    """A material that Orvek does not know is never another one in silence."""
    known = {there.key for there in (*materials(), *plan.job.blank.materials)}
    for index, step in enumerate(plan.job.blank.steps):
        unknown = sorted(set(material_keys(step)) - known)
        if unknown:
            because = "It is drawn in a colour that is no material's, and weighed like water. Choose one at the step."
            title = f"Step {index + 1} is of “{unknown[0]}”, which Orvek does not know."
            yield Finding(Severity.CAUTION, Station.BLANK, title, because)


STATION = Station.BLANK
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    misses,
    deep_arcs,
    hollow_staves,
    no_picture,
    eaten,
    crowded,
    unknown_materials,
    second_stock,
)
_MANY = 5  # with fewer dyes and printed sheets there can be no 254 looks


def _set(index: int, field: str, value: Any, label: str) -> tuple[Remedy, ...]:
    return (Remedy(label, (Edit((*path_to(JOB.blank.steps[index]), field), value),)),)


def _caution(title: str, because: str, remedies: tuple[Remedy, ...]) -> Finding:
    return Finding(Severity.CAUTION, Station.BLANK, title, because, remedies)
