"""Where the tubes lie: pieces with their exits, a bar that is parted at its joint, and that nothing overlaps."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import BarInHand, Hole, Job, Shop, first_shop
from orvek.documents.deeds import set_bars, set_value
from orvek.planning import Severity, apply_remedy, plan
from orvek.planning.laying import window_mm
from orvek.planning.results import Layout
from orvek.shop import demo_job


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
        assert -1e-9 <= place.exit_mm <= exit_mm + 1e-9
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
    assert room.end_mm + nib.tube.length_mm + nib.trim_mm == pytest.approx(found.joint.start_mm)
    over = set_value(job, ("blank", "tube_starts_mm"), (40.0, 95.0))
    finding = next(one for one in plan(over, shop).findings if one.title == "The nib barrel lies over the joint.")
    assert finding.severity is Severity.STOP
    for remedy in finding.remedies:
        assert finding.title not in [one.title for one in plan(apply_remedy(over, remedy), shop).findings]
    beyond = plan(set_value(job, ("blank", "joint_mm"), 140.0), shop)
    assert "The joint lies beyond the bar." in [one.title for one in beyond.findings]
