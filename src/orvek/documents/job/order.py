"""For whom pens of a job are made, what was agreed, what is paid and delivered: a list of `Order`s, one a customer."""

from datetime import date
from typing import Annotated

from pydantic import Field

from orvek.documents.base import Document, Words, measure
from orvek.quantities import Dimension


class Delivery(Document):
    """What went to the customer on a day; fewer than none: it came back."""

    on: date
    pens: int = Field(ge=-1000, le=1000)


class Order(Document):
    """What one customer has ordered of a batch."""

    customer: Words = Field(default="", title="For whom")
    pens: int = measure("How many", Dimension.COUNT, low=1, high=1000, default=1)
    wishes: Words = Field(default="", title="Wishes", description="Black trim, and light enough for small hands")
    price: float | None = measure("Price agreed, each", Dimension.MONEY, low=0, high=100000, default=None)
    paid: float = measure("Paid, all together", Dimension.MONEY, low=0, high=1000000, default=0)
    promised: date | None = Field(default=None, title="Promised for", description="Empty: as the whole job")
    said: Words = Field(default="", title="Word back", description="What the user said of it, months later")
    deliveries: Annotated[tuple[Delivery, ...], Field(max_length=1000)] = ()

    @property
    def delivered(self) -> int:
        """How many pens the customer has."""
        return sum(one.pens for one in self.deliveries)

    @property
    def is_delivered(self) -> bool:
        """Whether he has all of them."""
        return self.delivered >= self.pens

    @property
    def owing(self) -> float:
        """What is owed for what he has; below 0: so much was paid ahead."""
        return (self.price or 0.0) * self.delivered - self.paid

    @property
    def to_come(self) -> float:
        """What is still to be paid when he has all; below 0: more was paid than agreed."""
        return (self.price or 0.0) * self.pens - self.paid


MOST_ORDERS = 100
Orders = Annotated[tuple[Order, ...], Field(default=(), max_length=MOST_ORDERS)]
