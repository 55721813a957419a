"""What now: every way out of a fault with its sizes, for every kind, at any place; and the decision."""

from __future__ import annotations

import itertools
import math
import typing

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orvek.craft.boring_plan import both_cuts
from orvek.craft.faults import covered_deg, fault_kinds
from orvek.documents import Fault, Job, PlugStep, Shop, Sized, deeds, from_text, to_text
from orvek.errors import BadFieldError
from orvek.planning import apply_remedy, plan
from orvek.planning.faults.results import FaultPlan, WayOut
from orvek.planning.faults.together import chance_of, fits_together
from orvek.planning.faults.words import fault_lines, in_short
from orvek.planning.findings import Remedy
from orvek.planning.parked import parked_lines
from orvek.quantities import Units
from orvek.store import demo_job, demo_shop

CHIP = Fault(kind="chip at an end", at_mm=0.6, long_mm=1.2, wide_mm=2, deep_mm=0.7, moment="sanding")
PIT = Fault(kind="blow-out", at_mm=25, long_mm=4, wide_mm=2, deep_mm=0.4, moment="sanding", azimuth_deg=75)


def fault_plan(job: Job, shop: Shop, fault: Fault) -> FaultPlan:
    found = plan(deeds.add_fault(job, fault), shop).faults
    assert found is not None
    return found.found[-1]


def way(one: FaultPlan, key: str) -> WayOut:
    return next(there for there in one.ways if there.key == key)


def lasting(job: Job, play_mm: float | None) -> Job:
    assert job.pen is not None
    barrels = tuple(barrel.with_(play_mm=play_mm) for barrel in job.pen.barrels)
    return job.with_(pen=job.pen.with_(barrels=barrels))


def test_a_chipped_barrel_has_three_ways_and_what_each_costs(tideline: Job, shop: Shop) -> None:
    one = fault_plan(lasting(tideline, 4), shop, CHIP.with_(piece="found"))
    assert [there.key for there in one.open_ways[:3]] == ["shorten", "reglue", "fill"]
    for there in one.open_ways[:3]:
        assert there.lines
        assert in_short(there, Units()).startswith("about ")
    assert "1.4 mm off both ends" in way(one, "shorten").lines[0]
    told = [finding for finding in plan(deeds.add_fault(tideline, CHIP), shop).findings if "chip" in finding.title]
    assert len(told[0].remedies) == 3


@pytest.mark.parametrize(("play_mm", "word"), [(None, "not known"), (4, "both ends"), (2.2, "alone"), (1, "lets the")])
def test_ends_are_shortened_as_far_as_the_pen_allows(
    tideline: Job, shop: Shop, play_mm: float | None, word: str
) -> None:
    there = way(fault_plan(lasting(tideline, play_mm), shop, CHIP), "shorten")
    assert word in there.lines[0]
    assert there.can == (word in {"both ends", "alone"})


def test_two_decided_shortenings_are_added_up(tideline: Job, shop: Shop) -> None:
    """2.8 mm at one end and 2.6 at the other are more than 5.0 of play, less the 0.5 that is kept."""
    job = lasting(tideline, 5.0)
    long = job.laid[0].tube_length_mm
    left = CHIP.with_(at_mm=1.3, long_mm=2.6, way="shorten")
    right = CHIP.with_(at_mm=long - 1.2, long_mm=2.4, way="shorten")
    alone = plan(deeds.add_fault(job, left), shop)
    assert alone.faults is not None
    assert way(alone.faults.found[0], "shorten").can
    both = plan(deeds.add_fault(deeds.add_fault(job, left), right), shop)
    assert both.faults is not None
    for one in both.faults.found:
        assert not way(one, "shorten").can
        assert "5.4 mm" in way(one, "shorten").lines[0]
    stuck = [one for one in both.findings if one.key == "faults.no_longer"]
    assert len(stuck) == 2
    mended = plan(apply_remedy(both.job, stuck[1].remedies[0]), shop)
    assert "faults.no_longer" not in {one.key for one in mended.findings}
    with_play = plan(lasting(both.job, 6.0), shop)
    assert with_play.faults is not None
    assert all("2.8 mm off the left end and 2.6 mm off the right" in way(one, "shorten").lines[0]
               for one in with_play.faults.found)  # fmt: skip


def test_a_fill_that_is_to_be_seen_is_drawn_as_what_it_is(tideline: Job, shop: Shop) -> None:
    own, shell = (fault_plan(tideline, shop, PIT.with_(fill=fill)) for fill in (PIT.fill, "crushed shell"))
    drawn = [way(one, "fill").look[0].value[-1] for one in (own, shell)]
    assert [pit.material for pit in drawn] == ["dark-glue", "white-composite"]
    assert "crushed shell" in way(shell, "fill").title
    assert any("crushed shell" in line for line in way(shell, "fill").lines)
    assert apply_remedy(tideline, Remedy("", way(shell, "fill").look)).blank.steps[-1] == drawn[1]


def test_what_was_put_aside_is_offered_when_an_hour_is_free_for_it(tideline: Job, shop: Shop) -> None:
    open_ones = plan(deeds.add_fault(tideline, PIT), shop)
    aside = plan(deeds.add_fault(tideline, PIT.with_(parked="no shell in the house")), shop)
    assert aside.faults is not None
    takes = aside.faults.found[0].open_ways[0].hands_min.value
    assert not parked_lines((open_ones,), 600)
    assert len(parked_lines((open_ones, aside), takes)) == 1
    least = min(way.hands_min.value for way in aside.faults.found[0].open_ways)
    assert not parked_lines((aside,), least - 0.1)
    decided = plan(deeds.set_fault(aside.job, 0, aside.job.faults.found[0].with_(way="fill")), shop)
    assert not parked_lines((decided,), 600)


def test_two_chips_at_one_end_take_one_cut(tideline: Job, shop: Shop) -> None:
    job = lasting(tideline, 5.0)
    first = CHIP.with_(at_mm=1.3, long_mm=2.6, way="shorten")
    job = deeds.add_fault(
        deeds.add_fault(job, first), CHIP.with_(at_mm=1.0, long_mm=2.0, azimuth_deg=90, way="shorten")
    )
    found = plan(job, shop).faults
    assert found is not None
    for one in found.found:
        assert way(one, "shorten").title.endswith("at the left by 2.8 mm")
        assert "clears all 2 flaws" in way(one, "shorten").lines[0]
    other_blank = plan(deeds.add_fault(job, first.with_(blank_no=2, at_mm=40.0)), shop).faults
    assert other_blank is not None
    assert "clears all" not in " ".join(way(other_blank.found[-1], "shorten").lines)


def test_what_is_still_to_come_off_is_not_mended(tideline: Job, shop: Shop) -> None:
    rough = tideline.with_(finish=tideline.finish.with_sized(0, Sized(now_middle_mm=16)))
    one = fault_plan(rough, shop, PIT)
    assert (one.is_measured, one.ways[0].key) == (True, "turn on")
    assert not any(way(one, key).can for key in ("fill", "slimmer", "recast"))
    deeper = fault_plan(rough, shop, PIT.with_(deep_mm=4))
    assert not way(deeper, "turn on").can
    assert way(deeper, "fill").can


def test_a_waist_keeps_its_wall(tideline: Job, shop: Shop) -> None:
    there = way(fault_plan(tideline, shop, PIT), "slimmer")
    assert there.can
    assert "wall is left" in there.lines[0]
    assert not way(fault_plan(tideline, shop, PIT.with_(deep_mm=1.9)), "slimmer").can


@pytest.mark.parametrize(("wide_mm", "at_mm", "can"), [(2, 30, True), (2, 3, False), (7, 30, False)])
def test_the_clip_hides_what_is_as_narrow_and_as_near(
    tideline: Job, shop: Shop, wide_mm: float, at_mm: float, can: bool
) -> None:
    last = len(tideline.laid) - 1
    narrow = tideline.with_(finish=tideline.finish.with_(clip_long_mm=30))
    assert way(fault_plan(narrow, shop, PIT.with_(barrel=last, at_mm=at_mm, wide_mm=wide_mm)), "hide").can == can
    assert not way(fault_plan(narrow, shop, PIT.with_(barrel=0)), "hide").can
    assert covered_deg(4, 13.2) == pytest.approx(35, abs=0.5)


def test_another_pen_of_the_shelf_takes_what_is_left(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    first = tideline.pen.barrels[0]
    short = first.with_(tube_length_mm=first.tube_length_mm - 12, finished_left_mm=first.finished_left_mm - 0.5)
    smaller = tideline.pen.with_(name="Wren", barrels=(short,))
    one = fault_plan(tideline, shop.with_(pens=(*shop.pens, smaller)), PIT.with_(at_mm=3))
    there = way(one, "another pen")
    assert "Wren" in there.title
    looked = apply_remedy(tideline, Remedy("", there.look))
    assert looked.pen is not None
    assert looked.pen.barrels == (short,)
    assert not way(fault_plan(tideline, shop, PIT.with_(at_mm=3)), "another pen").can


def test_causes_that_were_seen_come_first(tideline: Job, shop: Shop) -> None:
    one = fault_plan(tideline, shop, PIT.with_(looks=("a hump where materials change",)))
    assert one.causes[0][1]
    assert "hardness" in one.causes[0][0].words
    assert not any(seen for _, seen in fault_plan(tideline, shop, PIT).causes)


def test_a_decision_stays_with_the_job_and_ends_the_question(tideline: Job, shop: Shop) -> None:
    job = deeds.add_fault(tideline, PIT)
    finding = next(one for one in plan(job, shop).findings if one.key == "faults.undecided")
    decided = apply_remedy(job, finding.remedies[0])
    after = plan(decided, shop)
    assert "faults.undecided" not in {one.key for one in after.findings}
    assert from_text(to_text(decided)) == decided
    assert after.faults is not None
    lines = fault_lines(after.faults.found[0], Units())
    assert "blow-out" in lines[0]
    assert len(lines) > 1


def test_a_flaw_beside_the_barrel_is_said(tideline: Job, shop: Shop) -> None:
    for fault in (PIT.with_(at_mm=290), PIT.with_(barrel=3)):
        job = deeds.add_fault(tideline, fault)
        finding = next(one for one in plan(job, shop).findings if one.key == "faults.outside")
        mended = plan(apply_remedy(job, finding.remedies[0]), shop)
        assert "faults.outside" not in {one.key for one in mended.findings}


def test_a_job_keeps_sixty_faults(tideline: Job) -> None:
    full = tideline.with_(faults=tideline.faults.with_(found=(PIT,) * 60))
    with pytest.raises(BadFieldError):
        deeds.add_fault(full, PIT)
    assert len(deeds.remove_fault(full, 3).faults.found) == 59


@given(
    fault=st.builds(
        Fault,
        kind=st.sampled_from([kind.key for kind in fault_kinds()]) | st.just("something else"),
        barrel=st.integers(0, 3),
        at_mm=st.floats(0, 300),
        azimuth_deg=st.floats(-360, 360),
        long_mm=st.floats(0.1, 300),
        wide_mm=st.floats(0.1, 100),
        deep_mm=st.floats(0.05, 50),
        moment=st.sampled_from(typing.get_args(Fault.model_fields["moment"].annotation)),
        piece=st.sampled_from(["lost", "found"]),
    )
)
def test_any_fault_anywhere_is_answered(fault: Fault) -> None:
    planned = plan(deeds.add_fault(demo_job(), fault), demo_shop())
    assert planned.faults is not None
    assert not planned.failed
    for one in planned.faults.found:
        assert one.still_mm.value >= 0
        assert one.wall_mm.value >= 0
        assert [there.can for there in one.ways] == sorted((there.can for there in one.ways), reverse=True)
        for there in one.ways:
            assert there.lines
            assert 0 <= there.chance_pct.value <= 100
            assert math.isfinite(there.hands_min.value + there.wait_h.value)
            apply_remedy(planned.job, Remedy("", there.look))
        pits = apply_remedy(planned.job, Remedy("", one.as_it_is)).blank.steps
        assert not one.as_it_is or isinstance(pits[-1], PlugStep)


def test_a_ring_is_as_wide_as_the_flaw_is_from_the_end_and_a_little_more(tideline: Job, shop: Shop) -> None:
    one = fault_plan(tideline, shop, CHIP.with_(kind="cracked on pressing", at_mm=2.0))
    ring = way(one, "ring")
    assert ring.can
    assert "3.1 mm wide" in ring.lines[0], "1.4 mm to the flaw, 1.2 mm of it, half a millimetre beyond"


def test_casting_round_it_again_costs_what_the_resin_round_it_costs(tideline: Job, shop: Shop) -> None:
    """The bar's section less the barrel that stands in it, by the resin's own density and price; no resin, no price."""
    resin = tideline.pour.resin
    assert resin is not None
    priced = tideline.with_(pour=tideline.pour.with_(resin=resin.with_(price_per_kg={"value": 30.0})))
    made = plan(deeds.add_fault(priced, PIT), shop)
    assert made.layout is not None
    assert made.faults is not None
    again = way(made.faults.found[-1], "recast")
    (width, depth, _), barrel = made.layout.raw, priced.laid[0]
    outer = width * depth * (barrel.tube_length_mm + 2 * barrel.trim_mm) / 1000 * resin.density_mix.value / 1000 * 30
    assert again.cost is not None
    assert 0.6 * outer < again.cost.value < 0.8 * outer, "a barrel takes a quarter of its bar or more"
    bare = tideline.with_(pour=tideline.pour.with_(resin=None))
    without = way(fault_plan(bare, shop, PIT), "recast")
    assert (without.can, without.cost) == (True, None)


def with_flaws(job: Job, *faults: Fault) -> Job:
    for one in faults:
        job = deeds.add_fault(job, one)
    return job


_AT_ENDS = st.lists(
    st.tuples(st.booleans(), st.floats(0.3, 2.5), st.floats(0, 359), st.floats(0.5, 3)), min_size=2, max_size=4
)


@settings(max_examples=15)  # each plans the job and searches every combination
@given(_AT_ENDS, st.sampled_from([None, 2.0, 3.5, 6.0]))
def test_the_set_of_repairs_is_the_best_of_all(
    flaws: list[tuple[bool, float, float, float]], play_mm: float | None
) -> None:
    """Against a search of every combination: likeliest first, then least time; both cuts within what the pen allows."""
    job, shop = lasting(demo_job(), play_mm), demo_shop()
    barrel, number = job.laid[-1], len(job.laid) - 1
    made = tuple(
        CHIP.with_(
            barrel=number,
            at_mm=long / 2 if is_left else barrel.tube_length_mm - long / 2,
            long_mm=long,
            azimuth_deg=turn,
            wide_mm=wide,
        )
        for is_left, long, turn, wide in flaws
    )
    found = plan(with_flaws(job, *made), shop).faults
    assert found is not None
    options = [
        [way for way in one.ways if way.key in {"shorten", "reglue", "fill", "hide", "slimmer"}] for one in found.found
    ]
    best = 0.0
    for picks in itertools.product(*options):
        if any(not way.can for way in picks if way.key != "shorten"):
            continue
        if fits_together(plan(with_flaws(job, *made), shop), found.found, picks):
            left = sum(long > 0 and way.key == "shorten" for way, (_, long, _, _) in zip(picks, flaws, strict=True))
            cuts = both_cuts(
                play_mm or 0.0,
                0.5,
                [
                    long + 0.2
                    for way, (is_left, long, _, _) in zip(picks, flaws, strict=True)
                    if way.key == "shorten" and is_left
                ],
                [
                    long + 0.2
                    for way, (is_left, long, _, _) in zip(picks, flaws, strict=True)
                    if way.key == "shorten" and not is_left
                ],
            )
            assert not left or cuts.spare_mm >= -1e-6
            best = max(best, chance_of(picks))
    (group,) = found.together
    assert group.chance_pct >= 100 * best - 0.1
    assert group.length_mm == pytest.approx(barrel.tube_length_mm - sum(group.off_mm))
    assert group.with_fallback_pct >= group.chance_pct


def test_several_flaws_of_a_barrel_are_decided_together(tideline: Job, shop: Shop) -> None:
    """Two chips, one at each end, within the play: one set, one finding, one click; what is left is said."""
    job = lasting(tideline, 6)
    last = job.laid[-1].tube_length_mm
    number = len(job.laid) - 1
    both = with_flaws(job, CHIP.with_(barrel=number), CHIP.with_(barrel=number, at_mm=last - 0.6))
    planned = plan(both, shop)
    told = [one for one in planned.findings if "flaws" in one.title or "chip" in one.title]
    assert len(told) == 1
    assert f"{Units().mm(last - 2 * 1.4)} is left" in told[0].because or "clip" in told[0].because
    after = plan(apply_remedy(both, told[0].remedies[0]), shop)
    assert after.faults is not None
    assert all(one.chosen is not None and one.chosen.can for one in after.faults.found)
    assert not any("flaws" in one.title for one in after.findings)
    # On different blanks they have nothing to do with each other.
    apart = with_flaws(job, CHIP, CHIP.with_(blank_no=2))
    assert plan(apart, shop).faults.together == ()  # type: ignore[union-attr]


@pytest.mark.parametrize("kind", [one.key for one in fault_kinds() if one.is_spot])
def test_every_spot_says_whether_shortening_helps(tideline: Job, shop: Shop, kind: str) -> None:
    assert way(fault_plan(tideline, shop, PIT.with_(kind=kind)), "shorten").lines
