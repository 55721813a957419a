"""Each kind of work, carried as far as the stations go: nothing stops it, and what Orvek says of it stays the same.

The figures and keys of it are kept in `recorded/`, a file a job: every figure with its working, every finding with what
its remedies put, the cut list, where things lie along the bar, every task and what is done at the bench step by step.
When that changes on purpose, record it anew and read the difference before it is committed:

    ORVEK_RECORD=1 python -m pytest tests/jobs
"""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from orvek.cards.every import cut_list_csv, report_text
from orvek.documents import Shop, from_text, to_text
from orvek.planning import Plan, Severity, plan, report_sections
from orvek.planning.route.results import WorkPiece
from orvek.planning.route.steps import steps_of
from tests.jobs.recorded_text import hold, prose, said_of, sentences
from tests.jobs.the_sixteen import SIXTEEN


def said(planned: Plan) -> Iterator[str]:
    """All that the plan says of a job, line by line."""
    yield from sentences(report_text(planned, planned.units).splitlines())
    for heading, figures in report_sections(planned):
        for figure in figures:
            terms = " ".join(f"{term.value:.6g}" for term in figure.terms)
            yield f"{heading}: {figure.value:.6g} ({terms}) {prose(figure.formula)}"
    yield from map(said_of, planned.findings)
    if planned.glue_up is not None and planned.glue_up.cuts:
        yield from sentences(cut_list_csv(planned).decode().splitlines())
    yield from laid_out(planned)
    yield from at_the_bench(planned)


def laid_out(planned: Plan) -> Iterator[str]:
    """Where tubes, cuts and waste lie along the bar, and how far each station is."""
    layout = planned.layout
    assert layout is not None
    yield f"along the bar of {layout.length_mm:.6g} x {layout.width_mm:.6g} x {layout.depth_mm:.6g}"
    tubes = tuple(place.tube for place in layout.tubes)
    named = (("tube", tubes), ("kerf", layout.kerfs), ("waste", layout.waste), ("end", layout.ends))
    for what, spans in (*named, ("another", layout.others)):
        yield from (f"  {what} {span.start_mm:.6g} to {span.end_mm:.6g}" for span in spans)
    yield f"  cautions {' '.join(caution.key for caution in planned.cautions)}"
    yield f"  begun {' '.join(station.name for station, begun in planned.progress if begun)}"


def at_the_bench(planned: Plan) -> Iterator[str]:
    """Every task with its times, and its steps with what is weighed, measured and waited for."""
    for task in planned.route.operations if planned.route else ():
        low, high = task.hands_span_min
        waits = " ".join(f"{wait:.6g}" for wait in task.wait_min)
        yield f"{task.key} {prose(task.words)}: {task.hands_min:.6g} min ({low:.6g} to {high:.6g}), waits {waits}"
        yield f"  {task.place} {task.holds} {task.is_loud} {task.soon_min} {task.pieces} {task.cautions} {task.after}"
        yield f"  set {' '.join(f'{one.figure.value:.6g}' for one in task.settings)}"
        yield f"  uses {' '.join(f'{use.item} {use.amount:.6g}' for use in task.uses)}"
        yield f"  gives {' '.join(_piece(piece) for piece in task.gives)}"
        for step in steps_of(planned, task):
            targets = f"{_rounded(step.target_g)} {_rounded(step.target_mm)} {step.wait_s:.6g}"
            yield f"  {step.key} {step.kind} {targets} {prose(step.words)}"


def _piece(piece: WorkPiece) -> str:
    across = piece.diameter_mm or (piece.width_mm, piece.depth_mm)
    return f"{piece.count} {piece.length_mm:.6g} {' '.join(f'{size:.6g}' for size in across)}"


def _rounded(target: float | None) -> str:
    return "" if target is None else f"{target:.6g}"


@pytest.mark.parametrize("name", SIXTEEN)
def test_a_kind_of_work_is_carried(name: str, shop: Shop) -> None:
    job = SIXTEEN[name]()
    assert from_text(to_text(job)) == job
    planned = plan(job, shop)
    assert planned.failed == ()
    assert [finding.title for finding in planned.findings if finding.severity is Severity.STOP] == []
    assert planned.layout is not None
    hold(name.replace(" ", "_"), said(planned))
