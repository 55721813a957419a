"""What is said of cures, logs, bits, cuts, bushings and of what was learned, written down and held to.

Recorded as the sixteen are: `ORVEK_RECORD=1 python -m pytest tests/jobs`, and the difference is read.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from datetime import date, datetime, timedelta
from itertools import product

import pytest
from msgspec.structs import replace

from orvek.documents import (
    Accuracy,
    Actual,
    BoredHole,
    BushingReading,
    CureLog,
    CutStep,
    Fault,
    GlueUp,
    Layer,
    Observation,
    ReorientStep,
    RipStep,
    Shop,
    StackStep,
)
from orvek.documents.deeds import set_value
from orvek.documents.shelf.soaked import CORE, DRYING, DYE_END, DYE_SIDE, UPTAKE
from orvek.planning import plan
from orvek.planning.bar import narrowed
from orvek.planning.compared import compared
from orvek.planning.cure.findings import answer
from orvek.planning.cure.moved import moved
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.results import Band, CureForecast
from orvek.planning.cure.thermometer import thermometer_log
from orvek.planning.finish.lathe import lathe_lines, readings_now, wear_lines
from orvek.planning.glue_up.meeting import measured_accuracy
from orvek.planning.glue_up.order import hindered, uncut
from orvek.planning.pen.sharing import shared_bits, shared_bushings, shared_tubes
from orvek.planning.records.closing import closed
from orvek.planning.records.learned import learned
from orvek.planning.records.search import words_of
from orvek.planning.route.steps import steps_of
from orvek.planning.soak.words import treatment_lines
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from tests.jobs.recorded_text import hold, prose, said_of, sentences
from tests.jobs.told import told

_NOON = datetime(2026, 11, 26, 12, 0)
_SHEET = (Layer(material="brass", thickness_mm=1.0),)


def answers(_shop: Shop) -> Iterator[str]:
    """A cure that is soon, late, perhaps not within the week, or not at all; poured earlier and later."""
    planned = plan(demo_job(), _shop)
    asked = cure_question(planned)
    assert asked is not None
    never, perhaps = Band(math.inf, math.inf, math.inf), Band(3000.0, math.inf, math.inf)
    bands = (Band(20, 30, 45), Band(300, 420, 600), Band(900, 1400, 4200), Band(2000, 3000, math.inf), perhaps, never)
    for drill_h, ready, out in product((None, 20.0, 60.0), bands, bands[::2]):
        day = None if drill_h is None else date(2026, 11, 26) + timedelta(hours=drill_h)
        there = asked.conditions.with_(poured_on=date(2026, 11, 26), poured_h=10.0, drill_on=day, drill_h=18.0)
        question = replace(asked, conditions=there)
        forecast = CureForecast(question, gel_min=bands[0], demould_min=out, ready_min=ready)
        yield prose(answer(forecast))
    cold = asked.conditions.with_(night_c=12.0)
    with pytest.MonkeyPatch.context() as patched:  # by a rule instead of the heat: colder by night
        patched.setattr("orvek.planning.cure.moved._hardens_min", lambda _, hour: None if hour > 23 else 500 + 9 * hour)
        for hour in (2.0, 18.0, 23.5):
            for one in (CureForecast(replace(asked, conditions=cold), demould_min=bands[1]), CureForecast(asked)):
                yield from told(moved(one, hour).demould_min, f"poured at {hour}")


def logs(_shop: Shop) -> Iterator[str]:
    """Thermometers' logs in all ways that they are written."""
    rows = "0;21.5\n10;24\n20;31,5\n30;44\n40;41"
    written = (
        rows, rows.replace(";", ", "), rows.replace("\n", " °C\n"), rows.replace("21.5", "70 °F"),
        "time;T\nx;y\n" + rows,
        "0:00 70\n0:30 95\n1:00:30 120\n4:10 99", "0,21\n1,22\n2,23\n3,22\n40,30", "5;20\n3;22\n9;21",
        "0\t20\n0\t21\n0\t22",
        "8:15;80\n8:30;95\n8:45:30;140,5\n",
    )  # fmt: skip
    for text in written:
        found = thermometer_log(text)
        yield f"{found.peak_c:.4g} {found.peak_min:.4g} {prose(found.warnings)}"


def shared(shop: Shop) -> Iterator[str]:
    """Bits, tubes and bushings of pens that are nearly alike."""
    pens = shop.pens[:3]
    near = pens[0].with_(
        name="Near",
        barrels=tuple(
            barrel.with_(
                bit_diameter_mm=barrel.bit_diameter_mm + 0.02, tube_diameter_mm=barrel.tube_diameter_mm + 0.03,
                wide_bit_mm=barrel.bit_diameter_mm + 1, wide_depth_mm=6, bushing_left_mm=12.4, bushing_right_mm=12.41,
            )
            for barrel in pens[0].barrels
        ),
    )  # fmt: skip
    for share in (shared_bits, shared_tubes, shared_bushings):
        for one in share((*pens, near, near.with_(name="Again"))):
            yield f"{share.__name__} {one.size_mm:g} {one.length_mm} {one.users} {one.pens}"


def sawn_first(_shop: Shop) -> Iterator[str]:
    """Cuts that may all be sawn before any is glued, and such that may not; how far off calipers say a saw is."""
    one = CutStep(angle_deg=60, centre_mm=40, kerf_mm=1.7, sheet=_SHEET)
    beside = (
        one.with_(centre_mm=at, azimuth_deg=azimuth) for at, azimuth in product((41.0, 44.0, 56.0, 90.0), (0, 180, 360))
    )
    for steps in (
        *((StackStep(), one, other) for other in beside),
        (StackStep(), one, RipStep(), one.with_(centre_mm=90)),
        (StackStep(), one, one.with_(centre_mm=90, tab_mm=2)),
        (StackStep(), one.with_(register_by="normal"), one.with_(centre_mm=90)),
        (StackStep(), ReorientStep(angle_deg=10), one.with_(angle_deg=90), one.with_(centre_mm=42, angle_deg=30)),
        (StackStep(),),
    ):
        for raw in ((20.0, 20.0, False), (20.0, 14.0, False), (22.0, 22.0, True)):
            places = [f"{cut.index} {cut.step.centre_mm:.4g}" for cut in uncut(steps)]
            yield f"{prose(hindered(steps, raw))} {places} {narrowed(steps, raw)}"
    for kerfs, sheets in (((1.9, 2.0), (1.0,)), ((1.9, 2.0, 2.2), (1.0, 1.01, 1.02)), ((1.0, 1.0, 1.0), (0.1, 5, 9))):
        found = measured_accuracy(Accuracy(), GlueUp(kerf_readings_mm=kerfs, sheet_readings_mm=sheets))
        yield f"{found.kerf_mm:.4g} {found.sheet_mm:.4g}"


def at_the_lathe(shop: Shop) -> Iterator[str]:
    """Tools and what is left for tear-out; bushings that have worn."""
    job, pen = third_demo_job(), demo_job().pen
    assert pen is not None
    for route, deep, moment in product(
        ("soft, not stabilised", "nothing"), (None, 0.1, 0.3, 0.6), ("turning", "later")
    ):
        found = () if deep is None else (Fault(deep_mm=deep, moment=moment), Fault(deep_mm=0.05, moment="sanding"))
        changed = set_value(set_value(job, ("soak", "route"), route), ("faults", "found"), found)  # type: ignore[arg-type]
        planned = plan(changed, shop)
        yield from sentences(lathe_lines(planned))
        yield from sentences(treatment_lines(planned.soak, changed, planned.units)) if planned.soak else ()
        yield from (said_of(one) for one in planned.findings if one.station.value == "Finish")
    sizes = ((12.5, 0), (12.44, 30), (12.3, 90), (12.45, 60))
    kept = tuple(
        BushingReading(name=f"{end} {n}", pen=pen.name, barrel=pen.barrels[0].name, end=end, size_mm=size,
                       day=date(2026, 1, 5) + timedelta(days=days))
        for end, (n, (size, days)) in product(("left", "right"), enumerate(sizes))
        if end == "left" or n < 2
    )  # fmt: skip
    worn = shop.with_(bushings=kept)
    yield from sentences(wear_lines(demo_job(), worn, worn.preferences.units))
    yield from (said_of(one) for one in plan(demo_job(), worn).findings if "ushing" in one.title)
    barrels = tuple(barrel.with_(bushing_left_mm=11.2, bushing_right_mm=12.9) for barrel in pen.barrels)
    yield from (str(one) for one in readings_now(demo_job().with_(pen=pen.with_(barrels=barrels)), date(2026, 11, 26)))


def lessons(shop: Shop) -> Iterator[str]:
    """What is learned of wood and resin that was watched, and what a batch comes to beside what was planned."""
    kinds = (UPTAKE, DRYING, CORE, DYE_SIDE, DYE_END)
    soaked = tuple(
        Observation(name=f"{kind} {n}", seen=kind, species=species, value=value, expected=10)
        for kind, species, (n, value) in product(kinds, ("bigleaf-maple", "pear"), enumerate((8.0, 13.0, 11.0)))
        if species == "pear" or n == 0
    )
    watched = tuple(
        CureLog(resin=resin, mass_g=100, temperature_c=22, gel_min=gel, peak_c=60) for resin, gel in
        (("Quay slow clear", 95.0), ("Quay slow clear", 120.0), ("Ebb quick", 12.0))
    )  # fmt: skip
    holes = ((7.0, 55.0, 0.2, None), (7.0, 60.0, 0.5, 1.2), (10.5, 60.0, 0.3, 0.4), (7.0, 40.0, 0.1, 2.2))
    bored = tuple(
        BoredHole(name=f"Hole {n}", bit_mm=bit, depth_mm=depth, off_mm=off, torn_mm=torn)
        for n, (bit, depth, off, torn) in enumerate(holes)
    )
    rich = shop.with_(soaked=soaked, cure_log=watched, bored=bored)
    for row in learned(rich, (demo_job(), second_demo_job())):
        if row.count:
            figures = f"{row.value:.5g} {row.low:.5g} {row.high:.5g} {row.count}"
            written = row.written(rich.preferences.units)
            yield f"{row.key}: {figures} {written} {prose(row.source)} {row.can_be_set_back}"
    for job in (demo_job(), second_demo_job()):
        yield from told(plan(job, rich).bore)
        planned = plan(job, shop)
        assert planned.route is not None
        steps = [step for task in planned.route.operations for step in steps_of(planned, task)]
        readings = (
            *((step.key, "weighed", step.target_g, "g") for step in steps if step.target_g),
            *((step.key, "measured", step.target_mm, "mm") for step in steps if step.target_mm),
            *((step.key, "measured", step.target_c, "°C") for step in steps if step.target_c),
        )
        weighed = tuple(
            Actual(task=key, what=what, value=1.02 * target, planned=target, unit=unit, when=_NOON)  # type: ignore[arg-type]
            for key, what, target, unit in readings
        )
        busy = planned.job.with_(work=planned.job.work.with_(actuals=(*planned.job.work.actuals, *weighed)))
        assert len(compared(plan(busy, shop))) > len(compared(planned))
        for one in (job, busy, busy.with_(pen=None)):
            for row in compared(plan(one, shop)):
                allowed = f"{row.low:.4g} to {row.high:.4g} {row.is_within} {row.off_pct:.3f}"
                yield f"{prose(row.words)} {row.written(shop.preferences.units)} {allowed}"
        yield prose(words_of(job, shop.ledger))
        entry = closed(planned, _NOON)
        yield f"{entry.started} {entry.good} {prose(entry.told)} {entry.cost_good} {entry.minutes} {entry.by_stage_min}"


TELLING: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (answers, logs, shared, sawn_first, at_the_lathe, lessons)
}


@pytest.mark.parametrize("name", TELLING)
def test_it_says_what_it_said(name: str, shop: Shop) -> None:
    hold(f"lessons_{name}", TELLING[name](shop))
