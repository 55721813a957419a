"""What is turned about a crooked hole is the field moved to the hole, and nothing else."""

from __future__ import annotations

import numpy as np
import pytest

from orvek.documents import designs
from orvek.workpiece.compiling import compiled
from orvek.workpiece.drifted import Crooked, drifted
from orvek.workpiece.program import Program
from orvek.workpiece.reference import evaluate_reference


@pytest.fixture
def program() -> Program:
    return compiled(designs()[1].steps, 20.0, 20.0, 132.0, False, ())


def _points(seed: int) -> np.ndarray:
    chance = np.random.default_rng(seed)
    return np.stack([*chance.uniform(-7, 7, (2, 400)), chance.uniform(5, 125, 400)]).astype(np.float32)


def test_a_hole_on_the_axis_changes_nothing(program: Program) -> None:
    straight = drifted(evaluate_reference, (Crooked(0, 132, (0, 0), (0, 0)),))
    points = _points(1)
    assert np.array_equal(straight(program, points).material, evaluate_reference(program, points).material)


def test_a_crooked_hole_sees_the_bar_from_where_it_lies(program: Program) -> None:
    hole = Crooked(20, 70, (0.5, -1.0), (2.0, 0.4))
    points = _points(2)
    moved = points.copy()
    inside = (points[2] >= 20) & (points[2] <= 70)
    along = (points[2] - 20) / 50
    moved[0] += np.where(inside, 0.5 + 1.5 * along, 0).astype(np.float32)
    moved[1] += np.where(inside, -1.0 + 1.4 * along, 0).astype(np.float32)
    found = drifted(evaluate_reference, (hole,))(program, points).material
    assert np.array_equal(found, evaluate_reference(program, moved).material)
    assert not np.array_equal(found, evaluate_reference(program, points).material)
    assert np.array_equal(points, _points(2)), "whoever asks keeps the points"
