"""The blank as a field: any points in, their materials and tones out, by the kernel or by its stand-in."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from orvek.documents import SolidStep
from orvek.workpiece.compiling import compiled
from orvek.workpiece.program import Program, Sample
from orvek.workpiece.reference import evaluate_reference

Evaluator = Callable[[Program, NDArray[np.float32]], Sample]


def load_kernel(cache: Path) -> Evaluator:
    """Load the compiled kernel, its machine code kept in `cache`. Takes seconds: do it in the background.

    Returns:
        What evaluates programs from now on; where no compiler can run, the NumPy reference.
    """
    os.environ.setdefault("NUMBA_CACHE_DIR", str(cache))
    try:
        from orvek.workpiece.kernel import evaluate_kernel

        warm = compiled((SolidStep(),), 20, 20, 130)
        evaluate_kernel(warm, np.zeros((3, 8), np.float32))
    except Exception:
        # The cache cannot be written or the compiler does not run here: slower, but right.
        return evaluate_reference
    return evaluate_kernel
