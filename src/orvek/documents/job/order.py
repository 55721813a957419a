"""For whom a job is made, what was agreed, and whether it is paid and delivered."""

from datetime import date

from pydantic import Field

from orvek.documents.base import Document, Words, measure
from orvek.quantities import Dimension


class Order(Document):
    """An order; the day it is promised for stands with the work."""

    customer: Words = Field(default="", title="For whom")
    wishes: Words = Field(default="", title="Wishes", description="Black trim, and light enough for small hands")
    price: float | None = measure("Price agreed, a pen", Dimension.MONEY, low=0, high=100000, default=None)
    paid: float = measure("Paid, all together", Dimension.MONEY, low=0, high=100000, default=0)
    delivered_on: date | None = Field(default=None, title="Delivered on", json_schema_extra={"editor": "none"})

    def owing(self, pens: int) -> float:
        """What is still to be paid for so many pens; below 0: more was paid than agreed."""
        return (self.price or 0.0) * pens - self.paid
