"""A printed sheet wrapped round a core, and the picture on it."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Colour, Document, Name, measure
from orvek.documents.steps.parts import MaterialKey, StepDocument, length
from orvek.quantities import Dimension


class Print(Document):
    """A small picture to print: colours, and rows of hexadecimal digits that name them.

    A row runs along the bar; the rows go once round it (or `around` times).
    """

    name: Name = Field(default="Picture", title="Picture")
    colours: Annotated[tuple[Colour, ...], Field(min_length=1, max_length=16)]
    rows: Annotated[
        tuple[Annotated[str, Field(pattern=r"^[0-9a-f]{1,128}$")], ...], Field(min_length=1, max_length=128)
    ]

    @model_validator(mode="after")
    def _is_a_rectangle_of_its_colours(self) -> Self:
        if len({len(row) for row in self.rows}) > 1:
            raise PydanticCustomError("orvek", "has rows of different lengths")
        if max(int(digit, 16) for row in self.rows for digit in row) >= len(self.colours):
            raise PydanticCustomError("orvek", "names a colour that it does not have")
        return self


class WrapStep(StepDocument):
    """Wrap a printed sheet round a core and cast over it, or coat it."""

    title: ClassVar = "A printed sheet round a core"

    kind: Literal["wrap"] = "wrap"
    core: MaterialKey = Field(default="hard-maple", title="Core")
    core_mm: float = length("Core, diameter", low=2, high=100, default=10.5)
    sheet_mm: float = length("Sheet, thickness", low=0.02, high=2, default=0.1)
    pattern: Literal["bands", "checks", "waves", "picture"] = Field(default="waves", title="Printed with")
    around: int = measure("Repeats around", Dimension.COUNT, low=1, high=36, default=4)
    pitch_mm: float = length("Repeat along", low=1, high=200, default=14)
    one: MaterialKey = Field(default="paper", title="One colour")
    other: MaterialKey = Field(default="red-composite", title="The other")
    over: MaterialKey = Field(default="clear-resin", title="Clear over it")
    picture: Print | None = None
