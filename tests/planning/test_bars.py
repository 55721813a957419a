"""Bars in hand: the strip has the real length, tubes have room to slide, barrels may come from several bars."""

from __future__ import annotations

import json

import pytest

from orvek.cards.report import report_json, report_text
from orvek.documents import BarInHand, BarMould, CastStep, CutStep, Job, LaminateStep, RipStep, Shop, SolidStep, deeds
from orvek.planning import Severity, apply_remedy, plan
from orvek.planning.bar import bar_size
from orvek.planning.laying import window_mm
from orvek.planning.words import bars_line


def in_hand(job: Job, *bars: BarInHand) -> Job:
    return deeds.set_bars(deeds.set_steps(job, (SolidStep(),)), bars)


def pen_of(job: Job, barrels: int) -> Job:
    assert job.pen is not None
    return deeds.choose_pen(job, job.pen.with_(barrels=job.pen.barrels[:barrels]))


def titles(job: Job, shop: Shop) -> list[str]:
    return [finding.title for finding in plan(job, shop).findings]


def test_a_bar_in_hand_has_its_own_length_and_section(tideline: Job, shop: Shop) -> None:
    made = plan(in_hand(tideline, BarInHand(length_mm=171, width_mm=21, depth_mm=17.5)), shop)
    assert bar_size(made.layout) == (21, 17.5, 171, False)
    assert made.layout is not None
    slack = window_mm(made.layout, 0, made.job.blank.saw_kerf_mm)
    assert slack.length_mm > 20, "the tube can be slid to where the pattern is best"
    rod = plan(in_hand(tideline, BarInHand(form="round", length_mm=140, width_mm=19, depth_mm=3)), shop)
    assert bar_size(rod.layout) == (19, 19, 140, True)
    bumpy = plan(in_hand(tideline, BarInHand(form="irregular", length_mm=140, width_mm=24, depth_mm=18)), shop)
    assert bar_size(bumpy.layout)[:2] == (18, 18)


def test_tubes_stay_where_the_pattern_is_best(tideline: Job, shop: Shop) -> None:
    job = pen_of(in_hand(tideline, BarInHand(length_mm=171)), 1)
    start = plan(job, shop).layout
    assert start is not None
    room = window_mm(start, 0, job.blank.saw_kerf_mm)
    moved = deeds.move_tube(job, start.starts_mm, 0, room.end_mm)
    made = plan(moved, shop)
    assert made.layout is not None
    assert made.layout.length_mm == 171
    assert made.layout.starts_mm == (pytest.approx(room.end_mm),)
    assert not [f for f in made.findings if "lost end" in f.title]


def test_a_long_bar_holds_further_blanks_beside_the_first(tideline: Job, shop: Shop) -> None:
    job = pen_of(in_hand(tideline, BarInHand(length_mm=300, count=2)), 1)
    made = plan(job, shop)
    assert made.bars.blanks_per_bar == 5
    assert made.layout is not None
    assert len(made.layout.others) == 4
    middle = deeds.move_tube(job, made.layout.starts_mm, 0, 45.0)
    assert any(title.startswith("This bar then gives") for title in titles(middle, shop))
    assert made.bars.packing is not None
    assert made.bars.packing.pens == round(made.bars.blanks.value)


def test_barrels_from_different_bars_are_said_and_listed(tideline: Job, shop: Shop) -> None:
    job = in_hand(
        tideline, BarInHand(name="Long", length_mm=82, count=9), BarInHand(name="Short", length_mm=76, count=9)
    )
    made = plan(job, shop)
    assert not made.has_stop
    assert any("from different bars" in finding.title for finding in made.findings)
    told = json.loads(report_json(made, made.units))["bars"]
    assert len(told) == 12
    assert {bar["bar"] for bar in told} == {"Long", "Short"}
    assert "Sawn from the bars in hand: " in report_text(made, made.units)


def test_too_few_and_too_short(tideline: Job, shop: Shop) -> None:
    few = plan(in_hand(tideline, BarInHand(length_mm=171, count=2)), shop)
    found = next(f for f in few.findings if "bars in hand give" in f.title)
    assert found.severity is Severity.CAUTION
    short = plan(in_hand(tideline, BarInHand(length_mm=30)), shop)
    assert any(title.startswith("No bar is long enough") for title in (f.title for f in short.findings))
    for bar in (BarInHand(width_mm=3, depth_mm=300), BarInHand(length_mm=10), BarInHand(form="round", width_mm=3)):
        assert plan(in_hand(tideline, *[bar] * 10), shop).failed == ()


def test_a_rip_takes_its_kerf_off_the_bar(tideline: Job, shop: Shop) -> None:
    job = in_hand(tideline, BarInHand(length_mm=171, width_mm=15, depth_mm=20))
    ripped = deeds.set_steps(job, (SolidStep(), RipStep(kerf_mm=3)))
    made = plan(ripped, shop)
    assert bar_size(made.layout)[:2] == (12, 20)
    assert made.job.pen is not None
    assert max(barrel.finished_left_mm for barrel in made.job.pen.barrels) > 12
    assert any(f.severity is Severity.STOP and "thinner than the barrel" in f.title for f in made.findings)
    assert any("after the saw" in f.because for f in made.findings)


def test_a_second_bar_is_refused_with_a_sentence(tideline: Job, shop: Shop) -> None:
    steps = (LaminateStep(), CutStep(), CastStep())
    made = plan(deeds.set_steps(tideline, steps), shop)
    stop = next(f for f in made.findings if "second bar" in f.title)
    assert stop.severity is Severity.STOP
    assert apply_remedy(made.job, stop.remedies[0]).blank.steps == steps[:2]


def test_how_many_to_start_is_the_maker_s_choice(tideline: Job, shop: Shop) -> None:
    surer = tideline.with_(batch=tideline.batch.with_(chance_pct=90))
    few, more = (round(plan(job, shop).bars.blanks.value) for job in (tideline, surer))
    assert (few, more) == (6, 7)
    assert "8 times in 10" in plan(tideline, shop).bars.blanks.source
    oblong = deeds.choose_mould(tideline, BarMould(name="Own", length_mm=300, width_mm=24, depth_mm=18, cavities=2))
    assert plan(oblong, shop).bars.blanks_per_bar == 2


def test_what_is_left_of_a_bar_is_told_once(tideline: Job, shop: Shop) -> None:
    """Two offcuts beside the pieces are two offcuts in every line of the report."""
    job = pen_of(in_hand(tideline, BarInHand(length_mm=151.0)), 1)
    job = job.with_(batch=job.batch.with_(spoilage_pct=0.0))
    made = plan(job, shop)
    assert made.layout is not None
    assert made.bars.packing is not None
    left = [span.length_mm for span in made.layout.waste]
    assert len(left) == 2
    assert json.loads(report_json(made, made.units))["bars"][0]["left_mm"] == pytest.approx(left)
    for mm in left:
        assert report_text(made, made.units).count(made.units.mm(mm)) == 2, "the bar's line, and what is sawn from it"


def test_tubes_that_lie_in_the_way_make_it_more_bars(tideline: Job, shop: Shop) -> None:
    """A bar that gives two blanks side by side gives one where its tubes lie in the middle: five pens, five bars."""
    assert tideline.pour.mould is not None
    mould = tideline.pour.mould.with_(length_mm=230.0)
    job = deeds.choose_mould(tideline, mould).with_(batch=tideline.batch.with_(spoilage_pct=0.0, pens_wanted=5))
    side_by_side = plan(job, shop)
    assert (side_by_side.bars.blanks_per_bar, round(side_by_side.bars.bars.value)) == (2, 3)
    moved = deeds.set_value(job, ("blank", "tube_starts_mm"), (45.0, 110.0))
    made = plan(moved, shop)
    assert "pen.beside" in {finding.key for finding in made.findings}
    assert (made.bars.blanks_per_bar, round(made.bars.bars.value)) == (1, 5)
    assert "blanks from each" not in bars_line(made.bars)
    again = apply_remedy(moved, next(one for one in made.findings if one.key == "pen.beside").remedies[0])
    assert plan(again, shop).bars.blanks_per_bar == 2
    hand = in_hand(job, BarInHand(length_mm=230.0, count=5))
    in_the_way = plan(deeds.set_value(hand, ("blank", "tube_starts_mm"), (45.0, 110.0)), shop)
    assert in_the_way.bars.packing is not None
    assert len(in_the_way.bars.packing.sawn) == 5
