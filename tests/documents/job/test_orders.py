"""Orders of a batch: each customer's pens, price, promise, payments and deliveries; one order becomes a list."""

from __future__ import annotations

import json
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import Job, Order, Shop, from_text, to_text
from orvek.documents.deeds import orders
from orvek.errors import BadFieldError, NothingToDoError, OutOfBoundsError
from orvek.planning import plan
from orvek.planning.orders import price_words
from orvek.quantities import Dimension, write

DAY = date(2026, 6, 1)


def job_of(tideline: Job, *made: Order, pens: int = 5) -> Job:
    return tideline.with_(batch=tideline.batch.with_(pens_wanted=pens), orders=made)


def test_a_batch_of_five_for_two_is_delivered_in_parts(tideline: Job) -> None:
    job = job_of(tideline, Order(customer="Gauge keeper", pens=3, price=140, paid=140), Order(customer="Pilot", pens=1))
    assert orders.free_pens(job) == 1
    job = orders.deliver(job, 0, 2, DAY)
    keeper = job.orders[0]
    assert (keeper.delivered, keeper.is_delivered, keeper.owing, keeper.to_come) == (2, False, 140, 280)
    job = orders.take_back(job, 0, 1, DAY)
    assert (job.orders[0].delivered, job.orders[0].owing) == (1, 0)
    for bad in (0, -1, 3):
        with pytest.raises(OutOfBoundsError):
            orders.deliver(job, 0, bad, DAY)
    with pytest.raises(OutOfBoundsError):
        orders.take_back(job, 0, 2, DAY)
    with pytest.raises(NothingToDoError):
        orders.remove_order(job, 0)
    job = orders.deliver(orders.remove_order(job, 1), 0, 2, DAY)
    assert job.orders[0].is_delivered
    assert orders.free_pens(job) == 2
    assert from_text(to_text(job)) == job
    with pytest.raises(BadFieldError):
        Order().with_(pens=0)


def test_a_price_is_the_jobs_where_all_orders_agree_on_it(tideline: Job) -> None:
    units = plan(tideline, Shop()).units
    alike = job_of(tideline, Order(price=140), Order(pens=2), Order(price=140))
    assert (alike.agreed_price, price_words(alike, units)) == (140, write(140, Dimension.MONEY, units, 2))
    apart = alike.with_(orders=(*alike.orders, Order(price=95), Order(price=120)))
    assert apart.agreed_price is None
    low, high = (write(price, Dimension.MONEY, units, 2) for price in (95, 140))
    assert price_words(apart, units) == f"{low} to {high}"
    assert (job_of(tideline).agreed_price, price_words(job_of(tideline), units)) == (None, "")


@given(st.lists(st.tuples(st.booleans(), st.integers(1, 9)), max_size=12), st.floats(0, 300), st.floats(0, 2000))
def test_what_is_owed_follows_every_delivery(steps: list[tuple[bool, int]], price: float, paid: float) -> None:
    job, has = Job(orders=(Order(pens=9, price=price, paid=paid),)), 0
    for is_out, pens in steps:
        try:
            job = (orders.deliver if is_out else orders.take_back)(job, 0, pens, DAY)
        except OutOfBoundsError:
            assert not 1 <= pens <= (9 - has if is_out else has)
            continue
        has += pens if is_out else -pens
        assert job.orders[0].delivered == has
        assert job.orders[0].owing == pytest.approx(price * has - paid)
        assert job.orders[0].to_come == pytest.approx(price * 9 - paid)


def test_the_earliest_promise_that_is_open_counts(tideline: Job, shop: Shop) -> None:
    past, soon, later = (date.today() + timedelta(days=n) for n in (-2, 5, 20))
    job = job_of(tideline, Order(pens=2, promised=soon), Order(customer="Pilot", pens=1, promised=past))
    job = job.with_(work=job.work.with_(promised=later))
    assert job.promised == past
    found = next(one for one in plan(job, shop).findings if one.title == "The promised day is past.")
    assert "Pilot" in found.because
    assert found.remedies[0].edits[0].path == ("orders", 1, "promised")
    assert orders.deliver(job, 1, 1, DAY).promised == soon
    assert job.with_(orders=()).promised == later


def test_more_pens_ordered_than_made_are_said_and_made(tideline: Job, shop: Shop) -> None:
    job = job_of(tideline, Order(pens=4), Order(pens=3))
    found = next(one for one in plan(job, shop).findings if "ordered" in one.title)
    assert found.remedies[0].edits[0].value == 7
    assert not any("ordered" in one.title for one in plan(job_of(tideline, Order(pens=5)), shop).findings)


@pytest.mark.parametrize("day", [None, "2026-05-02"])
def test_a_job_that_had_one_order_has_it_in_its_list(tideline: Job, day: str | None) -> None:
    content = json.loads(to_text(tideline))
    del content["orders"]
    content["order"] = {"customer": "Harbour office", "price": 140.0, "paid": 30.0, "delivered_on": day, "wishes": ""}
    (order,) = from_text(json.dumps(content)).orders
    assert (order.customer, order.price, order.paid, order.pens) == (
        "Harbour office",
        140,
        30,
        tideline.batch.pens_wanted,
    )
    assert order.is_delivered == (day is not None)
    content["order"] = {"customer": "", "price": None, "paid": 0, "delivered_on": None, "wishes": ""}
    assert not from_text(json.dumps(content)).orders
