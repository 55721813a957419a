"""Time that passes while the clocks are changed."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.quantities import later, minutes_between


@pytest.mark.usefixtures("changing_clocks")
@pytest.mark.parametrize(
    ("poured", "hard"),
    [
        (datetime(2026, 3, 28, 20, 0), datetime(2026, 3, 29, 9, 0)),  # an hour is left out
        (datetime(2026, 10, 24, 20, 0), datetime(2026, 10, 25, 7, 0)),  # an hour comes twice
        (datetime(2026, 6, 6, 20, 0), datetime(2026, 6, 7, 8, 0)),
    ],
)
def test_twelve_hours_are_twelve_hours_in_any_night(poured: datetime, hard: datetime) -> None:
    assert later(poured, 720) == hard
    assert minutes_between(poured, hard) == 720


@given(st.datetimes(datetime(2000, 1, 1), datetime(2100, 1, 1)), st.floats(0, 100_000))
def test_where_no_clock_is_changed_later_is_adding(when: datetime, minutes: float) -> None:
    assert abs(later(when, minutes) - (when + timedelta(minutes=minutes))) <= timedelta(hours=1)
    assert minutes_between(when, later(when, minutes)) == pytest.approx(minutes, abs=1e-3)
