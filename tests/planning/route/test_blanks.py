"""Several blanks through one operation: together or one by one, each step once, and any may fall out."""

from __future__ import annotations

from datetime import datetime

import pytest

from orvek.documents import Actual, FateEntry, Job, Shop, deeds
from orvek.planning import plan
from orvek.planning.history import kind_of_work
from orvek.planning.results import Plan
from orvek.planning.route.blanks import bench_steps, blanks_in_hand, is_written
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import steps_of

WHEN = datetime(2026, 11, 26, 18, 0)


def operation(planned: Plan, kind: str) -> Operation:
    assert planned.route is not None
    return next(one for one in planned.route.operations if one.kind == kind)


def lost(job: Job, shop: Shop, number: int) -> Shop:
    about = deeds.records.about(job, kind_of_work(job), WHEN)
    entry = FateEntry(blank_no=number, fate="spoilt", stage="boring", begun=6, **about)
    return deeds.records.write_entry(shop, entry)


@pytest.mark.parametrize("kind", ["bore", "square", "turn", "press", "tube", "sand"])
def test_either_way_every_blank_gets_every_step_once(tideline: Job, shop: Shop, kind: str) -> None:
    planned = plan(tideline, shop)
    task = operation(planned, kind)
    blanks = blanks_in_hand(planned, task)
    assert blanks == tuple(range(1, round(planned.bars.blanks.value) + 1))
    base = {step.key: step for step in steps_of(planned, task)}
    for one_by_one in (False, True):
        steps = bench_steps(planned, task, one_by_one=one_by_one)
        assert len({step.key for step in steps}) == len(steps)
        reached = {key: [step.blank for step in steps if step.key.partition("#")[0] == key] for key in base}
        for key, step in base.items():
            assert reached[key] in ([0], list(blanks)), key
            if step.kind == "measure":
                assert reached[key] == list(blanks), "each is measured"
        assert all(step.target_mm == base[step.key.partition("#")[0]].target_mm for step in steps)


def test_a_barrel_of_all_blanks_comes_before_the_next_barrel(tideline: Job, shop: Shop) -> None:
    planned = plan(tideline, shop)
    steps = bench_steps(planned, operation(planned, "bore"), one_by_one=True)
    order = [(step.hole, step.blank) for step in steps]
    assert order == sorted(order)


def test_one_that_fell_out_is_not_asked_for_and_what_is_done_stays_done(tideline: Job, shop: Shop) -> None:
    task = operation(plan(tideline, shop), "square")
    planned = plan(tideline, lost(tideline, shop, 2))
    assert 2 not in blanks_in_hand(planned, task)
    each = bench_steps(planned, task, one_by_one=True)
    assert 2 not in {step.blank for step in each}
    sand = operation(planned, "sand")
    together, blanks = bench_steps(planned, sand, one_by_one=False), blanks_in_hand(planned, sand)
    first = together[0]
    assert is_written(first, {f"{first.key}#{number}" for number in blanks}, blanks)
    assert not is_written(first, {f"{first.key}#1"}, blanks)
    alone = bench_steps(planned, sand, one_by_one=True)[0]
    assert is_written(alone, {first.key}, blanks), "what was done to all of them was done to this one"


def test_a_coat_on_three_blanks_is_counted_as_one_coat() -> None:
    keys = [f"coat:thin.1#{number}" for number in (1, 2, 3)]
    assert {Actual(task=key, what="counted", when=WHEN).step for key in keys} == {"coat:thin.1"}
