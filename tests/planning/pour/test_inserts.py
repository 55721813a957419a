"""An insert's volume: from the steps' shape, from displacement, from mass and density."""

from __future__ import annotations

import pytest

from orvek.cards.pour_card import weighing_rows
from orvek.documents import Insert, InsertStep, Job, Shop, deeds
from orvek.documents.deeds import set_value
from orvek.planning import Plan, apply_remedy, plan
from orvek.planning.cure.question import cure_question


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


def test_chips_are_laid_in_and_never_mixed(tideline: Job, shop: Shop) -> None:
    """Pieces cast before fill their share of the mould; what is mixed, stirred and heats is what lies between them."""
    swirl = plan(tideline, shop)
    assert tideline.cast_index is not None
    chipped = set_value(tideline, ("blank", "steps", tideline.cast_index, "style"), "chips")
    made = plan(chipped, shop)
    assert made.mixture is not None
    assert swirl.mixture is not None
    chips, *wet = made.mixture.cups
    assert chips.is_solid
    assert (chips.part_a_g.value, chips.part_b_g.value, chips.doses) == (0, 0, ())
    share = tideline.cast.cups[0].share / sum(cup.share for cup in tideline.cast.cups)
    mould, over = made.mixture.mould_ml.value, 1 + tideline.pour.overage_pct / 100
    assert chips.volume_ml.value == pytest.approx(mould * share)
    assert made.mixture.volume_ml.value == pytest.approx(mould * (1 - share) * over)
    assert made.mixture.mass_g is not None
    assert made.mixture.mass_g.value == pytest.approx(sum(cup.mass_g.value for cup in wet))
    assert made.pace is not None
    assert swirl.pace is not None
    assert made.pace.working_min.value < swirl.pace.working_min.value
    question = cure_question(made)
    assert question is not None
    assert len(question.cups_g) == len(wet)
    rows = [row for row in weighing_rows(made, made.units) if row.cup == 0]
    assert [row.what for row in rows] == ["Chips, laid in dry"]
    assert made.failed == ()


def test_chips_of_the_same_colour_as_what_lies_between_them(tideline: Job, shop: Shop) -> None:
    """Two cups that are alike to the letter are still chips and what is mixed round them."""
    assert tideline.cast_index is not None
    cup = tideline.cast.cups[0]
    cast = tideline.cast.with_(cups=(cup, cup), style="chips")
    made = plan(set_value(tideline, ("blank", "steps", tideline.cast_index), cast), shop)
    assert made.failed == ()
    assert made.mixture is not None
    assert [one.is_solid for one in made.mixture.cups] == [True, False]
    assert [one.share_pct.value for one in made.mixture.cups] == [pytest.approx(50), pytest.approx(50)]
