"""For whom a job is made, what was agreed, and whether it is paid and delivered."""

from __future__ import annotations

from datetime import date

from pydantic import Field

from orvek.documents.base import Document, Notes, Words, measure
from orvek.quantities import Dimension


class Order(Document):
    """An order; the day it is promised for stands with the work."""

    customer: Words = Field(default="", title="For whom")
    wishes: Notes = Field(default="", title="Wishes", description="The blue to the right of the clip")
    price: float | None = measure("Price agreed", Dimension.MONEY, low=0, high=100000, default=None)
    paid: float = measure("Paid", Dimension.MONEY, low=0, high=100000, default=0)
    delivered_on: date | None = Field(default=None, title="Delivered on")
