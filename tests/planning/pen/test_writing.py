"""Refill, tip, spring and length: what the pen loses the tip gains, and what the barrels may lose follows from it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft import refill
from orvek.documents import Fault, Job, Shop, Writing, deeds
from orvek.planning import Plan, Severity, apply_remedy, plan
from orvek.planning.pen.results import WritingPlan


def with_writing(job: Job, play_mm: float | None = None, **measured: float) -> Job:
    assert job.pen is not None
    barrels = tuple(one.with_(play_mm=play_mm) for one in job.pen.barrels)
    return job.with_(pen=job.pen.with_(barrels=barrels, writing=Writing(**measured)))


def told(made: Plan) -> WritingPlan:
    assert made.pen is not None
    return made.pen.writing


def titles(made: Plan) -> list[str]:
    return [one.title for one in made.findings]


@given(st.floats(0, 3), st.floats(0, 12), st.floats(0, 5))
def test_a_pen_that_loses_no_more_than_it_may_still_writes_and_draws_in(out: float, stroke: float, cut: float) -> None:
    most = refill.may_lose_mm(out, stroke)
    after, drawn = out + cut, out + cut - stroke
    is_right = after <= 3 + 1e-6 and (not stroke or drawn <= -1 + 1e-6)
    assert (cut <= most + 1e-6) == is_right


def test_what_is_cut_off_the_barrels_comes_out_at_the_tip(tideline: Job, shop: Shop) -> None:
    job = with_writing(tideline, 6.0, out_mm=2.0, stroke_mm=6.0, parts_mm=41, parts_g=19)
    before = told(plan(job, shop))
    assert before.out_mm is not None
    assert before.drawn_mm is not None
    assert before.may_lose_mm is not None
    assert (before.out_mm.value, before.drawn_mm.value, before.may_lose_mm.value) == pytest.approx((2, -4, 1))
    chip = Fault(kind="chip at an end", at_mm=0.6, long_mm=1.2, wide_mm=2, deep_mm=0.7, moment="sanding", way="shorten")
    short = plan(deeds.add_fault(job, chip), shop)
    after = told(short)
    assert after.out_mm is not None
    assert after.lost_mm > 0
    assert after.out_mm.value - before.out_mm.value == pytest.approx(after.lost_mm)
    assert before.length_mm.value - after.length_mm.value == pytest.approx(after.lost_mm)
    assert "The tip stands out too far." in titles(short)
    assert "The tip stands out too far." not in titles(plan(job, shop))


def test_the_barrels_may_lose_what_the_refill_lets_them(tideline: Job, shop: Shop) -> None:
    job = with_writing(tideline, None, out_mm=1.8, stroke_mm=5)
    (found,) = [one for one in plan(job, shop).findings if "lets the pen lose" in one.title]
    mended = apply_remedy(job, found.remedies[0])
    assert mended.pen is not None
    assert {one.play_mm for one in mended.pen.barrels} == {1.2}
    assert not [one for one in titles(plan(mended, shop)) if "lose" in one]
    much = plan(with_writing(tideline, 4.0, out_mm=1.8, stroke_mm=5), shop)
    assert [one.severity for one in much.findings if "may lose less" in one.title] == [Severity.CAUTION]


@pytest.mark.parametrize(
    ("room", "spring", "play", "said"),
    [(100.4, 0.0, 4.0, "needed"), (96.6, 0.0, 0.2, "left out"), (98.0, 4.0, -2.4, "left out")],
)
def test_a_spring_goes_in_where_there_is_room_for_it(
    tideline: Job, shop: Shop, room: float, spring: float, play: float, said: str
) -> None:
    job = with_writing(tideline, 1.0, out_mm=2.0, refill_mm=98.4, spring_mm=spring, room_mm=room)
    assert job.pen is not None
    made = plan(job.with_(pen=job.pen.with_(spring="not known")), shop)
    figure = told(made).play_mm
    assert figure is not None
    assert figure.value == pytest.approx(play)
    (found,) = [one for one in made.findings if "spring" in one.title.lower()]
    mended = apply_remedy(made.job, found.remedies[0])
    assert mended.pen is not None
    assert mended.pen.spring == said


def test_another_refill_and_one_that_is_longer_than_the_pen(tideline: Job, shop: Shop) -> None:
    other = told(plan(with_writing(tideline, out_mm=2.0, refill_mm=98.4, other_mm=97.2), shop)).other_out_mm
    assert other is not None
    assert other.value == pytest.approx(0.8)
    long = plan(with_writing(tideline, out_mm=2.0, refill_mm=240, parts_mm=20), shop)
    assert [one.severity for one in long.findings if "longer than the pen" in one.title] == [Severity.STOP]
    bare = told(plan(with_writing(tideline), shop))
    assert bare.figures == (bare.length_mm, bare.mass_g)
    assert 10 < bare.mass_g.value < 40
