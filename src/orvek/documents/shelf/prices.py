"""What things cost from a day on, and how the maker sells."""

from datetime import date
from typing import Literal, get_args

from pydantic import Field

from orvek.documents.base import Document, Words, measure
from orvek.quantities import Dimension

_MONEY = Dimension.MONEY
Priced = Literal[
    "part set", "tube", "refill", "bar or board, a blank", "glue, a pen", "abrasives and finish, a pen",
    "an hour of work", "an hour at a machine", "once for a job",
]  # fmt: skip


def priced() -> tuple[Priced, ...]:
    """All that has a price beside resins and pigments, which carry their own."""
    return get_args(Priced)


class Price(Document):
    """What one of something costs from a day on; earlier days keep the price they had."""

    what: Priced = Field(default="part set", title="What")
    of: Words = Field(default="", title="Of", description="The pen, or the machine; empty: of any")
    price: float = measure("Costs", _MONEY, low=0, high=100000, default=0)
    since: date = Field(default=date(2026, 1, 1), title="Since")

    @property
    def name(self) -> str:
        """What it is called on its shelf: a day and a thing have one price."""
        return f"{self.what}{f', {self.of}' if self.of else ''}, since {self.since.isoformat()}"


class Selling(Document):
    """Margin and fees: what a price must leave."""

    margin_pct: float = measure("Margin, of the price", Dimension.PERCENT, low=0, high=95, default=35)
    fee_pct: float = measure("Fee, of the price", Dimension.PERCENT, low=0, high=60, default=0)
    fixed_fee: float = measure("Fee, each sale", _MONEY, low=0, high=1000, default=0)


def price_on(prices: tuple[Price, ...], what: str, of: str, day: date) -> float | None:
    """What something cost on a day: its own price before that of any; None where nobody has typed one by then."""
    for wanted in dict.fromkeys((of, "")):
        known = [one for one in prices if (one.what, one.of) == (what, wanted) and one.since <= day]
        if known:
            return max(known, key=lambda one: one.since).price
    return None
