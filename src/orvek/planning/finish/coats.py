"""Coats: how thick by the bottle's drops or as typed, and how likely levelling goes through them."""

from __future__ import annotations

from typing import NamedTuple

from orvek.craft import coating
from orvek.documents import Bottle, Finish, Standing
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _COUNT, _RATIO, _GRAIN = Dimension.LENGTH, Dimension.COUNT, Dimension.RATIO, Dimension.GRAIN
_ONE_IN = 0.01


class Taken(NamedTuple):
    """What comes off and on in depth, in µm; `sheet_mm` is what a printed sheet under the coats adds, in mm."""

    sanded: float
    coats: float
    levelled: float
    sheet_mm: float = 0.0


class CoatSizes(NamedTuple):
    """How thick a thin and a medium coat are, in µm, and what a drop leaves on the largest barrel."""

    thin_um: float
    medium_um: float
    drop: Figure | None


def coat_sizes(plan: Plan) -> CoatSizes:
    """By drops of the bottle where the maker counts them, else as typed."""
    how, bottle = plan.finishing, _bottle(plan)
    if how.thin_drops is None and how.medium_drops is None:
        return CoatSizes(how.thin_um, how.medium_um, None)
    drop = _drop(plan, bottle)
    thin = how.thin_um if how.thin_drops is None else how.thin_drops * drop.value
    medium = how.medium_um if how.medium_drops is None else how.medium_drops * drop.value
    return CoatSizes(thin, medium, drop)


def coats_figure(how: Finish, sizes: CoatSizes) -> Figure:
    """All coats together, in depth."""
    value = how.thin_coats * sizes.thin_um + how.medium_coats * sizes.medium_um
    standing: Standing | None = "guess" if sizes.drop is None else None
    terms = (
        Term("thin", "coats", how.thin_coats, _COUNT),
        Term("t", "each", sizes.thin_um, _GRAIN, standing),
        Term("medium", "coats", how.medium_coats, _COUNT),
        Term("m", "each", sizes.medium_um, _GRAIN, standing),
    )
    source = "by your bottle's drops" if sizes.drop else "guesses until your bottle's drops say better"
    return Figure("Coats put on, in depth", value / 1000, _MM, "thin · t + medium · m", terms, source, digits=3)


def through_figure(label: str, taken: Taken, cv: float) -> Figure:
    """How often levelling goes through where coats and sanding are spread by so much."""
    chance = coating.through_chance(taken.coats, taken.levelled, cv) if taken.coats else 0.0
    terms = (
        Term("T", "coats", taken.coats, _GRAIN),
        Term("R", "levelling takes", taken.levelled, _GRAIN),
        Term("cv", "spread of both", cv, _RATIO, "guess"),
    )
    formula, source = "Φ(−(T − R) / √((cv T)² + (cv R)²))", "textbook; the spread is an estimate"
    return Figure(label, 100 * chance, Dimension.PERCENT, formula, terms, source, digits=1)


def coats_wanted(how: Finish, taken: Taken) -> int | None:
    """How many coats like these make it one in a hundred in the middle."""
    each = taken.coats / (how.thin_coats + how.medium_coats)
    return coating.coats_wanted(each, taken.levelled, coating.CV_MIDDLE, _ONE_IN)


def _bottle(plan: Plan) -> Bottle:
    return next((one for one in plan.shop.bottles if one.name == plan.job.finish.bottle), Bottle())


def _drop(plan: Plan, bottle: Bottle) -> Figure:
    """What a drop leaves on the barrel with the most surface: there the coats are thinnest."""
    barrels = plan.job.laid
    largest = max(barrels, key=lambda one: one.tube_length_mm * (one.finished_left_mm + one.finished_right_mm))
    mean = (largest.finished_left_mm + largest.finished_right_mm) / 2
    value = coating.drop_um(bottle.drop_mg, bottle.kept_pct / 100, mean, largest.tube_length_mm)
    standing: Standing = "measured" if bottle in plan.shop.bottles else "guess"
    terms = (
        Term("m", "a drop, in mg: weigh fifty", bottle.drop_mg, _RATIO, standing),
        Term("f", "stays on the barrel", bottle.kept_pct, Dimension.PERCENT, standing),
        Term("d", f"{largest.name}, on average", mean, _MM),
        Term("L", "long", largest.tube_length_mm, _MM),
        Term("ρ", "of the glue", coating.GLUE_G_ML, Dimension.DENSITY, "textbook"),
    )
    return Figure("A drop leaves", value, _GRAIN, "m · f / (ρ π d L)", terms, "derived", digits=1)
