"""What the materials of a job cost."""

from __future__ import annotations

from orvek.documents import Job, Known
from orvek.planning.layout import BarsPlan
from orvek.planning.pour.results import CostLine, CostPlan, MixturePlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension


def cost_plan(job: Job, bars: BarsPlan, mixture: MixturePlan | None) -> CostPlan | None:
    """Resin and pigments of all castings; None until there is a mixture to price."""
    resin = job.pour.resin
    if resin is None or mixture is None or not mixture.cups:
        return None
    pigment_g = sum(dose.pigment_g.value for cup in mixture.cups for dose in cup.doses)
    resin_g = sum(cup.mass_g.value for cup in mixture.wet) - pigment_g
    lines = [_line(resin.name, resin_g, resin.price_per_kg)]
    for cup, planned in zip(job.cast.cups, mixture.cups, strict=True):
        # Chips were paid for when they were cast.
        for dose, amount in zip(cup.pigments, planned.doses, strict=not planned.is_solid):
            lines.append(_line(dose.pigment.name, amount.pigment_g.value, dose.pigment.price_per_kg))
    casting = sum(line.cost or 0 for line in lines)
    total = Figure(
        "Resin and colours",
        casting * bars.castings,
        Dimension.MONEY,
        "cost = castings · Σ mass · price",
        (
            Term("castings", "of this job", bars.castings, Dimension.COUNT),
            *(Term("·", line.name, line.cost or 0, Dimension.MONEY) for line in lines),
        ),
        "only these; what a good pen costs stands at Records",
    )
    missing = tuple(dict.fromkeys(line.name for line in lines if line.price_per_kg is None))
    return CostPlan(tuple(lines), total, missing)


def _line(name: str, mass_g: float, price: Known | None) -> CostLine:
    cost = price.value * mass_g / 1000 if price else None
    return CostLine(name, mass_g, price.value if price else None, cost)
