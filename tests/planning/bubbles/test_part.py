"""Pressure and vacuum: what hurts stands with the way that is chosen, and with no other."""

from __future__ import annotations

import pytest

from orvek.documents import Bubbles, InsertStep, Job, LaminateStep, Layer, Shop, deeds, first_shop
from orvek.documents.deeds import choose_resin, set_value
from orvek.planning import Finding, Severity, apply_remedy, plan
from orvek.store import demo_job


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


def of_family(job: Job, family: str) -> Job:
    """A job that pours the generic resin of a family, with nothing against bubbles."""
    resin = next(one for one in first_shop().resins if one.family == family)
    return set_value(choose_resin(job, resin), ("pour", "bubbles"), Bubbles(way="none"))


def keys(job: Job, shop: Shop) -> dict[str, Finding]:
    return {one.key: one for one in plan(job, shop).findings}


def test_a_resin_that_sets_before_its_bubbles_rise_is_told(tideline: Job, shop: Shop) -> None:
    fast = of_family(tideline, "fast polyurethane")
    finding = keys(fast, shop)["bubbles.untreated"]
    assert finding.severity is Severity.CAUTION
    assert len(finding.remedies) == 1, "a pot of the shelf; another chemistry is no button"
    for remedy in finding.remedies:
        mended = keys(apply_remedy(fast, remedy), shop)
        assert "bubbles.untreated" not in mended
        assert "bubbles.pressure" not in mended, "what is offered is within the pot's rating"
    assert "bubbles.untreated" not in keys(of_family(tideline, "slow deep-pour epoxy"), shop)


@pytest.mark.parametrize(
    ("wood", "severity"), [("bigleaf-maple", "CAUTION"), ("maple-burl", "CAUTION"), ("black-locust", "NOTE")]
)
def test_wood_that_is_laid_into_resin_is_sealed_first(tideline: Job, shop: Shop, wood: str, severity: str) -> None:
    slab = InsertStep(material=wood, middle_mm=0)
    job = deeds.add_step(of_family(tideline, "slow deep-pour epoxy"), slab, 0)
    finding = keys(job, shop)["bubbles.sealing"]
    assert finding.severity is Severity[severity]
    for remedy in finding.remedies:
        assert "bubbles.sealing" not in keys(apply_remedy(job, remedy), shop)
    full = job.with_(soak=job.soak.with_(route="stabilised"))
    assert "bubbles.sealing" not in keys(full, shop)
    brass = deeds.add_step(tideline, InsertStep(material="brass", form="core"), 0)
    assert "bubbles.sealing" not in keys(brass, shop)


def test_oily_wood_is_told_where_resin_is_to_hold_on_it_and_wiped_where_glue_is(tideline: Job, shop: Shop) -> None:
    def wiped(job: Job) -> dict[str, float | None]:
        route = plan(job, shop).route
        assert route is not None
        return {one.key: one.soon_min for one in route.operations if one.after and one.after[0].startswith("wipe.")}

    def until_glued(job: Job) -> float | None:
        route = plan(job, shop).route
        assert route is not None
        return next(one.soon_min for one in route.operations if one.key == "tube")

    laid = deeds.add_step(tideline, InsertStep(material="teak"), 0)
    assert "bubbles.oily" in keys(laid, shop)
    strips = (Layer(material="rosewood", thickness_mm=5), Layer(material="holly", thickness_mm=5))
    glued = deeds.set_steps(tideline, (LaminateStep(strips=strips),))
    assert wiped(glued) == {"join.0": 15.0}
    assert until_glued(glued) == until_glued(laid) == 15.0
    assert {"glue_up.solvent", "bore.solvent"} <= {one.key for one in plan(glued, shop).cautions}
    plain = deeds.set_steps(tideline, (LaminateStep(strips=(Layer(material="holly", thickness_mm=5),)),))
    assert wiped(plain) == {}
    assert until_glued(plain) == 60.0
    assert "bubbles.oily" not in keys(plain, shop)
