"""All kinds of steps, and what a list of them must have."""

from typing import Annotated

from pydantic import Field

from orvek.documents.steps.boring import PlugStep
from orvek.documents.steps.casting import CastStep, InsertStep
from orvek.documents.steps.dyeing import DyeStep
from orvek.documents.steps.gluing import LaminateStep, SolidStep, StackStep, StavesStep
from orvek.documents.steps.photographed import PhotoStep
from orvek.documents.steps.sawing import ArcStep, CutStep, RipStep, SliceStep
from orvek.documents.steps.shaping import ReorientStep, RoundStep, SquareStep
from orvek.documents.steps.wrapping import WrapStep

# In the order in which a maker is offered them.
STOCK_STEPS = (SolidStep, LaminateStep, StackStep, StavesStep, WrapStep, PhotoStep, InsertStep, CastStep)
WORK_STEPS = (CutStep, ArcStep, SliceStep, RipStep, PlugStep, DyeStep, RoundStep, SquareStep, ReorientStep)
StockStep = CastStep | SolidStep | LaminateStep | StackStep | StavesStep | WrapStep | PhotoStep | InsertStep
WorkStep = CutStep | ArcStep | SliceStep | RipStep | PlugStep | DyeStep | RoundStep | SquareStep | ReorientStep
Step = Annotated[StockStep | WorkStep, Field(discriminator="kind")]
STOCK_KINDS = ("cast", "solid", "laminate", "stack", "staves", "wrap", "photo", "insert")


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
        elif name in _LAYERED and isinstance(value, tuple):
            found += [layer.material for layer in value]
    return tuple(found)


def with_material(step: Step, old: str, new: str) -> Step:
    """The step with another material wherever it names the old one."""
    changes: dict[str, object] = {}
    for name in type(step).model_fields:
        value = getattr(step, name)
        if name in _MATERIAL_FIELDS and value == old:
            changes[name] = new
        elif name == "materials":
            changes[name] = tuple(new if one == old else one for one in value)
        elif name in _LAYERED and isinstance(value, tuple):
            changes[name] = tuple(one.with_(material=new) if one.material == old else one for one in value)
    return step.with_(**changes) if changes else step


_LAYERED = {"strips", "pieces", "sheet"}
_MATERIAL_FIELDS = {"material", "inside", "core", "one", "other", "over", "spacer"}
