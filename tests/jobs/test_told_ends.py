"""What the parts of a plan hold, down to their last figures, written down and held to: designs, layouts, pots, cups.

Recorded as the sixteen are: `ORVEK_RECORD=1 python -m pytest tests/jobs`, and the difference is read.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from itertools import product

import pytest

from orvek.craft.filling import fills
from orvek.documents import (
    ArcStep,
    CutStep,
    Fault,
    Hole,
    Insert,
    InsertStep,
    Job,
    Layer,
    PlugStep,
    ReorientStep,
    Shop,
    SquareStep,
    Step,
    Void,
    from_text,
    material,
)
from orvek.documents.deeds import choose_resin, set_value
from orvek.planning import Plan, plan
from orvek.planning.bar import bar_size, barrels_of, narrowed, raw_size_mm
from orvek.planning.blank.segments import amount_figure, step_figures
from orvek.planning.bore.crooked import cases
from orvek.planning.colour.part import behind_colour
from orvek.planning.cure.question import clock, cure_question
from orvek.planning.glue_up.nesting import nest_question
from orvek.planning.laying import window_mm
from orvek.planning.pen.words import hole_words
from orvek.planning.photos import doubts
from orvek.planning.pour.costs import cost_plan
from orvek.planning.timetable.words import closing, closing_line
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from orvek.store.demo_shelf import demo_album
from tests.designs import programs
from tests.jobs.recorded_text import New, flat, hold, prose, said_of, sentences
from tests.jobs.the_sixteen import SIXTEEN
from tests.jobs.told import told
from tests.mutants import seeds

_PARTS = ("bars", "layout", "pen", "pour", "bubbles", "colour", "glue_up", "route")


def parts(shop: Shop) -> Iterator[str]:
    """All that the parts hold for the shipped designs and the sixteen, what is new of each."""
    designs = [from_text(json.dumps(found)) for found in seeds()[3:]]
    new = {part: New() for part in _PARTS}
    some = (*designs[: len(designs) // 2 : 2], *designs[len(designs) // 2 :: 5])
    for job in (*some, *(made() for made in SIXTEEN.values())):
        planned = plan(job, shop)
        yield f"{job.batch.name}: {[step.kind for step in job.blank.steps]}"
        for part in _PARTS:
            yield from new[part].among(told(getattr(planned, part), part))


def made_of(shop: Shop) -> Iterator[str]:
    """What is said of blanks of every kind of step, how they are sawn and glued, and what is asked of the boards."""
    new = New()
    for name, steps in programs():
        planned = plan(demo_job().with_(blank=demo_job().blank.with_(steps=steps)), shop)
        assert not planned.failed
        yield name
        yield from new.among(said_of(one) for one in planned.findings if one.station.value in {"Blank", "Glue-up"})
        for part in (planned.glue_up, nest_question(planned), planned.finish):
            yield from new.among(told(part))


def laid(shop: Shop) -> Iterator[str]:
    """Where tubes lie: parted in the middle or not, slid, end for end, on bars from moulds and in hand, and how far."""
    pen = demo_job().pen
    assert pen is not None
    one = pen.with_(barrels=pen.barrels[:1])
    blanks = (
        {},
        {"joint_mm": 66.0},
        {"joint_mm": 50.0, "tube_starts_mm": (2.0, 60.0)},
        {"tube_starts_mm": (6.0, 70.0), "tube_flips": (True, False), "tube_turns_deg": (20.0, 200.0)},
        {"tube_starts_mm": (80.0, 4.0), "end_waste_mm": 0.0},
        {"end_waste_mm": 9.0, "saw_kerf_mm": 3.2},
    )
    new = New()
    for job, pen_of, changes in product((demo_job(), SIXTEEN["12 oblong own mould"]()), (pen, one), blanks):
        changed = job.with_(pen=pen_of, blank=job.blank.with_(**changes))  # type: ignore[arg-type]
        planned = plan(changed, shop)
        yield from new.among(told(planned.layout))
        yield from new.among(said_of(found) for found in planned.findings if found.station.value in {"Pen", "Bore"})
        for number in range(len(planned.layout.tubes) if planned.layout else 0):
            assert planned.layout is not None
            span = window_mm(planned.layout, number, changed.blank.saw_kerf_mm)
            yield f"tube {number} from {span.start_mm:.5g} to {span.end_mm:.5g}"
        yield f"{prose(bar_size(planned.layout))} {raw_size_mm(planned.layout)} {list(map(flat, barrels_of(planned)))}"
    yield f"{raw_size_mm(None)} {bar_size(None)} {barrels_of(plan(demo_job().with_(pen=None), shop))}"
    sheet = (Layer(material="brass", thickness_mm=1.0),)
    cuts = (CutStep(angle_deg=a, register_by="normal", sheet=sheet[:n]) for a, n in product((30.0, 80.0), (0, 1)))
    for step in (*cuts, SquareStep(), ReorientStep(angle_deg=20)):
        for raw in ((20.0, 16.0, False), (22.0, 22.0, True)):
            yield f"{step.kind}: {narrowed((step,), raw)}"


def potted(shop: Shop) -> Iterator[str]:
    """Pressure and vacuum of all heights in every pot, low and high up, with wood that is sealed or bare."""
    new, high = New(), shop.with_(preferences=shop.preferences.with_(altitude_m=1900.0))
    pour = demo_job().pour

    def said(job: Job, where: Shop) -> Iterator[str]:
        planned = plan(job, where)
        yield from new.among(told(planned.bubbles))
        yield from new.among(said_of(one) for one in planned.findings if one.key.split(".")[0] in {"bubbles", "pour"})

    for pot, bar, depth_mm in product((None, *shop.pots), (1.0, 2.4, 3.3, 5.0), (None, 100.0)):
        bubbles = pour.bubbles.with_(way="pressure", pressure_bar=bar)
        mould = pour.mould.with_(depth_mm=depth_mm) if pour.mould and depth_mm else pour.mould
        yield from said(demo_job().with_(pour=pour.with_(pot=pot, bubbles=bubbles, mould=mould)), shop)
    gauges = (1.05, 0.99, 0.9, 0.3)
    for resin, gauge, where, vessel_ml in product(shop.resins, gauges, (shop, high), (300.0, 5000.0)):
        bubbles = pour.bubbles.with_(way="vacuum", gauge_bar=gauge, vessel_ml=vessel_ml)
        yield from said(choose_resin(demo_job().with_(pour=pour.with_(bubbles=bubbles)), resin), where)
    for faces, soak, mass_g, density in product(
        ("sealed", "stabilised", "bare and warm", "not said"), (0.0, 0.03, 0.2), (None, 9.0), (None, 0.6, 1.3)
    ):
        insert = Insert(volume_ml=15, mass_g=mass_g, density_g_ml=density, soak_fraction=soak, moisture_pct=7)
        yield from said(set_value(demo_job(), ("pour", "insert"), insert.with_(faces=faces)), shop)


def weighed(shop: Shop) -> Iterator[str]:
    """Cups with stocks, heavy and light loads, on every scale, in all resins, warm and cold; what it costs."""
    new = New()
    step = demo_job().cast
    for stock_pct, load_pct, resolution_g in product((None, 1.0, 30.0), (0.02, 3.0, 29.0), (0.01, 0.5)):
        cups = tuple(
            cup.with_(pigments=tuple(dose.with_(load_pct=load_pct, stock_pct=stock_pct) for dose in cup.pigments))
            for cup in step.cups
        )
        job = demo_job().with_(blank=demo_job().blank.with_(steps=(step.with_(cups=cups),)))
        job = set_value(job, ("pour", "scale"), job.pour.scale.with_(resolution_g=resolution_g))
        planned = plan(job, shop)
        yield from new.among(told(planned.pour))
        yield from new.among(said_of(one) for one in planned.findings if one.key.startswith("pour"))
    strange = tuple(
        cup.with_(pigments=tuple(dose.with_(pigment=dose.pigment.with_(kind="soot")) for dose in cup.pigments))
        for cup in step.cups
    )
    job = demo_job().with_(blank=demo_job().blank.with_(steps=(step.with_(cups=strange),)))
    yield from new.among(told(plan(job, shop).pour))
    for resin, warm_c, pens in product(shop.resins, (9.0, 34.0), (1, 40)):
        job = set_value(choose_resin(demo_job(), resin), ("batch", "shop_temperature_c"), warm_c)
        planned = plan(set_value(job, ("batch", "pens_wanted"), pens), shop)
        yield from new.among(told(planned.pour))
        yield from new.among(said_of(one) for one in planned.findings if one.key.startswith(("pour", "cure")))
        yield from new.among(told(cost_plan(planned.job, planned.bars, planned.mixture)))
        yield from new.among(f"{one.key} {prose(planned.caution(one.key))}" for one in planned.cautions)


def drawn(shop: Shop) -> Iterator[str]:
    """How holes may come to lie, as they are drawn; a barrel's hole in words; the colour behind a clear resin."""
    chipped = {"chip_mm": 2.5, "chip_at": "where the bit comes out"}
    holes = (
        Hole(), Hole(from_end="both ends"), Hole(from_end="right", **chipped), Hole(**{**chipped, "chip_mm": 30.0}),
        Hole(
            left_x_mm=0.3, left_y_mm=-0.2, right_x_mm=-0.6, right_y_mm=0.2, pattern_left_x_mm=0.4, pattern_right_y_mm=-1
        ),
    )  # fmt: skip
    for hole, centred in product(holes, ("on the pattern", "on the outside")):
        job = demo_job()
        planned = plan(job.with_(bore=job.bore.with_(holes=(hole, hole), centred=centred)), shop)
        for case in cases(planned):
            places = [[round(v, 4) if isinstance(v, float) else v for v in flat(one)] for one in case.holes]
            yield f"{prose(case.words)}: {places} {[(one.start_mm, one.end_mm) for one in case.barrels]}"
        for one in planned.bore.holes if planned.bore else ():
            aimed = [one.aimed_off_mm(on_pattern=on) for on in (True, False)]
            spread = [f"{one.spread_mm(depth):.4g}" for depth in (0.0, 20.0, 50.0)]
            yield f"  {aimed} {one.off_pattern_mm} {spread} {one.past_trim_mm:.4g} {one.beyond_the_chip_mm:.4g}"
    pen = demo_job().pen
    assert pen is not None
    for barrel in (pen.barrels[0], pen.barrels[0].with_(hole_depth_mm=30, wide_bit_mm=9.5, bushing_right_mm=12)):
        yield prose(hole_words(barrel, shop.preferences.units))
    blank = demo_job().blank
    for where in ("none", "hole"):
        paints = (blank.paint(0).with_(where="hole"), blank.paint(0).with_(where=where))
        yield f"{behind_colour(plan(demo_job().with_(blank=blank.with_(paints=paints)), shop))}"
    sheet = (Layer(material="brass", thickness_mm=1.0),)
    steps: tuple[Step, ...] = (
        CutStep(angle_deg=40, kerf_mm=1.7, sheet=sheet), ArcStep(radius_mm=30, sheet=sheet), CutStep(), InsertStep(),
    )  # fmt: skip
    for step in steps:
        yield from told(step_figures(step, demo_job()))
    yield from told(amount_figure(material("pear"), 12.0, 40.0, 5000))


def filled(shop: Shop) -> Iterator[str]:
    """Pits that are filled at the lathe, with everything that fills them; a flaw where there is no room for a step."""
    new = New()
    for fill, deep_mm, lies in product(fills(), (0.4, 1.5, 6.0), ("sunk, for depth", "flush")):
        void = Void(count=3, deep_mm=deep_mm, fill=fill.key, lies=lies)  # type: ignore[arg-type]
        planned = plan(demo_job().with_(finish=demo_job().finish.with_(void=void)), shop)
        yield from new.among(told(planned.finish.voids if planned.finish else None))
        yield from new.among(said_of(one) for one in planned.findings if one.station.value == "Finish")
    for thin, grit in product((1, 3, 6, 9), ("P320", "P400", "P600", "P1000", "P2000")):
        how = demo_job().finish.with_(thin=thin, medium=0, level_from=grit)
        planned = plan(demo_job().with_(finish=how), shop)
        yield from new.among(f"{thin} {said_of(one)}" for one in planned.findings if "through" in one.title)
    many = (*demo_job().blank.steps, *(PlugStep(centre_mm=n / 2, diameter_mm=1) for n in range(199)))
    full = set_value(demo_job().with_(blank=demo_job().blank.with_(steps=many)), ("faults", "found"), (Fault(),))
    planned = plan(full, shop)
    yield prose([way.look for one in planned.faults.found for way in one.ways] if planned.faults else None)


def asked(shop: Shop) -> Iterator[str]:
    """What is asked of the forecasts for every mould and board; what closes soon; doubts about photos."""
    new = New()
    for mould, layers, job in product(shop.moulds, (1, 2), (demo_job(), SIXTEEN["04 live edge"]())):
        changed = set_value(job, ("pour", "mould"), mould)
        changed = set_value(changed, ("pour", "conditions"), job.pour.conditions.with_(layers=layers))
        question = cure_question(plan(changed, shop))
        yield from new.among(told(question))
        for after_min, step_min in product((0.0, 61.0, 2000.0), (1, 10, 60)):
            yield from new.among(sentences([clock(changed.pour.conditions, after_min, step_min)]))
    for number, job in enumerate((second_demo_job(), SIXTEEN["05 herringbone"](), SIXTEEN["06 scallops"]())):
        yield from new.among(told(nest_question(plan(job, shop)), f"boards {number}"))
    for job in (demo_job(), second_demo_job(), third_demo_job()):
        planned: Plan = plan(job, shop)
        tasks = planned.route.operations if planned.route else ()
        yield from sentences(f"{closing_line(one)} told {one.told_from}" for one in closing(planned.job, tasks))
    album = demo_album()
    for other in (
        album, album.with_(views=()), album.with_(length_mm=60), album.with_(form="round"),
        album.with_(views=(album.views[0].with_(corners=((-0.2, 0.4), (0.9, 0.3), (0.9, 0.5), (0.1, 0.6))),)),
    ):  # fmt: skip
        yield from sentences(str(flat(one)) for one in doubts(other, shop.preferences.units))


TELLING: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (parts, made_of, laid, potted, weighed, drawn, filled, asked)
}


@pytest.mark.parametrize("name", TELLING)
def test_it_says_what_it_said(name: str, shop: Shop) -> None:
    hold(f"ends_{name}", TELLING[name](shop))
