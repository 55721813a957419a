"""A sheet rolled out flat: there and back again, its width at both ends, whichever way it widens."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.rolling_out import flat as rolled
from orvek.craft.rolling_out import on_barrel
from orvek.craft.wrapping import development

sizes = st.floats(3, 40)


@given(sizes, sizes, st.floats(10, 150), st.floats(0.02, 0.5), st.floats(0, 5), st.floats(0, 3))
def test_every_place_of_a_sheet_comes_back(
    left: float, right: float, long: float, sheet: float, bleed: float, overlap: float
) -> None:
    flat = development(left, right, long, sheet, bleed, overlap)
    along, theta = np.meshgrid(np.linspace(0, flat.slant_mm, 7), np.linspace(0, flat.turn, 9))
    back = on_barrel(flat, *rolled(flat, along, theta))
    assert np.allclose(back[0], along, atol=1e-6)
    assert np.allclose(back[1], theta, atol=1e-6)


@given(sizes, sizes, st.floats(10, 150))
def test_a_flat_sheet_is_as_long_and_wide_as_on_the_barrel(left: float, right: float, long: float) -> None:
    flat = development(left, right, long, 0.1, 0, 0)
    assert flat.width_mm == pytest.approx((math.pi * (left + 0.1), math.pi * (right + 0.1)))
    for end in (0.0, flat.slant_mm):
        turns = np.linspace(0, flat.turn, 4001)
        x, y = rolled(flat, np.full_like(turns, end), turns)
        walked = float(np.hypot(np.diff(x), np.diff(y)).sum())
        assert walked == pytest.approx(
            flat.width_mm[0 if end == 0 else 1], rel=1e-5, abs=0.007
        )  # radii within EVEN_MM are one
    x, y = rolled(flat, np.array([0.0, flat.slant_mm]), np.array([1.0, 1.0]))
    assert math.hypot(x[1] - x[0], y[1] - y[0]) == pytest.approx(math.hypot(long, (right - left) / 2))
