"""The maker's drawer of abrasives; an empty one stands for all that are usual."""

from typing import Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension


class Grit(Document):
    """One abrasive: its grain as it begins and, where it breaks down, as it ends, in µm."""

    name: Name = Field(default="P400", title="Abrasive")
    kind: Literal["paper", "pad", "film", "paste", "bar", "polish"] = Field(default="paper", title="Kind")
    start_um: float = measure("Grain", Dimension.GRAIN, low=0.05, high=500, default=35)
    end_um: float = measure("Worn down", Dimension.GRAIN, low=0.05, high=500, default=35)

    @model_validator(mode="after")
    def _wears_finer(self) -> Self:
        if self.end_um > self.start_um:
            raise PydanticCustomError("orvek", "ends coarser than it begins")
        return self
