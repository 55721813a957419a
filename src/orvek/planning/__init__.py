"""One job in, one plan out: every figure with its working, every judgement with its because."""

from orvek.planning.blank.segments import amount_figure, step_figures
from orvek.planning.plan import apply_remedy, plan
from orvek.planning.results import (
    Ask,
    BarsPlan,
    CostPlan,
    CupPlan,
    DosePlan,
    Edit,
    Finding,
    Layout,
    MixturePlan,
    PacePlan,
    PenPlan,
    Plan,
    Remedy,
    Severity,
    Station,
    StationState,
    TubePlace,
)
from orvek.planning.working import Figure, Term

__all__ = [
    "Ask",
    "BarsPlan",
    "CostPlan",
    "CupPlan",
    "DosePlan",
    "Edit",
    "Figure",
    "Finding",
    "Layout",
    "MixturePlan",
    "PacePlan",
    "PenPlan",
    "Plan",
    "Remedy",
    "Severity",
    "Station",
    "StationState",
    "Term",
    "TubePlace",
    "amount_figure",
    "apply_remedy",
    "plan",
    "step_figures",
]
