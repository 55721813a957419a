"""Labels for pieces: a code to scan, the name and the size; a sheet of them, or one after another on a small roll.

`labels(pieces, paper, units)` gives a PDF.
"""

from __future__ import annotations

from orvek.cards.sheet import Sheet
from orvek.documents import Piece
from orvek.planning.shelf_list import piece_size
from orvek.quantities import Units, write_day

ROLL = "label roll"
# A sheet of 3 x 8; sizes that most office shops have.
_COLUMNS, _ROWS = 3, 8
_MARGIN_MM, _INSIDE_MM = 8.0, 2.5
_LEAST_ON_LABEL = 5.0  # points: a label lies in the hand


def labels(pieces: tuple[Piece, ...], paper: str, units: Units) -> bytes:
    """Labels of pieces; `paper` is "A4", "Letter" or `ROLL`."""
    sheet = Sheet(paper, "Labels", "Pieces on the shelf")
    columns, rows = (1, 1) if paper == ROLL else (_COLUMNS, _ROWS)
    margin = 0.0 if paper == ROLL else _MARGIN_MM
    wide, tall = (sheet.width_mm - 2 * margin) / columns, (sheet.height_mm - 2 * margin) / rows
    for number, piece in enumerate(pieces):
        place = number % (columns * rows)
        if number and place == 0:
            sheet.blank_page()
        _label(sheet, piece, (margin + place % columns * wide, margin + place // columns * tall, wide, tall), units)
    return sheet.bytes()


def _label(sheet: Sheet, piece: Piece, box: tuple[float, float, float, float], units: Units) -> None:
    x, y, wide, tall = box
    side = min(tall - 2 * _INSIDE_MM, wide * 0.4)
    sheet.qr(x + _INSIDE_MM, y + (tall - side) / 2, side, piece.code)
    left, room = x + 2 * _INSIDE_MM + side, wide - side - 3 * _INSIDE_MM
    made = write_day(piece.made_on) if piece.made_on is not None else ""
    lines = [(13.0, "bold", piece.code), (10.0, "medium", piece.name)]
    lines += [(8.5, "regular", words) for words in (piece_size(piece, units), piece.place, made) if words]
    down = y + tall / 2 - sum(_line_mm(size) for size, _, _ in lines) / 2
    for size, weight, words in lines:
        down += _line_mm(size)
        sheet.fitted(left, down - 1.0, words, room, size, weight, least=_LEAST_ON_LABEL)


def _line_mm(points: float) -> float:
    return points * 0.3528 * 1.25
