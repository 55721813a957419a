"""Where the tubes lie: pieces with their exits, a bar that is parted at its joint, and that nothing overlaps."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import BarInHand, Barrel, Hole, Job, Pen, Shop, catalogue, first_shop
from orvek.documents.deeds import set_bars, set_value
from orvek.planning import Severity, apply_remedy, plan
from orvek.planning.laying import window_mm
from orvek.planning.layout import Layout
from orvek.store import demo_job

SQUARED_OFF_MM = 4.0  # less beside a piece is not sawn off: it would fly


def laid(job: Job, shop: Shop) -> Layout:
    found = plan(job, shop).layout
    assert found is not None
    return found


def in_hand(job: Job, length_mm: float) -> Job:
    return set_bars(job, (BarInHand(length_mm=length_mm),))


def test_the_exit_is_taken_from_waste_and_never_from_what_is_needed(tideline: Job, shop: Shop) -> None:
    tight = laid(in_hand(tideline, 98.5), shop)  # 50.5 + 46.2 + a kerf of 1.6 and 0.2
    assert [round(place.exit_mm, 2) for place in tight.tubes] == [0.0, 0.1], "what is left at the end"
    told = [one.title for one in plan(in_hand(tideline, 98.5), shop).findings if one.severity is Severity.STOP]
    assert told == [], "a bar that holds the pieces is long enough"
    typed = tideline.with_(bore=tideline.bore.with_(exit_mm=4.0))
    assert [place.exit_mm for place in laid(typed, shop).tubes] == pytest.approx([4.0, 4.0])
    both = tideline.with_(bore=tideline.bore.with_hole(0, Hole(from_end="both ends")))
    assert laid(both, shop).tubes[0].exit_mm == 0


@given(
    length=st.floats(60, 400),
    joint=st.one_of(st.none(), st.floats(5, 395)),
    exit_mm=st.floats(0, 12),
    ends=st.lists(st.sampled_from(["as advised", "left", "right", "both ends"]), min_size=2, max_size=2),
)
def test_pieces_kerfs_and_waste_cover_the_bar_once(
    length: float, joint: float | None, exit_mm: float, ends: list[str]
) -> None:
    job = set_value(in_hand(demo_job(), length), ("blank", "joint_mm"), joint)
    holes = tuple(Hole(from_end=end) for end in ends)
    job = job.with_(bore=job.bore.with_(exit_mm=exit_mm, holes=holes))
    found = laid(job, first_shop())
    pieces = sorted((place.piece for place in found.tubes), key=lambda span: span.start_mm)
    for place in found.tubes:
        assert place.piece.start_mm <= place.trimmed.start_mm + 1e-9
        assert place.piece.end_mm >= place.trimmed.end_mm - 1e-9
        assert -1e-9 <= place.exit_mm <= exit_mm + SQUARED_OFF_MM + job.blank.saw_kerf_mm + 1e-9
        assert -1e-9 <= place.enter_mm <= SQUARED_OFF_MM + job.blank.saw_kerf_mm + 1e-9
    if plan(job, first_shop()).findings and any(
        one.severity is Severity.STOP for one in plan(job, first_shop()).findings
    ):
        return  # too short, or over the joint: it is said
    assert all(one.end_mm <= other.start_mm + 1e-6 for one, other in pairwise(pieces))
    covered = sum(span.length_mm for span in (*pieces, *found.others, *found.kerfs, *found.waste))
    assert covered == pytest.approx(found.length_mm, abs=1e-5)


def test_a_two_in_one_bar_is_parted_at_its_joint(tideline: Job, shop: Shop) -> None:
    job = set_value(in_hand(tideline, 131), ("blank", "joint_mm"), 70.0)
    found = laid(job, shop)
    assert found.joint is not None
    assert found.joint in found.kerfs
    nib, cap = found.tubes
    assert nib.piece.end_mm <= found.joint.start_mm
    assert cap.piece.start_mm >= found.joint.end_mm
    room = window_mm(found, 0, 1.6)
    assert room.end_mm + nib.tube.length_mm + nib.barrel.trim_mm == pytest.approx(found.joint.start_mm)
    over = set_value(job, ("blank", "tube_starts_mm"), (40.0, 95.0))
    finding = next(one for one in plan(over, shop).findings if one.title == "The nib barrel lies over the joint.")
    assert finding.severity is Severity.STOP
    for remedy in finding.remedies:
        assert finding.title not in [one.title for one in plan(apply_remedy(over, remedy), shop).findings]
    beyond = plan(set_value(job, ("blank", "joint_mm"), 140.0), shop)
    assert "The joint lies beyond the bar." in [one.title for one in beyond.findings]


@given(st.floats(110, 170), st.floats(30, 100), st.floats(0.8, 2.5))
def test_no_sliver_is_sawn_off_beside_a_piece(length: float, joint: float, kerf: float) -> None:
    """What is thinner than 4 mm would fly off the blade: it stays on its piece and is squared off."""
    job = set_value(
        set_value(in_hand(demo_job(), length), ("blank", "joint_mm"), joint), ("blank", "saw_kerf_mm"), kerf
    )
    found = laid(job, first_shop())
    if any(one.severity is Severity.STOP for one in plan(job, first_shop()).findings):
        return
    lost = (found.ends[0].end_mm, found.ends[1].start_mm)
    for span in found.waste:
        at_an_end = span.start_mm < lost[0] or span.end_mm > lost[1]
        assert at_an_end or span.length_mm >= SQUARED_OFF_MM - 1e-6


def test_the_slices_of_a_two_in_one_bar_stay_on_their_pieces(tideline: Job, shop: Shop) -> None:
    found = laid(set_value(in_hand(tideline, 127.5), ("blank", "joint_mm"), 68.4), shop)
    assert len(found.kerfs) <= 5
    assert all(span.length_mm >= SQUARED_OFF_MM for span in found.waste)


def test_a_bar_that_is_not_sawn_is_bored_from_its_own_face(shop: Shop) -> None:
    """84 mm of bar for a piece of 74: the bit goes 5.0 mm through what is too little to be sawn off."""
    barrel = Barrel(
        name="Barrel", tube_length_mm=71.0, tube_diameter_mm=9.5, bit_diameter_mm=9.6, finished_left_mm=13,
        finished_right_mm=13, trim_mm=1.5,
    )  # fmt: skip
    job = in_hand(Job(pen=Pen(name="Curlew", barrels=(barrel,))), 84.0)
    job = job.with_(bore=job.bore.with_hole(0, Hole(from_end="left")))
    planned = plan(job, shop)
    assert planned.layout is not None
    assert planned.layout.kerfs == ()
    assert planned.layout.waste == ()
    place = planned.layout.tubes[0]
    assert (place.piece.start_mm, place.piece.end_mm) == (0, 84.0)
    assert planned.bore is not None
    hole = planned.bore.holes[0]
    assert hole.depth_mm.value == pytest.approx(79.0)
    assert hole.saw_mm.value == pytest.approx(84.0)
    assert hole.ends_mm == pytest.approx((6.5, 77.5))
    assert [figure.value for figure in hole.beyond_mm] == pytest.approx([6.5, 6.5])


@pytest.mark.parametrize("from_end", ["as advised", "left", "right"])
def test_a_fresh_pen_of_one_barrel_has_its_exit(shop: Shop, from_end: str) -> None:
    """The bar that the pen asks for has the exit: the tube lies so that the bit comes out into it."""
    one = next(pen for pen in catalogue().pens if len(pen.barrels) == 1)
    job = Job(pen=one)
    job = job.with_(bore=job.bore.with_hole(0, Hole(from_end=from_end)))
    planned = plan(job, shop)
    assert planned.layout is not None
    assert planned.bore is not None
    place = planned.layout.tubes[0]
    assert place.exit_mm == pytest.approx(planned.bore.holes[0].exit_wanted_mm)
    assert "bore.exit_room" not in {finding.key for finding in planned.findings}
