"""From steps to a program: each step becomes one row or a few, the last step first.

`compiled(steps, section)` raises `NothingToDoError` where the list cannot make a bar. What a kind of step adds is
said by its file in `kinds/`.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from orvek.documents import DyeStep, InsertStep, Material, Step, missing_stock
from orvek.documents.steps import STOCK_STEPS
from orvek.errors import NothingToDoError
from orvek.workpiece.kinds.table import KINDS
from orvek.workpiece.lengths import starts_mm
from orvek.workpiece.program import COLUMNS, MOST_MATERIALS, UNDECIDED, Program
from orvek.workpiece.rows import Compiler

_USUAL_RING_MM = Material.model_fields["ring_mm"].default  # what a material has of which nothing is said


def compiled(
    steps: tuple[Step, ...],
    width_mm: float,
    depth_mm: float,
    length_mm: float,
    is_round: bool = False,
    own: tuple[Material, ...] = (),
) -> Program:
    """Compile the steps of a blank on a bar that has this size when they are done; `own` are the maker's materials.

    Raises:
        NothingToDoError: the first step is no stock, or a slab is laid into no casting.
    """
    missing = missing_stock(steps)
    if missing:
        raise NothingToDoError(*missing)
    stock = next(
        n for n, step in enumerate(steps) if isinstance(step, STOCK_STEPS) and not isinstance(step, InsertStep)
    )
    compiler = Compiler(width_mm, depth_mm, length_mm, is_round, own)
    before = starts_mm(steps, length_mm)
    # Materials of the stock come first, so that a dye knows all that it may meet.
    later = zip(steps[stock + 1 :], before[stock + 1 :], strict=True)
    work = [(step, long) for step, long in later if not isinstance(step, STOCK_STEPS)]
    stock_part = Compiler(width_mm, depth_mm, before[stock], is_round, own)
    stock_part.materials, stock_part.aux, stock_part.dots = compiler.materials, compiler.aux, compiler.dots
    for step in (*steps[:stock], steps[stock]):
        KINDS[type(step)].rows(stock_part, step)
    parts = []
    dyes = 0
    for step, long in work:
        part = Compiler(width_mm, depth_mm, long, is_round, own)
        part.materials, part.aux, part.gone = compiler.materials, compiler.aux, compiler.gone
        part.dots = compiler.dots
        part.dye_number = dyes
        dyes += isinstance(step, DyeStep)
        KINDS[type(step)].rows(part, step)
        parts.append(part)
    for part in (*reversed(parts), stock_part):
        compiler.kinds += part.kinds
        compiler.rows += part.rows
    return _program(compiler)


def _program(compiler: Compiler) -> Program:
    arrays: tuple[NDArray[Any], ...] = (
        np.asarray(compiler.kinds, dtype=np.int32),
        np.asarray(compiler.rows, dtype=np.float32).reshape(-1, COLUMNS),
        np.asarray(compiler.aux or [0.0], dtype=np.float32),
        np.concatenate(compiler.dots) if compiler.dots else np.zeros(1, np.uint8),
    )
    for array in arrays:
        array.setflags(write=False)
    kinds, rows, aux, dots = arrays
    return Program(
        kinds,
        rows,
        aux,
        tuple(compiler.materials),
        compiler.width_mm,
        compiler.depth_mm,
        compiler.length_mm,
        compiler.is_round,
        len(compiler.materials) >= MOST_MATERIALS,
        dots,
        _grain(compiler.materials),
    )


def _grain(materials: list[Material]) -> NDArray[np.float32]:
    """By material, how many rings lie where a wood of usual rings has one; no material has one."""
    found = np.ones(UNDECIDED + 1, dtype=np.float32)
    found[: len(materials)] = [_USUAL_RING_MM / there.ring_mm for there in materials]
    found.setflags(write=False)
    return found
