"""Press: parts with their depths in order, the clip over what it is to hide, and the pattern over the joint."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from orvek.craft.pressing import apart_deg, clip_covers_deg, up_from_clip_deg
from orvek.documents import Fault, Job, PenPart, Shop, catalogue, deeds
from orvek.errors import BadFieldError
from orvek.planning import apply_remedy, plan
from orvek.planning.finish.press import (
    FIRST_PART,
    clip_plan,
    depth_window,
    depth_words,
    out_of_order,
    press_lines,
    snapped_deg,
)
from orvek.planning.finish.results import ClipPlan
from orvek.quantities import Units
from orvek.workpiece.joint import carried_over


def finished(job: Job, **values: object) -> Job:
    return job.with_(finish=job.finish.with_(**values))


@pytest.mark.parametrize(
    ("in_mm", "words"),
    [
        (None, "22.0 mm to 23.5 mm deep"),
        (15, "7.0 mm to go"),
        (21.4, "0.6 mm to go"),
        (22.5, "leave it"),
        (24, "too deep"),
    ],
)
def test_how_far_a_mechanism_is_in(tideline: Job, shop: Shop, in_mm: float | None, words: str) -> None:
    job = finished(tideline, in_mm=in_mm)
    window = depth_window(job)
    assert window is not None
    assert words in str(depth_words(window, Units()))
    told = {finding.key for finding in plan(job, shop).findings}
    assert ("finish.mechanism" in told) == (words == "too deep")


def test_the_line_of_a_mechanism_says_where_to_stop(tideline: Job) -> None:
    assert tideline.pen is not None
    line = press_lines(tideline.pen, Units())[FIRST_PART - 1 + 1]
    in_a_vice = press_lines(tideline.pen, Units(), "a vice with soft jaws")
    assert len(in_a_vice) == len(press_lines(tideline.pen, Units()))
    assert in_a_vice[FIRST_PART - 2].startswith("Vice")
    assert line.startswith("Twist mechanism")
    assert "22.0 mm to 23.5 mm deep: stop at 21.0 mm, write" in line
    assert "Cannot be undone." in line
    with pytest.raises(BadFieldError):
        PenPart().with_(depth_low_mm=20, depth_high_mm=19)


def test_the_clip_over_the_flaw_and_the_best_side_up(tideline: Job, shop: Shop) -> None:
    last = len(tideline.laid) - 1
    at_mm = tideline.laid[last].tube_length_mm - 8
    job = deeds.add_fault(tideline, Fault(kind="void or bubble", barrel=last, at_mm=at_mm, azimuth_deg=120, wide_mm=2))
    over = snapped_deg(job, "over the flaw")
    assert over == 120
    clip = clip_plan(finished(job, clip_deg=over), Units())
    assert clip is not None
    assert "The flaw is under the clip." in clip.lines
    assert clip.covers_deg.value == pytest.approx(clip_covers_deg(4, job.laid[last].widest_mm))
    assert snapped_deg(tideline, "over the flaw") is None
    best = finished(tideline, best_deg=120, clip_deg=118)
    finding = next(one for one in plan(best, shop).findings if one.key == "finish.clip")
    turned = apply_remedy(best, finding.remedies[0])
    assert "On a desk the best side lies up." in clip_plan(turned, Units()).lines  # type: ignore[union-attr]
    assert apart_deg(turned.finish.clip_deg, 120) == pytest.approx(
        up_from_clip_deg(tideline.laid[last].widest_mm / 2, tideline.finish.clip_off_mm)
    )


@given(arrays(np.uint8, (72, 3)), st.integers(0, 71))
def test_a_pattern_that_was_turned_is_found_again(ring: np.ndarray, by: int) -> None:
    turn, agreement = carried_over(ring, np.roll(ring, by, axis=0))
    again = np.roll(np.roll(ring, by, axis=0), -round(turn / 5), axis=0)
    if agreement:
        assert agreement == pytest.approx(1.0, abs=1e-6)
        assert np.array_equal(again, ring)
    else:
        assert len(np.unique(ring.reshape(-1, 3), axis=0)) == 1


@pytest.mark.parametrize(
    ("low", "high", "in_mm", "words"),
    [
        (None, 30.0, 29.0, "leave it"),
        (30.0, None, 33.0, "leave it"),
        (30.0, None, 29.0, "1.0 mm to go"),
        (None, 30.0, 31.0, "1.0 mm too deep"),
        (None, 30.0, None, "at most 30.0 mm"),
        (30.0, None, None, "at least 30.0 mm"),
        (30.0, 30.0, 30.0, "leave it"),
    ],
)
def test_inside_its_limits_a_mechanism_is_left(
    tideline: Job, shop: Shop, low: float | None, high: float | None, in_mm: float | None, words: str
) -> None:
    """What is pressed in cannot be undone: one limit is a limit, and no depth to press to."""
    assert tideline.pen is not None
    part = PenPart(name="Mechanism", depth_low_mm=low, depth_high_mm=high)
    job = finished(tideline.with_(pen=tideline.pen.with_(parts=(PenPart(name="Nib"), part))), in_mm=in_mm)
    window = depth_window(job)
    assert window is not None
    assert words in str(depth_words(window, Units()))
    assert ("finish.mechanism" in {one.key for one in plan(job, shop).findings}) == ("too deep" in words)
    line = next(one for one in press_lines(job.pen, Units()) if one.startswith("Mechanism"))  # type: ignore[arg-type]
    assert window.span(Units()) in line.lower()
    nothing = tideline.pen.with_(parts=(PenPart(name="Nib"),))
    assert depth_window(tideline.with_(pen=nothing)) is None


def test_no_pen_that_ships_closes_a_place_that_a_later_part_needs(shop: Shop) -> None:
    for pen in (*catalogue().pens, *shop.pens):
        assert out_of_order(pen) is None, pen.name


def test_a_clip_after_the_part_that_holds_it_is_found_and_moved(tideline: Job, shop: Shop) -> None:
    click = PenPart(name="Click mechanism", how="pressed in", barrel_no=1, end="right")
    for clip in (
        PenPart(name="Clip", how="slid in", into="under the mechanism's rim"),
        PenPart(name="Clip", how="slid in", into="over Barrel, right", barrel_no=1, end="right"),
    ):
        assert tideline.pen is not None
        job = tideline.with_(pen=tideline.pen.with_(parts=(PenPart(name="Nib", barrel_no=1), click, clip)))
        finding = next(one for one in plan(job, shop).findings if one.key == "finish.parts_order")
        mended = apply_remedy(job, finding.remedies[0])
        assert mended.pen is not None
        assert [part.name for part in mended.pen.parts] == ["Nib", "Clip", "Click mechanism"]
        assert "finish.parts_order" not in {one.key for one in plan(mended, shop).findings}


def test_a_pen_of_one_barrel_has_no_joint_to_turn() -> None:
    for pen in catalogue().pens:
        lines = " ".join(press_lines(pen, Units()))
        assert ("over the joint" in lines) == (len(pen.barrels) > 1), pen.name


def test_a_flaw_is_under_the_clip_only_where_the_clip_lies_along_the_barrel(tideline: Job) -> None:
    """The clip hangs from the right end; a chip at the left one is not under it, however it is turned."""
    last = len(tideline.laid) - 1
    long = tideline.laid[last].tube_length_mm
    narrow = finished(tideline, clip_long_mm=20.0, clip_deg=40)

    def clip(at_mm: float, *, flipped: bool = False) -> ClipPlan:
        fault = Fault(kind="chip at an end", barrel=last, at_mm=at_mm, azimuth_deg=40, wide_mm=2, long_mm=2)
        job = deeds.add_fault(narrow, fault)
        job = deeds.flip_tube(job, last) if flipped else job
        found = clip_plan(job, Units())
        assert found is not None
        return found

    near_nib = clip(1.0)
    assert not near_nib.flaws[0].is_in_reach
    assert near_nib.flaws[0].off_mm == pytest.approx(long - 20 - 2)
    assert "The flaw is under the clip." not in near_nib.lines
    assert "The flaw is under the clip." in clip(long - 1).lines
    assert clip(long - 20).flaws[0].beyond_mm == pytest.approx(1.0)
    assert "The flaw is under the clip." in clip(1.0, flipped=True).lines
    job = deeds.add_fault(narrow, Fault(kind="chip at an end", barrel=last, at_mm=1, azimuth_deg=40))
    assert snapped_deg(job, "over the flaw") is None
