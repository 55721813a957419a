"""Will it still be there: what the lathe takes, what comes out at an end, what the bit meets; remedies mend it."""

from __future__ import annotations

import numpy as np
import pytest

from orvek.documents import (
    BarInHand,
    CastStep,
    CutStep,
    DyeStep,
    InsertStep,
    Job,
    Layer,
    PlugStep,
    RoundStep,
    Shop,
    SolidStep,
    Step,
    WrapStep,
    deeds,
)
from orvek.planning import Finding, apply_remedy, plan
from orvek.planning.bar import laid_barrels
from orvek.planning.blank.islands import Island, islands
from orvek.workpiece.compiling import compiled
from orvek.workpiece.reference import evaluate_reference


def made_of(job: Job, *steps: Step) -> Job:
    """A bar of 16 mm for the barrel of the demo pen, which is turned to 12.8 and 11.4 mm."""
    assert job.pen is not None
    one = deeds.choose_pen(job, job.pen.with_(barrels=job.pen.barrels[:1]))
    bar = BarInHand(length_mm=80, width_mm=16, depth_mm=16)
    return deeds.set_bars(deeds.set_steps(one, steps), (bar,))


def found(job: Job, shop: Shop, words: str) -> Finding | None:
    return next((finding for finding in plan(job, shop).findings if words in finding.title), None)


INLAY = (Layer(material="holly", thickness_mm=2),)
CASES = [
    ("printed sheet is removed in turning", (WrapStep(core_mm=12.25),), True),
    ("tool may reach the printed sheet", (WrapStep(core_mm=10.95),), True),
    ("little over the printed sheet", (WrapStep(core_mm=10),), True),
    ("printed sheet is bored away", (WrapStep(core_mm=8.0),), True),
    ("bit may reach the printed sheet", (WrapStep(core_mm=8.5),), True),
    ("core of step 1 comes out at an end", (InsertStep(form="core", diameter_mm=12.6), CastStep()), True),
    ("core of step 1 is bored away", (InsertStep(form="core", diameter_mm=8.2), CastStep()), False),
    ("rods of step 1 are removed in turning", (InsertStep(form="rods", ring_mm=8.5, diameter_mm=3), CastStep()), False),
    ("rods of step 1 are bored away", (InsertStep(form="rods", ring_mm=2, diameter_mm=3), CastStep()), False),
    ("filling of step 2 is bored away", (SolidStep(), PlugStep(way="along", offset_mm=1, diameter_mm=4)), False),
    ("tab of step 2 stays in the barrel", (SolidStep(), CutStep(sheet=INLAY, kerf_mm=2, tab_mm=3, centre_mm=40)), True),
]


@pytest.mark.parametrize(("words", "steps", "mends"), CASES, ids=[case[0] for case in CASES])
def test_what_is_lost_is_said(words: str, steps: tuple[Step, ...], mends: bool, tideline: Job, shop: Shop) -> None:
    job = made_of(tideline, *steps)
    finding = found(job, shop, words)
    assert finding is not None
    assert bool(finding.remedies) == mends
    for remedy in finding.remedies:
        assert found(apply_remedy(job, remedy), shop, words) is None, remedy.label


QUIET: tuple[tuple[Step, ...], ...] = (
    (SolidStep(), DyeStep(depth_mm=8, seen_mm=8)),
    (SolidStep(), RoundStep(diameter_mm=13), DyeStep(depth_mm=1.5, seen_mm=1.5)),
    (WrapStep(core_mm=9),),
    (InsertStep(form="core", diameter_mm=10), CastStep()),
    (InsertStep(form="rods", ring_mm=5.3, diameter_mm=2), CastStep()),
    (SolidStep(), CutStep(sheet=INLAY, kerf_mm=2, tab_mm=1, centre_mm=40)),
)


def test_a_core_is_never_turned_to_less_than_its_hole(tideline: Job, shop: Shop) -> None:
    """A slim barrel has no room for a sheet that is cast over: it is coated instead."""
    job = made_of(tideline, WrapStep(core_mm=11.5))
    job = deeds.set_value(job, ("pen", "barrels", 0, "finished_left_mm"), 10.2)
    finding = found(job, shop, "printed sheet is removed in turning")
    assert finding is not None
    assert [edit.value for remedy in finding.remedies for edit in remedy.edits] == ["coated", 9.8]
    assert found(apply_remedy(job, finding.remedies[0]), shop, "printed sheet is removed in turning") is None


@pytest.mark.parametrize("steps", QUIET, ids=[steps[-1].kind + steps[0].kind for steps in QUIET])
def test_what_stays_is_not_nagged_about(steps: tuple[Step, ...], tideline: Job, shop: Shop) -> None:
    for finding in plan(made_of(tideline, *steps), shop).findings:
        assert not any(
            words in finding.title
            for words in ("removed in turning", "bored away", "out at an end", "tab of", "in places")
        )


def test_end_grain_takes_colour_deeper() -> None:
    program = compiled((SolidStep(), DyeStep(depth_mm=1, end_depth_mm=12)), 16, 16, 100)
    points = np.array([[0, 0, 10], [0, 0, 14], [7.5, 0, 50], [6.5, 0, 50], [0, 0, 95]], dtype=np.float32).T
    dyed = [program.materials[m].key.startswith("dyed") for m in evaluate_reference(program, points).material]
    assert dyed == [True, False, True, False, True]
    round_one = compiled((SolidStep(), DyeStep(depth_mm=1, end_depth_mm=0.1)), 16, 16, 100, True)
    corner = np.array([[5.2, 5.2, 50], [4.6, 4.6, 50]], dtype=np.float32).T
    dyed = [round_one.materials[m].key.startswith("dyed") for m in evaluate_reference(round_one, corner).material]
    assert dyed == [True, False]


def test_islands_are_all_parts_but_the_largest(tideline: Job, shop: Shop) -> None:
    edge = InsertStep(form="edge", middle_mm=5.2, rough_mm=2.5, slope_deg=0, seed=3)
    job = made_of(tideline, edge, CastStep())
    layout = plan(job, shop).layout
    assert layout is not None
    parts = islands(job, layout)
    assert parts, "this edge breaks the resin's skin into pieces"
    barrel = laid_barrels(job, layout)[0]
    assert all(barrel.start_mm <= part.at_mm <= barrel.end_mm for part in parts)
    assert [part.volume_ml for part in parts] == sorted((part.volume_ml for part in parts), reverse=True)
    whole = made_of(tideline, InsertStep(form="edge", middle_mm=0, rough_mm=0, slope_deg=0), CastStep())
    flat = plan(whole, shop).layout
    assert flat is not None
    assert islands(whole, flat) == ()


@pytest.mark.parametrize(
    ("count", "words", "title"), [(1, "is held", "A piece hangs"), (2, "are held", "2 pieces hang")]
)
def test_pieces_that_hang_by_the_bond_alone_are_counted(
    tideline: Job, shop: Shop, monkeypatch: pytest.MonkeyPatch, count: int, words: str, title: str
) -> None:
    there = tuple(Island(0, "Holly", 40.0 + 10 * n, 0.4) for n in range(count))
    monkeypatch.setattr("orvek.planning.blank.kept.islands", lambda _job, _layout: there)
    job = deeds.set_steps(tideline, (InsertStep(form="edge"), *tideline.blank.steps))
    (told,) = (finding for finding in plan(job, shop).findings if "bond alone" in finding.title)
    assert told.title.startswith(title)
    assert words in told.because
