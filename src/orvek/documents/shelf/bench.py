"""What stands at the bench for glue-ups: machines, boards at hand, and how closely the shop works."""

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.documents.steps import MaterialKey
from orvek.quantities import Dimension

_MM, _DEG = Dimension.LENGTH, Dimension.ANGLE


class Machine(Document):
    """A saw: what it takes, the steps of its scales, and what it can hold safely."""

    name: Name = Field(default="Table saw with sled", title="Machine")
    kind: Literal["table saw", "band saw", "mitre box"] = Field(default="table saw", title="Kind")
    kerf_mm: float = measure("Kerf", _MM, low=0.1, high=10, default=2.0)
    angle_step_deg: float = measure("Angle steps", _DEG, low=0.01, high=5, default=0.5)
    largest_deg: float = measure("Largest angle", _DEG, low=5, high=85, default=50, hint="From square")
    stop_step_mm: float = measure("Stop steps", _MM, low=0.01, high=5, default=0.5)
    least_piece_mm: float = measure(
        "Shortest safe piece", _MM, low=5, high=500, default=60, hint="Against the sled, not by hand"
    )


class Accuracy(Document):
    """How closely this shop works: standard deviations of everything that is set."""

    angle_deg: float = measure("Angles within", _DEG, low=0, high=5, default=0.1)
    stop_mm: float = measure("Stops within", _MM, low=0, high=5, default=0.1)
    kerf_mm: float = measure("Kerf within", _MM, low=0, high=2, default=0.05)
    sheet_mm: float = measure("Sheets and strips within", _MM, low=0, high=2, default=0.05)
    index_deg: float = measure("Faces turned within", _DEG, low=0, high=10, default=0.5)
    centring_mm: float = measure("Centres within", _MM, low=0, high=5, default=0.15)
    slip_mm: float = measure("Joints slip by", _MM, low=0, high=5, default=0.1, hint="0.1 pinned, 0.2 to 0.8 free")
    boring_mm: float = measure("Bit wanders at the far end by", _MM, low=0, high=5, default=0.2)


class BadSpot(Document):
    """A part of a board that cannot be used: a hole, a crack, a curved end."""

    x_mm: float = measure("From its left end", _MM, low=0, high=5000)
    y_mm: float = measure("From its lower edge", _MM, low=0, high=2000)
    length_mm: float = measure("Length", _MM, low=0.1, high=5000)
    width_mm: float = measure("Width", _MM, low=0.1, high=2000)


class Board(Document):
    """A board at hand, its grain along its length."""

    name: Name = Field(default="Board", title="Board")
    material: MaterialKey = Field(default="hard-maple", title="Material")
    length_mm: float = measure("Length", _MM, low=20, high=5000, default=600)
    width_mm: float = measure("Width", _MM, low=5, high=2000, default=80)
    thickness_mm: float = measure("Thickness", _MM, low=0.1, high=300, default=25)
    was: Literal["new", "used, with film or print", "used, with nails or screws", "used, with old glue"] = Field(
        default="new", title="It was"
    )
    bow_mm: float = measure("Bowed by", _MM, low=0, high=100, default=0, hint="In the middle, over all its length")
    bad: Annotated[tuple[BadSpot, ...], Field(max_length=12)] = ()
