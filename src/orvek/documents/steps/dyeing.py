"""Soaked in a colour, or stabilised."""

from typing import ClassVar, Literal

from pydantic import Field

from orvek.documents.base import Colour, measure
from orvek.documents.steps.parts import Caution, StepDocument, length
from orvek.quantities import Dimension


class DyeStep(StepDocument):
    """Soak in a colour, or stabilise: changes how wood looks to a depth, not its shape."""

    title: ClassVar = "Dye or stabilise"
    caution: ClassVar = Caution(
        "Let solvents leave fully before any oven or vacuum.",
        "Dye solvents and stabilisers can catch fire: vent them fully, no food oven, vent outdoors. The product's "
        "safety sheet and the equipment's rating decide.",
    )

    kind: Literal["dye"] = "dye"
    colour: Colour = Field(default="#245b7a", title="Colour")
    depth_mm: float = length("Depth from the faces", low=0.1, high=60, default=60)
    end_depth_mm: float | None = length(
        "Depth from the ends",
        low=0.1,
        high=300,
        default=None,
        hint="End grain takes up more; empty: as the faces",
    )
    carrier: Literal["water", "alcohol", "resin"] = Field(default="water", title="Dye in")
    way: Literal["brushed on", "dipped", "under vacuum"] = Field(default="dipped", title="Applied")
    soaked_min: float = measure("Left in it", Dimension.DURATION, low=0.1, high=60000, default=720)
    seen_mm: float | None = length(
        "Seen at the side when bored", low=0.1, high=60, default=None, hint="How deep the colour really went"
    )
    seen_end_mm: float | None = length("Seen at the end", low=0.1, high=300, default=None)
    strength: float = measure("Strength", Dimension.FRACTION, low=0, high=1, default=0.6)
