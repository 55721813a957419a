"""A program: the steps of a blank as a table of numbers, run backwards over points by the kernel or the reference.

What a row does is its kind, declared here; what stands in its columns is declared in columns.py: nobody else writes
a column's number. Columns not named for a kind are 0. Lengths in mm, angles as cosines and sines, indices as whole
floats.
"""

from __future__ import annotations

from enum import IntEnum, unique

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from orvek.documents import Material

COLUMNS = 16
UNDECIDED = 255  # a point whose material is not known yet; so at most 255 materials
MOST_MATERIALS = 254


@unique
class Kind(IntEnum):
    """What a row does to a point that is carried back through it."""

    SOLID = 1
    LAYERED = 2
    STAVES = 3
    CAST = 4
    EDGE = 5
    CORE = 6
    RODS = 7
    WRAP = 8
    CHIPS = 9
    PHOTO = 10
    CUT = 11
    ARC = 12
    SLICE = 13
    RIP = 14
    PLUG = 15
    DYE = 16
    REORIENT = 17


class Program(Struct, frozen=True):
    """A blank, compiled.

    Attributes:
        kinds: (n,) int32, the rows' kinds, last step first.
        rows: (n, 16) float32.
        aux: (m,) float32, what does not fit a row: layer bounds, wave tables, maps.
        dots: (k,) uint8, printed pictures as indices of materials, row by row; never empty.
        materials: what the material indices mean.
        width_mm, depth_mm, length_mm: the bar.
        is_round: whether it is round.
        grain: (256,) float32, by material how many rings lie where a usual wood has one.
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
    dots: NDArray[np.uint8] = field(default_factory=lambda: np.zeros(1, np.uint8))
    grain: NDArray[np.float32] = field(default_factory=lambda: np.ones(UNDECIDED + 1, np.float32))


class Sample(Struct, frozen=True):
    """What a program says of points: material index and tone (-1 to 1, along the grain) of each."""

    material: NDArray[np.uint8]
    tone: NDArray[np.float32]
