"""The steps that make a blank, in the order of the hands: stock that makes a bar, then work that changes it.

A new kind of step is: its class here with its own `kind` and words, its rows in workpiece/compiling.py, its case
in workpiece/reference.py and in workpiece/kernel.py. Editors and the job file follow from the class.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BeforeValidator, Field, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Colour, Document, Name, measure, one_line
from orvek.documents.pigment import PigmentDose
from orvek.quantities import Dimension

MOST_CUPS = 8
LINE_POINTS = 7
LEAST_SLICE_MM = 0.5
MaterialKey = Annotated[
    str, Field(min_length=1, max_length=60, json_schema_extra={"editor": "material"}), BeforeValidator(one_line)
]


def _mm(title: str, *, low: float = 0, high: float = 300, default: Any = ..., hint: str = "") -> Any:
    return measure(title, Dimension.LENGTH, low=low, high=high, default=default, hint=hint)


def _deg(title: str, *, low: float = -360, high: float = 360, default: Any = ..., hint: str = "") -> Any:
    return measure(title, Dimension.ANGLE, low=low, high=high, default=default, hint=hint)


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


class Layer(Document):
    """One layer of a sheet, a laminate or a stack."""

    material: MaterialKey = Field(title="Material")
    thickness_mm: float = _mm("Thickness", low=0.05, high=300)


Layers = Annotated[tuple[Layer, ...], Field(min_length=1, max_length=24)]
_STRIPES = (Layer(material="hard-maple", thickness_mm=7), Layer(material="black-walnut", thickness_mm=6))
_PIECES = (Layer(material="black-walnut", thickness_mm=66), Layer(material="hard-maple", thickness_mm=66))
Sheet = Annotated[tuple[Layer, ...], Field(max_length=9)]


class CastStep(Document):
    """Pour the cups into the mould. `seed` fixes the impression of the swirl, so that it can be repeated."""

    kind: Literal["cast"] = "cast"
    cups: Annotated[tuple[Cup, ...], Field(max_length=MOST_CUPS)] = ()
    style: Literal["swirl", "layers", "chips"] = Field(
        default="swirl", title="Poured as", description="chips: pieces of the first colour, the others marbled between"
    )
    seed: int = measure("Impression", Dimension.COUNT, low=0, high=9999, default=1)
    scale: float = measure("Swirl, how coarse", Dimension.RATIO, low=0.2, high=5, default=1)
    stretch: float = measure("Swirl, drawn out", Dimension.RATIO, low=0.2, high=8, default=1)
    contrast: float = measure(
        "Swirl, how clean", Dimension.FRACTION, low=0, high=1, default=1, hint="1: broad clean colours, 0: stirred fine"
    )
    chip_mm: float = _mm("Chips, size", low=1, high=30, default=6)


class SolidStep(Document):
    """Take a bar of one material."""

    kind: Literal["solid"] = "solid"
    material: MaterialKey = Field(default="pear", title="Material")
    grain_deg: float = _deg("Grain against the axis", low=-90, high=90, default=0)


class LaminateStep(Document):
    """Glue strips side by side: along the bar, or at an angle to it."""

    kind: Literal["laminate"] = "laminate"
    strips: Layers = Field(title="Strips", default=_STRIPES)
    angle_deg: float = _deg("Strips against the axis", low=0, high=90, default=0)
    azimuth_deg: float = _deg("Across, seen from", default=0)
    glue_mm: float = _mm("Glue line", high=2, default=0.05)


class StackStep(Document):
    """Glue pieces end to end."""

    kind: Literal["stack"] = "stack"
    pieces: Layers = Field(title="Pieces", default=_PIECES)
    glue_mm: float = _mm("Glue line", high=2, default=0.05)


def _not_a_sliver(ring_mm: float) -> float:
    if 0 < ring_mm < LEAST_SLICE_MM:
        raise PydanticCustomError("orvek", "is too thin to saw: 0 for not sawn, else 0.5 mm and more")
    return ring_mm


class StavesStep(Document):
    """Glue staves about the axis, like a barrel; a twist turns their joints along the bar.

    Staves as thick as half the bar meet in the middle; thinner ones leave a hole, which narrows or widens along the
    bar where they are tapered. Taper changes how they are sawn and the hole, not the lines on the outside: joints are
    planes through the axis.
    """

    kind: Literal["staves"] = "staves"
    materials: Annotated[tuple[MaterialKey, ...], Field(min_length=1, max_length=12)] = ("hard-maple", "black-walnut")
    count: int = measure("Staves", Dimension.COUNT, low=3, high=36, default=8)
    twist_deg: float = _deg("Twist over 100 mm", default=0)
    ring_mm: Annotated[float, AfterValidator(_not_a_sliver)] = _mm(
        "Sawn into rings of", high=200, default=0, hint="0: not sawn; else 0.5 mm and more"
    )
    ring_turn_deg: float = _deg("Each ring turned by", default=22.5)
    glue_mm: float = _mm("Glue line", high=2, default=0.05)
    thickness_mm: float = _mm("Staves, thickness", high=100, default=0, hint="0: they meet in the middle")
    taper_deg: float = _deg("Staves lean to the axis by", low=-20, high=20, default=0)
    inside: MaterialKey = Field(default="air", title="Inside them")


class Print(Document):
    """A small picture to print: colours, and rows of hexadecimal digits that name them.

    A row runs along the bar; the rows go once round it (or `around` times).
    """

    name: Name = Field(default="Picture", title="Picture")
    colours: Annotated[tuple[Colour, ...], Field(min_length=1, max_length=16)]
    rows: Annotated[
        tuple[Annotated[str, Field(pattern=r"^[0-9a-f]{1,128}$")], ...], Field(min_length=1, max_length=128)
    ]

    @model_validator(mode="after")
    def _is_a_rectangle_of_its_colours(self) -> Self:
        if len({len(row) for row in self.rows}) > 1:
            raise PydanticCustomError("orvek", "has rows of different lengths")
        if max(int(digit, 16) for row in self.rows for digit in row) >= len(self.colours):
            raise PydanticCustomError("orvek", "names a colour that it does not have")
        return self


class WrapStep(Document):
    """Wrap a printed sheet round a core and cast over it, or coat it."""

    kind: Literal["wrap"] = "wrap"
    core: MaterialKey = Field(default="hard-maple", title="Core")
    core_mm: float = _mm("Core, diameter", low=2, high=100, default=10.5)
    sheet_mm: float = _mm("Sheet, thickness", low=0.02, high=2, default=0.1)
    pattern: Literal["bands", "checks", "waves", "picture"] = Field(default="waves", title="Printed with")
    around: int = measure("Repeats around", Dimension.COUNT, low=1, high=36, default=4)
    pitch_mm: float = _mm("Repeat along", low=1, high=200, default=14)
    one: MaterialKey = Field(default="paper", title="One colour")
    other: MaterialKey = Field(default="red-composite", title="The other")
    over: MaterialKey = Field(default="clear-resin", title="Over it")
    picture: Print | None = None


class InsertStep(Document):
    """Lay something into the mould before the casting that follows: a slab with a natural edge, a core, rods, chips.

    `line_mm` holds how far the slab's edge lies from its straight line, at places evenly spaced along the bar.
    """

    kind: Literal["insert"] = "insert"
    material: MaterialKey = Field(default="bigleaf-maple", title="Material")
    form: Literal["edge", "core", "rods", "chips"] = Field(default="edge", title="Form")
    middle_mm: float = _mm("Edge from the axis", low=-60, high=60, default=0)
    rough_mm: float = _mm("Edge wanders by", high=30, default=3)
    slope_deg: float = _deg("Edge against the axis", low=-60, high=60, default=4)
    diameter_mm: float = _mm("Core or rods, diameter", low=1, high=100, default=10)
    line_mm: Annotated[tuple[Annotated[float, Field(ge=-60, le=60)], ...], Field(max_length=LINE_POINTS)] = ()
    chip_mm: float = _mm("Chips, size", low=1, high=30, default=6)
    chips_pct: float = measure("Chips, share of the bar", Dimension.PERCENT, low=1, high=90, default=35)
    rods: int = measure("Rods", Dimension.COUNT, low=1, high=24, default=4)
    ring_mm: float = _mm("Rods from the axis", low=0, high=60, default=6)
    azimuth_deg: float = _deg("Seen from", default=0)
    seed: int = measure("Edge number", Dimension.COUNT, low=0, high=9999, default=1)


class CutStep(Document):
    """Saw through at an angle and let a sheet in. Angle 90 is straight across."""

    kind: Literal["cut"] = "cut"
    angle_deg: float = _deg("Angle to the axis", low=8, high=90, default=35)
    azimuth_deg: float = _deg("Face", default=0)
    centre_mm: float = _mm("Centre from the left end", low=-100, high=1000, default=65)
    kerf_mm: float = _mm("Kerf", low=0.1, high=20, default=2)
    sheet: Sheet = Field(title="Sheet", default=())
    register_by: Literal["coaxial", "normal"] = Field(default="coaxial", title="Halves kept")
    glue_mm: float = _mm("Glue line", high=2, default=0.0)
    tab_mm: float = _mm("Tab left", high=30, default=0)


class ArcStep(Document):
    """Saw along an arc and let a bent sheet in."""

    kind: Literal["arc"] = "arc"
    radius_mm: float = _mm("Radius", low=5, high=500, default=28)
    distance_mm: float = _mm("Centre from the axis", low=0, high=600, default=30)
    azimuth_deg: float = _deg("Face", default=0)
    centre_mm: float = _mm("Centre from the left end", low=-100, high=1000, default=65)
    kerf_mm: float = _mm("Kerf", low=0.1, high=20, default=2)
    sheet: Sheet = Field(title="Sheet", default=())
    glue_mm: float = _mm("Glue line", high=2, default=0.0)


class SliceStep(Document):
    """Crosscut the bar into slices and turn every other one."""

    kind: Literal["slice"] = "slice"
    pitch_mm: float = _mm("Slice", low=LEAST_SLICE_MM, high=200, default=8)
    angle_deg: float = _deg("Angle to the axis", low=20, high=90, default=90)
    azimuth_deg: float = _deg("Face", default=0)
    kerf_mm: float = _mm("Kerf", low=0, high=20, default=2)
    turn: Literal["90", "180", "end for end"] = Field(default="180", title="Every other slice turned")
    glue_mm: float = _mm("Glue line", high=5, default=0.05)
    spacer: MaterialKey = Field(default="glue", title="Between the slices")


class RipStep(Document):
    """Rip the bar along its axis and flip one half."""

    kind: Literal["rip"] = "rip"
    azimuth_deg: float = _deg("Plane seen from", default=0)
    kerf_mm: float = _mm("Kerf", low=0, high=20, default=2)
    flip: Literal["end for end", "face for face"] = Field(default="end for end", title="One half flipped")


class PlugStep(Document):
    """Bore a hole and fill it."""

    kind: Literal["plug"] = "plug"
    way: Literal["across", "along"] = Field(default="across", title="Bored")
    diameter_mm: float = _mm("Diameter", low=0.5, high=60, default=4)
    centre_mm: float = _mm("From the left end", low=-100, high=1000, default=65)
    offset_mm: float = _mm("Off the axis", low=-50, high=50, default=0)
    azimuth_deg: float = _deg("Seen from", default=0)
    material: MaterialKey = Field(default="brass", title="Filled with")


class DyeStep(Document):
    """Soak in a colour, or stabilise: changes how wood looks to a depth, not its shape."""

    kind: Literal["dye"] = "dye"
    colour: Colour = Field(default="#245b7a", title="Colour")
    depth_mm: float = _mm("Depth from the faces", low=0.1, high=60, default=60)
    strength: float = measure("Strength", Dimension.FRACTION, low=0, high=1, default=0.6)


class RoundStep(Document):
    """Turn the bar round."""

    kind: Literal["round"] = "round"
    diameter_mm: float = _mm("Diameter", low=3, high=100, default=16)


class SquareStep(Document):
    """Plane or saw the bar down to a square."""

    kind: Literal["square"] = "square"
    side_mm: float = _mm("Side", low=3, high=100, default=18)


class ReorientStep(Document):
    """Take the bar out of a bigger casting, at an angle to it."""

    kind: Literal["reorient"] = "reorient"
    angle_deg: float = _deg("Turned by", low=-90, high=90, default=90)
    azimuth_deg: float = _deg("Seen from", default=0)
    shift_mm: float = _mm("Shifted by", low=-500, high=500, default=0)


StockStep = CastStep | SolidStep | LaminateStep | StackStep | StavesStep | WrapStep | InsertStep
WorkStep = CutStep | ArcStep | SliceStep | RipStep | PlugStep | DyeStep | RoundStep | SquareStep | ReorientStep
Step = Annotated[StockStep | WorkStep, Field(discriminator="kind")]
STOCK_KINDS = ("cast", "solid", "laminate", "stack", "staves", "wrap", "insert")


def missing_stock(steps: tuple[Step, ...]) -> tuple[str, str] | None:
    """What a list of steps lacks to make a bar, as (what, its need); None where it makes one."""
    first = next((n for n, step in enumerate(steps) if step.kind in STOCK_KINDS and step.kind != "insert"), None)
    if first is None or any(step.kind != "insert" for step in steps[:first]):
        return "The blank", "a bar to begin with (a solid, a glue-up or a casting)"
    if first > 0 and steps[first].kind != "cast":
        return "A slab laid into the mould", "a casting right after it"
    return None


def material_keys(step: Step) -> tuple[str, ...]:
    """The keys of all materials that a step names, in no order; a cast's colours are not among them."""
    found: list[str] = []
    for name in type(step).model_fields:
        value = getattr(step, name)
        if name in _MATERIAL_FIELDS and isinstance(value, str):
            found.append(value)
        elif name == "materials":
            found += value
        elif name in {"strips", "pieces", "sheet"} and isinstance(value, tuple):
            found += [layer.material for layer in value]
    return tuple(found)


_MATERIAL_FIELDS = {"material", "inside", "core", "one", "other", "over", "spacer"}
