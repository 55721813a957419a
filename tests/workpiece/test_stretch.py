"""The search for a stretch: what is asked for is what is found."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from orvek.documents import CutStep, Layer, SolidStep, StackStep, StavesStep
from orvek.workpiece.compiling import compiled
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.program import Program
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


def test_what_is_looked_for_may_be_one_material() -> None:
    """A brass ring at 40, a copper one at 85: each is put in the middle when it is asked for."""
    copper = ring(85).with_(sheet=(Layer(material="copper", thickness_mm=2),))
    program = compiled((SolidStep(), ring(40), copper), 20, 20, 130)
    for key, at in (("brass", 40), ("copper", 85)):
        best = proposals(evaluate_reference, program, ONE, ROOM, Wish(feature=key))[0]
        assert best.starts_mm[0] + 25 == pytest.approx(at, abs=0.6)


def test_as_much_of_a_colour_as_there_can_be() -> None:
    pieces = (Layer(material="holly", thickness_mm=70), Layer(material="ebony", thickness_mm=60))
    program = compiled((StackStep(pieces=pieces, glue_mm=0),), 20, 20, 130)
    wish = Wish(feature_centred=False, no_line_within_mm=0, feature="ebony", most_of_it=True)
    best = proposals(evaluate_reference, program, ONE, ROOM, wish)[0]
    assert best.covers == pytest.approx(1)
    assert best.starts_mm[0] >= 70
    assert min(p.covers for p in proposals(evaluate_reference, program, ONE, ROOM, wish, most=20)) < 0.5


def test_a_barrel_is_turned_until_its_line_goes_on() -> None:
    """A twisted ring of staves: beyond the waste of the saw the same staves lie round by the twist of that length."""
    staves = StavesStep(count=4, twist_deg=200, materials=("holly", "ebony", "pear", "teak"))
    program = compiled((staves,), 20, 20, 130)
    wish = Wish(feature_centred=False, no_line_within_mm=0, carried_over_the_joint=True)
    plain = proposals(evaluate_reference, program, TWO, ROOM_TWO, wish)[0]
    turned = proposals(evaluate_reference, program, TWO, ROOM_TWO, replace(wish, may_turn=True))[0]
    assert plain.turns_deg == (0, 0)
    assert turned.joint_differs < 0.06 < plain.joint_differs
    waste_mm = turned.starts_mm[1] - turned.starts_mm[0] - 40
    assert abs(turned.turns_deg[1]) == pytest.approx(2 * waste_mm, abs=5)
    seen = [_at(program, z, r, turn) for z, r, turn in (
        (turned.starts_mm[0] + 39.75, 6.0, 0.0), (turned.starts_mm[1] + 0.25, 6.0, turned.turns_deg[1]),
    )]  # fmt: skip
    assert sum(a == b for a, b in zip(*seen, strict=True)) > 0.9 * len(seen[0])
    # Under a band as wide as the waste the lines go on by themselves.
    under = proposals(evaluate_reference, program, TWO, ROOM_TWO, replace(wish, band_mm=5.0))[0]
    assert under.joint_differs < 0.06


def _at(program: Program, z_mm: float, radius_mm: float, turned_deg: float) -> list[int]:
    """What is seen round a face of a barrel that is turned, as the pictures turn it."""
    angle = np.radians(np.arange(0, 360, 5) + turned_deg)
    points = np.stack([radius_mm * np.cos(angle), radius_mm * np.sin(angle), np.full(angle.size, z_mm)])
    return list(evaluate_reference(program, points).material)


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
