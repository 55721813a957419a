"""The house methods of gluing, as they ship: how long each stays open, when it can be handled, what it is for."""

import json
from functools import cache
from importlib import resources
from typing import Self

from pydantic import Field

from orvek.documents.base import Document, Name, Notes, measure
from orvek.quantities import Dimension

_SETS_AT_ONCE_MIN, _HOLDS_MIN = 0.08, 0.5  # with activator: some five seconds to align; then it is let go of


class Glue(Document):
    """One kind of glue; times at about 20 °C."""

    key: Name = Field(title="Glue")
    gap_mm: float = measure("Fills gaps up to", Dimension.LENGTH, low=0.01, high=5)
    open_min: float = measure("Stays open", Dimension.DURATION, low=0.01, high=600)
    handle_min: float = measure("Holds after", Dimension.DURATION, low=0.01, high=6000)
    full_min: float = measure("Full strength after", Dimension.DURATION, low=1, high=20000)
    density_g_ml: float = measure("Density", Dimension.DENSITY, low=0.5, high=2.5, default=1.1)
    b_per_a: float | None = measure(
        "Part B for each gram of A", Dimension.RATIO, low=0.02, high=10, default=None, hint="Empty: one part"
    )
    activator: bool = Field(default=False, title="Takes an activator")
    for_metal: bool = Field(default=True, title="Holds metal")
    note: Notes = Field(default="", title="Good for")
    caution: Notes = Field(default="", title="What can hurt", description="As its safety sheet says")

    @property
    def name(self) -> str:
        """What it is called on the shelf: glues have no other key."""
        return self.key

    def with_activator(self) -> Self:
        """This glue where activator waits on the other face: it sets as soon as they meet (workshop practice)."""
        if not self.activator:
            return self
        return self.with_(open_min=min(self.open_min, _SETS_AT_ONCE_MIN), handle_min=min(self.handle_min, _HOLDS_MIN))

    @property
    def can_hurt(self) -> str:
        """What stands where it is used: the glue's own caution, or what goes for any glue."""
        return self.caution or "Gloves, glasses and air: the glue's own safety sheet decides."


@cache
def glues() -> tuple[Glue, ...]:
    """All glues, the fastest first."""
    text = resources.files("orvek.data").joinpath("glues.json").read_text(encoding="utf-8")
    return tuple(Glue.model_validate(item) for item in json.loads(text)["glues"])
