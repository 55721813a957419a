"""Drying: the forecast's range holds the truth nine times in ten, it says "too early" where it must; the diffusion."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.drying import OVEN_M2_S, Band, bar_left, slab_left, tail_h, three_weights
from orvek.craft.drying_fit import fitted_drying
from orvek.craft.dyeing import Dyeing, depth_mm, guessed_mm, hours_needed, needed_mm, vacuum_times
from orvek.craft.soaking import core_min, root

_STEP_G = 0.1


def _run(
    chance: np.random.Generator, *, is_bar: bool
) -> tuple[tuple[float, ...], tuple[float, ...], float, float, float]:
    """A drying run as a maker would log it: hours, weights, end mass, side of the bar, when half a percent is left."""
    side, end = chance.uniform(16, 40), chance.uniform(25, 90)
    loss = end * chance.uniform(0.03, 0.25)
    diffuses = OVEN_M2_S * math.exp(chance.normal(0, 0.6))
    tail = tail_h(diffuses, (side, side))
    hours = np.concatenate([[0], np.cumsum(chance.uniform(0.1, 0.9, chance.integers(4, 12)) * tail)])

    def left(hour: float) -> float:
        return bar_left(diffuses, hour, (side, side)) if is_bar else math.exp(-hour / tail)

    exact = np.array([end + loss * left(hour) for hour in hours])
    read = np.round((exact + chance.normal(0, 0.02, len(hours))) / _STEP_G) * _STEP_G
    dry = next(hour for hour in np.arange(0, 60 * tail, tail / 50) if loss * left(float(hour)) <= 0.005 * end)
    return tuple(map(float, hours)), tuple(map(float, read)), float(end), float(side), float(dry)


def test_the_range_of_the_end_mass_holds_the_truth_nine_times_in_ten() -> None:
    """Five hundred runs, half of them diffusion out of a bar and half the plain exponential, on a scale of 0.1 g."""
    chance, held, told, dry_held = np.random.default_rng(17), 0, 0, 0
    for number in range(500):
        hours, weights, end, side, dry = _run(chance, is_bar=number % 2 == 1)
        found = fitted_drying(hours, weights, _STEP_G, tail_h(OVEN_M2_S, (side, side)))
        if found.why_not:
            continue
        told += 1
        held += found.end_g.low <= end <= found.end_g.high
        dry_held += found.dry_h.low <= dry <= found.dry_h.high
    assert told > 400
    assert 0.85 <= held / told <= 0.95
    assert 0.85 <= dry_held / told <= 0.97, "and so does the time when it is dry"


def test_it_is_too_early_while_the_log_fits_anything() -> None:
    def why(*weights: float) -> str:
        return fitted_drying(tuple(2.0 * n for n in range(len(weights))), weights, _STEP_G, 5.6).why_not

    assert "3 of the 4" in why(40, 39, 38.5)
    assert "hardly more than the scale" in why(40, 40, 39.9, 39.9)
    assert why(40, 39.5, 40.2, 39) == "a weight rises"
    assert "more is still to go" in why(40, 39.7, 39.4, 39.1, 38.8) or "too many courses" in why(
        40, 39.7, 39.4, 39.1, 38.8
    )
    assert why(40, 37.6, 36.5, 36.0, 35.7, 35.6, 35.5) == ""


def test_three_weights_begin_where_the_fit_ends() -> None:
    end, tail = three_weights(40.0, 37.52198, 36.408534, 4)
    hours = tuple(4.0 * n for n in range(7))
    weights = tuple(35.5 + 4.5 * math.exp(-hour / 5) for hour in hours)
    found = fitted_drying(hours, weights, 0.001, 5.6)
    assert found.end_g.best == pytest.approx(end, abs=0.02)
    assert found.tail_h == pytest.approx(tail, rel=0.1)


@given(st.floats(1e-5, 3))
def test_a_slab_dries_steadily_and_its_two_forms_meet(x: float) -> None:
    assert 0 <= slab_left(x * 1.01) <= slab_left(x) <= 1
    if x < 1e-3:
        assert slab_left(x) == pytest.approx(1 - 4 * math.sqrt(x / math.pi), abs=1e-3)


@given(st.floats(8, 60), st.floats(40, 90), st.integers(0, 6))
def test_a_thicker_bar_and_a_hotter_core_take_longer(side: float, core: float, number: int) -> None:
    one = core_min((side, side), 12, 20, 95, core)
    assert core_min((side * 1.2, side), 12, 20, 95, core) > one
    assert core_min((side, side), 25, 20, 95, core) < one
    z, _ = root(0.6, number)
    assert z * math.tan(z) == pytest.approx(0.6, rel=1e-6)
    assert math.isinf(core_min((side, side), 12, 20, 95, 95))


def test_what_was_seen_replaces_the_guess_of_a_dye() -> None:
    how = Dyeing("water", "dipped", 12, is_soft=False)
    guess = depth_mm(how)
    assert guess.low < guess.best < guess.high
    plain = guessed_mm(how)
    seen = [(plain * 2, plain)] * 8
    learned = depth_mm(how, seen)
    assert learned.best == pytest.approx(plain * 2 ** (8 / 10))
    assert learned.high / learned.low < guess.high / guess.low
    assert depth_mm(how, at_end=True).best > 5 * guess.best
    assert guessed_mm(Dyeing("water", "under vacuum", 12, is_soft=False)) == pytest.approx(plain * vacuum_times())
    assert vacuum_times() == pytest.approx(13.9 / 8.2, rel=0.02)
    assert hours_needed(how, 2.0, 4.0) == 48
    assert needed_mm(20, 12, 0.5) == 4.5
    assert needed_mm(12, 14, 0.5) == 0
    assert Band(1, 2, 3).best == 2
