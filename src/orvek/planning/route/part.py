"""The operations of the job, and which of them are done."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.results import Plan
from orvek.planning.route.building import route_of
from orvek.planning.route.results import Route
from orvek.planning.route.steps import steps_of
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, write_date


def part(plan: Plan) -> Route | None:
    """The job's operations, as far as is decided what is made; None while nothing is."""
    is_mixed = plan.mixture is not None and bool(plan.mixture.cups)
    if plan.job.pen is None and not is_mixed and plan.job.soak.route == "nothing":
        return None
    return route_of(plan)


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with the first operation that is done; complete with the last."""
    if plan.route is None:
        return False, False
    return bool(plan.route.done), not plan.route.open


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    if plan.route is None:
        return
    weighed = list(_weighed(plan))
    if weighed:
        yield "Weighed, beside what was planned", weighed
    terms = tuple(Term("·", task.words, task.hands_min, Dimension.DURATION) for task in plan.route.open[:40])
    source = "guesses of workshop practice, and your own times where there are any"
    yield "Work", [Figure("Hands, all of it", plan.route.hands_min, Dimension.DURATION, "Σ tasks", terms, source)]


def _weighed(plan: Plan) -> Iterator[Figure]:
    """What came out of each weighing at the bench, with what it was to be."""
    assert plan.route is not None
    words = {
        step.key: step.words for task in plan.route.operations if task.kind == "weigh" for step in steps_of(plan, task)
    }
    for actual in plan.job.work.actuals:
        if actual.what == "weighed" and actual.value is not None and actual.planned is not None:
            label = words.get(actual.task, actual.task).split(", then")[0].rstrip(".")
            terms = (Term("p", "planned", actual.planned, Dimension.MASS),)
            off = 100 * (actual.value - actual.planned) / actual.planned if actual.planned else 0.0
            source = f"off by {off:+.1f} %, on {write_date(actual.when)} {actual.when:%H:%M}"
            yield Figure(label, actual.value, Dimension.MASS, "as the scale said", terms, source, digits=2)
