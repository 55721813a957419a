"""One job in, one plan out: every figure with its working, every judgement with its because."""

from orvek.planning.blank.segments import amount_figure, step_figures
from orvek.planning.findings import Ask, Edit, Finding, Remedy, Severity, Station, StationState
from orvek.planning.pen.part import PenPlan
from orvek.planning.plan import answered, apply_remedy, plan, report_sections, with_answer
from orvek.planning.pour.costs import CostPlan
from orvek.planning.pour.mixture import CupPlan, DosePlan, MixturePlan
from orvek.planning.pour.pace import PacePlan
from orvek.planning.questions import QUESTIONS, Slow
from orvek.planning.results import BarsPlan, Layout, Plan, TubePlace
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
