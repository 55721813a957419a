"""A solver that works for seconds: how far it is, and its end as soon as nobody waits any more."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any


@contextmanager
def watched(solver: Any, progress: Callable[[float], None] | None, seconds: float) -> Iterator[None]:
    """Tell progress ten times a second while the solver works; what progress raises ends the search at once."""
    done, began = threading.Event(), time.monotonic()

    def watch() -> None:
        while progress is not None and not done.wait(0.1):
            try:
                progress(min(0.95, (time.monotonic() - began) / seconds))
            except Exception:
                # Nobody waits for this answer any more; the solver says what it has by now.
                solver.stop_search()
                return

    watcher = threading.Thread(target=watch, daemon=True)
    watcher.start()
    try:
        yield
    finally:
        done.set()
        watcher.join()
