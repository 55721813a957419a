"""Each kind of work, carried as far as the stations go: nothing stops it, and what Orvek says of it stays the same.

What is said is kept in `recorded/`, a file a job: every figure with its working, every finding with its remedies, the
cut list. When that changes on purpose, record it anew and read the difference before it is committed:

    ORVEK_RECORD=1 python -m pytest tests/jobs
"""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from orvek.cards import cut_list_csv, report_text
from orvek.documents import Shop, from_text, to_text
from orvek.planning import Plan, Severity, plan, report_sections
from tests.jobs.the_sixteen import SIXTEEN

RECORDED = Path(__file__).parent / "recorded"


def said(planned: Plan) -> str:
    """All that the plan says of a job, as text."""
    parts = [report_text(planned, planned.units)]
    for heading, figures in report_sections(planned):
        parts.append(f"\n{heading}, worked")
        for figure in figures:
            terms = "; ".join(f"{term.symbol} = {term.value:.6g} {term.words}" for term in figure.terms)
            parts.append(f"  {figure.label} {figure.value:.6g}: {figure.formula} ({terms}) {figure.source}".rstrip())
    for finding in planned.findings:
        edits = [f"{edit.path} {edit.value}" for remedy in finding.remedies for edit in remedy.edits]
        parts.append(f"\n{finding.severity.value} {finding.key} at {finding.station.value}: {finding.title}")
        parts.extend(f"  {edit}" for edit in edits)
    if planned.cutting is not None and planned.cutting.cuts:
        parts.append("\n" + cut_list_csv(planned).decode())
    return "\n".join(parts).replace("\r\n", "\n") + "\n"


@pytest.mark.parametrize("name", SIXTEEN)
def test_a_kind_of_work_is_carried(name: str, shop: Shop) -> None:
    job = SIXTEEN[name]()
    assert from_text(to_text(job)) == job
    planned = plan(job, shop)
    assert planned.failed == ()
    assert [finding.title for finding in planned.findings if finding.severity is Severity.STOP] == []
    assert planned.layout is not None
    now, file = said(planned), RECORDED / f"{name.replace(' ', '_')}.txt"
    if os.environ.get("ORVEK_RECORD"):
        file.write_text(now, encoding="utf-8")
    assert now == file.read_text(encoding="utf-8")
