"""What is mixed, how long that takes, and what it costs."""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.planning.pour.inserts import InsertPlan
from orvek.planning.working import Figure


class CostLine(Struct, frozen=True):
    """One material of one casting."""

    name: str
    mass_g: float
    price_per_kg: float | None
    cost: float | None


class CostPlan(Struct, frozen=True):
    """What the materials of the whole job cost; lines are for one casting."""

    lines: tuple[CostLine, ...]
    total: Figure
    without_price: tuple[str, ...]


class DosePlan(Struct, frozen=True):
    """One pigment in one cup: what the maker weighs, straight or from a stock."""

    name: str
    colour: str
    pigment_g: Figure
    weighed_g: float
    stock_pct: float | None
    least_g: Figure
    is_weighable: bool
    drops: int | None = None


class CupPlan(Struct, frozen=True):
    """One cup in the order of weighing. The `weighed` masses are what the scale shall show."""

    name: str
    colour: str
    share_pct: Figure
    volume_ml: Figure
    mass_g: Figure
    part_a_g: Figure
    part_b_g: Figure
    weighed_a_g: float
    weighed_b_g: float
    doses: tuple[DosePlan, ...]
    ratio_error_pct: Figure
    ratio_uncertainty_pct: Figure
    vessel_ml: float
    is_solid: bool = False  # chips that are laid in: weighed, never mixed

    @property
    def filled(self) -> float:
        """How full the vessel is, as a fraction."""
        return self.volume_ml.value / self.vessel_ml if self.vessel_ml else math.inf


class MixturePlan(Struct, frozen=True):
    """One casting's resin. Absent parts mean that the job has no resin or no cups yet."""

    cavity_ml: Figure
    mould_ml: Figure
    insert: InsertPlan | None
    volume_ml: Figure
    mass_g: Figure | None
    ratio: Figure | None
    cups: tuple[CupPlan, ...]

    @property
    def wet(self) -> tuple[CupPlan, ...]:
        """The cups that are mixed."""
        return tuple(cup for cup in self.cups if not cup.is_solid)


class PacePlan(Struct, frozen=True):
    """Time on the clock that starts with the first drop of hardener, and how long the largest cup stays liquid."""

    working_min: Figure
    pot_life: Figure | None


class PourPlan(Struct, frozen=True):
    """What is mixed and poured. A part is None while the job lacks what it needs."""

    mixture: MixturePlan | None
    pace: PacePlan | None
    costs: CostPlan | None
