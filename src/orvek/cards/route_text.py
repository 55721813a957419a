"""The route in words and as JSON: every operation with what it takes, is set to, waits for and gives."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from orvek.planning import Plan
from orvek.planning.history import took_min
from orvek.planning.route.pieces import lines_of, taken
from orvek.planning.route.results import Operation, WorkPiece
from orvek.planning.route.steps import steps_of
from orvek.planning.route.words import settings_lines, wait_words, whole_min
from orvek.quantities import Dimension, Units, write

# The field's words for what is kept in logs under shorter ones.
_KINDS = {
    "mill": "square_stock",
    "join": "glue",
    "plug": "fill",
    "weigh": "mix",
    "length": "crosscut",
    "tube": "glue_tube",
    "square": "square_ends",
    "voids": "fill",
}


def route_text(plan: Plan, units: Units) -> str:
    """The operations in their order; done ones are ticked."""
    lines = [plan.job.batch.name, "=" * len(plan.job.batch.name)]
    for number, one in enumerate(plan.route.operations if plan.route else (), 1):
        tick = " (done)" if plan.route is not None and one.key in plan.route.done else ""
        lines += ["", f"{number}. {one.words}{tick}", *(f"   {line}" for line in told(plan, one, units))]
    if not plan.route or not plan.route.operations:
        lines += ["", "Nothing is decided yet: a pen, or what is cast or treated, begins the route."]
    return "\n".join(lines) + "\n"


def told(plan: Plan, one: Operation, units: Units) -> Iterator[str]:
    """What is said of one operation, a line each."""
    if one.takes:
        yield f"takes: {'; '.join(lines_of(taken(one), plan))}"
    yield from (f"{line}" for line in settings_lines(one, units))
    usual, low, high = (whole_min(minutes, units) for minutes in (one.hands_min, *one.hands_span_min))
    place = f" at the {one.place}" if one.place else ""
    yield f"hands: {usual} ({low} to {high}){place}"
    took = took_min(plan.job, one.key, one.hands_min)
    if took is not None:
        yield f"took: {whole_min(took, units)}"
    if one.wait_min[2]:
        yield f"then: {wait_words(one, units)}"
    if one.soon_min is not None:
        yield f"begin within {write(one.soon_min, Dimension.DURATION, units)} of what comes before"
    if one.gives and one.gives != one.takes:
        yield f"gives: {'; '.join(lines_of(one.gives, plan))}"
    yield from (f"caution: {words}" for words in plan.cautions_of(one.cautions))


def route_json(plan: Plan, _units: Units) -> str:
    """The route for other programs; lengths in mm, masses in g, times in minutes."""
    operations = plan.route.operations if plan.route else ()
    content = {
        "job": {"id": plan.job.batch.id, "name": plan.job.batch.name},
        "operations": [_operation(plan, one) for one in operations],
    }
    return json.dumps(content, ensure_ascii=False, indent=2) + "\n"


def _operation(plan: Plan, one: Operation) -> dict[str, Any]:
    low, high = one.hands_span_min
    return {
        "key": one.key,
        "kind": kind_of(one),
        "station": one.station.value,
        "words": one.words,
        "takes": [_piece(piece) for piece in one.takes],
        "gives": [_piece(piece) for piece in one.gives],
        "settings": [
            {
                "name": f"{setting.of}: {setting.figure.label}",
                "value": setting.figure.value,
                "unit": setting.figure.dimension.value,
            }
            for setting in one.settings
        ],
        "uses": [{"item": f"{use.item}: {use.name}", "amount": use.amount, "unit": use.unit} for use in one.uses],
        "makes": [_piece(piece) for piece in one.makes],
        "hands_min": [low, one.hands_min, high],
        "wait_min": list(one.wait_min),
        "wait_source": one.wait_source,
        "ready_min": one.ready_min,
        "within_min": one.soon_min,
        "done": plan.route is not None and one.key in plan.route.done,
        "cautions": list(one.cautions),
        "steps": [step.words for step in steps_of(plan, one)],
    }


def _piece(piece: WorkPiece) -> dict[str, Any]:
    sizes: dict[str, Any] = {"width_mm": piece.width_mm, "depth_mm": piece.depth_mm}
    if piece.diameter_mm is not None:
        sizes = {"diameter_mm": list(piece.diameter_mm)}
    marks = [mark for mark in piece.marks if mark]
    whole = {"name": piece.name, "count": piece.count, "length_mm": piece.length_mm, **sizes}
    return {**whole, "datum": piece.datum, "marks": marks}


def kind_of(one: Operation) -> str:
    """What kind of operation it is, in the words of the field."""
    return one.field_kind or _KINDS.get(one.kind, one.kind)
