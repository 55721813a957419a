"""What can hurt when a casting is warmed is said when it is warmed, and only then."""

from __future__ import annotations

from orvek.documents import Job, Shop
from orvek.documents.deeds import set_value
from orvek.planning import plan
from orvek.planning.cure.part import WARMING


def test_warming_has_its_caution(tideline: Job, shop: Shop) -> None:
    warmed = set_value(tideline, ("pour", "conditions", "warm_c"), 50.0)
    assert "never in a food oven" in plan(warmed, shop).caution(WARMING)
    assert plan(tideline, shop).caution(WARMING) == ""
    assert plan(set_value(warmed, ("pour", "resin"), None), shop).caution(WARMING) == ""
