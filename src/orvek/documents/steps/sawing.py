"""Steps at the saw: a cut and its sheet, an arc, slices, a rip."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from orvek.documents.steps.parts import (
    AT_THE_SAW,
    LEAST_SLICE_MM,
    Layer,
    MaterialKey,
    Sheet,
    SheetForm,
    StepDocument,
    StepWords,
    angle,
    length,
)
from orvek.quantities import decimal


class CutStep(StepDocument):
    """Saw through at an angle and let a sheet in. Angle 90 is straight across."""

    title: ClassVar = "Cut and inlay a sheet"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["cut"] = "cut"
    angle_deg: float = angle("Angle to the axis", low=8, high=90, default=35)
    azimuth_deg: float = angle("Face", default=0)
    centre_mm: float = length("Centre from the left end", low=-100, high=1000, default=65)
    kerf_mm: float = length("Kerf", low=0.1, high=20, default=2)
    sheet: Sheet = Field(title="Sheet", default=())
    sheet_form: SheetForm = Field(default="single layers", title="Layers")
    register_by: Literal["coaxial", "normal"] = Field(default="coaxial", title="Halves kept")
    glue_mm: float = length("Glue line", high=2, default=0.0)
    tab_mm: float = length("Tab left", high=30, default=0)
    slip_mm: float = length("The joint slipped by", low=-5, high=5, default=0, hint="Down the slope of the cut")

    @classmethod
    def new(cls) -> Self:
        """Cut, with a sheet in it."""
        return cls(sheet=(Layer(material="holly", thickness_mm=2.0),))

    def line(self, _words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Cut {decimal(self.angle_deg)}° · {decimal(self.azimuth_deg)}°"


class ArcStep(StepDocument):
    """Saw along an arc and let a bent sheet in."""

    title: ClassVar = "Arc and inlay a sheet"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["arc"] = "arc"
    radius_mm: float = length("Radius", low=5, high=500, default=28)
    distance_mm: float = length("Centre from the axis", low=0, high=600, default=30)
    azimuth_deg: float = angle("Face", default=0)
    centre_mm: float = length("Centre from the left end", low=-100, high=1000, default=65)
    kerf_mm: float = length("Kerf", low=0.1, high=20, default=2)
    sheet: Sheet = Field(title="Sheet", default=())
    sheet_form: SheetForm = Field(default="single layers", title="Layers")
    glue_mm: float = length("Glue line", high=2, default=0.0)

    @classmethod
    def new(cls) -> Self:
        """Cut, with a sheet in it."""
        return cls(sheet=(Layer(material="brass", thickness_mm=2.0),))

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Arc {words.mm(self.radius_mm)} · {decimal(self.azimuth_deg)}°"


class SliceStep(StepDocument):
    """Crosscut the bar into slices and turn every other one."""

    title: ClassVar = "Crosscut and turn"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["slice"] = "slice"
    pitch_mm: float = length("Slice", low=LEAST_SLICE_MM, high=200, default=8)
    angle_deg: float = angle("Angle to the axis", low=20, high=90, default=90)
    azimuth_deg: float = angle("Face", default=0)
    kerf_mm: float = length("Kerf", low=0, high=20, default=2)
    turn: Literal["90", "180", "end for end"] = Field(default="180", title="Every other slice turned")
    glue_mm: float = length("Glue line", high=5, default=0.05)
    spacer: MaterialKey = Field(default="glue", title="Between the slices")


class RipStep(StepDocument):
    """Rip the bar along its axis and flip one half."""

    title: ClassVar = "Rip and flip"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["rip"] = "rip"
    azimuth_deg: float = angle("Plane seen from", default=0)
    kerf_mm: float = length("Kerf", low=0, high=20, default=2)
    flip: Literal["end for end", "face for face"] = Field(default="end for end", title="One half flipped")
    shift_mm: float = length("That half slid along by", low=-100, high=100, default=0, hint="Until the lines meet")
