"""The pen that a blank is made for: its barrels, their tubes, bits and finished outline."""

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, field_validator, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, Words, measure
from orvek.documents.shelf.writing import Writing
from orvek.quantities import Dimension

MOST_BARRELS, MOST_POINTS, MOST_PARTS = 4, 16, 30


class OutlinePoint(Document):
    """A place on a barrel between its ends, as a part of the tube's length from the left, and the diameter there."""

    at: Annotated[float, Field(gt=0, lt=1)]
    diameter_mm: float = measure("Finished there", Dimension.LENGTH, low=3, high=60)


class Barrel(Document):
    """One brass tube and what is turned on it. "Left" is the nib side, as the barrel lies on the strip.

    A barrel without a tube is as long as `tube_length_mm` says; one on a pin has a hole of the pin's size, and
    `tube_diameter_mm` is the pin's.
    """

    name: Name = Field(title="Name")
    tube_length_mm: float = measure("Tube length", Dimension.LENGTH, low=5, high=250)
    tube_diameter_mm: float = measure("Tube, outside", Dimension.LENGTH, low=2, high=40)
    bit_diameter_mm: float = measure("Drill bit", Dimension.LENGTH, low=2, high=42)
    finished_left_mm: float = measure("Finished, left end", Dimension.LENGTH, low=3, high=60)
    finished_right_mm: float = measure("Finished, right end", Dimension.LENGTH, low=3, high=60)
    trim_mm: float = measure(
        "Trim at each end",
        Dimension.LENGTH,
        low=0,
        high=20,
        default=1.5,
        hint="Left proud of the tube and squared off after gluing: 2 to 4 mm in all, 6 and more for fragile stock",
    )
    play_mm: float | None = measure(
        "May become shorter by",
        Dimension.LENGTH,
        low=0,
        high=30,
        default=None,
        hint="How much the pen's mechanism lets this barrel lose in all; empty: not known",
    )

    inside: Literal["a brass tube", "no tube", "a pin"] = Field(default="a brass tube", title="In its hole")
    hole_depth_mm: float | None = measure(
        "Hole, deep", Dimension.LENGTH, low=1, high=250, default=None, hint="Empty: right through"
    )
    hole_end: Literal["left", "right"] = Field(default="left", title="A hole that stops begins at the")
    wide_bit_mm: float | None = measure(
        "Stepped up to", Dimension.LENGTH, low=2, high=42, default=None, hint="A wider hole at one end; empty: none"
    )
    wide_depth_mm: float = measure("Stepped up, deep", Dimension.LENGTH, low=0.5, high=250, default=10)
    wide_end: Literal["left", "right"] = Field(default="right", title="Stepped up at the")
    set_back_mm: float = measure(
        "Tube set back there", Dimension.LENGTH, low=0, high=200, default=0, hint="The tube is cut shorter by this"
    )
    bushing_left_mm: float | None = measure(
        "Bushing, left", Dimension.LENGTH, low=3, high=60, default=None, hint="By calipers; empty: as finished"
    )
    bushing_right_mm: float | None = measure(
        "Bushing, right", Dimension.LENGTH, low=3, high=60, default=None, hint="By calipers; empty: as finished"
    )
    pilot_mm: float | None = measure(
        "End mill's pilot",
        Dimension.LENGTH,
        low=1,
        high=42,
        default=None,
        hint="Empty: as the tube inside",
    )
    outline: Annotated[tuple[OutlinePoint, ...], Field(max_length=MOST_POINTS)] = ()

    @field_validator("outline")
    @classmethod
    def _from_left_to_right(cls, points: tuple[OutlinePoint, ...]) -> tuple[OutlinePoint, ...]:
        if any(after.at <= before.at for before, after in pairwise(points)):
            raise PydanticCustomError("order", "has points that do not go from left to right")
        return points

    @model_validator(mode="after")
    def _step_within(self) -> Self:
        if self.wide_bit_mm is not None and self.wide_bit_mm <= self.bit_diameter_mm:
            raise PydanticCustomError("orvek", "is stepped up to a bit that is no wider than its drill bit")
        if self.hole_depth_mm is not None and self.hole_depth_mm > self.tube_length_mm:
            raise PydanticCustomError("orvek", "has a hole deeper than it is long; leave its depth empty")
        if self.set_back_mm >= self.tube_length_mm or self.wide_depth_mm > 250:
            raise PydanticCustomError("orvek", "has its tube set back by all its length")
        return self

    @property
    def has_tube(self) -> bool:
        """Whether a brass tube is glued in."""
        return self.inside == "a brass tube"

    @property
    def piece_mm(self) -> float:
        """What is sawn for it: the tube, and what is left proud at both ends."""
        return self.tube_length_mm + 2 * self.trim_mm

    @property
    def is_through(self) -> bool:
        """Whether the hole goes right through."""
        return self.hole_depth_mm is None

    @property
    def glued_mm(self) -> float:
        """How much of it is glued to a tube or a pin; 0 without either."""
        if self.inside == "no tube":
            return 0.0
        return (self.hole_depth_mm or self.tube_length_mm) - (self.set_back_mm if self.has_tube else 0.0)

    @property
    def bores(self) -> tuple[tuple[float, float, float], ...]:
        """The hole in the squared barrel: from, to and diameter of each width, in mm from its left end."""
        long, deep = self.tube_length_mm, self.hole_depth_mm or self.tube_length_mm
        first = (0.0, deep) if self.hole_end == "left" else (long - deep, long)
        found = [(*first, self.bit_diameter_mm)]
        if self.wide_bit_mm is not None:
            wide = min(self.wide_depth_mm, long)
            found.append((*((0.0, wide) if self.wide_end == "left" else (long - wide, long)), self.wide_bit_mm))
        return tuple(found)

    @property
    def glued_from_to_mm(self) -> tuple[float, float] | None:
        """Where the tube or the pin lies in the squared barrel, in mm from its left end; None without either."""
        if self.inside == "no tube":
            return None
        first, last, _ = self.bores[0]
        if self.has_tube and self.set_back_mm:
            return (first + self.set_back_mm, last) if self.wide_end == "left" else (first, last - self.set_back_mm)
        return first, last

    @property
    def bushings_mm(self) -> tuple[float, float]:
        """The bushings' diameters at the left and the right end: as measured, else as it is to be finished."""
        return self.bushing_left_mm or self.finished_left_mm, self.bushing_right_mm or self.finished_right_mm

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """The finished outline from end to end: parts of the tube's length with their diameters."""
        between = ((point.at, point.diameter_mm) for point in self.outline)
        return ((0.0, self.finished_left_mm), *between, (1.0, self.finished_right_mm))

    @property
    def slimmest_beside_step_mm(self) -> float:
        """The smallest finished diameter beside the wider hole at its end; between two places it changes evenly."""
        deep = min(1.0, self.wide_depth_mm / self.tube_length_mm)
        first, last = (0.0, deep) if self.wide_end == "left" else (1.0 - deep, 1.0)
        places = [first, last, *(at for at, _ in self.profile if first < at < last)]
        return min(self.finished_mm(at) for at in places)

    def finished_mm(self, at: float) -> float:
        """The finished diameter at a part of the tube's length from the left, 0 to 1."""
        before, after = next((one, other) for one, other in pairwise(self.profile) if at <= other[0])
        along = (at - before[0]) / (after[0] - before[0])
        return before[1] + along * (after[1] - before[1])

    def end_for_end(self) -> Self:
        """This barrel with its left end to the right."""
        outline = (OutlinePoint(at=1 - point.at, diameter_mm=point.diameter_mm) for point in reversed(self.outline))
        return self.with_(
            finished_left_mm=self.finished_right_mm,
            finished_right_mm=self.finished_left_mm,
            bushing_left_mm=self.bushing_right_mm,
            bushing_right_mm=self.bushing_left_mm,
            hole_end="right" if self.hole_end == "left" else "left",
            wide_end="right" if self.wide_end == "left" else "left",
            outline=tuple(outline),
        )

    @property
    def widest_mm(self) -> float:
        """The largest finished diameter."""
        return max(diameter for _, diameter in self.profile)


class PenPart(Document):
    """One part of a pen, as it is put together after its barrels are finished."""

    name: Name = Field(default="Part", title="Part")
    into: Words = Field(default="", title="Goes into", description="Which barrel, which end: Lower, left")
    how: Literal["pressed in", "screwed in", "glued in", "slid in"] = Field(default="pressed in", title="Joined")
    against: Words = Field(default="", title="Pressed against", description="What its other end stands on in the press")
    barrel_no: int | None = measure(
        "On barrel number", Dimension.COUNT, low=1, high=MOST_BARRELS, default=None, hint="1 is at the nib; empty: none"
    )
    end: Literal["left", "right"] = Field(default="left", title="At its end")
    depth_low_mm: float | None = measure(
        "Goes in at least", Dimension.LENGTH, low=0.5, high=250, default=None, hint="As the pen's sheet says"
    )
    depth_high_mm: float | None = measure("Goes in at most", Dimension.LENGTH, low=0.5, high=250, default=None)
    is_final: bool = Field(default=False, title="Cannot be undone")
    look_for: Words = Field(default="", title="Look for", description="The button moves; the point comes out whole")

    @model_validator(mode="after")
    def _window_opens(self) -> Self:
        low, high = self.depth_low_mm, self.depth_high_mm
        if low is not None and high is not None and high < low:
            raise PydanticCustomError("orvek", "goes in at most less than it goes in at least")
        return self

    @property
    def line(self) -> str:
        """It in one line: its name, how, where, against what."""
        # What goes over or under something is slid, not slid into.
        is_placed = self.into.split(" ")[0] in {"over", "under", "on", "onto"}
        how = f"{self.how.removesuffix(' in')} {self.into}" if is_placed else f"{self.how}to {self.into}"
        how = how if self.into else self.how
        return f"{self.name}: {how}{f', against {self.against}' if self.against else ''}"


class Pen(Document):
    """A pen as its maker knows it: its one to four barrels from the nib to the end, and its parts in their order."""

    name: Name = Field(title="Pen")
    barrels: Annotated[tuple[Barrel, ...], Field(min_length=1, max_length=MOST_BARRELS)]
    parts: Annotated[tuple[PenPart, ...], Field(max_length=MOST_PARTS)] = ()
    notes: Words = ""
    refill: Words = Field(default="", title="Refill", description="Which one, how long; two that fit if there are two")
    spring: Literal["not known", "needed", "left out"] = Field(default="not known", title="Spring")
    writing: Writing = Writing()
    plating: Words = Field(default="", title="Plating", description="Black, gun metal; part sets are booked by it")

    @property
    def part_set(self) -> str:
        """What its part sets are called on the shelf."""
        return f"{self.name}, {self.plating}" if self.plating else self.name

    @property
    def slimmest_mm(self) -> float:
        """The smallest finished diameter of all its barrels."""
        return min(size for barrel in self.barrels for _, size in barrel.profile)
