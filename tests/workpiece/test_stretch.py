"""The search for a stretch: what is asked for is what is found."""

from __future__ import annotations

import pytest

from orvek.documents import CutStep, Layer, SolidStep, StackStep
from orvek.workpiece.compiling import compiled
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.reference import evaluate_reference
from orvek.workpiece.stretch import Room, Wish, proposals

ONE = (TurnedBarrel(0, 50, 11, 12, 8),)
TWO = (TurnedBarrel(0, 40, 11, 12, 8), TurnedBarrel(0, 35, 12, 11, 8))
ROOM = Room(4, 126, (1.5,), 1.6)
ROOM_TWO = Room(4, 126, (1.5, 1.5), 1.6)


def ring(at_mm: float, angle_deg: float = 90) -> CutStep:
    return CutStep(angle_deg=angle_deg, centre_mm=at_mm, kerf_mm=2, sheet=(Layer(material="brass", thickness_mm=2),))


@pytest.mark.parametrize("at_mm", [45.0, 60.0, 82.0])
def test_a_ring_is_put_in_the_middle(at_mm: float) -> None:
    program = compiled((SolidStep(), ring(at_mm)), 20, 20, 130)
    best = proposals(evaluate_reference, program, ONE, ROOM, Wish())[0]
    assert best.starts_mm[0] + 25 == pytest.approx(at_mm, abs=0.6)
    assert best.off_centre_mm < 0.6
    assert best.lines_near_ends == 0


def test_lines_are_kept_off_the_ends() -> None:
    rings = [ring(at) for at in (20, 72, 78)]
    program = compiled((SolidStep(), *rings), 20, 20, 130)
    wish = Wish(feature_centred=False, no_line_within_mm=3)
    for proposal in proposals(evaluate_reference, program, ONE, ROOM, wish):
        assert proposal.lines_near_ends == 0
        for end in (proposal.starts_mm[0], proposal.starts_mm[0] + 50):
            assert all(abs(end - at) > 2 for at in (20, 72, 78))


def test_a_pattern_is_carried_over_the_joint() -> None:
    # Two colours end to end: only where the joint does not fall on the change do both faces match.
    pieces = (Layer(material="holly", thickness_mm=65), Layer(material="ebony", thickness_mm=65))
    program = compiled((StackStep(pieces=pieces, glue_mm=0),), 20, 20, 130)
    wish = Wish(feature_centred=False, no_line_within_mm=1, carried_over_the_joint=True)
    for proposal in proposals(evaluate_reference, program, TWO, ROOM_TWO, wish):
        assert proposal.joint_differs == 0


def test_places_lie_on_the_sound_bar_and_leave_room_for_the_saw() -> None:
    program = compiled((SolidStep(), ring(60, 35)), 20, 20, 130)
    found = proposals(evaluate_reference, program, TWO, ROOM_TWO, Wish(), most=6)
    assert len(found) == 6
    assert [p.score for p in found] == sorted(p.score for p in found)
    for proposal in found:
        first, second = proposal.starts_mm
        assert first - 1.5 - 1.6 >= 4 - 1e-6
        assert second - 1.5 - (first + 40 + 1.5) >= 1.6 - 1e-6
        assert second + 35 + 1.5 + 1.6 <= 126 + 1e-6


def test_barrels_that_do_not_fit_get_no_proposal() -> None:
    program = compiled((SolidStep(),), 20, 20, 130)
    assert proposals(evaluate_reference, program, TWO, Room(4, 70, (1.5, 1.5), 1.6), Wish()) == ()
