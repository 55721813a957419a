"""Lengths: what the saw takes and the glue gives back, forwards and backwards."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import ArcStep, CutStep, Layer, SliceStep, SolidStep, Step
from orvek.workpiece.lengths import lengths_mm, starts_mm

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


def test_a_sheet_thicker_than_its_kerf_lengthens_the_bar() -> None:
    cut = CutStep(angle_deg=30, kerf_mm=2.5, sheet=_SHEET, glue_mm=0)
    assert lengths_mm((cut,), 100) == (101.0,)  # (t - k) / sin a
    assert lengths_mm((cut.with_(register_by="normal"),), 100) == (100.25,)
    assert lengths_mm((cut.with_(tab_mm=2),), 100) == (100.0,)
