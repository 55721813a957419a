"""What a kind of step is to the workpiece: the rows it adds, and what a hand can set wrong about it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec import Struct

from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State

# Carries the state of all points one row back: (state, row, aux, index of the row).
Case = Callable[[State, Floats, Floats, int], None]


class StepKind(Struct, frozen=True):
    """One kind of step.

    Attributes:
        rows: adds the step's rows to a compiler.
        set_by: what is set at the machine, as (error it falls under, field): the causes of a tolerance run.
        layers: the field that holds its sheets, each as thick as it was planed; none where there are none.
    """

    rows: Callable[[Compiler, Any], None]
    set_by: tuple[tuple[str, str], ...] = ()
    layers: str | None = None
