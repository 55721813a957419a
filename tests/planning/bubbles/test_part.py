"""Pressure and vacuum: what hurts stands with the way that is chosen, and with no other."""

from __future__ import annotations

import pytest

from orvek.documents import Bubbles, Job, Shop
from orvek.documents.deeds import set_value
from orvek.planning import plan


@pytest.mark.parametrize(("way", "word"), [("pressure", "rating"), ("vacuum", "implode"), ("none", "")])
def test_a_way_has_its_own_caution(way: str, word: str, tideline: Job, shop: Shop) -> None:
    made = plan(set_value(tideline, ("pour", "bubbles"), Bubbles(way=way)), shop)  # type: ignore[arg-type]
    told = [caution for caution in made.cautions if caution.key.startswith("bubbles.")]
    assert [caution.key for caution in told] == ([f"bubbles.{way}"] if word else [])
    assert word in made.caution(f"bubbles.{way}")
    assert made.caution("bubbles.no such way") == ""
