"""What lies in a cavity before the resin: its volume by shape, by displacement, or by mass and density.

What was measured goes before what was drawn: displacement, then mass and density, then the shape of the steps.
"""

from __future__ import annotations

from functools import lru_cache

from msgspec import Struct

from orvek.craft.moulding import BarSection, bars_in
from orvek.documents import Insert, InsertStep, Job, LoafMould, Material, Step
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_ML, _G = Dimension.VOLUME, Dimension.MASS
_POINTS = 30_000  # accuracy of a counted volume: about 0.5 %
# Relative standard uncertainties: estimates, from how natural wood varies and how closely it is drawn.
_BY_SHAPE, _BY_DISPLACEMENT, _BY_MASS = 0.04, 0.01, 0.08


class InsertWay(Struct, frozen=True):
    """One way of knowing an insert's volume, with its relative standard uncertainty."""

    name: str
    volume_ml: Figure
    uncertainty: float
    is_drawn: bool = False  # from the steps' shape, not from a measurement


class InsertPlan(Struct, frozen=True):
    """What lies in each cavity. The first way is the one that is used."""

    volume_ml: Figure
    ways: tuple[InsertWay, ...]


def insert_plan(job: Job, section: BarSection | None) -> InsertPlan | None:
    """Volume of what lies in one cavity, by every way that is known; None where nothing lies there."""
    ways = (*_as_measured(job.pour.insert), *_by_shape(job, section))
    if not ways:
        return None
    return InsertPlan(ways[0].volume_ml, ways)


def _by_shape(job: Job, section: BarSection | None) -> tuple[InsertWay, ...]:
    laid = tuple(step for step in job.blank.steps if isinstance(step, InsertStep))
    if not laid or section is None or job.cast_index is None:
        return ()
    size = (section.width_mm, section.depth_mm, section.length_mm, section.is_round)
    share, bar_ml = _share(laid, size, job.blank.materials)
    mould = job.pour.mould
    bars = bars_in(mould) if isinstance(mould, LoafMould) else 1
    figure = Figure(
        "Insert in each cavity",
        share * bar_ml * bars,
        _ML,
        "V = share of the points · V bar · bars in a cavity",
        (
            Term("share", "of points evenly spread through the bar", 100 * share, Dimension.PERCENT),
            Term("V bar", "the bar", bar_ml, _ML),
            Term("bars", "in one cavity", bars, Dimension.COUNT),
        ),
        "counted in the shape that the steps describe",
    )
    return (InsertWay("by its shape", figure, _BY_SHAPE, is_drawn=True),)


def _as_measured(insert: Insert | None) -> tuple[InsertWay, ...]:
    if insert is None:
        return ()
    ways = []
    if insert.volume_ml is not None:
        term = Term("V", "as typed", insert.volume_ml, _ML, "measured")
        figure = Figure(
            "Insert in each cavity", insert.volume_ml, _ML, "V = V", (term,), "water it displaced, or typed"
        )
        ways.append(InsertWay("by displacement", figure, _BY_DISPLACEMENT))
    if insert.mass_g is not None and insert.density_g_ml is not None:
        terms = (
            Term("m", "mass", insert.mass_g, _G, "measured"),
            Term("ρ", "density", insert.density_g_ml, Dimension.DENSITY, "guess", "wood varies by 5 to 10 %"),
        )
        volume = insert.mass_g / insert.density_g_ml
        figure = Figure("Insert in each cavity", volume, _ML, "V = m / ρ", terms, "mass and density")
        ways.append(InsertWay("by mass and density", figure, _BY_MASS))
    return tuple(ways)


@lru_cache(maxsize=64)
def _share(
    laid: tuple[InsertStep, ...], size: tuple[float, float, float, bool], own: tuple[Material, ...]
) -> tuple[float, float]:
    """The wood's share of a bar, and the bar's volume in ml."""
    # Only a hybrid needs the field, and it brings NumPy along.
    from orvek.documents import CastStep
    from orvek.workpiece.compiling import compiled
    from orvek.workpiece.measures import amounts
    from orvek.workpiece.reference import evaluate_reference

    steps: tuple[Step, ...] = (*laid, CastStep())
    program = compiled(steps, *size, own)
    found = amounts(evaluate_reference, program, 0, program.length_mm, points=_POINTS)
    bar_ml = sum(amount.volume_ml for amount in found)
    resin_ml = sum(amount.volume_ml for amount in found if amount.material.key == "clear-resin")
    return 1 - resin_ml / bar_ml, bar_ml
