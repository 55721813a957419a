"""Steps at the mould: what is laid into it, and the pour."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from orvek.documents.base import Colour, Document, Name, measure
from orvek.documents.shelf.pigment import PigmentDose
from orvek.documents.steps.parts import MOST_CUPS, MaterialKey, StepDocument, StepWords, angle, length
from orvek.quantities import Dimension

LINE_POINTS = 7


class Cup(Document):
    """One colour of a casting, mixed in a vessel of its own."""

    name: Name = Field(title="Colour name")
    colour: Colour = Field(title="Colour")
    share: float = measure(
        "Share", Dimension.PERCENT, low=0.1, high=1000, hint="Of the casting; the shares of all cups should make 100 %"
    )
    pigments: Annotated[tuple[PigmentDose, ...], Field(max_length=6)] = ()
    vessel_ml: float | None = measure(
        "Mixing cup holds",
        Dimension.VOLUME,
        low=5,
        high=20000,
        default=None,
        hint="Empty: the smallest of your cups that leaves room to stir",
    )


class CastStep(StepDocument):
    """Pour the cups into the mould. `seed` fixes the impression of the swirl, so that it can be repeated."""

    title: ClassVar = "Cast"

    kind: Literal["cast"] = "cast"
    cups: Annotated[tuple[Cup, ...], Field(max_length=MOST_CUPS)] = ()
    style: Literal["swirl", "layers", "chips"] = Field(
        default="swirl", title="Poured as", description="chips: pieces of the first colour, the others marbled between"
    )
    seed: int = measure("Pattern number", Dimension.COUNT, low=0, high=9999, default=1)
    scale: float = measure("Swirl size", Dimension.RATIO, low=0.2, high=5, default=1)
    stretch: float = measure("Stretch along the bar", Dimension.RATIO, low=0.2, high=8, default=1)
    contrast: float = measure(
        "Colour separation",
        Dimension.FRACTION,
        low=0,
        high=1,
        default=1,
        hint="1: clean colours, 0: stirred fine",
    )
    chip_mm: float = length("Chips, size", low=1, high=30, default=6)

    @property
    def wet(self) -> tuple[Cup, ...]:
        """The cups that are mixed: all of them, but for the first where it is chips that were cast before."""
        return self.cups[1:] if self.style == "chips" and len(self.cups) > 1 else self.cups

    def line(self, _words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Cast, {len(self.cups)} colour{'' if len(self.cups) == 1 else 's'}"


class InsertStep(StepDocument):
    """Lay something into the mould before the casting that follows: a slab with a natural edge, a core, rods, chips.

    `line_mm` holds how far the slab's edge lies from its straight line, at places evenly spaced along the bar.
    """

    title: ClassVar = "Lay wood into the mould"

    kind: Literal["insert"] = "insert"
    material: MaterialKey = Field(default="bigleaf-maple", title="Material")
    form: Literal["edge", "core", "rods", "chips"] = Field(default="edge", title="Form")
    middle_mm: float = length("Edge from the axis", low=-60, high=60, default=0)
    rough_mm: float = length("Edge wanders by", high=30, default=3)
    slope_deg: float = angle("Edge against the axis", low=-60, high=60, default=4)
    diameter_mm: float = length("Core or rods, diameter", low=1, high=100, default=10)
    line_mm: Annotated[tuple[Annotated[float, Field(ge=-60, le=60)], ...], Field(max_length=LINE_POINTS)] = ()
    chip_mm: float = length("Chips, size", low=1, high=30, default=6)
    chips_pct: float = measure("Chips, share of the bar", Dimension.PERCENT, low=1, high=90, default=35)
    rods: int = measure("Rods", Dimension.COUNT, low=1, high=24, default=4)
    ring_mm: float = length("Rods from the axis", low=0, high=60, default=6)
    azimuth_deg: float = angle("Seen from", default=0)
    seed: int = measure("Pattern number", Dimension.COUNT, low=0, high=9999, default=1)

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"{words.named(self.material)} laid in"
