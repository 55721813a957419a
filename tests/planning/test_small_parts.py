"""Small parts of the plan that many screens lean on."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from orvek.documents import (
    CutStep,
    Job,
    Layer,
    MeterPlace,
    Piece,
    ReorientStep,
    RipStep,
    Shop,
    SolidStep,
    deeds,
    materials,
)
from orvek.documents.deeds import set_value
from orvek.planning import answered, apply_remedy, plan
from orvek.planning.bar import barrels_of
from orvek.planning.blank.islands import _labels, _smaller
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.running import air_over_time
from orvek.planning.findings import Finding, Severity, Station
from orvek.planning.glue_up.meeting import meet_question
from orvek.planning.haste import HASTE
from orvek.planning.questions import QUESTIONS
from orvek.planning.route.steps import steps_of
from orvek.planning.shelf_list import Entry, state_line
from orvek.workpiece.compiling import compiled
from orvek.workpiece.reference import evaluate_reference

INLAY = (Layer(material="holly", thickness_mm=2),)


def test_without_a_pen_a_plain_barrel_stands_in(shop: Shop) -> None:
    (barrel,) = barrels_of(plan(Job(), shop))
    assert (barrel.start_mm, barrel.end_mm) == (pytest.approx(13), pytest.approx(117))
    assert barrel.left_mm == barrel.right_mm == pytest.approx(12)


def test_whether_it_meets_is_asked_only_where_something_is_sawn(tideline: Job, shop: Shop) -> None:
    assert meet_question(plan(tideline, shop)) is None
    sawn = deeds.set_steps(tideline, (SolidStep(), CutStep(sheet=INLAY)))
    assert meet_question(plan(sawn, shop)) is not None
    assert meet_question(plan(deeds.set_steps(tideline, (CutStep(sheet=INLAY),)), shop)) is None


def test_what_is_mixed_before_there_are_colours(tideline: Job, shop: Shop) -> None:
    assert tideline.cast_index is not None
    bare = set_value(tideline, ("blank", "steps", tideline.cast_index, "cups"), ())
    mixture = plan(bare, shop).mixture
    assert mixture is not None
    assert mixture.mass_g is not None
    assert tideline.pour.resin is not None
    density = tideline.pour.resin.density_mix.value
    assert mixture.mass_g.value == pytest.approx(mixture.volume_ml.value * density)


def test_a_remedy_of_haste_has_its_number(tideline: Job, shop: Shop) -> None:
    """So many bars that stirring and pouring fit into the part of the pot life that haste leaves."""
    slow = tideline.with_(pour=tideline.pour.with_(mix_min_per_cup=1.5, pour_s_per_bar=60))
    hurried = set_value(slow, ("pour", "resin", "pot_life_min"), {"value": 9.0})
    made = plan(hurried, shop)
    remedy = next(r for f in made.findings for r in f.remedies if r.label.startswith("Cast at most"))
    fewer = plan(apply_remedy(hurried, remedy), shop)
    assert not [f for f in fewer.findings if f.key == "pour.pace"]
    left_min = HASTE * 9.0 - 2 * 1.5
    assert remedy.edits[0].value == int(left_min * 60 / 60)


def test_a_larger_cup_has_less_time_than_its_label(tideline: Job, shop: Shop) -> None:
    """The label's mass is moved, so that the cups hold less, as much and far more than it says."""
    slow = set_value(tideline, ("pour", "resin", "pot_life_min"), {"value": 480.0})
    lives = []
    for mass_g in (5000, 100, 30, 10):
        made = plan(set_value(slow, ("pour", "resin", "pot_life_mass_g"), mass_g), shop)
        assert made.pace is not None
        assert made.pace.pot_life is not None
        lives.append(made.pace.pot_life.value)
    assert lives[0] == 480
    assert lives == sorted(lives, reverse=True)
    assert lives[3] < 0.7 * lives[1]


def test_warming_is_in_the_air_when_it_is_said(tideline: Job, shop: Shop) -> None:
    there = tideline.pour.conditions.with_(warm_c=45.0, warm_after_min=600, warm_min=240)
    question = cure_question(plan(set_value(tideline, ("pour", "conditions"), there), shop))
    assert question is not None
    hours, levels = air_over_time(question)
    warm = hours[levels > question.shop_c + 1]
    assert (warm.min(), warm.max()) == (12.0, 14.0), "ramps of two hours from the tenth and the fourteenth hour"


def test_a_bar_taken_out_at_an_angle_turns_about_its_middle() -> None:
    program = compiled(
        (SolidStep(), CutStep(angle_deg=90, centre_mm=50, sheet=INLAY), ReorientStep(angle_deg=90)), 20, 20, 100
    )
    x = np.linspace(-9.9, 9.9, 199)
    across = evaluate_reference(program, np.stack([x, 0 * x, 0 * x + 50]))
    holly = x[[program.materials[m].key == "holly" for m in across.material]]
    assert holly.size
    assert abs(holly).max() <= 1.1, "what lay across now lies along, through the middle"


def test_a_tab_is_left_on_the_far_side_of_an_oblong_bar() -> None:
    steps = (SolidStep(), CutStep(angle_deg=90, azimuth_deg=90, centre_mm=50, kerf_mm=2, sheet=INLAY, tab_mm=3))
    program = compiled(steps, 30, 12, 100)
    y = np.linspace(-5.95, 5.95, 240)
    found = evaluate_reference(program, np.stack([0 * y, y, 0 * y + 50]))
    holly = y[[program.materials[m].key == "holly" for m in found.material]]
    assert holly.min() == pytest.approx(-6 + 3, abs=0.1)


def test_a_rip_is_set_half_a_kerf_from_the_middle(tideline: Job, shop: Shop) -> None:
    made = plan(deeds.set_steps(tideline, (SolidStep(), RipStep(kerf_mm=3))), shop)
    assert made.glue_up is not None
    rip = next(cut for cut in made.glue_up.cuts if cut.title.startswith("Rip"))
    assert made.layout is not None
    assert made.layout.raw is not None
    assert rip.fence_mm == pytest.approx(made.layout.raw[0] / 2 - 1.5)


def test_a_night_begins_and_ends_with_ramps_of_two_hours(tideline: Job, shop: Shop) -> None:
    there = tideline.pour.conditions.with_(night_c=9.0, poured_h=12.0)
    question = cure_question(plan(set_value(tideline, ("pour", "conditions"), there), shop))
    assert question is not None
    hours, levels = air_over_time(question)
    for day in (0, 1):
        for at, level in (
            (there.night_from_h, question.shop_c),
            (there.night_from_h + 2, 9.0),
            (24 + there.night_to_h, 9.0),
            (24 + there.night_to_h + 2, question.shop_c),
        ):
            assert np.interp(24 * day + at - 12, hours, levels) == pytest.approx(level), (day, at)


def test_what_a_forecast_knows_better_takes_the_place_of_the_label(tideline: Job, shop: Shop) -> None:
    made = plan(tideline, shop)
    pace, other = (
        Finding(Severity.NOTE, Station.POUR, words, "", key=key) for words, key in (("Pace", "pour.pace"), ("Mix", "x"))
    )
    made = replace(made, findings=(pace, other))
    slow = next(one for one in QUESTIONS if one.key == "cure")
    for key, kept in (("cure.lives", ["x", "cure.lives"]), ("cure.hot", ["pour.pace", "x", "cure.hot"])):
        told = Finding(Severity.NOTE, Station.POUR, "Said", "", key=key)
        found = answered(made, replace(slow, findings=lambda _plan, told=told: [told]), None)
        assert sorted(one.key for one in found.findings) == sorted(kept)


def test_the_resin_is_measured_where_there_is_a_thermometer(tideline: Job, shop: Shop) -> None:
    def kinds(meters: tuple[MeterPlace, ...]) -> list[str]:
        made = plan(tideline, shop.with_(meters=meters))
        assert made.route is not None
        pour = next(task for task in made.route.operations if task.kind == "pour")
        return [step.kind for step in steps_of(made, pour)]

    thermometer, calipers = (MeterPlace(name=kind, kind=kind) for kind in ("thermometer", "caliper"))
    assert kinds((thermometer,))[0] == "temperature"
    assert "temperature" not in kinds(())
    assert "temperature" not in kinds((calipers,))


def test_what_is_cut_off_lies_at_the_ends_of_the_bar(tideline: Job, shop: Shop) -> None:
    layout = plan(tideline, shop).layout
    assert layout is not None
    left, right = layout.ends
    assert left.start_mm == 0
    assert right.end_mm == layout.length_mm
    assert left.end_mm == pytest.approx(layout.length_mm - right.start_mm)
    assert 0 < left.end_mm <= layout.tubes[0].tube.start_mm
    assert layout.tubes[-1].tube.end_mm <= right.start_mm < layout.length_mm


def test_parts_of_a_shell_that_hang_on_nothing_are_found_where_they_lie() -> None:
    """Of holly two parts, of resin one, round which it closes: the smaller part of holly is told."""
    material = np.zeros((1, 8, 10), np.uint8)
    material[0, :, :2] = 1  # at the left end, right round
    material[0, 6:, 7] = material[0, :2, 7] = 1  # further along, over the seam
    z, cell = np.arange(10, dtype=float)[None, None, :] + 0 * material, np.full(material.shape, 0.5)
    one, other = materials()[:2]
    told = list(_smaller((one, other), material, _labels(material), cell, z))
    assert told == [(other.name, 7.0, 2.0)]


@pytest.mark.parametrize(
    ("entry", "words"),
    [
        (Entry(Piece(place="Drawer 3"), 2), "Drawer 3"),
        (Entry(Piece(place="Drawer 3", state="reserved"), 2), "Drawer 3 · reserved"),
        (Entry(Piece(), -1, used="Tideline"), "more used than counted (Tideline): count it"),
        (Entry(Piece(), 0, used="Tideline"), "used for Tideline"),
        (Entry(Piece(place="Drawer 3"), 1, is_new=True), "made by the work, not put away yet"),
    ],
)
def test_what_the_shelf_says_beside_a_piece(entry: Entry, words: str) -> None:
    assert state_line(entry) == words
