"""One job in, one plan out: every figure with its working, every judgement with its because."""

from orvek.planning.answered import answered, with_answer
from orvek.planning.blank.segments import amount_figure, step_figures
from orvek.planning.findings import Ask, Edit, Finding, Remedy, Severity, Station, StationState
from orvek.planning.layout import BarsPlan, Layout, TubePlace
from orvek.planning.pen.results import PenPlan
from orvek.planning.plan import apply_remedy, plan, report_sections
from orvek.planning.pour.results import CostPlan, CupPlan, DosePlan, MixturePlan, PacePlan
from orvek.planning.questions import QUESTIONS, Slow
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term

__all__ = [
    "QUESTIONS",
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
    "Slow",
    "Station",
    "StationState",
    "Term",
    "TubePlace",
    "amount_figure",
    "answered",
    "apply_remedy",
    "plan",
    "report_sections",
    "step_figures",
    "with_answer",
]
