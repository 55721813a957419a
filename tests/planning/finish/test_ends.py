"""Ends that are worked beside turning, sealer, oil, a thread, holes that are opened up: on the route in their order."""

from __future__ import annotations

import pytest

from orvek.documents import Barrel, EndWork, Job, Pen, Shop, deeds
from orvek.planning import Plan, Severity, plan
from orvek.planning.route.steps import BenchStep, steps_of
from orvek.planning.threads import ANYWHERE, back_deg


def two_sizes(job: Job, shop: Shop) -> Job:
    """A pen of two barrels with bits of two sizes."""
    lower = Barrel(
        name="Lower", tube_length_mm=40, tube_diameter_mm=8, bit_diameter_mm=8.2, finished_left_mm=11,
        finished_right_mm=12,
    )  # fmt: skip
    wide = {"tube_diameter_mm": 10, "bit_diameter_mm": 10.3, "finished_left_mm": 13, "finished_right_mm": 12.5}
    cap = lower.with_(name="Cap", **wide)
    return job.with_(pen=Pen(name="Slack water", barrels=(lower, cap)), bore=job.bore.with_(press=shop.presses[0]))


def keys(made: Plan) -> list[str]:
    assert made.route is not None
    return [one.key for one in made.route.operations]


def steps(made: Plan, key: str) -> tuple[BenchStep, ...]:
    assert made.route is not None
    return steps_of(made, next(one for one in made.route.operations if one.key == key))


def test_a_piece_goes_on_before_the_finish_and_a_recess_is_cut_after_it(tideline: Job, shop: Shop) -> None:
    job = two_sizes(tideline, shop)
    job = deeds.add_end(job, EndWork(barrel_no=2, across_mm=10, long_mm=2.5, end="left"))
    job = deeds.add_end(job, EndWork(kind="a piece on a spigot", barrel_no=2, end="right", long_mm=12))
    job = deeds.add_end(job, EndWork(kind="parted off, nub by hand", barrel_no=1, across_mm=None))
    made = plan(job.with_(finish=job.finish.with_(school="thin, then medium", seal=2, seal_wait_min=30)), shop)
    order = keys(made)
    wanted = ["sand", "end_piece.1", "inspect", "seal", "coat", "level", "recess.0", "part_off.2", "press"]
    assert [key for key in order if key in wanted] == wanted
    assert made.finish is not None
    ring, piece, nub = made.finish.ends
    assert ring.cut_mm is not None
    assert (ring.cut_mm.value, ring.long_mm.value) == pytest.approx((10, 2.6))
    assert piece.cut_mm is not None  # a tube of 10 mm is 9.3 mm inside, as a guess; one and a half times as long
    assert (piece.cut_mm.value, piece.long_mm.value) == pytest.approx((9.25, 13.875))
    assert nub.cut_mm is None
    seal = next(one for one in made.route.operations if one.key == "seal")  # type: ignore[union-attr]
    assert seal.wait_min[1] == 60
    unsealed = plan(made.job.with_(finish=made.job.finish.with_(seal=0)), shop).finish
    assert unsealed is not None
    assert made.finish.coats_mm.value == unsealed.coats_mm.value
    assert not [one for one in made.findings if one.severity is Severity.STOP and "recess" in one.title]
    less = plan(deeds.remove_end(job, 0), shop)
    assert "recess.0" not in keys(less)


@pytest.mark.parametrize(
    ("across", "severity"),
    [(9.8, Severity.STOP), (10.0, None), (10.3, Severity.CAUTION), (11.5, None), (13.0, Severity.STOP)],
)
def test_a_ring_wants_a_shoulder_and_a_floor(
    tideline: Job, shop: Shop, across: float, severity: Severity | None
) -> None:
    job = deeds.add_end(two_sizes(tideline, shop), EndWork(barrel_no=2, across_mm=across))
    said = [one.severity for one in plan(job, shop).findings if "recess of" in one.title or "The ring" in one.title]
    assert said == ([severity] if severity is not None else [])


def test_an_end_of_a_barrel_that_is_not_there_is_said_and_removed(tideline: Job, shop: Shop) -> None:
    job = deeds.add_end(tideline, EndWork(barrel_no=4))
    made = plan(job, shop)
    (found,) = [one for one in made.findings if "belongs to no barrel" in one.title]
    assert found.remedies[0].edits[0].value == ()
    assert made.finish is not None
    assert not made.finish.ends


def test_all_holes_are_small_until_the_cap_is_chosen(tideline: Job, shop: Shop) -> None:
    job = two_sizes(tideline, shop)
    each = plan(job, shop)
    assert "open_up" not in keys(each)
    made = plan(job.with_(bore=job.bore.with_(bits="the smallest for all, then opened up")), shop)
    order = keys(made)
    assert order.index("bore") + 1 == order.index("open_up")
    bits = {one.figure for one in steps(made, "bore") if one.figure.startswith("bit")}
    assert len(bits) == 1
    measured = [
        (one.key, one.target_mm) for key in ("bore", "open_up") for one in steps(made, key) if one.kind == "measure"
    ]
    assert measured == [("bore:0.measured", 8.2), ("open_up:1.measured", 10.3)]
    assert {one.target_mm for key in ("bore", "open_up") for one in steps(made, key) if one.kind == "measure"} == {
        8.2,
        10.3,
    }
    alike = job.with_(pen=job.pen.with_(barrels=(job.pen.barrels[0], job.pen.barrels[0])))  # type: ignore[union-attr]
    assert "open_up" not in keys(plan(alike.with_(bore=made.job.bore), shop))


def test_a_thread_that_starts_anywhere_is_looked_at_before_anything_is_pressed(tideline: Job, shop: Shop) -> None:
    job = two_sizes(tideline, shop)
    assert "thread" not in keys(plan(job, shop))
    threaded = job.with_(finish=job.finish.with_(joint=ANYWHERE))
    order = keys(plan(threaded, shop))
    assert order.index("thread") + 1 == order.index("press")
    assert back_deg(threaded) == 0
    read = threaded.with_(finish=threaded.finish.with_(thread_deg=35))
    press = next(one for one in plan(read, shop).route.operations if one.key == "press")  # type: ignore[union-attr]
    assert [one.figure.value for one in press.settings if one.of == "the threaded part"] == [-35]
    assert [one.figure for one in steps(plan(read, shop), "press") if one.key == "press:back"] == ["35°"]
    one_barrel = read.with_(pen=read.pen.with_(barrels=read.pen.barrels[:1]))  # type: ignore[union-attr]
    assert back_deg(one_barrel) == 0


def test_oil_goes_into_the_last_thin_coats(tideline: Job, shop: Shop) -> None:
    job = tideline.with_(finish=tideline.finish.with_(school="thin, then thin with oil"))
    made = plan(job, shop)
    oiled = [one for one in steps(made, "coat") if "oil" in one.words]
    assert (len(oiled), len(steps(made, "coat"))) == (4, 8)
    assert oiled == list(steps(made, "coat")[4:])
    typed = plan(job.with_(finish=job.finish.with_(oil=60)), shop)
    assert len([one for one in steps(typed, "coat") if "oil" in one.words]) == 8
