"""Jobs that were written while days were weekdays are dated; what cannot be a weekday is refused as before."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import DAYS, Conditions, Job, from_text, to_text
from orvek.documents.base import checked
from orvek.documents.job.conditions import dated
from orvek.errors import BadFieldError


@given(st.sampled_from(DAYS), st.none() | st.sampled_from(DAYS), st.dates(date(2020, 1, 1), date(2040, 1, 1)))
def test_weekdays_become_the_days_to_come(poured: str, drilled: str | None, today: date) -> None:
    found = dated({"poured_day": poured, "drill_day": drilled, "poured_h": 18.0}, today)
    day = found["poured_on"]
    assert today <= day < today + timedelta(days=7)
    assert DAYS[day.weekday()] == poured
    assert found["poured_h"] == 18.0
    if drilled is None:
        assert "drill_on" not in found
    else:
        assert DAYS[found["drill_on"].weekday()] == drilled
        assert day <= found["drill_on"] < day + timedelta(days=7)


def test_an_old_job_file_is_read_and_a_new_one_has_dates(tideline: Job) -> None:
    there = tideline.pour.conditions.with_(poured_on=date(2026, 11, 27))
    text = to_text(tideline.with_(pour=tideline.pour.with_(conditions=there)))
    assert '"poured_on": "2026-11-27"' in text
    old = text.replace('"poured_on": "2026-11-27"', '"poured_day": "Wednesday", "drill_day": null')
    found = from_text(old).pour.conditions
    assert found.poured_on is not None
    assert found.poured_on.weekday() == 2
    assert found.drill_on is None
    with pytest.raises(BadFieldError):
        checked(Conditions, {"poured_on": "someday"})
    assert checked(Conditions, {"poured_day": "Someday"}).poured_on is None


def test_a_job_that_chose_its_record_by_a_word_is_read(tideline: Job) -> None:
    text = to_text(tideline)
    assert text.count('"spoilage_pct": 15.0') == 1
    by_record, typed = (
        from_text(text.replace('"spoilage_pct": 15.0', f'"spoilage_pct": 15.0, "spoilage_by": "{word}"'))
        for word in ("your record", "as typed")
    )
    assert by_record.batch == tideline.batch.with_(spoilage_pct=None)
    assert typed.batch == tideline.batch
