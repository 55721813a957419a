"""A large workshop: many jobs of the sixteen kinds of work, a long ledger, a full shelf, albums."""

from __future__ import annotations

import itertools
import random
from datetime import date, datetime, timedelta
from pathlib import Path

from tests.jobs.the_sixteen import SIXTEEN

from orvek.documents import Job, Piece, Shop
from orvek.store import Workshop, demo_shop, open_workshop
from orvek.store.demo_records import demo_ledger

OPEN_PART = 1.0  # of the jobs: the hardest case


def filled(path: Path, jobs: int, *, entries: int = 0, pieces: int = 0) -> Workshop:
    """A workshop file with so many jobs, entries in the ledger and pieces on the shelf."""
    workshop, chance = open_workshop(path), random.Random(5)
    kinds = [make() for make in SIXTEEN.values()]
    workshop.save_shop(_shop(entries, pieces, chance))
    for number, kind in zip(range(jobs), itertools.cycle(kinds), strict=False):
        workshop.record(_like(kind, number, chance), "Begin")
    workshop.set_last_open(workshop.jobs()[0].id)
    return workshop


def _like(kind: Job, number: int, chance: random.Random) -> Job:
    promised = date(2026, 12, 1) + timedelta(days=chance.randrange(300)) if number % 3 == 0 else None
    batch = kind.batch.with_(id=f"{number:012x}", name=f"{kind.batch.name} {number}", pens_wanted=1 + number % 7)
    return kind.with_(batch=batch, work=kind.work.with_(promised=promised, is_open=chance.random() < OPEN_PART))


def _shop(entries: int, pieces: int, chance: random.Random) -> Shop:
    shop = demo_shop()
    cycled = zip(range(entries), itertools.cycle(demo_ledger()), strict=False)
    ledger = tuple(one.with_(when=datetime(2024, 1, 1) + timedelta(hours=4 * number)) for number, one in cycled)
    more = tuple(
        Piece(name=f"Leftover {number}", kind="leftover", length_mm=60 + chance.randrange(90), width_mm=19, depth_mm=19)
        for number in range(pieces)
    )
    return shop.with_(ledger=ledger, pieces=more)
