"""What a bar works like is asked once, and all that goes by it follows."""

from __future__ import annotations

import pytest

from orvek.craft.lathe import first_grit
from orvek.documents import Job, Shop, SolidStep
from orvek.planning import plan
from orvek.planning.finish.lathe import advised_more_mm
from orvek.planning.history import kind_of_work
from orvek.planning.stuff import has_metal, stuff_of, tears, turned_as


@pytest.mark.parametrize(
    ("said", "worked", "is_torn", "work", "grit"),
    [
        ("as the steps say", "wood", False, "plain wood", "P120"),
        ("fibre", "fibre", True, "fibre and punky wood", "P80"),
        ("resin", "resin", False, "plain wood", "P240"),
        ("metal", "metal", False, "plain wood", "P120"),
        ("no such stuff", "wood", False, "plain wood", "P120"),
    ],
)
def test_one_answer_reaches_bit_tool_allowance_scrap_and_grit(
    tideline: Job, said: str, worked: str, is_torn: bool, work: str, grit: str
) -> None:
    wooden = tideline.blank.with_(steps=(SolidStep(material="pear"),))
    job = tideline.with_(blank=wooden, bore=tideline.bore.with_(stuff=said))
    made = plan(job, Shop())
    assert (stuff_of(job).key, turned_as(job), tears(job)) == (worked, worked, is_torn)
    assert (kind_of_work(job), first_grit(turned_as(job))) == (work, grit)
    assert has_metal(job) == (said == "metal")
    assert (advised_more_mm(made)[0] == pytest.approx(0.4)) == is_torn
    assert made.bore is not None
    assert made.bore.stuff.key == worked


def test_soft_wood_that_the_maker_calls_sound_is_sound() -> None:
    job = Job().with_(soak=Job().soak.with_(route="soft, not stabilised"))
    assert tears(job)
    sound = job.with_(bore=job.bore.with_(stuff="wood"))
    assert not tears(sound)
    assert kind_of_work(sound) != "fibre and punky wood"
