"""The field's kernel against one pass of np.sin over as many float32, and a roll of the turned barrel.

The kernel works in every thread the machine has, so its yardstick does, too: beside a sine in one thread the ratio
doubled whenever another guest left that one core alone.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numba
import numpy as np
import platformdirs
import pytest

from benchmarks.timing import best_of
from orvek.documents import CutStep, Layer, SolidStep
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import load_kernel
from orvek.workpiece.pictures import turned, turning, unrolled

POINTS = 360_000


@pytest.mark.parametrize(("cuts", "limit"), [(4, 6.0), (12, 8.0)])
def test_kernel(cuts: int, limit: float) -> None:
    evaluate = load_kernel(Path(platformdirs.user_cache_path("orvek", appauthor=False)) / "kernel")
    sheet = (Layer(material="brass", thickness_mm=2),)
    steps = [CutStep(azimuth_deg=90 * (n % 4), centre_mm=60 + n, kerf_mm=2, sheet=sheet) for n in range(cuts)]
    program = compiled((SolidStep(), *steps), 20, 20, 130)
    points = ((np.random.default_rng(1).random((3, POINTS)) - [[0.5], [0.5], [0]]) * [[20], [20], [130]]).astype("f4")
    parts = np.array_split(points[0].copy(), numba.get_num_threads())
    with ThreadPoolExecutor(len(parts)) as threads:
        stick = best_of(lambda: list(threads.map(np.sin, parts)))
    taken = best_of(lambda: evaluate(program, points))
    print(
        f"\n{cuts} cuts, {POINTS} points: {1000 * taken:.2f} ms, {taken / stick:.1f} x np.sin ({1000 * stick:.2f} ms)"
    )
    assert taken / stick < limit


def test_a_roll_of_the_barrel() -> None:
    """1000 x 260 pixels: a sixtieth of a second is 16.7 ms."""
    evaluate = load_kernel(Path(platformdirs.user_cache_path("orvek", appauthor=False)) / "kernel")
    program = compiled((SolidStep(), CutStep(sheet=(Layer(material="brass", thickness_mm=2),))), 20, 20, 130)
    z = np.linspace(0, 130, 1000, dtype=np.float32)
    surface = unrolled(evaluate, program, z, np.full(1000, 6, np.float32), 360)
    prepared = turning(np.full(1000, 129, np.float32), 260, (245, 242, 235))
    line = np.zeros(1000 * 260 * 3, dtype=np.float32)
    stick = best_of(lambda: np.sin(line))
    taken = best_of(lambda: turned(surface, prepared, 33.0))
    print(f"\nroll: {1000 * taken:.2f} ms, {taken / stick:.1f} x np.sin over its colours ({1000 * stick:.2f} ms)")
    assert taken < 1 / 60
