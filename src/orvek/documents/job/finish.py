"""How a job's barrels are finished: to which size, through which grits, under which coats; and what was measured."""

from typing import Annotated, Literal, Self

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.documents.job.truing import Truing
from orvek.documents.shelf.finishing import Activator, Wet
from orvek.documents.shelf.pen import MOST_BARRELS
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
BY_MATERIAL = "as the material asks"


class Sized(Document):
    """One barrel: the parts that meet its ends, by calipers, and what it measures now."""

    part_left_mm: float | None = measure("Part size, left", _MM, low=2, high=60, default=None)
    part_right_mm: float | None = measure("Part size, right", _MM, low=2, high=60, default=None)
    now_left_mm: float | None = measure("It measures now, left", _MM, low=2, high=60, default=None)
    now_middle_mm: float | None = measure("It measures now, middle", _MM, low=2, high=60, default=None)
    now_right_mm: float | None = measure("It measures now, right", _MM, low=2, high=60, default=None)


class Void(Document):
    """Pits of the blank that are filled on the lathe, all of about one size; none while `count` is 0."""

    count: int = measure("Voids on one pen", Dimension.COUNT, low=0, high=500, default=0, hint="0: none to fill")
    long_mm: float = measure("Long", _MM, low=0.2, high=100, default=5)
    wide_mm: float = measure("Wide", _MM, low=0.2, high=60, default=3)
    deep_mm: float = measure("Deep, from the finished surface", _MM, low=0.1, high=30, default=1.5)
    shape: Literal["natural", "bored"] = Field(default="natural", title="Shape")
    fill: Name = Field(default="crushed shell", title="Filled with")
    lies: Literal["sunk, for depth", "flush", "proud, turned flush"] = Field(
        default="proud, turned flush", title="The fill lies"
    )


class EndWork(Document):
    """What is done to one end of a barrel beside turning it."""

    kind: Literal["a ring in a recess", "a piece on a spigot", "parted off, nub by hand"] = Field(
        default="a ring in a recess", title="What"
    )
    barrel_no: int = measure(
        "On barrel number", Dimension.COUNT, low=1, high=MOST_BARRELS, default=1, hint="1 is at the nib"
    )
    end: Literal["left", "right"] = Field(default="left", title="At its end")
    across_mm: float | None = measure(
        "Inside, measured",
        _MM,
        low=1,
        high=60,
        default=None,
        hint="The ring's, or the hole's for the spigot",
    )
    long_mm: float = measure("Long", _MM, low=0.3, high=60, default=3, hint="The ring, the piece or the nub")


class Finish(Document):
    """Grits, coats and sizes of one job."""

    school: Name = Field(default=BY_MATERIAL, title="Finish")
    thin: int | None = measure("Thin coats", Dimension.COUNT, low=0, high=60, default=None, hint="Empty: by the finish")
    medium: int | None = measure(
        "Medium coats", Dimension.COUNT, low=0, high=60, default=None, hint="Empty: by the finish"
    )
    thin_um: float = measure("A thin coat", Dimension.GRAIN, low=0.5, high=60, default=6)
    medium_um: float = measure("A medium coat", Dimension.GRAIN, low=0.5, high=100, default=15)
    activator: Activator = Field(default="none", title="Activator")
    order: Literal["thin first", "medium first", "in turn"] = Field(default="thin first", title="Order of coats")
    thin_wait_min: float = measure("A thin one waits", Dimension.DURATION, low=0, high=1440, default=1)
    medium_wait_min: float = measure("A medium one waits", Dimension.DURATION, low=0, high=1440, default=3)
    oil: int | None = measure(
        "Thin coats with oil, the last", Dimension.COUNT, low=0, high=60, default=None, hint="Empty: by the finish"
    )
    seal: int = measure("Sealer coats before them", Dimension.COUNT, low=0, high=20, default=0)
    seal_wait_min: float = measure("A sealer coat waits", Dimension.DURATION, low=1, high=2880, default=60)
    bottle: Words = Field(default="", title="Bottle")
    thin_drops: float | None = measure(
        "Drops a thin coat", Dimension.RATIO, low=0.2, high=60, default=None, hint="Empty: by thickness"
    )
    medium_drops: float | None = measure(
        "Drops a medium coat", Dimension.RATIO, low=0.2, high=60, default=None, hint="Empty: by thickness"
    )
    bare_from: Name = Field(default="P120", title="Bare, from")
    bare_to: Name = Field(default="P600", title="Bare, to")
    level_from: Name = Field(default="P600", title="Levelled from")
    level_to: Name = Field(default="Pad 12000", title="Polished to")
    wet: Wet = Field(default="dry", title="Sanded")
    tool: Literal["as advised", "skew", "negative-rake scraper", "gouge", "carbide"] = Field(
        default="as advised", title="Tool"
    )
    tenths: Literal["by sanding", "by the tool, to the bushing", "on dummy bushings, by calipers"] = Field(
        default="by sanding", title="Last tenths"
    )
    more_mm: float = measure(
        "Left for tear-out", _MM, low=0, high=5, default=0, hint="Soft, fibrous and chipping stock: 0.3 to 0.5 mm more"
    )
    sized: Annotated[tuple[Sized, ...], Field(max_length=MOST_BARRELS)] = ()
    truings: Annotated[tuple[Truing, ...], Field(max_length=MOST_BARRELS)] = ()
    void: Void = Void()
    ends: Annotated[tuple[EndWork, ...], Field(max_length=2 * MOST_BARRELS)] = ()
    pressed_in: Literal["a press", "a vice with soft jaws", "the lathe"] = Field(
        default="a press", title="Pressed together in"
    )
    joint: Literal["pressed or slid", "a thread that stops in one place", "a thread that starts anywhere"] = Field(
        default="pressed or slid", title="Barrels meet by"
    )
    thread_deg: float | None = measure(
        "Screwed home, the pattern is off by",
        Dimension.ANGLE,
        low=-180,
        high=180,
        default=None,
        hint="Clockwise from the nib; empty: not looked at",
    )
    clip_mm: float = measure("The clip is wide", _MM, low=0.5, high=30, default=4)
    clip_deg: float = measure("The clip lies at", Dimension.ANGLE, low=-360, high=360, default=0)
    best_deg: float | None = measure(
        "The best side lies at", Dimension.ANGLE, low=-360, high=360, default=None, hint="Where you would look at it"
    )
    clip_off_mm: float = measure("The clip stands off by", _MM, low=0.2, high=20, default=3)
    in_mm: float | None = measure(
        "The mechanism is in by", _MM, low=0, high=250, default=None, hint="Measured from the barrel's end"
    )
    clip_long_mm: float = measure("The clip is long", _MM, low=2, high=120, default=38)

    @property
    def thin_coats(self) -> int:
        """How many thin coats, as far as this says."""
        return self.thin or 0

    @property
    def medium_coats(self) -> int:
        """How many medium coats, as far as this says."""
        return self.medium or 0

    @property
    def oil_coats(self) -> int:
        """How many of the thin coats, the last ones, get a drop of oil."""
        return min(self.oil or 0, self.thin_coats)

    def of(self, barrel: int) -> Sized:
        """What was measured of a barrel."""
        return self.sized[barrel] if barrel < len(self.sized) else Sized()

    def truing(self, barrel: int) -> Truing:
        """What was read of a barrel as it is held."""
        return self.truings[barrel] if barrel < len(self.truings) else Truing()

    def with_truing(self, barrel: int, truing: Truing) -> Self:
        """This with other readings of a barrel."""
        every = [self.truing(n) for n in range(max(barrel + 1, len(self.truings)))]
        every[barrel] = truing
        return self.with_(truings=tuple(every))

    def with_sized(self, barrel: int, sized: Sized) -> Self:
        """This with other measurements of a barrel."""
        every = [self.of(n) for n in range(max(barrel + 1, len(self.sized)))]
        every[barrel] = sized
        return self.with_(sized=tuple(every))
