"""Places in a job, written by its own fields."""

from __future__ import annotations

import pytest

from orvek.documents import JOB, CutStep, Job, as_kind, deeds, path_to, present
from orvek.documents.paths import FieldPath
from orvek.errors import BadFieldError


def test_a_place_is_where_a_value_is_put(tideline: Job) -> None:
    place = path_to(present(JOB.pen).barrels[1].trim_mm)
    assert place == ("pen", "barrels", 1, "trim_mm")
    changed = deeds.set_value(tideline, place, 1.25)
    assert changed.pen is not None
    assert changed.pen.barrels[1].trim_mm == 1.25
    assert path_to(as_kind(CutStep, JOB.blank.steps[2]).angle_deg) == ("blank", "steps", 2, "angle_deg")


@pytest.mark.parametrize("place", [("pen", "barrel", 1), ("batch", "pens_wanted", 0), ("blank", "steps", 99)])
def test_what_is_no_place_is_refused(tideline: Job, place: FieldPath) -> None:
    with pytest.raises(BadFieldError):
        deeds.set_value(tideline, place, 1)
