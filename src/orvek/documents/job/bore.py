"""How a job is bored and its tubes are glued in: the machine, the holding, the glue; and what was seen of each hole."""

from typing import Annotated, Literal, Self

from pydantic import Field

from orvek.documents.base import Document, Name, Words, measure
from orvek.documents.shelf.boring_bench import Press
from orvek.documents.shelf.pen import MOST_BARRELS
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
Ends = tuple[tuple[float, float], tuple[float, float]]  # (x, y) in mm at the left and at the right end
AS_THE_STEPS_SAY = "as the steps say"


class Hole(Document):
    """One barrel's hole: from where it is bored, and what was measured afterwards."""

    from_end: Literal["as advised", "left", "right", "both ends"] = Field(default="as advised", title="Bored from")
    measured_mm: float | None = measure(
        "The hole, measured", _MM, low=1, high=43, default=None, hint="With calipers, or by the shank of a fitting bit"
    )
    left_x_mm: float | None = measure("Left end, off centre sideways", _MM, low=-30, high=30, default=None)
    left_y_mm: float | None = measure("Left end, off centre up", _MM, low=-30, high=30, default=None)
    right_x_mm: float | None = measure("Right end, off centre sideways", _MM, low=-30, high=30, default=None)
    right_y_mm: float | None = measure("Right end, off centre up", _MM, low=-30, high=30, default=None)
    pattern_left_x_mm: float | None = measure("Pattern left, sideways", _MM, low=-30, high=30, default=None)
    pattern_left_y_mm: float | None = measure("Pattern left, upwards", _MM, low=-30, high=30, default=None)
    pattern_right_x_mm: float | None = measure("Pattern right, sideways", _MM, low=-30, high=30, default=None)
    pattern_right_y_mm: float | None = measure("Pattern right, upwards", _MM, low=-30, high=30, default=None)
    tube: Literal["new", "reclaimed"] = Field(default="new", title="The tube is")
    tube_mm: float | None = measure(
        "The tube, measured", _MM, low=1, high=42, default=None, hint="Over the old glue, if it was used before"
    )
    light: Literal["not yet tested", "none", "a little", "much"] = Field(
        default="not yet tested", title="Light seen through the wall"
    )
    light_colour: Words = Field(default="", title="Through which colour")
    chip_mm: float = measure("Deepest chip at an end", _MM, low=0, high=30, default=0)

    chip_at: Literal["where the bit comes out", "where it goes in"] = Field(
        default="where the bit comes out", title="The chip is"
    )

    @property
    def offsets_mm(self) -> Ends | None:
        """Where the hole lies off the bar's axis at the left and the right end; None until both were measured."""
        return _both((self.left_x_mm, self.left_y_mm), (self.right_x_mm, self.right_y_mm))

    @property
    def pattern_mm(self) -> Ends | None:
        """Where the middle of the pattern lies off the bar's axis at the left and the right end; None: not measured."""
        left = (self.pattern_left_x_mm, self.pattern_left_y_mm)
        return _both(left, (self.pattern_right_x_mm, self.pattern_right_y_mm))


def _both(left: tuple[float | None, float | None], right: tuple[float | None, float | None]) -> Ends | None:
    """Two measured ends; what is empty beside a number is 0, and an end without any number was not measured."""
    if left == (None, None) or right == (None, None):
        return None
    return (left[0] or 0.0, left[1] or 0.0), (right[0] or 0.0, right[1] or 0.0)


class Bore(Document):
    """How this job is bored and its tubes are glued in."""

    press: Press | None = None
    holding: Literal[
        "square in a vice",
        "square in jaws",
        "square in a fixed V",
        "round in a collet",
        "round in jaws",
        "round with a flat",
    ] = Field(default="square in a vice", title="Held")
    centred: Literal["on the outside", "on the pattern"] = Field(default="on the outside", title="Centred")
    turned: Literal["on the tube", "on the bar's own axis"] = Field(default="on the tube", title="Turned")
    stuff: Name = Field(default=AS_THE_STEPS_SAY, title="It works like")
    bits: Literal["each its own", "the smallest for all, then opened up"] = Field(
        default="each its own", title="Bits for two barrels"
    )
    v_opens: Literal["there are none", "to the left", "to the right"] = Field(
        default="there are none", title="V's open"
    )
    pattern_mm: float = measure(
        "The pattern may lie off by", _MM, low=0.05, high=10, default=1.0, hint="What you would not mind on the pen"
    )
    exit_mm: float | None = measure(
        "Extra length for the exit", _MM, low=0, high=30, default=None, hint="Empty: by material, or your log"
    )
    glue: Name = Field(default="slow epoxy", title="Glue for the tubes")
    is_plugged: bool = Field(default=True, title="Tubes plugged")
    paint_coats: int = measure("Coats of paint inside", Dimension.COUNT, low=1, high=6, default=2)
    squared: Literal["with an end mill", "in a sanding jig"] = Field(default="with an end mill", title="Ends squared")
    squared_when: Literal["when the glue holds", "near its finished size"] = Field(
        default="when the glue holds", title="Squared"
    )
    holes: Annotated[tuple[Hole, ...], Field(max_length=MOST_BARRELS)] = ()

    def hole(self, barrel: int) -> Hole:
        """What is decided and was seen of a barrel's hole."""
        return self.holes[barrel] if barrel < len(self.holes) else Hole()

    def with_hole(self, barrel: int, hole: Hole) -> Self:
        """This with another hole for a barrel."""
        holes = [self.hole(n) for n in range(max(barrel + 1, len(self.holes)))]
        holes[barrel] = hole
        return self.with_(holes=tuple(holes))
