"""Timing: the shortest of several runs, which other work on the machine disturbs least."""

from __future__ import annotations

import time
from collections.abc import Callable


def best_of(work: Callable[[], object], times: int = 40) -> float:
    """The shortest of several runs, in seconds."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        taken.append(time.perf_counter() - start)
    return min(taken)
