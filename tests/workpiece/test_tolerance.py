"""Will the lines meet: the laws of small errors, and what is said of the shop's own."""

from __future__ import annotations

import math

import numpy as np
import pytest

from orvek.documents import Accuracy, ArcStep, CutStep, LaminateStep, Layer, SliceStep, SolidStep, StackStep, Step
from orvek.workpiece.field import Evaluator
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.reference import evaluate_reference
from orvek.workpiece.tolerance import Trial, sobol_normal, tolerance_run

SHEET = (Layer(material="holly", thickness_mm=2.0),)
SIZE = (20.0, 20.0, 130.0, False)
BARREL = TurnedBarrel(40, 90, 12, 12, 8)
EXACT = Accuracy(angle_deg=0, stop_mm=0, kerf_mm=0, sheet_mm=0, index_deg=0, slip_mm=0, centring_mm=0, boring_mm=0)


def bench(kernel: Evaluator, accuracy: Accuracy, *later: Step, finer: int = 1) -> Trial:
    return Trial(kernel, (SolidStep(material="black-walnut"), *later), SIZE, (BARREL,), accuracy, finer)


def only(made: Trial, group: str, move: float, nth: int = 0) -> np.ndarray:
    places = [n for n, cause in enumerate(made.causes) if cause.group == group]
    moves = np.zeros((1, made.values))
    moves[0, places[nth]] = move
    return moves


@pytest.mark.parametrize(("angle", "error"), [(30.0, 0.8), (45.0, 1.0), (60.0, 1.5)])
def test_an_angle_error_swings_the_line_by_its_law(kernel: Evaluator, angle: float, error: float) -> None:
    """dA = r·da/sin² a, as mean distance between the two lines along the ideal one, to 5 %."""
    made = bench(kernel, Accuracy(), CutStep(angle_deg=angle, kerf_mm=2, sheet=SHEET), finer=4)
    turn = np.linspace(0, 2 * np.pi, 20_001)
    a, r = math.radians(angle), 6.0
    errors = np.linspace(-error, error, 301)
    swing = r * math.radians(float(np.abs(errors).mean())) / math.sin(a) ** 2
    area = 2 * np.trapezoid(np.abs(swing * np.cos(turn)) * r, turn)
    length = 2 * np.trapezoid(np.hypot(r, r / math.tan(a) * np.sin(turn)), turn)
    assert made.boundary_mm == pytest.approx(length, rel=0.02)
    moves = np.concatenate([only(made, "angle", float(one)) for one in errors])
    assert made.mismatches(moves).mean() == pytest.approx(area / length, rel=0.05)


def test_a_stop_error_moves_the_whole_line(kernel: Evaluator) -> None:
    made = bench(kernel, Accuracy(), CutStep(angle_deg=90, kerf_mm=2, sheet=SHEET), finer=4)
    assert made.boundary_mm == pytest.approx(2 * 2 * math.pi * 6, rel=0.02)
    for shift in (0.5, 1.0):
        assert made.mismatches(only(made, "stop", shift))[0] == pytest.approx(shift, rel=0.03)


def test_an_off_centre_hole_moves_a_diagonal_line(kernel: Evaluator) -> None:
    """The curve shifts by e·cot a where the hole is off towards the cut's face."""
    made = bench(kernel, Accuracy(), CutStep(angle_deg=30, kerf_mm=2, sheet=SHEET), finer=4)
    moves = np.zeros((1, made.values))
    moves[0, -4] = 0.3
    turn = np.linspace(0, 2 * np.pi, 20_001)
    length = 2 * np.trapezoid(np.hypot(6, 6 / math.tan(math.pi / 6) * np.sin(turn)), turn)
    expected = 2 * (0.3 / math.tan(math.pi / 6)) * 2 * math.pi * 6 / length
    assert made.mismatches(moves)[0] == pytest.approx(expected, rel=0.08)


def test_an_exact_shop_misses_nothing(kernel: Evaluator) -> None:
    run = tolerance_run(bench(kernel, EXACT, CutStep(sheet=SHEET)), 64)
    assert run.median_mm == 0
    assert run.shares == ()
    assert run.better is None


def test_closer_work_misses_less_and_the_first_cause_is_worth_it(kernel: Evaluator) -> None:
    knot = [CutStep(angle_deg=35, azimuth_deg=90 * n, kerf_mm=2, sheet=SHEET) for n in range(4)]
    run = tolerance_run(bench(kernel, Accuracy(), *knot), 256)
    careful = Accuracy(**{name: value / 3 for name, value in Accuracy().model_dump().items()})
    better = tolerance_run(bench(kernel, careful, *knot), 256)
    assert better.median_mm < 0.6 * run.median_mm
    assert run.low_mm < run.median_mm < run.high_mm
    assert sum(part for _, part in run.shares) == pytest.approx(1)
    assert run.shares[0][0] == "centring"
    assert run.better is not None
    assert run.better[2] < run.median_mm
    assert 40 <= run.worst[0] <= 90
    assert run.often.max() <= 1
    assert run.typical.program.rows.shape == run.unlucky.program.rows.shape


def test_slips_are_shown_one_by_one_and_grow(kernel: Evaluator) -> None:
    knot = [CutStep(angle_deg=35, azimuth_deg=90 * n, kerf_mm=2, sheet=SHEET) for n in range(4)]
    run = tolerance_run(bench(kernel, Accuracy(slip_mm=0), *knot), 64)
    assert [slip for slip, _, _ in run.slipped] == [0.2, 0.4, 0.8]
    misses = [miss for _, miss, _ in run.slipped]
    assert 0.02 < misses[0] < misses[1] < misses[2]
    assert "slip" not in dict(run.shares), "a shop that pins its joints has no share from them"
    assert "slip" in dict(tolerance_run(bench(kernel, Accuracy(slip_mm=0.4), *knot), 64).shares)


@pytest.mark.parametrize(
    "step",
    [ArcStep(sheet=SHEET), SliceStep(), StackStep(), LaminateStep()],
    ids=lambda step: step.kind,
)
def test_other_steps_are_made_with_errors_too(step: Step) -> None:
    steps = (step,) if step.kind in {"stack", "laminate"} else (LaminateStep(), step)
    made = Trial(evaluate_reference, steps, SIZE, (BARREL,), Accuracy())
    assert made.causes
    moves = sobol_normal(4, made.values) * made.scales()
    assert (made.mismatches(moves) > 0).all()
