"""Measures from the field: how much of each material is in the bar, or in a cylinder turned from it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from orvek.documents import Material
from orvek.workpiece.field import Evaluator
from orvek.workpiece.program import Program

_POINTS = 400_000


class Amount(Struct, frozen=True):
    """How much there is of a material."""

    material: Material
    volume_ml: float

    @property
    def mass_g(self) -> float:
        """By the material's density."""
        return self.volume_ml * self.material.density_g_ml.value


def amounts(
    evaluate: Evaluator,
    program: Program,
    from_mm: float,
    to_mm: float,
    radius_mm: float | None = None,
    points: int = _POINTS,
) -> tuple[Amount, ...]:
    """Volumes of all materials between two places on the bar.

    Args:
        evaluate: kernel or reference.
        program: the blank.
        from_mm, to_mm: the stretch of the bar.
        radius_mm: within a cylinder about the axis; the whole section when left out.
        points: how many points are asked; the error of a volume falls faster than 1/√points, because they are
            spread evenly (a rank-one lattice).

    Returns:
        An amount for every material of the program; they add up to the volume asked about.
    """
    lattice = _lattice(points)
    z = from_mm + lattice[2] * (to_mm - from_mm)
    if radius_mm is None and program.is_round:
        radius_mm = program.width_mm / 2
    if radius_mm is None:
        x, y = (lattice[0] - 0.5) * program.width_mm, (lattice[1] - 0.5) * program.depth_mm
        volume_mm3 = program.width_mm * program.depth_mm * (to_mm - from_mm)
    else:
        radius, angle = radius_mm * np.sqrt(lattice[0]), 2 * np.pi * lattice[1]
        x, y = radius * np.cos(angle), radius * np.sin(angle)
        volume_mm3 = np.pi * radius_mm**2 * (to_mm - from_mm)
    sample = evaluate(program, np.stack([x, y, z]).astype(np.float32))
    counts = np.bincount(sample.material, minlength=len(program.materials))
    return tuple(
        Amount(there, float(count) / points * volume_mm3 / 1000)
        for there, count in zip(program.materials, counts, strict=True)
    )


def _lattice(points: int) -> np.ndarray:
    """Evenly spread points in the unit cube (3, n): multiples of powers of the plastic number's inverse."""
    root = 1.2207440846057594759  # the real solution of x^4 = x + 1
    steps = np.array([1 / root, 1 / root**2, 1 / root**3])[:, None]
    return (0.5 + steps * np.arange(1, points + 1)[None, :]) % 1.0
