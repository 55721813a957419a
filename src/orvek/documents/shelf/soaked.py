"""What the shop saw of wood that was dried, soaked and dyed: one line an observation, the next job's default."""

from typing import Literal

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.documents.steps.parts import MaterialKey
from orvek.quantities import Dimension

Seen = Literal["uptake, % of the possible", "drying, hours", "core, min", "dye at the side, mm", "dye at the end, mm"]
UPTAKE: Seen = "uptake, % of the possible"
DRYING: Seen = "drying, hours"
CORE: Seen = "core, min"
DYE_SIDE: Seen = "dye at the side, mm"
DYE_END: Seen = "dye at the end, mm"


class Observation(Document):
    """One thing that was seen: of which wood, which carrier where it is a dye, and what the calculation had said."""

    name: Name = Field(default="Seen", title="Which")
    seen: Seen = Field(default=UPTAKE, title="What")
    species: MaterialKey = Field(default="bigleaf-maple", title="Wood")
    carrier: Words = Field(default="", title="Carrier of the dye")
    value: float = measure("Seen", Dimension.RATIO, low=0.001, high=100000, default=1)
    expected: float = measure("Calculated", Dimension.RATIO, low=0.001, high=100000, default=1)
