"""The cut list: what to start from, every cut with its settings, every glue-up, in the order of the hands.

`cut_plan` reads the steps; the numbers on it are enough to make the same bar again: a test does so
with points of the stock. What the list is made of stands in saw.py.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec.structs import replace

from orvek.documents import (
    STOCK_KINDS,
    ArcStep,
    CutStep,
    Glue,
    Job,
    LaminateStep,
    Machine,
    RipStep,
    Shop,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
)
from orvek.documents.steps.parts import AT_THE_SAW
from orvek.planning.bar import narrowed, narrowed_by
from orvek.planning.bars import is_sawn_first
from orvek.planning.findings import Caution
from orvek.planning.glue_up.crosscuts import into_blanks, into_pieces, to_its_length
from orvek.planning.glue_up.order import sawn_first, uncut
from orvek.planning.glue_up.saw import CutPlan, GlueJoint, SawCut, Stock, cut_figures
from orvek.planning.glue_up.step_share import StepShare
from orvek.planning.layout import Layout
from orvek.planning.results import Plan
from orvek.planning.stuff import SOLVENT, oily_woods
from orvek.planning.working import Figure
from orvek.quantities import Units
from orvek.workpiece.lengths import starts_mm

SAWN = (SolidStep, LaminateStep, StackStep, StavesStep, WrapStep, CutStep, ArcStep, SliceStep, RipStep, SquareStep)
_LONGER = (SolidStep, LaminateStep, StavesStep, WrapStep)  # what begins with stock that is longer than its bar


def part(plan: Plan) -> CutPlan | None:
    """The cut list of the plan."""
    bars, each = round(plan.bars.bars.value), plan.bars.blanks_per_bar if is_sawn_first(plan.job) else 1
    made = cut_plan(plan.job, plan.layout, plan.shop, bars=bars * each)
    section = plan.bars.section
    if made is None or section is None or each == 1:
        return made
    stock = max((n for n, step in enumerate(plan.job.blank.steps) if step.kind in STOCK_KINDS), default=0)
    across, kerf = max(section.width_mm, section.depth_mm), plan.job.blank.saw_kerf_mm
    return replace(made, cuts=(into_blanks(section.length_mm, each, kerf, made.machine, stock, across), *made.cuts))


def progress(plan: Plan) -> tuple[bool, bool]:
    """What is sawn or glued is told whole, or not at all."""
    has_any = plan.glue_up is not None and bool(plan.glue_up.cuts or plan.glue_up.joints)
    return has_any, has_any


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    for number, cut in enumerate(plan.glue_up.cuts if plan.glue_up else (), 1):
        yield f"Cut {number}", list(cut_figures(cut))


def cut_plan(job: Job, layout: Layout | None, shop: Shop, *, bars: int = 1) -> CutPlan | None:
    """The cut list of a job, its stock for so many bars; None where nothing is sawn or glued.

    A bar in hand is there already: what it was sawn and glued from is not asked for again.
    """
    steps = job.blank.steps
    if layout is None or not any(isinstance(step, SAWN) for step in steps):
        return None
    machine = job.glue_up.machine or (shop.machines[0] if shop.machines else Machine())
    hand = shop.glue(job.glue_up.glue) or shop.all_glues[-1 - len(shop.glues)]  # an unknown one is said by a finding
    hand = hand.with_activator() if job.glue_up.activator else hand
    before = starts_mm(steps, layout.length_mm)
    section = layout.raw
    lost = _lost_to_mitres(steps, max(section[:2]))
    stock: list[Stock] = []
    cuts: list[SawCut] = []
    joints: list[GlueJoint] = []
    for index, (step, long) in enumerate(zip(steps, before, strict=True)):
        if not (job.blank.in_hand and step.kind in STOCK_KINDS):
            share = StepShare(job, shop.preferences.units, machine, hand, index, long, section)
            stock += [replace(one, count=one.count * bars, step=index) for one in share.stock(step, lost)]
            cuts += share.cuts(step)
            joints += share.joints(step)
        section = narrowed_by(step, section)
    if sawn_first(job, layout.raw):
        cuts, joints = _sawn_first(job, shop.preferences.units, (machine, hand), layout.raw, before, cuts, joints)
    bar = layout.width_mm * layout.depth_mm * layout.length_mm / 1000 * (math.pi / 4 if layout.is_round else 1)
    cuts += into_pieces(layout, machine, len(steps) - 1)
    if not job.blank.in_hand:
        cuts = list(_squared_first(steps, cuts, machine, layout.raw))
    return CutPlan(machine, hand, tuple(stock), tuple(cuts), tuple(joints), bar * bars, bars)


def _squared_first(
    steps: tuple[Step, ...], cuts: list[SawCut], machine: Machine, raw: tuple[float, float, bool]
) -> Iterator[SawCut]:
    """The cuts; before the first whose place is reckoned from the bar's end, longer stock is sawn to that bar."""
    longer = [n for n, step in enumerate(steps) if isinstance(step, _LONGER)]
    placed = (cut for cut in cuts if cut.stop_mm is not None and (cut.is_to_length or cut.step > longer[-1]))
    first = next(placed, None) if longer else None
    for cut in cuts:
        if cut is first:
            yield to_its_length(cut, machine, max(narrowed(steps[: cut.step], raw)[:2]))
        yield cut


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt at a saw, where a pattern is sawn or a bar to the lengths that are bored; and by the glue."""
    if plan.bore is not None or (plan.glue_up is not None and plan.glue_up.cuts):
        yield Caution("glue_up.saw", AT_THE_SAW.full)
    if plan.glue_up is not None and plan.glue_up.joints:
        yield Caution("glue_up.glue", plan.glue_up.glue.can_hurt)
        if oily_woods(plan.job):
            yield Caution("glue_up.solvent", SOLVENT)


def _sawn_first(
    job: Job,
    units: Units,
    using: tuple[Machine, Glue],
    raw: tuple[float, float, bool],
    before_mm: tuple[float, ...],
    cuts: list[SawCut],
    joints: list[GlueJoint],
) -> tuple[list[SawCut], list[GlueJoint]]:
    """The same list with all cuts sawn from the bar as it is, from its right end on, and one glue-up after."""
    bars = uncut(job.blank.steps)
    first, last = min(one.index for one in bars), max(one.index for one in bars)
    sawn, section = [], narrowed(job.blank.steps[:first], raw)
    for one in bars:
        share = StepShare(job, units, *using, one.index, before_mm[first], section)
        sawn += [replace(cut, keep="every piece, numbered from the left end") for cut in share.cuts(one.step)]
    inside = [joint for joint in joints if first <= joint.step <= last]
    whole = [
        replace(
            joint,
            what="All pieces in their order, each sheet between its two",
            joints=sum(one.joints for one in inside),
            needed_min=sum(one.needed_min for one in inside),
            has_metal=any(one.has_metal for one in inside),
            then="Flush all faces and re-square",
        )
        for joint in inside[:1]
    ]
    return (
        [*(c for c in cuts if c.step < first), *sawn, *(c for c in cuts if c.step > last)],
        [*(j for j in joints if j.step < first), *whole, *(j for j in joints if j.step > last)],
    )


def _lost_to_mitres(steps: tuple[Step, ...], across_mm: float) -> float:
    """What leaning slices take off both ends of a bar, beyond their own length."""
    angles = [math.radians(step.angle_deg) for step in steps if isinstance(step, SliceStep) and step.angle_deg < 90]
    return sum(across_mm / math.tan(angle) for angle in angles)
