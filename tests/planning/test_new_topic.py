"""The worked example of docs/recipes.md: a topic of its own, with one figure, one finding and one caution."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from msgspec import Struct

from orvek.documents import Job, Shop, deeds
from orvek.planning import Figure, Plan, plan, report_sections
from orvek.planning import plan as plan_of
from orvek.planning.findings import Caution, Edit, Finding, Remedy, Severity, Station
from orvek.planning.topics import TOPICS, Topic
from orvek.planning.working import Term
from orvek.quantities import Dimension


class WeighIn(Struct, frozen=True):
    """What the topic adds to the plan. It stands in a field that is free in this test, `boards`."""

    pens: Figure


def part(made: Plan) -> WeighIn:
    wanted = made.job.batch.pens_wanted
    term = Term("n", "pens wanted", wanted, Dimension.COUNT)
    return WeighIn(Figure("Parcel", 30.0 * wanted, Dimension.MASS, "m = 30 g · n", (term,), "a parcel of pens"))


def heavy(made: Plan) -> Iterator[Finding]:
    """A parcel that is too heavy to carry."""
    found = made.boards
    if isinstance(found, WeighIn) and found.pens.value > 1000:
        remedy = Remedy("Send two pens", (Edit(("batch", "pens_wanted"), 2),))
        yield Finding(Severity.NOTE, Station.PEN, "It is heavy.", found.pens.written(made.units), (remedy,))


def cautions(_made: Plan) -> Iterator[Caution]:
    yield Caution("weigh_in.back", "Lift with your knees.")


def sections(made: Plan) -> Iterator[tuple[str, list[Figure]]]:
    if isinstance(made.boards, WeighIn):
        yield "Weigh in", [made.boards.pens]


def test_a_topic_is_one_entry_of_the_table(tideline: Job, shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    import sys

    entry = Topic(
        key="boards", station=Station.PEN, words="the parcel", part=part, checks=(heavy,), sections=sections,
        cautions=cautions,
    )  # fmt: skip
    monkeypatch.setattr(sys.modules["orvek.planning.plan"], "TOPICS", (*TOPICS, entry))
    made = plan(deeds.set_value(tideline, ("batch", "pens_wanted"), 60), shop)
    assert isinstance(made.boards, WeighIn)
    (finding,) = [found for found in made.findings if found.key == "boards.heavy"]
    assert finding.because == "1800.0 g"
    assert made.caution("weigh_in.back")
    assert ("Weigh in", [made.boards.pens]) in list(report_sections(made))
    assert plan_of(tideline, shop).caution("weigh_in.back")


def test_keys_are_unique_and_begin_with_their_topic() -> None:
    keys = [f"{topic.key}.{getattr(check, '__name__', '')}" for topic in TOPICS for check in topic.checks]
    assert len(keys) == len(set(keys))
    assert all(getattr(check, "__doc__", "") for topic in TOPICS for check in topic.checks)
    fields = set(Plan.__struct_fields__)
    assert {topic.key for topic in TOPICS if topic.part is not None} <= fields
