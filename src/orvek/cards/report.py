"""The plan as text or JSON, for those who work without a screen.

`report_text(plan, units)` for people, `report_json(plan, units)` for programs, `findings_text` for both.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from typing import Any

from msgspec import to_builtins

from orvek.cards.pour_card import weighing_rows
from orvek.documents import step_line
from orvek.planning import Figure, Finding, Plan, report_sections
from orvek.planning.blank.lines import showings
from orvek.planning.cure.findings import answer
from orvek.planning.glue_up.nesting import offcuts
from orvek.planning.glue_up.saw import added_up, row_words
from orvek.planning.words import (
    bars_line,
    left_mm,
    mould_size,
    pot_life_line,
    quiet_line,
    ratio_line,
    sawn_line,
    showing_line,
    taken_lines,
)
from orvek.quantities import Dimension, Units, write, write_sizes


def report_text(plan: Plan, units: Units) -> str:
    """Everything a maker reads off the stations, in the order of the work."""
    lines = [plan.job.batch.name, "=" * len(plan.job.batch.name), ""]
    for title, figures in report_sections(plan):
        if figures:
            lines.append(title)
            lines += [f"  {figure.label:<34} {figure.written(units):>16}" for figure in figures]
            lines.append("")
    lines += [
        "Steps",
        *(
            f"  {n}  {step_line(step, units, plan.job.blank.materials)}"
            for n, step in enumerate(plan.job.blank.steps, 1)
        ),
    ]
    lines += [*(f"     {showing_line(shown, plan.job, units)}" for shown in showings(plan.job, plan.layout)), ""]
    lines += list(_pour_lines(plan, units))
    lines += list(_glue_up_lines(plan, units))
    lines += list(_answer_lines(plan, units))
    lines += ["Findings", *(f"  {line}" for line in findings_text(plan).splitlines()), ""]
    return "\n".join(lines)


def findings_text(plan: Plan) -> str:
    """One block a finding, worst first; a quiet line where there is none."""
    return "\n".join(_finding_lines(plan.findings)) or quiet_line(plan)


def report_json(plan: Plan, units: Units) -> str:
    """The plan's figures with their workings and the findings with their remedies, as JSON."""
    content: dict[str, Any] = {
        "job": {"id": plan.job.batch.id, "name": plan.job.batch.name},
        "figures": [
            {"section": title, **_figure(figure, units)}
            for title, figures in report_sections(plan)
            for figure in figures
        ],
        "tubes": [
            {"name": t.barrel.name, "start_mm": t.tube.start_mm, "end_mm": t.tube.end_mm}
            for t in (plan.layout.tubes if plan.layout else ())
        ],
        "steps": [step.model_dump(mode="json") for step in plan.job.blank.steps],
        "shows": [
            {"barrel": s.barrel, "material": s.material, "least_mm": s.least_mm, "most_mm": s.most_mm}
            for s in showings(plan.job, plan.layout)
        ],
        "weighing": _weighing(plan, units),
        "stock": [to_builtins(one) for one in (added_up(plan.glue_up.stock) if plan.glue_up else ())],
        "cuts": [to_builtins(cut) for cut in (plan.glue_up.cuts if plan.glue_up else ())],
        "joints": [to_builtins(joint) for joint in (plan.glue_up.joints if plan.glue_up else ())],
        "tube_views": [to_builtins(view) for view in plan.colour],
        "bars": _bars(plan),
        "left_over_mm": [span.length_mm for span in (plan.layout.waste if plan.layout else ())],
        "cure": _cure(plan),
        "boards": {"words": plan.boards.words, "left": list(offcuts(plan.boards))} if plan.boards else None,
        "meet": {"words": str(plan.meet.words), "typical_mm": plan.meet.run.median_mm} if plan.meet else None,
        "cautions": [to_builtins(caution) for caution in plan.cautions],
        "findings": [
            {
                "key": finding.key,
                "severity": finding.severity.value,
                "station": finding.station.value,
                "title": finding.title,
                "because": finding.because,
                "remedies": [remedy.label for remedy in finding.remedies],
            }
            for finding in plan.findings
        ],
    }
    return json.dumps(_finite(content), indent=2, ensure_ascii=False, allow_nan=False) + "\n"


def _finite(content: Any) -> Any:
    """JSON knows no infinity: a figure without an end is null there, and its `written` says so in words."""
    match content:
        case float():
            return content if math.isfinite(content) else None
        case dict():
            return {key: _finite(value) for key, value in content.items()}
        case list() | tuple():
            return [_finite(value) for value in content]
        case _:
            return content


def _bars(plan: Plan) -> list[dict[str, Any]]:
    """What is sawn from each bar in hand; nothing where the bars come from a mould."""
    each, packing, pen = plan.bars.each_in_hand, plan.bars.packing, plan.job.pen
    names = [barrel.name for barrel in pen.barrels] if pen else []
    return [
        {
            "bar": each[one.bar].name,
            "length_mm": each[one.bar].length_mm,
            "pieces": dict(zip(names, one.pieces, strict=True)),
            "left_mm": list(left_mm(plan, one)),
        }
        for one in (packing.sawn if packing else ())
    ]


def _cure(plan: Plan) -> dict[str, Any] | None:
    """Hours from pouring as low, best, high; null for never. None where it was not forecast."""
    if plan.cure is None:
        return None
    times = {
        "gel_h": plan.cure.gel_min,
        "pressure_off_h": plan.cure.pressure_off_min,
        "out_h": plan.cure.demould_min,
        "ready_h": plan.cure.ready_min,
    }
    found: dict[str, Any] = {
        name: [band.low / 60, band.best / 60, band.high / 60] if band else None for name, band in times.items()
    }
    peak = plan.cure.peak_c
    return {
        **found,
        "peak_c": [peak.low, peak.best, peak.high] if peak else None,
        "words": str(answer(plan.cure)),
    }


def _answer_lines(plan: Plan, units: Units) -> Iterator[str]:
    """What was forecast, and what is left of the bar."""
    if plan.layout is not None:
        left = [write(span.length_mm, Dimension.LENGTH, units) for span in plan.layout.waste if span.length_mm >= 1]
        yield f"Left over from the bar: {', '.join(left) or 'nothing'}"
    if plan.bars.packing is not None:
        yield f"Sawn from the bars in hand: {sawn_line(plan) or 'nothing'}"
    if plan.cure is not None:
        yield f"Cure: {answer(plan.cure)}"
    if plan.boards is not None:
        yield f"Boards: {plan.boards.words} {'; '.join(offcuts(plan.boards))}".rstrip()
    if plan.meet is not None:
        yield f"Will it meet: {plan.meet.words}"
    yield ""


def _pour_lines(plan: Plan, units: Units) -> Iterator[str]:
    pour = plan.job.pour
    if pour.mould:
        yield f"Mould: {pour.mould.name}, {mould_size(pour.mould, units)}; {bars_line(plan.bars)}"
    if pour.resin:
        yield f"Resin: {pour.resin.name}, {ratio_line(pour.resin)}, {pot_life_line(pour.resin, units)}"
    rows = _weighing(plan, units)
    if rows:
        yield "Weigh, in this order:"
        yield from (f"  {row['cup']}  {row['what']:<34} {row['amount']:>10}" for row in rows)
    yield ""


def _glue_up_lines(plan: Plan, units: Units) -> Iterator[str]:
    """Stock, cuts and joints, and whether the tubes will show."""
    if plan.glue_up:
        yield "To begin with"
        yield from (f"  {line}" for line in taken_lines(plan))
        for one in added_up(plan.glue_up.stock):
            sizes = write_sizes((one.length_mm, one.width_mm, one.thickness_mm), units)
            yield f"  {one.count} × {plan.job.blank.material(one.material).name}, {one.name.lower()}: {sizes}"
        yield "Cuts, in this order"
        for number, cut in enumerate(plan.glue_up.cuts, 1):
            times = f", {cut.count} times" if cut.count > 1 else ""
            yield f"  {number}  {cut.title}{times}: {row_words(cut, units)}"
        if plan.glue_up.joints:
            yield "Glue, in this order"
        for number, joint in enumerate(plan.glue_up.joints, 1):
            rest = write(joint.rest_min, Dimension.DURATION, units)
            yield f"  {number}  {joint.what}; then wait {rest}"
        yield ""
    if plan.colour:
        yield "Will the tube show"
        for view in plan.colour:
            yield f"  {view.cup} at {view.barrel_name}, {view.side}: {view.verdict}"
        yield ""


def _weighing(plan: Plan, units: Units) -> list[dict[str, Any]]:
    if plan.mixture is None or not plan.mixture.cups:
        return []
    return [{"cup": row.cup + 1, "what": row.what, "amount": row.amount} for row in weighing_rows(plan, units)]


def _figure(figure: Figure, units: Units) -> dict[str, Any]:
    return {
        "label": figure.label,
        "value": figure.value,
        "unit": figure.dimension.value,
        "written": figure.written(units),
        "formula": figure.formula,
        "terms": [
            {"symbol": t.symbol, "words": t.words, "value": t.value, "unit": t.dimension.value, "standing": t.standing}
            for t in figure.terms
        ],
        "source": figure.source,
    }


def _finding_lines(findings: tuple[Finding, ...]) -> Iterator[str]:
    for finding in findings:
        yield f"{finding.severity.words}: {finding.title} {finding.because}"
        yield from (f"    → {remedy.label}" for remedy in finding.remedies)
