"""The pour's part of the plan: the mixture cup by cup, the time it takes, what it costs; and what to be careful of."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.moulding import bars_in
from orvek.documents import WrapStep
from orvek.planning.findings import Caution
from orvek.planning.pour.costs import cost_plan
from orvek.planning.pour.mixture import mixture_plan
from orvek.planning.pour.pace import pace_plan
from orvek.planning.pour.results import PourPlan
from orvek.planning.results import Plan
from orvek.planning.working import Figure

_ANY_RESIN = (
    "Resin and hardener can sensitise the skin, some give off fumes: nitrile gloves, moving air, stop at the first "
    "rash. The product's safety sheet decides."
)


def part(plan: Plan) -> PourPlan:
    """Amounts, time and cost of one casting."""
    job, mould = plan.job, plan.job.pour.mould
    is_cast = job.cast_index is not None and (mould is None or bars_in(mould) > 0)
    mixture = mixture_plan(job, plan.bars, plan.shop.vessels_ml) if is_cast else None
    return PourPlan(mixture, pace_plan(job, plan.bars, mixture), cost_plan(job, plan.bars, mixture))


def progress(plan: Plan) -> tuple[bool, bool]:
    """Whether anything of the pour was decided, and whether all of it was."""
    pour, is_cast = plan.job.pour, plan.job.cast_index is not None
    has_any = pour.mould is not None or pour.resin is not None or bool(plan.job.cast.cups)
    return is_cast and has_any, plan.mixture is not None and bool(plan.mixture.cups)


def cautions(plan: Plan) -> Iterator[Caution]:
    """What the resin's family asks for; its own safety sheet goes before."""
    resin = plan.job.pour.resin
    if resin is None:
        over = any(isinstance(step, WrapStep) and step.covered == "cast over" for step in plan.job.blank.steps)
        again = any(fault.way == "recast" for fault in plan.job.faults.found)
        if plan.job.pen is not None and (over or again or plan.job.cast_index is not None):
            yield Caution("pour.any resin", _ANY_RESIN)
        return
    family = plan.shop.family(resin.family)
    if family is None:
        words = "Orvek does not know this family of resin: the product's own safety sheet is the only guide."
        yield Caution("pour.unknown family", words)
    for number, words in enumerate(family.cautions if family else ()):
        yield Caution(f"pour.family {number}", words)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    if plan.mixture:
        whole = [plan.mixture.mould_ml, plan.mixture.volume_ml, plan.mixture.mass_g, plan.mixture.ratio]
        yield "Resin, one casting", [figure for figure in whole if figure]
        for number, cup in enumerate(plan.mixture.cups, 1):
            figures = [cup.share_pct, cup.volume_ml, cup.mass_g, cup.part_a_g, cup.part_b_g]
            figures += [dose.pigment_g for dose in cup.doses]
            yield f"Cup {number}", [*figures, cup.ratio_error_pct, cup.ratio_uncertainty_pct]
    if plan.pace:
        yield "Time", [plan.pace.working_min, *([plan.pace.pot_life] if plan.pace.pot_life else [])]
    if plan.costs:
        yield "Cost", [plan.costs.total]
