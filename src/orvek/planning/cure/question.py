"""What a cure forecast is asked, and what it answers: frozen, hashable, without the slow libraries.

`cure_question(plan)` is quick; the answer is computed in the background by `planning.forecast` and kept by its
question, so that the same question is never computed twice.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import timedelta

from orvek.documents import (
    BarMould,
    Conditions,
    InsertStep,
    LoafMould,
    RoundMould,
)
from orvek.planning.cure.results import CureQuestion, Effort
from orvek.planning.results import Plan
from orvek.quantities import write_day

HORIZON_H = 168.0  # a week: who waits longer asks another resin
READY_CURE = 0.90  # and glassy, and cool: then it drills and turns cleanly (workshop practice)
Progress = Callable[[float], None]


ROUGH = Effort((8, 4), (6, 3), 2)  # right in kind, some percent off: for trials of what a forecast is used for


def cure_question(plan: Plan) -> CureQuestion | None:
    """What is to be forecast for this plan; None while mould, resin, colours or the label's pot life are missing."""
    job, mixture = plan.job, plan.mixture
    mould, resin = job.pour.mould, job.pour.resin
    if mould is None or resin is None or mixture is None or not mixture.cups or resin.pot_life_min is None:
        return None
    family = plan.shop.family(resin.family)
    if family is None or family.cure is None or not family.sets_when_mixed:
        return None
    width, depth = _cavity(mould)
    cavity, core = mixture.cavity_ml.value, mixture.insert
    share = min(0.95, core.volume_ml.value / cavity) if core and cavity > 0 else 0.0
    conditions = job.pour.conditions
    return CureQuestion(
        resin=resin.name,
        cure=family.cure,
        density_g_ml=resin.density_mix.value,
        pot_life_min=resin.pot_life_min.value,
        pot_life_mass_g=resin.pot_life_mass_g,
        pot_life_c=resin.pot_life_temperature_c,
        peak_c=resin.peak_c.value if resin.peak_c else None,
        length_mm=mould.length_mm,
        width_mm=width,
        depth_mm=depth / conditions.layers,
        wall=mould.wall,
        wall_mm=mould.wall_mm,
        floor_mm=mould.floor_mm,
        side_by_side=1 if isinstance(mould, LoafMould) else min(mould.cavities, plan.bars.bars_per_casting),
        label_out=(
            (resin.demould_min.value, resin.demould_thick_mm, resin.pot_life_temperature_c)
            if resin.demould_min
            else None
        ),
        core=_core(plan),
        core_share=share,
        cups_g=tuple(round(cup.mass_g.value / conditions.layers, 1) for cup in mixture.wet),
        shop_c=job.batch.shop_temperature_c,
        conditions=conditions,
        log=tuple(one for one in plan.shop.cure_log if one.resin == resin.name),
        may_layer=job.cast.style != "swirl" or len(job.cast.cups) < 2,
        units=plan.units,
    )


def clock(conditions: Conditions, after_min: float, step_min: int = 1) -> str:
    """A time since pouring as day and hour, "Sun 29 Nov 03:10", to a step of minutes.

    While the day of the pour is not decided: "03:10 the next day", "03:10 on day 3".
    """
    if math.isinf(after_min):
        return "not within a week"
    minutes = round((conditions.poured_h * 60 + after_min) / step_min) * step_min
    days, of_day = divmod(minutes, 1440)
    time_of_day = f"{of_day // 60:02d}:{of_day % 60:02d}"
    if conditions.poured_on is not None:
        return f"{write_day(conditions.poured_on + timedelta(days=days))} {time_of_day}"
    later = "that day" if days == 0 else "the next day" if days == 1 else f"on day {days + 1}"
    return f"{time_of_day} {later}"


def _cavity(mould: BarMould | RoundMould | LoafMould) -> tuple[float, float]:
    """Width and depth of what cures; a round is taken as the square of the same section."""
    if isinstance(mould, RoundMould):
        side = mould.diameter_mm * math.sqrt(math.pi) / 2
        return side, side
    return mould.width_mm, mould.depth_mm


def _core(plan: Plan) -> str:
    first = next((step for step in plan.job.blank.steps if isinstance(step, InsertStep)), None)
    return "brass" if first is not None and first.material in {"brass", "copper", "aluminium"} else "wood"
