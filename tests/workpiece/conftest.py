"""The compiled kernel, once a session."""

from __future__ import annotations

from pathlib import Path

import platformdirs
import pytest

from orvek.workpiece.field import Evaluator, load_kernel
from orvek.workpiece.reference import evaluate_reference


@pytest.fixture(scope="session")
def kernel() -> Evaluator:
    """The kernel itself, never its stand-in."""
    loaded = load_kernel(Path(platformdirs.user_cache_path("orvek", appauthor=False)) / "kernel")
    assert loaded is not evaluate_reference
    return loaded
