"""The traveller: every operation of the route with its settings, wait and caution, on as many pages as it takes."""

from __future__ import annotations

from datetime import date

import pytest

from orvek.cards.every import CARDS
from orvek.cards.route_text import settings_lines
from orvek.documents import CutStep, Job, Layer, Shop, SolidStep, deeds
from orvek.errors import NothingToDoError
from orvek.planning import plan
from orvek.planning.route.pieces import taken
from orvek.planning.route.steps import steps_of
from orvek.store.demo import second_demo_job, third_demo_job
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


def test_the_traveller_says_how_many_coats_and_takes_only_what_is_used(shop: Shop) -> None:
    """Coats in turn stand in turn at the bench; of two alike sheets the first cut takes one."""
    cut = CutStep(angle_deg=62, centre_mm=38.5, sheet=(Layer(material="holly", thickness_mm=1.6),))
    job = second_demo_job()
    finish = job.finish.with_(school="thin, then medium", thin=3, medium=2, order="in turn")
    steps = (SolidStep(), cut, cut.with_(centre_mm=97))
    planned = plan(job.with_(blank=job.blank.with_(steps=steps), finish=finish), shop)
    told = plain(text_of(CARDS["traveller"](planned, shop, TODAY)))
    assert plain("3 thin coats") in told
    assert plain("2 medium coats") in told
    assert planned.route is not None
    found = {one.key: one for one in planned.route.operations}
    coats = [step.key.partition(":")[2] for step in steps_of(planned, found["coat"])]
    assert coats == ["thin.1", "medium.1", "thin.2", "medium.2", "thin.3"]
    sheets = [piece.count for piece in taken(found["join.1"]) if piece.name.startswith("Inlay")]
    assert sheets == [max(1, planned.glue_up.bars)]  # type: ignore[union-attr]
    assert sum(piece.count for piece in found["join.1"].takes if piece.name.startswith("Inlay")) > sheets[0]
