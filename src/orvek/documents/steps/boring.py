"""A hole bored and filled."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from orvek.documents.steps.parts import Caution, MaterialKey, StepDocument, StepWords, angle, length


class PlugStep(StepDocument):
    """Bore a hole and fill it."""

    title: ClassVar = "Bore and fill"
    caution: ClassVar = Caution(
        "Clamp the bar, never hold it under the drill.",
        "Clamp the bar in a vice on the drill press; back off to clear chips. The press's manual decides.",
    )

    kind: Literal["plug"] = "plug"
    way: Literal["across", "along"] = Field(default="across", title="Bored")
    diameter_mm: float = length("Diameter", low=0.5, high=60, default=4)
    centre_mm: float = length("From the left end", low=-100, high=1000, default=65)
    offset_mm: float = length("Off the axis", low=-50, high=50, default=0)
    azimuth_deg: float = angle("Seen from", default=0)
    material: MaterialKey = Field(default="brass", title="Filled with")

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Fill {words.named(self.material).lower()}"
