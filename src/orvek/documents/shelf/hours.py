"""When the maker is at the bench: hours by weekday, days off, quiet hours for loud machines, what is already booked."""

from datetime import date, datetime
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MOST_BUSY = 500


class DayHours(Document):
    """One weekday at the bench; none where it ends when it begins."""

    from_h: float = measure("From", Dimension.CLOCK, low=0, high=24, default=18)
    to_h: float = measure("To", Dimension.CLOCK, low=0, high=24, default=21.5)

    @property
    def is_open(self) -> bool:
        """Whether there are any."""
        return self.to_h > self.from_h


class Busy(Document):
    """A time that is booked already."""

    name: Name = Field(default="Busy", title="What")
    begins: datetime
    ends: datetime

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.ends <= self.begins:
            raise PydanticCustomError("orvek", "ends before it begins")
        return self


_EVENING, _SATURDAY, _NONE = DayHours(), DayHours(from_h=10, to_h=17), DayHours(from_h=10, to_h=10)


class Hours(Document):
    """Seven weekdays from Monday on, and what takes time out of them."""

    days: Annotated[tuple[DayHours, ...], Field(min_length=7, max_length=7)] = (*(_EVENING,) * 5, _SATURDAY, _NONE)
    off: Annotated[tuple[date, ...], Field(max_length=200)] = ()
    quiet_from_h: float = measure("Quiet from", Dimension.CLOCK, low=0, high=24, default=20)
    quiet_to_h: float = measure("… to, the next day", Dimension.CLOCK, low=0, high=24, default=8)
    busy: Annotated[tuple[Busy, ...], Field(max_length=MOST_BUSY)] = ()
    waits: Literal["as they usually take", "as long as they may take"] = Field(
        default="as long as they may take", title="Waits are planned"
    )


class DurationSeen(Document):
    """How long a kind of task took once, for so many pieces."""

    name: Name = Field(default="Seen", title="Which")
    kind: Name = Field(default="turn", title="Task")
    minutes: float = measure("It took", Dimension.DURATION, low=0.1, high=10000, default=10)
    pieces: int = measure("For how many pieces", Dimension.COUNT, low=1, high=1000, default=1)
    usual_min: float | None = measure(
        "Usual for so much work", Dimension.DURATION, low=0.1, high=10000, default=None, hint="Empty: by its pieces"
    )
