"""The chances of a crooked hole against a direct Monte-Carlo of the same geometry, and what a log of holes teaches."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.off_axis import beyond_chance, spoilt_chance
from orvek.craft.off_axis_limits import Limit
from orvek.craft.wander import P95_RADIAL, Wander, covariance_mm2, fitted, learned, scatter_mm

_DRAWS = 400_000
_SHOP = Wander(centring_mm=0.25, misaligned=0.004, bending_mm=2e-3)


def _holes(depths_mm: np.ndarray, bit_mm: float, seed: int) -> np.ndarray:
    """Offsets of many holes at these depths: draws x depths x 2, made straight from the three errors."""
    chance = np.random.default_rng(seed)
    centring, slope, bend = (chance.normal(size=(_DRAWS, 1, 2)) for _ in range(3))
    z = depths_mm[None, :, None]
    bends = _SHOP.bending_mm * (z / bit_mm) ** 2
    return _SHOP.centring_mm * centring + _SHOP.misaligned * z * slope + bends * bend


@pytest.mark.parametrize("is_round", [False, True])
@pytest.mark.parametrize(
    ("near", "far", "bit"),
    [
        (Limit(2, 0.9), Limit(58, 0.7), 7.0),
        (Limit(2, 0.5), Limit(58, 1.4), 7.0),
        (Limit(0, 0.6), Limit(120, 1.5), 10.0),
    ],
)
def test_the_chance_is_that_of_a_million_holes(near: Limit, far: Limit, bit: float, is_round: bool) -> None:
    """Both ends of the barrel, and twenty places between them: the chance holds to half a point."""
    depths = np.linspace(near.depth_mm, far.depth_mm, 22)
    rooms = np.interp(depths, (near.depth_mm, far.depth_mm), (near.room_mm, far.room_mm))
    offsets = _holes(depths, bit, seed=11)
    off = np.hypot(offsets[..., 0], offsets[..., 1]) if is_round else np.abs(offsets).max(axis=2)
    counted = float((off > rooms).any(axis=1).mean())
    assert spoilt_chance((near, far), bit, _SHOP, is_round=is_round) == pytest.approx(counted, abs=0.005)


@pytest.mark.parametrize("is_round", [False, True])
@pytest.mark.parametrize(
    ("near", "far"),
    [
        (Limit(2, 1.5, aimed_mm=(0.6, -0.4)), Limit(58, 1.6, aimed_mm=(-0.5, 0.3))),
        (Limit(2, 1.2, aimed_mm=(1.1, 0.0)), Limit(58, 2.5, aimed_mm=(0.0, 0.0))),
        (Limit(0, 3.0, aimed_mm=(0.2, 0.1)), Limit(120, 2.4, aimed_mm=(0.9, 1.2))),
    ],
)
def test_a_hole_that_is_aimed_at_the_pattern_has_less_room_on_one_side(near: Limit, far: Limit, is_round: bool) -> None:
    offsets = _holes(np.array([near.depth_mm, far.depth_mm]), 8.0, seed=29)
    offsets = offsets + np.array([near.aimed_mm, far.aimed_mm])
    off = np.hypot(offsets[..., 0], offsets[..., 1]) if is_round else np.abs(offsets).max(axis=2)
    counted = float((off > np.array([near.room_mm, far.room_mm])).any(axis=1).mean())
    assert spoilt_chance((near, far), 8.0, _SHOP, is_round=is_round) == pytest.approx(counted, abs=0.005)


def test_an_oblong_bar_has_less_room_one_way() -> None:
    near, far = Limit(2, 1.5, 0.6), Limit(58, 1.5, 0.6)
    offsets = _holes(np.array([2.0, 58.0]), 7.0, seed=3)
    counted = float((np.abs(offsets) > np.array([1.5, 0.6])).any(axis=(1, 2)).mean())
    assert spoilt_chance((near, far), 7.0, _SHOP, is_round=False) == pytest.approx(counted, abs=0.005)


@given(st.floats(0.01, 3), st.floats(0, 3), st.floats(0.05, 2))
def test_a_chance_is_a_chance_and_falls_with_room(limit: float, bias: float, sigma: float) -> None:
    found = beyond_chance(limit, bias, sigma)
    assert 0 <= found <= 1
    assert beyond_chance(limit + 0.2, bias, sigma) <= found + 1e-9


@given(st.floats(0, 150), st.floats(0, 150), st.floats(3, 20))
def test_deeper_is_never_straighter(one: float, other: float, bit: float) -> None:
    low, high = sorted((one, other))
    assert scatter_mm(low, bit) <= scatter_mm(high, bit)
    shared = covariance_mm2(one, other, bit, Wander())
    assert shared <= scatter_mm(one, bit) * scatter_mm(other, bit) + 1e-12


def test_no_room_is_no_chance_at_all() -> None:
    assert spoilt_chance((Limit(0, 0.0), Limit(50, 1.0)), 7, _SHOP, is_round=True) == 1
    assert spoilt_chance((Limit(0, 50.0), Limit(50, 50.0)), 7, _SHOP, is_round=False) < 1e-9


def test_a_log_of_holes_replaces_the_guess() -> None:
    chance, truth = np.random.default_rng(5), Wander().scaled(2.5)
    holes = [
        (depth, 7.0, float(np.hypot(*chance.normal(scale=scatter_mm(depth, 7.0, truth), size=2))))
        for depth in np.linspace(40, 120, 40)
    ]
    assert learned([]) == Wander()
    few, many = (scatter_mm(60, 7.0, learned(holes[:n])) for n in (3, 40))
    wanted = scatter_mm(60, 7.0, truth)
    assert scatter_mm(60, 7.0) < few
    assert many == pytest.approx(wanted, rel=0.15)


def test_the_range_of_a_fit_holds_the_truth_nine_times_in_ten() -> None:
    chance, held = np.random.default_rng(8), 0
    for _ in range(300):
        found = fitted(np.hypot(*chance.normal(scale=0.3, size=(2, 6))).tolist())
        assert found is not None
        held += found.low_mm <= 0.3 <= found.high_mm
    assert 0.85 <= held / 300 <= 0.95
    assert fitted([]) is None
    assert pytest.approx(np.sqrt(-2 * np.log(0.05))) == P95_RADIAL
