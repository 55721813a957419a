"""How a job is sawn and glued: its machine, its glue, and what was measured of kerfs and sheets."""

from statistics import mean
from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.documents.shelf.bench import Machine
from orvek.quantities import Dimension

_MM = Dimension.LENGTH

_ENOUGH_READINGS = 3  # of calipers: fewer say nothing against a label (a choice)


def mean_reading_mm(readings_mm: tuple[float, ...]) -> float | None:
    """The mean of what was measured; None for fewer than three readings."""
    return mean(readings_mm) if len(readings_mm) >= _ENOUGH_READINGS else None


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

    @property
    def kerf_mm(self) -> float | None:
        """What the saw takes: by calipers, else as it is described; None while nobody said which saw."""
        return mean_reading_mm(self.kerf_readings_mm) or (self.machine.kerf_mm if self.machine is not None else None)
