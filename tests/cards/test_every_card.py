"""What holds for every card: it can be read at the machine, and says whose it is and of which day."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest

from orvek.cards.every import CARDS
from orvek.cards.sheet import LEAST_PT, Ink
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import plan
from tests.cards.test_records_cards import text_of
from tests.jobs.the_sixteen import SIXTEEN

TODAY = date(2026, 11, 26)


@pytest.mark.parametrize("name", SIXTEEN)
def test_no_words_are_smaller_than_can_be_read_and_each_has_job_and_day(
    name: str, shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    sizes: list[float] = []
    write = Ink.text

    def noted(ink: Ink, x: float, y: float, words: str, size: float = 9, *more: Any, **named: Any) -> None:
        sizes.append(size)
        write(ink, x, y, words, size, *more, **named)

    monkeypatch.setattr(Ink, "text", noted)
    planned, written = plan(SIXTEEN[name](), shop), 0
    for kind, card in CARDS.items():
        try:
            told = text_of(card(planned, shop, TODAY))
        except NothingToDoError:
            continue
        written += 1
        assert planned.job.batch.name in told, kind
        assert "26 November 2026" in told, kind
    assert written > 2
    assert min(sizes) >= LEAST_PT
