"""The lay-out list: every thing of an evening once, with its place; what is counted and gone is marked and bought."""

from __future__ import annotations

import io
from datetime import datetime, timedelta

import pytest
from msgspec.structs import replace
from pypdf import PdfReader

from orvek.cards.lay_out_card import lay_out_card
from orvek.documents import Fault, Holding, Job, Piece, Shop, deeds
from orvek.errors import NothingToDoError
from orvek.planning import Plan, plan
from orvek.planning.lay_out import KINDS, Thing, laid_out, missing_tools
from orvek.planning.stock import held
from orvek.planning.timetable.next_day import next_slots, operations_in
from orvek.planning.timetable.results import Slot
from orvek.store.demo import second_demo_job, third_demo_job


def things(made: Plan, *keys: str) -> tuple[Thing, ...]:
    assert made.route is not None
    tasks = [one for one in made.route.operations if one.key in keys or not keys]
    return laid_out([(made, one) for one in tasks], held(made.shop.pieces, ()))


def said(found: tuple[Thing, ...], kind: str) -> set[str]:
    return {one.words for one in found if one.kind == kind}


def test_an_evening_at_the_press_and_the_lathe(tideline: Job, shop: Shop) -> None:
    shop = shop.with_(holding=Holding(way="mandrel"))
    assert "mandrel or centres" in said(things(plan(tideline, shop.with_(holding=Holding())), "turn"), "holding")
    made = plan(tideline, shop)
    assert made.bore is not None
    bored = said(things(made, "bore"), "bits and blades")
    assert {words.split(",")[0] for words in bored} == {"bit 8.30 mm", "bit 9.50 mm"}
    pilots = {f"end mill, pilot {hole.barrel.tube_diameter_mm - 0.7:.1f} mm" for hole in made.bore.holes}
    assert said(things(made, "square"), "bits and blades") == pilots
    turning = said(things(made, "turn"), "holding")
    assert "mandrel, spacers" in turning
    assert any(words.startswith("bushings, ") for words in turning)
    dummies = tideline.with_(finish=tideline.finish.with_(tenths="on dummy bushings, by calipers"))
    assert any(words.startswith("dummy bushings") for words in said(things(plan(dummies, shop), "turn"), "holding"))


def test_every_operation_of_the_three_jobs_has_its_things_once_and_in_order(tideline: Job, shop: Shop) -> None:
    plans = [plan(job, shop) for job in (tideline, second_demo_job(), third_demo_job())]
    wanted = [(one, task) for one in plans for task in (one.route.operations if one.route else ())]
    found = laid_out(wanted, held(shop.pieces, ()))
    keys = [(one.kind, one.words) for one in found]
    assert len(set(keys)) == len(keys)
    assert [KINDS.index(kind) for kind, _ in keys] == sorted(KINDS.index(kind) for kind, _ in keys)
    for made, task in wanted:
        assert things(made, task.key), f"nothing to lay out for {task.words}"
    care = next(one for one in found if one.kind == "care")
    assert len(care.jobs) > 1
    words = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(lay_out_card("Lay out", found, shop))).pages)
    assert all(one.words.split(",")[0] in words for one in found if one.kind == "bits and blades")
    with pytest.raises(NothingToDoError):
        lay_out_card("Lay out", (), shop)


def test_a_repair_wants_the_fill_that_was_chosen_for_it(tideline: Job, shop: Shop) -> None:
    pit = Fault(blank_no=1, barrel=0, at_mm=20, long_mm=2, wide_mm=2, deep_mm=0.8, fill="crushed shell")
    for way, wanted in (("fill", {"glue, crushed shell"}), ("", set())):
        made = plan(deeds.add_fault(tideline, pit.with_(way=way)), shop)
        mends = [one for one in made.route.operations if one.kind == "mend"] if made.route else []
        assert len(mends) == len(wanted)
        assert {words for one in mends for words in said(things(made, one.key), "glue and resin")} == wanted


def test_the_next_day_is_the_first_on_which_hands_are_wanted_and_what_is_gone_is_left_out(
    tideline: Job, shop: Shop
) -> None:
    made, job = plan(tideline, shop), tideline.batch.id
    assert made.route is not None
    first, second, third = made.route.operations[:3]
    at = datetime(2026, 5, 4, 19)
    hour, day = timedelta(hours=1), timedelta(days=1)
    begun = (at - day, at + day, at + day + hour, at + 3 * day)
    slots = tuple(
        Slot(job, task, begins, begins + hour, begins + hour)
        for task, begins in zip((first, second, replace(third, key=f"{third.key}/1"), first), begun, strict=True)
    )
    coming = next_slots(slots, at)
    assert coming == slots[1:3]
    assert [task.key for _, task in operations_in(coming, {job: made})] == [second.key, third.key]
    assert not list(operations_in(coming, {}))
    assert next_slots((), at) == ()


def test_what_the_shelf_counts_has_its_place_and_what_is_gone_is_bought(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    bushings = Piece(name="Bushings", kind="bushing", pen=tideline.pen.name, count=1, place="Drawer 2")
    there = plan(tideline, shop.with_(pieces=(bushings,)))
    (found,) = [one for one in things(there, "turn") if one.words.startswith("bushings")]
    assert (found.place, found.missing) == ("Drawer 2", False)
    assert not missing_tools(there, held(there.shop.pieces, ()))
    gone = plan(tideline, shop.with_(pieces=(bushings.with_(count=0),)))
    (found,) = [one for one in things(gone, "turn") if one.words.startswith("bushings")]
    assert (found.place, found.missing) == ("", True)
    bought = missing_tools(gone, held(gone.shop.pieces, ()))
    assert [(one.what, one.name, one.buy) for one in bought] == [("bushing", tideline.pen.name, 1)]
    uncounted = plan(tideline, shop.with_(pieces=()))
    assert not any(one.missing for one in things(uncounted))
