"""A plugin for the run that makes the map: each test works out anew what is looked up once, so that it is seen."""

from __future__ import annotations

import sys
from functools import _lru_cache_wrapper
from types import ModuleType

_ROOMS = ("orvek.craft.", "orvek.planning.", "orvek.workpiece.", "orvek.store.")
_LEFT = "orvek.workpiece.field"  # the kernel: a second to load


def pytest_runtest_setup() -> None:
    """Forget what is kept before each test."""
    for name, module in sys.modules.copy().items():  # at once: a thread may load one more
        if name.startswith(_ROOMS) and name != _LEFT:
            _forget(module)


def _forget(module: ModuleType) -> None:
    for kept in vars(module).values():
        if isinstance(kept, _lru_cache_wrapper):
            kept.cache_clear()
