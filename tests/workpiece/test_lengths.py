"""Lengths: what the saw takes and the glue gives back, forwards and backwards."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import ArcStep, CutStep, Layer, RipStep, SliceStep, SolidStep, StackStep, Step
from orvek.workpiece.compiling import compiled
from orvek.workpiece.lengths import lengths_mm, sheet_joints, sheet_mm, starts_mm
from orvek.workpiece.reference import evaluate_reference

_SHEET = (Layer(material="brass", thickness_mm=3.0),)
_steps = st.lists(
    st.one_of(
        st.builds(SliceStep, pitch_mm=st.floats(4, 30), kerf_mm=st.floats(0.5, 3), glue_mm=st.floats(0, 0.3)),
        st.builds(CutStep, angle_deg=st.floats(20, 90), kerf_mm=st.floats(0.5, 4), sheet=st.sampled_from([(), _SHEET])),
        st.builds(ArcStep, kerf_mm=st.floats(0.5, 4), sheet=st.just(_SHEET)),
    ),
    max_size=4,
)


@given(_steps, st.floats(60, 300))
def test_what_is_needed_to_begin_with_ends_as_what_is_wanted(steps: list[Step], end_mm: float) -> None:
    start = starts_mm((SolidStep(), *steps), end_mm)[0]
    if start > 1:
        assert lengths_mm((SolidStep(), *steps), start)[-1] == pytest.approx(end_mm, abs=3.0 * len(steps))
    exact = [step for step in steps if not isinstance(step, SliceStep)]
    start = starts_mm((SolidStep(), *exact), end_mm)[0]
    assert lengths_mm((SolidStep(), *exact), start)[-1] == pytest.approx(end_mm)


def test_a_bonded_sheet_is_glued_on_its_two_outsides_only() -> None:
    layers = tuple(Layer(material=key, thickness_mm=t) for key, t in (("holly", 0.6), ("brass", 0.5), ("holly", 0.6)))
    single = CutStep(angle_deg=90, kerf_mm=2, sheet=layers, glue_mm=0.1)
    bonded = single.with_(sheet_form="one bonded sheet")
    assert (sheet_mm(single), sheet_joints(single)) == (pytest.approx(2.1), 4)
    assert (sheet_mm(bonded), sheet_joints(bonded)) == (pytest.approx(1.9), 2)
    points = np.stack([np.zeros(400), np.zeros(400), np.linspace(60, 70, 400)])
    for step, glue_lines in ((single, 4), (bonded, 2)):
        program = compiled((SolidStep(), step.with_(centre_mm=65)), 20, 20, 130)
        found = [program.materials[n].key for n in evaluate_reference(program, points).material]
        assert sum(one != "glue" and other == "glue" for one, other in pairwise(found)) == glue_lines


@pytest.mark.parametrize(("flip", "high"), [("end for end", 70.0), ("face for face", 50.0)])
def test_a_half_that_slides_shortens_the_bar_and_moves_its_lines(flip: str, high: float) -> None:
    """A stack of 50 and 70 mm, ripped: the half at face A is flipped and slid 6 mm to the right."""
    pieces = tuple(Layer(material=key, thickness_mm=t) for key, t in (("holly", 50.0), ("ebony", 70.0)))
    rip = RipStep(kerf_mm=0, flip=flip, shift_mm=6)
    steps = (StackStep(pieces=pieces, glue_mm=0), rip)
    assert lengths_mm(steps, 120)[-1] == 114
    assert starts_mm(steps, 114)[1] == 120
    program = compiled(steps, 20, 20, 114)
    z = np.linspace(0.05, 113.95, 2279)
    for x, line in ((-3.0, 44.0), (3.0, high)):
        found = evaluate_reference(program, np.stack([0 * z + x, 0 * z, z])).material
        assert z[np.flatnonzero(np.diff(found))].tolist() == [pytest.approx(line, abs=0.06)]
    left = lengths_mm((rip.with_(shift_mm=-6),), 120)
    assert left == (114,)


def test_a_joint_that_slips_carries_earlier_lines_down_its_slope() -> None:
    """A cut at 45° that slips by s moves a square line beyond it by s · cos 45° along the bar, its own line not."""
    sheet = (Layer(material="brass", thickness_mm=2.0),)
    square = CutStep(angle_deg=90, centre_mm=80, kerf_mm=2, sheet=sheet)
    slope = CutStep(angle_deg=45, centre_mm=50, kerf_mm=2, sheet=sheet, slip_mm=0.8)
    z = np.linspace(30, 100, 14001)
    axis = np.stack([0 * z, 0 * z, z])

    def edges(*steps: Step) -> list[float]:
        found = evaluate_reference(compiled((SolidStep(), *steps), 20, 20, 130), axis).material
        return [float(z[n]) for n in np.flatnonzero(np.diff(found))]

    still, slipped = edges(square, slope.with_(slip_mm=0)), edges(square, slope)
    assert slipped[:2] == pytest.approx(still[:2], abs=0.01)
    assert [b - a for a, b in zip(still[2:], slipped[2:], strict=True)] == pytest.approx([0.8 * 0.7071] * 2, abs=0.02)
    assert edges(square, slope.with_(tab_mm=2)) == edges(square, slope.with_(tab_mm=2, slip_mm=0)), "the tab holds it"


def test_a_sheet_thicker_than_its_kerf_lengthens_the_bar() -> None:
    cut = CutStep(angle_deg=30, kerf_mm=2.5, sheet=_SHEET, glue_mm=0)
    assert lengths_mm((cut,), 100) == (101.0,)  # (t - k) / sin a
    assert lengths_mm((cut.with_(register_by="normal"),), 100) == (100.25,)
    assert lengths_mm((cut.with_(tab_mm=2),), 100) == (100.0,)
