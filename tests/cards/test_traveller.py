"""The traveller: every operation of the route with its settings, wait and caution, on as many pages as it takes."""

from __future__ import annotations

from datetime import date

import pytest

from orvek.cards import CARDS
from orvek.cards.route_text import settings_lines
from orvek.documents import Job, Shop, deeds
from orvek.errors import NothingToDoError
from orvek.planning import plan
from orvek.shop.demo import second_demo_job, third_demo_job
from tests.cards.test_records_cards import text_of
from tests.jobs.the_sixteen import SIXTEEN

TODAY = date(2026, 11, 26)


def plain(words: str) -> str:
    """As it is found again where lines were broken."""
    return "".join(words.split())


@pytest.mark.parametrize("job", [second_demo_job(), third_demo_job(), deeds.set_bars(SIXTEEN["01 swirl batch"](), ())])
def test_all_of_the_route_stands_on_it(job: Job, shop: Shop) -> None:
    planned = plan(job, shop)
    assert planned.route is not None
    told = plain(text_of(CARDS["traveller"](planned, shop, TODAY)))
    for number, one in enumerate(planned.route.operations, 1):
        assert plain(f"{number}. {one.words}") in told
        assert all(plain(line) in told for line in settings_lines(one, planned.units))
        assert all(plain(words) in told for words in planned.cautions_of(one.cautions))
        assert one.wait_words == "" or plain(one.wait_words) in told


def test_nothing_decided_gives_none(shop: Shop) -> None:
    with pytest.raises(NothingToDoError):
        CARDS["traveller"](plan(Job(), shop), shop, TODAY)
