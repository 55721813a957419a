"""From the label to a rate, and from the maker's own cups to a closer one."""

from __future__ import annotations

import math

import numpy as np
import pytest

from orvek.craft.calibrating import Observation, from_label, refit, watched
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
