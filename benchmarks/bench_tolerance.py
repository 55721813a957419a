"""A thousand blanks with the shop's errors, against one pass of np.sin over 100,000 float32."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import platformdirs

from benchmarks.timing import best_of
from orvek.documents import Accuracy, CutStep, Layer, SolidStep
from orvek.workpiece.field import load_kernel
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.tolerance import Trial, sobol_normal


def test_a_thousand_knots() -> None:
    evaluate = load_kernel(Path(platformdirs.user_cache_path("orvek", appauthor=False)) / "kernel")
    sheet = (Layer(material="holly", thickness_mm=2.0),)
    cuts = [CutStep(angle_deg=35, azimuth_deg=90 * n, kerf_mm=2, sheet=sheet) for n in range(4)]
    barrel = (TurnedBarrel(40, 90, 12, 12, 8),)
    bench = Trial(evaluate, (SolidStep(), *cuts), (20.0, 20.0, 130.0, False), barrel, Accuracy())
    moves = sobol_normal(1000, bench.values) * bench.scales()
    line = np.full(100_000, 0.5, dtype=np.float32)
    stick, taken = best_of(lambda: np.sin(line), 200), best_of(lambda: bench.mismatches(moves), 5)
    print(f"\n1,000 knots: {1000 * taken:.0f} ms, {taken / stick:.0f} x np.sin over 100,000 ({1e6 * stick:.0f} µs)")
    assert taken / stick < 1500
