"""How the maker holds barrels at the lathe: between centres, on a mandrel, in a chuck; asked once for the shop."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Words, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


def _sizes(words: str) -> str:
    for part in words.replace(";", " ").replace(",", " ").split():
        try:
            size = float(part)
        except ValueError:
            size = 0.0
        if not 0.1 <= size <= 200:
            raise PydanticCustomError("orvek", "are lengths in mm with blanks between: 5 10 20")
    return words


class Holding(Document):
    """The mandrel's sizes count only where one is used; bushings are taken to be alike in length."""

    way: Literal["not said", "between centres", "mandrel", "chuck and tailstock"] = Field(
        default="not said", title="Barrels are held"
    )
    governs: Literal["the left end", "the right end"] = Field(
        default="the left end", title="At the headstock", description="It runs truest there: the end that is seen most"
    )
    has_dial: bool = Field(default=False, title="A dial indicator is at hand")
    shaft_mm: float = measure(
        "Mandrel, free length", _MM, low=20, high=500, default=190, hint="From the collar to the end"
    )
    rod_mm: float = measure("Mandrel, diameter", _MM, low=3, high=12, default=6.2)
    nut_mm: float = measure("Nut and washer take", _MM, low=0, high=60, default=14)
    bushing_mm: float = measure("A bushing is long", _MM, low=2, high=60, default=12.7)
    spacers: Annotated[Words, AfterValidator(_sizes)] = Field(
        default="5 10 20", title="Spacers in the drawer", description="Lengths in mm: 5 10 20"
    )

    @property
    def spacers_mm(self) -> tuple[float, ...]:
        """The lengths of the spacers."""
        return tuple(float(part) for part in self.spacers.replace(";", " ").replace(",", " ").split())
