"""What a job says must be bought: as a table for a spreadsheet, and as lines."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.cards.csv_table import csv_table
from orvek.documents import CONSUMABLES
from orvek.planning.stock import ToBuy
from orvek.quantities import decimal


def shopping_csv(wanted: tuple[ToBuy, ...]) -> bytes:
    """One row a thing: what, for which pen or of which name, needed, there, to buy."""
    heading = ("what", "name", "needed", "there", "buy", "unit")
    rows = [
        (one.what, one.name, round(one.needed, 2), round(one.there, 2), round(one.buy, 2), one.unit or "pieces")
        for one in wanted
    ]
    return csv_table([heading, *rows])


def shopping_lines(wanted: tuple[ToBuy, ...]) -> Iterator[str]:
    """The same in words."""
    for one in wanted:
        is_named = one.what in CONSUMABLES
        amount = f"{one.buy:.0f} × {one.name if is_named else one.what}"
        if one.unit:
            amount = f"{one.name}, {one.what}, {decimal(round(one.buy, 1))} g"
        whose = "" if one.unit or is_named else f" for {one.name}"
        yield f"{amount}{whose}: {decimal(round(one.needed, 1))} needed, {decimal(round(one.there, 1))} there"
