"""A batch of ten bars sold as blanks: planned, made, costed, priced, partly delivered, the rest on the shelf."""

from __future__ import annotations

from datetime import date, datetime

import pytest

from orvek.documents import FateEntry, Job, Order, Price, Shop, deeds
from orvek.errors import OutOfBoundsError
from orvek.planning import Severity, Station, plan
from orvek.planning.history import kind_of_work
from orvek.planning.lay_out import laid_out
from orvek.planning.orders import free_words, order_line, stock_words
from orvek.planning.records.costs import pen_cost
from orvek.planning.route.next import next_of
from orvek.planning.route.stations import stations_of
from orvek.planning.route.steps import steps_of
from orvek.planning.stock import born
from orvek.store.demo import second_demo_job, third_demo_job

WHEN, DAY = datetime(2026, 11, 20, 18), date(2026, 11, 26)


def ten(job: Job, length_mm: float = 120.0) -> Job:
    made = deeds.make_bars(job, length_mm)
    return made.with_(batch=made.batch.with_(pens_wanted=10), orders=(Order(customer="Salt house", pens=6, price=22),))


@pytest.mark.parametrize("make", [None, second_demo_job, third_demo_job])
def test_every_kind_of_bar_can_be_sold(tideline: Job, shop: Shop, make: object) -> None:
    job = ten(tideline if make is None else make())  # type: ignore[operator]
    made = plan(job, shop)
    assert not made.failed
    assert made.route is not None
    keys = [one.key for one in made.route.operations]
    assert keys[-3:] == ["length", "square", "label"]
    assert not {one.kind for one in made.route.operations} & {"bore", "tube", "turn", "sand", "press", "write"}
    assert made.bore is None
    assert made.finish is None
    assert not {Station.BORE, Station.FINISH} & ({*stations_of(made)} - {one.station for one in made.findings})
    assert not [one for one in made.findings if any(word in one.title for word in ("wall", "tube", "bushing", "tip"))]
    assert len(steps_of(made, made.route.operations[-1])) == 1 + round(made.bars.blanks.value)
    assert laid_out([(made, one) for one in made.route.operations], ())


def test_ten_bars_are_made_costed_priced_and_partly_sold(tideline: Job, shop: Shop) -> None:
    job = ten(tideline)
    shop = shop.with_(prices=(Price(what="an hour of work", price=30), Price(what="once for a job", price=5)))
    made = plan(job, shop)
    assert not [one for one in made.findings if one.severity is Severity.STOP]
    cost = pen_cost(made, DAY)
    assert cost is not None
    assert cost.price is not None
    assert cost.price.value > cost.with_spoilt.value > 0
    assert not any(one.startswith(("part set", "tube", "refill")) for one in cost.unpriced)
    assert cost.left is not None
    assert cost.left.terms[0].value == 132
    assert free_words(job) == "4 bars not ordered."
    assert order_line(job.orders[0], made.units, job.thing).startswith("Salt house: 6 bars")
    assert made.route is not None
    for one in made.route.operations:
        job = deeds.finish_task(job, one.key, WHEN)
    about = deeds.records.about(job, kind_of_work(job), WHEN)
    ledger = tuple(
        FateEntry(blank_no=n, fate="spoilt" if n in {3, 5, 8} else "good", begun=13, **about) for n in range(1, 14)
    )
    assert "write down" in next_of(plan(job, shop), WHEN).words
    shop = shop.with_(ledger=ledger)
    assert next_of(plan(job, shop), WHEN).words == "All of it is done"
    assert stock_words(job, ledger) == "10 made, 0 delivered, 10 left."
    job = deeds.orders.deliver(job, 0, 6, DAY)
    assert stock_words(job, ledger) == "10 made, 6 delivered, 4 left."
    (bars,) = [piece for piece in born(plan(job, shop), frozenset()) if piece.kind == "bar"]
    assert (bars.count, bars.length_mm) == (4, 120)
    gone = deeds.orders.add_order(job, Order(pens=4))
    gone = deeds.orders.deliver(gone, 1, 4, DAY)
    assert not [piece for piece in born(plan(gone, shop), frozenset()) if piece.kind == "bar"]


def test_a_bar_becomes_a_pen_again_and_one_too_long_is_a_sentence(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    again = deeds.choose_pen(ten(tideline), tideline.pen)
    assert not again.makes_bars
    assert plan(again, shop).bore is not None
    for odd in (900, 0, -3, float("nan")):
        with pytest.raises(OutOfBoundsError):
            deeds.make_bars(tideline, odd)
    long = plan(ten(tideline, 130), shop)
    assert [one.severity for one in long.findings if "too short" in one.title] == [Severity.STOP]
