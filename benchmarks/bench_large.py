"""Workshops of 50, 200 and 2,000 jobs: every station for the first time and again, a key press, and the memory."""

from __future__ import annotations

import resource
import time
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication

from benchmarks.bench_plan import yardstick
from benchmarks.large import filled
from benchmarks.timing import best_of
from orvek.planning import Station
from orvek.store import Workshop
from orvek.window import theme
from orvek.window.main_window import MainWindow
from orvek.window.session import Session

_FIRST, _AGAIN, _KEY = 600.0, 100.0, 40.0  # times the yardstick; first: while 2,000 jobs are read beside it


@pytest.mark.parametrize("jobs", [50, 200, 2000])
def test_a_large_workshop(qapp: QApplication, tmp_path: Path, jobs: int) -> None:
    theme.apply(qapp)
    small = _window(qapp, filled(tmp_path / "small.sqlite", 1))
    for station in Station:
        small.open_station(station)  # what a station loads when it is first opened is measured elsewhere
    _end(small)
    large = filled(tmp_path / "large.sqlite", jobs, entries=5 * jobs // 2, pieces=3 * jobs // 20)
    window = _window(qapp, large)
    stick, session = best_of(yardstick), window.session
    first: dict[Station, float] = {}
    again: dict[Station, float] = {}
    for station in Station:
        first[station] = _seconds(qapp, lambda: window.open_station(station))  # noqa: B023
    for station in Station:
        again[station] = _seconds(qapp, lambda: window.open_station(station))  # noqa: B023
    pens = session.job.batch.pens_wanted
    key = min(_seconds(qapp, lambda: session.edit(("batch", "pens_wanted"), pens + n, "")) for n in range(1, 6))  # noqa: B023
    memory_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    worst = max(first, key=lambda one: first[one])
    told = f"{worst.value} first {1000 * first[worst]:.0f} ms, {first[worst] / stick:.0f} x the yardstick"
    print(f"\n{jobs} jobs: {told}; again at most {max(again.values()) / stick:.0f} x, a key {key / stick:.0f} x")
    print(f"{memory_mb:.0f} MB; the yardstick is {1000 * stick:.1f} ms")
    assert first[worst] / stick < _FIRST
    assert max(again.values()) / stick < _AGAIN
    assert key / stick < _KEY

    _end(window)


def _window(application: QApplication, workshop: Workshop) -> MainWindow:
    window = MainWindow(Session(workshop))
    window.frame.resize(1280, 800)
    window.frame.show()
    window.load_slow_parts()
    window.surface.wait()
    window.looks.stop()
    application.processEvents()
    return window


def _end(window: MainWindow) -> None:
    window.session.answers.close()
    window.frame.close()


def _seconds(application: QApplication, deed: Callable[[], object]) -> float:
    began = time.perf_counter()
    deed()
    application.processEvents()
    return time.perf_counter() - began
