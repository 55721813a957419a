"""A figure and its working: the value, the formula, the numbers put in, where they come from."""

from __future__ import annotations

from msgspec import Struct

from orvek.documents import Known, Standing
from orvek.quantities import Dimension, Units, exact, write


class Term(Struct, frozen=True):
    """One number that went into a figure."""

    symbol: str
    words: str
    value: float
    dimension: Dimension
    standing: Standing | None = None
    source: str = ""


class Figure(Struct, frozen=True):
    """A computed value with the arithmetic behind it. `value` is in the program's unit of `dimension`."""

    label: str
    value: float
    dimension: Dimension
    formula: str
    terms: tuple[Term, ...]
    source: str
    digits: int | None = None

    def written(self, units: Units | None = None) -> str:
        """The value as a maker reads it."""
        return write(self.value, self.dimension, units, self.digits)

    def put_in(self, units: Units | None = None) -> tuple[str, ...]:
        """One line for each number put in: symbol, value, what it is."""
        return tuple(f"{t.symbol} = {exact(t.value, t.dimension, units)}   {t.words}" for t in self.terms)

    def result(self, units: Units | None = None) -> str:
        """The unrounded result."""
        return exact(self.value, self.dimension, units)


def known_term(symbol: str, words: str, known: Known, dimension: Dimension) -> Term:
    """A term from a number that knows its standing."""
    return Term(symbol, words, known.value, dimension, known.standing, known.source)
