"""What must hold for any numbers: masses add up, pieces fit, cuts lie beside pieces."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from orvek.craft import boring, laying_out, moulding, pouring
from orvek.craft.laying_out import Span
from orvek.documents import LoafMould, RoundMould

sizes = st.floats(1, 500)


@given(st.floats(0.1, 5000), st.floats(0.002, 3))
def test_parts_make_the_whole(total: float, ratio: float) -> None:
    part_a, part_b = pouring.parted(total, ratio)
    assert part_a + part_b == pytest.approx(total)
    assert part_b / part_a == pytest.approx(ratio)


@given(st.floats(1, 2000), st.floats(0, 0.1), st.floats(0.005, 0.6), st.floats(0.01, 2))
def test_a_stock_changes_what_is_weighed_and_not_what_is_in_the_cup(
    total: float, load: float, stock: float, ratio: float
) -> None:
    dose = pouring.stock_dose(total, load, stock, ratio)
    assert dose.stock_g + dose.part_a_g + dose.part_b_g == pytest.approx(total)
    assert dose.stock_g * stock == pytest.approx(total * load)
    whole_a = dose.part_a_g + dose.stock_g * (1 - stock)
    assert dose.part_b_g / whole_a == pytest.approx(ratio)


@given(st.floats(0.001, 3000), st.sampled_from([0.001, 0.01, 0.05, 0.1, 0.5, 1.0, 5.0]))
def test_the_scale_shows_the_nearest_step(mass: float, step: float) -> None:
    shown = pouring.on_scale_g(mass, step)
    assert abs(shown - mass) <= step / 2 * (1 + 1e-9)
    assert shown / step == pytest.approx(round(shown / step), abs=1e-6)


@given(sizes, sizes, st.floats(0, 10))
def test_pieces_fit_and_one_more_does_not(length: float, piece: float, kerf: float) -> None:
    count, left = laying_out.pieces(length, piece, kerf)
    assert count * piece + max(0, count - 1) * kerf <= length + 1e-5
    assert (count + 1) * piece + count * kerf > length - 1e-5
    assert left >= 0


def test_pieces_that_fit_exactly_are_counted() -> None:
    assert laying_out.pieces(600, 20, 3.2)[0] == 26
    assert laying_out.pieces(245, 20, 2.5)[0] == 11


@given(
    st.lists(st.tuples(st.floats(10, 80), st.floats(0, 5)), min_size=1, max_size=4), st.floats(0, 5), st.floats(0, 10)
)
def test_packed_tubes_fill_exactly_the_length_a_pen_needs(
    tubes: list[tuple[float, float]], kerf: float, waste: float
) -> None:
    needed = laying_out.blank_length_mm(tuple(tubes), kerf, waste)
    starts = laying_out.packed_starts_mm(tuple(tubes), kerf, needed)
    end = waste + kerf if waste > 0 else 0.0
    assert starts[0] - tubes[0][1] == pytest.approx(end, abs=1e-9)
    assert starts[-1] + sum(tubes[-1]) == pytest.approx(needed - end)


@given(st.lists(st.tuples(st.floats(0, 80), st.floats(1, 20)), max_size=5))
def test_gaps_and_spans_make_the_bar(pairs: list[tuple[float, float]]) -> None:
    spans = tuple(Span(start, start + length) for start, length in pairs)
    free = laying_out.gaps(spans, 100.0)
    covered = sum(gap.length_mm for gap in free)
    marks = [any(s.start_mm <= z < s.end_mm for s in spans) for z in (n / 50 + 0.01 for n in range(5000))]
    assert covered == pytest.approx(100 * (1 - sum(marks) / 5000), abs=0.3)


def test_what_lies_beyond_the_bar_leaves_no_gap_of_less_than_nothing() -> None:
    assert laying_out.gaps((Span(0, 140), Span(150, 160)), 100.0) == ()


@given(st.floats(2, 18.5))
def test_the_suggested_bit_leaves_room_for_glue(tube: float) -> None:
    bit = boring.bit_for_tube(tube)
    assert bit is not None
    assert 0.05 - 1e-6 <= bit.diameter_mm - tube <= 0.20 + 1e-6


def test_no_bit_is_suggested_where_none_is_sold() -> None:
    assert boring.bit_for_tube(30) is None


def test_densities_with_pigment_add_up_by_volume() -> None:
    assert pouring.dosed_density(1.1, ()) == pytest.approx(1.1)
    heavy = pouring.dosed_density(1.1, ((0.02, 3.0),))
    assert 1 / heavy == pytest.approx(0.98 / 1.1 + 0.02 / 3.0)


def test_a_loaf_gives_whole_bars_only() -> None:
    loaf = LoafMould(
        name="Loaf", length_mm=136, width_mm=92, depth_mm=23, bar_width_mm=20, bar_depth_mm=20, kerf_mm=2.4
    )
    assert moulding.loaf_grid(loaf) == (4, 1)
    assert moulding.bars_in(loaf.with_(depth_mm=18)) == 0


@given(st.floats(5, 100), st.floats(10, 300))
def test_a_round_is_smaller_than_the_square_about_it(diameter: float, length: float) -> None:
    assume(length > 0)
    volume = moulding.cavity_ml(RoundMould(name="Round", cavities=1, length_mm=length, diameter_mm=diameter))
    assert volume == pytest.approx(0.785398 * diameter**2 * length / 1000, rel=1e-5)
