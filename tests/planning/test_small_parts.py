"""Small parts of the plan that many screens lean on."""

from __future__ import annotations

import numpy as np
import pytest

from orvek.documents import CutStep, Job, Layer, ReorientStep, RipStep, Shop, SolidStep, deeds
from orvek.documents.deeds import set_value
from orvek.planning import apply_remedy, plan
from orvek.planning.bar import barrels_of
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.running import air_over_time
from orvek.planning.glue_up.meeting import meet_question
from orvek.planning.haste import HASTE
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
    assert made.cutting is not None
    rip = next(cut for cut in made.cutting.cuts if cut.title.startswith("Rip"))
    assert made.layout is not None
    assert made.layout.raw is not None
    assert rip.fence_mm == pytest.approx(made.layout.raw[0] / 2 - 1.5)
