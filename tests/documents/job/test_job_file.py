"""Job files: what goes out comes in again; what is not a job is refused in one sentence."""

from __future__ import annotations

import json
from datetime import datetime
from functools import cache
from importlib import resources
from typing import Any

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orvek.documents import Job, SolidStep, deeds, from_text, job_schema, schema_text, to_text
from orvek.documents.job.job_file import JobFile
from orvek.errors import NotAJobFileError, OrvekError, UnknownVersionError
from tests.strategies import jobs


@given(jobs)
def test_a_job_comes_back_as_it_went_out(job: Job) -> None:
    text = to_text(job)
    assert from_text(text) == job
    assert to_text(from_text(text)) == text


@cache
def published() -> jsonschema.protocols.Validator:
    schema = job_schema()
    return jsonschema.validators.validator_for(schema)(schema)


@settings(max_examples=25)
@given(jobs)
def test_every_job_meets_the_published_schema(job: Job) -> None:
    published().validate(json.loads(to_text(job)))


def test_the_shipped_schema_is_the_models_own() -> None:
    shipped = resources.files("orvek.data").joinpath("job.schema.json").read_text(encoding="utf-8")
    assert shipped == schema_text()


@given(st.integers(0, 4000))
def test_a_truncated_file_is_refused(length: int) -> None:
    text = resources.files("orvek.data").joinpath("demo", "tideline.orvek.json").read_text(encoding="utf-8")
    if length < len(text.rstrip()):
        with pytest.raises(NotAJobFileError, match="Nothing was changed"):
            from_text(text[:length])


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(), lambda x: st.lists(x) | st.dictionaries(st.text(), x)
    )
)
def test_foreign_json_is_refused(content: Any) -> None:
    with pytest.raises(NotAJobFileError):
        from_text(json.dumps(content))


@given(st.data())
def test_a_job_with_one_value_replaced_is_read_or_refused(data: st.DataObject) -> None:
    content = json.loads(
        resources.files("orvek.data").joinpath("demo", "tideline.orvek.json").read_text(encoding="utf-8")
    )
    place: Any = content
    for _ in range(data.draw(st.integers(0, 6))):
        keys = list(place) if isinstance(place, dict) else list(range(len(place)))
        key = data.draw(st.sampled_from(keys)) if keys else None
        if key is None or not isinstance(place[key], dict | list) or not place[key]:
            break
        place = place[key]
    keys = list(place) if isinstance(place, dict) else list(range(len(place)))
    junk = st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8) | st.just([]) | st.just({})
    place[data.draw(st.sampled_from(keys))] = data.draw(junk)
    said = "changed.orvek.json"
    try:
        from_text(json.dumps(content), "changed.orvek.json")
    except OrvekError as error:
        said = str(error)
    assert "changed.orvek.json" in said


def test_what_version_1_told_in_one_operation_stays_done(tideline: Job) -> None:
    """Version 1 glued with the scuffing, levelled with the polishing, pressed with the writing test."""
    when = datetime(2026, 11, 20, 9, 0)
    for task in ("tube", "join.2", "level"):
        tideline = deeds.finish_task(tideline, task=task, when=when)
    earlier = json.dumps({**json.loads(to_text(tideline)), "version": 1})
    done = from_text(earlier).work
    assert done.done() == tideline.work.done() | {"scuff", "wipe.2", "polish"}
    assert done.when("scuff", "done") == done.when("tube", "done")
    assert from_text(to_text(tideline)) == tideline, "of this version only what was ticked is done"
    assert "write" in from_text(earlier.replace('"level"', '"press"')).work.done()


@pytest.mark.parametrize(
    ("route", "wood", "kept"),
    [("nothing", "bigleaf-maple", None), ("stabilised", "beech", None), ("stabilised", "pear", "pear")],
)
def test_version_1_named_the_treated_wood_a_second_time(tideline: Job, route: str, wood: str, kept: str | None) -> None:
    job = deeds.set_steps(tideline, (SolidStep(material="beech"),))
    job = deeds.set_value(deeds.set_value(job, ("soak", "route"), route), ("soak", "wood", "species"), wood)
    earlier = json.dumps({**json.loads(to_text(job)), "version": 1})
    assert from_text(earlier).soak.wood.species == kept
    assert from_text(to_text(job)).soak.wood.species == wood


@pytest.mark.parametrize(
    ("change", "names"),
    [
        ({"version": 3}, "version 3"),
        ({"format": "other"}, "not written by Orvek"),
        ({"version": "one"}, "of which version"),
        ({"colour": 1}, "colour"),
        ({"pen": {"name": "x", "barrels": []}}, "barrels"),
    ],
)
def test_the_sentence_names_what_is_wrong(tideline: Job, change: dict[str, Any], names: str) -> None:
    text = json.dumps({**json.loads(to_text(tideline)), **change})
    with pytest.raises((NotAJobFileError, UnknownVersionError), match=names):
        from_text(text, "odd.orvek.json")


def test_an_unknown_kind_of_step_is_named(tideline: Job) -> None:
    with pytest.raises(NotAJobFileError, match="knit"):
        from_text(to_text(tideline).replace('"kind": "cast"', '"kind": "knit"'))


@pytest.mark.parametrize("number", ["0", "-20", "1e999", "NaN", "null", '"20"', "1e308"])
def test_a_size_that_cannot_be_is_refused(tideline: Job, number: str) -> None:
    text = to_text(tideline).replace('"width_mm": 20.0', f'"width_mm": {number}')
    if number == '"20"':
        assert from_text(text).pour.mould == tideline.pour.mould
    else:
        with pytest.raises(NotAJobFileError, match="width mm"):
            from_text(text)


def test_a_file_holds_every_part_of_a_job() -> None:
    """A part that a job gets one day cannot be left out of its file."""
    assert set(JobFile.model_fields) - {"format", "version", "job"} == set(Job.model_fields) - {"batch"}
