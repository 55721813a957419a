"""A casting run for a week: its bars with their mould, in the air as it will be. `cast(question, fit, tell)`."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from orvek.craft.calibrating import Fit
from orvek.craft.heating import BRASS_CORE, HDPE, PP, SILICONE, WOOD_CORE, bar_mesh, cure
from orvek.documents import Conditions
from orvek.planning.cure.casting import TACK_ENDS, Casting, minutes
from orvek.planning.cure.question import HORIZON_H, Progress
from orvek.planning.cure.results import CureQuestion

Floats = NDArray[np.float64]
_WALLS = {"silicone": SILICONE, "HDPE": HDPE, "polypropylene": PP}
_CORES = {"wood": WOOD_CORE, "brass": BRASS_CORE}
ROUGHLY, CLOSELY = 3e-4, 3e-5  # tolerances of the solver: for ranges and trials, and for the best course
_RAMP_H = 2.0  # how fast an oven or a shop warms: estimate


def cast(
    question: CureQuestion,
    fit: Fit,
    tell: Progress,
    *,
    step: Floats | None = None,
    demould: float | None = None,
    tolerance: float = ROUGHLY,
) -> Casting:
    """Let a casting cure for a week, with the resin moved from its best values by `step`."""
    there, shop = question.conditions, question.shop_c
    kinetics, film = fit.moved(step) if step is not None else (fit.kinetics, fit.film)
    core = (_CORES[question.core], question.core_share) if question.core_share > 0 else None
    hours, levels = air_over_time(question)
    changes = bool(np.ptp(levels) > 0)
    section = bar_mesh(
        kinetics,
        question.width_mm,
        question.depth_mm,
        _WALLS[question.wall],
        question.wall_mm,
        question.floor_mm,
        core=core,
        row=question.side_by_side,
        length_mm=question.length_mm,
        film=film,
        cells=question.effort.fine if tolerance < ROUGHLY else question.effort.coarse,
    )
    run = cure(
        section,
        kinetics,
        (lambda t: float(np.interp(t / 3600, hours, levels))) if changes else (lambda _t: shop),
        (there.parts_c if there.parts_c is not None else shop, there.mould_c if there.mould_c is not None else shop),
        HORIZON_H * 3600,
        longest_step_s=3600.0 if changes else np.inf,
        tolerance=tolerance,
        progress=lambda _t: tell(-1.0),
    )
    casting = Casting(run.bars(), kinetics, shop, demould if demould is not None else kinetics.demould)
    return replace(casting, wait_min=_waits_min(question, casting))


def air_over_time(question: CureQuestion) -> tuple[Floats, Floats]:
    """Corners of the air's temperature: hours since pouring and °C, with ramps of two hours between levels."""
    there = question.conditions
    hours = np.unique(
        np.concatenate([[0.0, HORIZON_H], *(_switches(there, day) for day in range(8)), _warm_corners(there)])
    )
    hours = hours[(hours >= 0) & (hours <= HORIZON_H)]
    return hours, np.array([_level(question, hour) for hour in hours])


def _switches(there: Conditions, day: int) -> Floats:
    if there.night_c is None:
        return np.array([])
    at = [there.night_to_h, there.night_to_h + _RAMP_H, there.night_from_h, there.night_from_h + _RAMP_H]
    return np.array([24 * day + hour - there.poured_h for hour in at])


def _warm_corners(there: Conditions) -> Floats:
    if there.warm_c is None:
        return np.array([])
    start, end = there.warm_after_min / 60, (there.warm_after_min + there.warm_min) / 60
    return np.array([start, start + _RAMP_H, end, end + _RAMP_H])


def _level(question: CureQuestion, hour: float) -> float:
    """The air at an hour since pouring; exact at the corners, where ramps begin and end."""
    there = question.conditions
    level = question.shop_c
    if there.night_c is not None:
        of_day = (there.poured_h + hour) % 24
        ramps = (there.night_to_h, there.night_to_h + _RAMP_H, there.night_from_h, there.night_from_h + _RAMP_H)
        levels = (there.night_c, question.shop_c, question.shop_c, there.night_c)
        level = float(np.interp(of_day, ramps, levels))
    if there.warm_c is not None:
        start, end = there.warm_after_min / 60, (there.warm_after_min + there.warm_min) / 60
        part = float(np.interp(hour, (start, start + _RAMP_H, end, end + _RAMP_H), (0, 1, 1, 0)))
        level += part * (there.warm_c - level)
    return level


def _waits_min(question: CureQuestion, casting: Casting) -> float:
    """How long the layers before the last one take."""
    if question.conditions.layers == 1:
        return 0.0
    kinetics, run = casting.kinetics, casting.slowest
    gel = minutes(run.reached_s(kinetics.gel))
    ends = minutes(run.reached_s(kinetics.gel + TACK_ENDS * (kinetics.demould - kinetics.gel)))
    return (question.conditions.layers - 1) * (gel + min(ends, 2 * gel)) / 2
