"""The job: everything the maker has decided about one batch of blanks."""

from collections.abc import Collection
from datetime import date
from typing import Annotated, Any, Literal, Self
from uuid import uuid4

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, Notes, measure
from orvek.documents.job.blank import Blank
from orvek.documents.job.bore import Bore
from orvek.documents.job.conditions import Paint
from orvek.documents.job.faults import Faults
from orvek.documents.job.finish import Finish
from orvek.documents.job.glue_up import GlueUp
from orvek.documents.job.order import Orders
from orvek.documents.job.pour import Pour
from orvek.documents.job.soak import Soak
from orvek.documents.job.work import Work
from orvek.documents.shelf.pen import Barrel, Pen
from orvek.documents.steps import CastStep, PhotoStep
from orvek.quantities import Dimension

MOST_PICTURES_BYTES = 280 * 1024 * 1024


def new_id() -> str:
    """A fresh job id: 12 hexadecimal digits, short enough for a card."""
    return uuid4().hex[:12]


class Batch(Document):
    """Which job this is and how much of it is wanted."""

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{12}$")] = Field(default_factory=new_id)
    name: Name = Field(default="New job", title="Job")
    made: Literal["pens", "bars"] = Field(default="pens", title="Made")
    pens_wanted: int = measure("Good pens wanted", Dimension.COUNT, low=1, high=1000, default=1)
    spoilage_pct: float | None = measure(
        "Scrap rate",
        Dimension.PERCENT,
        low=0,
        high=90,
        default=10,
        hint="Empty: from records",
    )
    chance_pct: float = measure(
        "Chance of enough good ones",
        Dimension.PERCENT,
        low=50,
        high=99.9,
        default=90,
        hint="90: in 9 cases of 10 the bars you start give the pens you want",
    )
    shop_temperature_c: float = measure("Shop temperature", Dimension.TEMPERATURE, low=-10, high=50, default=21)
    notes: Notes = ""

    @model_validator(mode="before")
    @classmethod
    def _spoilage_in_one(cls, content: Any) -> Any:
        """A job that was written while a word beside the number chose the record leaves the number empty for it."""
        if isinstance(content, dict) and "spoilage_by" in content:
            kept = {key: value for key, value in content.items() if key != "spoilage_by"}
            return {**kept, "spoilage_pct": None} if content["spoilage_by"] == "your record" else kept
        return content


USUAL_WOOD = "bigleaf-maple"  # where neither the blank nor Soak names one


class Job(Document):
    """One batch of blanks of one design, for one pen. Immutable: a deed makes a new one."""

    batch: Batch = Field(default_factory=Batch)
    pen: Pen | None = None
    blank: Blank = Blank()
    pour: Pour = Pour()
    glue_up: GlueUp = GlueUp()
    bore: Bore = Bore()
    soak: Soak = Soak()
    finish: Finish = Finish()
    faults: Faults = Faults()
    work: Work = Work()
    orders: Orders = ()

    @model_validator(mode="after")
    def _pictures_can_be_carried(self) -> Self:
        """A job file carries all its pictures: what could not be read again is not taken in."""
        photos = [photo.artwork for photo in self.work.photos]
        for step in self.blank.steps:
            if isinstance(step, PhotoStep):
                photos += [view.artwork for view in (*step.views, *step.against_light)]
        size = sum(len(artwork.content) for artwork in photos)
        if size > MOST_PICTURES_BYTES:
            told = {"there": size >> 20, "most": MOST_PICTURES_BYTES >> 20}
            raise PydanticCustomError("orvek", "has photos of {there} MB together, and keeps {most}; remove some", told)
        return self

    @property
    def makes_bars(self) -> bool:
        """Whether the blank itself is what is made: squared, labelled and sold, never bored or turned."""
        return self.batch.made == "bars"

    @property
    def thing(self) -> str:
        """What one of the batch is called."""
        return "bar" if self.makes_bars else "pen"

    @property
    def promised(self) -> date | None:
        """The day by which something of it is promised: the whole job, or an order that is not delivered."""
        days = [order.promised for order in self.orders if order.promised is not None and not order.is_delivered]
        return min([*days, *([self.work.promised] if self.work.promised is not None else [])], default=None)

    @property
    def agreed_price(self) -> float | None:
        """What a pen is sold for: the price of all orders that have one; None without one, and where they differ."""
        prices = {order.price for order in self.orders if order.price is not None}
        return prices.pop() if len(prices) == 1 else None

    @property
    def laid(self) -> tuple[Barrel, ...]:
        """The pen's barrels as they lie on the bar, some of them end for end; none without a pen."""
        barrels = self.pen.barrels if self.pen else ()
        return tuple(one.end_for_end() if self.blank.is_flipped(n) else one for n, one in enumerate(barrels))

    @property
    def treated_wood(self) -> str:
        """The key of the wood that is treated: as Soak says, else the blank's first."""
        return self.soak.wood.species or next(iter(self.blank.woods), USUAL_WOOD)

    def painted(self, barrels: Collection[int], where: str) -> tuple[Paint, ...]:
        """How the pen's barrels are painted when some of them are painted there."""
        count = len(self.pen.barrels) if self.pen else 0
        return tuple(Paint(where=where) if n in barrels else self.blank.paint(n) for n in range(count))

    @property
    def cast_index(self) -> int | None:
        """Where in the list of steps the cups are poured; None for a blank that is not cast."""
        return next((n for n, step in enumerate(self.blank.steps) if isinstance(step, CastStep)), None)

    @property
    def cast(self) -> CastStep:
        """The step that pours the cups; one without cups for a blank that is not cast."""
        return next((step for step in self.blank.steps if isinstance(step, CastStep)), CastStep())
