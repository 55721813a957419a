"""A piece on the shelf: a bar, a leftover, a board, a tube, a jar with grams left; what it is, where it lies.

Its photos are kept apart, in an album that the workshop finds by name: a shelf of thousands is read without them.
"""

from datetime import date, datetime
from secrets import choice
from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name, Notes, Words, measure
from orvek.documents.shelf.bench import Board
from orvek.documents.shelf.material import Material
from orvek.documents.steps import PhotoStep, Step
from orvek.quantities import Dimension

PieceKind = Literal[
    "bar", "leftover", "board", "layered board", "orphan barrel", "tube", "part set", "refill", "bit", "bushing",
    "abrasive", "jar", "glue", "insert", "consumable",
]  # fmt: skip
WEIGHED: tuple[PieceKind, ...] = ("jar", "glue")  # of these grams are left
# What a job of any kind may use up by its own name: missed only by who counts it.
CONSUMABLES: tuple[PieceKind, ...] = ("glue", "abrasive", "insert", "consumable")
# What has a look and a size, and can become something else.
SOLIDS: tuple[PieceKind, ...] = ("bar", "leftover", "board", "layered board", "orphan barrel")
_LETTERS = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"  # none that is taken for another on a worn label
_MM = Dimension.LENGTH


def new_code() -> str:
    """A fresh code for a label: six letters and digits that nobody mistakes for others."""
    return "".join(choice(_LETTERS) for _ in range(6))


class MadeLook(Document):
    """What a piece looks like by the steps that made its bar: the bar as it was, and where the piece begins on it."""

    steps: Annotated[tuple[Step, ...], Field(min_length=1, max_length=200)]
    materials: Annotated[tuple[Material, ...], Field(max_length=60)] = ()
    length_mm: float = measure("Bar, length", _MM, low=1, high=5000, default=130)
    width_mm: float = measure("Bar, width", _MM, low=1, high=2000, default=20)
    depth_mm: float = measure("Bar, depth", _MM, low=1, high=300, default=20)
    is_round: bool = False
    from_mm: float = measure("The piece begins at", _MM, low=0, high=5000, default=0)


class Piece(Document):
    """One thing on the shelf, or several that are alike. `code` stands on its label."""

    name: Name = Field(default="Piece", title="Piece")
    code: Annotated[str, Field(pattern=r"^[0-9A-Z]{4,12}$")] = Field(
        default_factory=new_code, title="Code", json_schema_extra={"editor": "none"}
    )
    kind: PieceKind = Field(default="bar", title="What it is")
    count: int = measure("How many", Dimension.COUNT, low=0, high=100000, default=1, hint="As counted")
    grams: float | None = measure("Grams left", Dimension.MASS, low=0, high=1e6, default=None, hint="Of a jar")
    form: Literal["rectangular", "round"] = Field(default="rectangular", title="Section")
    length_mm: float = measure("Length", _MM, low=1, high=5000, default=130)
    width_mm: float = measure("Width, or diameter", _MM, low=0.5, high=2000, default=20)
    depth_mm: float = measure("Depth", _MM, low=0.5, high=300, default=20)
    hole_mm: float | None = measure("Hole", _MM, low=1, high=60, default=None, hint="Bored already; empty: none")
    place: Words = Field(default="", title="Lies in", description="Bin 4, upper rack")
    state: Literal["free", "reserved", "used up", "lost"] = Field(default="free", title="State")
    pen: Words = Field(default="", title="Fits the pen", description="Of tubes, part sets, refills, bits, bushings")
    plating: Words = Field(default="", title="Plating", description="Of a part set: as at Pen")
    material: Words = Field(default="", title="Material", description="Of a board, by its key: hard-maple")
    recipe: Words = Field(default="", title="Recipe")
    lot: Words = Field(default="", title="Lot")
    seller: Words = Field(default="", title="Bought from")
    least: float | None = measure(
        "Buy when below",
        Dimension.COUNT,
        low=0,
        high=1e6,
        default=None,
        hint="Grams, or pieces; empty: never",
    )
    until: date | None = Field(default=None, title="Use before")
    sold_by: int = measure("Sold in lots of", Dimension.COUNT, low=1, high=10000, default=1)
    made_on: date | None = Field(default=None, title="Made on", json_schema_extra={"editor": "none"})
    counted_at: datetime | None = Field(default=None, title="Counted", json_schema_extra={"editor": "none"})
    moisture_pct: float | None = measure("Moisture", Dimension.PERCENT, low=0, high=200, default=None)
    uptake_pct: float | None = measure("Resin taken up", Dimension.PERCENT, low=0, high=400, default=None)
    parent: Words = Field(default="", title="Sawn from", json_schema_extra={"editor": "none"})
    from_mm: float = measure("Begins on that at", _MM, low=0, high=5000, default=0)
    born: Words = Field(default="", json_schema_extra={"editor": "none"})
    notes: Notes = ""
    album: Words = Field(default="", json_schema_extra={"editor": "none"})
    look: MadeLook | None = Field(default=None, json_schema_extra={"editor": "none"})

    @model_validator(mode="before")
    @classmethod
    def _with_an_hour(cls, content: Any) -> Any:
        """A piece that was counted while counts had only a day was counted as that day began."""
        if isinstance(content, dict) and "counted_on" in content:
            kept = {key: value for key, value in content.items() if key != "counted_on"}
            return {"counted_at": content["counted_on"], **kept}
        return content

    @model_validator(mode="after")
    def _hole_within(self) -> Self:
        if self.hole_mm is not None and self.is_solid and self.hole_mm >= min(self.width_mm, self.depth_mm):
            raise PydanticCustomError("orvek", "has a hole as wide as itself")
        return self

    @property
    def asked(self) -> tuple[str, ...]:
        """The fields that a maker is asked first for a thing of this kind; the others may be left as they are."""
        if self.kind in WEIGHED:
            return ("name", "grams", "place")
        if self.kind in CONSUMABLES:
            return ("name", "count", "place", "least")
        if not self.is_solid:
            return ("name", "pen", *(("plating",) if self.kind == "part set" else ()), "count", "place")
        made_of = ("material",) if self.kind in {"board", "layered board"} else ()
        return ("name", *made_of, "length_mm", "width_mm", "depth_mm", "count", "place")

    @property
    def fits(self) -> str:
        """The pen that it fits, with its plating where it has one."""
        return f"{self.pen}, {self.plating}" if self.pen and self.plating else self.pen

    @property
    def is_solid(self) -> bool:
        """Whether it has a look and can become something else."""
        return self.kind in SOLIDS

    @property
    def amount(self) -> float:
        """How much there was when it was counted: grams of a jar, else pieces."""
        return self.grams if self.grams is not None else float(self.count)

    def as_board(self) -> Board | None:
        """It as a board that pieces of a glue-up are laid on; None where it is none, or of what nobody said."""
        if self.kind not in {"board", "layered board"} or not self.material or self.state != "free":
            return None
        sizes = {"length_mm": max(20.0, self.length_mm), "width_mm": max(5.0, self.width_mm)}
        return Board(name=self.name, material=self.material, thickness_mm=self.depth_mm, **sizes)

    def as_bar(self, album: PhotoStep | None = None) -> PhotoStep:
        """It as a step that begins a blank, with the photos of its album; within the sizes that a bar can have."""
        low = {"length_mm": 10.0, "width_mm": 3.0, "depth_mm": 3.0}
        most = {"length_mm": 3000.0, "width_mm": 300.0, "depth_mm": 300.0}
        sizes = {name: min(most[name], max(low[name], getattr(self, name))) for name in low}
        step = album or PhotoStep()
        if step.form != self.form:
            step = PhotoStep(form=self.form)
        return step.with_(**sizes)
