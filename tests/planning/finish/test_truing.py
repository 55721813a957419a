"""True or not: whose fault it is, on made-up barrels; what cleans up; how barrels are held, and put back."""

from __future__ import annotations

import cmath
import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft import truing
from orvek.documents import Fault, Holding, Job, Round, Shop, Truing, deeds
from orvek.errors import BadFieldError
from orvek.planning import Plan, Severity, plan
from orvek.planning.finish.results import TruePlan
from orvek.planning.route.steps import steps_of

_KINDS = ("none", "tailstock", "headstock", "holding", "left end", "right end", "hole")


def dial(rng: random.Random, off: complex, oval_mm: float) -> truing.Readings:
    """What a dial of 0.01 mm, read to ±0.01 mm, shows of a section that is off by a vector and oval."""
    zero = rng.uniform(-0.5, 0.5)
    angles = (n * math.pi / 2 for n in range(4))
    true = (zero + (off * cmath.exp(-1j * a)).real + oval_mm * math.cos(2 * a) for a in angles)
    one, two, three, four = (round(value / 0.01) * 0.01 + rng.uniform(-0.01, 0.01) for value in true)
    return one, two, three, four


def vector(rng: random.Random, low: float, high: float) -> complex:
    return cmath.rect(rng.uniform(low, high), rng.uniform(0, 2 * math.pi))


def made_up(rng: random.Random, kind: str) -> tuple[list[complex], list[complex]]:
    """The shares of holding and barrel at both ends: one fault, and what a careful bench leaves beside it."""
    holding, barrel = ([vector(rng, 0, 0.008) for _ in "lr"] for _ in "hb")
    most = vector(rng, 0.06, 0.5)
    alike = [most + vector(rng, 0, 0.01) for _ in "lr"]
    if kind in {"tailstock", "headstock"}:
        holding[kind == "tailstock"] = most
    elif kind in {"left end", "right end"}:
        barrel[kind == "right end"] = most
    return alike if kind == "holding" else holding, alike if kind == "hole" else barrel


def test_the_fault_of_a_thousand_barrels_is_named() -> None:
    rng, named = random.Random(4), 0
    for _ in range(1000):
        kind = rng.choice(_KINDS)
        holding, barrel = made_up(rng, kind)
        oval = rng.uniform(-0.03, 0.03)
        shares = []
        for h, b in zip(holding, barrel, strict=True):
            first, turned = (truing.runout(dial(rng, one, oval)) for one in (h + b, h - b))
            assert first.eccentricity_mm == pytest.approx(abs(h + b), abs=0.02)
            shares.append(truing.shares(first.off, turned.off))
        (h0, b0), (h1, b1) = shares
        named += truing.fault_of((h0, h1), (b0, b1)) == kind
    assert named >= 950


@given(st.floats(0, 0.5), st.floats(0, 360), st.floats(-0.1, 0.1), st.floats(-5, 5))
def test_runout_is_told_from_ovality_and_from_where_the_dial_stood(
    off: float, turn: float, oval: float, zero: float
) -> None:
    vector_ = cmath.rect(off, math.radians(turn))
    read = [
        zero + (vector_ * cmath.exp(-1j * a)).real + oval * math.cos(2 * a) for a in (n * math.pi / 2 for n in range(4))
    ]
    found = truing.runout((read[0], read[1], read[2], read[3]))
    assert found.eccentricity_mm == pytest.approx(off, abs=1e-9)
    assert found.oval_mm == pytest.approx(oval, abs=1e-9)
    assert 0 <= found.direction_deg < 360


def rounds(first: complex, turned: complex) -> tuple[Round, Round]:
    made = []
    for off in (first, turned):
        read = ((off * cmath.exp(-1j * n * math.pi / 2)).real for n in range(4))
        made.append(Round(**dict(zip(("at_0_mm", "at_90_mm", "at_180_mm", "at_270_mm"), read, strict=True))))
    return made[0], made[1]


def read_so(job: Job, holding: tuple[complex, complex], barrel: tuple[complex, complex]) -> Job:
    (left, left_t), (right, right_t) = (rounds(h + b, h - b) for h, b in zip(holding, barrel, strict=True))
    return deeds.set_truing(job, 0, left=left, left_turned=left_t, right=right, right_turned=right_t)


def true_of(planned: Plan) -> TruePlan:
    assert planned.finish is not None
    return planned.finish.trues[0]


def test_a_bent_tailstock_is_named_and_the_lip_it_would_leave(tideline: Job, shop: Shop) -> None:
    planned = plan(read_so(tideline, (0j, 0.14 + 0j), (0j, 0j)), shop)
    true = true_of(planned)
    assert true.fault == "tailstock"
    assert true.most_mm == pytest.approx(0.14)
    assert any("0.14 mm would be felt at the right end" in line for line in true.lines)
    finding = next(one for one in planned.findings if "run true" in one.title)
    assert finding.severity == Severity.CAUTION
    assert true_of(plan(read_so(tideline, (0j, 0j), (0j, 0j)), shop)).fault == "none"
    askew = true_of(plan(read_so(tideline, (0j, 0j), (0.2 + 0j, -0.2 + 0j)), shop))
    assert askew.fault == "askew"


def test_a_barrel_that_does_not_clean_up_is_a_stop(tideline: Job, shop: Shop) -> None:
    job = read_so(tideline, (0.3 + 0j, 0.3 + 0j), (0j, 0j))
    tool = plan(job, shop).finish.sizes[0].tool_mm[0].value  # type: ignore[union-attr]
    for more, stops in ((0.4, True), (0.8, False)):
        now = deeds.set_sized(job, 0, "now_left_mm", tool + more)
        planned = plan(now, shop)
        clean = true_of(planned).clean_mm
        assert clean is not None
        assert clean.value == pytest.approx(more / 2 - 0.3)
        assert any("clean up" in one.title and one.severity == Severity.STOP for one in planned.findings) == stops


def test_readings_that_say_nothing_are_said(tideline: Job, shop: Shop) -> None:
    job = deeds.read_round(tideline, 0, "left", "at_0_mm", 0.1)
    assert "1 of four angles" in true_of(plan(job, shop)).lines[0]
    square = deeds.set_truing(tideline, 0, left=Round(at_0_mm=0, at_90_mm=4, at_180_mm=0, at_270_mm=4))
    true = true_of(plan(square, shop))
    assert "apart" in true.lines[0]
    assert true.ends[0].off is None
    with pytest.raises(BadFieldError):
        deeds.read_round(tideline, 0, "left", "at_0_mm", 99.0)
    felt = true_of(plan(deeds.set_truing(tideline, 0, lip="stays with the bushing", centres="do not meet"), shop))
    assert len(felt.lines) == 2
    wall = true_of(plan(deeds.set_truing(job, 0, by="the wall, by calipers", left=rounds(0.2, 0)[0]), shop))
    assert wall.ends[0].barrel == pytest.approx(0.2)
    assert Truing().is_begun is False


def test_the_stack_on_the_mandrel_is_filled_by_spacers(tideline: Job, shop: Shop) -> None:
    held = shop.with_(holding=Holding(way="mandrel", shaft_mm=190, nut_mm=14, bushing_mm=12.7, spacers="5 10 20"))
    finish = plan(tideline, held).finish
    assert finish is not None
    assert finish.hold is not None
    barrels = sum(one.tube_length_mm for one in tideline.laid)
    assert finish.hold.fill_mm.value == pytest.approx(190 - barrels - 3 * 12.7 - 14)
    assert finish.hold.stack[0] == "bushing"
    assert finish.hold.stack[-1] == "nut"
    assert sum(finish.hold.spacers_mm) <= finish.hold.fill_mm.value
    assert any("mandrel" in line for line in finish.lathe)
    assert plan(tideline, held).caution("finish.mandrel")
    short = plan(tideline, held.with_(holding=held.holding.with_(shaft_mm=100)))
    assert any("onto the mandrel together" in one.title for one in short.findings)
    with pytest.raises(BadFieldError):
        Holding(way="mandrel").with_(spacers="five")
    assert plan(tideline, shop).finish.hold is None  # type: ignore[union-attr]


def test_a_barrel_put_back_after_a_repair_is_seen_to_run_true(tideline: Job, shop: Shop) -> None:
    """Filled while it was turned: read where there is a dial, and half round when it is off."""
    fault = Fault(kind="blow-out", at_mm=25, long_mm=3, wide_mm=2, deep_mm=0.3, moment="turning", way="fill")
    job = deeds.add_fault(tideline, fault)
    dialled = shop.with_(holding=Holding(has_dial=True))

    def task(shop: Shop, job: Job) -> list[str]:
        planned = plan(job, shop)
        assert planned.route is not None
        keys = [one.key for one in planned.route.operations]
        true = next(one for one in planned.route.operations if one.kind == "true")
        assert keys.index(true.key) == keys.index(true.key.removesuffix(":true")) + 1
        return [step.key.removeprefix(true.key) for step in steps_of(planned, true)]

    assert len(task(shop, job)) == 2
    assert len(task(dialled, job)) == 10
    off = deeds.set_truing(job, 0, left=rounds(0.2, 0)[0])
    assert len(task(dialled, off)) == 19
