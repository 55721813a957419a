"""Voids: how much fills them, how high, how long it waits, and what is to be said of deep and shallow ones."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.filling import fill_masses_g, fill_of, fills
from orvek.documents import Job, Shop, Void
from orvek.planning import apply_remedy, plan
from orvek.planning.finish.results import VoidsPlan
from orvek.planning.finish.voids import voids_plan


def filled(job: Job, **values: object) -> Job:
    return job.with_(finish=job.finish.with_(void=Void(count=6).with_(**values)))


def found(job: Job, shop: Shop) -> VoidsPlan:
    voids = voids_plan(plan(job, shop))
    assert voids is not None
    return voids


def test_six_natural_pits_take_so_much_shell(tideline: Job, shop: Shop) -> None:
    voids = found(filled(tideline, long_mm=5, wide_mm=3, deep_mm=1.5, lies="flush"), shop)
    assert voids.volume.value == pytest.approx(6 * 5 * 3 * 1.5 * 0.6 / 1000)
    assert voids.powder_g.value == pytest.approx(0.081 * 2.7 * 0.5)
    assert voids.glue_g is not None
    assert voids.wait.value == 90
    assert found(filled(tideline, deep_mm=2.5), shop).wait.value == 1440
    assert found(filled(tideline, fill="resin"), shop).glue_g is None
    assert voids_plan(plan(tideline, shop)) is None


def test_deep_voids_reach_the_tube_and_shallow_ones_show_no_depth(tideline: Job, shop: Shop) -> None:
    for change, key in (
        ({"deep_mm": 4}, "The voids may reach the tube."),
        ({"deep_mm": 0.5}, "Too shallow for depth."),
    ):
        job = filled(tideline, lies="sunk, for depth", **change)
        finding = next(one for one in plan(job, shop).findings if one.title == key)
        mended = plan(apply_remedy(job, finding.remedies[0]), shop)
        assert key not in {one.title for one in mended.findings}


@given(st.floats(0.01, 1e5))
def test_twice_the_void_takes_twice_as_much(volume_mm3: float) -> None:
    for fill in (*fills(), fill_of("nothing known")):
        powder, glue = fill_masses_g(volume_mm3, fill)
        assert fill_masses_g(2 * volume_mm3, fill) == pytest.approx((2 * powder, 2 * glue))
        assert powder > 0
        assert (glue == 0) == (fill.key == "resin")
