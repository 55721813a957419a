"""A bar that lies on the bench, as photos of its faces show it."""

import math
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.photo import MOST_VIEWS, Crack, Mark, Outline, PhotoView
from orvek.documents.steps.parts import StepDocument, StepWords, length

MOST_MARKS = 60
MadeOf = Literal[
    "not said", "wood", "stabilised wood", "burl or spalted wood", "resin", "wood and resin", "glued layers",
    "compressed fibre", "bone, horn or antler",
]  # fmt: skip


def _each_once(views: tuple[PhotoView, ...]) -> tuple[PhotoView, ...]:
    sides = [view.azimuth_deg for view in views]
    twice = next((view for view in views if sides.count(view.azimuth_deg) > 1), None)
    if twice is not None:
        raise PydanticCustomError("orvek", "have face {face} twice", {"face": twice.face})
    return views


Views = Annotated[tuple[PhotoView, ...], Field(max_length=MOST_VIEWS), AfterValidator(_each_once)]


class PhotoStep(StepDocument):
    """Take a bar as it is and as its photos show it. What lies inside is supposed from the nearest face."""

    title: ClassVar = "A bar as photographed"

    kind: Literal["photo"] = "photo"
    length_mm: float = length("Length", low=10, high=3000, default=130, hint="Measured with calipers")
    width_mm: float = length("Width, or diameter", low=3, default=20, hint="Across face A")
    depth_mm: float = length("Depth", low=3, default=20, hint="From face A to face C")
    form: Literal["rectangular", "round"] = Field(default="rectangular", title="Section")
    made_of: MadeOf = Field(default="not said", title="Made of")
    views: Views = Field(default=(), title="Photos")
    against_light: Views = Field(default=(), title="Photos against the light")
    marks: Annotated[tuple[Mark, ...], Field(max_length=MOST_MARKS)] = Field(default=(), title="Marks")
    outline: Outline = Field(default=(), title="Outline")
    cracks: Annotated[tuple[Crack, ...], Field(max_length=MOST_MARKS)] = Field(default=(), title="Cracks")

    def across_mm(self, azimuth_deg: float) -> float:
        """How wide the bar is, seen from a side."""
        if self.form == "round":
            return self.width_mm
        turn = math.radians(azimuth_deg)
        return abs(math.sin(turn)) * self.width_mm + abs(math.cos(turn)) * self.depth_mm

    def called(self, view: PhotoView) -> str:
        """What a view is called: a face by its letter, of a round bar the angle it is seen from."""
        return f"{view.azimuth_deg:.0f}°" if self.form == "round" else view.face

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        faces = ", ".join(self.called(view) for view in self.views)
        size = f"{words.mm(self.length_mm)} × {words.mm(self.width_mm)}"
        return f"Bar as photographed, {size}: {faces or 'no photo yet'}"
