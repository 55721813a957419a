"""Where and when a casting cures: temperatures of parts and shop, the night, warming afterwards, pressure or vacuum."""

from datetime import date, timedelta
from typing import Any, Literal

from pydantic import Field, model_validator

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension

DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

VacuumVessel = Literal["steel", "thick acrylic, rated", "tempered glass, rated", "plain glass", "not known"]


def dated(content: dict[str, Any], today: date) -> dict[str, Any]:
    """Conditions as they were written while they had weekdays: poured on the next such day, drilled on the one after.

    >>> old = {"poured_day": "Friday", "drill_day": "Sunday"}
    >>> {name: str(day) for name, day in dated(old, date(2026, 11, 26)).items()}
    {'poured_on': '2026-11-27', 'drill_on': '2026-11-29'}
    """
    kept = {name: value for name, value in content.items() if name not in {"poured_day", "drill_day"}}
    poured, drilled = (content.get(name) for name in ("poured_day", "drill_day"))
    if poured not in DAYS:
        return kept
    first = today + timedelta(days=(DAYS.index(poured) - today.weekday()) % 7)
    kept.setdefault("poured_on", first)
    if drilled in DAYS:
        kept.setdefault("drill_on", first + timedelta(days=(DAYS.index(drilled) - first.weekday()) % 7))
    return kept


class Conditions(Document):
    """The shop around a casting. Times of day are hours, 18.5 is half past six in the evening."""

    parts_c: float | None = measure(
        "Resin as poured", Dimension.TEMPERATURE, low=0, high=60, default=None, hint="Empty: as the shop"
    )
    mould_c: float | None = measure(
        "Mould", Dimension.TEMPERATURE, low=0, high=80, default=None, hint="Empty: as the shop"
    )
    night_c: float | None = measure(
        "Shop at night", Dimension.TEMPERATURE, low=-10, high=50, default=None, hint="Empty: as by day"
    )
    night_from_h: float = measure("Night from", Dimension.CLOCK, low=12, high=24, default=20)
    night_to_h: float = measure("Night to", Dimension.CLOCK, low=0, high=12, default=7)
    poured_on: date | None = Field(default=None, title="Poured on")
    poured_h: float = measure("Poured at", Dimension.CLOCK, low=0, high=24, default=18)
    drill_on: date | None = Field(default=None, title="To be drilled on")
    drill_h: float = measure("To be drilled at", Dimension.CLOCK, low=0, high=24, default=10)
    warm_c: float | None = measure(
        "Warmed to",
        Dimension.TEMPERATURE,
        low=20,
        high=120,
        default=None,
        hint="A warming plate or an oven, not a food oven; empty: not warmed",
    )
    warm_after_min: float = measure("Warmed after", Dimension.DURATION, low=0, high=10080, default=1440)
    warm_min: float = measure("Warmed for", Dimension.DURATION, low=30, high=4320, default=360)
    humidity_pct: float | None = measure(
        "Shop humidity",
        Dimension.PERCENT,
        low=5,
        high=100,
        default=None,
        hint="Nothing is cooled so far that it gets wet; empty: 60 %, a guess",
    )
    layers: int = measure("Poured in layers", Dimension.COUNT, low=1, high=12, default=1)

    @model_validator(mode="before")
    @classmethod
    def _with_dates(cls, content: Any) -> Any:
        """A job that was written while days were weekdays is dated from today on."""
        if isinstance(content, dict) and ("poured_day" in content or "drill_day" in content):
            return dated(content, date.today())
        return content

    @property
    def drill_after_h(self) -> float | None:
        """Hours from pouring until it is to be drilled; None: as soon as it is ready, or a time before the pour."""
        if self.drill_on is None or self.poured_on is None:
            return None
        hours = 24.0 * (self.drill_on - self.poured_on).days + self.drill_h - self.poured_h
        return hours if hours > 0 else None


class Pot(Document):
    """A pressure pot: its inside and what its plate allows."""

    name: Name = Field(default="Pressure pot", title="Pot")
    diameter_mm: float = measure("Inside diameter", Dimension.LENGTH, low=50, high=1000, default=240)
    height_mm: float = measure("Inside height", Dimension.LENGTH, low=20, high=1000, default=220)
    rated_bar: float = measure("Rated to", Dimension.PRESSURE, low=0.5, high=20, default=4, hint="As its plate says")


class Bubbles(Document):
    """What is done about bubbles: nothing, pressure until gelled, or vacuum before pouring."""

    way: Literal["none", "pressure", "vacuum"] = Field(default="none", title="Against bubbles")
    pressure_bar: float = measure("Pressure, gauge", Dimension.PRESSURE, low=0.1, high=10, default=2.8)
    gauge_bar: float = measure(
        "Vacuum, gauge", Dimension.PRESSURE, low=0.1, high=1.05, default=0.92, hint="Below the air's pressure"
    )
    vessel: VacuumVessel = Field(default="not known", title="Vacuum vessel of")
    vessel_ml: float = measure("Vacuum vessel holds", Dimension.VOLUME, low=50, high=50000, default=2000)


class Paint(Document):
    """Paint inside a barrel, so that the tube does not show."""

    where: Literal["none", "hole", "tube"] = "none"


class CureLog(Document):
    """A cup the maker watched: how much, how warm, when it gelled, how hot it became."""

    resin: Name = Field(title="Resin")
    mass_g: float = measure("In the cup", Dimension.MASS, low=5, high=5000)
    temperature_c: float = measure("At", Dimension.TEMPERATURE, low=0, high=60)
    gel_min: float = measure("Gelled after", Dimension.DURATION, low=0.3, high=20000)
    peak_c: float | None = measure("Hottest", Dimension.TEMPERATURE, low=0, high=260, default=None)
