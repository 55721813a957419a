"""Boring: the advice before the press is switched on, the verdict on what was measured, and what is said of both."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import pytest
from msgspec.structs import replace

from orvek.documents import (
    Bore,
    BoredHole,
    CutStep,
    Hole,
    Job,
    LaminateStep,
    Layer,
    Paint,
    Press,
    RackBit,
    RipStep,
    RoundStep,
    Shop,
    SolidStep,
    first_shop,
)
from orvek.documents.deeds import set_value
from orvek.errors import NothingToDoError
from orvek.planning import Finding, Severity, apply_remedy, plan
from orvek.planning.bore.hole_log import log_entry
from orvek.planning.bore.part import PAINT_MM, BorePlan, HolePlan
from orvek.planning.bore.words import (
    centre_line,
    chances_line,
    from_line,
    pecks_line,
    step_line,
    travels_line,
    tube_lines,
)
from orvek.planning.drift import drift_mm
from orvek.quantities import Units

Change = Callable[[Job], Job]
PRESS = Press(name="Boathouse press", travel_mm=40, slowest_rpm=900)
WOODS = (Layer(material="hard-maple", thickness_mm=4.0), Layer(material="black-walnut", thickness_mm=4.0))


def bored(job: Job, shop: Shop) -> BorePlan:
    found = plan(job, shop).bore
    assert found is not None
    return found


def hole(job: Job, shop: Shop, number: int = 0) -> HolePlan:
    return bored(job, shop).holes[number]


def with_hole(**seen: object) -> Change:
    return lambda job: job.with_(bore=job.bore.with_hole(0, Hole(**seen)))  # type: ignore[arg-type]


def how(**decided: object) -> Change:
    return lambda job: job.with_(bore=job.bore.with_(**decided))


def stepped(*steps: object) -> Change:
    return lambda job: set_value(job, ("blank", "steps"), steps)


def slim(job: Job) -> Job:
    """A bar so thin that the bit is nearly as wide."""
    assert job.pour.mould is not None
    return set_value(job, ("pour", "mould"), job.pour.mould.with_(width_mm=9.2, depth_mm=9.2))


def both(*changes: Change) -> Change:
    def change(job: Job) -> Job:
        for one in changes:
            job = one(job)
        return job

    return change


CASES: list[tuple[str, Severity, Change]] = [
    ("The round bar may spin.", Severity.CAUTION, stepped(SolidStep(), RoundStep(diameter_mm=18))),
    ("The bar is still square.", Severity.NOTE, how(holding="round in a collet")),
    ("To which side do the V's open?", Severity.NOTE, stepped(LaminateStep(strips=WOODS, angle_deg=30), RipStep())),
    ("Nib: the side may break out.", Severity.CAUTION, slim),
    ("Nib: the machine is too fast.", Severity.CAUTION, both(how(press=PRESS), how(stuff="bone"))),
    ("The quill is shorter than the hole.", Severity.NOTE, how(press=PRESS)),
    ("Nib: the pattern may come out off centre.", Severity.NOTE, how(pattern_mm=0.2)),
    ("Nib: a flat stays.", Severity.CAUTION, with_hole(left_x_mm=0, right_x_mm=5)),
    ("Nib: crooked but fine.", Severity.NOTE, with_hole(left_x_mm=0.1, right_x_mm=0.9)),
    ("Nib: the tube will not go in.", Severity.CAUTION, with_hole(measured_mm=8.0)),
    ("Nib: the tube is loose.", Severity.CAUTION, both(with_hole(measured_mm=8.9), how(glue="medium cyanoacrylate"))),
    ("Nib: the glue may not fill the gap.", Severity.CAUTION, how(glue="thin cyanoacrylate")),
    ("This glue lets go of the tube.", Severity.CAUTION, how(glue="white wood glue")),
    ("The glue will foam into the tubes.", Severity.CAUTION, how(glue="polyurethane", is_plugged=False)),
    ("Nib: the tube will show.", Severity.CAUTION, with_hole(light="much")),
    ("Nib: the chip comes off in squaring.", Severity.NOTE, with_hole(chip_mm=1.0)),
    ("Nib: a chip reaches past the trim.", Severity.CAUTION, with_hole(chip_mm=4.0)),
]


def told(job: Job, shop: Shop, title: str) -> Finding | None:
    return next((one for one in plan(job, shop).findings if one.title == title), None)


@pytest.mark.parametrize(("title", "severity", "change"), CASES, ids=[case[0] for case in CASES])
def test_it_is_said_and_its_remedies_take_it_away(
    title: str, severity: Severity, change: Change, tideline: Job, shop: Shop
) -> None:
    assert told(tideline, shop, title) is None
    job = change(tideline)
    finding = told(job, shop, title)
    assert finding is not None
    assert finding.severity is severity
    for remedy in finding.remedies:
        assert told(apply_remedy(job, remedy), shop, title) is None, remedy.label


def test_a_bit_as_wide_as_the_bar_is_a_stop(tideline: Job, shop: Shop) -> None:
    job = set_value(slim(tideline), ("pen", "barrels", 0, "bit_diameter_mm"), 9.4)
    finding = told(job, shop, "Nib: the bit is as wide as the bar.")
    assert finding is not None
    assert finding.severity is Severity.STOP


def test_nothing_is_judged_by_a_machine_that_nobody_described(tideline: Job, shop: Shop) -> None:
    job = set_value(tideline, ("pen", "barrels", 0, "tube_length_mm"), 90.0)
    assert told(job, shop, "The quill is shorter than the hole.") is None
    assert "Describe your machine" in travels_line(hole(job, shop), bored(job, shop), Units())
    own = shop.with_(presses=(PRESS,))
    assert told(job, own, "The quill is shorter than the hole.") is not None
    assert hole(job, own).stages_mm == (35.0, 70.0, 93.0)
    assert "at 35.0 mm, 70.0 mm stop" in travels_line(hole(job, own), bored(job, own), Units())


def test_the_bit_comes_out_where_there_is_bar_to_spare(tideline: Job, shop: Shop) -> None:
    nib, cap = bored(tideline, shop).holes
    assert (nib.from_left, cap.from_left) == (False, True), "the two barrels lie beside each other in the middle"
    assert "spare beyond its left end" in nib.because
    line = from_line(nib)
    assert line.startswith("From the right: ")
    laid = plan(tideline, shop).layout
    assert laid is not None
    assert [round(place.exit_mm, 6) for place in laid.tubes] == [1.5, 1.5], "the strip saws it"
    assert laid.tubes[0].piece.start_mm == pytest.approx(laid.tubes[0].tube.start_mm - 1.5 - 1.5)
    chosen = tideline.with_(bore=tideline.bore.with_hole(0, Hole(from_end="left")))
    assert hole(chosen, shop).because == "as you chose"
    open_left = tideline.with_(bore=Bore(v_opens="to the left"))
    assert all(one.from_left for one in bored(open_left, shop).holes)


def test_pecks_add_up_to_the_hole_and_are_never_longer_than_the_material_bears(tideline: Job, shop: Shop) -> None:
    for key, most in (("resin", 10), ("wood", 20), ("polyester", 8)):
        job = tideline.with_(bore=Bore(stuff=key))
        found, planned = hole(job, shop), bored(job, shop)
        depths = (0.0, *found.pecks_mm)
        steps = [after - before for before, after in pairwise(depths)]
        assert found.pecks_mm[-1] == found.depth_mm.value
        assert max(steps[1:]) <= most + 1e-9
        line = pecks_line(found, planned, Units())
        assert ("let it cool" in line) == (planned.stuff.cool_s > 0)
        assert ("pilot" in line) == planned.stuff.is_brittle


def test_what_it_is_bored_as_follows_from_the_steps(tideline: Job, shop: Shop) -> None:
    assert bored(tideline, shop).stuff.key == "resin"
    polyester = next(resin for resin in first_shop().resins if "polyester" in resin.family)
    assert bored(set_value(tideline, ("pour", "resin"), polyester), shop).stuff.key == "polyester"
    assert bored(stepped(SolidStep())(tideline), shop).stuff.key == "wood"
    assert bored(stepped(SolidStep(), CutStep())(tideline), shop).stuff.key == "laminate"
    assert bored(how(stuff="bone")(tideline), shop).stuff.key == "bone"


def test_the_shops_own_holes_replace_the_guess(tideline: Job, shop: Shop) -> None:
    crooked = tuple(
        BoredHole(bit_mm=8.3, depth_mm=50, off_mm=off, torn_mm=torn, stuff="resin")
        for off, torn in ((1.1, 2.0), (0.9, 3.5), (1.4, 1.0), (1.2, 2.5), (1.0, 2.2), (1.3, 4.0))
    )
    logged = shop.with_(bored=crooked)
    before, after = hole(tideline, shop), hole(tideline, logged)
    assert after.scatter_mm.value > 1.8 * before.scatter_mm.value
    assert after.shift_pct.value > before.shift_pct.value + 10
    assert "your log of 6 holes" in after.scatter_mm.source
    assert chances_line(bored(tideline, shop), Units()).startswith("A guess")
    assert "6 of your own holes: they scatter by 0.82 mm" in chances_line(bored(tideline, logged), Units())
    assert after.saw_mm.value - after.depth_mm.value == pytest.approx(4.0), "the worst of twenty tear-outs"
    assert before.saw_mm.value - before.depth_mm.value == pytest.approx(1.5)
    assert drift_mm(logged) > 1.8 * drift_mm(shop), "and the other stations learn it too"
    assert drift_mm(shop) == pytest.approx(2 * (0.15**2 + 0.2**2) ** 0.5)


def test_the_bit_of_the_rack_is_taken_with_the_hole_it_bores(tideline: Job, shop: Shop) -> None:
    rack = (RackBit(name="Old eight", size_mm=8.3, bores_mm=8.32, flutes_mm=40), RackBit(name="Nine", size_mm=9.5))
    racked = shop.with_(rack=rack)
    found = hole(tideline, racked)
    assert found.bit is not None
    assert found.bit.name == "Old eight"
    assert found.tube is not None
    assert found.tube.gap_mm.value == pytest.approx(8.32 - 8.15)
    assert told(tideline, racked, "Nib: the flutes are too short.") is not None
    other = shop.with_(rack=(RackBit(name="Eight two five", size_mm=8.25),))
    missing = told(tideline, other, "Nib: no such bit in your rack.")
    assert missing is not None
    assert [one.label for one in missing.remedies] == ["Drill with Eight two five, 8.25 mm"]
    assert hole(apply_remedy(tideline, missing.remedies[0]), other).bit is not None
    measured = tideline.with_(bore=tideline.bore.with_hole(0, Hole(measured_mm=8.4)))
    assert hole(measured, racked).bored_mm == 8.4, "what was measured goes before what the shank says"


def test_paint_takes_room_round_the_tube(tideline: Job, shop: Shop) -> None:
    painted = set_value(tideline, ("blank", "paints"), (Paint(where="hole"),))
    bare, coated = hole(tideline, shop).tube, hole(painted, shop).tube
    assert bare is not None
    assert coated is not None
    assert bare.gap_mm.value - coated.gap_mm.value == pytest.approx(2 * 2 * PAINT_MM)
    assert coated.glue_ml.value < 0.2 * bare.glue_ml.value, "the glue fills what the paint leaves"


def test_paint_that_leaves_no_room_is_told_before_the_glue(tideline: Job, shop: Shop) -> None:
    """Tube 8.15 in a hole of 8.35: two coats leave 0.02 mm."""
    job = on_pen(tube_diameter_mm=8.15, bit_diameter_mm=8.35)(tideline)
    assert "will hardly go in" not in " ".join(one.title for one in plan(job, shop).findings)
    for where in ("hole", "tube"):
        painted = set_value(job, ("blank", "paints"), (Paint(where=where),))  # type: ignore[arg-type]
        assert hole(painted, shop).tube.gap_mm.value == pytest.approx(0.02)  # type: ignore[union-attr]
        (finding,) = (one for one in plan(painted, shop).findings if "will hardly go in" in one.title)
        assert finding.severity is Severity.CAUTION
        assert len(finding.remedies) == 2
        for remedy in finding.remedies:
            mended = apply_remedy(painted, remedy)
            assert "will hardly go in" not in " ".join(one.title for one in plan(mended, shop).findings), remedy.label


def test_two_measured_ends_say_to_which_size_it_cleans_up(tideline: Job, shop: Shop) -> None:
    off = Hole(left_x_mm=0.5, left_y_mm=-1.0, right_x_mm=3.9, right_y_mm=0.2)
    crooked = tideline.with_(bore=tideline.bore.with_hole(0, off))
    assert hole(crooked, shop).cleans_to_mm == pytest.approx(20 - 2 * 3.9)
    rounded = set_value(crooked, ("blank", "steps"), (SolidStep(), RoundStep(diameter_mm=19)))
    assert hole(rounded, shop).cleans_to_mm == pytest.approx(19 - 2 * (3.9**2 + 0.2**2) ** 0.5)
    assert hole(tideline, shop).cleans_to_mm is None
    half = tideline.with_(bore=tideline.bore.with_hole(0, Hole(left_x_mm=0.5)))
    assert hole(half, shop).cleans_to_mm is None, "one end says nothing of the other"


def test_a_machine_that_nobody_described_does_not_make_the_bit_faster(tideline: Job, shop: Shop) -> None:
    wide = set_value(tideline, ("pen", "barrels", 0, "bit_diameter_mm"), 18.0)
    assert hole(wide, shop).turns_min.value == 330, "18.5 m/min"
    assert hole(wide, shop).turns_min.written() == "330 rpm"
    assert hole(how(press=PRESS)(wide), shop).turns_min.value == 900, "its own goes no slower, and a finding says so"


def test_a_glue_that_nobody_knows_is_said(tideline: Job, shop: Shop) -> None:
    finding = told(how(glue="hide glue")(tideline), shop, "“hide glue” is not on your glue shelf.")
    assert finding is not None
    assert told(apply_remedy(tideline, finding.remedies[0]), shop, finding.title) is None


def test_a_hole_that_nobody_measured_is_not_logged_as_straight(tideline: Job, shop: Shop) -> None:
    with pytest.raises(NothingToDoError, match="at both ends"):
        log_entry(plan(tideline, shop), 0)
    seen = with_hole(left_x_mm=0.3, left_y_mm=0.4, right_x_mm=0.0)(tideline)
    assert log_entry(plan(seen, shop), 0).off_mm == 0.5, "bored from the right, it came out at the left"


def test_turned_about_its_own_axis_the_wall_is_what_may_go(tideline: Job, shop: Shop) -> None:
    about = tideline.with_(bore=Bore(turned="on the bar's own axis"))
    found = hole(about, shop)
    assert found.flat_pct.label == "Chance of a thin wall"
    assert found.flat_pct.value > hole(tideline, shop).flat_pct.value


def test_what_the_light_showed_goes_before_what_was_calculated(tideline: Job, shop: Shop) -> None:
    def said(job: Job) -> list[str]:
        return [one.title for one in plan(job, shop).findings if "may show" in one.title or "will show" in one.title]

    assert said(tideline) == ["The tube may show at 4 of 4 ends."]
    both_seen = tideline.with_(bore=Bore(holes=(Hole(light="much"), Hole(light="a little"))))
    assert sorted(said(both_seen)) == ["Cap: the tube will show.", "Nib: the tube will show."], "told once"
    one_seen = with_hole(light="much")(tideline)
    assert "The tube may show at 2 of 4 ends." in said(one_seen)


def test_a_pen_says_whether_its_barrel_may_become_shorter(tideline: Job, shop: Shop) -> None:
    chipped = with_hole(chip_mm=2.0, chip_at="where it goes in")(tideline)  # 2.2 mm off, 1.5 of it trim
    assert told(with_hole(chip_mm=2.0)(tideline), shop, "Nib: the chip comes off in squaring.") is not None

    def because(play_mm: float | None) -> str:
        job = set_value(chipped, ("pen", "barrels", 0, "play_mm"), play_mm)
        finding = told(job, shop, "Nib: a chip reaches past the trim.")
        assert finding is not None
        return finding.because

    assert "See how much shorter" in because(None)
    assert "shorten both ends by 0.7 mm" in because(1.9)
    assert "fill the chip" in because(1.8)


def test_without_a_pen_there_is_nothing_to_bore() -> None:
    assert plan(Job(), first_shop()).bore is None


def test_the_tube_is_glued_in_step_by_step(tideline: Job, shop: Shop) -> None:
    planned = bored(tideline, shop)
    told_ = tube_lines(planned, Bore(squared="in a sanding jig"), Units())
    assert any("Plug the end" in line for line in told_)
    assert "sanding jig" in told_[-1]
    assert not any("Plug" in line for line in tube_lines(planned, Bore(is_plugged=False), Units()))
    assert any("Nib 0.09 ml, Cap 0.06 ml" in line for line in told_)


# -- what few pens need, and what a hole may have besides -------------------------------------------------------


def on_pen(**changed: object) -> Change:
    """The nib with other fields."""
    return lambda job: set_value(job, ("pen", "barrels", 0), job.pen.barrels[0].with_(**changed))  # type: ignore[union-attr]


@pytest.mark.parametrize(("tip", "part"), [("twist", 0.30), ("brad point", 0.1), ("bullet", 0.25)])
def test_the_point_of_the_bit_goes_on_until_the_hole_is_full_width(
    tideline: Job, shop: Shop, tip: str, part: float
) -> None:
    bit = tideline.pen.barrels[0].bit_diameter_mm  # type: ignore[union-attr]
    without = hole(tideline, shop.with_(rack=())).depth_mm.value
    own = shop.with_(rack=(RackBit(name="Mine", size_mm=bit, tip=tip),))
    assert hole(tideline, own).depth_mm.value == pytest.approx(without + part * bit)
    stops = on_pen(hole_depth_mm=20.0)(tideline)
    deeper = hole(stops, own).depth_mm.value - hole(stops, shop.with_(rack=())).depth_mm.value
    assert deeper == pytest.approx(part * bit)


def test_a_barrel_without_a_tube_has_no_glue_and_nothing_shows_through(tideline: Job, shop: Shop) -> None:
    bare = on_pen(inside="no tube", bit_diameter_mm=6.0)(tideline)
    found = plan(bare, shop)
    assert hole(bare, shop).tube is None
    assert hole(bare, shop).square_to_mm.label == "Square it to"
    assert {view.barrel for view in found.colour} == {1}
    assert not any("Nib" in one.title and ("tube" in one.title or "glue" in one.title) for one in found.findings)
    both_bare = set_value(bare, ("pen", "barrels", 1, "inside"), "no tube")
    lines = tube_lines(bored(both_bare, shop), Bore(), Units())
    assert lines[0] == "Nothing is glued in: the holes stay bare."
    assert "brass" not in lines[-1]


def test_a_hole_that_stops_is_bored_to_its_depth_and_tears_nothing_out(tideline: Job, shop: Shop) -> None:
    pinned = on_pen(inside="a pin", tube_diameter_mm=4.0, bit_diameter_mm=4.1, hole_depth_mm=9, hole_end="right")(
        tideline
    )
    found, laid = hole(pinned, shop), plan(pinned, shop).layout
    assert laid is not None
    assert (found.depth_mm.value, found.from_left, laid.tubes[0].exit_mm) == (10.5, False, 0)
    assert laid.tubes[0].glued is not None
    assert laid.tubes[0].glued.length_mm == pytest.approx(9)
    assert found.tube is not None
    assert found.tube.glue_ml.value == pytest.approx(3.14159 / 4 * (4.1**2 - 4.0**2) * 9 / 1000, rel=1e-4)
    assert "does not go through" in pecks_line(found, bored(pinned, shop), Units())


def test_a_stepped_hole_says_what_wall_is_left_beside_it(tideline: Job, shop: Shop) -> None:
    stepped_up = on_pen(wide_bit_mm=10.2, wide_depth_mm=9.5, wide_end="left", set_back_mm=9.5)(tideline)
    found = hole(stepped_up, shop)
    assert found.wide is not None
    assert found.tube is not None
    assert found.tube.cut_mm is not None
    assert found.wide.depth_mm.value == 12.5, "from the face as it is then, the exit of the small bit included"
    assert found.wide.wall_mm.value == pytest.approx((11.4 - 10.2) / 2), "the slimmest beside it is its very end"
    assert found.tube.cut_mm.value == 38.0
    assert "step it up with 10.20 mm to 12.5 mm from the left" in step_line(found, Units())
    thin = told(stepped_up, shop, "The nib wall is thin.")
    assert thin is not None
    assert "step at the left" in thin.because
    racked = shop.with_(rack=(RackBit(name="Eight three", size_mm=8.3),))
    assert told(stepped_up, racked, "Nib: no bit for the step in your rack.") is not None


def test_from_both_ends_each_hole_is_half_as_deep_and_they_meet_with_a_step(tideline: Job, shop: Shop) -> None:
    long = set_value(tideline, ("pen", "barrels", 0, "tube_length_mm"), 60.0)
    twice = long.with_(bore=long.bore.with_hole(0, Hole(from_end="both ends")))
    one, two = hole(long, shop), hole(twice, shop)
    assert two.pecks_mm[-1] == pytest.approx(one.depth_mm.value / 2 + 2)
    assert two.scatter_mm.value < one.scatter_mm.value
    assert two.shift_pct.value <= one.shift_pct.value
    assert two.meets_mm is not None
    finding = told(twice, shop, "Nib: ream it where the two holes meet.")
    assert finding is not None
    assert told(apply_remedy(twice, finding.remedies[0]), shop, finding.title) is None


def test_a_hole_aimed_at_the_pattern_leaves_it_centred_and_has_less_room(tideline: Job, shop: Shop) -> None:
    seen = Hole(pattern_left_x_mm=1.5, pattern_right_x_mm=-1.2)
    outside = tideline.with_(bore=Bore(holes=(seen,)))
    inside = tideline.with_(bore=Bore(centred="on the pattern", holes=(seen,)))
    plain = hole(tideline, shop)
    assert hole(outside, shop).shift_pct.value > 60 > 1 > plain.shift_pct.value, "off by more than is accepted"
    assert hole(inside, shop).shift_pct.value == pytest.approx(plain.shift_pct.value)
    narrow = set_value(inside, ("blank", "steps"), (RoundStep(diameter_mm=14.6),))
    straight = narrow.with_(bore=narrow.bore.with_(centred="on the outside"))
    assert hole(narrow, shop).flat_pct.value > 50 > hole(straight, shop).flat_pct.value
    assert "left end 1.5 mm right, 0.0 mm up" in centre_line(hole(inside, shop), inside.bore, Units())
    unmeasured = told(tideline.with_(bore=Bore(centred="on the pattern")), shop, "Where is the middle of the pattern?")
    assert unmeasured is not None
    # Bored straight down the bar's middle it is straight, and lies off the pattern.
    bored_true = seen.with_(left_x_mm=0, right_x_mm=0)
    job = tideline.with_(bore=Bore(holes=(bored_true,)))
    fine = told(job, shop, "Nib: the pattern may be off centre.")
    assert fine is not None
    assert fine.severity is Severity.CAUTION, "1.5 mm off where 1.0 is accepted is not fine"
    accepted = apply_remedy(job, fine.remedies[0])
    assert told(accepted, shop, "Nib: crooked but fine.") is not None
    assert told(accepted, shop, "Nib: the pattern may be off centre.") is None


def test_the_light_test_says_how_strong_the_colour_is_at_every_barrel(tideline: Job, shop: Shop) -> None:
    def ratio(job: Job) -> float:
        views = [view for view in plan(job, shop).colour if (view.barrel, view.cup) == (1, "Foam")]
        return min(view.ratio for view in views)

    dark = with_hole(light="none", light_colour="Foam")(tideline)
    bright = with_hole(light="much", light_colour="Foam")(tideline)
    other = with_hole(light="much", light_colour="Slack water")(tideline)
    assert ratio(bright) < ratio(tideline) <= ratio(dark), "tested at the nib, told of the cap"
    assert ratio(other) == ratio(tideline)
    finding = told(bright, shop, "The tube may show at 2 of 4 ends.")
    assert finding is not None
    assert "times the strength, by your light test" in finding.because


def test_an_old_tube_is_measured_and_its_size_counts(tideline: Job, shop: Shop) -> None:
    old = with_hole(tube="reclaimed")(tideline)
    assert told(old, shop, "Nib: measure the old tube.") is not None
    assert any("extraction" in one.words for one in plan(old, shop).cautions)
    assert "warm it until the glue lets go" in tube_lines(bored(old, shop), Bore(), Units())[0]
    measured = with_hole(tube="reclaimed", tube_mm=8.33)(tideline)
    assert told(measured, shop, "Nib: measure the old tube.") is None
    assert told(measured, shop, "Nib: the tube will not go in.") is not None


def test_the_wait_follows_the_shops_warmth_but_not_for_what_sets_by_moisture(tideline: Job, shop: Shop) -> None:
    cold = set_value(tideline, ("batch", "shop_temperature_c"), 10.0)
    assert bored(cold, shop).wait_min.value == 960
    quick = how(glue="medium cyanoacrylate")(cold)
    assert bored(quick, shop).wait_min.value == 1


def test_a_fixed_v_centres_only_the_bar_it_was_set_for(tideline: Job, shop: Shop) -> None:
    finding = told(how(holding="square in a fixed V")(tideline), shop, "Centre the bit for every bar.")
    assert finding is not None
    assert "0.35 mm off" in finding.because


def test_chances_that_are_worth_nothing_are_one_with_its_sum(tideline: Job, shop: Shop) -> None:
    bore = plan(tideline, shop).bore
    assert bore is not None
    hole = bore.holes[0]
    (alone,) = hole.chances
    assert alone.value == pytest.approx(hole.flat_pct.value + hole.side_pct.value + hole.shift_pct.value)
    assert alone.value < 1
    assert [term.value for term in alone.terms] == [hole.flat_pct.value, hole.side_pct.value, hole.shift_pct.value]
    likely = replace(hole, side_pct=replace(hole.side_pct, value=0.7), flat_pct=replace(hole.flat_pct, value=0.4))
    assert likely.chances == (likely.flat_pct, likely.side_pct, likely.shift_pct), "together it is worth telling"
