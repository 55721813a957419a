"""The gallery: designs to begin from, each a list of steps that can then be changed; and the words for steps."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources
from typing import Annotated

from pydantic import Field

from orvek.documents.base import Document, Name, Words
from orvek.documents.material import material
from orvek.documents.steps import (
    ArcStep,
    CastStep,
    CutStep,
    DyeStep,
    InsertStep,
    LaminateStep,
    Layer,
    PlugStep,
    ReorientStep,
    RipStep,
    RoundStep,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
)
from orvek.quantities import Dimension, Units, write


class Design(Document):
    """A blank to begin from."""

    name: Name
    line: Words
    steps: Annotated[tuple[Step, ...], Field(min_length=1)]


STEP_NAMES: dict[str, str] = {
    "solid": "A bar of one material",
    "laminate": "Strips side by side",
    "stack": "Pieces end to end",
    "staves": "Staves about the axis",
    "wrap": "A printed sheet round a core",
    "insert": "Lay wood into the mould",
    "cast": "Cast",
    "cut": "Cut and let in a sheet",
    "arc": "Arc and let in a sheet",
    "slice": "Crosscut and turn",
    "rip": "Rip and flip",
    "plug": "Bore and fill",
    "dye": "Dye or stabilise",
    "round": "Turn it round",
    "square": "Make it square",
    "reorient": "Take out at an angle",
}
_SAW = (
    "In a sled or clamp, never by hand near the blade.",
    "Small parts kick back: hold them in a sled or clamp with the guard on. The saw's manual and local rules decide.",
)
# What can hurt at a step: in a few words, and in full.
STEP_CAUTIONS: dict[str, tuple[str, str]] = {
    **dict.fromkeys(("cut", "arc", "slice", "rip", "square", "reorient"), _SAW),
    "plug": (
        "Clamp the bar, never hold it under the drill.",
        "Clamp the bar in a vice on the drill press; back off to clear chips. The press's manual decides.",
    ),
    "round": (
        "No gloves or loose sleeves at the lathe.",
        "No gloves, loose sleeves, rings or rags near spinning work; face shield and dust mask. The lathe's manual "
        "decides.",
    ),
    "dye": (
        "Let solvents leave fully before any oven or vacuum.",
        "Dye solvents and stabilisers can catch fire: vent them fully, no food oven, vent outdoors. The product's "
        "safety sheet and the equipment's rating decide.",
    ),
}
NEW_STEPS: tuple[Step, ...] = (
    SolidStep(),
    LaminateStep(),
    StackStep(),
    StavesStep(),
    WrapStep(),
    InsertStep(),
    CastStep(),
    CutStep(sheet=(Layer(material="holly", thickness_mm=2.0),)),
    ArcStep(sheet=(Layer(material="brass", thickness_mm=2.0),)),
    SliceStep(),
    RipStep(),
    PlugStep(),
    DyeStep(),
    RoundStep(),
    SquareStep(),
    ReorientStep(),
)


@cache
def designs() -> tuple[Design, ...]:
    """The gallery that ships with the program."""
    text = resources.files("orvek.data").joinpath("designs.json").read_text(encoding="utf-8")
    return tuple(Design.model_validate(item) for item in json.loads(text)["designs"])


def step_line(step: Step, units: Units | None = None) -> str:
    """A step in a few words, for the list of steps, its sizes in the maker's units."""
    match step:
        case CutStep():
            return f"Cut {step.angle_deg:g}° · {step.azimuth_deg:g}°"
        case ArcStep():
            return f"Arc {write(step.radius_mm, Dimension.LENGTH, units)} · {step.azimuth_deg:g}°"
        case SolidStep():
            return f"{material(step.material).name} bar"
        case CastStep():
            return f"Cast, {len(step.cups)} colour{'' if len(step.cups) == 1 else 's'}"
        case InsertStep():
            return f"{material(step.material).name} laid in"
        case PlugStep():
            return f"Fill {material(step.material).name.lower()}"
        case RoundStep():
            return f"Round, {write(step.diameter_mm, Dimension.LENGTH, units)}"
        case SquareStep():
            return f"Square, {write(step.side_mm, Dimension.LENGTH, units)}"
        case _:
            return STEP_NAMES[step.kind]
