"""Pieces on the boards at hand: rows along the grain, pieces in a row, round holes, cracks and bad ends.

`nest(question)` begins with `rows.by_rows` and is slow (a constraint solver), so it is asked in the background. Every
layout can be sawn: a row is ripped first, then crosscut; the kerf lies between all of them.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable
from itertools import accumulate
from typing import Any

from msgspec.structs import replace

from orvek.craft.laying_out import pieces
from orvek.documents import Board
from orvek.planning.folding import listed
from orvek.planning.glue_up.results import NestAnswer, NestQuestion
from orvek.planning.glue_up.rows import Placed, area_cm2, by_rows, down, fits, to_mm, touched_cm2, up
from orvek.planning.glue_up.saw import Stock
from orvek.planning.results import Plan
from orvek.planning.watching import watched
from orvek.planning.words import counted
from orvek.quantities import Dimension, write

_SECONDS = 6.0  # about how long an ordinary machine takes for an effort of 1
MOST_PIECES = 80  # beyond it nothing better than rows is found while somebody looks
_OFFCUT_MM = 12.0  # narrower leftovers are not worth a word
# A piece outweighs all boards, a square centimetre of board outweighs where the pieces lie on it.
_PIECE_WORTH, _BOARD_WORTH = 10**14, 10**7


def nest_question(plan: Plan) -> NestQuestion | None:
    """How this plan's pieces lie on the boards at hand; None where nothing is sawn."""
    if plan.glue_up is None or not plan.glue_up.stock:
        return None
    stock = tuple(replace(one, step=0) for one in plan.glue_up.stock)  # which step takes it matters to no board
    return NestQuestion(stock, plan.shop.all_boards, plan.glue_up.machine.kerf_mm, plan.units)


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


def nest(
    question: NestQuestion,
    progress: Callable[[float], None] | None = None,
    early: Callable[[NestAnswer], None] = lambda _: None,
) -> NestAnswer:
    """Place as many pieces as the boards hold, on as few and as small boards as can be.

    `early` is told the layout by rows, from which the solver goes on. `progress` is told a part from 0 to 1 and may
    raise to end the work. The solver's work is counted, not timed: a slow machine waits longer and is told the same.
    """
    rows = by_rows(question.stock, question.boards, question.kerf_mm)
    wanted = [n for n, stock in enumerate(question.stock) for _ in range(stock.count)]
    options = [
        (piece, board)
        for piece, n in enumerate(wanted)
        for board, there in enumerate(question.boards)
        if fits(question.stock[n], there)
    ]
    most = _most(question)
    least, is_best = len(wanted) - most, _is_least(question, rows, most)
    if is_best or len(wanted) > MOST_PIECES:
        return _told(question, rows, least, is_best=is_best)
    early(_told(question, rows, least, is_best=False))
    return _solved(question, wanted, options, rows, least, progress)


def _solved(
    question: NestQuestion,
    wanted: list[int],
    options: list[tuple[int, int]],
    rows: tuple[Placed, ...],
    least: int,
    progress: Callable[[float], None] | None,
) -> NestAnswer:
    """The better of the rows and what the solver makes of them; `least` pieces are known to find no place."""
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    made = _model(model, question, wanted, options)
    _hint(model, made, wanted, rows)
    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time = question.effort
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    with watched(solver, progress, _SECONDS * question.effort):
        status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return _told(question, rows, least, is_best=False)
    placed = tuple(
        Placed(board, wanted[piece], to_mm(solver.value(x)), to_mm(solver.value(y)))
        for (piece, board), (chosen, x, y) in made.items()
        if solver.boolean_value(chosen)
    )
    is_best = status == cp_model.OPTIMAL or solver.best_objective_bound - solver.objective_value < _BOARD_WORTH
    # No layout is worth more than the bound; boards and corners take far less than a hundredth of a piece from it.
    least = max(least, len(wanted) - math.floor(solver.best_objective_bound / _PIECE_WORTH + 0.01))
    kept = max((placed, rows), key=lambda one: (len(one), -touched_cm2(one, question.boards)))
    return _told(question, tuple(sorted(kept, key=lambda p: (p.board, p.y_mm, p.x_mm))), least, is_best=is_best)


def _told(question: NestQuestion, placed: tuple[Placed, ...], least: int, *, is_best: bool) -> NestAnswer:
    missing = [n for n, stock in enumerate(question.stock) for _ in range(stock.count)]
    for one in placed:
        missing.remove(one.stock)
    least = len(missing) if is_best else least
    return NestAnswer(question, placed, tuple(missing), _words(question, missing, placed, least), is_best)


def _most(question: NestQuestion) -> int:
    """How many pieces there can be place for at most, as far as areas and counts go.

    A piece with a kerf at its right and its upper side never overlaps another such. Of rectangles no smaller than
    l by w a board L by W holds at most ⌊L/l⌋ · ⌊W/w⌋: each covers a knot of that grid.
    """
    kerf, most = question.kerf_mm, 0
    by_boards: dict[tuple[int, ...], list[Stock]] = {}
    for stock in question.stock:
        there = tuple(n for n, board in enumerate(question.boards) if fits(stock, board))
        by_boards.setdefault(there, []).extend([stock] * stock.count)
    for there, alike in by_boards.items():
        boards = [(question.boards[n].length_mm + kerf, question.boards[n].width_mm + kerf) for n in there]
        room = sum(long * wide for long, wide in boards) * (1 + 1e-9)
        areas = sorted((stock.length_mm + kerf) * (stock.width_mm + kerf) for stock in alike)
        short, narrow = min(s.length_mm for s in alike) + kerf, min(s.width_mm for s in alike) + kerf
        knots = sum(math.floor(long / short + 1e-6) * math.floor(wide / narrow + 1e-6) for long, wide in boards)
        most += min(knots, sum(whole <= room for whole in accumulate(areas)))
    return most


def _is_least(question: NestQuestion, placed: tuple[Placed, ...], most: int) -> bool:
    """Whether as many as can be are placed and no less board could do.

    That is sure where all of a material comes out of its smallest board, and where not all of it finds place and no
    board is left.
    """
    if len(placed) < most:
        return False
    is_all = most == sum(stock.count for stock in question.stock)
    used = {one.board for one in placed}
    for material in {stock.material for stock in question.stock}:
        areas = [
            (area_cm2(board), n not in used)
            for n, board in enumerate(question.boards)
            if any(stock.material == material and fits(stock, board) for stock in question.stock)
        ]
        unused = sum(is_unused for _, is_unused in areas)
        is_one_small = len(areas) - unused == 1 and not min(areas)[1]
        if areas and not (is_one_small if is_all else unused == 0):
            return False
    return True


def _hint(model: Any, made: Any, wanted: list[int], rows: tuple[Placed, ...]) -> None:
    """Where the solver begins: of pieces that are alike the first ones are those that have a place."""
    free: dict[int, list[Placed]] = {}
    for one in rows:
        free.setdefault(one.stock, []).append(one)
    at = {piece: free[n].pop(0) if free.get(n) else None for piece, n in enumerate(wanted)}
    for (piece, board), (chosen, x, y) in made.items():
        own = at[piece]
        is_here = own is not None and own.board == board
        model.add_hint(chosen, is_here)
        model.add_hint(x, up(own.x_mm) if own is not None and is_here else 0)
        model.add_hint(y, up(own.y_mm) if own is not None and is_here else 0)


def _model(
    model: Any, question: NestQuestion, pieces: list[int], options: list[tuple[int, int]]
) -> dict[tuple[int, int], tuple[Any, Any, Any]]:
    """Two pieces on a board either lie in one row, with the same lower edge, or in rows that do not touch."""
    kerf = up(question.kerf_mm)
    made: dict[tuple[int, int], tuple[Any, Any, Any]] = {}
    for piece, board in options:
        stock, there = question.stock[pieces[piece]], question.boards[board]
        chosen = model.new_bool_var(f"p{piece}b{board}")
        x = model.new_int_var(0, down(there.length_mm) - up(stock.length_mm), "")
        y = model.new_int_var(0, down(there.width_mm) - up(stock.width_mm), "")
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
            model.add(xa + up(a.length_mm) + kerf <= xb).only_enforce_if(left)
            model.add(xb + up(b.length_mm) + kerf <= xa).only_enforce_if(right)
            for beside in (left, right):
                # In one row: the same lower edge, so that one rip serves both.
                model.add(ya == yb).only_enforce_if(beside)
            model.add(ya + up(a.width_mm) + kerf <= yb).only_enforce_if(below)
            model.add(yb + up(b.width_mm) + kerf <= ya).only_enforce_if(above)
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
            model.add(x + up(stock.length_mm) <= down(bad.x_mm)).only_enforce_if(sides[0])
            model.add(x >= up(bad.x_mm + bad.length_mm)).only_enforce_if(sides[1])
            model.add(y + up(stock.width_mm) <= down(bad.y_mm)).only_enforce_if(sides[2])
            model.add(y >= up(bad.y_mm + bad.width_mm)).only_enforce_if(sides[3])
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


def _words(question: NestQuestion, missing: list[int], placed: tuple[Placed, ...], least: int) -> str:
    """`least` of the missing pieces are known to find no place."""
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
    if least >= len(missing):
        return f"{len(missing)} of the pieces find no place on the boards at hand."
    proven = f"At least {least} of the pieces find no place on the boards at hand. " if least > 0 else ""
    return f"{proven}For {len(missing)} of the pieces no place is found yet: look on, or lay them out yourself."


def _plain(key: str) -> str:
    """A material in a sentence; one of the maker's own by its name."""
    return key.removeprefix("own ").replace("-", " ")
