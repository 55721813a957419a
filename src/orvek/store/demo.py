"""The demo workshop: Tern Quay, a made-up shop that makes pens for the volunteers of a tidal observatory."""

from __future__ import annotations

import json
from datetime import date
from importlib import resources

from orvek.documents import Job, Shop, checked, from_text
from orvek.store.demo_records import with_demo_order, with_demo_records
from orvek.store.demo_shelf import demo_album, demo_pieces
from orvek.store.workshop import Workshop


def demo_shop() -> Shop:
    """The shelves of Tern Quay."""
    return checked(Shop, json.loads(_text("tern_quay.json")))


def demo_job() -> Job:
    """Tideline: six bars in two colours, for a pen of two barrels."""
    return from_text(_text("tideline.orvek.json"), "tideline.orvek.json")


def second_demo_job() -> Job:
    """Ropewalk: a knot of four cuts in cherry, for the same pen."""
    return from_text(_text("ropewalk.orvek.json"), "ropewalk.orvek.json")


def third_demo_job() -> Job:
    """Driftwood: spalted maple, dried, dyed and stabilised before it is turned."""
    return from_text(_text("driftwood.orvek.json"))


def fill_with_demo(workshop: Workshop) -> None:
    """Put Tern Quay into a workshop that has no jobs yet; leave any other as it is."""
    if workshop.is_writable and not workshop.jobs():
        shop, job, ropewalk, today = demo_shop(), demo_job(), second_demo_job(), date.today()
        pieces = demo_pieces(shop, job, ropewalk, workshop.keep_album(demo_album()), today)
        workshop.save_shop(with_demo_records(shop.with_(pieces=pieces), today))
        workshop.record(third_demo_job(), "Begin")
        workshop.record(ropewalk, "Begin")
        workshop.record(with_demo_order(job), "Begin")
        workshop.set_last_open(job.batch.id)


def _text(name: str) -> str:
    return resources.files("orvek.data").joinpath("demo", name).read_text(encoding="utf-8")
