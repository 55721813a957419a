"""The maker's deeds with orders: each takes a job and gives the one that follows."""

from datetime import date

from orvek.documents.deeds.tuples import replaced, without
from orvek.documents.job.job import Job
from orvek.documents.job.order import Delivery, Order
from orvek.errors import NothingToDoError, OutOfBoundsError


def free_pens(job: Job) -> int:
    """How many pens of the batch nobody has ordered; below 0: more are ordered than are made."""
    return job.batch.pens_wanted - sum(order.pens for order in job.orders)


def add_order(job: Job, order: Order) -> Job:
    """One order more."""
    return job.with_(orders=(*job.orders, order))


def set_order(job: Job, index: int, order: Order) -> Job:
    """An order as it was agreed anew."""
    return job.with_(orders=replaced(job.orders, index, order))


def remove_order(job: Job, index: int) -> Job:
    """Take an order away.

    Raises:
        NothingToDoError: its customer has pens of it; they come back first.
    """
    if job.orders[index].delivered > 0:
        raise NothingToDoError("Removing this order", "the delivered pens taken back")
    return job.with_(orders=without(job.orders, index))


def deliver(job: Job, index: int, pens: int, on: date) -> Job:
    """Some of the ordered pens, or all that are left, are delivered.

    Raises:
        OutOfBoundsError: fewer than one, or more than are left of the order.
    """
    order = job.orders[index]
    _within("What is delivered", pens, order.pens - order.delivered)
    return set_order(job, index, order.with_(deliveries=(*order.deliveries, Delivery(on=on, pens=pens))))


def take_back(job: Job, index: int, pens: int, on: date) -> Job:
    """Some of the delivered pens came back.

    Raises:
        OutOfBoundsError: fewer than one, or more than the customer has.
    """
    order = job.orders[index]
    _within("What comes back", pens, order.delivered)
    return set_order(job, index, order.with_(deliveries=(*order.deliveries, Delivery(on=on, pens=-pens))))


def _within(what: str, pens: int, most: int) -> None:
    if not 1 <= pens <= most:
        raise OutOfBoundsError(what, str(pens), f"between 1 and {most}" if most > 1 else f"{most}")
