"""An insert's volume: from the steps' shape, from displacement, from mass and density."""

from __future__ import annotations

import pytest

from orvek.documents import Insert, InsertStep, Job, Shop, deeds
from orvek.documents.deeds import set_value
from orvek.planning import Plan, apply_remedy, plan


def poured_ml(planned: Plan) -> float:
    assert planned.mixture is not None
    return planned.mixture.volume_ml.value


def with_slab(job: Job, **changes: float) -> Job:
    slab = InsertStep(middle_mm=0, rough_mm=0, slope_deg=0).with_(**changes)
    return deeds.add_step(job, slab, 0)


def test_a_slab_laid_in_takes_its_volume_from_the_resin(tideline: Job, shop: Shop) -> None:
    half = plan(with_slab(tideline), shop)
    assert half.mixture is not None
    assert half.mixture.insert is not None
    assert half.mixture.insert.volume_ml.value == pytest.approx(26.4, rel=0.002)
    # Half of 316.8 ml is wood; a fiftieth of its pores (0.6) soaks resin up; 6 % overage.
    assert poured_ml(half) == pytest.approx((158.4 + 0.6 * 0.02 * 158.4) * 1.06, rel=0.002)
    quarter = plan(with_slab(tideline, middle_mm=-5), shop)
    assert poured_ml(quarter) > poured_ml(half)


def test_mass_and_density_serve_where_nothing_else_is_known(tideline: Job, shop: Shop) -> None:
    job = set_value(
        tideline, ("pour", "insert"), Insert(mass_g=18, density_g_ml=0.6, void_fraction=0.6, soak_fraction=0)
    )
    assert poured_ml(plan(job, shop)) == pytest.approx((316.8 - 6 * 30) * 1.06)


@pytest.mark.parametrize(("displaced", "disagrees"), [(26.4, False), (27.5, False), (32.0, True)])
def test_what_was_measured_is_held_against_the_shape(
    tideline: Job, shop: Shop, displaced: float, disagrees: bool
) -> None:
    job = set_value(with_slab(tideline), ("pour", "insert"), Insert(volume_ml=displaced))
    titles = [finding.title for finding in plan(job, shop).findings]
    assert ("The insert's volumes disagree." in titles) is disagrees


def test_a_slab_that_fills_the_mould_is_a_stop(tideline: Job, shop: Shop) -> None:
    assert plan(with_slab(tideline, middle_mm=15), shop).has_stop


def test_what_was_measured_is_poured_for_and_the_edge_is_redrawn_to_it(tideline: Job, shop: Shop) -> None:
    """Wood displaced less than it was drawn: more resin is needed, and one button draws it as it is."""
    drawn = with_slab(tideline)
    job = set_value(drawn, ("pour", "insert"), Insert(volume_ml=20.0))
    planned = plan(job, shop)
    assert planned.mixture is not None
    assert planned.mixture.insert is not None
    assert planned.mixture.insert.volume_ml.value == 20.0
    assert poured_ml(planned) > poured_ml(plan(drawn, shop))
    finding = next(f for f in planned.findings if f.key == "pour.insert")
    (remedy,) = finding.remedies
    assert remedy.label == "Draw the edge 2.4 mm further in"
    again = plan(apply_remedy(job, remedy), shop)
    assert not [f for f in again.findings if f.key == "pour.insert"]
    drawn_now = next(way for way in again.mixture.insert.ways if way.is_drawn)  # type: ignore[union-attr]
    assert drawn_now.volume_ml.value == pytest.approx(20.0, rel=0.02)
