"""A hole bored and filled: right through, or a pit of a depth."""

from typing import ClassVar, Literal

from pydantic import Field

from orvek.documents.steps.parts import Caution, MaterialKey, StepDocument, StepWords, angle, length


class PlugStep(StepDocument):
    """Bore a hole and fill it, or a natural pit as it is: from the face seen from `azimuth_deg`, or from the left end.

    `deep_mm` counts from the bar's face as it is when all steps are done.
    """

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
    deep_mm: float | None = length("Deep", low=0.2, high=300, default=None, hint="From the bar's face; empty: through")
    long_mm: float | None = length(
        "Long, along the bar", low=0.5, high=300, default=None, hint="Of a pit that is no round hole; empty: round"
    )
    material: MaterialKey = Field(default="brass", title="Filled with")

    @property
    def along_mm(self) -> float:
        """How long it is along the bar, where it is bored across."""
        return self.long_mm or self.diameter_mm

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        pit = f", {words.mm(self.deep_mm)} deep" if self.deep_mm is not None else ""
        return f"Fill {words.named(self.material).lower()}{pit}"
