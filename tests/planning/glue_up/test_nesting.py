"""Pieces on boards: nothing overlaps, nothing lies in a hole, every layout can be ripped and then crosscut."""

from __future__ import annotations

from itertools import combinations, count

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orvek.documents import BadSpot, Board
from orvek.planning.glue_up.nesting import MOST_PIECES, nest, offcuts
from orvek.planning.glue_up.results import NestAnswer, NestQuestion
from orvek.planning.glue_up.rows import by_rows, fits
from orvek.planning.glue_up.saw import Stock

MAPLE = Board(name="Maple", material="hard-maple", length_mm=420, width_mm=95, thickness_mm=26)


def strip(count: int, length: float = 140, width: float = 21, material: str = "hard-maple") -> Stock:
    return Stock("Strip", material, length, width, 7, count)


def checked(answer: NestAnswer) -> NestAnswer:
    stock, boards, kerf = answer.question.stock, answer.question.boards, answer.question.kerf_mm
    for one in answer.placed:
        piece, board = stock[one.stock], boards[one.board]
        assert piece.material == board.material
        assert 0 <= one.x_mm <= board.length_mm - piece.length_mm + 0.01
        assert 0 <= one.y_mm <= board.width_mm - piece.width_mm + 0.01
        for bad in board.bad:
            beside = one.x_mm + piece.length_mm <= bad.x_mm + 0.1 or one.x_mm >= bad.x_mm + bad.length_mm - 0.1
            above = one.y_mm + piece.width_mm <= bad.y_mm + 0.1 or one.y_mm >= bad.y_mm + bad.width_mm - 0.1
            assert beside or above
    for one, other in combinations(answer.placed, 2):
        if one.board != other.board:
            continue
        a, b = stock[one.stock], stock[other.stock]
        along = one.x_mm + a.length_mm + kerf <= other.x_mm + 0.11 or other.x_mm + b.length_mm + kerf <= one.x_mm + 0.11
        over = one.y_mm + a.width_mm + kerf <= other.y_mm + 0.11 or other.y_mm + b.width_mm + kerf <= one.y_mm + 0.11
        assert over or (along and one.y_mm == pytest.approx(other.y_mm)), "a row that is ripped first, then crosscut"
    return answer


def test_strips_go_round_a_crack_and_a_bad_end() -> None:
    cracked = MAPLE.with_(
        bad=(BadSpot(x_mm=0, y_mm=0, length_mm=38, width_mm=95), BadSpot(x_mm=205, y_mm=34, length_mm=60, width_mm=9))
    )
    answer = checked(nest(NestQuestion((strip(5),), (cracked,), 2.2)))
    assert len(answer.placed) == 5
    assert answer.missing == ()
    assert "1 board" in answer.words
    assert all(one.x_mm >= 38 for one in answer.placed)
    plain = nest(NestQuestion((strip(1),), (MAPLE,), 2.0))
    (words,) = offcuts(plain)
    assert words.startswith("Maple leaves ")
    assert " × " in words


def test_as_little_board_as_can_be() -> None:
    small = MAPLE.with_(name="Offcut", length_mm=160, width_mm=30)
    answer = checked(nest(NestQuestion((strip(1),), (MAPLE, small), 2.0)))
    assert [one.board for one in answer.placed] == [1]
    assert answer.used_pct > 60


@pytest.mark.parametrize(
    ("stock", "boards", "words"),
    [
        (strip(2), (), "what to buy"),
        (strip(2, material="teak"), (MAPLE,), "No board of teak"),
        (strip(2, length=500), (MAPLE,), "longer than any such board"),
        (strip(12), (MAPLE.with_(length_mm=200, width_mm=50),), "find no place"),
    ],
)
def test_what_does_not_fit_is_said(stock: Stock, boards: tuple[Board, ...], words: str) -> None:
    answer = checked(nest(NestQuestion((stock,), boards, 2.0)))
    assert words in answer.words
    assert answer.missing


@settings(max_examples=6, deadline=None)
@given(
    st.lists(st.tuples(st.integers(1, 3), st.floats(40, 200), st.floats(10, 40)), min_size=1, max_size=2),
    st.floats(0.5, 3),
    st.floats(0, 300),
)
def test_any_layout_can_be_sawn(pieces: list[tuple[int, float, float]], kerf: float, crack: float) -> None:
    stock = tuple(strip(count, round(long, 1), round(wide, 1)) for count, long, wide in pieces)
    board = MAPLE.with_(bad=(BadSpot(x_mm=round(crack, 1), y_mm=20, length_mm=30, width_mm=20),))
    answer = checked(nest(NestQuestion(stock, (board,), round(kerf, 1))))
    assert len(answer.placed) + len(answer.missing) == sum(one.count for one in stock)


STRIPS = (strip(13), strip(7, length=90, width=31))
LONG = MAPLE.with_(length_mm=430)


def test_what_is_not_proven_is_not_said() -> None:
    """Rows alone are there when the solver has done nothing, and never say that more does not fit than is known."""
    question = NestQuestion(STRIPS, (LONG, MAPLE.with_(length_mm=300, width_mm=60)), 2.0, effort=1e-6)
    shown: list[NestAnswer] = []
    answer = checked(nest(question, early=shown.append))
    assert checked(shown[0]).placed == by_rows(question.stock, question.boards, 2.0)
    assert len(answer.placed) >= len(shown[0].placed) > 10
    assert not answer.is_best
    assert "look on" in answer.words
    assert nest(question.further().further()).question.effort > 10 * question.effort


@pytest.mark.parametrize("wanted", [32, 60, 3 * MOST_PIECES])
def test_strips_that_are_alike_are_known_to_fit_or_not_at_once(wanted: int) -> None:
    """Of 140 x 21 and a kerf of 2 a board of 420 x 95 holds 2 x 4, and one of 430 x 95 3 x 4."""
    boards = (MAPLE, *[LONG.with_(name=str(n)) for n in range(3)])
    answer = checked(nest(NestQuestion((strip(wanted),), boards, 2.0, effort=0.02)))
    assert len(answer.placed) == min(wanted, 8 + 3 * 12)
    if wanted > 44:
        assert answer.is_best
        assert answer.words.startswith(str(wanted - 44))


def test_a_layout_is_the_same_on_every_machine(monkeypatch: pytest.MonkeyPatch) -> None:
    """A clock that runs away changes nothing: work is counted."""
    question = NestQuestion(STRIPS, (LONG, MAPLE.with_(length_mm=200, width_mm=60)), 2.0, effort=0.05)
    calm = nest(question)
    hours = count(0, 7200.0)
    monkeypatch.setattr("time.monotonic", lambda: next(hours))
    assert nest(question) == calm


def test_nobody_waits_for_a_layout_that_is_not_wanted() -> None:
    class EnoughError(Exception):
        pass

    calls = []

    def stop(part: float) -> None:
        calls.append(part)
        raise EnoughError

    stock = tuple(strip(9, length, 20.3) for length in (131.7, 117.3, 93.1))
    boards = tuple(MAPLE.with_(name=str(n), length_mm=400 + 7.3 * n) for n in range(3))
    answer = checked(nest(NestQuestion(stock, boards, 2.0), stop))
    assert len(calls) == 1, "the search ended when it was no longer wanted"
    assert not answer.is_best


@pytest.mark.parametrize(("by_mm", "can"), [(0.0, True), (-0.05, True), (-0.5, False), (3.0, True)])
def test_a_board_must_be_as_thick_as_the_piece(by_mm: float, can: bool) -> None:
    piece = Stock(name="Strip", material="holly", count=1, length_mm=100, width_mm=20, thickness_mm=4)
    board = Board(name="A board", material="holly", length_mm=300, width_mm=60, thickness_mm=4 + by_mm)
    assert fits(piece, board) is can
    assert not fits(piece, board.with_(material="black-cherry"))
    assert not fits(piece, board.with_(width_mm=19.9))
