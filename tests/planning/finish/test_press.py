"""Press: parts with their depths in order, the clip over what it is to hide, and the pattern over the joint."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from orvek.craft.pressing import apart_deg, up_from_clip_deg
from orvek.documents import Fault, Job, PenPart, Shop, deeds
from orvek.errors import BadFieldError
from orvek.planning import apply_remedy, plan
from orvek.planning.finish.press import FIRST_PART, clip_plan, depth_window, depth_words, press_lines, snapped_deg
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
        (22.5, "within"),
        (24, "too deep"),
    ],
)
def test_how_far_a_mechanism_is_in(tideline: Job, shop: Shop, in_mm: float | None, words: str) -> None:
    job = finished(tideline, in_mm=in_mm)
    window = depth_window(job)
    assert window is not None
    assert words in depth_words(window, Units())
    told = {finding.key for finding in plan(job, shop).findings}
    assert ("finish.mechanism" in told) == (words == "too deep")


def test_the_line_of_a_mechanism_says_where_to_stop(tideline: Job) -> None:
    assert tideline.pen is not None
    line = press_lines(tideline.pen, Units())[FIRST_PART - 1 + 1]
    assert line.startswith("Twist mechanism")
    assert "22.0 mm to 23.5 mm deep: stop at 21.0 mm, write" in line
    assert "No way back." in line
    with pytest.raises(BadFieldError):
        PenPart().with_(depth_low_mm=20, depth_high_mm=19)


def test_the_clip_over_the_flaw_and_the_best_side_up(tideline: Job, shop: Shop) -> None:
    last = len(tideline.laid) - 1
    job = deeds.add_fault(tideline, Fault(kind="void or bubble", barrel=last, at_mm=20, azimuth_deg=120, wide_mm=2))
    over = snapped_deg(job, "over the flaw")
    assert over == 120
    clip = clip_plan(finished(job, clip_deg=over))
    assert clip is not None
    assert "The flaw is under the clip." in clip.lines
    assert clip.covers_deg.value == pytest.approx(4 / (np.pi * job.laid[last].widest_mm) * 360)
    assert snapped_deg(tideline, "over the flaw") is None
    best = finished(tideline, best_deg=120, clip_deg=118)
    finding = next(one for one in plan(best, shop).findings if one.key == "finish.clip")
    turned = apply_remedy(best, finding.remedies[0])
    assert "On a desk the best side lies up." in clip_plan(turned).lines  # type: ignore[union-attr]
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


@pytest.mark.parametrize(("low", "high"), [(21.0, None), (None, 21.0), (21.0, 21.0)])
def test_a_depth_with_one_bound_is_that_depth(tideline: Job, low: float | None, high: float | None) -> None:
    assert tideline.pen is not None
    parts = tuple(PenPart(name=name) for name in ("Nib", "Clip"))
    part = PenPart(name="Mechanism", depth_low_mm=low, depth_high_mm=high)
    window = depth_window(tideline.with_(pen=tideline.pen.with_(parts=(*parts, part))))
    assert window is not None
    assert (window.part.name, window.low_mm, window.high_mm) == ("Mechanism", 21.0, 21.0)
    assert depth_window(tideline.with_(pen=tideline.pen.with_(parts=parts))) is None
