"""The ledger and what follows from it: fates and their corrections, rates, costs, what to change, what is learned."""

from __future__ import annotations

import math
from datetime import date, datetime, timedelta
from functools import reduce

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.craft.spoilage import spoil_rate, usual_rate, work_kinds
from orvek.documents import (
    Actual,
    BoredHole,
    ChangeEntry,
    ClosedEntry,
    DurationSeen,
    FateEntry,
    InsertStep,
    Job,
    LessonEntry,
    Machine,
    Order,
    Price,
    Selling,
    Shop,
    SolidStep,
    deeds,
    fates,
    price_on,
)
from orvek.documents.deeds.records import begin_series, take_up_again, write_entry
from orvek.errors import BadFieldError, NothingToDoError
from orvek.planning import Severity, plan
from orvek.planning.compared import Compared, compared
from orvek.planning.history import closed_batches, expected_pct, fates_of, is_missed, kind_of_work, last_fates, seen
from orvek.planning.records.again import as_done, what_differs
from orvek.planning.records.changes import proposals, tried
from orvek.planning.records.closing import closed
from orvek.planning.records.costs import pen_cost, spent
from orvek.planning.records.learned import learned
from orvek.planning.records.overview import next_batches, with_job_in_hand
from orvek.planning.records.search import found
from orvek.planning.records.side_by_side import COMPARED, beside
from orvek.planning.route.steps import steps_of
from orvek.quantities import Dimension, Units
from orvek.store.demo import second_demo_job
from orvek.store.demo_records import demo_ledger, with_demo_records
from tests.jobs.the_sixteen import SIXTEEN

DAY = datetime(2026, 3, 7, 10, 0)


def by_record(job: Job) -> Job:
    return job.with_(batch=job.batch.with_(spoilage_pct=None))


def fate(number: int, what: str = "good", cause: str = "", *, days: float = 0, **more: object) -> FateEntry:
    content = {"job_id": "aaaaaaaaaaaa", "job": "Eelgrass", "work": "cast resin", "stage": "turning", **more}
    return FateEntry(when=DAY + timedelta(days=days), blank_no=number, fate=what, cause=cause, **content)


def test_the_sixteen_jobs_are_all_kinds_of_work() -> None:
    kinds = {name: kind_of_work(make()) for name, make in SIXTEEN.items()}
    assert set(kinds.values()) <= {kind.key for kind in work_kinds()}
    assert len(set(kinds.values())) >= 5, kinds


def test_of_two_entries_about_a_blank_the_later_one_counts_and_none_is_lost() -> None:
    ledger = (
        fate(1, "spoilt", "blow-out"),
        fate(2),
        fate(1, "repaired", "blow-out", days=1),
        fate(3, "spoilt", days=2),
    )
    assert {n: one.fate for n, one in fates_of(ledger, "aaaaaaaaaaaa").items()} == {
        1: "repaired",
        2: "good",
        3: "spoilt",
    }
    again = (*ledger, fate(3, "spoilt", days=3, is_open_again=True))
    assert set(fates_of(again, "aaaaaaaaaaaa")) == {1, 2}
    there = seen(again, "cast resin")
    assert (there.of, there.missed) == (2, 0)
    shop = reduce(write_entry, again, Shop())
    assert shop.ledger == again


@given(st.lists(st.tuples(st.integers(1, 6), st.sampled_from(fates()), st.booleans()), max_size=30))
def test_every_blank_is_counted_once_whatever_is_written(written: list[tuple[int, str, bool]]) -> None:
    ledger = tuple(
        fate(number, what, "blow-out", days=day, is_open_again=is_open)
        for day, (number, what, is_open) in enumerate(written)
    )
    there = seen(ledger, "cast resin")
    last = {number: (what, is_open) for number, what, is_open in written}
    closed = [what for what, is_open in last.values() if not is_open]
    assert there.of == len(closed)
    assert there.missed == sum(what in {"spoilt", "made smaller"} for what in closed)
    assert sum(count for _, count in there.causes) == sum(count for _, count in there.stages) == there.missed
    assert there.rate == spoil_rate(usual_rate("cast resin"), there.missed, there.of)


def test_a_clock_that_goes_backwards_is_said_and_nothing_is_written() -> None:
    shop = write_entry(Shop(), fate(1, days=3))
    with pytest.raises(BadFieldError, match="clock went backwards"):
        write_entry(shop, fate(2))
    assert len(write_entry(shop, fate(2, days=2.999)).ledger) == 2  # minutes are no clock that was set back


def test_a_batch_is_begun_by_the_record_where_the_maker_wants_that(tideline: Job, shop: Shop) -> None:
    ledger = tuple(fate(n, "spoilt" if n % 3 == 0 else "good", "blow-out" if n % 3 == 0 else "") for n in range(1, 31))
    typed = plan(tideline, shop.with_(ledger=ledger))
    told = [one for one in typed.findings if one.key == "records.own_rate"]
    assert [one.severity for one in told] == [Severity.NOTE]
    assert "10 gave no good pen" in told[0].because
    learned_plan = plan(tideline.with_(batch=tideline.batch.with_(spoilage_pct=None)), shop.with_(ledger=ledger))
    assert learned_plan.bars.blanks.value > typed.bars.blanks.value
    assert "yours, 10 of 30" in learned_plan.bars.blanks.source
    assert not [one for one in learned_plan.findings if one.key == "records.own_rate"]
    # What is typed afterwards counts again.
    typed_again = deeds.set_value(learned_plan.job, ("batch", "spoilage_pct"), 12)
    assert plan(typed_again, shop.with_(ledger=ledger)).bars.blanks.source.startswith("enough good ones")


# -- cost -------------------------------------------------------------------------------------------------------


def priced(shop: Shop, **more: float) -> Shop:
    day = date(2026, 1, 1)
    prices = {"an hour of work": 20.0, "part set": 8.0, "tube": 1.0, "abrasives and finish, a pen": 0.5, **more}
    return shop.with_(prices=tuple(Price(what=what, price=price, since=day) for what, price in prices.items()))


def test_a_good_pen_costs_more_with_the_spoilt_ones_and_most_where_it_is_lost_late(tideline: Job, shop: Shop) -> None:
    early = tuple(fate(n, "spoilt", stage="casting") for n in range(1, 5)) + tuple(fate(n) for n in range(5, 11))
    late = tuple(one.with_(stage="pressing") if one.fate == "spoilt" else one for one in early)
    tideline = by_record(tideline)
    cost = {name: pen_cost(plan(tideline, priced(shop).with_(ledger=ledger)), date(2026, 6, 1))
            for name, ledger in (("none", ()), ("early", early), ("late", late))}  # fmt: skip
    assert all(one is not None for one in cost.values())
    none, first, last = (cost[name] for name in ("none", "early", "late"))
    assert none is not None
    assert first is not None
    assert last is not None
    assert first.told.value == last.told.value, "where it was lost changes nothing of what one takes"
    assert none.told.value < none.with_spoilt.value < first.with_spoilt.value < last.with_spoilt.value
    assert none.told.value == pytest.approx(sum(stage.cost for stage in none.stages))
    assert next(stage.spoilt for stage in last.stages if stage.kind.key == "pressing") == 4
    assert last.price is not None
    assert last.price.value == pytest.approx(last.with_spoilt.value / 0.65)
    fewer = [gain.words for gain in last.gains if "less scrap" in gain.words]
    assert fewer[0] == "One in a hundred less scrap: pressing"


def test_a_loss_where_the_job_has_no_stage_is_paid_for_all_the_same(tideline: Job, shop: Shop) -> None:
    ledger = tuple(fate(n, "spoilt", stage="glue-up" if n % 2 else "later") for n in range(1, 5))
    tideline = by_record(tideline)
    costs = [pen_cost(plan(tideline, priced(shop).with_(ledger=one)), date(2026, 6, 1)) for one in ((), ledger)]
    assert costs[0] is not None
    assert costs[1] is not None
    assert costs[1].with_spoilt.value > 1.3 * costs[0].with_spoilt.value


def test_a_batch_that_is_finished_twice_stands_once() -> None:
    about = {"job_id": "aaaaaaaaaaaa", "job": "Eelgrass"}
    first, last = (ClosedEntry(when=DAY + timedelta(days=n), started=6, good=n, told=5, **about) for n in (1, 4))
    assert closed_batches((first, last)) == (last,)


def test_an_hour_at_a_machine_is_paid_where_that_machine_works(tideline: Job, shop: Shop) -> None:
    day = date(2026, 6, 1)
    lathe = Price(what="an hour at a machine", of="lathe", price=6.0, since=date(2026, 1, 1))
    cost = pen_cost(plan(tideline, shop.with_(prices=(lathe,))), day)
    assert cost is not None
    stages = {stage.kind.key: stage for stage in cost.stages}
    at_lathe = {key for key, stage in stages.items() if stage.machine > 0}
    assert at_lathe == {"squaring", "turning", "sanding", "coating"}
    assert stages["turning"].machine == pytest.approx(stages["turning"].minutes / 60 * 6.0)
    assert stages["turning"].work == 0
    # A task that was seen counts as it was, unless it was left alone in between.
    for minutes, counts in ((30, True), (59, True), (11 * 60, False)):
        began = Actual(task="square", what="began", when=DAY)
        seen_job = deeds.write_actual(tideline, began)
        seen_job = deeds.write_actual(seen_job, began.with_(what="done", when=DAY + timedelta(minutes=minutes)))
        told = pen_cost(plan(seen_job, shop), day)
        assert told is not None
        squared = next(stage.minutes for stage in told.stages if stage.kind.key == "squaring")
        blanks = plan(tideline, shop).bars.blanks.value
        assert (squared == pytest.approx(minutes / blanks)) == counts


def test_what_is_expected_to_spoil_is_typed_or_as_the_record_says(tideline: Job) -> None:
    ledger = tuple(fate(n, "spoilt" if n < 4 else "good") for n in range(1, 13))
    assert expected_pct(tideline, ledger) == tideline.batch.spoilage_pct
    assert expected_pct(by_record(tideline), ledger) == pytest.approx(100 * (4 * 0.08 + 3) / 16)


@pytest.mark.parametrize("typed", [None, 0.0, 10.0, 60.0])
def test_what_is_expected_to_spoil_is_one_number_for_blanks_costs_and_the_next_batch(
    tideline: Job, shop: Shop, typed: float | None
) -> None:
    ledger = tuple(fate(n, "spoilt" if n < 4 else "good", stage="boring") for n in range(1, 13))
    job = tideline.with_(batch=tideline.batch.with_(spoilage_pct=typed))
    planned = plan(job, priced(shop).with_(ledger=ledger))
    cost = pen_cost(planned, date(2026, 6, 1))
    assert cost is not None
    through = math.prod(stage.passes for stage in cost.stages)
    assert through == pytest.approx(1 - expected_pct(job, ledger) / 100)
    (row,) = next_batches(planned, plan, (), date(2026, 6, 1))
    assert (row.start, row.cost) == (planned.bars.blanks.value, cost)


def test_blanks_nobody_wrote_a_word_about_are_counted_as_begun(tideline: Job, shop: Shop) -> None:
    spoilt = fate(2, "spoilt", "blow-out").with_(begun=6)
    there = seen((spoilt,), spoilt.work)
    assert (there.of, there.missed) == (6, 1)
    assert seen((spoilt, *(fate(n) for n in range(3, 10))), spoilt.work).of == 8, "more have a fate than were begun"
    other = fate(1).with_(job_id="bbbbbbbbbbbb", begun=3)
    assert seen((spoilt, other), spoilt.work).of == 9
    assert closed(plan(tideline.with_(batch=tideline.batch.with_(id=spoilt.job_id)), shop.with_(ledger=(spoilt,))),
                  datetime(2026, 6, 1)).started == 6  # fmt: skip


def test_what_has_no_price_is_named_and_left_out(tideline: Job, shop: Shop) -> None:
    bare = pen_cost(plan(tideline, shop), date(2026, 6, 1))
    assert bare is not None
    assert "an hour of work" in bare.unpriced
    assert any(one.startswith("part set") for one in bare.awaited)
    assert bare.price is None, "a price without the parts is none"
    assert not bare.warnings
    full = pen_cost(plan(tideline, priced(shop)), date(2026, 6, 1))
    assert full is not None
    assert full.price is not None
    assert not full.unpriced
    assert full.told.value > bare.told.value


def test_a_job_keeps_the_prices_of_the_day_it_was_begun(tideline: Job, shop: Shop) -> None:
    dearer = (*priced(shop).prices, Price(what="part set", price=80.0, since=date(2026, 7, 1)))
    assert price_on(dearer, "part set", "Ebb", date(2026, 6, 30)) == 8.0
    assert price_on(dearer, "part set", "Ebb", date(2026, 7, 1)) == 80.0
    assert price_on(dearer, "part set", "Ebb", date(2025, 7, 1)) is None
    own = (*dearer, Price(what="part set", of="Ebb", price=5.0, since=date(2026, 2, 1)))
    assert price_on(own, "part set", "Ebb", date(2026, 8, 1)) == 5.0
    begun = deeds.write_actual(tideline, Actual(task="weigh.1", what="began", when=datetime(2026, 5, 2, 18)))
    costs = [pen_cost(plan(job, shop.with_(prices=dearer)), date(2026, 9, 1)) for job in (begun, tideline)]
    assert [next(s.materials for s in one.stages if s.kind.key == "pressing") for one in costs if one] == [8.0, 80.0]


def test_a_price_that_cannot_be_and_one_below_cost_are_said(tideline: Job, shop: Shop) -> None:
    greedy = priced(shop).with_(selling=Selling(margin_pct=60, fee_pct=45))
    cost = pen_cost(plan(tideline, greedy), date(2026, 6, 1))
    assert cost is not None
    assert cost.price is None
    assert "no price leaves that" in cost.warnings[0]
    cheap = tideline.with_(orders=(Order(customer="Gauge keeper", pens=5, price=3.0, paid=20.0),))
    below = pen_cost(plan(cheap, priced(shop)), date(2026, 6, 1))
    assert below is not None
    assert "below the cost of a good pen" in below.warnings[0]
    assert cheap.orders[0].to_come == -5.0


def test_saved_tubes_come_back_and_a_blank_costs_up_to_where_it_was_lost(tideline: Job, shop: Shop) -> None:
    own = {"job_id": tideline.batch.id}
    lost = (fate(1, "spoilt", "blow-out", **own), fate(2, **own), fate(3, "spoilt", stage="casting", **own))
    saved = (lost[0].with_(is_tube_saved=True), *lost[1:])
    costs = [pen_cost(plan(tideline, priced(shop).with_(ledger=ledger)), date(2026, 6, 1)) for ledger in (lost, saved)]
    assert costs[0] is not None
    assert costs[1] is not None
    assert (costs[0].reclaimed, costs[1].reclaimed) == (0.0, 2.0)  # a tube for each barrel
    assert costs[1].with_spoilt.value == pytest.approx(costs[0].with_spoilt.value - 2.0 / tideline.batch.pens_wanted)
    whole, casting = sum(stage.cost for stage in costs[0].stages), costs[0].stages[0].cost
    to_turning = sum(stage.cost for stage in costs[0].stages[:6])
    assert costs[0].stages[5].kind.key == "turning"
    assert spent(costs[0], lost) == pytest.approx(to_turning + whole + casting)
    assert spent(costs[1], saved) == pytest.approx(to_turning + whole + casting - 2.0)


# -- what to change ---------------------------------------------------------------------------------------------


def test_two_failures_of_one_cause_ask_for_a_change_and_the_next_try_shows_it() -> None:
    once = (fate(1, "spoilt", "blow-out"), fate(2))
    assert not proposals(once)
    twice = (*once, fate(3, "spoilt", "blow-out", days=1))
    (asked,) = proposals(twice)
    assert (asked.work, asked.cause, asked.count, asked.of) == ("cast resin", "blow-out", 2, 3)
    assert "light cuts" in asked.words
    change = ChangeEntry(when=DAY + timedelta(days=2), work=asked.work, cause=asked.cause, words=asked.words)
    changed = (*twice, change)
    assert not proposals(changed)
    assert tried(changed)[0].verdict == "not tried yet"
    good = (*changed, fate(4, days=3))
    assert tried(good)[0].verdict == "none of 1 so far, which may be luck 1 time in 3"
    held = (*good, *(fate(n, days=3) for n in range(5, 9)))
    assert tried(held)[0].verdict.startswith("it holds: none of 5")
    failed = (*good, fate(5, "spoilt", "blow-out", days=4))
    assert "it came again, 1 of 2" in tried(failed)[0].verdict
    again = (*failed, fate(6, "spoilt", "blow-out", days=5))
    assert proposals(again)[0].words.startswith("What was changed did not do.")


def test_a_change_of_another_kind_of_work_says_nothing_of_this_one() -> None:
    ledger = (fate(1, "spoilt", "blow-out"), fate(2, "spoilt", "blow-out", work="hybrid", job_id="bbbbbbbbbbbb"))
    assert not proposals(ledger)


def test_ten_batches_with_failures_say_what_the_next_costs_how_many_to_start_and_what_to_change(
    tideline: Job, shop: Shop
) -> None:
    there = with_demo_records(shop)
    assert len({one.job_id for one in there.ledger if isinstance(one, ClosedEntry)}) == 10
    rows = {row.seen.work: row for row in next_batches(plan(tideline, there), plan, (), date(2026, 11, 26))}
    assert set(rows) == {"cast resin", "hybrid", "segmented", "fibre and punky wood", "stabilised"}
    for row in rows.values():
        assert row.start > row.pens
        assert row.chance >= (0.75 if row.seen.work == "cast resin" else 0.9), "as sure as its newest job wants"
        assert (row.cost is not None) == (row.seen.work == "cast resin")
        assert row.closed is not None
        assert row.closed.cost_good is not None
        assert row.advice
    cast = rows["cast resin"]
    assert cast.cost is not None
    assert cast.cost.with_spoilt.value > cast.cost.told.value > 0
    assert rows["hybrid"].change is not None
    assert rows["hybrid"].advice.startswith("resin off the wood, 2 of 12")
    assert "it holds" in rows["fibre and punky wood"].advice
    assert "once is no pattern" in cast.advice


# -- learned ----------------------------------------------------------------------------------------------------


def test_defaults_are_generic_until_seen_and_can_be_set_back_and_taken_up_again() -> None:
    holes = tuple(BoredHole(name=f"Hole {n}", bit_mm=7, off_mm=0.1 * n, torn_mm=0.5 * n) for n in range(1, 5))
    times = (
        DurationSeen(name="One", kind="turn", minutes=60, pieces=2),
        DurationSeen(name="Two", kind="turn", minutes=35),
    )
    shop = Shop(bored=holes, durations=times)
    rows = {row.words: row for row in learned(shop)}
    assert rows["cast resin"].source == "generic"
    turn = rows["Turn to size, a piece"]
    assert (turn.source, turn.low < turn.value < turn.high) == ("yours, 2 times", True)
    torn = next(row for row in rows.values() if row.group == "Boring" and row.count and "exit" in row.words)
    assert (torn.value, torn.count) == (2.0, 4)
    drift = next(row for row in rows.values() if "a bit of 7 mm" in row.words)
    assert drift.low < drift.value < drift.high
    back = begin_series(shop, turn.key, DAY, turn.shelf, turn.items)
    assert not back.durations
    after = next(row for row in learned(back) if row.words == turn.words)
    assert (after.source, after.set_aside) == ("generic", 2)
    again = take_up_again(back, turn.key, DAY)
    assert again.durations == shop.durations
    assert next(row for row in learned(again) if row.words == turn.words) == turn
    with pytest.raises(NothingToDoError):
        take_up_again(again, turn.key, DAY)


def test_coats_weighings_and_kerfs_are_learned_from_the_jobs_themselves(tideline: Job, shop: Shop) -> None:
    saw = shop.machines[0] if shop.machines else Machine()
    coated = [Actual(task=f"coat:thin.{n}", what="counted", when=DAY) for n in (1, 2)]
    tideline = deeds.set_value(tideline, ("finish", "school"), "thin, then medium")
    job = reduce(deeds.write_actual, coated, worked(tideline, shop))
    job = job.with_(glue_up=job.glue_up.with_(machine=saw, kerf_readings_mm=(6.0, 6.1, 6.2)))
    rows = {row.words: row for row in learned(shop, (job,))}
    coats = rows["Coats put on, of those planned"]
    assert coats.value == pytest.approx(200 / (3 + 8))
    kerf = rows[f"Kerf of {saw.name}"]
    assert (kerf.count, round(kerf.value, 3)) == (3, 6.1)
    assert kerf.high - kerf.value == pytest.approx(1.645 * 0.1)
    assert rows["Weighed beside what was asked"].value > 5  # the pigment that was a third too much
    assert [row.is_within for row in compared(plan(job, shop)) if row.words == "Kerf"] == [False]


def test_what_several_jobs_and_one_reading_say(tideline: Job, shop: Shop) -> None:
    def coated(*keys: str) -> Job:
        counted = [Actual(task=f"coat:{key}", what="counted", when=DAY) for key in keys]
        job = tideline.with_(finish=tideline.finish.with_(thin=2, medium=2))
        return reduce(deeds.write_actual, counted, job)

    rows = {row.words: row for row in learned(shop, (coated("thin.1"), coated("thin.1", "thin.2", "medium.1")))}
    coats = rows["Coats put on, of those planned"]
    assert (coats.value, coats.low, coats.high, coats.count) == (50.0, 25.0, 75.0, 2)
    off = [
        Actual(task="weigh.1:1.A", what="weighed", value=10.0 + part, planned=10.0, when=DAY) for part in (0.3, -0.4)
    ]
    near = {row.words: row for row in learned(shop, (reduce(deeds.write_actual, off, tideline),))}
    weighed = near["Weighed beside what was asked"]
    assert weighed.value == pytest.approx(((3**2 + 4**2) / 2) ** 0.5)
    assert (weighed.low, weighed.high) == pytest.approx((weighed.value * (1 - 0.8225), weighed.value * 1.8225))
    assert weighed.written(shop.preferences.units)[1]
    assert not next(row for row in rows.values() if row.group == "Boring" and not row.count).written(Units())[1]


def test_a_new_series_of_a_kind_of_work_begins_with_nothing_seen_and_keeps_all_that_was() -> None:
    ledger = tuple(fate(n, "spoilt", "blow-out") for n in range(1, 6))
    shop = begin_series(Shop(ledger=ledger), "spoilage: cast resin", DAY + timedelta(days=1))
    assert seen(shop.ledger, "cast resin").of == 0
    assert len(last_fates(shop.ledger)) == 5
    row = next(one for one in learned(shop) if one.words == "cast resin")
    assert (row.source, row.set_aside, row.can_be_set_back) == ("generic", 5, False)
    again = take_up_again(shop, row.key, DAY + timedelta(days=2))
    assert (seen(again.ledger, "cast resin").of, seen(again.ledger, "cast resin").set_aside) == (5, 0)
    with pytest.raises(NothingToDoError):
        take_up_again(again, row.key, DAY + timedelta(days=3))
    later = write_entry(shop, fate(6, days=2))
    assert (seen(later.ledger, "cast resin").of, seen(later.ledger, "cast resin").missed) == (1, 0)


# -- planned and actual, again, finding ---------------------------------------------------------------------------


def worked(tideline: Job, shop: Shop) -> Job:
    """Tideline weighed, with a third too much of the first pigment, and poured two days later."""
    made = plan(tideline, shop)
    assert made.route is not None
    weigh = made.route.operations[0]
    actuals = [Actual(task=weigh.key, what="began", when=DAY)]
    for step in steps_of(made, weigh):
        if step.kind == "weigh" and step.target_g is not None:
            value = step.target_g * (1.33 if step.key.endswith("1.p1") else 1.001)
            about = {"value": value, "planned": step.target_g, "unit": "g", "when": DAY}
            actuals.append(Actual(task=step.key, what="weighed", **about))
    actuals.append(Actual(task=weigh.key, what="done", when=DAY + timedelta(minutes=25)))
    actuals.append(Actual(task="pour.1", what="began", when=DAY + timedelta(minutes=75)))
    return reduce(deeds.write_actual, actuals, tideline)


def test_planned_stands_beside_actual_and_what_was_too_far_off_is_marked(tideline: Job, shop: Shop) -> None:
    job = worked(tideline, shop)
    own = {"job_id": job.batch.id}
    ledger = (*(fate(n, **own) for n in range(1, 5)), fate(5, "spoilt", **own), fate(6, "spoilt", **own))
    in_work = {row.words: row for row in compared(plan(job, shop.with_(ledger=ledger[:3])))}
    assert in_work["Good ones"].is_within, "the others are still in work"
    rows = compared(plan(job, shop.with_(ledger=ledger)))
    by_words = {row.words: row for row in rows}
    assert by_words["Good ones"].planned == 5
    assert not by_words["Good ones"].is_within
    hands = by_words["Weigh and mix: hands"]
    assert hands.actual == 25
    assert hands.is_within == (hands.low <= 25 <= hands.high)
    off = [row for row in rows if row.task.startswith("weigh.1:") and not row.is_within]
    assert [round(row.actual / row.planned, 2) for row in off] == [1.33]
    waited = next(row for row in rows if row.words.startswith("Weigh and mix: ") and row is not hands)
    assert (waited.actual, waited.is_within) == (50, False)  # the pour is to follow within ten minutes


def test_a_difference_of_temperatures_is_one_in_the_makers_degrees() -> None:
    row = Compared("Resin", 20.0, 25.0, Dimension.TEMPERATURE, 17.0, 23.0)
    assert row.written(Units()) == ("20.0 °C", "25.0 °C", "+5.0 °C")
    assert row.written(Units(temperature="°F")) == ("68.0 °F", "77.0 °F", "+9.0 °F")
    assert not row.is_within


def test_waits_and_counts_stand_beside_what_was_planned(tideline: Job, shop: Shop) -> None:
    made = plan(tideline, shop)
    assert made.route is not None
    pour = next(task for task in made.route.operations if task.key == "pour.1")
    pecks = [
        step
        for step in steps_of(made, next(t for t in made.route.operations if t.key == "bore"))
        if step.kind == "count"
    ]
    written = [
        Actual(task="pour.1", what="done", when=DAY),
        Actual(task="demould.1", what="began", when=DAY + timedelta(minutes=pour.wait_min[0] - 60)),
        *(Actual(task=step.key, what="counted", value=1, when=DAY) for step in pecks[:-1]),
    ]
    rows = {row.words: row for row in compared(plan(reduce(deeds.write_actual, written, tideline), shop))}
    waited = rows["Pour: the casting hardens"]
    assert (waited.planned, waited.is_within) == (pour.wait_min[1], False)
    assert waited.source == "at least as long as it takes"
    counted = rows["Bore: counted"]
    assert (counted.planned, counted.actual, counted.is_within) == (len(pecks), len(pecks) - 1, False)


def test_the_next_batch_is_that_of_the_newest_job_of_its_kind(tideline: Job, shop: Shop) -> None:
    reef = deeds.set_steps(tideline, (InsertStep(), *tideline.blank.steps))
    named = [
        reef.batch.with_(name=name, id=f"{n}" * 12, pens_wanted=n) for n, name in ((3, "Old reef"), (7, "New reef"))
    ]
    old, new = (reef.with_(batch=batch) for batch in named)
    old = deeds.write_actual(old, Actual(task="weigh.1", what="began", when=DAY))
    new = deeds.write_actual(new, Actual(task="weigh.1", what="began", when=DAY + timedelta(days=9)))
    rows = next_batches(plan(tideline, priced(shop)), plan, (new, old), date(2026, 11, 26))
    assert [(row.seen.work, row.pens) for row in rows] == [("cast resin", 5), ("hybrid", 7)]
    assert rows[1].cost is not None
    assert rows[1].cost.told.value != rows[0].cost.told.value  # type: ignore[union-attr]


def test_an_edit_of_the_job_in_hand_makes_its_own_row_anew(tideline: Job, shop: Shop) -> None:
    reef = deeds.set_steps(tideline, (InsertStep(), *tideline.blank.steps))
    there, today = priced(shop), date(2026, 11, 26)
    before = next_batches(plan(tideline, there), plan, (reef,), today)
    more = plan(tideline.with_(batch=tideline.batch.with_(pens_wanted=31)), there)
    after = with_job_in_hand(before, more, today)
    assert after == next_batches(more, plan, (reef,), today)
    assert after != before


def test_one_more_like_this_takes_what_was_really_done(tideline: Job, shop: Shop) -> None:
    job = worked(tideline, shop).with_(orders=(Order(customer="Gauge keeper"),))
    again = as_done(plan(job, shop))
    first, before = again.cast.cups[0], tideline.cast.cups[0]
    assert first.pigments[0].load_pct == pytest.approx(before.pigments[0].load_pct * 1.33, rel=0.01)
    assert again.cast.cups[1] == tideline.cast.cups[1].with_(share=again.cast.cups[1].share)
    assert again.batch.id != job.batch.id
    assert not again.work.actuals
    assert not again.orders
    assert "as they were weighed" in what_differs(plan(job, shop))[0]
    assert not what_differs(plan(tideline, shop))


@pytest.mark.parametrize(
    ("words", "names"),
    [
        ("", ["Tideline", "Reef"]),
        ("blue", ["Tideline"]),
        ("maple gauge", ["Reef"]),
        ("blow-out", ["Reef"]),
        ("march 2026", ["Reef"]),
        ("ebb", ["Tideline", "Reef"]),
        ("no such thing", []),
    ],
)
def test_a_job_is_found_by_colour_wood_customer_cause_and_month(tideline: Job, words: str, names: list[str]) -> None:
    reef = deeds.set_steps(tideline, (InsertStep(material="bigleaf-maple"),))
    reef = reef.with_(batch=reef.batch.with_(name="Reef", id="cccccccccccc"), orders=(Order(customer="Gauge keeper"),))
    ledger = (fate(1, "spoilt", "blow-out", job_id="cccccccccccc"),)
    assert [job.batch.name for job in found((tideline, reef), ledger, words)] == names


def test_two_jobs_stand_side_by_side(tideline: Job, shop: Shop) -> None:
    column = beside(plan(tideline, with_demo_records(shop)), date(2026, 11, 26))
    assert len(column) == len(COMPARED)
    told = dict(zip(COMPARED, column, strict=True))
    assert (told["Kind of work"], told["Resin"], told["Price agreed"]) == ("cast resin", "Quay slow clear", "–")
    # A batch that is finished says what it came to; another job's says nothing of this one.
    closed = ClosedEntry(when=DAY, job_id=tideline.batch.id, job="Tideline", cost_good=99.5)
    for one, said in ((closed, "€99.50"), (closed.with_(job_id="e" * 12), told["Including scrap"])):
        column = beside(plan(tideline, priced(shop).with_(ledger=(one,))), date(2026, 11, 26))
        assert (dict(zip(COMPARED, column, strict=True))["Including scrap"] == "€99.50") == (said == "€99.50")
    ordered = tideline.with_(orders=(Order(price=140),), blank=tideline.blank.with_(steps=(SolidStep(),)))
    told = dict(zip(COMPARED, beside(plan(ordered, shop), date(2026, 11, 26)), strict=True))
    assert (told["Price agreed"], told["Resin"], told["Colours"]) == ("€140.00", "–", "–")


def test_a_bar_that_is_cheaper_bought_is_said(tideline: Job, shop: Shop) -> None:
    def gains(*prices: Price) -> dict[str, float]:
        cost = pen_cost(plan(tideline, priced(shop).with_(prices=(*priced(shop).prices, *prices))), date(2026, 11, 26))
        assert cost is not None
        return {one.words: one.saves for one in cost.gains}

    assert "A bar bought instead of made" not in gains()
    cheap, dear = (Price(what="bar or board, a blank", price=price) for price in (0.5, 500))
    assert gains(cheap)["A bar bought instead of made"] > 0
    assert "A bar bought instead of made" not in gains(dear)
    sold = priced(shop).with_(prices=(*priced(shop).prices, cheap))
    knot = pen_cost(plan(second_demo_job(), sold), date(2026, 11, 26))
    assert knot is not None
    assert "A bar bought instead of made" not in {one.words for one in knot.gains}, "nobody sells that pattern"


def test_what_is_left_of_the_agreed_price_shrinks_with_what_is_still_to_do(tideline: Job, shop: Shop) -> None:
    shop = priced(shop).with_(selling=Selling(fee_pct=10, fixed_fee=1))
    job = tideline.with_(orders=(Order(pens=3, price=140), Order(pens=1, price=120), Order(pens=1)))
    cost = pen_cost(plan(job, shop), date(2026, 11, 26))
    assert cost is not None
    assert cost.left is not None
    agreed, fees, spent_now, to_do = (term.value for term in cost.left.terms)
    blanks = plan(job, shop).bars.blanks.value
    assert (agreed, fees, spent_now) == (540, 54 + 4, 0)
    assert to_do == pytest.approx(blanks * sum(stage.cost for stage in cost.stages) + cost.once)
    assert cost.left.value == pytest.approx(agreed - fees - to_do)
    made = plan(job, shop)
    assert made.route is not None
    weigh = next(task.key for task in made.route.operations if task.kind == "weigh")
    weighed = deeds.finish_task(job, weigh, datetime(2026, 11, 25, 18))
    later = pen_cost(plan(weighed, shop), date(2026, 11, 26))
    assert later is not None
    assert later.left is not None
    assert later.left.terms[2].value > 0
    assert later.left.value == pytest.approx(cost.left.value, rel=0.05), "as planned: spent instead of to do"
    assert pen_cost(plan(tideline.with_(orders=()), shop), date(2026, 11, 26)).left is None  # type: ignore[union-attr]


def test_what_was_written_for_next_time_is_told_where_the_task_is_planned(tideline: Job, shop: Shop) -> None:
    about = {"when": DAY, "job_id": "dddddddddddd", "job": "Wrack line", "work": "hybrid"}
    lessons = tuple(
        LessonEntry(task=task, again=again, words=words, **about)
        for task, again, words in (
            ("pour", "do again", "Warm the mould first"),
            ("bore", "do not", "No fast feed near the exit."),
            ("mill", "do not", "This job has no such task"),
        )
    )
    told = [one for one in plan(tideline, shop.with_(ledger=lessons)).findings if one.key == "records.lessons"]
    assert [one.title for one in told] == ["Repeat: warm the mould first.", "Avoid: no fast feed near the exit."]
    assert told[0].because == "From Wrack line, Sat 7 Mar, for: pour."
    many = tuple(lessons[0].with_(words=f"Number {n}", when=DAY + timedelta(days=n)) for n in range(9))
    few = [one for one in plan(tideline, shop.with_(ledger=many)).findings if one.key == "records.lessons"]
    assert len(few) <= 2  # the newest: what is said ten times is not read
    own = tuple(one.with_(job_id=tideline.batch.id) for one in lessons)
    assert not [one for one in plan(tideline, shop.with_(ledger=own)).findings if one.key == "records.lessons"]


def test_the_demo_ledger_is_in_order_and_can_be_written_entry_by_entry() -> None:
    ledger = demo_ledger()
    assert list(ledger) == sorted(ledger, key=lambda one: one.when)
    assert reduce(write_entry, ledger, Shop()).ledger == ledger
    # Begun on any other day it lies as long before that: what a maker writes next is never earlier.
    earlier = demo_ledger(date(2025, 2, 3))
    assert earlier[-1].when.date() < date(2025, 2, 3)
    moved = {a.when - b.when for a, b in zip(ledger, earlier, strict=True)}
    assert moved == {date(2026, 11, 26) - date(2025, 2, 3)}
    for batch in (one for one in ledger if isinstance(one, ClosedEntry)):
        own = [one for one in last_fates(ledger) if one.job_id == batch.job_id]
        assert (batch.started, batch.good) == (len(own), sum(not is_missed(one) for one in own))


def test_what_to_do_again_and_what_not_stand_side_by_side(tideline: Job, shop: Shop) -> None:
    about = {"when": DAY, "job_id": tideline.batch.id, "job": "Tideline", "work": "cast resin"}
    lessons = (LessonEntry(task="pour", again="do not", words="Not below 18 °C.", **about),)
    column = beside(plan(tideline, shop.with_(ledger=lessons)), date(2026, 11, 26))
    told = dict(zip(COMPARED, column, strict=True))
    assert [words for words in told.values() if "18 °C" in words] == ["Not below 18 °C."]
    assert list(told.values())[-2:] == ["–", "Not below 18 °C."]
