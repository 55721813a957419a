"""What steps are made of: materials by their keys, layers, and sizes with their bounds."""

from collections.abc import Callable
from typing import Annotated, Any, ClassVar, Literal, NamedTuple, Self

from pydantic import BeforeValidator, Field

from orvek.documents.base import Document, measure, one_line
from orvek.quantities import Dimension, Units, write

MOST_CUPS = 8


LEAST_SLICE_MM = 0.5


MaterialKey = Annotated[
    str, Field(min_length=1, max_length=60, json_schema_extra={"editor": "material"}), BeforeValidator(one_line)
]


class Caution(NamedTuple):
    """What can hurt at a step: in a few words, and in full."""

    short: str
    full: str


AT_THE_SAW = Caution(
    "In a sled or clamp, never by hand near the blade.",
    "Small parts kick back: hold them in a sled or clamp with the guard on. The saw's manual and local rules decide.",
)


class StepWords(NamedTuple):
    """What a step needs to speak: the maker's units, and the name of a material by its key."""

    units: Units | None
    named: Callable[[str], str]

    def mm(self, length_mm: float) -> str:
        """A length as the maker reads it."""
        return write(length_mm, Dimension.LENGTH, self.units)


class StepDocument(Document):
    """What every kind of step has beside its values: a name for the maker, and a caution where it can hurt."""

    title: ClassVar[str]
    caution: ClassVar[Caution | None] = None

    @classmethod
    def new(cls) -> Self:
        """The step as it is added: its defaults."""
        return cls()

    def line(self, _words: StepWords) -> str:
        """The step in a few words."""
        return self.title


def length(title: str, *, low: float = 0, high: float = 300, default: Any = ..., hint: str = "") -> Any:
    """A length in mm with its bounds."""
    return measure(title, Dimension.LENGTH, low=low, high=high, default=default, hint=hint)


def angle(title: str, *, low: float = -360, high: float = 360, default: Any = ..., hint: str = "") -> Any:
    """An angle in degrees with its bounds."""
    return measure(title, Dimension.ANGLE, low=low, high=high, default=default, hint=hint)


class Layer(Document):
    """One layer of a sheet, a laminate or a stack."""

    material: MaterialKey = Field(title="Material")
    thickness_mm: float = length("Thickness", low=0.05, high=300)


Layers = Annotated[tuple[Layer, ...], Field(min_length=1, max_length=24)]


Sheet = Annotated[tuple[Layer, ...], Field(max_length=9)]
# Several layers are glued one by one, or were bought bonded: then glue goes on the two outsides only.
SheetForm = Literal["single layers", "one bonded sheet"]
