"""A batch's orders in words: who gets how many at which price, what is delivered, paid and still owed."""

from __future__ import annotations

from orvek.documents import Job, LedgerEntry, Order
from orvek.documents.deeds.orders import free_pens
from orvek.planning.history import fates_of, is_missed
from orvek.planning.words import counted
from orvek.quantities import Dimension, Units, write, write_day

_MONEY, _CENT = Dimension.MONEY, 0.004


def free_words(job: Job) -> str:
    """How many pens of the batch nobody has ordered."""
    if not job.orders:
        return "No order yet."
    free = free_pens(job)
    if free < 0:
        return f"{counted(-free, job.thing)} more ordered than this batch makes."
    return f"{counted(free, job.thing)} not ordered." if free else f"Every {job.thing} of the batch is ordered."


def stock_words(job: Job, ledger: tuple[LedgerEntry, ...]) -> str:
    """How many are made, sold and left; nothing while none is made and none sold."""
    made = sum(not is_missed(fate) for fate in fates_of(ledger, job.batch.id).values())
    sold = sum(order.delivered for order in job.orders)
    return f"{made} made, {sold} delivered, {max(0, made - sold)} left." if made or sold else ""


def order_line(order: Order, units: Units, thing: str = "pen") -> str:
    """Who gets how many at which price."""
    price = f" at {write(order.price, _MONEY, units, 2)}" if order.price is not None else ""
    return f"{order.customer or 'A customer'}: {counted(order.pens, thing)}{price}"


def state_line(order: Order, units: Units) -> str:
    """What was wished and promised, what is delivered and owed."""
    parts = [order.wishes]
    if order.is_delivered:
        parts.append(f"Delivered {write_day(order.deliveries[-1].on)}")
    else:
        if order.promised is not None:
            parts.append(f"Promised for {write_day(order.promised)}")
        if order.delivered:
            parts.append(f"{order.delivered} of {order.pens} delivered")
    if order.price is not None:
        if order.owing > _CENT:
            parts.append(f"owes {write(order.owing, _MONEY, units, 2)}")
        later = order.to_come - max(0.0, order.owing)
        if later > _CENT:
            parts.append(f"{write(later, _MONEY, units, 2)} still to come")
        elif order.to_come < -_CENT:
            parts.append(f"paid {write(-order.to_come, _MONEY, units, 2)} too much")
        elif order.owing <= _CENT:
            parts.append("paid")
    elif order.paid:
        parts.append(f"paid {write(order.paid, _MONEY, units, 2)}")
    if order.said:
        parts.append(f"“{order.said}”")
    return " · ".join(part for part in parts if part)


def price_words(job: Job, units: Units) -> str:
    """What was agreed for a pen: from the lowest to the highest price of the orders; empty without one."""
    prices = sorted({order.price for order in job.orders if order.price is not None})
    return " to ".join(write(price, _MONEY, units, 2) for price in (*prices[:1], *prices[1:][-1:]))
