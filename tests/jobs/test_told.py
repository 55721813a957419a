"""What the stations work out beside the sixteen jobs, written down and held to: faults, holes, soaks, records.

Recorded as the sixteen are: `ORVEK_RECORD=1 python -m pytest tests/jobs`, and the difference is read.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date, datetime, timedelta
from itertools import product

import pytest
from msgspec.structs import replace

from orvek.cards.records_text import records_csv, records_text
from orvek.cards.shelf_text import shelf_text
from orvek.cards.shopping import shopping_lines
from orvek.cards.timetable_text import timetable_text, today_text
from orvek.craft.faults import fault_kinds
from orvek.documents import DayHours, DyeStep, Fault, Hole, Hours, Job, Observation, PenPart, Shop, deeds
from orvek.documents.deeds import set_value
from orvek.documents.shelf.soaked import CORE, DYE_SIDE
from orvek.planning import Plan, plan, with_answer
from orvek.planning.becoming import fits
from orvek.planning.compared import compared
from orvek.planning.cure.findings import answer
from orvek.planning.cure.forecast import cure_forecast
from orvek.planning.cure.question import cure_question
from orvek.planning.faults.words import fault_lines, in_short, on_what, where
from orvek.planning.finish.press import depth_window, press_lines
from orvek.planning.finish.words import finish_lines, still_lines
from orvek.planning.records.again import what_differs
from orvek.planning.records.changes import proposals, tried
from orvek.planning.records.costs import pen_cost
from orvek.planning.records.learned import learned
from orvek.planning.records.overview import next_batches
from orvek.planning.records.side_by_side import beside
from orvek.planning.route.bench import pigment_words, still_words, wanted_g
from orvek.planning.route.steps import steps_of
from orvek.planning.shelf_list import ShelfStock, amount_line, counted_line, fitting, matching, piece_size, state_line
from orvek.planning.soak.words import treatment_lines
from orvek.planning.stock import to_buy
from orvek.planning.timetable.solving import quickly
from orvek.planning.timetable.weeks import weeks as worked_out
from orvek.planning.timetable.weeks import weeks_question
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from orvek.store.demo_records import with_demo_records
from orvek.store.demo_shelf import demo_pieces
from orvek.workpiece.slab import Slab, SlabBar, laid_out, share_used, troubles
from orvek.workpiece.slab_cuts import cuts
from tests.effort import SKETCH
from tests.jobs.recorded_text import New, hold, prose, said_of, sentences
from tests.jobs.the_sixteen import SIXTEEN
from tests.jobs.told import told

TODAY = date(2026, 11, 26)


class Thursday(date):
    """A calendar that stands still."""

    @classmethod
    def today(cls) -> Thursday:
        return cls(2026, 11, 26)


def faults_of(job: Job, shop: Shop, **more: object) -> Iterator[str]:
    """Every kind of fault at one place, with all ways out of each."""
    new = New()
    for kind in fault_kinds():
        fault = Fault(kind=kind.key, **more)
        planned = plan(set_value(job, ("faults", "found"), (fault,)), shop)
        for one in planned.faults.found if planned.faults else ():
            yield f"{kind.key}: {prose(on_what(one))} {prose(where(one, planned.units))}"
            for way in one.ways:
                yield prose(in_short(way, planned.units))
                yield from new.among(told(way))
            yield from new.among(sentences(fault_lines(one, planned.units)))
        yield from new.among(said_of(finding) for finding in planned.findings)


def faults(shop: Shop) -> Iterator[str]:
    yield from faults_of(demo_job(), shop)
    yield from faults_of(demo_job(), shop, at_mm=20, long_mm=9, deep_mm=2.4, moment="sanding", piece="found")
    shown = {"moment": "boring", "azimuth_deg": 130, "looks": ("chips packed in the hole", "it was hot")}
    yield from faults_of(second_demo_job(), shop, barrel=1, at_mm=40, wide_mm=6, **shown)
    yield from faults_of(third_demo_job(), shop, moment="later", at_mm=1, deep_mm=3.5, looks=("bare brass under it",))
    yield from faults_of(SIXTEEN["08 printed sheet"](), shop, deep_mm=1.5, azimuth_deg=-60)
    yield from faults_of(set_value(demo_job(), ("pour", "mould"), None), shop)
    yield from faults_of(set_value(demo_job(), ("pour", "resin"), None), shop)


def holes(shop: Shop) -> Iterator[str]:
    """How it is bored: from each end, in each holding, with what was measured."""
    measured = Hole(measured_mm=8.42, left_x_mm=0.2, right_y_mm=-0.5, tube_mm=8.3, tube="reclaimed", light="a little")
    changes: tuple[tuple[str, object], ...] = (
        ("holding", "round in a collet"),
        ("holding", "square in a fixed V"),
        ("turned", "on the bar's own axis"),
        ("centred", "on the pattern"),
        ("v_opens", "to the left"),
        ("exit_mm", 8.0),
        ("glue", "thick cyanoacrylate"),
        ("is_plugged", False),
        ("holes", (measured, Hole(from_end="both ends", chip_mm=2.5))),
    )
    for job in (demo_job(), second_demo_job(), third_demo_job()):
        new = New()
        for name, value in changes:
            planned = plan(set_value(job, ("bore", name), value), shop)
            yield f"{job.batch.name}, {name} {value}"
            yield from new.among(told(planned.bore))
            yield from new.among(said_of(one) for one in planned.findings if one.station == "Bore")


def finishes(shop: Shop) -> Iterator[str]:
    """Schools, tools and what is measured at the lathe."""
    changes: tuple[dict[str, object], ...] = (
        {"tool": "skew", "tenths": "by the tool, to the bushing", "wet": "wet throughout"},
        {"thin": 0, "medium": 0, "more_mm": 0.4},
        {"order": "in turn", "thin_drops": 3.0, "medium_drops": 4.0, "bottle": "open bottle"},
        {"level_to": "P1200", "bare_to": "P400", "clip_deg": 40.0, "best_deg": 10.0, "in_mm": 21.5},
    )
    halves = (
        PenPart(depth_low_mm=12.0),
        PenPart(depth_high_mm=15.0),
        PenPart(name="Cap", depth_low_mm=3, depth_high_mm=4),
    )
    pen = demo_job().pen
    assert pen is not None
    yield from sentences(press_lines(pen.with_(parts=halves), plan(demo_job(), shop).units))
    for half in halves:
        job = demo_job().with_(pen=pen.with_(parts=(PenPart(), half)))
        yield from told(depth_window(job.with_(finish=job.finish.with_(in_mm=15.4))))
    for job in (demo_job(), second_demo_job(), SIXTEEN["09 shell voids"]()):
        new = New()
        for change in changes:
            planned = plan(set_value(job, ("finish",), job.finish.with_(**change)), shop)
            assert planned.finish is not None
            assert planned.job.pen is not None
            yield f"{job.batch.name}, {change}"
            yield from new.among(told(planned.finish))
            yield from new.among(sentences(finish_lines(planned.finish, planned.job.finish, planned.units)))
            yield from new.among(sentences(press_lines(planned.job.pen, planned.units)))
            yield from sentences(line for size in planned.finish.sizes for line in still_lines(size, planned.units))
            yield from new.among(said_of(one) for one in planned.findings if one.station == "Finish")


def soaks(shop: Shop) -> Iterator[str]:
    """Wood by its shape and route."""
    job = set_value(third_demo_job(), ("pour", "pot"), demo_job().pour.pot)
    changes: tuple[tuple[tuple[str, ...], object], ...] = (
        (("soak", "wood", "form"), "hollow round"),
        (("soak", "wood", "form"), "irregular"),
        (("soak", "wood", "is_soft"), True),
        (("soak", "wood", "dry_g"), 118.0),
        (("soak", "drying", "way"), "in the air"),
        (("soak", "bath", "chamber"), "plain glass"),
        (("soak", "bath", "stands"), "lying"),
        (("soak", "bath", "gauge_bar"), 0.9),
        (("soak", "bath", "boils_kpa"), 4.0),
        (("soak", "bath", "pressed_bar"), 6.0),
        (("soak", "heat", "wide"), 2),
        (("soak", "heat", "high"), 3),
        (("soak", "heat", "is_wrapped"), True),
        (("soak", "heat", "has_fan"), True),
        (("soak", "heat", "core_c"), 130.0),
    )
    new = New()
    for path, value in changes:
        planned = plan(set_value(job, path, value), shop)
        assert planned.soak is not None
        yield f"{path} {value}"
        yield from new.among(told(planned.soak))
        yield from new.among(sentences(treatment_lines(planned.soak, planned.job, planned.units)))
        yield from new.among(said_of(one) for one in planned.findings if one.station == "Soak")
        yield from new.among(f"{one.key}: {prose(one.words)}" for one in planned.cautions)
    yield from dyed_and_probed(shop)


def dyed_and_probed(shop: Shop) -> Iterator[str]:
    """Dyes of every carrier put in in every way, ovens that a probe has told of, and what the pour is told."""
    new = New()
    probes = tuple(Observation(name=f"Probe {n}", seen=CORE, value=70 + 9 * n, expected=50) for n in range(3))
    ways = product(("water", "alcohol", "resin"), ("brushed on", "dipped", "under vacuum"), (2.0, 900.0), range(4))
    for carrier, way, minutes, known in ways:
        dye = DyeStep(carrier=carrier, way=way, soaked_min=minutes, depth_mm=2)  # type: ignore[arg-type]
        steps = (*(step for step in third_demo_job().blank.steps if not isinstance(step, DyeStep)), dye)
        job = third_demo_job().with_(blank=third_demo_job().blank.with_(steps=steps))
        seen = (*probes[:known], Observation(name="Side", seen=DYE_SIDE, carrier=carrier, value=3, expected=2))
        planned = plan(job, shop.with_(soaked=seen if known else ()))
        yield from new.among(told(planned.soak))
        yield from new.among(said_of(one) for one in planned.findings if one.station == "Soak")
        yield from new.among(f"{one.key}: {prose(one.words)}" for one in planned.cautions)


def records(shop: Shop) -> Iterator[str]:
    """The demo's ledger: what is learned, compared, proposed and costs."""
    shop = with_demo_records(shop)
    jobs = (demo_job(), second_demo_job(), third_demo_job())
    for job in jobs:
        planned = plan(job, shop)
        others = [one for one in jobs if one is not job]
        yield job.batch.name
        yield from told(pen_cost(planned, TODAY))
        yield from told(plan(set_value(job, ("batch", "spoilage_pct"), None), shop).bars)
        yield from told(compared(planned))
        yield from told(beside(planned, TODAY))
        yield from sentences(what_differs(planned))
        yield from sentences(records_text(next_batches(planned, plan, others, TODAY), planned.units).splitlines())
    yield from told(learned(shop, jobs))
    yield from told(proposals(shop.ledger))
    yield from told(tried(shop.ledger))
    yield from sentences(records_csv(shop.ledger).decode().splitlines())


def shelf(shop: Shop) -> Iterator[str]:
    """What lies there, what fits, what is to be bought."""
    jobs = (demo_job(), second_demo_job(), third_demo_job())
    shop = shop.with_(pieces=demo_pieces(shop, jobs[0], jobs[1], "album", TODAY))
    for job in jobs:
        planned = plan(job, shop)
        entries, stock = ShelfStock().entries(planned, tuple(one for one in jobs if one is not job))
        yield from sentences(shelf_text(entries, planned.units).splitlines())
        for entry in entries:
            lines = (piece_size(entry.piece, planned.units), counted_line(entry), state_line(entry))
            yield f"{entry.piece.name} {entry.left} {entry.used}: {prose(' | '.join(lines))}"
        yield from (entry.piece.name for entry in matching(entries, "bar", ""))
        for pen in shop.pens[:3]:
            fits = fitting(entries, pen, job.blank.saw_kerf_mm, planned.units)
            yield f"{pen.name}: {[entry.piece.name for entry in fits]}"
        yield from sentences(shopping_lines(to_buy(planned, stock)))
    owed = replace(entries[4], left=-3.0, used="Tideline")
    yield prose(f"{counted_line(owed)} {state_line(owed)} {amount_line(owed)}")


def cure(shop: Shop) -> Iterator[str]:
    """A forecast, worked out roughly: over a cold, damp night, warmed, with a day to drill on."""
    conditions = demo_job().pour.conditions.with_(night_c=12.0, humidity_pct=80.0, warm_c=50.0, drill_on=TODAY)
    planned = plan(set_value(demo_job(), ("pour", "conditions"), conditions), shop)
    question = cure_question(planned)
    assert question is not None
    forecast = cure_forecast(replace(question, effort=SKETCH))
    yield prose(answer(forecast))
    yield from told({name: getattr(forecast, name) for name in forecast.__struct_fields__ if name != "question"})
    found: Plan = with_answer(planned, "cure", replace(forecast, question=question))
    yield from (said_of(one) for one in found.findings if one.key.startswith("cure"))


def bench(shop: Shop) -> Iterator[str]:
    """What is said step by step at the bench, and how what was weighed is answered."""
    for name in ("01 swirl batch", "07 knot", "12 oblong own mould", "15 two barrel hybrid"):
        planned, new = plan(deeds.set_bars(SIXTEEN[name](), ()), shop), New()  # none is cast yet
        yield name
        for task in planned.route.operations if planned.route else ():
            steps = steps_of(planned, task)
            yield from new.among(line for step in steps for line in told(step))
            for step in steps:
                if step.target_g is not None:
                    grams = step.target_g
                    yield f"{step.key} {wanted_g(step, {step.of[0]: grams} if step.of else {}):.2f} g"
                    over = (pigment_words(planned, step, grams * more) for more in (1.01, 1.2, 1.66, 9.0))
                    yield from new.among(sentences(words for words in over if words))
                if step.target_mm is not None:
                    off = (-0.3, 0.0, 0.04, 0.6)
                    yield from new.among(sentences(still_words(step, step.target_mm + mm, planned) for mm in off))


def weeks(shop: Shop) -> Iterator[str]:
    """The weeks of three jobs: plain, promised and pinned, in few hours; laid step by step, without the solver."""
    evening = datetime(2026, 11, 26, 19, 30)
    jobs = (demo_job(), second_demo_job(), third_demo_job())
    first = plan(jobs[0], shop).route
    assert first is not None
    pinned = deeds.pin_task(jobs[0], first.operations[4].key, datetime(2026, 12, 5, 11, 0))
    promised = (pinned.with_(work=pinned.work.with_(promised=date(2026, 12, 11))), *jobs[1:])
    few = shop.with_(hours=Hours(days=(DayHours(from_h=19, to_h=22),) * 5 + (DayHours(from_h=9, to_h=12),) * 2))
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr("orvek.planning.timetable.weeks.solved", lambda question, _tell=None: quickly(question))
        patched.setattr("orvek.planning.timetable.findings.date", Thursday)  # no promise is past
        for of, hours in ((jobs, shop), (promised, few)):
            question = weeks_question(plan(of[0], hours, of[1:]))
            assert question is not None
            found = worked_out(replace(question, begin=evening), plan)
            for job in of:
                yield from sentences(timetable_text(found, job.batch.id).splitlines())
            for at in (evening, evening + timedelta(days=2, hours=1), evening + timedelta(days=9)):
                yield from sentences(today_text(found, at).splitlines())
            yield from told((found.ready_days[:5], found.ways))
            with_weeks = with_answer(plan(of[0], hours, of[1:]), "weeks", found)
            yield from (said_of(one) for one in with_weeks.findings if one.station == "Timetable")


def slabs(shop: Shop) -> Iterator[str]:
    """Bars on a slab, straight and askew, and their cuts; pieces and the pens they can become."""
    slab = Slab(310.0, 140.0, ((80.0, 40.0, 12.0), (220.0, 90.0, 8.0)))
    by_hand = (SlabBar(90, 60, 30, 132, 20), SlabBar(200, 60, 30, 132, 20), SlabBar(150, 110, 0, 132, 20))
    for bars in (laid_out(slab, 132.0, 20.0, 1.6), laid_out(slab, 90.0, 22.0, 3.0, 15.0), by_hand):
        yield from told(bars)
        yield f"{share_used(slab, bars):.3f} {prose(troubles(slab, bars, 1.6))}"
        yield from told(cuts(slab, bars, 1.6))
    for piece in demo_pieces(shop, demo_job(), second_demo_job(), "album", TODAY):
        for fit in fits(piece, shop.pens[:4], 1.6, shop.preferences.units):
            yield f"{piece.name} {fit.pen.name} {fit.pens} {fit.left_mm:.2f} {prose(fit.working)} {prose(fit.why_not)}"


TELLING: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (faults, holes, finishes, soaks, records, shelf, cure, bench, weeks, slabs)
}


@pytest.mark.parametrize("name", TELLING)
def test_it_says_what_it_said(name: str, shop: Shop) -> None:
    hold(f"told_{name}", TELLING[name](shop))
