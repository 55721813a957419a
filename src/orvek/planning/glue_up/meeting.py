"""Will it meet: the question and the answer of a tolerance run, for the window to ask in the background."""

from __future__ import annotations

from collections.abc import Callable
from statistics import stdev
from typing import TYPE_CHECKING

from orvek.documents import Accuracy, GlueUp, declared, missing_stock
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.glue_up.part import SAWN
from orvek.planning.glue_up.results import MeetAnswer, MeetQuestion
from orvek.planning.results import Plan

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

DRAWS = 1000  # 5 and 95 % then stand to about 1 %


def meet_question(plan: Plan) -> MeetQuestion | None:
    """What is asked for this plan; None where nothing is sawn."""
    steps = plan.job.blank.steps
    if plan.layout is None or missing_stock(steps) or not any(isinstance(step, SAWN) for step in steps):
        return None
    return MeetQuestion(
        steps,
        bar_size(plan.layout),
        barrels_of(plan),
        measured_accuracy(plan.shop.accuracy, plan.job.glue_up),
        plan.job.blank.materials,
        plan.units,
    )


def measured_accuracy(accuracy: Accuracy, glue_up: GlueUp) -> Accuracy:
    """The shop's accuracy, with what calipers said of kerfs and sheets in place of what is assumed."""
    changes = {}
    for name, readings in (("kerf_mm", glue_up.kerf_readings_mm), ("sheet_mm", glue_up.sheet_readings_mm)):
        if len(readings) >= 3:
            bounds = declared(Accuracy, name)
            changes[name] = min(bounds.high, max(bounds.low, 0.005, round(stdev(readings), 4)))
    return accuracy.with_(**changes) if changes else accuracy


def meet(question: MeetQuestion, evaluate: Evaluator, progress: Callable[[float], None] | None = None) -> MeetAnswer:
    """Make the blank a thousand times and say how its lines meet."""
    from orvek.workpiece.tolerance import Trial, tolerance_run

    trial = Trial(evaluate, question.steps, question.size, question.barrels, question.accuracy, own=question.own)
    return MeetAnswer(question, tolerance_run(trial, DRAWS, progress))
