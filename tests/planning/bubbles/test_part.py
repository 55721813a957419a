"""Pressure and vacuum: what hurts stands with the way that is chosen, and with no other."""

from __future__ import annotations

import pytest

from orvek.documents import Bubbles, Job, Shop
from orvek.documents.deeds import choose_resin, set_value
from orvek.planning import apply_remedy, plan
from orvek.shop import demo_job


@pytest.mark.parametrize(("way", "word"), [("pressure", "rating"), ("vacuum", "implode"), ("none", "")])
def test_a_way_has_its_own_caution(way: str, word: str, tideline: Job, shop: Shop) -> None:
    made = plan(set_value(tideline, ("pour", "bubbles"), Bubbles(way=way)), shop)  # type: ignore[arg-type]
    told = [caution for caution in made.cautions if caution.key.startswith("bubbles.")]
    assert [caution.key for caution in told] == ([f"bubbles.{way}"] if word else [])
    assert word in made.caution(f"bubbles.{way}")
    assert made.caution("bubbles.no such way") == ""


@pytest.mark.parametrize("warm_c", [12.0, 21.0, 33.0])
def test_what_is_offered_against_a_resin_that_boils_keeps_it_from_boiling(warm_c: float, shop: Shop) -> None:
    boiling = [one for one in shop.resins if (found := shop.family(one.family)) and found.vapour_kpa_20]
    for resin in boiling:
        job = set_value(choose_resin(demo_job(), resin), ("batch", "shop_temperature_c"), warm_c)
        job = set_value(job, ("pour", "bubbles"), job.pour.bubbles.with_(way="vacuum", gauge_bar=1.01))
        (found,) = (one for one in plan(job, shop).findings if "itself boils" in one.title)
        after = plan(apply_remedy(job, found.remedies[0]), shop)
        assert not [one.title for one in after.findings if "itself boils" in one.title]
    assert len(boiling) > 1
