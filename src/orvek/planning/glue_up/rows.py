"""Pieces on boards, one after another into rows along the grain: `by_rows`. There at once, and always the same.

Inside, lengths are in tenths of a millimetre.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from msgspec import Struct

from orvek.documents import Board
from orvek.planning.glue_up.saw import Stock

_UNITS = 10  # a millimetre
_FITS_MM = 0.3  # a board this much thicker or thinner is the same


class Placed(Struct, frozen=True):
    """One piece on a board, from its lower left corner."""

    board: int
    stock: int
    x_mm: float
    y_mm: float


def fits(stock: Stock, board: Board) -> bool:
    """Whether a piece can come from a board at all: its material, thickness and size."""
    thick = board.thickness_mm >= stock.thickness_mm - _FITS_MM
    return (
        stock.material == board.material
        and thick
        and board.length_mm >= stock.length_mm
        and board.width_mm >= stock.width_mm
    )


def by_rows(stock: Sequence[Stock], boards: Sequence[Board], kerf_mm: float) -> tuple[Placed, ...]:
    """The best of a few layouts: most pieces, then least board. Large pieces come first."""
    pieces = [n for n, one in enumerate(stock) for _ in range(one.count)]
    numbers = range(len(boards))
    found = [
        _laid(stock, boards, kerf_mm, sorted(pieces, key=by), sorted(numbers, key=lambda n: way * area_cm2(boards[n])))
        for by in (_widest(stock), _longest(stock))
        for way in (1, -1)
    ]
    return max(found, key=lambda placed: (len(placed), -touched_cm2(placed, boards)))


def area_cm2(board: Board) -> int:
    """The face of a board."""
    return int(board.length_mm * board.width_mm / 100)


def touched_cm2(placed: Sequence[Placed], boards: Sequence[Board]) -> int:
    """The faces of the boards that are sawn into."""
    return sum(area_cm2(boards[n]) for n in {one.board for one in placed})


def up(mm: float) -> int:
    """Tenths that a piece takes."""
    return math.ceil(round(mm * _UNITS, 6))


def down(mm: float) -> int:
    """Tenths that a board has."""
    return math.floor(round(mm * _UNITS, 6))


def to_mm(tenths: int) -> float:
    """A place on a board."""
    return tenths / _UNITS


def _widest(stock: Sequence[Stock]) -> Callable[[int], tuple[float, float]]:
    return lambda n: (-stock[n].width_mm, -stock[n].length_mm)


def _longest(stock: Sequence[Stock]) -> Callable[[int], tuple[float, float]]:
    return lambda n: (-stock[n].length_mm, -stock[n].width_mm)


def _laid(
    stock: Sequence[Stock], boards: Sequence[Board], kerf_mm: float, pieces: Sequence[int], order: Sequence[int]
) -> tuple[Placed, ...]:
    sheets = [_Sheet(board, up(kerf_mm)) for board in boards]
    placed = []
    for n in pieces:
        for board in order:
            if fits(stock[n], boards[board]):
                corner = sheets[board].place(up(stock[n].length_mm), up(stock[n].width_mm))
                if corner is not None:
                    placed.append(Placed(board, n, to_mm(corner[0]), to_mm(corner[1])))
                    break
    return tuple(sorted(placed, key=lambda one: (one.board, one.y_mm, one.x_mm)))


class _Row:
    """A strip along the grain: its lower edge, its width, and where each piece in it begins and ends."""

    def __init__(self, y: int, width: int) -> None:
        self.y, self.width = y, width
        self.taken: list[tuple[int, int]] = []


class _Sheet:
    """A board that is ripped into rows from its lower edge up."""

    def __init__(self, board: Board, kerf: int) -> None:
        self._length, self._width, self._kerf = down(board.length_mm), down(board.width_mm), kerf
        self._bad = [(down(b.x_mm), up(b.x_mm + b.length_mm), down(b.y_mm), up(b.y_mm + b.width_mm)) for b in board.bad]
        self._rows: list[_Row] = []

    def place(self, length: int, width: int) -> tuple[int, int] | None:
        """The corner of a piece in the first row that has room, or in a new one; None where none has."""
        for row in self._rows:
            x = self._free(row, length, width) if width <= row.width else None
            if x is not None:
                row.taken.append((x, x + length))
                return x, row.y
        above = self._rows[-1].y + self._rows[-1].width + self._kerf if self._rows else 0
        for y in sorted({above, *(top for *_, top in self._bad if top > above)}):
            row = _Row(y, width)
            x = self._free(row, length, width) if y + width <= self._width else None
            if x is not None:
                row.taken.append((x, x + length))
                self._rows.append(row)
                return x, y
        return None

    def _free(self, row: _Row, length: int, width: int) -> int | None:
        """Where a piece goes in a row: the first place clear of others by a kerf, and of what is bad."""
        closed = [(first - self._kerf, last + self._kerf) for first, last in row.taken]
        closed += [(first, last) for first, last, low, top in self._bad if low < row.y + width and top > row.y]
        for x in sorted({0, *(last for _, last in closed)}):
            if x + length <= self._length and all(x + length <= first or x >= last for first, last in closed):
                return x
        return None
