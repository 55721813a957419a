"""Will it meet: the question and the answer of a tolerance run, for the window to ask in the background."""

from __future__ import annotations

from collections.abc import Callable
from statistics import stdev
from typing import TYPE_CHECKING

from msgspec import Struct, field

from orvek.documents import Accuracy, GlueUp, Material, Step, declared, missing_stock
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.glue_up.part import SAWN
from orvek.planning.results import Plan
from orvek.quantities import Dimension, Units, decimal, write
from orvek.workpiece.outline import TurnedBarrel

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator
    from orvek.workpiece.tolerance import ToleranceRun

DRAWS = 1000  # 5 and 95 % then stand to about 1 %
WORDS = {
    "angle": "the angle",
    "stop": "the stop",
    "kerf": "the kerf",
    "sheet": "the sheets' thickness",
    "slip": "joints that slip",
    "index": "the turning of the faces",
    "centring": "the centring of the hole",
    "boring": "the bit's wander",
}


class MeetQuestion(Struct, frozen=True):
    """All that a tolerance run depends on."""

    steps: tuple[Step, ...]
    size: tuple[float, float, float, bool]
    barrels: tuple[TurnedBarrel, ...]
    accuracy: Accuracy
    own: tuple[Material, ...] = ()
    units: Units = field(default_factory=Units)  # for the words of the answer


class MeetAnswer(Struct, frozen=True):
    """What came of it."""

    question: MeetQuestion
    run: ToleranceRun

    @property
    def words(self) -> str:
        """The answer in two sentences."""
        run = self.run
        if run.boundary_mm <= 0 or run.median_mm <= 0:
            return "There are no lines on the barrels that could miss one another."
        text = (
            f"Lines miss their place by {self._mm(run.median_mm)} on a typical barrel, by {self._mm(run.high_mm)} "
            f"on one in twenty, worst at {self._mm(run.worst[0], 0)}, {run.worst[1]:.0f}° round."
        )
        if run.better is None:
            return text
        group, error, after = run.better
        better = f"{decimal(error)}°" if group in {"angle", "index"} else self._mm(error)
        return f"{text} First improve {WORDS[group]}: to {better}, and the typical miss falls to {self._mm(after)}."

    def _mm(self, value: float, digits: int = 2) -> str:
        return write(value, Dimension.LENGTH, self.question.units, digits)


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
