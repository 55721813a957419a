"""Will the tube show: loads and walls, paint, chips that were measured."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import Chip, Job, Shop, deeds
from orvek.planning import apply_remedy, plan
from orvek.workpiece import optics
from orvek.workpiece.light_test import LightTest, Seen, strength


def test_paint_and_load_hide_the_tube(tideline: Job, shop: Shop) -> None:
    planned = plan(tideline, shop)
    (finding,) = [f for f in planned.findings if f.key == "colour.tube_shows"]
    assert finding.title == "The tube may show at 4 of 4 ends."
    for remedy in finding.remedies:
        better = plan(apply_remedy(tideline, remedy), shop)
        assert min(view.ratio for view in better.colour) > min(view.ratio for view in planned.colour)
    assert [remedy.label for remedy in finding.remedies[:2]] == ["Paint the holes", "Paint the tubes"]
    painted = plan(apply_remedy(tideline, finding.remedies[0]), shop)
    assert not any(f.key == "colour.tube_shows" for f in painted.findings)


def test_thicker_walls_hide_more(tideline: Job, shop: Shop) -> None:
    views = [view for view in plan(tideline, shop).colour if view.cup == "Foam"]
    by_wall = sorted(views, key=lambda view: view.wall_mm)
    assert [v.ratio for v in by_wall] == sorted(v.ratio for v in views)


@given(st.floats(0.1, 0.98), st.floats(0.3, 4), st.floats(0.1, 5))
def test_a_measured_chip_is_what_its_colour_then_does(seen: float, thickness: float, load: float) -> None:
    from orvek.documents import first_shop

    pearl = next(p for p in first_shop().pigments if p.kind == "pearl")
    chip = Chip(thickness_mm=thickness, load_pct=load, over_black=seen * 0.8, over_white=0.8)
    scatters, absorbs, measured = optics.light_of(pearl.with_(chip=chip))
    area = optics.area_mass_g_m2(load / 100, 1.1, thickness)
    black, white = (optics.wall_reflectance(absorbs * area, scatters * area, ground) for ground in (0.04, 0.85))
    assert measured
    assert black / white == pytest.approx(seen, abs=0.02)


def test_a_chip_is_reckoned_with_wherever_the_pigment_is(tideline: Job, shop: Shop) -> None:
    dense = Chip(thickness_mm=1, load_pct=2, over_black=0.79, over_white=0.8)
    name = tideline.cast.cups[1].pigments[0].pigment.name
    job = deeds.set_chip(tideline, name, dense)
    views = [view for view in plan(job, shop).colour if view.cup == "Foam"]
    assert all(view.verdict == "hidden" and view.measured for view in views)


@given(st.floats(0, 5), st.floats(0, 20), st.floats(0, 1))
def test_a_wall_reflects_between_nothing_and_all(absorbed: float, scattered: float, behind: float) -> None:
    assert -1e-9 <= optics.wall_reflectance(absorbed, scattered, behind) <= 1 + 1e-9
    more = optics.contrast_ratio(absorbed, scattered + 0.5)
    assert more >= optics.contrast_ratio(absorbed, scattered) - 1e-6 or absorbed > 0


@pytest.mark.parametrize(("seen", "wall_mm"), [("none", 0.2), ("a little", 8.0), ("much", 8.0)])
def test_a_light_behind_the_wall_moves_a_colour_part_of_the_way(tideline: Job, seen: Seen, wall_mm: float) -> None:
    """One look moves it towards what was seen and not as far; more looks that agree move it further."""
    (cup, *_) = tideline.cast.cups
    looks = [strength(cup, [LightTest(wall_mm, seen)] * count) for count in (1, 2, 9, 400)]
    settled = looks[-1]
    assert settled != 1
    parts = [math.log(one) / math.log(settled) for one in looks]
    assert parts == sorted(parts)
    assert 0 < parts[0] < parts[1] < 0.95 * parts[3]
    assert strength(cup.with_(pigments=()), [LightTest(wall_mm, seen)]) == 1
