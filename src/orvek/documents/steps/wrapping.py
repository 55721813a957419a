"""A printed sheet wrapped round a core, and the picture on it."""

from typing import Any, ClassVar, Literal

from pydantic import Field, model_validator

from orvek.documents.artwork import Artwork
from orvek.documents.base import measure
from orvek.documents.steps.parts import MaterialKey, StepDocument, angle, length
from orvek.quantities import Dimension


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
    artwork: Artwork | None = Field(default=None, title="Picture")
    stands: Literal["along the bar", "round the bar"] = Field(default="along the bar", title="The picture runs")
    times: Literal["repeated", "once"] = Field(default="repeated", title="Along the bar it is")
    shift_mm: float = length("Begins at", low=-1000, high=1000, default=0, hint="From the bar's left end")
    seam_deg: float = angle("Seam at", default=0, hint="Where the sheet's edges meet; best under the clip")
    covered: Literal["cast over", "coated"] = Field(default="cast over", title="Covered by")
    overlap_mm: float = length("Edges overlap by", low=0, high=20, default=1, hint="0.5 to 1.5 mm")
    bleed_mm: float = length("More at each end", low=0, high=30, default=3, hint="Sanded off with the ends")

    @model_validator(mode="before")
    @classmethod
    def _picture_before(cls, value: Any) -> Any:
        """A job that was written while pictures were kept as dots calls its artwork a picture."""
        if isinstance(value, dict) and "picture" in value:
            value = dict(value)
            value.setdefault("artwork", value["picture"])
            del value["picture"]
        return value
