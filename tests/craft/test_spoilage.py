"""What a record says of spoilage and cost, held against two hundred makers who are made up, and against counting."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.special import betainc, betaincinv
from scipy.stats import betabinom

from orvek.craft.beta import below, quantile
from orvek.craft.costing import StageCost, cost_good, price, started_for_good
from orvek.craft.counting import chance_of
from orvek.craft.durations import SPREAD, USUAL_WORTH, lasting
from orvek.craft.spoilage import (
    PRIOR_WORTH,
    bars_for_learned,
    chance_learned,
    spoil_rate,
    stage_kinds,
    usual_rate,
    work_kinds,
)
from orvek.craft.task_kinds import task_kinds

MAKERS = 200


def makers(seed: int) -> list[tuple[float, float, int, int]]:
    """Default rate, the maker's own true rate, how many were spoilt, of how many."""
    rng, found = np.random.default_rng(seed), []
    for _ in range(MAKERS):
        default = float(rng.choice([kind.rate for kind in work_kinds()]))
        true = float(rng.beta(PRIOR_WORTH * default, PRIOR_WORTH * (1 - default)))
        of = int(rng.integers(3, 60))
        found.append((default, true, int(rng.binomial(of, true)), of))
    return found


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_nine_in_ten_ranges_hold_nine_makers_in_ten(seed: int) -> None:
    held = [rate.low <= true <= rate.high for rate, true in ((spoil_rate(d, k, n), t) for d, t, k, n in makers(seed))]
    assert 0.85 <= np.mean(held) <= 0.95


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_a_learned_plan_reaches_its_number_as_often_as_it_says(seed: int) -> None:
    said, reached = [], []
    for number, (default, true, spoilt, of) in enumerate(makers(seed)):
        good = 3 + number % 8
        start, chance = bars_for_learned(good, default, spoilt, of, 0.9)
        said.append(chance)
        reached.append(chance_of(start, good, true))
    assert np.mean(reached) == pytest.approx(np.mean(said), abs=0.03)


def test_nine_in_ten_durations_fall_into_their_range() -> None:
    rng, held = np.random.default_rng(4), []
    for _ in range(1000):
        middle = 10 * np.exp(rng.normal(0, SPREAD / np.sqrt(USUAL_WORTH)))
        times = middle * np.exp(rng.normal(0, SPREAD, int(rng.integers(0, 12)) + 1))
        told = lasting(10, [float(minutes) for minutes in times[1:]])
        held.append(told.low_min <= times[0] <= told.high_min)
    assert 0.87 <= np.mean(held) <= 0.93


@given(st.integers(1, 30), st.integers(0, 30), st.floats(0.01, 0.6), st.integers(0, 40), st.integers(0, 40))
def test_chances_are_those_of_the_beta_binomial_distribution(
    good: int, more: int, default: float, spoilt: int, whole: int
) -> None:
    a, b = PRIOR_WORTH * default + spoilt, PRIOR_WORTH * (1 - default) + whole
    expected = betabinom.cdf(more, good + more, a, b)
    assert chance_learned(good + more, good, default, spoilt, spoilt + whole) == pytest.approx(expected, rel=1e-6)


@given(st.integers(1, 30), st.floats(0.01, 0.6), st.integers(0, 40), st.integers(0, 40), st.floats(0.5, 0.99))
def test_one_fewer_would_not_do(good: int, default: float, spoilt: int, whole: int, chance: float) -> None:
    of = spoilt + whole
    start, reached = bars_for_learned(good, default, spoilt, of, chance)
    assert reached >= chance - 1e-6
    assert start == good or chance_learned(start - 1, good, default, spoilt, of) < chance
    rate = spoil_rate(default, spoilt, of)
    assert 0 <= rate.low <= rate.mean <= rate.high <= 1
    # What is certain of nothing goes between the default and what was seen.
    assert min(default, spoilt / of if of else default) - 1e-9 <= rate.mean
    assert rate.mean <= max(default, spoilt / of if of else default) + 1e-9


@given(st.lists(st.builds(StageCost, st.floats(0, 50), st.floats(0.3, 1)), min_size=1, max_size=8), st.integers(1, 40))
def test_what_is_spoilt_is_paid_for_by_what_is_good(stages: list[StageCost], pens: int) -> None:
    """Started blanks run through the stages; all that is spent is shared by those that come out."""
    there, spent = started_for_good(stages)[0] * pens, 0.0
    for stage in stages:
        spent += there * stage.cost
        there *= stage.passes
    assert there == pytest.approx(pens)
    assert cost_good(stages, 0, pens) == pytest.approx(spent / pens)
    assert cost_good(stages, 0, pens) >= sum(stage.cost for stage in stages) - 1e-9


@given(st.floats(0, 500), st.floats(0, 0.9), st.floats(0, 0.6), st.floats(0, 20))
def test_a_price_leaves_its_margin_or_there_is_none(cost: float, margin: float, fee: float, fixed: float) -> None:
    found = price(cost, margin, fee, fixed)
    if found is None:
        assert margin + fee >= 1 - 1e-6
        return
    assert found.profit == pytest.approx(margin * found.price, rel=1e-6, abs=1e-6)
    assert found.price * (1 - fee) - fixed - cost == pytest.approx(found.profit, rel=1e-6, abs=1e-6)


@given(st.floats(0.05, 300), st.floats(0.05, 300), st.sampled_from([0.05, 0.5, 0.95]), st.floats(0.001, 0.999))
def test_quantiles_are_those_of_a_library(a: float, b: float, share: float, x: float) -> None:
    assert below(a, b, x) == pytest.approx(betainc(a, b, x), rel=1e-9, abs=1e-12)
    wanted = float(betaincinv(a, b, share))
    assert quantile(a, b, share) == pytest.approx(wanted, rel=1e-6, abs=1e-12)


def test_every_task_belongs_to_one_stage() -> None:
    tasks = [task for stage in stage_kinds() for task in stage.tasks]
    assert sorted(tasks) == sorted(kind.key for kind in task_kinds())
    assert usual_rate("hybrid") == 0.15
    assert usual_rate("something nobody knows") == 0.10


def test_a_record_that_knows_of_nothing_spoilt_still_doubts_a_little() -> None:
    """Nothing is certain: a rate of none counts as one in a thousand, a rate of all as one in a thousand good."""
    assert chance_learned(10, 10, 0.0, 0, 0) == pytest.approx(chance_learned(10, 10, 0.001, 0, 0))
    good = PRIOR_WORTH * 0.999
    all_good = np.prod([(good + number) / (PRIOR_WORTH + number) for number in range(10)])
    assert chance_learned(10, 10, 0.0, 0, 0) == pytest.approx(all_good)
    assert chance_learned(10, 1, 1.0, 0, 0) == pytest.approx(chance_learned(10, 1, 0.999, 0, 0))
