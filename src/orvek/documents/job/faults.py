"""What went wrong on a blank, where, what was seen, and which way out was taken by whom."""

from typing import Annotated, Literal, get_args

from pydantic import Field

from orvek.documents.base import Document, Name, Notes, Words, measure
from orvek.documents.shelf.pen import MOST_BARRELS
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
MOST_FAULTS = 60
OWN_DUST = "dust of the same mix"  # a fill that is not to be seen

Look = Literal[
    "at an edge or end",
    "a hump where materials change",
    "the bushing was struck",
    "chips packed in the hole",
    "bare brass under it",
    "it was hot",
]


def looks() -> tuple[Look, ...]:
    """All that may be seen of a fault."""
    return get_args(Look)


class Fault(Document):
    """One fault: its place on a barrel as it lies on the strip, its size, when it came, what was decided.

    `at_mm` counts from the barrel's left end to the middle of the flaw, `long_mm` along the barrel, `wide_mm` round it.
    """

    kind: Name = Field(default="chip at an end", title="What")
    blank_no: int = measure("On blank number", Dimension.COUNT, low=1, high=2000, default=1)
    barrel: int = Field(default=0, ge=0, lt=MOST_BARRELS, json_schema_extra={"editor": "none"})
    at_mm: float = measure("From its left end", _MM, low=0, high=300, default=2)
    azimuth_deg: float = measure("Round it at", Dimension.ANGLE, low=-360, high=360, default=0)
    long_mm: float = measure("Long, along the barrel", _MM, low=0.1, high=300, default=3)
    wide_mm: float = measure("Wide, round it", _MM, low=0.1, high=100, default=2)
    deep_mm: float = measure("Deep", _MM, low=0.05, high=50, default=0.8)
    moment: Literal[
        "sawing", "boring", "gluing the tube", "squaring", "turning", "sanding", "coating", "pressing", "later"
    ] = Field(default="turning", title="Came while")
    piece: Literal["lost", "found"] = Field(default="lost", title="The piece is")
    fill: Name = Field(default=OWN_DUST, title="Filled with")
    looks: Annotated[tuple[Look, ...], Field(max_length=6)] = ()
    way: Words = ""
    decided_by: Words = Field(default="", title="Decided by")
    parked: Words = Field(default="", title="Put aside because")
    judged: Literal[
        "not looked at", "not to be seen", "to be seen in slanting light", "to be seen at arm's length"
    ] = Field(default="not looked at", title="The mend, looked at")  # fmt: skip
    note: Notes = ""


class Faults(Document):
    """All that went wrong in a job."""

    found: Annotated[tuple[Fault, ...], Field(max_length=MOST_FAULTS)] = ()
