"""The edge: barrels are counted from a fresh one on, in every job of its tool, each stuff by what it wears."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest

from orvek.craft.lathe import edge_life_barrels
from orvek.documents import Actual, Job, PhotoStep, Shop, deeds
from orvek.planning import plan
from orvek.planning.finish.edges import edge_of, tool_of, worn

DAY = datetime(2026, 6, 1, 9, 0)


def sharpened(shop: Shop, job: Job, when: datetime = DAY) -> Shop:
    return deeds.records.begin_series(shop, edge_of(tool_of(job)), when)


def turned(job: Job, barrels: int, when: datetime) -> Job:
    """So many barrels measured at their last end."""
    for number in range(barrels):
        step = f"turn:{number % 2}.right#{number // 2 + 1}"
        job = deeds.write_actual(job, Actual(task=step, what="measured", value=12.0, when=when))
    return job


def test_barrels_are_counted_since_the_edge_was_renewed(tideline: Job, shop: Shop) -> None:
    assert worn(plan(tideline, shop)) is None, "nobody has written a fresh edge down"
    fresh = sharpened(shop, tideline)
    assert worn(plan(tideline, fresh)) == (0, 0)
    later = DAY + timedelta(hours=2)
    job = turned(turned(tideline, 1, DAY - timedelta(hours=1)), 4, later)
    found = worn(plan(job, fresh))
    assert found is not None
    assert found[0] == 4
    assert found[1] == pytest.approx(4 / edge_life_barrels("resin"))
    assert not any("edge" in one.title for one in plan(job, fresh).findings)
    many = turned(tideline, 8, later)
    assert any("edge" in one.title for one in plan(many, fresh).findings)
    assert worn(plan(many, sharpened(fresh, tideline, later + timedelta(minutes=5)))) == (0, 0)


def test_another_job_of_the_same_tool_counts_and_ticked_off_it_counts_whole(tideline: Job, shop: Shop) -> None:
    fresh = sharpened(shop, tideline)
    other = deeds.finish_task(tideline, "turn", DAY + timedelta(days=1))
    mine = tideline.with_(batch=tideline.batch.with_(id="c" * 12))
    found = worn(plan(mine, fresh, (other,)))
    assert found is not None
    assert found[0] == tideline.batch.pens_wanted * len(tideline.laid)
    gouge = other.with_(finish=other.finish.with_(tool="gouge"))
    assert worn(plan(mine, fresh, (gouge,))) == (0, 0)


def test_bought_bars_and_brittle_stuff_ask_for_a_fresh_edge_last(tideline: Job, shop: Shop) -> None:
    bought = tideline.with_(blank=tideline.blank.with_(steps=(PhotoStep(length_mm=140, made_of="resin"),)))
    for job, asks in ((bought, True), (tideline, False)):
        finish = plan(job, shop).finish
        assert finish is not None
        assert any("last millimetre" in line for line in finish.lathe) == asks
