"""What a cure forecast is asked, and what it answers: frozen, hashable, without the slow libraries.

`cure_question(plan)` is quick; the answer is computed in the background by `planning.forecast` and kept by its
question, so that the same question is never computed twice.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import timedelta
from typing import Any, NamedTuple

from msgspec import Struct, field

from orvek.documents import (
    BarMould,
    Conditions,
    Cure,
    CureLog,
    InsertStep,
    LoafMould,
    RoundMould,
)
from orvek.planning.findings import Remedy
from orvek.planning.results import Plan
from orvek.quantities import Dimension, Units, write, write_day

HORIZON_H = 168.0  # a week: who waits longer asks another resin
READY_CURE = 0.90  # and glassy, and cool: then it drills and turns cleanly (workshop practice)
# Above these a mould suffers: estimates.
WALL_LIMIT_C = {"silicone": 200.0, "HDPE": 80.0, "polypropylene": 100.0}
Progress = Callable[[float], None]


class Effort(NamedTuple):
    """How finely a forecast is worked out: cells of the best course and of its range, and how many corners."""

    fine: tuple[int, int]
    coarse: tuple[int, int]
    corners: int


FULL = Effort((20, 10), (12, 6), 8)
ROUGH = Effort((8, 4), (6, 3), 2)  # right in kind, some percent off: for trials of what a forecast is used for


class CureQuestion(Struct, frozen=True):
    """All that a forecast depends on. Lengths in mm, masses in g.

    `depth_mm` is that of one layer; `side_by_side` says how many bars stand beside one another in the mould;
    `core_share` is the part of the section that an insert takes; `label_out` the time, thickness and temperature at
    which the label lets a casting leave the mould.
    """

    resin: str
    cure: Cure
    density_g_ml: float
    pot_life_min: float
    pot_life_mass_g: float
    pot_life_c: float
    peak_c: float | None
    length_mm: float
    width_mm: float
    depth_mm: float
    wall: str
    wall_mm: float
    floor_mm: float
    side_by_side: int
    core: str
    core_share: float
    cups_g: tuple[float, ...]
    shop_c: float
    conditions: Conditions
    log: tuple[CureLog, ...]
    label_out: tuple[float, float, float] | None = None
    may_layer: bool = True  # a swirl is one pour: layers would be another pattern
    units: Units = field(default_factory=Units)  # for the words of remedies
    effort: Effort = FULL

    def degrees(self, value_c: float) -> str:
        """A temperature in the maker's words."""
        return write(value_c, Dimension.TEMPERATURE, self.units, 0)

    @property
    def calibration(self) -> tuple[Any, ...]:
        """What the resin's own calibration depends on."""
        label = (self.pot_life_min, self.pot_life_mass_g, self.pot_life_c, self.peak_c)
        return (self.cure, self.density_g_ml, label, self.log)

    @property
    def hottest_c(self) -> float:
        """The lower of what mould and resin stand."""
        return min(self.cure.hottest_c.value, WALL_LIMIT_C[self.wall])


class Band(Struct, frozen=True):
    """A figure as a range: 5 %, best, 95 %. Infinite where it never comes."""

    low: float
    best: float
    high: float


class Curve(Struct, frozen=True):
    """Courses over the time since pouring, all of one length."""

    time_min: Any
    hottest_c: Any
    hottest_low_c: Any
    hottest_high_c: Any
    coldest_c: Any
    air_c: Any
    mean: Any
    mean_low: Any
    mean_high: Any
    least: Any


class Frames(Struct, frozen=True):
    """The section over time: (frames,), (frames, rows, columns) of temperature and of cure, nan outside the resin."""

    time_min: Any
    x_mm: Any
    y_mm: Any
    temperature_c: Any
    cure: Any


class CureForecast(Struct, frozen=True):
    """The answer. `problem` is a sentence where there is none; then all else is None."""

    question: CureQuestion
    problem: str = ""
    curve: Curve | None = None
    frames: Frames | None = None
    gel_min: Band | None = None
    gelled_min: Band | None = None
    pressure_off_min: Band | None = None
    tack_ends_min: float = math.inf
    full_min: float = math.inf
    peak_c: Band | None = None
    peak_min: float = 0.0
    demould_min: Band | None = None
    ready_min: Band | None = None
    cure_when_drilled: Band | None = None
    cure_at_end: Band | None = None
    cup_lives_min: tuple[Band, ...] = ()
    rate_sd: tuple[float, float] = (0.0, 0.0)
    far: tuple[CureLog, ...] = ()
    remedies: tuple[Remedy, ...] = ()
    cooler: tuple[Remedy, ...] = ()

    @property
    def times(self) -> CureForecast:
        """Its times alone, which can be a part of another question."""
        return CureForecast(self.question, self.problem, demould_min=self.demould_min, ready_min=self.ready_min)


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
