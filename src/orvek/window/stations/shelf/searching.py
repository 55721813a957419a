"""What takes a while to find out about a piece: where a pen lies best on it, which other pieces look like it.

Albums are read here, too: photos of many pieces are many megabytes.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from msgspec import Struct
from PySide6.QtCore import QThread, Signal
from PySide6.QtGui import QImage

from orvek.documents import Pen, PhotoStep
from orvek.planning.becoming import Fit, ends_left_mm
from orvek.planning.shelf_list import Entry
from orvek.window.surface import image_of
from orvek.window.widgets.picture_button import PICTURE_WIDE, turned_picture
from orvek.workpiece.outline import barrel_at

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_STRIP_TALL = 20
AlbumOf = Callable[[Entry], PhotoStep | None]


class Look(Struct, frozen=True, eq=False):
    """A pen on a piece at its best place.

    Attributes:
        fit: which pen, and how many of them.
        starts_mm: where its tubes begin from the piece's left end.
        turns_deg: how far each barrel is turned.
        left_mm: the pieces that are left over.
        picture: how it looks turned.
    """

    fit: Fit
    starts_mm: tuple[float, ...]
    turns_deg: tuple[float, ...]
    left_mm: tuple[float, ...]
    picture: QImage


class Match(Struct, frozen=True, eq=False):
    """A piece that may match another: how far apart they look, and both of them, one above the other."""

    entry: Entry
    apart: float
    picture: QImage


class _Search(QThread):
    """A search with its number, told with all that is found."""

    found = Signal(int, object)

    def __init__(self, number: int, evaluate: Evaluator, album_of: AlbumOf) -> None:
        super().__init__()
        self._number, self._evaluate, self._album_of = number, evaluate, album_of

    def _tell(self, found: Any) -> None:
        self.found.emit(self._number, found)


class BestPlaces(_Search):
    """Looks for the best place of one pen after another on a piece; each is told as soon as it is found."""

    def __init__(
        self, number: int, evaluate: Evaluator, album_of: AlbumOf, entry: Entry, fits: tuple[Fit, ...], kerf_mm: float
    ) -> None:
        super().__init__(number, evaluate, album_of)
        self._entry, self._fits, self._kerf_mm = entry, fits, kerf_mm

    def run(self) -> None:
        from orvek.workpiece.best_place import best_place
        from orvek.workpiece.piece_look import bar_of

        piece, album = self._entry.piece, self._album_of(self._entry)
        bar = bar_of(piece, album)
        ends = (bar.begins_mm, bar.begins_mm + piece.length_mm)
        for fit in self._fits:
            if self.isInterruptionRequested():
                return
            best = best_place(self._evaluate, piece, album, fit.pen, self._kerf_mm)
            if best is None:
                continue
            placed = zip(fit.pen.barrels, best.starts_mm, best.turns_deg, strict=True)
            there = tuple(barrel_at(*one) for one in placed)
            picture = turned_picture(self._evaluate, bar.steps, bar.size, there, bar.materials, ends)
            starts = tuple(round(start - bar.begins_mm, 2) for start in best.starts_mm)
            left = ends_left_mm(fit.pen, starts, piece.length_mm, self._kerf_mm) if fit.pens == 1 else (fit.left_mm,)
            self._tell(Look(fit, starts, best.turns_deg, left, picture))


class Ranking(_Search):
    """How well a pen would look on each of many pieces at its best place, by code: lower is better, told at once."""

    def __init__(
        self, number: int, evaluate: Evaluator, album_of: AlbumOf, entries: tuple[Entry, ...], pen: Pen, kerf_mm: float
    ) -> None:
        super().__init__(number, evaluate, album_of)
        self._entries, self._pen, self._kerf_mm = entries, pen, kerf_mm

    def run(self) -> None:
        from orvek.workpiece.best_place import best_place

        scores: dict[str, float] = {}
        for entry in self._entries:
            if self.isInterruptionRequested():
                return
            best = best_place(self._evaluate, entry.piece, self._album_of(entry), self._pen, self._kerf_mm)
            if best is not None:
                scores[entry.piece.code] = best.score
        self._tell(scores)


class Matches(_Search):
    """Compares a piece with others; tells the nearest."""

    def __init__(
        self,
        number: int,
        evaluate: Evaluator,
        album_of: AlbumOf,
        entry: Entry,
        others: tuple[Entry, ...],
        most: int = 6,
    ) -> None:
        super().__init__(number, evaluate, album_of)
        self._entry, self._others, self._most = entry, others, most

    def run(self) -> None:
        from orvek.workpiece.piece_look import apart, piece_face

        def seen(entry: Entry) -> Any:
            return piece_face(self._evaluate, entry.piece, self._album_of(entry), PICTURE_WIDE, _STRIP_TALL)

        mine, long = seen(self._entry), self._entry.piece.length_mm
        told = []
        for other in self._others:
            if self.isInterruptionRequested():
                return
            pixels = seen(other)
            told.append((apart(mine, pixels, (long, other.piece.length_mm)), other, pixels))
        told.sort(key=lambda one: one[0])
        self._tell([Match(other, off, _both(mine, pixels)) for off, other, pixels in told[: self._most]])


def _both(one: Any, other: Any) -> QImage:
    """One face above the other."""
    import numpy as np

    between = np.full((4, PICTURE_WIDE, 3), 255, np.uint8)
    return image_of(np.concatenate([one, between, other]))
