"""How a job is bored and its tubes are glued in: the machine, the holding, the glue; and what was seen of each hole."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.documents.shelf.boring_bench import Press
from orvek.documents.shelf.pen import MOST_BARRELS
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
Holding = Literal["square in a vice", "square in jaws", "round in a collet", "round in jaws", "round with a flat"]
AS_THE_STEPS_SAY = "as the steps say"


class Hole(Document):
    """One barrel's hole: from where it is bored, and what was measured afterwards."""

    from_end: Literal["as advised", "left", "right"] = Field(default="as advised", title="Bored from")
    measured_mm: float | None = measure(
        "The hole, measured", _MM, low=1, high=43, default=None, hint="With calipers, or by the shank of a fitting bit"
    )
    left_x_mm: float | None = measure("Off at the left, sideways", _MM, low=-30, high=30, default=None)
    left_y_mm: float | None = measure("Off at the left, up or down", _MM, low=-30, high=30, default=None)
    right_x_mm: float | None = measure("Off at the right, sideways", _MM, low=-30, high=30, default=None)
    right_y_mm: float | None = measure("Off at the right, up or down", _MM, low=-30, high=30, default=None)
    light: Literal["not yet tested", "none", "a little", "much"] = Field(
        default="not yet tested", title="Light seen through the wall"
    )
    chip_mm: float = measure("Deepest chip at an end", _MM, low=0, high=30, default=0)

    @property
    def offsets_mm(self) -> tuple[tuple[float, float], tuple[float, float]] | None:
        """Where the hole lies off the bar's axis at the left and the right end; None until both were measured."""
        found = (self.left_x_mm, self.left_y_mm, self.right_x_mm, self.right_y_mm)
        if all(one is None for one in found[:2]) or all(one is None for one in found[2:]):
            return None
        left_x, left_y, right_x, right_y = (one or 0.0 for one in found)
        return (left_x, left_y), (right_x, right_y)


class Bore(Document):
    """How this job is bored and its tubes are glued in."""

    press: Press | None = None
    holding: Literal[
        "square in a vice", "square in jaws", "round in a collet", "round in jaws", "round with a flat"
    ] = Field(default="square in a vice", title="Held")
    turned: Literal["on the tube", "on the bar's own axis"] = Field(default="on the tube", title="Turned")
    stuff: Name = Field(default=AS_THE_STEPS_SAY, title="Bored as")
    v_opens: Literal["there are none", "to the left", "to the right"] = Field(
        default="there are none", title="V's open"
    )
    pattern_mm: float = measure(
        "The pattern may lie off by", _MM, low=0.05, high=10, default=1.0, hint="What you would not mind on the pen"
    )
    exit_mm: float | None = measure(
        "Extra length for the exit", _MM, low=0, high=30, default=None, hint="Empty: by the material and your log"
    )
    glue: Name = Field(default="slow epoxy", title="Glue for the tubes")
    is_plugged: bool = Field(default=True, title="Tubes plugged")
    paint_coats: int = measure("Coats of paint inside", Dimension.COUNT, low=1, high=6, default=2)
    squared: Literal["with an end mill", "in a sanding jig"] = Field(default="with an end mill", title="Ends squared")
    holes: Annotated[tuple[Hole, ...], Field(max_length=MOST_BARRELS)] = ()

    def hole(self, barrel: int) -> Hole:
        """What is decided and was seen of a barrel's hole."""
        return self.holes[barrel] if barrel < len(self.holes) else Hole()

    def with_hole(self, barrel: int, hole: Hole) -> Bore:
        """This with another hole for a barrel."""
        holes = [self.hole(n) for n in range(max(barrel + 1, len(self.holes)))]
        holes[barrel] = hole
        return self.with_(holes=tuple(holes))
