"""From finished sizes, grits and coats still to come: where the tool stops, and how likely the coats go through."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from orvek.craft import coating
from orvek.craft.abrasives import Abrasive, Rung, abrasives, ladder, removed_um
from orvek.documents import Barrel, Finish, Job, Sized
from orvek.planning.finish.press import clip_plan
from orvek.planning.finish.results import FinishPlan, SizePlan
from orvek.planning.finish.voids import voids_plan
from orvek.planning.finish.wrap import wrap_plan
from orvek.planning.results import Caution, Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _COUNT, _RATIO, _GRAIN = Dimension.LENGTH, Dimension.COUNT, Dimension.RATIO, Dimension.GRAIN
_ONE_IN = 0.01
_MIDDLE = 0.5


class _Taken(NamedTuple):
    """What comes off and on in depth, in µm."""

    sanded: float
    coats: float
    levelled: float


def part(plan: Plan) -> FinishPlan | None:
    """The finishing plan; None without a pen."""
    job = plan.job
    if job.pen is None:
        return None
    finish, drawer = job.finish, drawer_of(plan)
    names = (finish.bare_from, finish.bare_to, finish.level_from, finish.level_to)
    bare = _ladder(drawer, finish.bare_from, finish.bare_to)
    has_coats = finish.thin + finish.medium > 0
    level = _ladder(drawer, finish.level_from, finish.level_to) if has_coats or _polished(finish) else ()
    sanded = removed_um(bare) + (0.0 if has_coats else removed_um(level))
    coats = finish.thin * finish.thin_um + finish.medium * finish.medium_um
    levelled = removed_um(level) if has_coats else 0.0
    taken = _Taken(sanded, coats, levelled)
    return FinishPlan(
        sizes=tuple(_size(job, number, barrel, taken) for number, barrel in enumerate(job.pen.barrels)),
        school=_school(finish),
        bare=bare,
        level=level,
        sanded_mm=_depth("Grits remove, in depth", sanded, "Σ 0.3 · the grain before"),
        coats_mm=_coats(finish, coats),
        levelled_mm=_depth("Levelling takes off the coats", levelled, "Σ 0.3 · the grain before"),
        through_middle_pct=_through("Sanded through, middle", taken, coating.CV_MIDDLE),
        through_ends_pct=_through("Sanded through, ends", taken, coating.CV_ENDS),
        coats_wanted=_wanted(finish, taken) if has_coats else None,
        sanding_min=_minutes(bare, level),
        clip=clip_plan(job),
        voids=voids_plan(plan),
        wrap=wrap_plan(plan, coats, levelled),
        unknown=tuple(dict.fromkeys(name for name in names if _named(drawer, name) is None)),
    )


def drawer_of(plan: Plan) -> tuple[Abrasive, ...]:
    """The maker's own drawer; all usual abrasives while it is empty."""
    own = tuple(Abrasive(one.name, one.kind, one.start_um, one.end_um) for one in plan.shop.drawer)
    return own or abrasives()


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with the first measured size; complete when every barrel was measured at its size."""
    if plan.finish is None:
        return False, False
    measured = [one for size in plan.finish.sizes for one in size.still_mm]
    return any(one is not None for one in measured), all(one is not None and abs(one) < 0.1 for one in measured)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    finish = plan.finish
    if finish is None:
        return
    for size in finish.sizes:
        yield f"Turn {size.barrel.name} to", list(size.tool_mm)
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


def _size(job: Job, number: int, barrel: Barrel, taken: _Taken) -> SizePlan:
    sized = job.finish.of(number)
    finished = _finished(barrel, sized)
    left, middle, right = (_tool(figure, place, job.finish, taken) for place, figure in finished)
    return SizePlan(
        number=number,
        barrel=barrel,
        sized=sized,
        finished_mm=(finished[0][1], finished[1][1], finished[2][1]),
        tool_mm=(left, middle, right),
        now_mm=(sized.now_left_mm, sized.now_middle_mm, sized.now_right_mm),
    )


def _finished(barrel: Barrel, sized: Sized) -> list[tuple[str, Figure]]:
    """What it is to measure at the end: by the part that meets it there, else as the pen says."""
    ends = {"left": sized.part_left_mm, "right": sized.part_right_mm}
    at = {"left": 0.0, "middle": _MIDDLE, "right": 1.0}
    found = []
    for place, where in at.items():
        part_mm = ends.get(place)
        value = part_mm if part_mm is not None else barrel.finished_mm(where)
        words, standing = ("the part, measured", "measured") if part_mm is not None else ("as the pen says", None)
        terms = (Term("D", words, value, _MM, "measured" if standing else None),)
        found.append((place, Figure(f"Finished, {place}", value, _MM, "D", terms, words, digits=2)))
    return found


def _tool(finished: Figure, place: str, finish: Finish, taken: _Taken) -> Figure:
    value = coating.tool_size_mm(finished.value, taken.sanded, taken.coats, taken.levelled) + finish.more_mm
    terms = (
        Term("D", finished.source, finished.value, _MM),
        Term("S", "grits take", taken.sanded, _GRAIN),
        Term("C", "coats put on", taken.coats, _GRAIN),
        Term("L", "levelling takes", taken.levelled, _GRAIN),
        Term("more", "left for tear-out", finish.more_mm, _MM),
    )
    return Figure(f"To, {place}", value, _MM, "D + 2 · (S − (C − L)) + more", terms, "derived", digits=2)


def _school(finish: Finish) -> coating.School:
    listed = coating.schools()
    return next((one for one in listed if one.key == finish.school), listed[0])


def _polished(finish: Finish) -> bool:
    return finish.school == "abrasives and polish only"


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


def _coats(finish: Finish, value_um: float) -> Figure:
    terms = (
        Term("thin", "coats", finish.thin, _COUNT),
        Term("t", "each", finish.thin_um, _GRAIN, "guess"),
        Term("medium", "coats", finish.medium, _COUNT),
        Term("m", "each", finish.medium_um, _GRAIN, "guess"),
    )
    source = "guesses until your bottle's drops say better"
    return Figure("Coats put on, in depth", value_um / 1000, _MM, "thin · t + medium · m", terms, source, digits=3)


def _through(label: str, taken: _Taken, cv: float) -> Figure:
    chance = coating.through_chance(taken.coats, taken.levelled, cv) if taken.coats else 0.0
    terms = (
        Term("T", "coats", taken.coats, _GRAIN),
        Term("R", "levelling takes", taken.levelled, _GRAIN),
        Term("cv", "spread of both", cv, _RATIO, "guess"),
    )
    formula, source = "Φ(−(T − R) / √((cv T)² + (cv R)²))", "textbook; the spread is an estimate"
    return Figure(label, 100 * chance, Dimension.PERCENT, formula, terms, source, digits=1)


def _wanted(finish: Finish, taken: _Taken) -> int | None:
    each = taken.coats / (finish.thin + finish.medium)
    return coating.coats_wanted(each, taken.levelled, coating.CV_MIDDLE, _ONE_IN)


def _minutes(bare: Sequence[Rung], level: Sequence[Rung]) -> Figure:
    minutes = sum(rung.minutes for rung in (*bare, *level))
    terms = (Term("n", "steps", len(bare) + len(level), _COUNT),)
    return Figure("Sanding, one barrel, about", minutes, Dimension.DURATION, "Σ depth / rate", terms, "a guess")
