"""What is done to wood before it meets resin: dried, weighed, stabilised, cured; and what was seen of it."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, measure
from orvek.documents.job.conditions import VacuumVessel
from orvek.documents.steps.parts import MaterialKey
from orvek.quantities import Dimension

_MM, _G = Dimension.LENGTH, Dimension.MASS
MOST_WEIGHINGS = 300
FIRST_YEAR, LAST_YEAR = 2000, 2100


def _of_our_time(when: datetime) -> datetime:
    if not FIRST_YEAR <= when.year < LAST_YEAR:
        raise PydanticCustomError("orvek", f"must be a day between {FIRST_YEAR} and {LAST_YEAR}")
    return when.replace(tzinfo=None, second=0, microsecond=0)


class Weighing(Document):
    """One line of the log of weights: as it was typed, even where it is left out of the forecast."""

    when: Annotated[datetime, AfterValidator(_of_our_time)] = Field(title="When")
    mass_g: float = measure("Weight", _G, low=0.01, high=100000)
    is_left_out: bool = Field(default=False, title="Left out")


class WoodInHand(Document):
    """The pieces that are treated together, measured as they are when dry."""

    species: MaterialKey | None = Field(default=None, title="Wood", description="Empty: the blank's")
    is_soft: bool = Field(default=False, title="Punky", description="Spalted, rotten: it takes up more")
    count: int = measure("Pieces", Dimension.COUNT, low=1, high=500, default=1)
    form: Literal["rectangular", "round", "hollow round", "irregular"] = Field(default="rectangular", title="Shape")
    length_mm: float = measure("Length", _MM, low=5, high=2000, default=140)
    width_mm: float = measure("Width, or diameter", _MM, low=3, high=500, default=22)
    depth_mm: float = measure("Depth", _MM, low=3, high=500, default=22)
    bore_mm: float = measure("Hole through it", _MM, low=1, high=400, default=10, hint="Of a hollow round piece")
    volume_ml: float | None = measure(
        "Volume of one, measured", Dimension.VOLUME, low=0.1, high=20000, default=None, hint="Wrapped, hung in water"
    )
    dry_g: float | None = measure(
        "All of them, oven-dry", _G, low=0.1, high=100000, default=None, hint="Empty: by the log"
    )

    @property
    def thick_mm(self) -> float:
        """The other way across: a round piece has but one."""
        return self.width_mm if self.form in {"round", "hollow round"} else self.depth_mm


class Drying(Document):
    """How it is dried, and the log of weights."""

    way: Literal["in an oven", "in the air"] = Field(default="in an oven", title="Dried")
    oven_c: float = measure("Oven", Dimension.TEMPERATURE, low=25, high=200, default=103)
    humidity_pct: float | None = measure(
        "The shop's humidity", Dimension.PERCENT, low=1, high=100, default=None, hint="Empty: 60 %, a guess"
    )
    log: Annotated[tuple[Weighing, ...], Field(max_length=MOST_WEIGHINGS)] = ()

    @property
    def in_order(self) -> tuple[Weighing, ...]:
        """The log by time, without what is left out."""
        return tuple(sorted((one for one in self.log if not one.is_left_out), key=lambda one: one.when))


class Bath(Document):
    """The chamber, the resin, the vacuum, and what was weighed afterwards."""

    resin_g_ml: float = measure("Resin, density", Dimension.DENSITY, low=0.7, high=1.6, default=1.03)
    boils_kpa: float | None = measure(
        "Vapour pressure, 20 °C, kPa", Dimension.RATIO, low=0.001, high=50, default=None, hint="From its safety sheet"
    )
    chamber: VacuumVessel = Field(default="not known", title="Chamber of")
    chamber_mm: float = measure("Chamber, inside", _MM, low=30, high=600, default=100)
    chamber_high_mm: float = measure("Chamber, high", _MM, low=30, high=1500, default=300)
    stands: Literal["upright", "lying"] = Field(default="upright", title="Pieces")
    cover_mm: float = measure(
        "Resin over them", _MM, low=0, high=200, default=25, hint="25 mm is usual; weights on top"
    )
    reserve_pct: float = measure("Bought in reserve", Dimension.PERCENT, low=0, high=100, default=15)
    baths: int = measure("Colours, a bath each", Dimension.COUNT, low=1, high=4, default=1)
    gauge_bar: float | None = measure(
        "Vacuum, as the dial says", Dimension.PRESSURE, low=0.05, high=1.2, default=None, hint="Below the air's"
    )
    vacuum_min: float = measure("Under vacuum", Dimension.DURATION, low=1, high=5000, default=120)
    soaked_min: float = measure("Left in the resin after", Dimension.DURATION, low=0, high=40000, default=720)
    pressed_bar: float | None = measure(
        "Then under pressure", Dimension.PRESSURE, low=0.5, high=20, default=None, hint="3 to 5 bar; empty: none"
    )
    after_g: float | None = measure("All of them, out of the bath and wiped", _G, low=0.1, high=200000, default=None)


class Heat(Document):
    """The oven that cures the resin in the wood."""

    oven_c: float = measure("Oven", Dimension.TEMPERATURE, low=40, high=150, default=95)
    core_c: float = measure("The core is to reach", Dimension.TEMPERATURE, low=35, high=145, default=90)
    begin_c: float = measure("They go in at", Dimension.TEMPERATURE, low=-10, high=90, default=20)
    has_fan: bool = Field(default=False, title="Oven with a fan")
    is_wrapped: bool = Field(default=True, title="Wrapped in foil")
    wide: int = measure("Side by side, touching", Dimension.COUNT, low=1, high=20, default=1)
    high: int = measure("On one another, touching", Dimension.COUNT, low=1, high=20, default=1)
    hold_min: float = measure("Held there", Dimension.DURATION, low=5, high=600, default=45)
    core_min: float | None = measure(
        "A probe in the core took", Dimension.DURATION, low=1, high=1000, default=None, hint="From closing the door"
    )


class Soak(Document):
    """What is done to the wood; "nothing" until it was chosen."""

    route: Literal["nothing", "dried", "stabilised", "soft, not stabilised"] = Field(
        default="nothing", title="Treatment"
    )
    wood: WoodInHand = WoodInHand()
    drying: Drying = Drying()
    bath: Bath = Bath()
    heat: Heat = Heat()
