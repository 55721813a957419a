"""What is said where things are odd, written down and held to: late and hot cures, small fills, odd holes.

Recorded as the sixteen are: `ORVEK_RECORD=1 python -m pytest tests/jobs`, and the difference is read.
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Iterator
from contextlib import suppress
from datetime import date
from itertools import product
from types import SimpleNamespace
from typing import Any

import pytest
from msgspec.structs import replace

from orvek.craft.faults import filled_chance_pct
from orvek.documents import Board, Bore, CureLog, Fault, Hole, Insert, InsertStep, Job, PlugStep, Shop, from_text
from orvek.documents.deeds import choose_resin, set_value
from orvek.errors import OrvekError
from orvek.planning import Plan, plan, with_answer
from orvek.planning.bore import words
from orvek.planning.cure import remedies
from orvek.planning.cure.findings import answer
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.results import Band, CureForecast, CureQuestion
from orvek.planning.finish.press import depth_window, press_lines
from orvek.planning.glue_up.nesting import Placed, nest_question, offcuts
from orvek.planning.glue_up.results import NestAnswer, NestQuestion
from orvek.planning.glue_up.saw import Stock, face_of
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from orvek.workpiece.light_test import LightTest, strength
from tests.jobs.recorded_text import New, hold, prose, put, said_of, sentences
from tests.jobs.the_sixteen import SIXTEEN
from tests.jobs.told import told
from tests.mutants import seeds

_DAY = date(2026, 11, 27)


def findings_of(jobs: Iterator[Job], shop: Shop, *stations: str) -> Iterator[str]:
    """The findings of jobs one after another, each said once."""
    new = New()
    for job in jobs:
        planned = plan(job, shop)
        assert not planned.failed
        yield from new.among(said_of(one) for one in planned.findings if one.station.value in stations)


def questions(shop: Shop) -> Iterator[tuple[Plan, CureQuestion]]:
    """One casting asked about in several shops: warm and cold, dry and damp, drilled soon, late, in layers."""
    wanted: tuple[dict[str, Any], ...] = (
        {},
        {"drill_on": date(2026, 11, 28), "poured_on": _DAY},
        {"drill_on": date(2026, 12, 1), "poured_on": _DAY, "night_c": 12.0, "humidity_pct": 85.0},
        {"layers": 2, "parts_c": 24.0, "humidity_pct": 30.0},
    )
    for more, shop_c, mould in product(wanted, (14.0, 26.0), (None, 60.0)):
        job = set_value(demo_job(), ("batch", "shop_temperature_c"), shop_c)
        job = set_value(job, ("pour", "conditions"), job.pour.conditions.with_(**more))
        if mould is not None and job.pour.mould is not None:
            job = set_value(job, ("pour", "mould"), job.pour.mould.with_(depth_mm=mould, width_mm=mould))
        planned = plan(job, shop)
        question = cure_question(planned)
        assert question is not None
        yield planned, replace(question, may_layer=True)


def by_rule(question: CureQuestion, *_more: Any, step: Any = None, **_others: Any) -> Any:
    """A casting by a rule of thumb: warmer is sooner and hotter, thicker is hotter, a step is a slower resin."""
    there = question.conditions
    heat = (question.shop_c if there.parts_c is None else there.parts_c) - 20
    warmed = (there.warm_min or 0) * ((there.warm_c or 20) - 20) / 12 if there.warm_c is not None else 0.0
    late = 1.2 if step is not None and step[0] < 0 else 1.0
    cold = 600 if there.night_c is not None and there.night_c < 15 else 0
    ready = (2600 + cold - 60 * (question.shop_c - 20) - warmed) * late
    hot = 0.95 + 0.1 * (step is not None and step[0] > 0)
    return SimpleNamespace(ready_min=max(300.0, ready), peak_c=(52 + 2 * heat + question.depth_mm) * hot)


def cures(shop: Shop) -> Iterator[str]:
    """Forecasts of every kind, what follows from them, and the ways out, by a rule instead of the heat."""
    fit, new = SimpleNamespace(sd=(0.27, 0.1, 4.0, 0.2)), New()
    log = (CureLog(resin="x", mass_g=100, temperature_c=22, gel_min=90),)
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(remedies, "cast", by_rule)
        for number, (planned, asked) in enumerate(questions(shop)):
            question = replace(asked, log=log) if number % 2 else asked
            casting = by_rule(question)
            ready, peak = casting.ready_min, casting.peak_c
            forecast = CureForecast(
                question,
                gel_min=Band(70, 95, 130),
                gelled_min=Band(100, 140, 200),
                tack_ends_min=420.0,
                demould_min=Band(0.3 * ready, 0.4 * ready, math.inf if number % 5 == 4 else 0.5 * ready),
                ready_min=Band(0.8 * ready, ready, 1.3 * ready),
                peak_c=Band(peak - 12 - 3 * number, peak, peak + 14),
                cure_when_drilled=Band(0.61, 0.7, 0.8),
                cure_at_end=Band(0.8, 0.86 + 0.01 * number, 0.97),
                cup_lives_min=tuple(Band(life, 1.3 * life, 1.6 * life) for life in (12 + 3 * number, 9 + 2 * number)),
                far=log if number == 3 else (),
            )
            for make in (remedies.sooner, remedies.cooler):
                for one in make(question, fit, forecast, lambda _: None, 0.6):  # type: ignore[arg-type]
                    puts = {str(edit.path[-1]): put(edit.value) for edit in one.edits}
                    yield f"{number} {make.__name__}: {prose(one.label)} {puts}"
            found = with_answer(planned, "cure", forecast)
            yield f"{number} {question.shop_c} °C, {question.depth_mm:g} mm: {prose(answer(forecast))}"
            yield from new.among(said_of(one) for one in found.findings if one.key.startswith("cure"))
            none = replace(forecast, peak_c=None, ready_min=None)
            assert remedies.cooler(question, fit, none, lambda _: None, 0.6) == ()  # type: ignore[arg-type]


def boards(shop: Shop) -> Iterator[str]:
    """What is left of boards, and what of them is used."""
    planks = (Board(name="Long", length_mm=600, width_mm=90), Board(name="Short", length_mm=150, width_mm=40))
    stock = tuple(
        Stock("Slat", "hard-maple", long_mm, wide_mm, 6.0, 1) for long_mm, wide_mm in ((132, 22), (60, 10), (140, 38))
    )
    question = NestQuestion(stock, planks, 1.6)
    layouts = (
        (Placed(0, 0, 0, 0), Placed(0, 0, 133.6, 0), Placed(0, 1, 0, 23.6)),
        (Placed(0, 0, 0, 23.6), Placed(1, 2, 0, 0)),
        (Placed(1, 1, 0, 11.6), Placed(1, 1, 61.6, 0), Placed(0, 2, 200, 40)),
    )
    for placed in layouts:
        made = NestAnswer(question, placed, (), "", is_best=True)
        yield f"{made.used_pct:.4g} % {prose(offcuts(made))}"
    for job in (second_demo_job(), SIXTEEN["05 herringbone"](), SIXTEEN["06 scallops"]()):
        planned = plan(job, shop)
        assert planned.glue_up is not None
        yield f"{job.batch.name}: {planned.glue_up.yield_pct:.4g} % of the wood"
        yield from told(nest_question(planned))
    yield " ".join(face_of(angle) for angle in (0, 90, 180, 270, 359.9999999, -90, 45, 91, 22.5))


def fills(shop: Shop) -> Iterator[str]:
    """Flaws of all sizes, at the lip and in the middle, and how often a fill of them holds."""
    volumes = (0.5, 4.9, 5.1, 29.0, 31.0, 70.0, 99.0, 101.0, 400.0)
    yield " ".join(f"{filled_chance_pct(volume, 80.0):g}" for volume in volumes)
    new = New()
    for long_mm, wide_mm, deep_mm, at_mm in product((1, 6, 30), (0.1, 3), (0.5, 2, 4), (0, 25)):
        fault = Fault(kind="pit", long_mm=long_mm, wide_mm=wide_mm, deep_mm=deep_mm, at_mm=at_mm, moment="sanding")
        planned = plan(set_value(demo_job(), ("faults", "found"), (fault,)), shop)
        for one in planned.faults.found if planned.faults else ():
            yield f"{long_mm} x {wide_mm} x {deep_mm} at {at_mm}"
            for way in one.ways:
                yield from new.among(told(way, way.key))


def lights(_shop: Shop) -> Iterator[str]:
    """How strong a colour is by what was seen through a wall of it."""
    for cup in demo_job().cast.cups:
        for wall_mm, first, then in product((0.5, 2.0), ("none", "a little", "much"), (None, "none", "much")):
            tests = [LightTest(wall_mm, first), *([LightTest(1.0, then)] if then else ())]  # type: ignore[arg-type]
            yield f"{cup.name} {wall_mm} {first} {then}: {strength(cup, tests):.5g}"


def shapes(shop: Shop) -> Iterator[str]:
    """Every shipped design with one size of one step far too small and far too large."""

    def jobs() -> Iterator[Job]:
        known = seeds()
        for found in known[: len(known) // 2]:
            job = from_text(json.dumps(found))
            for number, step in enumerate(job.blank.steps):
                for name in type(step).model_fields:
                    now = getattr(step, name)
                    if not isinstance(now, float):
                        continue
                    for times in (0.4, 2.5):
                        with suppress(OrvekError):
                            yield set_value(job, ("blank", "steps", number, name), round(now * times, 2))

    yield from findings_of(jobs(), shop, "Pen", "Blank", "Glue-up", "Finish")
    yield from findings_of(laid_in(), shop, "Pen", "Blank", "Glue-up", "Bore", "Finish")


def laid_in() -> Iterator[Job]:
    """The demo's casting with cores, rods, chips and edges in it, of all sizes, and with plugs across and along."""
    cast = demo_job().blank.steps
    for form, diameter_mm, ring_mm in product(
        ("core", "rods", "chips", "edge"), (1.0, 6, 9.2, 10.2, 11.5, 14), (3.0, 6)
    ):
        laid = InsertStep(form=form, diameter_mm=diameter_mm, ring_mm=ring_mm, middle_mm=diameter_mm - ring_mm)
        yield set_value(demo_job(), ("blank", "steps"), (laid, *cast))
    for way, diameter_mm, offset_mm in product(("along", "across"), (0.5, 3.0, 8.0), (0.0, 5.0, 9.5)):
        plug = PlugStep(way=way, diameter_mm=diameter_mm, offset_mm=offset_mm, deep_mm=None if offset_mm else 6.0)
        yield set_value(demo_job(), ("blank", "steps"), (*cast, plug))


def cups(shop: Shop) -> Iterator[str]:
    """Cups on scales too small and too coarse, wood too wet, in resins that foam and such that do not."""

    def jobs() -> Iterator[Job]:
        for capacity_g, step_g in product((15.0, 55.0, 75.0, 500.0), (0.01, 1.0)):
            scale = demo_job().pour.scale.with_(capacity_g=capacity_g, resolution_g=step_g)
            yield set_value(demo_job(), ("pour", "scale"), scale)
        for moisture_pct, mass_g, resin in product((5.0, 13.5, 25.0), (None, 30.0), shop.resins):
            job = set_value(
                demo_job(), ("pour", "insert"), Insert(volume_ml=20, mass_g=mass_g, moisture_pct=moisture_pct)
            )
            yield choose_resin(job, resin)
        for temperature_c, humidity_pct in product((2.0, 35.0), (None, 20.0, 95.0)):
            job = set_value(third_demo_job(), ("batch", "shop_temperature_c"), temperature_c)
            yield set_value(job, ("soak", "drying", "humidity_pct"), humidity_pct)

    yield from findings_of(jobs(), shop, "Pour", "Soak", "Pen")


def presses(shop: Shop) -> Iterator[str]:
    """How far parts are in, from not at all to too far; and jobs of which half is not yet said."""
    pen = demo_job().pen
    assert pen is not None
    new = New()
    for now_mm in (None, 2.0, 11.0, 12.6, 13.0, 14.9, 15.2, 16.0):
        for low_mm, high_mm in ((13.0, 15.0), (13.0, 13.0), (None, 15.0), (13.0, None)):
            twist = pen.parts[0].with_(depth_low_mm=low_mm, depth_high_mm=high_mm)
            job = demo_job().with_(pen=pen.with_(parts=(twist, *pen.parts[1:])))
            planned = plan(job.with_(finish=job.finish.with_(in_mm=now_mm)), shop)
            yield from new.among(told(depth_window(planned.job)))
            yield from new.among(said_of(one) for one in planned.findings if one.station.value == "Finish")
            assert job.pen is not None
            yield from new.among(sentences(press_lines(job.pen, planned.units)))
    for job in (demo_job(), second_demo_job(), third_demo_job()):
        planned = plan(job.with_(pen=None), shop)
        assert not planned.failed
        assert planned.bore is None
        yield from new.among(said_of(one) for one in planned.findings)


def bores(shop: Shop) -> Iterator[str]:
    """Barrels that stop, step, lie on a pin or on nothing, glued with each glue, and what is said of each."""
    pen, new = demo_job().pen, New()
    assert pen is not None
    others: tuple[dict[str, Any], ...] = (
        {"inside": "no tube"},
        {"inside": "a pin", "hole_depth_mm": 25.0, "hole_end": "right"},
        {"hole_depth_mm": 40.0},
        {"wide_bit_mm": 9.6, "wide_depth_mm": 8.0, "set_back_mm": 3.0},
        {"wide_bit_mm": 9.2, "wide_end": "left", "bushing_left_mm": 11.0, "bushing_right_mm": 13.0},
        {"tube_length_mm": 110.0, "tube_diameter_mm": 6.9, "bit_diameter_mm": 7.0, "trim_mm": 5.0},
    )
    holes = (
        Hole(),
        Hole(from_end="both ends", measured_mm=8.5, left_x_mm=0.3, left_y_mm=0, right_x_mm=-0.6, right_y_mm=0.2),
        Hole(from_end="right", tube="reclaimed", chip_mm=2.5, chip_at="where the bit comes out"),
        Hole(from_end="left", chip_mm=6, chip_at="where it goes in", pattern_left_x_mm=0.8, pattern_right_y_mm=-1),
    )
    glues = [glue.key for glue in shop.all_glues]
    for number, (other, hole) in enumerate(product(others, holes)):
        barrels = (pen.barrels[0].with_(**other), *pen.barrels[1:])
        bore = Bore(
            holes=(hole,), glue=glues[number % len(glues)], is_plugged=bool(number % 2), centred="on the pattern"
        )
        fault = Fault(kind="off centre", at_mm=2, deep_mm=1.0, moment="boring")
        job = demo_job().with_(pen=pen.with_(barrels=barrels), bore=bore)
        planned = plan(set_value(job, ("faults", "found"), (fault,)), shop)
        assert not planned.failed
        assert planned.bore is not None
        units, made = planned.units, planned.bore
        for one in made.holes:
            each = (words.from_line(one), words.step_line(one, units), words.pecks_line(one, made, units))
            more = (words.centre_line(one, bore, units), words.travels_line(one, made, units))
            yield from new.among(sentences((*each, *more, words.depth_line(one, units))))
        yield from new.among(sentences((*words.tube_lines(made, bore, units), words.strength_line(made, units))))
        yield from new.among(told(made))
        yield from new.among(told(planned.faults))
        yield from new.among(said_of(one) for one in planned.findings if one.station.value in {"Bore", "Pen"})
    yield from (f"{key}: {prose(words.glue_why(key))}" for key in glues)


TELLING: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (cures, boards, fills, lights, shapes, cups, presses, bores)
}


@pytest.mark.parametrize("name", TELLING)
def test_it_says_what_it_said(name: str, shop: Shop) -> None:
    hold(f"corner_{name}", TELLING[name](shop))
