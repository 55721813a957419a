"""Lines near the barrels' ends, and how wide inlays show."""

from __future__ import annotations

import math

import pytest

from orvek.documents import CutStep, Job, Layer, Shop, SolidStep, deeds
from orvek.planning import apply_remedy, plan
from orvek.planning.blank.lines import end_lines, showings


def with_ring(job: Job, centre_mm: float, angle_deg: float = 90, thickness: float = 2.0) -> Job:
    sheet = (Layer(material="brass", thickness_mm=thickness),)
    cut = CutStep(angle_deg=angle_deg, centre_mm=centre_mm, kerf_mm=thickness, sheet=sheet)
    return deeds.set_steps(job, (SolidStep(), cut))


@pytest.mark.parametrize(("centre", "inside"), [(19.85, 0.5), (20.35, 1.0), (21.35, 2.0), (40.0, None)])
def test_a_ring_near_the_left_end_is_seen(tideline: Job, shop: Shop, centre: float, inside: float | None) -> None:
    job = with_ring(tideline, centre)
    # The nib's tube begins at 18.35; the ring is 2 mm wide.
    found = [line for line in end_lines(job, plan(job, shop).layout) if (line.barrel, line.side) == (0, "left")]
    if inside is None:
        assert found == []
    else:
        assert found[0].inside_mm == pytest.approx(inside, abs=0.11)
        assert found[0].material == "Brass"


@pytest.mark.parametrize("centre", [19.85, 64.35])
def test_a_line_on_the_lip_is_said_and_the_remedy_slides_the_tube(tideline: Job, shop: Shop, centre: float) -> None:
    job = with_ring(tideline, centre)
    finding = next(f for f in plan(job, shop).findings if f.title == "A line ends on the lip of Nib.")
    assert "chips" in finding.because
    for remedy in finding.remedies:
        after = plan(apply_remedy(job, remedy), shop)
        assert not any(f.title == finding.title for f in after.findings)
        assert not after.has_stop
    assert bool(finding.remedies) is (centre < 30)


@pytest.mark.parametrize("angle", [90.0, 45.0, 30.0])
def test_an_inlay_shows_as_wide_as_its_angle_says(tideline: Job, shop: Shop, angle: float) -> None:
    job = with_ring(tideline, 42, angle)
    shown = next(s for s in showings(job, plan(job, shop).layout) if s.material == "Brass")
    width = 2 / math.sin(math.radians(angle))
    # The barrel tapers, so a slanting band is a little wider on one side than on the other.
    assert shown.least_mm == pytest.approx(width, rel=0.05, abs=0.06)
    assert shown.most_mm == pytest.approx(width, rel=0.05, abs=0.06)


def test_a_casting_is_an_impression_and_has_no_lines(tideline: Job, shop: Shop) -> None:
    assert end_lines(tideline, plan(tideline, shop).layout) == ()
