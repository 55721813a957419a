"""Scrap by lot, seller, wood and resin: what is worse by more than luck is said, and how many more would tell."""

from __future__ import annotations

import random
from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import fisher_exact

from orvek.craft.luck import more_to_know, worse_by_luck
from orvek.documents import FateEntry, Job, Piece, Shop
from orvek.planning.records.search import found
from orvek.planning.records.sources import Source, sources
from orvek.store.demo_records import demo_ledger

DAY = datetime(2026, 6, 1, 9)


def fates(job_id: str, scrapped: int, good: int, lots: str = "") -> list[FateEntry]:
    kinds = ["spoilt"] * scrapped + ["good"] * good
    return [
        FateEntry(when=DAY + timedelta(minutes=n), job_id=job_id, job=job_id, blank_no=n, fate=kind, lots=lots)  # type: ignore[arg-type]
        for n, kind in enumerate(kinds, 1)
    ]


def row(rows: tuple[Source, ...], kind: str, name: str) -> Source:
    (found_one,) = [one for one in rows if (one.kind, one.name) == (kind, name)]
    return found_one


@given(st.integers(0, 12), st.integers(0, 12), st.integers(0, 30), st.integers(0, 30))
def test_luck_is_what_the_library_says(a: int, b: int, c: int, d: int) -> None:
    expected = fisher_exact([[a, b], [c, d]], alternative="greater").pvalue
    assert worse_by_luck(a, b, c, d) == pytest.approx(expected, abs=1e-9)
    more = more_to_know(a, b, c, d)
    if more:
        lost = round(a / (a + b) * (a + b + more))
        assert worse_by_luck(lost, a + b + more - lost, c, d) < 0.05 <= worse_by_luck(a, b, c, d)


def test_of_equal_lots_one_is_called_worse_less_than_once_in_twenty() -> None:
    chance, called = random.Random(3), 0
    for _ in range(400):
        own, others = (sum(chance.random() < 0.15 for _ in range(n)) for n in (12, 40))
        called += worse_by_luck(own, 12 - own, others, 40 - others) < 0.05
    assert called <= 20


def test_a_bad_lot_and_its_seller_are_named(tideline: Job, shop: Shop) -> None:
    ledger = (*fates(tideline.batch.id, 4, 1, "B-1, R-9"), *fates("e" * 12, 2, 13, "B-2, R-9"))
    bars = (Piece(name="Bar", lot="B-1", seller="Pilot's yard"), Piece(name="Bar", lot="B-2", seller="Salt house"))
    rows = sources((tideline,), shop.with_(ledger=ledger, pieces=bars))
    bad = row(rows, "lot", "B-1")
    assert (bad.scrapped, bad.of, bad.is_worse, bad.more) == (4, 5, True, 0)
    assert row(rows, "seller", "Pilot's yard").is_worse
    assert not row(rows, "seller", "Salt house").is_worse
    both = row(rows, "lot", "R-9")
    assert (both.scrapped, both.of) == (6, 20)
    assert rows[0].is_worse
    assert tideline.pour.resin is not None
    resin = row(rows, "resin", tideline.pour.resin.name)
    assert (resin.of, resin.is_worse, resin.luck) == (5, False, 1.0), "alone of its kind"
    few = sources((tideline,), shop.with_(ledger=(*fates("a" * 12, 2, 2, "X"), *fates("b" * 12, 2, 12, "Y"))))
    assert row(few, "lot", "X").more == 7
    assert "7 more" in row(few, "lot", "X").verdict


def test_the_demo_has_lots_and_a_job_is_found_by_one(tideline: Job, shop: Shop) -> None:
    rows = sources((tideline,), shop.with_(ledger=demo_ledger()))
    assert {one.kind for one in rows} == {"lot"}
    assert len(rows) == 3
    ledger = tuple(fates(tideline.batch.id, 0, 1, "QSC 26-1"))
    assert found((tideline,), ledger, "QSC 26-1") == (tideline,)
    assert not sources((tideline,), shop.with_(ledger=()))
