"""The work on a job in time: when it is promised, which tasks are pinned, and what really happened."""

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.artwork import Artwork
from orvek.documents.base import Document, Name, Words, measure
from orvek.quantities import Dimension

MOST_ACTUALS, MOST_PHOTOS = 2000, 40


class Pin(Document):
    """A task that begins at a time, come what may."""

    task: Name
    begins: datetime


class Actual(Document):
    """One thing that happened: of which task, what, how much beside how much was planned, when."""

    task: Name
    what: Literal["began", "done", "weighed", "measured", "counted", "waited"] = "done"
    value: float | None = None
    planned: float | None = None
    unit: Words = ""
    when: datetime

    @property
    def step(self) -> str:
        """The step of its task, whichever blank it was done to."""
        return self.task.partition("#")[0]

    @property
    def blank(self) -> int:
        """Which of several blanks it was done to; 0 for all of them together."""
        return int(self.task.partition("#")[2] or 0)


class WorkPhoto(Document):
    """A photo of the work or of the finished pen; of which task, where it is of one."""

    artwork: Artwork
    task: Words = ""
    when: datetime


class Work(Document):
    """Everything of a job that has a date."""

    promised: date | None = Field(default=None, title="Promised for")
    is_open: bool = Field(default=True, title="Include in the schedule")
    trial_days: int = measure("Trial use before delivery, days", Dimension.COUNT, low=0, high=60, default=0)
    pins: Annotated[tuple[Pin, ...], Field(max_length=200)] = ()
    photos: Annotated[tuple[WorkPhoto, ...], Field(max_length=MOST_PHOTOS)] = ()
    actuals: Annotated[tuple[Actual, ...], Field(max_length=MOST_ACTUALS)] = ()

    def done(self) -> frozenset[str]:
        """The keys of the tasks that are done."""
        return frozenset(actual.task for actual in self.actuals if actual.what == "done")

    def when(self, task: str, what: str) -> datetime | None:
        """When something last happened to a task; None while it has not."""
        return next((one.when for one in reversed(self.actuals) if (one.task, one.what) == (task, what)), None)

    def pinned(self, task: str) -> datetime | None:
        """When a task is pinned to begin; None where it is free."""
        return next((pin.begins for pin in self.pins if pin.task == task), None)
