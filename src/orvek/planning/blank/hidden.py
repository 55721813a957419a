"""Woods, sheets and colours that are paid for and seen nowhere on the finished barrels."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache

from orvek.documents import (
    ArcStep,
    CastStep,
    CutStep,
    DyeStep,
    InsertStep,
    LaminateStep,
    Material,
    SolidStep,
    StackStep,
    StavesStep,
    Step,
    missing_stock,
)
from orvek.documents.steps import material_keys
from orvek.planning.bar import bar_size, laid_barrels
from orvek.planning.blank.lines import surface_program
from orvek.planning.findings import Finding, Severity, Station
from orvek.planning.folding import listed
from orvek.planning.results import Plan
from orvek.workpiece.outline import TurnedBarrel

_STEP_MM, _ANGLES = 0.5, 48  # how finely the surface is looked over: a line of a millimetre is met
_UNSEEN = {"glue", "air"}


def nowhere(plan: Plan) -> Iterator[Finding]:
    """Materials of the steps that no finished barrel shows."""
    steps, job = plan.job.blank.steps, plan.job
    if plan.layout is None or job.pen is None or missing_stock(steps) or _is_an_impression(steps):
        return
    wanted = dict.fromkeys(key for step in steps for key in _keys(step))
    if len(wanted) < 2:
        return
    size, own = bar_size(plan.layout), job.blank.materials
    seen = {key for barrel in laid_barrels(job, plan.layout) for key in _seen(steps, size, own, barrel)}
    names = [key.removeprefix("cup ") if key.startswith("cup ") else job.blank.material(key).name for key in wanted]
    hidden = [name for key, name in zip(wanted, names, strict=True) if key not in seen]
    if hidden:
        because = (
            "All of it is turned or bored away, or lies beside the tubes. Slide a tube, move the step, or leave it out."
        )
        title = f"{listed(hidden)} {'is' if len(hidden) == 1 else 'are'} seen on no finished barrel."
        yield Finding(Severity.CAUTION, Station.BLANK, title[:1].upper() + title[1:], because)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (nowhere,)


def _keys(step: Step) -> Iterator[str]:
    """The materials of a step, as the field knows them; what has a judgement of its own is left out."""
    match step:
        case CastStep():
            yield from (f"cup {cup.name}"[:80] for cup in step.cups)
        case StavesStep():
            yield from step.materials  # what fills them is bored away, as it should be
        case SolidStep() | LaminateStep() | StackStep() | CutStep() | ArcStep():
            yield from (key for key in material_keys(step) if key not in _UNSEEN)
        case InsertStep() if step.form in {"edge", "chips"}:
            yield step.material


def _is_an_impression(steps: tuple[Step, ...]) -> bool:
    """Whether where a colour comes to lie is not known: a swirl; or whether a dye gives every wood another look."""
    return any(
        isinstance(step, DyeStep) or (isinstance(step, CastStep) and step.style != "layers" and len(step.cups) > 1)
        for step in steps
    )


@lru_cache(maxsize=64)
def _seen(
    steps: tuple[Step, ...], size: tuple[float, float, float, bool], own: tuple[Material, ...], barrel: TurnedBarrel
) -> frozenset[str]:
    """The materials on the finished surface of a barrel."""
    import numpy as np

    from orvek.workpiece.outline import outline_mm
    from orvek.workpiece.pictures import unrolled_materials
    from orvek.workpiece.reference import evaluate_reference

    program = surface_program(steps, size, own)
    z = np.arange(barrel.start_mm, barrel.end_mm, _STEP_MM, dtype=np.float32)
    surface = unrolled_materials(evaluate_reference, program, z, outline_mm(z, (barrel,), 1.0), _ANGLES)
    return frozenset(program.materials[index].key for index in np.unique(surface))
