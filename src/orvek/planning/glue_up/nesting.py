"""Pieces on the boards at hand: rows along the grain, pieces in a row, round holes, cracks and bad ends.

`nest(question)` is slow (a constraint solver), so it is asked in the background. Every layout can be sawn: a row is
ripped first, then crosscut; the kerf lies between all of them. Inside, lengths are in tenths of a millimetre.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable
from typing import Any

from msgspec import Struct, field

from orvek.craft.laying_out import pieces
from orvek.documents import Board
from orvek.planning.folding import listed
from orvek.planning.glue_up.saw import Stock
from orvek.planning.results import Plan
from orvek.planning.watching import watched
from orvek.planning.words import counted
from orvek.quantities import Dimension, Units, write

_UNITS = 10  # a millimetre
_SECONDS = 3.0  # how long a better layout is looked for
_FITS_MM = 0.3  # a board this much thicker or thinner is the same
MOST_PIECES = 80  # beyond it no layout is found while somebody looks
_OFFCUT_MM = 12.0  # narrower leftovers are not worth a word
# A piece outweighs all boards, a square centimetre of board outweighs where the pieces lie on it.
_PIECE_WORTH, _BOARD_WORTH = 10**14, 10**7


class NestQuestion(Struct, frozen=True):
    """What is laid out: pieces, boards and the saw's kerf."""

    stock: tuple[Stock, ...]
    boards: tuple[Board, ...]
    kerf_mm: float
    units: Units = field(default_factory=Units)  # for the words of the answer


def nest_question(plan: Plan) -> NestQuestion | None:
    """How this plan's pieces lie on the boards at hand; None where nothing is sawn."""
    if plan.glue_up is None:
        return None
    return NestQuestion(plan.glue_up.stock, plan.shop.all_boards, plan.glue_up.machine.kerf_mm, plan.units)


class Placed(Struct, frozen=True):
    """One piece on a board, from its lower left corner."""

    board: int
    stock: int
    x_mm: float
    y_mm: float


class NestAnswer(Struct, frozen=True):
    """The layout: what is placed, what is not, and in words why."""

    question: NestQuestion
    placed: tuple[Placed, ...]
    missing: tuple[int, ...]
    words: str
    is_best: bool

    @property
    def used_pct(self) -> float:
        """Share of the boards that are touched which ends in pieces."""
        stock, boards = self.question.stock, self.question.boards
        area = sum(stock[p.stock].length_mm * stock[p.stock].width_mm for p in self.placed)
        touched = {p.board for p in self.placed}
        whole = sum(boards[n].length_mm * boards[n].width_mm for n in touched)
        return 100 * area / whole if whole else 0.0


def offcuts(answer: NestAnswer) -> tuple[str, ...]:
    """What is left of each board that is used, and how many more of the longest piece it makes."""
    question, found = answer.question, []
    for number, board in enumerate(question.boards):
        here = [p for p in answer.placed if p.board == number]
        if not here:
            continue
        end = max(p.x_mm + question.stock[p.stock].length_mm for p in here) + question.kerf_mm
        top = max(p.y_mm + question.stock[p.stock].width_mm for p in here) + question.kerf_mm
        pieces_left = ((board.length_mm - end, board.width_mm), (board.length_mm, board.width_mm - top))
        long, wide = max(pieces_left, key=lambda size: max(0.0, size[0]) * max(0.0, size[1]))
        if min(long, wide) < _OFFCUT_MM:
            continue
        piece = max((question.stock[p.stock] for p in here), key=lambda stock: stock.length_mm)
        more = pieces(long, piece.length_mm, question.kerf_mm)[0] * pieces(wide, piece.width_mm, question.kerf_mm)[0]
        spoilt = ", bad spots aside" if board.bad else ""
        also = f", {more} more of {_mm(question, piece.length_mm)}{spoilt}" if more else ""
        found.append(f"{board.name} leaves {_mm(question, long)} × {_mm(question, wide)}{also}")
    return tuple(found)


def _mm(question: NestQuestion, value: float) -> str:
    return write(value, Dimension.LENGTH, question.units, 0)


def fits(stock: Stock, board: Board) -> bool:
    """Whether a piece can come from a board at all: its material, thickness and size."""
    thick = board.thickness_mm >= stock.thickness_mm - _FITS_MM
    return (
        stock.material == board.material
        and thick
        and board.length_mm >= stock.length_mm
        and board.width_mm >= stock.width_mm
    )


def nest(question: NestQuestion, progress: Callable[[float], None] | None = None) -> NestAnswer:
    """Place as many pieces as the boards hold, on as few and as small boards as can be.

    `progress` is told a part from 0 to 1 and may raise to end the work.
    """
    from ortools.sat.python import cp_model

    wanted = [n for n, stock in enumerate(question.stock) for _ in range(stock.count)][:MOST_PIECES]
    options = [
        (piece, board)
        for piece, n in enumerate(wanted)
        for board, there in enumerate(question.boards)
        if fits(question.stock[n], there)
    ]
    if not options:
        return NestAnswer(question, (), tuple(sorted(set(wanted))), _words(question, wanted, ()), True)
    model = cp_model.CpModel()
    made = _model(model, question, wanted, options)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = _SECONDS
    solver.parameters.num_search_workers = 1
    solver.parameters.random_seed = 1
    with watched(solver, progress, _SECONDS):
        status = solver.solve(model)
    placed = []
    if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        for (piece, board), (chosen, x, y) in made.items():
            if solver.boolean_value(chosen):
                placed.append(Placed(board, wanted[piece], solver.value(x) / _UNITS, solver.value(y) / _UNITS))
    gap = solver.best_objective_bound - solver.objective_value if placed else math.inf
    is_best = status == cp_model.OPTIMAL or gap < _BOARD_WORTH
    there = [p.stock for p in placed]
    missing = list(wanted)
    for n in there:
        missing.remove(n)
    answer = tuple(sorted(placed, key=lambda p: (p.board, p.y_mm, p.x_mm)))
    return NestAnswer(question, answer, tuple(missing), _words(question, missing, answer), is_best)


def _model(
    model: Any, question: NestQuestion, pieces: list[int], options: list[tuple[int, int]]
) -> dict[tuple[int, int], tuple[Any, Any, Any]]:
    """Two pieces on a board either lie in one row, with the same lower edge, or in rows that do not touch."""
    kerf = math.ceil(question.kerf_mm * _UNITS)
    made: dict[tuple[int, int], tuple[Any, Any, Any]] = {}
    for piece, board in options:
        stock, there = question.stock[pieces[piece]], question.boards[board]
        chosen = model.new_bool_var(f"p{piece}b{board}")
        x = model.new_int_var(0, _down(there.length_mm) - _up(stock.length_mm), "")
        y = model.new_int_var(0, _down(there.width_mm) - _up(stock.width_mm), "")
        made[piece, board] = (chosen, x, y)
    for piece in range(len(pieces)):
        model.add_at_most_one(made[key][0] for key in options if key[0] == piece)
    for board, there in enumerate(question.boards):
        here = [key for key in options if key[1] == board]
        _apart(model, question, pieces, made, here, kerf)
        _round_bad(model, question, pieces, made, here, there)
    _alike_in_order(model, pieces, made, options)
    used = []
    for board in range(len(question.boards)):
        here = [made[key][0] for key in options if key[1] == board]
        if here:
            touched = model.new_bool_var(f"b{board}")
            model.add_max_equality(touched, here)
            used.append(int(question.boards[board].length_mm * question.boards[board].width_mm / 100) * touched)
    # Above all as many pieces as can be, then as little board as can be, then close to the corner.
    near = sum(made[key][1] + made[key][2] for key in options)
    model.maximize(sum(made[key][0] for key in options) * _PIECE_WORTH - sum(used) * _BOARD_WORTH - near)
    return made


def _apart(
    model: Any, question: NestQuestion, pieces: list[int], made: Any, here: list[tuple[int, int]], kerf: int
) -> None:
    for n, one in enumerate(here):
        for other in here[n + 1 :]:
            a, b = question.stock[pieces[one[0]]], question.stock[pieces[other[0]]]
            (ca, xa, ya), (cb, xb, yb) = made[one], made[other]
            left, right, below, above = (model.new_bool_var("") for _ in range(4))
            model.add(xa + _up(a.length_mm) + kerf <= xb).only_enforce_if(left)
            model.add(xb + _up(b.length_mm) + kerf <= xa).only_enforce_if(right)
            for beside in (left, right):
                # In one row: the same lower edge, so that one rip serves both.
                model.add(ya == yb).only_enforce_if(beside)
            model.add(ya + _up(a.width_mm) + kerf <= yb).only_enforce_if(below)
            model.add(yb + _up(b.width_mm) + kerf <= ya).only_enforce_if(above)
            model.add_bool_or([left, right, below, above, ca.negated(), cb.negated()])


def _round_bad(
    model: Any,
    question: NestQuestion,
    pieces: list[int],
    made: Any,
    here: list[tuple[int, int]],
    there: Board,
) -> None:
    for key in here:
        stock = question.stock[pieces[key[0]]]
        chosen, x, y = made[key]
        for bad in there.bad:
            sides = [model.new_bool_var("") for _ in range(4)]
            model.add(x + _up(stock.length_mm) <= _down(bad.x_mm)).only_enforce_if(sides[0])
            model.add(x >= _up(bad.x_mm + bad.length_mm)).only_enforce_if(sides[1])
            model.add(y + _up(stock.width_mm) <= _down(bad.y_mm)).only_enforce_if(sides[2])
            model.add(y >= _up(bad.y_mm + bad.width_mm)).only_enforce_if(sides[3])
            model.add_bool_or([*sides, chosen.negated()])


def _alike_in_order(model: Any, pieces: list[int], made: Any, options: list[tuple[int, int]]) -> None:
    """Of pieces that are alike the first ones are placed first, so that no layout is looked at twice."""
    for piece in range(1, len(pieces)):
        if pieces[piece] != pieces[piece - 1]:
            continue
        now = sum(made[key][0] for key in options if key[0] == piece)
        before = sum(made[key][0] for key in options if key[0] == piece - 1)
        if not isinstance(now, int) and not isinstance(before, int):
            model.add(now <= before)


def _words(question: NestQuestion, missing: list[int], placed: tuple[Placed, ...]) -> str:
    if not question.boards:
        return "No boards on the shelf: this is what to buy."
    if not missing:
        touched = Counter(question.boards[n].material for n in sorted({p.board for p in placed}))
        counts = (counted(count, "board") + f" of {_plain(material)}" for material, count in touched.items())
        return f"Everything comes out of {listed(counts)}."
    stock = question.stock[missing[0]]
    alike = [board for board in question.boards if board.material == stock.material]
    if not alike:
        return f"No board of {_plain(stock.material)} is at hand for {len(missing)} of the pieces."
    if not any(board.length_mm >= stock.length_mm for board in alike):
        longest = max(board.length_mm for board in alike)
        return (
            f"A piece of {_mm(question, stock.length_mm)} is longer than any such board at hand; "
            f"the longest has {_mm(question, longest)}."
        )
    return f"{len(missing)} of the pieces find no place on the boards at hand."


def _plain(key: str) -> str:
    """A material in a sentence; one of the maker's own by its name."""
    return key.removeprefix("own ").replace("-", " ")


def _up(mm: float) -> int:
    return math.ceil(round(mm * _UNITS, 6))


def _down(mm: float) -> int:
    return math.floor(round(mm * _UNITS, 6))
