"""A bar as it was photographed: pictures of its faces, where the bar's corners lie on them, and places marked on it.

Faces are named A to D. Each lies a quarter turn on from the one before: the bar is rolled away from the maker, its
left end stays on the left.
"""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.artwork import Artwork
from orvek.documents.base import Colour, Document, Name, measure
from orvek.quantities import Dimension

# Where each face looks: A is the one that the strip shows, the bar rolled on from there; the width lies across A.
FACES = {"A": 90.0, "B": 180.0, "C": 270.0, "D": 0.0}
SEEN, UNSEEN = "seen ", "not photographed"  # what the keys of a photo's colours begin with, and of a bar without photos
MOST_VIEWS = 6
_LEAST_SHARE = 0.0004  # of the picture: a bar smaller than this is a speck

MOST_CORNERS = 300
_LEAST_MM2 = 100.0  # a slab smaller than this gives no bar
_Along = Annotated[float, Field(ge=-500, le=3500)]
Place = tuple[_Along, _Along]

Part = Annotated[float, Field(ge=-1, le=2)]
Corners = tuple[tuple[Part, Part], tuple[Part, Part], tuple[Part, Part], tuple[Part, Part]]
WHOLE: Corners = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))


def _in_order(corners: Corners) -> Corners:
    """Corners that a flat face can have: from its upper left one on clockwise, none of them bent in."""
    turns = [_turn(corners[n - 2], corners[n - 1], corners[n]) for n in range(4)]
    if not (all(turn > 0 for turn in turns) or all(turn < 0 for turn in turns)):
        raise PydanticCustomError("orvek", "cross, or one of them is bent inwards")
    if turns[0] < 0:
        raise PydanticCustomError("orvek", "go round the wrong way: the picture is mirrored")
    if share_of_picture(corners) < _LEAST_SHARE:
        raise PydanticCustomError("orvek", "lie on one spot")
    return corners


def share_of_picture(corners: Corners) -> float:
    """How much of the picture lies between the corners."""
    ring = pairwise((*corners, corners[0]))
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in ring)) / 2


def is_photo(key: str) -> bool:
    """Whether a material of this key is a colour that a photo shows: what it is made of, nobody knows."""
    return key.startswith(SEEN) or key == UNSEEN


class PhotoView(Document):
    """One picture of the bar, from one side. Its corners are parts of the picture's width and height."""

    artwork: Artwork
    azimuth_deg: float = measure(
        "Seen from", Dimension.ANGLE, low=0, high=359.9, default=90, hint="Face A 90, B 180, C 270, D 0"
    )
    corners: Annotated[Corners, AfterValidator(_in_order)] = Field(default=WHOLE, title="Corners")
    white: Colour | None = Field(default=None, title="What is grey or white")

    @property
    def face(self) -> str:
        """The face's letter; of a round bar the angle it is seen from."""
        return next((face for face, at in FACES.items() if at == self.azimuth_deg), f"{self.azimuth_deg:.0f}°")

    @property
    def order(self) -> float:
        """Which comes first as the bar is rolled on from face A."""
        return (self.azimuth_deg - FACES["A"]) % 360


class Mark(Document):
    """A place on a face: what is to be centred, what must not show, where light comes through."""

    name: Name = Field(default="Mark", title="Mark")
    kind: Literal["centre this", "must not show", "light comes through"] = Field(default="centre this", title="Wish")
    azimuth_deg: float = measure("On the face seen from", Dimension.ANGLE, low=0, high=359.9, default=90)
    z_mm: float = measure("From the left end", Dimension.LENGTH, low=0, high=3000, default=0)
    across_mm: float = measure("Below the middle", Dimension.LENGTH, low=-150, high=150, default=0)
    size_mm: float = measure("Size", Dimension.LENGTH, low=0.2, high=300, default=3)


class Crack(Document):
    """A straight stretch of a slab's upper face that no bar may lie on; places are from its upper left corner."""

    begin_mm: Place = Field(title="Begins")
    end_mm: Place = Field(title="Ends")
    width_mm: float = measure("Width", Dimension.LENGTH, low=0.2, high=100, default=3)


def _ring(outline: tuple[Place, ...]) -> tuple[Place, ...]:
    """An outline that a slab can have: it holds an area, and it does not cross itself."""
    if not outline:
        return outline
    if len(outline) < 3:
        raise PydanticCustomError("orvek", "needs three corners at least")
    sides = tuple(pairwise((*outline, outline[0])))
    for n, (a, b) in enumerate(sides):
        for c, d in sides[n + 2 : len(sides) - (n == 0)]:
            if _turn(a, b, c) * _turn(a, b, d) < 0 and _turn(c, d, a) * _turn(c, d, b) < 0:
                raise PydanticCustomError("orvek", "crosses itself")
    if abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in sides)) / 2 < _LEAST_MM2:
        raise PydanticCustomError("orvek", "holds nothing between its corners")
    return outline


Outline = Annotated[tuple[Place, ...], Field(max_length=MOST_CORNERS), AfterValidator(_ring)]


def _turn(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> float:
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
