"""What is said further out, written down and held to: flaws of all sizes, long names, what the work makes and learns.

Recorded as the sixteen are: `ORVEK_RECORD=1 python -m pytest tests/jobs`, and the difference is read.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date, datetime
from functools import reduce
from itertools import product

import pytest

from orvek.craft.faults import fault_kinds
from orvek.documents import (
    Artwork,
    CastStep,
    CutStep,
    Fault,
    Hole,
    InsertStep,
    Job,
    Layer,
    Shop,
    StackStep,
    Step,
    WrapStep,
    checked,
    deeds,
)
from orvek.documents.deeds import set_value
from orvek.planning import Plan, plan, report_sections
from orvek.planning.becoming import bar_for, fit_of
from orvek.planning.blank.islands import islands
from orvek.planning.faults.words import in_short
from orvek.planning.findings import Finding, Remedy, Severity, Station
from orvek.planning.sentences import shortened
from orvek.planning.stock import born, held, photos_of_new, to_buy, uses
from orvek.planning.words import bar_line, bars_line, mould_size, ratio_line
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from orvek.store.demo_shelf import demo_album, demo_pieces
from tests.jobs.recorded_text import New, flat, hold, prose, said_of, sentences
from tests.jobs.the_sixteen import SIXTEEN
from tests.jobs.told import told

_NOON = datetime(2026, 11, 26, 12, 0)
_SHEET = (Layer(material="brass", thickness_mm=1.0),)


def flawed() -> Iterator[tuple[str, Job]]:
    """The demo's job as it stands when a fault comes: bored crooked, measured, bare, short of play, end for end."""
    job, pen = demo_job(), demo_job().pen
    assert pen is not None
    yield "plain", job
    for off_mm in (0.4, 2.0, 6.5):
        hole = Hole(left_x_mm=off_mm, left_y_mm=0.1, right_x_mm=-off_mm, right_y_mm=0.0)
        yield f"{off_mm} off", set_value(job, ("bore", "holes"), (hole,))
    for play_mm in (2.0, 4.5, 9.0):
        barrels = tuple(barrel.with_(play_mm=play_mm) for barrel in pen.barrels)
        flipped = job.blank.with_(tube_flips=(True, True)) if play_mm > 4 else job.blank
        yield f"play {play_mm}", job.with_(pen=pen.with_(barrels=barrels), blank=flipped)
    sized = job.finish.of(0).with_(now_left_mm=13.4, now_middle_mm=14.8, now_right_mm=12.9)
    yield "measured", set_value(job, ("finish", "sized"), (sized, sized.with_(now_middle_mm=None)))
    yield "bare", job.with_(finish=job.finish.with_(thin=0, medium=0, clip_mm=9, clip_long_mm=44))
    yield "no tube", job.with_(pen=pen.with_(barrels=tuple(barrel.with_(inside="no tube") for barrel in pen.barrels)))


def flaws(shop: Shop) -> Iterator[str]:
    """Flaws near an end and in the middle, deep and shallow, on all of these, with every way out."""
    sizes = (
        {"at_mm": 0.6, "long_mm": 1.0, "deep_mm": 0.4, "wide_mm": 0.2},
        {"at_mm": 46.0, "long_mm": 3.0, "barrel": 1},
    )
    pen = demo_job().pen
    assert pen is not None
    barrels = pen.barrels
    shorter = tuple(
        pen.with_(name=f"Shorter by {by}", barrels=(barrels[0].with_(tube_length_mm=barrels[0].tube_length_mm - by),))
        for by in (1.2, 4.0, 12.0)
    )
    shop = shop.with_(pens=(*shop.pens, *shorter))
    for name, job in flawed():
        new = New()
        for number, (kind, more) in enumerate(product(fault_kinds(), sizes)):
            moment = ("boring", "coating", "turning")[number % 3]
            fault = Fault(kind=kind.key, moment=moment, azimuth_deg=-80, **more)  # type: ignore[arg-type]
            planned = plan(set_value(job, ("faults", "found"), (fault,)), shop)
            assert not planned.failed
            for one in planned.faults.found if planned.faults else ():
                told_ways = [line for way in one.ways for line in (prose(in_short(way, planned.units)), *told(way))]
                yield f"{name}, {kind.key}, {moment}"
                yield from new.among(told_ways)


def names(_shop: Shop) -> Iterator[str]:
    """Sentences in which names are as long as they may be."""
    long = "The Quay's very own and once more strained and settled slow clear casting resin"
    for job, shop in ((demo_job(), _shop), (third_demo_job(), _shop)):
        pen, resin = job.pen, job.pour.resin
        assert pen is not None
        barrels = tuple(barrel.with_(name=f"{long[:50]} {n}") for n, barrel in enumerate(pen.barrels))
        changed = job.with_(pen=pen.with_(name=long, barrels=barrels), batch=job.batch.with_(name=long))
        if resin is not None:
            changed = changed.with_(pour=changed.pour.with_(resin=resin.with_(name=long[:80])))
        steps = tuple(
            step.with_(cups=tuple(cup.with_(name=f"{long[:60]} {n}") for n, cup in enumerate(step.cups)))
            if isinstance(step, CastStep)
            else step
            for step in changed.blank.steps
        )
        changed = changed.with_(blank=changed.blank.with_(steps=steps))
        for warm_c in (job.batch.shop_temperature_c, 33.0):
            warmed = set_value(changed, ("batch", "shop_temperature_c"), warm_c)
            yield from (said_of(one) for one in plan(warmed, shop).findings)
        title = f"{long} and {long.lower()} and again {long}"
        remedies = (Remedy(f"Take {title}", ()), Remedy(f"Take {long}", ()))
        because = f"{title} {title} {title} in the end."
        yield said_of(*shortened([Finding(Severity.NOTE, Station.POUR, title, because, remedies)], changed, shop))


def done(job: Job, shop: Shop, *kinds: str) -> Plan:
    """A job of which all tasks of these kinds are done."""
    tasks = plan(job, shop).route
    keys = [task.key for task in tasks.operations if task.kind in kinds] if tasks else []
    return plan(reduce(lambda now, key: deeds.finish_task(now, key, _NOON), keys, job), shop)


def made_and_used(shop: Shop) -> Iterator[str]:
    """What tasks that are done take off the shelf and put on it; bars with pictures in them, rounds, bought pieces."""
    picture = checked(Artwork, {"colours": ["#101010", "#f0f0f0"], "rows": ["01", "10"]})
    album = demo_album()
    blank, printed = demo_job().blank, WrapStep(artwork=picture, pattern="picture")
    jobs = {
        "cast": demo_job(),
        "glued": second_demo_job(),
        "printed": demo_job().with_(blank=blank.with_(steps=(printed,))),
        "photographed": demo_job().with_(blank=blank.with_(steps=(album,), piece="SNDBR2")),
        "photographed and cut": demo_job().with_(blank=blank.with_(steps=(album, CutStep()), piece="SNDBR2")),
        "striped round": SIXTEEN["10 striped round"](),
        "long barrel": SIXTEEN["14 long barrel"](),
    }
    shelf = demo_pieces(shop, demo_job(), second_demo_job(), "album", date(2026, 11, 26))
    for name, job in jobs.items():
        for kinds in (("weigh",), ("demould",), ("length", "weigh", "tube", "press"), ("demould", "length")):
            planned = done(job, shop, *kinds)
            yield f"{name}, done {kinds}"
            yield from (f"  uses {use.what} {use.name} {use.amount:.4g}" for use in uses(planned))
            for piece in born(planned, frozenset()):
                own = photos_of_new(piece, job)
                yield f"  {piece.model_dump(exclude={'look'}, exclude_defaults=True)}"
                from_mm = piece.look.from_mm if piece.look else None
                yield f"  looks from {from_mm}, photos {own.length_mm if own else None}"
            stock = held(shelf, (planned, done(job.with_(batch=job.batch.with_(id="ffffffff0000")), shop, "tube")))
            yield from (f"  {one.piece.name}: {one.left:.4g} {len(one.used)}" for one in stock)
            yield from sentences(f"buy {one}" for one in to_buy(planned, stock))
    for pen, piece in product((None, *shop.pens[:3]), shelf[:4]):
        yield f"{bar_for(pen, 1.6)} {prose(fit_of(piece, pen, 1.6, shop.preferences.units)) if pen else ''}"


def hidden(shop: Shop) -> Iterator[str]:
    """Colours in layers and swirls of which the barrels show not all, and islands that are left of a shell."""
    job = demo_job()
    cups = tuple(cup.with_(share=share) for cup, share in zip(job.cast.cups * 2, (80, 1, 1), strict=False))
    cups = tuple(cup.with_(name=f"Cup {n}") for n, cup in enumerate(cups))
    thin = tuple(Layer(material=key, thickness_mm=mm) for key, mm in (("holly", 60), ("brass", 0.2), ("ebony", 70)))
    slanting = CutStep(angle_deg=20, centre_mm=50, sheet=_SHEET)
    blanks: tuple[tuple[Step, ...], ...] = (
        *((CastStep(cups=cups[:n], style=style),) for n, style in product((1, 2, 3), ("swirl", "layers", "chips"))),
        (StackStep(pieces=thin), CutStep(centre_mm=2, sheet=_SHEET)),
        (InsertStep(form="edge", middle_mm=9.5, rough_mm=0), CastStep(cups=cups[:1])),
        (StackStep(), slanting, slanting.with_(azimuth_deg=180, centre_mm=52)),
        (InsertStep(),),
    )  # fmt: skip
    for steps in blanks:
        planned = plan(job.with_(blank=job.blank.with_(steps=steps)), shop)
        yield f"{[step.kind for step in steps]}"
        yield from (said_of(one) for one in planned.findings if one.station.value == "Blank")
        if planned.layout is not None:
            yield from (f"  {rounded(flat(one))}" for one in islands(planned.job, planned.layout)[:4])


def rounded(values: list[object]) -> list[object]:
    """What is no whole number to three digits."""
    return [f"{value:.3g}" if isinstance(value, float) else value for value in values]


def half_said(shop: Shop) -> Iterator[str]:
    """Jobs of which something is not yet said, and what is told all the same."""
    new = New()
    for job, (path, value) in product(
        (demo_job(), second_demo_job(), third_demo_job(), SIXTEEN["04 live edge"]()),
        ((("pen",), None), (("pour", "mould"), None), (("pour", "resin"), None), (("blank", "steps"), (InsertStep(),))),
    ):
        planned = plan(job.with_(pen=None) if path == ("pen",) else set_value(job, path, value), shop)
        assert not planned.failed
        yield from new.among(said_of(one) for one in planned.findings)
        for heading, figures in report_sections(planned):
            yield from new.among(f"{heading}: {figure.value:.5g} {prose(figure.label)}" for figure in figures)
        tasks = planned.route.operations if planned.route else ()
        yield from new.among(f"{task.key}: {task.hands_min:.4g} {task.wait_min}" for task in tasks)
        yield prose(bars_line(planned.bars))
    yield from sentences(mould_size(mould, shop.preferences.units) for mould in shop.moulds)
    yield from sentences(ratio_line(resin) for resin in shop.resins)
    for form in ("rectangular", "round", "irregular"):
        yield from sentences(bar_line(bar.with_(form=form)) for bar in SIXTEEN["12 oblong own mould"]().blank.bars)


TELLING: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (flaws, names, made_and_used, hidden, half_said)
}


@pytest.mark.parametrize("name", TELLING)
def test_it_says_what_it_said(name: str, shop: Shop) -> None:
    hold(f"further_{name}", TELLING[name](shop))
