"""Rows being collected: the table, the materials and the aux of one blank, as its steps add to them."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Layer, Material, material
from orvek.workpiece.columns import columns_of
from orvek.workpiece.program import COLUMNS, MOST_MATERIALS, Kind

_ROOM_FOR_OTHERS = 24  # materials that a picture leaves to what comes after it


class Compiler:
    """Collects rows, materials and the aux table of one blank."""

    def __init__(
        self, width_mm: float, depth_mm: float, length_mm: float, is_round: bool, catalogue: tuple[Material, ...] = ()
    ) -> None:
        self.catalogue = catalogue  # the maker's own materials, beside the generic ones
        self.width_mm, self.depth_mm, self.length_mm, self.is_round = width_mm, depth_mm, length_mm, is_round
        self.kinds: list[int] = []
        self.rows: list[list[float]] = []
        self.aux: list[float] = []
        self.dots: list[NDArray[np.uint8]] = []
        self.materials: list[Material] = []
        self.gone: set[int] = set()  # woods of which a dye that goes all the way through has left nothing as it was
        self.dye_number = 0  # how many dyes came before this part's

    def row(self, kind: Kind, *columns: float) -> None:
        """Append a row; its values in the order of columns.py."""
        if len(columns) != columns_of(kind.name):
            raise ValueError(f"a row {kind.name} has {columns_of(kind.name)} columns, not {len(columns)}")
        self.kinds.append(int(kind))
        self.rows.append([*columns, *([0.0] * (COLUMNS - len(columns)))])

    def put(self, values: Any) -> float:
        """Append to the aux table; returns where it begins."""
        start = len(self.aux)
        self.aux.extend(float(value) for value in np.asarray(values, dtype=float).ravel())
        return float(start)

    def put_dots(self, dots: NDArray[np.uint8]) -> float:
        """Append a printed picture; returns where its dots begin."""
        start = sum(there.size for there in self.dots)
        self.dots.append(np.ascontiguousarray(dots).ravel())
        return float(start)

    def inks(self, wanted: list[Material]) -> list[float]:
        """The indices of many materials at once."""
        if not any(there is wanted[0] for there in self.materials):
            room = MOST_MATERIALS - len(self.materials) - _ROOM_FOR_OTHERS
            self.materials += wanted[: max(0, room)]
        place = {id(there): float(n) for n, there in enumerate(self.materials)}
        return [place[id(there)] if id(there) in place else float(self._nearest(there)) for there in wanted]

    def index(self, key: str) -> float:
        """The index of a material in this program, by its key."""
        return self.own(material(key, self.catalogue))

    def own(self, wanted: Material) -> float:
        """The index of any material in this program."""
        for place, known in enumerate(self.materials):
            if known is wanted or (known.key == wanted.key and known == wanted):
                return float(place)
        if len(self.materials) >= MOST_MATERIALS:
            return float(self._nearest(wanted))
        self.materials.append(wanted)
        return float(len(self.materials) - 1)

    def _nearest(self, wanted: Material) -> int:
        """Of the materials there are, the one that looks most like another for which there is no room."""
        alike = [n for n, known in enumerate(self.materials) if known.look == wanted.look]
        return min(alike or range(len(self.materials)), key=lambda n: _far(self.materials[n].colour, wanted.colour))

    def layers(
        self, layers: tuple[Layer, ...], glue_mm: float, *, ends: bool, between: bool = True
    ) -> tuple[float, float, float]:
        """Bounds and materials of a pile of layers with glue `between` them, and outside with `ends`.

        Returns:
            aux start, count and total thickness; aux holds all upper bounds, then all materials.
        """
        pile: list[tuple[float, float]] = []
        glue = (glue_mm, self.index("glue")) if glue_mm > 0 else None
        for n, layer in enumerate(layers):
            if glue and (between if n else ends):
                pile.append(glue)
            pile.append((layer.thickness_mm, self.index(layer.material)))
        if glue and ends:
            pile.append(glue)
        bounds = np.cumsum([thickness for thickness, _ in pile])
        start = self.put(bounds)
        self.put([index for _, index in pile])
        return start, float(len(pile)), float(bounds[-1]) if pile else 0.0


def _far(one: str, other: str) -> int:
    """How unlike two colours are."""
    return sum(abs(int(one[n : n + 2], 16) - int(other[n : n + 2], 16)) for n in (1, 3, 5))
