"""Finish: where the tool stops, how a caliper reading is answered, the ladder, the coats, the order of the parts."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.abrasives import GAP, abrasives, ladder, removed_um
from orvek.craft.coating import coats_wanted, through_chance, tool_size_mm
from orvek.documents import (
    BY_MATERIAL,
    Grit,
    InsertStep,
    Job,
    PenPart,
    Shop,
    Sized,
    SolidStep,
    WrapStep,
    catalogue,
    deeds,
    from_text,
    to_text,
)
from orvek.documents.deeds import set_value
from orvek.errors import BadFieldError
from orvek.planning import Finding, Severity, apply_remedy, plan
from orvek.planning.coating import school_of
from orvek.planning.finish.part import FinishPlan
from orvek.planning.finish.press import press_lines
from orvek.planning.finish.words import finish_lines, still_lines
from orvek.quantities import Units

Change = Callable[[Job], Job]


def found(job: Job, shop: Shop) -> FinishPlan:
    finish = plan(job, shop).finish
    assert finish is not None
    return finish


def how(**changed: object) -> Change:
    return lambda job: job.with_(finish=job.finish.with_(**changed))


def sized(**measured: object) -> Change:
    return lambda job: job.with_(finish=job.finish.with_sized(0, Sized().with_(**measured)))


def told(job: Job, shop: Shop, title: str) -> Finding | None:
    return next((one for one in plan(job, shop).findings if one.title == title), None)


def wooden(job: Job) -> Job:
    return set_value(job, ("blank", "steps"), (SolidStep(),))


CASES: list[tuple[str, Severity, Change]] = [
    ("“P123” is no abrasive you have.", Severity.CAUTION, how(bare_from="P123")),
    ("A wide gap before Brown bar.", Severity.NOTE, how(level_to="White bar")),
    ("The coats are thinner than their scratches.", Severity.CAUTION, how(thin=1, medium=0)),
    ("You may sand through the coats.", Severity.NOTE, how(thin=0, medium=9, medium_um=13, level_from="P320")),
    ("Nib: the left part is another size.", Severity.NOTE, sized(part_left_mm=11.9)),
    ("Nib: turned through to the hole.", Severity.CAUTION, sized(part_left_mm=8.4)),
    ("Nib: too much is gone.", Severity.CAUTION, sized(now_middle_mm=11.5)),
    ("No water on bare wood.", Severity.CAUTION, lambda job: how(wet="wet throughout")(wooden(job))),
]


@pytest.mark.parametrize(("title", "severity", "change"), CASES, ids=[case[0] for case in CASES])
def test_it_is_said_and_its_remedies_take_it_away(
    title: str, severity: Severity, change: Change, tideline: Job, shop: Shop
) -> None:
    assert told(tideline, shop, title) is None
    job = change(tideline)
    finding = told(job, shop, title)
    assert finding is not None
    assert finding.severity is severity
    if title != "The coats are thinner than their scratches.":
        for remedy in finding.remedies[:1]:
            assert told(apply_remedy(job, remedy), shop, title) is None, remedy.label


def test_a_bar_without_wood_may_be_sanded_wet(tideline: Job, shop: Shop) -> None:
    brass = set_value(tideline, ("blank", "steps"), (SolidStep(material="brass"),))
    assert told(how(wet="wet throughout")(brass), shop, "No water on bare wood.") is None


@pytest.mark.parametrize("grit", ["P320", "P400", "P600", "Pad 1500"])
def test_every_way_out_of_sanding_through_leads_out(grit: str, tideline: Job, shop: Shop) -> None:
    title = "You may sand through the coats."
    jobs = [how(thin=0, medium=coats, level_from=grit)(tideline) for coats in range(1, 16)]
    findings = [(job, finding) for job in jobs if (finding := told(job, shop, title)) is not None]
    assert findings
    for job, finding in findings:
        assert finding.remedies
        for remedy in finding.remedies:
            assert told(apply_remedy(job, remedy), shop, title) is None, remedy.label


def test_the_tool_stops_so_that_grits_and_coats_bring_it_to_size(tideline: Job, shop: Shop) -> None:
    tideline = how(school="thin, then medium")(tideline)
    plain = found(tideline, shop).sizes[0]
    bare = found(how(thin=0, medium=0, school="friction polish or wax")(tideline), shop).sizes[0]
    assert bare.tool_mm[0].value == pytest.approx(11.4 + 2 * 0.3 * (125 + 82 + 52.2 + 35) / 1000)
    assert plain.tool_mm[0].value < 11.4 < bare.tool_mm[0].value, "coats build it up, grits alone take it down"
    assert plain.tool_mm[1].value - plain.tool_mm[0].value == pytest.approx(0.7), "the middle lies between the ends"
    part = found(sized(part_left_mm=11.6)(tideline), shop).sizes[0]
    assert part.tool_mm[0].value - plain.tool_mm[0].value == pytest.approx(0.2), "a measured part goes before the pen"
    soft = found(how(more_mm=0.4)(tideline), shop).sizes[0]
    assert soft.tool_mm[2].value - plain.tool_mm[2].value == pytest.approx(0.4)


def test_a_caliper_reading_is_answered(tideline: Job, shop: Shop) -> None:
    tool = found(tideline, shop).sizes[0].tool_mm
    now = {"now_left_mm": tool[0].value + 0.14, "now_middle_mm": tool[1].value, "now_right_mm": tool[2].value - 0.2}
    size = found(sized(**now)(tideline), shop).sizes[0]
    assert still_lines(size, Units()) == (
        "Nib: 0.14 mm more at the left.",
        "Nib: right in the middle.",
        "Nib: 0.20 mm too small at the right.",
    )


def test_the_ladder_goes_through_the_makers_own_drawer(tideline: Job, shop: Shop) -> None:
    names = [rung.abrasive.name for rung in found(tideline, shop).bare]
    assert names == ["P120", "P180", "P280", "P400", "P600"]
    own = tuple(Grit(name=f"P{n}", start_um=um, end_um=um) for n, um in ((120, 125.0), (220, 68.0), (600, 25.8)))
    gapped = found(tideline, shop.with_(drawer=own))
    assert [rung.abrasive.name for rung in gapped.bare] == ["P120", "P220", "P600"]
    assert [rung.ratio > GAP for rung in gapped.bare] == [False, True, True]
    with pytest.raises(BadFieldError):
        Grit().with_(end_um=80)


def test_the_steps_say_what_follows_on_what(tideline: Job, shop: Shop) -> None:
    coated = how(school="thin, then medium")(tideline)
    lines = finish_lines(found(coated, shop), plan(coated, shop).finishing, Units())
    assert any("3 thin, then 8 medium coats, 0.138 mm in all" in line for line in lines)
    assert any("Swap to bushings" in line for line in lines)
    polished = how(thin=0, medium=0, school="abrasives and polish only")(tideline)
    lines = finish_lines(found(polished, shop), plan(polished, shop).finishing, Units())
    assert not any("coats" in line for line in lines)
    assert any("polish last" in line for line in lines)


def test_coats_follow_what_the_blank_is_made_of(tideline: Job, shop: Shop) -> None:
    """Resin is sanded and polished, what soaks up is coated; the maker's word goes before both."""

    def coats(job: Job) -> tuple[int | None, int | None]:
        finishing = plan(job, shop).finishing
        return finishing.thin, finishing.medium

    assert tideline.finish.school == BY_MATERIAL
    assert coats(tideline) == (0, 0)
    assert found(tideline, shop).coats_mm.value == 0
    assert "coat" not in {task.kind for task in plan(tideline, shop).route.operations}  # type: ignore[union-attr]
    for steps in (
        (SolidStep(material="maize-cob"),), (SolidStep(material="hard-maple"),),
        (InsertStep(material="bigleaf-maple"), *tideline.blank.steps), (WrapStep(covered="coated"),),
    ):  # fmt: skip
        assert coats(deeds.set_steps(tideline, steps)) == (3, 8)
    assert coats(how(thin=12)(tideline)) == (12, 0)
    assert coats(how(school="thin, then medium")(tideline)) == (3, 8)
    chosen = deeds.choose_school(tideline, school_of(how(school="many thin coats")(tideline), shop))
    assert coats(chosen) == (12, 0)
    assert coats(deeds.finish_by_material(chosen)) == (0, 0)
    assert from_text(to_text(tideline)).finish.school == BY_MATERIAL


def test_parts_are_pressed_in_their_order(tideline: Job) -> None:
    assert tideline.pen is not None
    assert [line.split(":")[0] for line in press_lines(tideline.pen, Units())[2:5]] == [
        "Nib holder",
        "Twist mechanism",
        "Refill",
    ]
    unlisted = tideline.pen.with_(parts=())
    assert press_lines(unlisted, Units())[0].startswith("This pen's parts are not listed yet")
    listed = tideline.pen.with_(parts=(PenPart(name="Nib cone", into="Nib, left", against="a soft pad"), PenPart()))
    assert press_lines(listed, Units())[2] == "Nib cone: pressed into Nib, left, against a soft pad."
    assert all(pen.parts for pen in catalogue().pens if "," in pen.name and pen.name.split(",")[0][0].isupper())


@given(st.floats(1, 200), st.floats(1, 200), st.floats(0.05, 0.6))
def test_more_coats_are_never_sanded_through_more_often(coats: float, taken: float, cv: float) -> None:
    assert 0 <= through_chance(coats, taken, cv) <= 1
    assert through_chance(coats * 1.1, taken, cv) <= through_chance(coats, taken, cv) + 1e-12
    wanted = coats_wanted(coats, taken, 0.3, 0.01)
    if wanted is not None and wanted > 1:
        assert through_chance(wanted * coats, taken, 0.3) <= 0.01 < through_chance((wanted - 1) * coats, taken, 0.3)
    assert tool_size_mm(12, 0, 0, 0) == 12


@given(st.floats(0.3, 201), st.floats(0.3, 201))
def test_a_ladder_only_goes_finer(first: float, last: float) -> None:
    rungs = ladder(abrasives(), max(first, last), min(first, last))
    assert all(after.abrasive.start_um < before.abrasive.end_um for before, after in pairwise(rungs))
    assert removed_um(rungs) >= 0


def test_more_coats_are_offered_as_many_as_are_wanted(tideline: Job, shop: Shop) -> None:
    job = how(thin=0, medium=3, medium_um=13, level_from="P320")(tideline)
    finish = plan(job, shop).finish
    assert finish is not None
    assert finish.coats_wanted is not None
    told = [remedy for found in plan(job, shop).findings for remedy in found.remedies if "medium coats" in remedy.label]
    assert {edit.value for remedy in told for edit in remedy.edits} == {finish.coats_wanted}
    assert {remedy.label for remedy in told} == {f"{finish.coats_wanted} medium coats"}
