"""A program: the steps of a blank as a table of numbers, run backwards over points by the kernel or the reference.

Row kinds and what each column of a row holds are declared here, once, for compiler, kernel and reference.
Columns not named for a kind are 0. Lengths in mm, angles as cosines and sines, indices as whole floats.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Material

COLUMNS = 16
UNDECIDED = 255  # a point whose material is not known yet; so at most 255 materials
MOST_MATERIALS = 254


class Kind(IntEnum):
    """What a row does to a point that is carried back through it."""

    SOLID = 1  # material, cos and sin of the grain against the axis
    LAYERED = 2  # nx, ny, nz, offset, aux start, count, total, periodic
    STAVES = (
        3  # count, half glue, glue material, aux start of materials, how many, twist in radians a mm, ring, its turn,
    )
    # apothem of the hole in the middle of the bar, how it grows a mm, z middle, material inside
    CAST = 4  # cups, aux start of waves, waves a group, aux start of thresholds, first material, layered, depth
    EDGE = 5  # cos, sin azimuth, middle, slope, rough, z middle, aux start of waves, material, aux start
    # and number of the points of the line, their spacing
    CORE = 6  # radius, material
    RODS = 7  # radius squared, material, rods, ring radius, azimuth
    WRAP = 8  # core radius, outer radius, core, one, other, over, pattern, around, pitch, aux start and rows and
    # columns of the picture
    CHIPS = 9  # aux start of waves, threshold, material
    CUT = 10  # nx, ny, nz, d, low face, sheet, mx, my, mz, aux start, count, tab limit, ux, uy
    ARC = 11  # cos, sin azimuth, distance, radius, z0, low face, sheet, move, aux start, count
    SLICE = 12  # nx, ny, nz, start, slice, kerf, gap, turn, ux, uy, uz, material
    RIP = 13  # mx, my, kerf, flip, length
    PLUG = 14  # dx, dy, dz, px, py, pz, radius squared, material
    DYE = 15  # depth, half width, half depth, length, aux start of the map, its places, which dye of the program
    REORIENT = 16  # cos, sin azimuth, cos, sin angle, shift, z middle


@dataclass(frozen=True, slots=True)
class Program:
    """A blank, compiled.

    Attributes:
        kinds: (n,) int32, the rows' kinds, last step first.
        rows: (n, 16) float32.
        aux: (m,) float32, what does not fit a row: layer bounds, wave tables, maps.
        materials: what the material indices mean.
        width_mm, depth_mm, length_mm: the bar.
        is_round: whether it is round.
        is_crowded: whether there were more materials than `MOST_MATERIALS`, so that some are drawn as their neighbours.
    """

    kinds: NDArray[np.int32]
    rows: NDArray[np.float32]
    aux: NDArray[np.float32]
    materials: tuple[Material, ...]
    width_mm: float
    depth_mm: float
    length_mm: float
    is_round: bool
    is_crowded: bool = False


@dataclass(frozen=True, slots=True)
class Sample:
    """What a program says of points: material index and tone (-1 to 1, along the grain) of each."""

    material: NDArray[np.uint8]
    tone: NDArray[np.float32]
