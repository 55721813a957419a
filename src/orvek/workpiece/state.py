"""Where the points of a reference run are by now, and what is known of them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.workpiece.program import UNDECIDED

Floats = NDArray[np.float64]


class State(Struct):
    """Where the points are by now, and what is known of them."""

    x: Floats
    y: Floats
    z: Floats
    material: NDArray[np.uint8]
    phase: Floats
    dyes: NDArray[np.int64]
    dots: NDArray[np.uint8]

    @property
    def open(self) -> NDArray[np.bool_]:
        """Points whose material is not decided yet."""
        return np.asarray(self.material == UNDECIDED)

    def decide(
        self,
        where: NDArray[np.bool_],
        material: NDArray[np.float64] | NDArray[np.uint8] | float,
        phase: Floats | float,
    ) -> None:
        """Set material and tone phase of points that are still open."""
        where = where & self.open
        self.material[where] = np.broadcast_to(material, where.shape)[where].astype(np.uint8)
        self.phase[where] = np.broadcast_to(phase, where.shape)[where]
