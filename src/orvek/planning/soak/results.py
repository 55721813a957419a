"""What a soaking plan is made of."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Literal

from msgspec import Struct

from orvek.craft.drying import Band, DryingFit
from orvek.documents import DyeStep, Weighing
from orvek.planning.working import Figure


class DryPlan(Struct, frozen=True):
    """What the log of weights says. `fit` is None while there is no log; `odd` are lines that cannot be right."""

    log: tuple[Weighing, ...]
    fit: DryingFit | None
    equilibrium_pct: Figure
    moisture_pct: Figure | None
    end_g: Figure | None
    dry_rate_pct: Figure
    weigh_apart: Figure | None
    odd: tuple[tuple[int, str], ...]  # place in the document's log, and what is odd about it

    @property
    def told(self) -> DryingFit | None:
        """The fit of a log that says when it will be dry; None of one that does not."""
        return None if self.fit is None or self.fit.why_not else self.fit

    @property
    def hours(self) -> float:
        """From the first weighing to the last."""
        return (self.log[-1].when - self.log[0].when).total_seconds() / 3600 if self.log else 0.0

    def at(self, hours: float) -> datetime:
        """A time of day, counted in hours from the first weighing."""
        return self.log[0].when + timedelta(hours=hours)


class WoodPlan(Struct, frozen=True):
    """Room in the wood. `takes_pct` is what such wood takes up of the possible, in %."""

    volume_ml: Figure
    dry_g: Figure | None
    density_g_ml: Figure
    void_pct: Figure
    most_uptake_pct: Figure
    takes_pct: Band
    takes_source: str
    shrinks_mm: Figure | None


class BathPlan(Struct, frozen=True):
    """The chamber and what goes into it, for one bath."""

    takes_ml: Figure
    bath_ml: Figure
    buy_ml: Figure
    buy_g: Figure
    head_mm: Figure
    soak_least_min: Figure
    taken_pct: Figure | None


class VacuumPlan(Struct, frozen=True):
    """The vacuum, by whichever step it is pulled: under the bath, or over a colour.

    `left_kpa` is the air that is left by the dial; None while nobody has read it.
    """

    dial_most: Figure
    left_kpa: float | None


class HeatPlan(Struct, frozen=True):
    """The oven: until the core is there, and the clock from closing the door."""

    core_min: Figure
    clock_min: Figure


class DyePlan(Struct, frozen=True):
    """One colour: how deep it goes, how deep it must."""

    step: int
    dye: DyeStep
    side_mm: Figure
    end_mm: Figure
    side: Band
    needed_mm: Figure | None
    is_seen: bool


class Stage(Struct, frozen=True):
    """One stretch of the treatment: what, how long in minutes, whether the hands are needed.

    `key` names a task of the hands; "" where it is called by its number, as all were once. `cautions` are the
    keys of what can hurt, `place` what a wait takes up, `line` what the hands do in full, `kind` what they work at,
    `weighs` where the weight goes that is taken at it: the log, or what the wood weighs after the bath.
    """

    words: str
    minutes: float
    is_hands: bool = False
    key: str = ""
    cautions: tuple[str, ...] = ()
    place: str = ""
    line: str = ""
    kind: str = "stabilise"
    weighs: Literal["", "log", "after"] = ""


class SoakPlan(Struct, frozen=True):
    """What follows for drying, soaking, dyeing and the oven."""

    drying: DryPlan
    wood: WoodPlan
    vacuum: VacuumPlan | None
    bath: BathPlan | None
    heat: HeatPlan | None
    dyes: tuple[DyePlan, ...]
    stages: tuple[Stage, ...]
