"""Will the tube show: each colour over each barrel's finished wall, at both ends."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import Barrel, Cup, Job
from orvek.planning.colour.results import TubeView
from orvek.planning.results import Plan
from orvek.workpiece.light_test import LightTest, strength
from orvek.workpiece.optics import (
    BORDERLINE,
    BRASS_REFLECTS,
    DARK_REFLECTS,
    HIDDEN,
    HIDDEN_DIFFERENCE,
    PAINT_REFLECTS,
    contrast_ratio,
    light_of,
    passes,
    wall_of,
)


def part(plan: Plan) -> tuple[TubeView, ...]:
    """What is seen of each tube."""
    return tube_views(plan.job, plan.layout.across_mm if plan.layout else 0.0)


def tube_views(job: Job, bar_mm: float) -> tuple[TubeView, ...]:
    """What is seen of the tube through each cup's colour at each end of each barrel; nothing without pen or casting.

    A light test in a bored blank, `bar_mm` across, corrects the colour it was made through at every barrel.
    """
    if job.pen is None or job.cast_index is None:
        return ()
    found = []
    strengths = {cup.name: strength(cup, _light_tests(job, cup, bar_mm)) for cup in job.cast.cups}
    for number, barrel in enumerate(job.pen.barrels):
        if not barrel.has_tube:
            continue
        behind = PAINT_REFLECTS if job.blank.paint(number).where != "none" else BRASS_REFLECTS
        for cup in job.cast.cups:
            for side, finished in (("left", barrel.finished_left_mm), ("right", barrel.finished_right_mm)):
                wall = max(0.0, (finished - barrel.bit_diameter_mm) / 2)
                found.append(_view(number, barrel, cup, side, wall, behind, strengths[cup.name]))
    return tuple(found)


def _light_tests(job: Job, cup: Cup, bar_mm: float) -> Iterator[LightTest]:
    """The light tests through a cup's colour: those that name it, and those that name none."""
    assert job.pen is not None
    for number, barrel in enumerate(job.pen.barrels):
        hole = job.bore.hole(number)
        if hole.light != "not yet tested" and hole.light_colour in {"", cup.name}:
            yield LightTest((bar_mm - barrel.bit_diameter_mm) / 2, hole.light)


def _view(number: int, barrel: Barrel, cup: Cup, side: str, wall_mm: float, behind: float, times: float) -> TubeView:
    ratio = contrast_ratio(*wall_of(cup, wall_mm, times), behind)
    left = passes(cup, wall_mm, behind, times) * (behind - DARK_REFLECTS)
    hidden = ratio >= HIDDEN or left <= HIDDEN_DIFFERENCE
    verdict = "hidden" if hidden else "borderline" if ratio >= BORDERLINE else "shows"
    measured = bool(cup.pigments) and all(light_of(dose.pigment)[2] for dose in cup.pigments)
    return TubeView(number, barrel.name, cup.name, side, wall_mm, ratio, verdict, measured, times)


def needed_load(cup: Cup, wall_mm: float, most_pct: tuple[float, ...], times: float = 1.0) -> tuple[int, float] | None:
    """Which pigment to load how far so that the wall hides brass, if its kind allows it: (index, load in %)."""
    for number, dose in enumerate(cup.pigments):
        step = 0.1 if dose.load_pct < 2 else 0.25
        load = dose.load_pct
        while load + step <= most_pct[number] + 1e-9:
            load = round(load + step, 2)
            loaded = cup.with_(pigments=_with(cup, number, load))
            if contrast_ratio(*wall_of(loaded, wall_mm, times)) >= HIDDEN:
                return number, load
    return None


def _with(cup: Cup, number: int, load: float) -> tuple[object, ...]:
    return tuple(dose.with_(load_pct=load) if n == number else dose for n, dose in enumerate(cup.pigments))


def behind_colour(plan: Plan) -> tuple[float, float, float]:
    """What a clear resin ends on in the pictures: brass, or the base colour's paint when every barrel is painted."""
    job = plan.job
    count = len(job.pen.barrels) if job.pen else 0
    if not count or any(job.blank.paint(n).where == "none" for n in range(count)) or not job.cast.cups:
        return (181.0, 138.0, 58.0)
    base = max(job.cast.cups, key=lambda cup: cup.share).colour
    return (float(int(base[1:3], 16)), float(int(base[3:5], 16)), float(int(base[5:7], 16)))
