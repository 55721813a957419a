"""The blank as a field: any points in, their materials and tones out, by the kernel or by its stand-in."""

from __future__ import annotations

import logging
import os
import shutil
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from orvek.documents import SolidStep
from orvek.workpiece.compiling import compiled
from orvek.workpiece.program import Program, Sample
from orvek.workpiece.reference import evaluate_reference

_LOG = logging.getLogger(__name__)
Evaluator = Callable[[Program, NDArray[np.float32]], Sample]


def load_kernel(cache: Path) -> Evaluator:
    """Load the compiled kernel, its machine code kept in `cache`. Takes seconds: do it in the background.

    Returns:
        What evaluates programs from now on; where no compiler can run, the NumPy reference.
    """
    os.environ.setdefault("NUMBA_CACHE_DIR", str(cache))
    try:
        return _warm_kernel()
    except Exception:
        _LOG.warning("the kernel's cache could not be used; it is made anew", exc_info=True)
    try:
        # Machine code that a full disk or another processor left half right is worth nothing: compile again.
        shutil.rmtree(cache, ignore_errors=True)
        return _warm_kernel()
    except Exception:
        # The cache cannot be written or the compiler does not run here: slower, but right.
        _LOG.exception("the kernel does not run here; pictures are computed without it")
        return evaluate_reference


def _warm_kernel() -> Evaluator:
    """The compiled kernel, after it has computed a few points and they were right."""
    from orvek.workpiece.kernel import evaluate_kernel

    warm = compiled((SolidStep(),), 20, 20, 130)
    points = np.zeros((3, 8), np.float32)
    found = evaluate_kernel(warm, points)
    if not np.array_equal(found.material, evaluate_reference(warm, points).material):
        raise ArithmeticError("the kernel computes something else than the reference")
    return evaluate_kernel
