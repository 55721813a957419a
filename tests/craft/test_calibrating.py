"""From the label to a rate, and from the maker's own cups to a closer one."""

from __future__ import annotations

import math

import numpy as np
import pytest

from orvek.craft.calibrating import Observation, cup_gel_s, from_label, refit, watched
from orvek.craft.pouring import pot_life_min
from orvek.errors import OutOfBoundsError
from tests.craft.test_curing import COATING, DEEP, FAST, POLYESTER


@pytest.mark.parametrize(
    ("kinetics", "pot_life_min"),
    [(FAST, 5), (DEEP, 480), (COATING, 35), (POLYESTER, 12)],
    ids=["PU", "deep", "quick", "UP"],
)
def test_the_label_gives_back_the_familys_own_rate(kinetics, pot_life_min) -> None:  # type: ignore[no-untyped-def]
    fit = from_label(kinetics.faster(5), pot_life_min)
    assert fit.kinetics.rate_25 == pytest.approx(kinetics.rate_25, rel=0.01)
    gel, _ = watched(fit.kinetics, 100, 25, with_peak=False)
    assert gel == pytest.approx(60 * pot_life_min, rel=0.005)


@pytest.mark.parametrize(
    ("kinetics", "mass_g", "limit_c"),
    [(COATING, 100, 165.09), (DEEP, 200, 75.99), (POLYESTER, 100, 187.92)],
    ids=["quick", "deep, running away", "UP"],
)
def test_a_watched_cup_peaks_where_small_cells_end(kinetics, mass_g: float, limit_c: float) -> None:  # type: ignore[no-untyped-def]
    """The limits are extrapolated from cups of 20 x 14 and 40 x 28 cells."""
    _, peak = watched(kinetics, mass_g, 25)
    assert peak == pytest.approx(limit_c, abs=0.28)


@pytest.mark.parametrize(("label_min", "cup_g"), [(20, 231), (60, 156), (60, 400), (240, 231), (480, 231), (1440, 400)])
def test_a_large_cup_lasts_about_as_long_as_a_calculated_one(label_min: float, cup_g: float) -> None:
    calculated = cup_gel_s(from_label(DEEP, label_min).kinetics, cup_g, 25) / 60
    assert pot_life_min(label_min, 100, cup_g) == pytest.approx(calculated, rel=0.08)


def test_a_peak_on_the_label_sets_the_heat() -> None:
    fit = from_label(COATING, 35, peak_c=140)
    gel, peak = watched(fit.kinetics, 100, 25)
    assert gel == pytest.approx(35 * 60, rel=0.01)
    assert peak == pytest.approx(140, abs=1)
    assert fit.kinetics.heat_j_g < COATING.heat_j_g


@pytest.mark.parametrize("pot_life_min", [0.05, 0.3, 1.0])
def test_a_label_that_no_rate_meets_is_refused(pot_life_min: float) -> None:
    with pytest.raises(OutOfBoundsError, match="gels sooner"):
        from_label(COATING, pot_life_min)


def test_a_peak_that_no_heat_gives_is_refused() -> None:
    with pytest.raises(OutOfBoundsError, match="The peak must be between"):
        from_label(COATING, 35, peak_c=70)


def test_cups_that_were_watched_pull_the_rate_and_narrow_it() -> None:
    before = from_label(COATING, 35)
    truth = before.kinetics.faster(1.4)
    seen = tuple(
        Observation(mass, at, watched(truth, mass, at, with_peak=False)[0] / 60) for mass, at in ((60, 21), (120, 25))
    )
    after = refit(before, seen)
    assert after.sd[0] < 0.5 * before.sd[0]
    off = math.log(after.kinetics.rate_25 / truth.rate_25)
    assert abs(off) < 1.645 * after.sd[0], "the truth lies within the interval"
    assert after.far == ()
    assert np.all(np.linalg.eigvalsh(after.covariance) > 0)


def test_an_observation_far_outside_is_named() -> None:
    fit = refit(
        from_label(COATING, 35), (Observation(100, 25, 35), Observation(100, 25, 36), Observation(100, 25, 600))
    )
    assert [one.gel_min for one in fit.far] == [600]
