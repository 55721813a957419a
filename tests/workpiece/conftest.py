"""The compiled kernel, once a session."""

from __future__ import annotations

import pytest

from orvek.workpiece.field import Evaluator, kernel_cache, load_kernel
from orvek.workpiece.reference import evaluate_reference


@pytest.fixture(scope="session")
def kernel() -> Evaluator:
    """The kernel itself, never its stand-in."""
    loaded = load_kernel(kernel_cache())
    assert loaded is not evaluate_reference
    return loaded
