"""Where a pen lies best on a piece from the shelf, heeding what is marked on its photos."""

from __future__ import annotations

from orvek.documents import Pen, PhotoStep, Piece
from orvek.workpiece.field import Evaluator
from orvek.workpiece.outline import barrel_at
from orvek.workpiece.piece_look import bar_of
from orvek.workpiece.stretch import Proposal, Room, Wish, proposals


def best_place(evaluate: Evaluator, piece: Piece, album: PhotoStep | None, pen: Pen, kerf_mm: float) -> Proposal | None:
    """The best place of a pen's tubes on the bar that a piece is a part of; None where they do not fit on the piece.

    A piece is sawn between its blanks alone: its own ends are squared with the trim.
    """
    bar = bar_of(piece, album)
    marks = [(mark.kind, bar.begins_mm + mark.z_mm, mark.size_mm) for mark in (album.marks if album else ())]
    wish = Wish(
        centre_mm=tuple(z for kind, z, _ in marks if kind == "centre this"),
        off_mm=tuple((z - size / 2, z + size / 2) for kind, z, size in marks if kind != "centre this"),
        carried_over_the_joint=True,
    )
    barrels = tuple(barrel_at(barrel, 0.0) for barrel in pen.barrels)
    trims = tuple(barrel.trim_mm for barrel in pen.barrels)
    room = Room(bar.begins_mm - kerf_mm, bar.begins_mm + piece.length_mm + kerf_mm, trims, kerf_mm)
    return next(iter(proposals(evaluate, bar.program(), barrels, room, wish, 1)), None)
