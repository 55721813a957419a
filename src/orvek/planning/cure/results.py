"""The forecast of a cure: what is asked, and what comes back."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

from msgspec import Struct, field

from orvek.documents import Conditions, Cure, CureLog
from orvek.planning.findings import Remedy
from orvek.quantities import Dimension, Units, write


class Effort(NamedTuple):
    """How finely a forecast is worked out: cells of the best course and of its range, and how many corners."""

    fine: tuple[int, int]
    coarse: tuple[int, int]
    corners: int


FULL = Effort((20, 10), (12, 6), 8)


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


# Above these a mould suffers: estimates.
WALL_LIMIT_C = {"silicone": 200.0, "HDPE": 80.0, "polypropylene": 100.0}
