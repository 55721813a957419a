"""All kinds of steps and of rows, by class: the one table that compiler, reference and tolerance run look into."""

from __future__ import annotations

from orvek.workpiece.kinds import boring, casting, dyeing, gluing, photographed, sawing, shaping, wrapping
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.program import Kind

_FAMILIES = (gluing, wrapping, photographed, casting, sawing, boring, dyeing, shaping)
KINDS: dict[type, StepKind] = {step: kind for family in _FAMILIES for step, kind in family.KINDS.items()}
CASES: dict[Kind, Case] = {row: case for family in _FAMILIES for row, case in family.CASES.items()}
