"""What was read of a barrel in its holding: whether it runs true, by four angles at either end, or by looking."""

from typing import Literal

from pydantic import Field

from orvek.documents.base import Document, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
ANGLES = ("at_0_mm", "at_90_mm", "at_180_mm", "at_270_mm")


class Round(Document):
    """One round of readings at one end, a quarter turn apart from the mark on the holding."""

    at_0_mm: float | None = measure("At the mark", _MM, low=-30, high=60, default=None)
    at_90_mm: float | None = measure("A quarter on", _MM, low=-30, high=60, default=None)
    at_180_mm: float | None = measure("Half way round", _MM, low=-30, high=60, default=None)
    at_270_mm: float | None = measure("Three quarters", _MM, low=-30, high=60, default=None)

    @property
    def read(self) -> tuple[float, ...]:
        """What was read so far, in the order of the angles."""
        every = (getattr(self, name) for name in ANGLES)
        return tuple(value for value in every if value is not None)


class Truing(Document):
    """One barrel as it is held. The left end is at the headstock."""

    by: Literal["a dial", "the wall, by calipers"] = Field(default="a dial", title="Read with")
    left: Round = Round()
    right: Round = Round()
    left_turned: Round = Round()  # the barrel turned half round in its holding
    right_turned: Round = Round()
    lip: Literal["not felt for", "none", "stays with the bushing", "goes round with the barrel", "does both"] = Field(
        default="not felt for", title="A lip at the bushing"
    )
    centres: Literal["not looked at", "meet tip to tip", "do not meet"] = Field(
        default="not looked at", title="The two centres"
    )

    @property
    def is_begun(self) -> bool:
        """Whether anything was read or felt."""
        return self != Truing(by=self.by)
