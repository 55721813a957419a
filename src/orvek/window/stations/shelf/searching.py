"""What takes a while to find out about a piece: where a pen lies best on it, which other pieces look like it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QThread, Signal
from PySide6.QtGui import QImage

from orvek.documents import Barrel, Pen, PhotoStep, Piece
from orvek.planning.becoming import Fit
from orvek.window.surface import image_of
from orvek.window.widgets.picture_button import PICTURE_WIDE, turned_picture
from orvek.workpiece.outline import TurnedBarrel

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator
    from orvek.workpiece.stretch import Proposal

_STRIP_TALL = 20


@dataclass(frozen=True, eq=False, slots=True)
class Look:
    """A pen on a piece at its best place: where its tubes begin from the piece's left end, and how it looks turned."""

    fit: Fit
    starts_mm: tuple[float, ...]
    turns_deg: tuple[float, ...]
    picture: QImage


@dataclass(frozen=True, eq=False, slots=True)
class Match:
    """A piece that may match another: how far apart they look, and both of them, one above the other."""

    code: str
    apart: float
    picture: QImage


class BestPlaces(QThread):
    """Looks for the best place of one pen after another; each is told with the number of the search."""

    found = Signal(int, object)

    def __init__(
        self,
        number: int,
        evaluate: Evaluator,
        one: tuple[Piece, PhotoStep | None],
        fits: tuple[Fit, ...],
        kerf_mm: float,
    ) -> None:
        super().__init__()
        self._number, self._evaluate, (self._piece, self._album) = number, evaluate, one
        self._fits, self._kerf_mm = fits, kerf_mm

    def run(self) -> None:
        piece = self._piece
        steps, size, own = _bar(piece, self._album)
        for fit in self._fits:
            if self.isInterruptionRequested():
                return
            best, begins = best_place(self._evaluate, piece, self._album, fit.pen, self._kerf_mm)
            if best is None:
                continue
            placed = zip(fit.pen.barrels, best.starts_mm, best.turns_deg, strict=True)
            there = tuple(_turned(barrel, start, turn) for barrel, start, turn in placed)
            ends = (begins, begins + piece.length_mm)
            picture = turned_picture(self._evaluate, steps, size, there, own, ends)
            starts = tuple(round(start - begins, 2) for start in best.starts_mm)
            self.found.emit(self._number, Look(fit, starts, best.turns_deg, picture))


class Ranking(QThread):
    """How well a pen would look on each of many pieces at its best place: lower is better, told all at once."""

    found = Signal(int, object)

    def __init__(
        self,
        number: int,
        evaluate: Evaluator,
        pieces: tuple[tuple[Piece, PhotoStep | None], ...],
        pen: Pen,
        kerf_mm: float,
    ) -> None:
        super().__init__()
        self._number, self._evaluate, self._pieces, self._pen, self._kerf_mm = number, evaluate, pieces, pen, kerf_mm

    def run(self) -> None:
        scores: dict[str, float] = {}
        for piece, album in self._pieces:
            if self.isInterruptionRequested():
                return
            best, _ = best_place(self._evaluate, piece, album, self._pen, self._kerf_mm)
            if best is not None:
                scores[piece.code] = best.score
        self.found.emit(self._number, scores)


def best_place(
    evaluate: Evaluator, piece: Piece, album: PhotoStep | None, pen: Pen, kerf_mm: float
) -> tuple[Proposal | None, float]:
    """The best place of a pen on a piece, on the bar that it is a part of, and where it begins on that, in mm."""
    from orvek.workpiece.piece_look import program_of
    from orvek.workpiece.stretch import Room, Wish, proposals

    program, begins = program_of(piece, album)
    marks = [(mark.kind, begins + mark.z_mm, mark.size_mm) for mark in (album.marks if album else ())]
    wish = Wish(
        centre_mm=tuple(z for kind, z, _ in marks if kind == "centre this"),
        off_mm=tuple((z - size / 2, z + size / 2) for kind, z, size in marks if kind != "centre this"),
        carried_over_the_joint=True,
    )
    barrels = tuple(_turned(barrel, 0.0) for barrel in pen.barrels)
    trims = tuple(barrel.trim_mm for barrel in pen.barrels)
    # A piece is sawn between its blanks alone: its ends are squared with the trim.
    room = Room(begins - kerf_mm, begins + piece.length_mm + kerf_mm, trims, kerf_mm)
    return next(iter(proposals(evaluate, program, barrels, room, wish, 1)), None), begins


class Matches(QThread):
    """Compares a piece with others; tells the nearest, with the number of the search."""

    found = Signal(int, object)

    def __init__(
        self,
        number: int,
        evaluate: Evaluator,
        one: tuple[Piece, PhotoStep | None],
        others: tuple[tuple[Piece, PhotoStep | None], ...],
        most: int = 6,
    ) -> None:
        super().__init__()
        self._number, self._evaluate, self._one, self._others, self._most = number, evaluate, one, others, most

    def run(self) -> None:
        from orvek.workpiece.piece_look import apart, piece_face

        size = (PICTURE_WIDE, _STRIP_TALL)
        mine = piece_face(self._evaluate, *self._one, *size)
        told = []
        for piece, album in self._others:
            if self.isInterruptionRequested():
                return
            pixels = piece_face(self._evaluate, piece, album, *size)
            told.append((apart(mine, pixels, (self._one[0].length_mm, piece.length_mm)), piece.code, pixels))
        told.sort(key=lambda one: one[0])
        self.found.emit(
            self._number, [Match(code, off, _both(mine, pixels)) for off, code, pixels in told[: self._most]]
        )


def _both(one: object, other: object) -> QImage:
    import numpy as np

    between = np.full((4, PICTURE_WIDE, 3), 255, np.uint8)
    return image_of(np.concatenate([np.asarray(one), between, np.asarray(other)]))


def _turned(barrel: Barrel, start_mm: float, turn_deg: float = 0.0) -> TurnedBarrel:
    return TurnedBarrel(
        start_mm,
        start_mm + barrel.tube_length_mm,
        barrel.finished_left_mm,
        barrel.finished_right_mm,
        barrel.bit_diameter_mm,
        turn_deg,
        barrel.profile[1:-1],
    )


def _bar(piece: Piece, album: PhotoStep | None):  # type: ignore[no-untyped-def]
    """Steps, size and materials of the bar that a piece is, or is a part of."""
    if album is None and piece.look is not None:
        made = piece.look
        return made.steps, (made.width_mm, made.depth_mm, made.length_mm, made.is_round), made.materials
    step = piece.as_bar(album)
    return (step,), (step.width_mm, step.depth_mm, step.length_mm, step.form == "round"), ()
