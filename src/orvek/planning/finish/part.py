"""From finished sizes, grits and coats still to come: where the tool stops, and how likely the coats go through."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TypeGuard

from orvek.craft import coating
from orvek.craft.abrasives import Abrasive, Rung, abrasives, ladder, removed_um
from orvek.documents import CoatSchool, Step, WrapStep
from orvek.planning.coating import school_of
from orvek.planning.findings import Caution
from orvek.planning.finish.coats import Taken, coat_sizes, coats_figure, coats_wanted, through_figure
from orvek.planning.finish.edges import edge_lines
from orvek.planning.finish.ends import end_plans
from orvek.planning.finish.lathe import lathe_lines
from orvek.planning.finish.press import clip_plan
from orvek.planning.finish.results import FinishPlan
from orvek.planning.finish.sizes import size_plan
from orvek.planning.finish.truing import hold_lines, hold_plan, true_plans
from orvek.planning.finish.voids import voids_plan
from orvek.planning.finish.wrap import wrap_plan
from orvek.planning.results import Plan
from orvek.planning.stuff import has_metal
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _COUNT = Dimension.LENGTH, Dimension.COUNT
_POLISH_RPM = 1500  # friction polish and wax are run faster: they want no polishing ladder before them
_AT_SIZE_MM = 0.1  # nearer than that a barrel is taken to be at its size


def part(plan: Plan) -> FinishPlan | None:
    """The finishing plan; None without a pen."""
    job = plan.job
    if job.pen is None or job.makes_bars:
        return None
    finish, drawer, school = plan.finishing, drawer_of(plan), school_of(job, plan.shop)
    names = (finish.bare_from, finish.bare_to, finish.level_from, finish.level_to)
    sheet_mm = next((step.sheet_mm for step in job.blank.steps if _is_coated_sheet(step)), 0.0)
    bare = () if sheet_mm else _ladder(drawer, finish.bare_from, finish.bare_to)
    has_coats = finish.thin_coats + finish.medium_coats > 0
    level = _ladder(drawer, finish.level_from, finish.level_to) if has_coats or _is_polished(school) else ()
    sanded = removed_um(bare) + (0.0 if has_coats else removed_um(level))
    sizes = coat_sizes(plan)
    coats = coats_figure(finish, sizes)
    levelled = removed_um(level) if has_coats else 0.0
    taken = Taken(sanded, 1000 * coats.value, levelled, sheet_mm)
    barrel_sizes = tuple(size_plan(job, number, barrel, taken) for number, barrel in enumerate(job.pen.barrels))
    hold = hold_plan(job, plan.shop)
    return FinishPlan(
        sizes=barrel_sizes,
        trues=true_plans(job, barrel_sizes, plan.units),
        ends=end_plans(job, plan.units),
        hold=hold,
        school=school,
        bare=bare,
        level=level,
        sanded_mm=_depth("Grits remove, in depth", sanded, "Σ 0.3 · the grain before"),
        coats_mm=coats,
        levelled_mm=_depth("Levelling takes off the coats", levelled, "Σ 0.3 · the grain before"),
        through_middle_pct=through_figure("Sanded through, middle", taken, coating.CV_MIDDLE),
        through_ends_pct=through_figure("Sanded through, ends", taken, coating.CV_ENDS),
        coats_wanted=coats_wanted(finish, taken) if has_coats else None,
        drop_um=sizes.drop,
        sanding_min=_minutes(bare, level),
        lathe=(*hold_lines(plan.shop.holding.way, hold), *lathe_lines(plan), *edge_lines(plan)),
        clip=clip_plan(job, plan.units),
        voids=voids_plan(plan),
        wrap=wrap_plan(plan, taken.coats, levelled),
        is_hybrid=bool(job.blank.woods) and job.cast_index is not None,
        unknown=tuple(dict.fromkeys(name for name in names if _named(drawer, name) is None)),
    )


def _is_coated_sheet(step: Step) -> TypeGuard[WrapStep]:
    return isinstance(step, WrapStep) and step.covered == "coated"


def drawer_of(plan: Plan) -> tuple[Abrasive, ...]:
    """The maker's own drawer; all usual abrasives while it is empty."""
    own = tuple(Abrasive(one.name, one.kind, one.start_um, one.end_um) for one in plan.shop.drawer)
    return own or abrasives()


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with the first measured size; complete when every barrel was measured at its size."""
    if plan.finish is None:
        return False, False
    measured = [one for size in plan.finish.sizes for one in size.still_mm]
    return any(one is not None for one in measured), all(one is not None and abs(one) < _AT_SIZE_MM for one in measured)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    finish = plan.finish
    if finish is None:
        return
    for size in finish.sizes:
        yield f"Turn {size.barrel.name} to", list(size.tool_mm)
    for true in finish.trues:
        if true.figures:
            yield f"True, {true.barrel.name}", list(true.figures)
    for one in finish.ends:
        yield one.where, [one.long_mm, *([one.cut_mm] if one.cut_mm else [])]
    if finish.hold is not None:
        yield "On the mandrel", [finish.hold.fill_mm]
    told = [finish.sanded_mm, finish.coats_mm, finish.levelled_mm, finish.sanding_min]
    if finish.coats_mm.value:
        told += [finish.through_middle_pct, finish.through_ends_pct]
    if finish.voids is not None:
        there = finish.voids
        yield "Voids", [there.volume, there.powder_g, *([there.glue_g] if there.glue_g else []), there.wait]
    for sheet in finish.wrap.sheets if finish.wrap else ():
        yield f"Printed sheet, {sheet.name}", list(dict.fromkeys(sheet.under_mm))
    yield "Finish", [*told, *([finish.clip.covers_deg, finish.clip.up_deg] if finish.clip else [])]


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt."""
    if plan.finish is None:
        return
    yield Caution(
        "finish.lathe",
        "Face shield, no gloves, sleeves, rings or hair near it; paper, never cloth, on spinning work; rest away when "
        "you sand; dust of resin and spalted wood: extraction and a rated mask.",
    )
    if plan.shop.holding.way == "mandrel":
        yield Caution(
            "finish.mandrel",
            "A bent mandrel, or one that a tight nut bows, throws its work: finger-tight, tailstock up, stand aside as "
            "it starts, slow first. Never turn on one that whips.",
        )
    if has_metal(plan.job):
        yield Caution(
            "finish.metal",
            "Metal in the bar: slivers and hot chips fly, and its edges cut. Face shield, light cuts, a brush and "
            "never a finger; no wood dust about where it sparks.",
        )
    if school_of(plan.job, plan.shop).slowest_rpm >= _POLISH_RPM:
        yield Caution(
            "finish.friction",
            "Friction polish and wax are put on with heat: it burns fingers. A paper towel in a pad, never wound round "
            "them, and off it at once when it gets hot.",
        )
    yield Caution(
        "finish.press",
        "Fingers out of the press; a part that springs off flies: glasses. Never lean on a lever to force it.",
    )
    if plan.finish.voids is not None:
        yield Caution(
            "finish.fill",
            "Dust of shell, stone and metal harms the lungs: grind and sand it wet or under extraction, rated mask on. "
            "Much thin glue at once heats and smokes.",
        )
    if plan.finish.coats_mm.value:
        yield Caution(
            "finish.glue",
            "Cyanoacrylate's fumes sting and it bonds skin: air, glasses, small drops on paper towel, never cotton: it "
            "heats and smokes. Its safety sheet decides.",
        )


def _is_polished(school: CoatSchool) -> bool:
    """Whether a school without coats goes on through the fine grits; wax and friction polish do not."""
    return school.thin + school.medium == 0 and school.slowest_rpm < _POLISH_RPM


def _named(drawer: Sequence[Abrasive], name: str) -> Abrasive | None:
    found = next((one for one in drawer if one.name == name), None)
    return found or next((one for one in abrasives() if one.name == name), None)


def _ladder(drawer: Sequence[Abrasive], first: str, last: str) -> tuple[Rung, ...]:
    one, other = _named(drawer, first), _named(drawer, last)
    if one is None or other is None:
        return ()
    # From the first one on through the kind that the last one is of: pads are no paper numbers.
    chosen = [one, *(there for there in drawer if there.kind == other.kind and there != one)]
    return ladder(chosen, one.start_um, min(one.end_um, other.end_um))


def _depth(label: str, value_um: float, formula: str) -> Figure:
    source = "0.3 of the grain before is what rids the barrel of its scratches (0.2 to 0.5)"
    return Figure(label, value_um / 1000, _MM, formula, (), source, digits=3)


def _minutes(bare: Sequence[Rung], level: Sequence[Rung]) -> Figure:
    minutes = sum(rung.minutes for rung in (*bare, *level))
    terms = (Term("n", "steps", len(bare) + len(level), _COUNT),)
    return Figure("Sanding, one barrel, about", minutes, Dimension.DURATION, "Σ depth / rate", terms, "a guess")
