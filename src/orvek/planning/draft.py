"""The plan before it is judged: what the findings look at."""

from __future__ import annotations

from dataclasses import dataclass

from orvek.documents import Cup, InsertStep, Job, Shop, catalogue, material
from orvek.planning.glue_up.saw import CutPlan
from orvek.planning.results import BarsPlan, BubblesPlan, Layout, MixturePlan, PacePlan, PenPlan, TubeView
from orvek.quantities import Dimension, Units, write, write_bit


@dataclass(frozen=True, slots=True)
class Draft:
    """Job, shop and every computed part, with the maker's units to write sentences in."""

    job: Job
    shop: Shop
    pen: PenPlan | None
    bars: BarsPlan
    layout: Layout | None
    mixture: MixturePlan | None
    pace: PacePlan | None
    bubbles: BubblesPlan | None = None
    tube_views: tuple[TubeView, ...] = ()
    cutting: CutPlan | None = None

    @property
    def units(self) -> Units:
        """How the maker reads quantities."""
        return self.shop.preferences.units

    def mm(self, value: float, digits: int | None = None) -> str:
        """A length in the maker's words."""
        return write(value, Dimension.LENGTH, self.units, digits)

    def g(self, value: float, digits: int | None = None) -> str:
        """A mass in the maker's words."""
        return write(value, Dimension.MASS, self.units, digits)

    def ml(self, value: float) -> str:
        """A volume in the maker's words, without decimals."""
        return write(value, Dimension.VOLUME, self.units, 0)

    def pct(self, value: float, digits: int = 1) -> str:
        """A percentage in the maker's words."""
        return write(value, Dimension.PERCENT, self.units, digits)

    def minutes(self, value: float) -> str:
        """A duration in the maker's words."""
        return write(value, Dimension.DURATION, self.units)

    def bar(self, value: float) -> str:
        """A pressure in the maker's words."""
        return write(value, Dimension.PRESSURE, self.units)

    def most_loads(self, cup: Cup) -> tuple[float, ...]:
        """How far each pigment of a cup may be loaded, in %."""
        kinds = (catalogue().kind(dose.pigment.kind) for dose in cup.pigments)
        return tuple(kind.most_pct if kind else 5.0 for kind in kinds)

    def laid_density(self) -> float | None:
        """Density of what the first step lays into the mould, from its material."""
        laid = next((step for step in self.job.blank.steps if isinstance(step, InsertStep)), None)
        return material(laid.material).density_g_ml.value if laid else None

    def bit(self, diameter_mm: float) -> str:
        """A drill bit in the maker's words."""
        return write_bit(diameter_mm, self.units)
