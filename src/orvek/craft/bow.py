"""A bowed board: how far a piece of it is bowed, and what thickness planing it flat leaves."""


def piece_bow_mm(bow_mm: float, board_mm: float, piece_mm: float) -> float:
    """How far a piece of a bowed board is bowed itself: b (l / L)², as the sagitta of a shallow arc goes. Geometry.

    >>> round(piece_bow_mm(8, 800, 200), 2)
    0.5
    """
    return bow_mm * min(1.0, piece_mm / board_mm) ** 2


def flat_mm(thickness_mm: float, bow_mm: float, board_mm: float, piece_mm: float) -> float:
    """What is left of a piece's thickness once both of its faces are planed flat: t − b (l / L)². Geometry.

    >>> round(flat_mm(20, 8, 800, 200), 2)
    19.5
    """
    return thickness_mm - piece_bow_mm(bow_mm, board_mm, piece_mm)
