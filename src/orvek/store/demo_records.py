"""What happened at Tern Quay in the last year: ten batches with their failures, a change that held, prices, an order.

The days are told as of `TOLD_ON`, and moved so that they lie as long before the day on which the demo is begun.
"""

from __future__ import annotations

from datetime import date, datetime, timedelta

from orvek.documents import (
    ChangeEntry,
    ClosedEntry,
    FateEntry,
    Job,
    LedgerEntry,
    LessonEntry,
    Order,
    Price,
    Shop,
    Stage,
)

TOLD_ON = date(2026, 11, 26)
_PEN = "Ebb, two barrels"
# Batch, kind of work, first day, good ones, and each that was lost: at which stage and why.
_Lost = tuple[Stage, str]
_OFF_WOOD: _Lost = ("turning", "resin off the wood")
_OFF_CENTRE: _Lost = ("boring", "hole off centre")
_BLOWN: _Lost = ("turning", "blow-out")
_BATCHES: tuple[tuple[str, str, date, int, tuple[_Lost, ...], float, float], ...] = (
    ("Spring tide", "cast resin", date(2026, 1, 17), 5, (_BLOWN,), 63.30, 73.20),
    ("Samphire", "hybrid", date(2026, 2, 7), 4, (_OFF_WOOD, _OFF_CENTRE), 70.80, 95.70),
    ("Wrack line", "hybrid", date(2026, 2, 28), 5, (_OFF_WOOD,), 71.70, 84.60),
    ("Bladder wrack", "fibre and punky wood", date(2026, 3, 14), 2, (_BLOWN, _BLOWN), 74.40, 115.50),
    ("Neap tide", "cast resin", date(2026, 4, 11), 6, (), 62.10, 62.10),
    ("Bladder wrack, again", "fibre and punky wood", date(2026, 5, 9), 4, (("sanding", "soft spots"),), 75.60, 88.80),
    ("Lugger", "segmented", date(2026, 6, 6), 4, (_OFF_CENTRE, ("glue-up", "lines do not meet")), 82.20, 110.40),
    ("Driftwood, first", "stabilised", date(2026, 7, 4), 5, (("turning", "chip at an end"),), 72.30, 81.00),
    ("Slack water", "cast resin", date(2026, 8, 29), 7, (("casting", "void or bubble"),), 62.70, 68.40),
    ("Lugger, again", "segmented", date(2026, 10, 3), 5, (_OFF_CENTRE,), 83.70, 96.30),
)  # fmt: skip
_OLD_RESIN, _NEW_RESIN, _PRESSED = "QSC 25-3", "QSC 26-1", "WRK 7"  # lots that the batches were made of
_LOTS = {
    "Spring tide": _OLD_RESIN, "Samphire": _OLD_RESIN, "Wrack line": _OLD_RESIN, "Neap tide": _NEW_RESIN,
    "Slack water": _NEW_RESIN, "Bladder wrack": _PRESSED, "Bladder wrack, again": _PRESSED,
}  # fmt: skip
_CHANGED = "Bladder wrack"  # after this one the way of turning was changed
_STAGE_MIN = (("boring", 16.0), ("gluing the tube", 12.0), ("turning", 38.0), ("sanding", 27.0), ("pressing", 15.0))


def demo_ledger(today: date = TOLD_ON) -> tuple[LedgerEntry, ...]:
    """The entries of ten batches, in their order."""
    found: list[LedgerEntry] = []
    moved = today - TOLD_ON
    for number, (name, work, day, good, lost, told, each) in enumerate(_BATCHES):
        about = {"job_id": f"7e12{number:08x}", "job": name, "work": work, "pen": _PEN}
        when, lots = datetime(day.year, day.month, day.day, 15, 0) + moved, _LOTS.get(name, "")
        for blank, (stage, cause) in enumerate(lost, 1):
            saved = stage in {"turning", "sanding"}
            fate = {"fate": "spoilt", "stage": stage, "cause": cause, "is_tube_saved": saved, "lots": lots}
            found.append(FateEntry(when=when + timedelta(minutes=20 * blank), blank_no=blank, **fate, **about))
        for blank in range(len(lost) + 1, len(lost) + good + 1):
            good_at = when + timedelta(hours=3, minutes=5 * blank)
            found.append(FateEntry(when=good_at, blank_no=blank, lots=lots, **about))
        ended = when + timedelta(hours=6)
        found.append(
            ClosedEntry(
                when=ended, started=good + len(lost), good=good, told=told, cost_good=each, minutes=108.0,
                by_stage_min=_STAGE_MIN, **about,
            )
        )  # fmt: skip
        if name == _CHANGED:
            words = "Round it over first, light cuts, thin glue wicked in every two millimetres."
            found.append(ChangeEntry(when=ended + timedelta(days=2), cause="blow-out", words=words, **about))
        if name == "Wrack line":
            words = "Warm the slab to 40 °C and pour at once: the edge took the resin without a bubble"
            found.append(LessonEntry(when=ended, task="pour", again="do again", words=words, **about))
        if name == "Lugger":
            words = "Bore from the wide end: the bit ran along the last line"
            found.append(LessonEntry(when=ended, task="bore", again="do not", words=words, **about))
    return tuple(found)


def demo_prices(today: date = TOLD_ON) -> tuple[Price, ...]:
    """What things cost at Tern Quay, the part set dearer since summer."""
    moved = today - TOLD_ON
    spring, summer = date(2026, 1, 1) + moved, date(2026, 7, 1) + moved
    return (
        Price(what="an hour of work", price=18.0, since=spring),
        Price(what="an hour at a machine", of="lathe", price=1.5, since=spring),
        Price(what="part set", of=_PEN, price=6.2, since=spring),
        Price(what="part set", of=_PEN, price=6.8, since=summer),
        Price(what="tube", of=_PEN, price=0.6, since=spring),
        Price(what="refill", of=_PEN, price=1.1, since=spring),
        Price(what="bar or board, a blank", price=2.4, since=spring),
        Price(what="glue, a pen", price=0.35, since=spring),
        Price(what="abrasives and finish, a pen", price=0.9, since=spring),
        Price(what="once for a job", price=6.0, since=spring),
    )


def with_demo_records(shop: Shop, today: date = TOLD_ON) -> Shop:
    """The shop with its ledger and prices."""
    selling = shop.selling.with_(margin_pct=35, fee_pct=6)
    return shop.with_(ledger=demo_ledger(today), prices=demo_prices(today), selling=selling)


def with_demo_order(job: Job) -> Job:
    """Tideline: three pens for the harbour office, in part paid, one for the ferry; one is still free."""
    office = Order(
        customer="Harbour office",
        pens=3,
        wishes="Black trim, and light enough for small hands",
        price=140.0,
        paid=300.0,
    )
    return job.with_(orders=(office, Order(customer="Mate of the ferry", wishes="With a pouch", price=140.0)))
