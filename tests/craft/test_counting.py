"""How many to start, against worked values and the plain sum; pieces packed into bars."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.counting import bars_for, chance_of
from orvek.craft.laying_out import blanks_in_bar, saw_cuts
from orvek.craft.packing import packed

WORKED = [  # good, spoilt, chance; start, chance then
    (5, 0.15, 0.90, 7, 0.926235),
    (1, 0.10, 0.90, 1, 0.9),
    (1, 0.10, 0.95, 2, 0.99),
    (10, 0.20, 0.90, 15, 0.938949),
]


@pytest.mark.parametrize(("good", "spoilt", "chance", "start", "then"), WORKED)
def test_bars_for(good: int, spoilt: float, chance: float, start: int, then: float) -> None:
    found, reached = bars_for(good, spoilt, chance)
    assert found == start
    assert reached == pytest.approx(then, rel=1e-5)


@given(st.integers(1, 60), st.floats(0, 0.9), st.floats(0.5, 0.999))
def test_enough_and_not_one_more(good: int, spoilt: float, chance: float) -> None:
    start, reached = bars_for(good, spoilt, chance)
    plain = sum(math.comb(start, k) * (1 - spoilt) ** k * spoilt ** (start - k) for k in range(good, start + 1))
    assert reached == pytest.approx(plain, rel=1e-6, abs=1e-9)
    assert reached >= chance - 1e-8
    assert chance_of(start, good, spoilt) == pytest.approx(reached, rel=1e-9)
    assert start == good or chance_of(start - 1, good, spoilt) < chance


def test_ends_are_lost_once_a_bar() -> None:
    one = ((60.0, 2.0),)  # 64 and a kerf of 2
    assert [blanks_in_bar(long, one, 2, 4) for long in (75.9, 76, 160, 300)] == [0, 1, 2, 4]


def test_a_bar_with_clean_ends_is_its_own_first_face() -> None:
    """A bar of 99 mm holds a piece of 99, and one of 200 two of 99 with the saw between them."""
    one = ((94.0, 2.5),)
    assert [blanks_in_bar(long, one, 2, 0) for long in (98.9, 99, 199.9, 200)] == [0, 1, 1, 2]
    assert packed(((99, 0),), (99,), 2, 1).pens == 1
    assert packed(((150, 0),), (99,), 2, 1).sawn[0].left_mm == pytest.approx(49)


def test_six_pens_from_five_bars() -> None:
    """Pieces of 60 and 40 from three bars that take two long ones and two that take three short ones."""
    found = packed(((126, 0), (126, 0), (126, 0), (128, 0), (128, 0)), (60, 40), 2, 6)
    assert found.pens == 6
    assert sorted(one.pieces for one in found.sawn) == [(0, 3), (0, 3), (2, 0), (2, 0), (2, 0)]


def test_the_longest_leftover_is_kept() -> None:
    found = packed(((200, 1), (130, 1), (66, 1)), (60,), 2, 1)
    assert [one.bar for one in found.sawn] == [0]
    assert found.sawn[0].left_mm == pytest.approx(200 - 2 - 60 - 2 - 2)


@given(
    st.lists(st.floats(20, 300), min_size=1, max_size=6),
    st.lists(st.floats(15, 90), min_size=1, max_size=3),
    st.floats(0, 4),
    st.floats(0, 8),
    st.integers(1, 8),
)
def test_what_is_packed_fits(bars: list[float], pieces: list[float], kerf: float, loss: float, wanted: int) -> None:
    found = packed(tuple((bar, loss) for bar in bars), tuple(pieces), kerf, wanted)
    assert found.pens <= wanted
    assert len({one.bar for one in found.sawn}) == len(found.sawn)
    for one in found.sawn:
        sawn_mm = sum(count * piece for count, piece in zip(one.pieces, pieces, strict=True))
        used = sawn_mm + saw_cuts(sum(one.pieces), loss) * kerf
        assert used + 2 * loss <= bars[one.bar] + 1e-5
        # What is left of a bar with clean ends has a cut of its own; one of lost ends lies behind the last cut.
        cut = kerf if loss == 0 else 0.0
        assert one.left_mm == pytest.approx(max(0.0, bars[one.bar] - 2 * loss - used - cut), abs=1e-5)
    for index in range(len(pieces)):
        assert sum(one.pieces[index] for one in found.sawn) >= found.pens
    each = sum(blanks_in_bar(bar, tuple((piece, 0.0) for piece in pieces), kerf, loss) for bar in bars)
    assert found.pens >= min(wanted, each), "never fewer than whole pens bar by bar"
