"""Steps that make a bar of solid pieces: one bar, strips, pieces end to end, staves."""

from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.base import measure
from orvek.documents.steps.parts import (
    LEAST_SLICE_MM,
    Layer,
    Layers,
    MaterialKey,
    StepDocument,
    StepWords,
    angle,
    length,
)
from orvek.quantities import Dimension


class SolidStep(StepDocument):
    """Take a bar of one material."""

    title: ClassVar = "A bar of one material"

    kind: Literal["solid"] = "solid"
    material: MaterialKey = Field(default="pear", title="Material")
    grain_deg: float = angle("Grain against the axis", low=-90, high=90, default=0)

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"{words.named(self.material)} bar"


_STRIPES = (Layer(material="hard-maple", thickness_mm=7), Layer(material="black-walnut", thickness_mm=6))


class LaminateStep(StepDocument):
    """Glue strips side by side: along the bar, or at an angle to it."""

    title: ClassVar = "Strips side by side"

    kind: Literal["laminate"] = "laminate"
    strips: Layers = Field(title="Strips", default=_STRIPES)
    angle_deg: float = angle("Strips against the axis", low=0, high=90, default=0)
    azimuth_deg: float = angle("Across, seen from", default=0)
    glue_mm: float = length("Glue line", high=2, default=0.05)


_PIECES = (Layer(material="black-walnut", thickness_mm=66), Layer(material="hard-maple", thickness_mm=66))


class StackStep(StepDocument):
    """Glue pieces end to end."""

    title: ClassVar = "Pieces end to end"

    kind: Literal["stack"] = "stack"
    pieces: Layers = Field(title="Pieces", default=_PIECES)
    glue_mm: float = length("Glue line", high=2, default=0.05)


def _not_a_sliver(ring_mm: float) -> float:
    if 0 < ring_mm < LEAST_SLICE_MM:
        raise PydanticCustomError("orvek", "is too thin to saw: 0 for not sawn, else 0.5 mm and more")
    return ring_mm


class StavesStep(StepDocument):
    """Glue staves about the axis, like a barrel; a twist turns their joints along the bar.

    Staves as thick as half the bar meet in the middle; thinner ones leave a hole, which narrows or widens along the
    bar where they are tapered. Taper changes how they are sawn and the hole, not the lines on the outside: joints are
    planes through the axis.
    """

    title: ClassVar = "Staves about the axis"

    kind: Literal["staves"] = "staves"
    materials: Annotated[tuple[MaterialKey, ...], Field(min_length=1, max_length=12)] = ("hard-maple", "black-walnut")
    count: int = measure("Staves", Dimension.COUNT, low=3, high=36, default=8)
    twist_deg: float = angle("Twist over 100 mm", default=0)
    ring_mm: Annotated[float, AfterValidator(_not_a_sliver)] = length(
        "Sawn into rings of", high=200, default=0, hint="0: not sawn; else 0.5 mm and more"
    )
    ring_turn_deg: float = angle("Each ring turned by", default=22.5)
    glue_mm: float = length("Glue line", high=2, default=0.05)
    thickness_mm: float = length("Staves, thickness", high=100, default=0, hint="0: they meet in the middle")
    taper_deg: float = angle("Staves lean to the axis by", low=-20, high=20, default=0)
    inside: MaterialKey = Field(default="air", title="Inside them")
