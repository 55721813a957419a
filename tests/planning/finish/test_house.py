"""What the house has found to work: its own ladders, schools, bottles; bushings that wear; what tore out before."""

from __future__ import annotations

from datetime import date

import pytest

from orvek.craft.lathe import support_mm
from orvek.documents import (
    Bottle,
    CoatSchool,
    Fault,
    HouseLadder,
    Job,
    OutlinePoint,
    Shop,
    SolidStep,
    deeds,
    material,
)
from orvek.planning import Plan, apply_remedy, plan
from orvek.planning.coating import every_school
from orvek.planning.finish.lathe import readings_now, wear_lines
from orvek.planning.finish.results import FinishPlan
from orvek.planning.finish.words import along_lines, finish_lines, is_wet
from orvek.planning.history import kind_of_work
from orvek.quantities import Units


def of(planned: Plan) -> FinishPlan:
    assert planned.finish is not None
    return planned.finish


def how(job: Job, **values: object) -> Job:
    return job.with_(finish=job.finish.with_(**values))


def test_a_school_of_ones_own_stands_in_for_one_that_ships(tideline: Job, shop: Shop) -> None:
    mine = CoatSchool(name="many thin coats", thin=20, medium=0, thin_wait_min=5, slowest_rpm=400, order="in turn")
    own = shop.with_(schools=(mine,))
    job = deeds.choose_school(tideline, mine)
    planned = plan(job, own)
    assert of(planned).school == mine
    assert [one.name for one in every_school(planned.shop)].count("many thin coats") == 1
    lines = " ".join(finish_lines(of(planned), planned.finishing, Units()))
    assert "At 400 to 600 rpm: 20 thin and 0 medium coats in turn" in lines
    assert "wait 5 min for a thin one" in lines
    assert deeds.school_of(planned.finishing, "again").thin == 20


def test_a_ladder_is_kept_and_taken_again(tideline: Job) -> None:
    kept = deeds.ladder_of(how(tideline, bare_from="P240", wet="wet throughout"), "Resin")
    assert isinstance(kept, HouseLadder)
    job = deeds.choose_ladder(tideline, kept)
    assert (job.finish.bare_from, job.finish.wet) == ("P240", "wet throughout")


def test_drops_of_a_weighed_bottle_say_how_thick_a_coat_is(tideline: Job, shop: Shop) -> None:
    own = shop.with_(bottles=(Bottle(name="Blue cap", drop_mg=35, kept_pct=35),))
    job = how(tideline, school="thin, then medium", bottle="Blue cap", thin_drops=1.0, medium_drops=3.0)
    planned = plan(job, own)
    counted = of(planned)
    assert counted.drop_um is not None
    nib = job.laid[0]
    area = 3.14159265 * (nib.finished_left_mm + nib.finished_right_mm) / 2 * nib.tube_length_mm
    assert counted.drop_um.value == pytest.approx(1000 * 35 * 0.35 / 1.06 / area, rel=1e-6)
    assert counted.coats_mm.value == pytest.approx((3 * 1 + 8 * 3) * counted.drop_um.value / 1000)
    assert counted.coats_mm.source == "by your bottle's drops"
    assert "1 drops a thin coat, 3 drops a medium coat" in " ".join(finish_lines(counted, planned.finishing, Units()))
    assert of(plan(tideline, own)).drop_um is None


def test_grits_are_wet_from_p400_on_where_it_is_said(tideline: Job, shop: Shop) -> None:
    mixed = how(tideline, wet="dry to P400, then wet")
    bare = of(plan(mixed, shop)).bare
    assert [is_wet(rung, mixed.finish) for rung in bare] == [rung.abrasive.start_um <= 35 for rung in bare]
    assert not any(is_wet(rung, tideline.finish) for rung in bare)


def test_a_hybrids_wood_is_sealed_before_it_is_coated(tideline: Job, shop: Shop) -> None:
    hybrid = tideline.with_(blank=tideline.blank.with_(steps=(*tideline.blank.steps, SolidStep())))
    for job, is_told in ((hybrid, True), (tideline, False)):
        lines = finish_lines(of(plan(job, shop)), plan(job, shop).finishing, Units())
        assert any("Seal the wood, not the resin" in line for line in lines) == is_told


def test_what_tore_out_before_is_left_more(tideline: Job, shop: Shop) -> None:
    torn = Fault(kind="blow-out", at_mm=20, deep_mm=0.3, moment="turning", way="again")
    job = deeds.add_fault(deeds.add_fault(tideline, torn), torn.with_(deep_mm=0.2))
    finding = next(one for one in plan(job, shop).findings if one.key == "finish.tear_out")
    assert "2 times, up to 0.3 mm deep" in finding.because
    mended = apply_remedy(job, finding.remedies[0])
    assert mended.finish.more_mm == 0.7
    assert "finish.tear_out" not in {one.key for one in plan(mended, shop).findings}
    assert "finish.tear_out" not in {one.key for one in plan(tideline, shop).findings}
    deep = deeds.add_fault(tideline, torn.with_(deep_mm=1.2))
    finding = next(one for one in plan(deep, shop).findings if one.key == "finish.tear_out")
    assert "no allowance covers that" in finding.because
    assert finding.remedies == (), "and no button offers one"
    deep = deeds.add_fault(tideline, torn.with_(deep_mm=1.2))
    finding = next(one for one in plan(deep, shop).findings if one.key == "finish.tear_out")
    assert "no allowance covers that" in finding.because
    assert finding.remedies == (), "and no button offers one"


def test_bushings_wear(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None

    def measured(size: float) -> Job:
        barrels = (tideline.laid[0].with_(bushing_left_mm=size), *tideline.laid[1:])
        return tideline.with_(pen=tideline.pen.with_(barrels=barrels))  # type: ignore[union-attr]

    first, later = readings_now(measured(11.45), date(2026, 3, 1)), readings_now(measured(11.3), date(2026, 11, 1))
    own = shop.with_(bushings=(*later, *first))
    assert wear_lines(tideline, own, Units()) == ("Nib, left: worn by 0.15 mm in 245 days.",)
    assert "finish.wear" in {one.key for one in plan(tideline, own).findings}
    assert wear_lines(tideline, shop.with_(bushings=first), Units()) == ()


def test_sizes_along_an_outline_and_dummy_bushings(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    waist = tideline.laid[0].with_(outline=(OutlinePoint(at=0.4, diameter_mm=10.8),))
    job = tideline.with_(pen=tideline.pen.with_(barrels=(waist, *tideline.laid[1:])))
    size = of(plan(job, shop)).sizes[0]
    at, figure = size.along[0]
    assert at == pytest.approx(0.4 * waist.tube_length_mm)
    assert figure.value - 10.8 == pytest.approx(size.tool_mm[0].value - waist.finished_left_mm)
    assert along_lines((size,), Units())[0].startswith(f"Nib, from its left end: {figure.value:.2f} mm at 19.0 mm")
    assert size.dummy_mm.value == pytest.approx(min(size.tool_mm[0].value, size.tool_mm[2].value) - 1)


@pytest.mark.parametrize("stuff", ["maize-cob", "fibre-board", "own cork"])
def test_fibre_is_held_together_before_its_first_blow_out(tideline: Job, shop: Shop, stuff: str) -> None:
    """Allowance, support, order, length: all of it is said of a fresh blank, and each button takes its note away."""
    own = material("fibre-board").with_(key="own cork", name="My cork")
    blank = tideline.blank.with_(materials=(own,))
    job = deeds.set_steps(tideline.with_(blank=blank), (SolidStep(material=stuff),))
    planned = plan(job, shop)
    assert kind_of_work(job) == "fibre and punky wood"
    assert planned.bore is not None
    assert planned.bore.stuff.key == "fibre"
    assert 6 <= planned.bore.holes[0].exit_wanted_mm <= 10
    keys = {"finish.tear_out", "finish.support", "pen.fragile"}
    told = {one.key: one for one in planned.findings if one.key in keys}
    assert set(told) == keys
    for finding in told.values():
        mended = plan(apply_remedy(job, finding.remedies[0]), shop)
        assert finding.key not in {one.key for one in mended.findings}
    assert planned.finish is not None
    assert planned.units.mm(support_mm(planned.layout.across_mm)) in planned.finish.lathe[0]  # type: ignore[union-attr]
    hard = job.with_(soak=job.soak.with_(route="stabilised"))
    assert not keys & {one.key for one in plan(hard, shop).findings}, "full of resin it is no fibre any more"
    named = plan(deeds.set_value(tideline, ("bore", "stuff"), "fibre"), shop)
    assert named.bore is not None
    assert named.bore.stuff.key == "fibre"
