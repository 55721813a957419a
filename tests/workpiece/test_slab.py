"""Bars on a slab: laid out without touching, sawn by lines that free them, each with its own part of the photo."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.workpiece.slab import Slab, SlabBar, apart, cuts, laid_out, lies_on, share_used, troubles

_sides = st.floats(40, 320)


@given(_sides, _sides, st.floats(25, 130), st.floats(12, 30), st.floats(0.5, 4), st.none() | st.floats(-89, 90))
def test_what_is_laid_out_lies_on_the_slab_and_the_saw_fits_between(
    long: float, wide: float, bar_long: float, bar_wide: float, kerf: float, angle: float | None
) -> None:
    slab = Slab(long, wide, bad=((long / 2, wide / 2, 5.0),))
    bars = laid_out(slab, bar_long, bar_wide, kerf, angle)
    assert not troubles(slab, bars, kerf)
    assert share_used(slab, bars) <= 1
    if angle is None:
        assert len(bars) >= len(laid_out(slab, bar_long, bar_wide, kerf, 0.0))


@given(st.integers(1, 5), st.integers(1, 6), st.floats(1, 4))
def test_a_whole_slab_gives_as_many_as_divide_it(columns: int, rows: int, kerf: float) -> None:
    slab = Slab(columns * 60 + (columns - 1) * kerf + 0.5, rows * 20 + (rows - 1) * kerf + 0.5)
    bars = laid_out(slab, 60, 20, kerf, 0.0)
    assert len(bars) == columns * rows
    lines = cuts(slab, bars, kerf)
    # Between the bars one line each; the saw does not run along an edge that is there already.
    assert sum(not line.is_across for line in lines) == rows - 1
    assert sum(line.is_across for line in lines) == columns - 1
    for line in lines:
        (x0, y0), (x1, y1) = line.ends
        assert (x0, x1) == pytest.approx((0, slab.length_mm), abs=0.1) or (y0, y1) == pytest.approx(
            (0, slab.width_mm), abs=0.1
        )


@given(st.floats(-180, 180), st.floats(-180, 180), st.floats(-60, 60), st.floats(-60, 60), st.floats(0, 3))
def test_apart_is_what_no_point_of_one_within_the_other_says(
    one_deg: float, other_deg: float, x: float, y: float, kerf: float
) -> None:
    one, other = SlabBar(0, 0, one_deg, 60, 20), SlabBar(x, y, other_deg, 60, 20)
    assert apart(one, other, kerf) == apart(other, one, kerf)
    grid = np.stack(np.meshgrid(np.linspace(-30, 30, 41), np.linspace(-10, 10, 15)), axis=-1).reshape(-1, 2)
    c, s = math.cos(math.radians(other_deg)), math.sin(math.radians(other_deg))
    there = grid @ np.array([(c, s), (-s, c)]) + (x, y)
    u, v = math.cos(math.radians(one_deg)), math.sin(math.radians(one_deg))
    own = there @ np.array([(u, -v), (v, u)])
    if (np.abs(own) < (29.99, 9.99)).all(axis=1).any():
        assert not apart(one, other, kerf)


def test_a_bad_place_is_left_out_and_a_bar_over_the_edge_is_named() -> None:
    slab = Slab(130, 60, bad=((65, 10, 4),))
    assert len(laid_out(slab, 130, 20, 1, 0.0)) == 2 - 1 + len(laid_out(Slab(130, 45), 130, 20, 1, 0.0)) - 1
    assert not lies_on(slab, SlabBar(65, 12, 0, 130, 20))
    over = SlabBar(65, 55, 0, 130, 20)
    good = SlabBar(65, 40, 0, 130, 20)
    assert troubles(slab, (good, over), 1) == ((1,), (0, 1))
