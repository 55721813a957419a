"""Judgements that a maker of thirty years would not laugh at: what stops him, and what a button may do to him."""

from __future__ import annotations

import logging

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.air import dew_point_c
from orvek.documents import (
    CutStep,
    Design,
    Job,
    Layer,
    PigmentDose,
    Shop,
    SolidStep,
    deeds,
    designs,
    first_shop,
    material,
)
from orvek.errors import NotUnderstoodError
from orvek.planning import Ask, Severity, Station, amount_figure, guard, plan
from orvek.planning.cure.question import cure_question
from orvek.planning.guard import Attempts
from orvek.planning.words import counted, the_barrel
from orvek.quantities import Dimension, read
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job


@pytest.mark.parametrize(
    ("finished", "severity"), [(8.9, None), (8.7, Severity.NOTE), (8.1, Severity.CAUTION), (7.7, Severity.STOP)]
)
def test_a_wall_is_judged_as_slim_pens_are_made(
    tideline: Job, shop: Shop, finished: float, severity: Severity | None
) -> None:
    assert tideline.pen is not None
    barrel = tideline.pen.barrels[0].with_(bit_diameter_mm=7.2, tube_diameter_mm=7.0, finished_left_mm=finished)
    job = deeds.set_value(tideline, ("pen", "barrels", 0), barrel.with_(finished_right_mm=11.0))
    found = [f.severity for f in plan(job, shop).findings if f.key == "pen.walls" and barrel.name.lower() in f.title]
    assert found == ([] if severity is None else [severity])


def test_a_slower_resin_is_offered_of_the_same_chemistry_only(tideline: Job, shop: Shop) -> None:
    hurried = deeds.set_value(tideline, ("pour", "resin", "pot_life_min"), {"value": 5.0})
    assert hurried.pour.resin is not None
    offered = [
        edit.value
        for finding in plan(hurried, shop).findings
        for remedy in finding.remedies
        for edit in remedy.edits
        if edit.path == ("pour", "resin")
    ]
    assert {resin.family for resin in offered} <= {hurried.pour.resin.family}  # type: ignore[attr-defined]


def test_a_sheet_that_a_clamp_closes_is_no_stop(shop: Shop, tideline: Job) -> None:
    def severities(thickness: float) -> set[Severity]:
        cut = CutStep(kerf_mm=2.0, tab_mm=4, sheet=(Layer(material="brass", thickness_mm=thickness),))
        job = deeds.set_steps(tideline, (SolidStep(), cut))
        return {f.severity for f in plan(job, shop).findings if f.key == "blank.sheets"}

    assert severities(1.92) == {Severity.NOTE}
    assert severities(1.7) == {Severity.STOP}
    assert severities(2.1) == {Severity.STOP}


@pytest.mark.parametrize(
    "job", [demo_job(), second_demo_job(), third_demo_job()], ids=["Tideline", "Ropewalk", "Driftwood"]
)
def test_the_demo_says_no_stop(job: Job, shop: Shop) -> None:
    assert not plan(job, shop).has_stop


def test_designs_of_the_gallery_are_not_stopped_by_glue(tideline: Job, shop: Shop) -> None:
    for design in designs():
        planned = plan(deeds.take_design(tideline, design.steps), shop)
        assert not [f for f in planned.findings if f.severity is Severity.STOP and f.key == "glue_up.joints"]


def test_words_and_units() -> None:
    assert (counted(1, "cup"), counted(2, "cup")) == ("1 cup", "2 cups")
    assert read("20 thou", Dimension.LENGTH) == pytest.approx(0.508)
    assert read("1090 kg/m3", Dimension.DENSITY) == pytest.approx(1.09)
    assert read("8 fl oz", Dimension.VOLUME) == pytest.approx(236.588, abs=0.01)
    for text, dimension in (("70°", Dimension.TEMPERATURE), ("12 am", Dimension.LENGTH)):
        with pytest.raises(NotUnderstoodError):
            read(text, dimension)


@given(st.floats(5, 35), st.floats(20, 95))
def test_nothing_is_cooled_below_the_dew_point(air: float, humidity: float) -> None:
    dew = dew_point_c(air, humidity)
    assert dew <= air + 1e-9
    assert dew_point_c(air, min(100.0, humidity + 5)) > dew


def test_a_swirl_is_never_poured_in_layers(tideline: Job, shop: Shop) -> None:
    swirl = cure_question(plan(tideline, shop))
    index = tideline.cast_index
    layers = cure_question(plan(deeds.set_value(tideline, ("blank", "steps", index, "style"), "layers"), shop))
    assert swirl is not None
    assert layers is not None
    assert (swirl.may_layer, layers.may_layer) == (False, True)


def test_the_saw_cuts_beside_each_piece_and_twice_where_waste_lies_between(tideline: Job, shop: Shop) -> None:
    """Places of the cuts, from the pieces: one kerf between neighbours, two where something is left between them."""
    laid = plan(deeds.set_value(tideline, ("blank", "tube_starts_mm"), (18.0, 76.5)), shop).layout
    assert laid is not None
    nib, cap = (place.piece for place in laid.tubes)
    kerf = tideline.blank.saw_kerf_mm
    wanted = [
        (nib.start_mm - kerf, nib.start_mm),
        (nib.end_mm, nib.end_mm + kerf),
        (cap.start_mm - kerf, cap.start_mm),
        (cap.end_mm, cap.end_mm + kerf),
    ]
    assert [(span.start_mm, span.end_mm) for span in laid.kerfs] == [pytest.approx(pair) for pair in wanted]
    close = plan(deeds.set_value(tideline, ("blank", "tube_starts_mm"), (18.0, 18 + 50.5 + kerf)), shop).layout
    assert close is not None
    assert len(close.kerfs) == 3


def test_a_part_that_breaks_off_leaves_what_stands_in_for_it() -> None:
    tried = Attempts()

    def broken() -> int:
        raise KeyError("lost")

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(guard, "_LOG", logging.getLogger("quiet"))
        logging.getLogger("quiet").addHandler(logging.NullHandler())
        logging.getLogger("quiet").propagate = False
        assert tried.part("the tides", Station.PEN, broken, 7) == 7
        assert tried.part("the moon", Station.PEN, lambda: 3, 7) == 3
    assert tried.failed == ("the tides",)
    (finding,) = tried.as_findings()
    assert "the tides" in finding.title
    assert "KeyError" in finding.because
    assert {remedy.ask for remedy in finding.remedies} == {Ask.UNDO, Ask.SHOW_LOG}


def test_an_amount_tells_its_mass_by_the_materials_density() -> None:
    brass = material("brass")
    figure = amount_figure(brass, 2.0, 50.0, 1000)
    masses = [term.value for term in figure.terms if term.dimension is Dimension.MASS]
    assert masses == [pytest.approx(2.0 * brass.density_g_ml.value)]
    assert brass.density_g_ml.value > 8


@pytest.mark.parametrize("design", designs(), ids=lambda design: design.name)
def test_no_design_of_the_gallery_is_stopped(design: Design, tideline: Job, shop: Shop) -> None:
    """What ships must be makeable as it ships, in the demo's own workshop."""
    made = plan(deeds.take_design(tideline, design.steps), shop)
    assert made.failed == ()
    assert [finding.title for finding in made.findings if finding.severity is Severity.STOP] == []


def test_stirring_follows_the_family_until_the_maker_says_otherwise(tideline: Job) -> None:
    resins = {resin.family: resin for resin in first_shop().resins}
    fresh = tideline.with_(pour=tideline.pour.with_(mix_min_per_cup=3))
    fast = deeds.choose_resin(fresh, resins["fast polyurethane"])
    assert fast.pour.mix_min_per_cup == 1
    assert deeds.choose_resin(fast, resins["slow deep-pour epoxy"]).pour.mix_min_per_cup == 3
    own = tideline.with_(pour=tideline.pour.with_(mix_min_per_cup=2.2))
    assert deeds.choose_resin(own, resins["fast polyurethane"]).pour.mix_min_per_cup == 2.2


def test_a_dose_that_the_eye_cannot_tell_is_a_note(tideline: Job, shop: Shop) -> None:
    def severity_of(kind: str, load: float) -> Severity | None:
        pigment = next(one for one in first_shop().pigments if one.kind == kind)
        cup = tideline.cast.cups[1].with_(pigments=(PigmentDose(pigment=pigment, load_pct=load),))
        found = plan(deeds.set_cup(tideline, 1, cup), shop).findings
        return next((f.severity for f in found if "to weigh" in f.title and cup.name in f.title), None)

    assert severity_of("pearl", 0.8) is Severity.NOTE
    assert severity_of("pearl", 0.3) is Severity.CAUTION
    assert severity_of("dye", 1.0) is Severity.CAUTION


@pytest.mark.parametrize(
    ("name", "words"), [("Nib", "The nib barrel"), ("Barrel", "The barrel"), ("Barrel 2", "The barrel 2")]
)
def test_a_barrel_called_barrel_is_named_once(name: str, words: str) -> None:
    assert the_barrel(name) == words
