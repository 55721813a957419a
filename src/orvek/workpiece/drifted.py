"""The field as a crooked hole meets it: what is turned on the tube follows the hole, not the bar."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.workpiece.field import Evaluator
from orvek.workpiece.program import Program, Sample


class Crooked(Struct, frozen=True):
    """A straight hole between two places of the bar, off its axis by (x, y) in mm at each."""

    start_mm: float
    end_mm: float
    at_start_mm: tuple[float, float]
    at_end_mm: tuple[float, float]

    def offset_mm(self, z_mm: NDArray[np.float32], axis: int) -> NDArray[np.float32]:
        """How far off the hole lies in one direction at places of the bar."""
        along = (z_mm - np.float32(self.start_mm)) / np.float32(self.end_mm - self.start_mm)
        first, last = np.float32(self.at_start_mm[axis]), np.float32(self.at_end_mm[axis])
        return first + (last - first) * along


def drifted(evaluate: Evaluator, holes: tuple[Crooked, ...]) -> Evaluator:
    """Evaluates points that are given about each hole's own axis; between the holes nothing is moved."""

    def asked(program: Program, points: NDArray[np.float32]) -> Sample:
        moved = points.copy()
        for hole in holes:
            inside = (points[2] >= hole.start_mm) & (points[2] <= hole.end_mm)
            for axis in (0, 1):
                moved[axis] += np.where(inside, hole.offset_mm(points[2], axis), np.float32(0))
        return evaluate(program, moved)

    return asked
