"""Deeds: a job in, another job out, the first untouched."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from pydantic import ValidationError

from orvek.documents import (
    MOST_CUPS,
    Barrel,
    CastStep,
    Cup,
    CutStep,
    FieldPath,
    Job,
    Layer,
    Machine,
    Resin,
    SolidStep,
    checked,
    declared,
    deeds,
    first_shop,
)
from orvek.errors import BadFieldError, NothingToDoError, OutOfBoundsError
from orvek.store import demo_job
from tests.strategies import jobs


def total(job: Job) -> float:
    return sum(cup.share for cup in job.cast.cups)


@given(jobs)
def test_adding_and_removing_cups_keeps_the_whole(job: Job) -> None:
    assume(job.cast_index is not None)
    assume(len(job.cast.cups) < MOST_CUPS)
    more = deeds.add_cup(job, first_shop().pigments[0])
    assert total(more) == pytest.approx(100, abs=0.01)
    assert len({cup.name for cup in more.cast.cups[-2:]}) == len(more.cast.cups[-2:])
    fewer = deeds.remove_cup(more, 0)
    assert not fewer.cast.cups or total(fewer) == pytest.approx(100, abs=0.6)


@given(st.lists(st.floats(1, 100), min_size=2, max_size=6), st.floats(-50, 200))
def test_a_boundary_only_moves_between_its_neighbours(shares: list[float], share: float) -> None:
    cups = tuple(Cup(name=f"Cup {n}", colour="#204060", share=part) for n, part in enumerate(shares))
    even = deeds.renormalise_shares(deeds.replace_stock(demo_job(), CastStep(cups=cups)))
    assume(even.cast.cups[0].share + even.cast.cups[1].share > 3)
    moved = deeds.move_boundary(even, 0, share)
    assert total(moved) == pytest.approx(total(even), abs=0.02)
    assert [c.share for c in moved.cast.cups[2:]] == [c.share for c in even.cast.cups[2:]]
    assert min(c.share for c in moved.cast.cups[:2]) >= deeds.LEAST_SHARE_PCT - 0.01


def test_splitting_a_cup_keeps_its_share(tideline: Job) -> None:
    split = deeds.split_cup(tideline, 0)
    assert [cup.share for cup in split.cast.cups] == [32, 32, 36]
    assert split.cast.cups[1].name == "Slack water 2"


def test_there_is_a_most_and_a_least(tideline: Job) -> None:
    job = tideline
    for _ in range(MOST_CUPS - 2):
        job = deeds.add_cup(job)
    with pytest.raises(OutOfBoundsError, match="at most 8"):
        deeds.add_cup(job)
    with pytest.raises(OutOfBoundsError):
        deeds.split_cup(job, 0)
    one = deeds.remove_barrel(tideline, 1)
    with pytest.raises(OutOfBoundsError, match="at least 1"):
        deeds.remove_barrel(one, 0)
    with pytest.raises(NothingToDoError, match="a pen"):
        deeds.add_barrel(Job())


def test_moving_one_tube_fixes_the_others_where_they_are(tideline: Job) -> None:
    moved = deeds.move_tube(tideline, (18.35, 70.45), 1, 75.0)
    assert moved.blank.tube_starts_mm == (18.35, 75.0)
    assert tideline.blank.tube_starts_mm == ()
    assert deeds.lay_tubes_out(moved) == tideline


@pytest.mark.parametrize(
    ("path", "value", "names"),
    [
        (("pen", "barrels", 0, "tube_length_mm"), -3, "less than 5"),
        (("pen", "barrels", 0, "tube_length_mm"), 0, "less than 5"),
        (("pour", "resin", "ratio_b"), 0, "less than 0.01"),
        (("pour", "overage_pct"), float("nan"), "not a usable number|less than"),
        (("pour", "nowhere"), 1, "not a place"),
        (("pen", "barrels", 7), None, "not a place"),
        (("batch", "name"), "  ", "must not be empty"),
        (("blank", "steps", 0, "cups", 0, "colour"), "blue", "colour"),
    ],
)
def test_a_bad_value_is_refused_with_a_sentence(tideline: Job, path: FieldPath, value: object, names: str) -> None:
    with pytest.raises(BadFieldError, match=names):
        deeds.set_value(tideline, path, value)


def test_documents_are_frozen(tideline: Job) -> None:
    with pytest.raises(ValidationError, match="frozen"):
        tideline.pour.overage_pct = 5  # type: ignore[misc]


def test_a_field_is_declared_once_for_its_editor() -> None:
    measure = declared(Barrel, "trim_mm")
    assert (measure.title, measure.low, measure.high) == ("Trim at each end", 0, 20)
    assert measure.limit() == "from 0.0 mm to 20.0 mm"
    assert declared(Resin, "density_a").high == 3.0
    with pytest.raises(KeyError):
        declared(Barrel, "name")


def test_a_density_of_ten_is_refused() -> None:
    resin = first_shop().resins[0]
    heavy = {**resin.model_dump(), "density_a": {"value": 10.0}}
    with pytest.raises(BadFieldError, match=r"from 0\.5 to 3"):
        checked(Resin, heavy)


def test_crosscuts_go_by_the_kerf_of_the_saw_until_another_is_typed(tideline: Job) -> None:
    fine, wide = Machine(name="Fine saw", kerf_mm=1.1), Machine(name="Wide saw", kerf_mm=2.6)
    sawn = deeds.choose_saw(tideline, fine)
    assert (sawn.glue_up.machine, sawn.blank.saw_kerf_mm) == (fine, 1.1)
    assert deeds.set_kerf_readings(sawn, (1.2, 1.3)).blank.saw_kerf_mm == 1.1, "two readings are too few"
    measured = deeds.set_kerf_readings(sawn, (1.2, 1.3, 1.25))
    assert measured.blank.saw_kerf_mm == 1.25, "a measurement beats a label"
    assert deeds.set_kerf_readings(measured, ()).blank.saw_kerf_mm == 1.1
    typed = deeds.set_value(sawn, ("blank", "saw_kerf_mm"), 0.8)
    assert deeds.choose_saw(typed, wide).blank.saw_kerf_mm == 0.8, "the bar is crosscut on another saw"


def test_the_treated_wood_is_the_blanks_own_said_once(tideline: Job) -> None:
    blank = deeds.set_steps(tideline, (SolidStep(material="hard-maple"), CutStep()))
    assert blank.treated_wood == "hard-maple"
    begun = deeds.begin_soak(blank, "stabilised", (130, 20, 20), 4)
    assert (begun.treated_wood, begun.soak.wood.species, begun.soak.wood.count) == ("hard-maple", None, 4)
    other = deeds.choose_treated_wood(begun, "black-cherry")
    assert (other.blank.woods[0], other.treated_wood, other.soak.wood.species) == ("black-cherry",) * 2 + (None,)
    assert deeds.set_step(other, 0, SolidStep(material="beech")).treated_wood == "beech", "changed at Blank it follows"
    two = deeds.set_steps(
        begun, (SolidStep(material="hard-maple"), CutStep(sheet=(Layer(material="beech", thickness_mm=2),)))
    )
    assert deeds.choose_treated_wood(two, "beech").treated_wood == "beech", "one of several"
    assert deeds.choose_treated_wood(two, "beech").blank == two.blank
    cast = deeds.choose_treated_wood(tideline, "beech")
    assert (cast.treated_wood, cast.blank) == ("beech", tideline.blank), "no wood in the blank: what lies beside it"
