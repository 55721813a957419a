"""How a job is sawn and glued: its machine, its glue, and what was measured of kerfs and sheets."""

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.documents.shelf.bench import Machine
from orvek.quantities import Dimension

_MM = Dimension.LENGTH

ENOUGH_READINGS = 3  # of calipers: fewer say nothing against a label (a choice)


class GlueUp(Document):
    """How this job is sawn and glued."""

    machine: Machine | None = None
    order: Literal["cut, glue, cut", "saw all, then glue"] = Field(default="cut, glue, cut", title="Order of work")
    glue: Name = Field(default="slow epoxy", title="Glue")
    activator: bool = Field(default=False, title="Activator on one face")
    minutes_a_joint: float = measure("Spreading and closing a joint", Dimension.DURATION, low=0.05, high=30, default=1)
    skim_mm: float = measure("Skimmed off after gluing", _MM, low=0, high=10, default=0.5)
    kerf_readings_mm: Annotated[tuple[Annotated[float, Field(gt=0, le=10)], ...], Field(max_length=40)] = ()
    sheet_readings_mm: Annotated[tuple[Annotated[float, Field(gt=0, le=60)], ...], Field(max_length=40)] = ()
