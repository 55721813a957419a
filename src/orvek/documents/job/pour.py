"""What is poured, into what, and how it is weighed."""

from typing import ClassVar, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.documents.job.conditions import Bubbles, Conditions, Pot
from orvek.documents.shelf.mould import Mould
from orvek.documents.shelf.plugged_in import Baud, PluggedIn
from orvek.documents.shelf.resin import Resin
from orvek.quantities import Dimension


class Scale(PluggedIn):
    """A weighing scale: the smallest step it shows and the most it carries."""

    placeholder: ClassVar = "weight"

    name: Name = Field(title="Scale")
    resolution_g: float = measure("Shows steps of", Dimension.MASS, low=0.0001, high=100)
    capacity_g: float = measure("Carries up to", Dimension.MASS, low=1, high=100000, default=500)
    plugged_in_at: Words = Field(default="", title="Plugged in at", description="Empty: it is read by eye")
    baud: Baud = Field(default="9600", title="Line speed")
    line: Words = Field(
        default="",
        title="Sample line",
        description="Empty: the usual ones. Otherwise one of its lines, with {weight} where the number stands",
    )


class Insert(Document):
    """What already lies in each cavity before the resin goes in: wood, a core, chips."""

    volume_ml: float | None = measure(
        "Volume in each cavity",
        Dimension.VOLUME,
        low=0,
        high=5000,
        default=None,
        hint="By displacement: hung in water on the scale, its reading in g is the volume in ml",
    )
    mass_g: float | None = measure("… or its mass", Dimension.MASS, low=0.1, high=10000, default=None)
    density_g_ml: float | None = measure(
        "… and its density", Dimension.DENSITY, low=0.05, high=25, default=None, hint="Wood varies by 5 to 10 %"
    )
    moisture_pct: float | None = measure(
        "Moisture of it", Dimension.PERCENT, low=0, high=60, default=None, hint="Of the dry mass, by meter or oven"
    )
    faces: Literal["not said", "sealed", "bare and warm", "stabilised"] = Field(
        default="not said",
        title="Faces",
        description="Sealed: no bubbles. Bare and warm: resin goes in, bubbles come out. Stabilised: both",
    )
    void_fraction: float = measure(
        "Pores of it", Dimension.FRACTION, low=0, high=0.95, default=0.6, hint="1 − oven-dry density / 1.50"
    )
    soak_fraction: float = measure(
        "Pores that fill",
        Dimension.FRACTION,
        low=0,
        high=1,
        default=0.02,
        hint="Sealed 0 to 0.02, sound and unsealed 0.05 to 0.15, punky under pressure 0.2 to 0.5 (a guess)",
    )


class Pour(Document):
    """Mould, resin and the habits of mixing for this job."""

    mould: Mould | None = None
    resin: Resin | None = None
    insert: Insert | None = None
    overage_pct: float = measure(
        "Overage",
        Dimension.PERCENT,
        low=0,
        high=100,
        default=8,
        hint="Mixed beyond the mould's volume, for overfilling",
    )
    cup_residue_g: float = measure(
        "Left in each cup",
        Dimension.MASS,
        low=0,
        high=100,
        default=4,
        hint="Clings to cup and stick: 3 to 8 g",
    )
    scale: Scale = Scale(name="Bench scale", resolution_g=0.1, capacity_g=500)
    weighing: Literal["tared", "cumulative"] = Field(
        default="tared", title="Weighing", description="Press tare before each part, or read the running sum"
    )
    dose_tolerance_pct: float = measure(
        "Colour doses within", Dimension.PERCENT, low=0.5, high=50, default=5, hint="Closer than the eye sees"
    )
    mix_min_per_cup: float = measure(
        "Stirring a cup",
        Dimension.DURATION,
        low=0.1,
        high=60,
        default=3,
        hint="Hardener in and stirred to the corners",
    )
    pour_s_per_bar: float = measure("Seconds to pour a bar", Dimension.RATIO, low=1, high=3600, default=20)
    conditions: Conditions = Conditions()
    bubbles: Bubbles = Bubbles()
    pot: Pot | None = None
    most_bars_at_once: int | None = measure(
        "Most bars in one casting",
        Dimension.COUNT,
        low=1,
        high=500,
        default=None,
        hint="Empty: as the mould",
    )
