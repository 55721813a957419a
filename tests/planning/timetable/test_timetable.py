"""The timetable: tasks of a plan, the maker's hours, an optimum on small cases, promises, parts, pins, actuals."""

from __future__ import annotations

import io
import itertools
import json
import random
from datetime import date, datetime, time, timedelta
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from pypdf import PdfReader

from orvek.cards.calendar import busy_times, timetable_ics
from orvek.cards.every import week_card
from orvek.cards.timetable_text import timetable_text, today_text, weeks_json
from orvek.craft.durations import lasting
from orvek.documents import (
    Actual,
    BarInHand,
    Busy,
    DayHours,
    DurationSeen,
    Holding,
    Hours,
    Job,
    Shop,
    deeds,
    from_text,
    to_text,
)
from orvek.errors import NothingToDoError
from orvek.planning import Plan, plan, with_answer
from orvek.planning.cure.moved import moved
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.results import Band, CureForecast
from orvek.planning.findings import Station
from orvek.planning.route.bench import cup_life_min
from orvek.planning.route.building import operations_of
from orvek.planning.route.results import Operation, Route
from orvek.planning.stock import born
from orvek.planning.timetable.costing import EARLY_A_DAY, LATE_A_DAY, SESSION, cost
from orvek.planning.timetable.earlier import earlier
from orvek.planning.timetable.findings import weeks_findings
from orvek.planning.timetable.items import DAY, is_soon_enough, items_of, open_for, slack_steps, steps_into_day
from orvek.planning.timetable.last_known import from_bytes, to_bytes
from orvek.planning.timetable.question import job_tasks
from orvek.planning.timetable.reasons import chain, reasons
from orvek.planning.timetable.results import JobTasks, Slot, Timetable, TimetableQuestion, Wait, Weeks, WeeksQuestion
from orvek.planning.timetable.settling import NEAR_H, apart_h, depends_on_hour
from orvek.planning.timetable.solving import quickly, solved, told
from orvek.planning.timetable.stepwise import stepwise
from orvek.planning.timetable.weeks import next_step, weeks, weeks_question
from orvek.planning.timetable.windows import STEP_MIN, windows
from orvek.planning.timetable.words import closing, duties, duty_line, not_yet, now_of
from orvek.store import demo_job, demo_shop
from orvek.store.demo import second_demo_job, third_demo_job

THURSDAY = datetime(2026, 11, 26, 9, 0)
ALWAYS = Hours(days=(DayHours(from_h=0, to_h=24),) * 7, quiet_from_h=0, quiet_to_h=0)


def task(key: str, hands_min: float, wait_min: float = 0.0, **values: Any) -> Operation:
    wait = (wait_min, wait_min, wait_min)
    return Operation(key, "turn", key, Station.FINISH, hands_min, (hands_min, hands_min), wait_min=wait, **values)


def asked(*jobs: JobTasks, hours: Hours = ALWAYS, effort: float = 5.0) -> TimetableQuestion:
    return TimetableQuestion(jobs, hours, THURSDAY, effort)


def holds(table: Timetable, question: TimetableQuestion, *, is_soon: bool = True) -> None:
    """What every timetable must keep; what cannot wait may where there is no other way."""
    hands = sorted((slot.begins, slot.ends) for slot in table.slots)
    assert all(before[1] <= after[0] for before, after in itertools.pairwise(hands)), "two hands"
    for loud in (False, True):
        open_ = windows(question.hours, question.begin, question.days, loud=loud)
        for slot in table.slots:
            if slot.task.is_loud is loud and not slot.is_pinned:
                first, last = ((at - question.begin).total_seconds() / 60 for at in (slot.begins, slot.ends))
                assert any(begin <= first and last <= end for begin, end in open_)
    for job in question.jobs:
        at = {slot.task.key: slot for slot in table.of(job.job)}
        for slot in at.values():
            for key in slot.task.after:
                assert slot.is_pinned or key not in at or slot.begins >= at[key].ready
        for slot in at.values():
            slack = slack_steps(slot.task)
            before = [at[key] for key in slot.task.after if key in at]
            if is_soon and slack is not None and before and not slot.is_pinned and not before[0].is_pinned:
                assert slot.begins - before[0].ready <= timedelta(minutes=slack * STEP_MIN), "it cannot wait"
    for place in {slot.task.place for slot in table.slots if slot.task.place}:
        taken = sorted(
            (slot.begins, slot.ready if slot.task.holds else slot.ends)
            for slot in table.slots
            if slot.task.place == place
        )
        assert all(before[1] <= after[0] for before, after in itertools.pairwise(taken)), place


def made_of(planned: Plan) -> Route:
    """The tasks of a plan."""
    assert planned.route is not None
    return planned.route


def coated(job: Job) -> Job:
    """A job with coats, whatever its material asks for: its timetable has all that a timetable can have."""
    return deeds.set_value(job, ("finish", "school"), "thin, then medium")


@pytest.fixture(scope="module")
def week() -> Weeks:
    """The demo's three jobs, planned from a Thursday on."""
    jobs = (
        coated(demo_job()).with_(work=demo_job().work.with_(promised=date(2026, 12, 4))),
        second_demo_job(),
        third_demo_job(),
    )
    question = weeks_question(plan(jobs[0], demo_shop(), jobs[1:]))
    assert question is not None
    return weeks(replace(question, begin=THURSDAY, effort=1.0), plan)


def test_a_schedule_that_was_kept_stands_there_from_now_on(week: Weeks) -> None:
    asked = plan(demo_job(), demo_shop())
    content = to_bytes(week)
    known = from_bytes(content, asked, THURSDAY)
    assert known is not None
    assert [(one.job, one.task.key, one.begins, one.ready) for one in known.table.slots] == [
        (one.job, one.task.key, one.begins, one.ready) for one in week.table.slots
    ]
    assert (known.names, known.waiting, known.table.late) == (week.names, week.waiting, week.table.late)
    first = week.table.slots[0]
    later_on = from_bytes(content, asked, first.ends)
    assert later_on is not None
    assert len(later_on.table.slots) == len(week.table.slots) - 1, "whether that was done nobody knows"
    assert from_bytes(content, asked, week.table.slots[-1].ends) is None
    assert from_bytes(content[:-9], asked, THURSDAY) is None
    assert from_bytes(b"\x93no schedule", asked, THURSDAY) is None


def test_the_demo_has_a_believable_week(week: Weeks) -> None:
    assert not week.table.problem
    own = week.table.of(week.question.jobs[0].batch.id)
    keys = [slot.task.key.split("/")[0] for slot in own]
    assert list(dict.fromkeys(keys)) == [
        "weigh.1", "pour.1", "demould.1", "length", "bore", "scuff", "tube", "square", "turn", "sand", "inspect",
        "coat", "level", "polish", "press", "write",
    ]  # fmt: skip
    pour = own[1]
    assert (pour.task.place, pour.task.holds) == ("pressure pot", True)
    assert pour.ready - pour.ends > timedelta(hours=19)
    assert all(18 <= slot.begins.hour < 22 or slot.begins.weekday() == 5 for slot in week.table.slots)
    question = TimetableQuestion(
        tuple(
            job_tasks(job, made_of(plan(job, week.question.shop)), week.question.shop.hours, THURSDAY)
            for job in week.question.jobs
        ),
        week.question.shop.hours,
        THURSDAY,
    )
    holds(week.table, question)


def test_lateness_is_said_with_what_it_hangs_on_and_what_would_help(week: Weeks) -> None:
    job = week.question.jobs[0]
    assert [key for key, _ in week.table.late] == [job.batch.id]
    assert chain(week.table, job.batch.id)
    assert 0 <= week.chance_pct(date(2026, 12, 4)) <= week.chance_pct(date(2027, 3, 1)) == 100  # type: ignore[operator]
    told = with_answer(plan(job, week.question.shop), "weeks", week).findings
    finding = next(one for one in told if "late" in one.title)
    assert "It is ready" in finding.because
    assert finding.remedies[0].label.startswith("Promise it for")


def test_what_is_printed_and_given_to_calendars(week: Weeks) -> None:
    job = week.question.jobs[0].batch.id
    assert "Weigh and mix" in timetable_text(week, job)
    assert "Ropewalk: ready" not in timetable_text(week, job)
    assert "Next" in today_text(week, THURSDAY)
    content = json.loads(weeks_json(week))
    assert len(content["slots"]) == len(week.table.slots)
    calendar = timetable_ics(week, job).decode()
    assert calendar.count("BEGIN:VEVENT") == len(week.table.of(job))
    busy = busy_times(calendar, "own.ics", THURSDAY.date()).busy
    assert [one.begins for one in busy] == [slot.begins for slot in week.table.of(job)]
    planned = with_answer(plan(week.question.jobs[0], week.question.shop), "weeks", week)
    card = PdfReader(io.BytesIO(week_card(planned, week.question.shop, THURSDAY.date())))
    words = "\n".join(page.extract_text() for page in card.pages)
    assert "Thu 26 Nov to Wed 2 Dec" in words
    assert "Tideline: the casting hardens until" in words
    with pytest.raises(NothingToDoError):
        week_card(plan(week.question.jobs[0], week.question.shop), week.question.shop, THURSDAY.date())
    at = now_of(week, week.table.of(job)[1].ends)
    assert any(wait.words == "the casting hardens" for wait in at.waiting)


@given(
    st.lists(
        st.lists(st.tuples(st.integers(1, 6), st.integers(0, 12)), min_size=1, max_size=2), min_size=1, max_size=3
    ),
    st.lists(st.integers(0, 1), min_size=3, max_size=3),
)
@settings(max_examples=15)
def test_small_cases_are_solved_to_the_optimum(rows: list[list[tuple[int, int]]], promised: list[int]) -> None:
    """No worse than any order of the tasks that keeps each job's own, each task as early as it goes: found apart."""
    jobs = []
    for number, row in enumerate(rows):
        tasks = tuple(
            task(f"{n}", 60.0 * hands, 60.0 * wait, after=(f"{n - 1}",) if n else ())
            for n, (hands, wait) in enumerate(row)
        )
        day = THURSDAY.date() + timedelta(days=promised[number])
        jobs.append(JobTasks(f"{number}", f"Job {number}", tasks, day))
    question = asked(*jobs)
    table = solved(question)
    holds(table, question)
    assert table.is_best
    assert _cost(question, table) <= _least(question) + 1e-6


def test_resin_is_mixed_only_when_it_can_be_poured_at_once() -> None:
    """Weighing would fit into what is left of the evening; the pour would not, and waits in no cup until tomorrow."""
    evening = Hours(days=(DayHours(from_h=18, to_h=19),) * 7, quiet_from_h=0, quiet_to_h=0)
    cast = JobTasks("1", "One", (task("weigh", 15), task("pour", 20, 600, after=("weigh",), soon_min=10)), None)
    many = tuple(JobTasks(f"{n}", "Other", (task("turn", 15),), date(2026, 11, 26)) for n in range(2, 5))
    question = asked(*many, cast, hours=evening)
    for table in (quickly(question), solved(question)):
        holds(table, question)
        weigh, pour = table.of("1")
        assert (weigh.begins.day, pour.begins.day) == (27, 27)
    short = asked(cast, hours=Hours(days=(DayHours(from_h=18, to_h=18.5),) * 7, quiet_from_h=0, quiet_to_h=0))
    weigh, pour = solved(short).slots
    assert pour.begins - weigh.ready > timedelta(hours=20), "half an hour a day: it is planned all the same"
    job = demo_job()
    told = Weeks(WeeksQuestion((), Shop(), THURSDAY), replace(solved(short), question=short), ((job.batch.id, ""),))
    renamed = replace(told.table, slots=tuple(replace(slot, job=job.batch.id) for slot in told.table.slots))
    findings = with_answer(plan(job, demo_shop()), "weeks", replace(told, table=renamed)).findings
    assert any(one.title == "“pour” cannot wait so long." for one in findings)


def test_what_must_be_done_in_one_is_never_cut_and_said_where_it_is_too_long() -> None:
    job, shop = demo_job(), demo_shop()
    hours = Hours(days=(DayHours(from_h=18, to_h=18.15),) * 7, quiet_from_h=0, quiet_to_h=0)
    planned = plan(job, shop)
    assert planned.route is not None
    left = job_tasks(job, planned.route, hours, THURSDAY)
    keys = [one.key for one in left.tasks]
    assert "pour.1" in keys, "a pour is not left half done overnight"
    assert {"turn/1", "turn/2"} <= set(keys), "barrels are turned one after another"
    found = solved(asked(left, hours=hours))
    assert not found.problem
    told = Weeks(WeeksQuestion((), shop, THURSDAY), found, ((job.batch.id, ""),))
    findings = with_answer(planned, "weeks", told).findings
    assert {"tube/1", "tube/2"} <= set(keys), "and tubes glued"
    assert "“Pour” is longer than your time." in [one.title for one in findings]
    roomy = replace(told, table=solved(asked(job_tasks(job, planned.route, Hours(), THURSDAY))))
    assert not [one for one in with_answer(planned, "weeks", roomy).findings if "longer than" in one.title]


def test_a_larger_cup_lasts_less() -> None:
    job, shop = demo_job(), demo_shop()
    lives = [
        cup_life_min(plan(more, shop), 0) for more in (deeds.set_value(job, ("pour", "most_bars_at_once"), 1), job)
    ]
    assert lives[0] is not None
    assert lives[1] is not None
    assert lives[1] < lives[0]


def test_of_many_jobs_a_first_plan_is_there_before_the_better_one() -> None:
    job, told = demo_job(), []
    jobs = tuple(job.with_(batch=job.batch.with_(id=f"{n:012x}")) for n in range(14))
    question = WeeksQuestion(jobs, demo_shop(), THURSDAY, in_hand=jobs[0].batch.id, effort=0.05)
    whole = weeks(question, plan, early=told.append)
    assert len(told) == 1
    first = told[0].table
    holds(first, first.question)
    assert {(slot.job, slot.task.key) for slot in first.slots} == {(s.job, s.task.key) for s in whole.table.slots}
    assert _cost(first.question, whole.table) <= _cost(first.question, first), "never a worse one after it"


def test_why_a_task_waits_is_in_words() -> None:
    """Free hands yesterday are no “your hours begin then”: it was kept for company."""
    evening = Hours(days=(DayHours(from_h=18, to_h=19),) * 7, quiet_from_h=0, quiet_to_h=0)
    question = asked(
        JobTasks("1", "One", (task("a", 15, 24 * 60), task("b", 15, after=("a",))), None),
        JobTasks("2", "Other", (task("c", 15),), None), hours=evening,
    )  # fmt: skip
    items = items_of(question)
    day, first = 1440 // STEP_MIN, open_for(question, items[0])[0][0]
    alone = reasons(question, items, [first, first + day, first + items[0].hands])
    kept = reasons(question, items, [first, first + 2 * day, first + 2 * day + items[1].hands])
    assert alone[2].startswith("your hands are at One")
    assert kept[1:] == ["it goes in one evening with other work", "your hands are at One: b"]


def test_what_still_hardens_and_what_is_pinned_count_in_the_chance() -> None:
    job, begin = demo_job(), THURSDAY
    planned = plan(job, demo_shop())
    question = weeks_question(planned)
    assert question is not None
    question = replace(question, begin=begin, effort=0.1)
    for key in ("weigh.1", "pour.1", "demould.1"):
        job = deeds.finish_task(job, task=key, when=begin)
    poured = replace(question, jobs=(job,))
    far = begin + timedelta(days=30)
    pinned = replace(question, jobs=(deeds.pin_task(job, "length", far),))
    assert min(weeks(pinned, plan).ready_days) > far.date()
    assert min(weeks(poured, plan).ready_days) > begin.date()


def test_a_job_that_is_not_planned_is_told_nothing_of_another() -> None:
    job = demo_job()
    closed = job.with_(work=job.work.with_(is_open=False, promised=date(2026, 12, 1)))
    question = weeks_question(plan(closed, demo_shop(), (second_demo_job(),)))
    assert question is not None
    assert (question.in_hand, question.cure) == ("", None)
    found = weeks(replace(question, begin=THURSDAY, effort=0.1), plan)
    assert (found.ready_days, found.ways) == ((), ())
    assert found.table.slots


def test_a_pot_in_which_something_hardens_is_not_free_for_another_job() -> None:
    until = THURSDAY + timedelta(hours=20)
    first = JobTasks("1", "One", (task("bore", 30),), None, waiting=(Wait("1", "it hardens", until, "pot"),))
    second = JobTasks(
        "2", "Two", (task("pour", 15, 600, place="pot", holds=True), task("bore", 30, after=("pour",))), None
    )
    table = solved(asked(first, second))
    assert table.of("2")[0].begins >= until
    assert table.of("1")[0].begins >= until, "nor before its own wait is over"


def test_a_cure_in_a_cold_night_is_forecast_for_when_the_timetable_pours_until_it_settles(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    job = demo_job()
    conditions = job.pour.conditions.with_(night_c=8, poured_h=8)
    planned = plan(job.with_(pour=job.pour.with_(conditions=conditions)), demo_shop())
    asked_of = cure_question(planned)
    assert asked_of is not None
    cure = CureForecast(asked_of, demould_min=Band(600, 700, 900))
    question = weeks_question(planned.with_part("cure", cure))
    assert question is not None
    question = replace(question, begin=THURSDAY, effort=0.3)
    found = weeks(question, plan, moved=moved)
    pour = next(slot for slot in found.table.slots if slot.task.key == "pour.1")
    assert found.is_settled
    assert found.cure_h is not None
    assert apart_h(found.cure_h, pour.begins.hour + pour.begins.minute / 60) <= NEAR_H
    assert pour.ready - pour.ends > timedelta(minutes=900), "the night is cold: it takes longer"
    told = [one for one in with_answer(planned, "weeks", found).findings if "another time" in one.title]
    assert "counts with the other time already" in told[0].because
    monkeypatch.setattr("orvek.planning.timetable.weeks.NEAR_H", -1.0)
    never = weeks(question, plan, moved=moved)
    assert not never.is_settled
    told = [one for one in with_answer(planned, "weeks", never).findings if "another time" in one.title]
    assert "did not settle" in told[0].because
    assert not depends_on_hour(job.pour.conditions), "no night is colder than the day"


rows_of_tasks = st.lists(
    st.lists(
        st.tuples(
            st.integers(1, 6), st.integers(0, 40), st.sampled_from(("", "lathe", "pot")), st.booleans(), st.booleans()
        ),
        min_size=1,
        max_size=4,
    ),
    min_size=1,
    max_size=4,
)


@given(rows=rows_of_tasks, promised=st.lists(st.integers(-1, 9), min_size=4, max_size=4), pinned=st.integers(-1, 90))
@settings(max_examples=40)
def test_any_order_of_jobs_keeps_everything_and_no_try_costs_more(
    rows: list[list[tuple[int, int, str, bool, bool]]], promised: list[int], pinned: int
) -> None:
    hours = Hours(days=(DayHours(from_h=8, to_h=12),) * 3 + (DayHours(from_h=0, to_h=24),) * 4)
    jobs = []
    for number, row in enumerate(rows):
        tasks = tuple(
            task(
                f"{n}",
                40.0 * hands,
                0.0 if n + 1 < len(row) and row[n + 1][4] else 60.0 * wait,
                after=_before(n),
                place=place,
                holds=True,
                is_loud=loud,
                soon_min=1440.0 if soon and n else None,
            )
            for n, (hands, wait, place, loud, soon) in enumerate(row)
        )
        day = THURSDAY.date() + timedelta(days=promised[number]) if promised[number] >= 0 else None
        pins = ((tasks[-1].key, THURSDAY + timedelta(hours=pinned)),) if number == 0 and pinned >= 0 else ()
        jobs.append(JobTasks(f"{number}", f"Job {number}", tasks, day, pins))
    question = asked(*jobs, hours=hours, effort=0.3)
    items = items_of(question)
    table = quickly(question)
    assert len(table.slots) == len(items)
    starts = stepwise(question, items)
    assert starts is not None
    if pinned < 0:
        holds(table, question, is_soon=is_soon_enough(items, starts))
    better = stepwise(question, items, tries=20)
    assert better is not None
    assert cost(question, items, better) <= cost(question, items, starts)
    first = earlier(question, items, better)
    assert all(now <= before for now, before in zip(first, better, strict=True))
    if pinned < 0 and is_soon_enough(items, better):
        holds(told(question, items, first), question)
    offset = steps_into_day(question.begin)
    assert {(at + offset) // DAY for at in first} <= {(at + offset) // DAY for at in better}


def test_no_reason_is_given_for_what_nothing_delays() -> None:
    tasks = (task("a", 30, 60), task("b", 20, 45, after=("a",)), task("c", 10, after=("b",)))
    question = asked(JobTasks("a", "A", tasks, None))
    table = quickly(question)
    starts = [0, 18, 31]
    assert [slot.begins for slot in table.slots] == [THURSDAY + timedelta(minutes=5 * start) for start in starts]
    assert [slot.why for slot in table.slots] == ["", *["what was done before has to rest"] * 2]


def test_forty_jobs_are_planned_by_the_order_of_the_jobs() -> None:
    """The solver is not asked any more."""
    chance = random.Random(4)
    jobs = []
    for number in range(40):
        tasks = tuple(
            task(
                f"{n}", chance.choice((15, 30, 60)), chance.choice((0, 0, 0, 60, 720)), after=(f"{n - 1}",) if n else ()
            )
            for n in range(30)
        )
        jobs.append(JobTasks(f"{number}", f"Job {number}", tasks, None))
    question = asked(*jobs, hours=Hours(days=(DayHours(from_h=8, to_h=18),) * 7), effort=0.1)
    table = solved(question)
    holds(table, question)
    assert len(table.slots) == 1200
    assert not table.is_best
    assert _cost(question, table) <= _cost(question, quickly(question))


@pytest.mark.parametrize(("jobs", "tasks"), [(4, 7), (20, 9)], ids=["few", "many"])
def test_a_timetable_is_the_same_on_every_machine(jobs: int, tasks: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """A clock that runs away changes nothing: work is counted."""
    chance = random.Random(5)
    rows = (
        tuple(
            task(f"{n}", chance.choice((15, 40)), chance.choice((0, 60, 720)), after=_before(n)) for n in range(tasks)
        )
        for _ in range(jobs)
    )
    question = asked(*(JobTasks(f"{n}", "", row, None) for n, row in enumerate(rows)), hours=Hours(), effort=0.2)
    calm = solved(question)
    hours = itertools.count(0, 7200.0)
    monkeypatch.setattr("time.monotonic", lambda: next(hours))
    monkeypatch.setattr("orvek.planning.timetable.solving.monotonic", lambda: next(hours))
    assert solved(question) == calm


def _before(number: int) -> tuple[str, ...]:
    return (f"{number - 1}",) if number else ()


def _cost(question: TimetableQuestion, table: Timetable) -> float:
    """What the solver minimises, counted apart, in its own units."""
    day = 1440 // STEP_MIN
    days = {(slot.begins.date() - THURSDAY.date()).days for slot in table.slots}
    cost = float(SESSION * day * len(days))
    for job in question.jobs:
        ready = table.ready(job.job)
        assert ready is not None
        steps = (ready - THURSDAY).total_seconds() / 60 / STEP_MIN
        cost += EARLY_A_DAY * steps
        if job.promised is not None:
            due = (datetime.combine(job.promised, datetime.max.time()) - THURSDAY).total_seconds() / 60 // STEP_MIN
            cost += LATE_A_DAY * max(0.0, steps - due)
    return cost


def _least(question: TimetableQuestion) -> float:
    """The least cost over all orders; each task begins as early as its order lets it, or on the next midnight."""
    order = [(n, k) for n, job in enumerate(question.jobs) for k in range(len(job.tasks))]
    best = float("inf")
    for one in set(itertools.permutations(order)):
        if any(one.index((n, k)) > one.index((n, k + 1)) for n, k in one if (n, k + 1) in one):
            continue
        free, ready, slots = THURSDAY, {}, []
        for n, k in one:
            begins = max(free, ready.get(n, THURSDAY))
            ends = begins + timedelta(minutes=question.jobs[n].tasks[k].hands_min)
            ready[n] = ends + timedelta(minutes=question.jobs[n].tasks[k].wait_min[1])
            free = ends
            slots.append((n, k, begins, ends, ready[n]))

        table = Timetable(
            question, tuple(Slot(question.jobs[n].job, question.jobs[n].tasks[k], b, e, r) for n, k, b, e, r in slots)
        )
        best = min(best, _cost(question, table))
    return best


def test_places_are_held_and_what_cannot_wait_follows_soon() -> None:
    one = JobTasks("a", "A", (task("pour", 10, 600, place="mould", holds=True), task("out", 10, after=("pour",))), None)
    other = JobTasks("b", "B", (task("pour", 10, 600, place="mould", holds=True),), None)
    mixed = JobTasks("c", "C", (task("sand", 30), task("coat", 60, after=("sand",), soon_min=15)), None)
    question = asked(one, other, mixed)
    table = solved(question)
    holds(table, question)
    sand, coat = table.of("c")
    assert coat.begins - sand.ready <= timedelta(minutes=15)
    assert table.ready("b") != table.ready("a")


def test_loud_work_keeps_the_quiet_hours_and_days_off_are_off() -> None:
    hours = Hours(off=(date(2026, 11, 26), date(2026, 11, 27)), quiet_from_h=19, quiet_to_h=8)
    busy = Busy(name="Choir", begins=datetime(2026, 11, 30, 18, 0), ends=datetime(2026, 11, 30, 23, 0))
    question = asked(JobTasks("a", "A", (task("saw", 55, is_loud=True),), None), hours=hours.with_(busy=(busy,)))
    begins = solved(question).slots[0].begins
    assert begins == datetime(2026, 11, 28, 10, 0), "Saturday: Thursday and Friday are off"
    evening = asked(
        JobTasks("a", "A", (task("saw", 90, is_loud=True),), None),
        hours=hours.with_(days=(*(DayHours(),) * 5, DayHours(from_h=9, to_h=9), DayHours(from_h=9, to_h=9))),
    )
    problem = solved(evening).problem
    assert "quiet hours" in problem
    closed = Hours(days=(DayHours(from_h=9, to_h=9),) * 7)
    assert "no time at the bench" in solved(asked(JobTasks("a", "A", (task("x", 5),), None), hours=closed)).problem


def test_long_tasks_go_over_evenings_pins_stay_and_what_is_done_is_done(tideline: Job, shop: Shop) -> None:
    tideline = coated(tideline)
    shop = shop.with_(holding=Holding(way="between centres"))  # one barrel after another
    tasks = operations_of(plan(tideline, shop))

    def left_of(job: Job) -> JobTasks:
        return job_tasks(job, Route(tasks, job.work.done()), shop.hours, THURSDAY)

    parts = [one.key for one in left_of(tideline).tasks]
    assert {"coat/1", "coat/2"} <= set(parts)
    at = datetime(2026, 12, 2, 7, 0)
    job = deeds.pin_task(deeds.finish_task(tideline, "weigh.1", THURSDAY), "demould.1", at)
    job = deeds.finish_task(job, "pour.1", THURSDAY - timedelta(hours=1))
    left = left_of(job)
    assert left.tasks[0].key == "demould.1"
    table = quickly(asked(left, hours=shop.hours))
    assert (table.slots[0].begins, table.slots[0].is_pinned) == (at, True)
    free = left_of(deeds.pin_task(job, "demould.1", None))
    begins = quickly(asked(free, hours=shop.hours)).slots[0].begins
    assert begins >= THURSDAY - timedelta(hours=1) + timedelta(minutes=tasks[1].wait_min[2]), "it still hardens"
    assert from_text(to_text(job)) == job
    assert deeds.open_task_again(job, "weigh.1").work.done() == {"pour.1"}


def test_cast_bars_on_the_bench_need_no_pouring(tideline: Job, shop: Shop) -> None:
    """Nothing of it is in the route; where some of it was written down, it is and is done, and makes no bars again."""
    bars = (BarInHand(count=6, length_mm=127, width_mm=20, depth_mm=20),)
    made = plan(deeds.set_bars(tideline, bars), shop)
    assert made.route is not None
    assert made.route.open[0].kind == "length"
    assert not {"weigh", "pour", "demould"} & {task.kind for task in made.route.operations}
    made = plan(deeds.finish_task(made.job, "pour.1", THURSDAY), shop)
    assert made.route is not None
    assert {task.kind for task in made.route.operations if task.key in made.route.done} == {"weigh", "pour", "demould"}
    assert job_tasks(made.job, made.route, shop.hours, THURSDAY).tasks[0].key == "length"
    before = plan(tideline, shop).route
    assert before is not None
    assert before.open[0].kind == "weigh"
    assert list(born(made, frozenset())) == []


def test_times_of_ones_own_replace_the_usual_ones(tideline: Job, shop: Shop) -> None:
    assert lasting(10) == pytest.approx((10.0, 4.46726, 22.3851), rel=1e-5)
    assert lasting(10, (14, 12, 15)) == pytest.approx((12.0304, 5.8515, 24.7339), rel=1e-5)
    seen = tuple(DurationSeen(name=f"{n}", kind="turn", minutes=5, pieces=1) for n in range(4))

    def turning(planned: Plan) -> Operation:
        return next(one for one in operations_of(planned) if one.key == "turn")

    usual, own = turning(plan(tideline, shop)), turning(plan(tideline, shop.with_(durations=seen)))
    assert (own.readings, own.hands_min < usual.hands_min) == (4, True)


@pytest.mark.usefixtures("changing_clocks")
@pytest.mark.parametrize(
    ("evening", "clock"), [(date(2026, 3, 28), time(10)), (date(2026, 10, 24), time(8)), (date(2026, 6, 6), time(9))]
)
def test_what_hardens_over_a_night_in_which_clocks_are_changed_is_ready_when_it_is(evening: date, clock: time) -> None:
    """Poured at nine in the evening, twelve hours: an hour is left out in March and comes twice in October."""
    begin = datetime.combine(evening, time(20))
    hours = Hours(days=(DayHours(from_h=7, to_h=22),) * 7, quiet_from_h=0, quiet_to_h=0)
    tasks = (task("pour", 60, 720), task("demould", 30, after=("pour",)))
    one = JobTasks("0", "Job", tasks, None, (("pour", begin),))
    table = solved(TimetableQuestion((one,), hours, begin, 1.0))
    pour, demould = table.of("0")
    assert (pour.begins, pour.ends) == (begin, datetime.combine(evening, time(21)))
    assert demould.begins == pour.ready == datetime.combine(evening + timedelta(days=1), clock)
    assert demould.ends == demould.begins + timedelta(minutes=30)


def test_a_quarter_of_an_hour_is_the_next_step() -> None:
    assert next_step(datetime(2026, 11, 26, 9, 1, 30)) == datetime(2026, 11, 26, 9, 15)
    assert next_step(datetime(2026, 11, 26, 9, 15)) == datetime(2026, 11, 26, 9, 15)


def test_a_duty_comes_first_with_its_countdown_and_what_is_too_soon_is_answered(tideline: Job, shop: Shop) -> None:
    job = deeds.finish_task(tideline, "weigh.1", THURSDAY)
    route = plan(job, shop).route
    assert route is not None
    operations = route.operations
    pour = next(one for one in operations if one.key == "pour.1")
    due = duties(closing(job, operations), THURSDAY + timedelta(minutes=4))
    assert [one.task.key for one in due] == ["pour.1"]
    assert "6 min left" in duty_line(due[0], THURSDAY + timedelta(minutes=4))
    assert "5 min late" in duty_line(due[0], THURSDAY + timedelta(minutes=15))
    assert duties(closing(job, operations), THURSDAY + timedelta(hours=3)) == ()
    poured = deeds.finish_task(job, "pour.1", THURSDAY)
    assert not list(closing(poured, operations))
    demould = next(one for one in operations if one.key == "demould.1")
    least = pour.wait_min[0]
    assert "the casting hardens" in not_yet(poured, route, demould, THURSDAY + timedelta(minutes=least - 1))
    assert not_yet(poured, route, demould, THURSDAY + timedelta(minutes=least)) == ""
    assert not_yet(tideline, route, demould, THURSDAY) == "", "nothing is known of what came before"


def test_what_has_a_day_comes_first_only_when_the_day_is_nearly_over(tideline: Job, shop: Shop) -> None:
    coated = tideline.with_(finish=tideline.finish.with_(school="thin, then medium"))
    route = plan(coated, shop).route
    assert route is not None
    looked_at = deeds.finish_task(coated, "sand", THURSDAY)
    assert [one.task.key for one in closing(looked_at, route.operations)] == ["inspect"]
    job = deeds.finish_task(looked_at, "inspect", THURSDAY)
    found = tuple(closing(job, route.operations))
    assert [one.task.key for one in found] == ["coat"]
    assert duties(found, THURSDAY + timedelta(hours=2)) == (), "there is a day for it: what is planned comes first"
    assert duties(found, THURSDAY + timedelta(hours=23, minutes=45)) == found


def test_what_is_clicked_through_teaches_nothing(tideline: Job) -> None:
    job = deeds.write_actual(tideline, Actual(task="bore", what="began", when=THURSDAY))
    assert deeds.lasted(job, "bore", "bore", 6, THURSDAY + timedelta(minutes=9), hands_min=30) is None
    seen = deeds.lasted(job, "bore", "bore", 6, THURSDAY + timedelta(minutes=11), hands_min=30)
    assert seen is not None
    assert seen.minutes == 11


def test_other_jobs_wait_as_their_cures_are_forecast_and_nobody_waits_for_all_of_them(shop: Shop) -> None:
    job = demo_job()
    others = tuple(job.with_(batch=job.batch.with_(id=f"{n:012x}", name=f"Other {n}")) for n in (1, 2, 3))
    question = weeks_question(plan(second_demo_job(), shop, others))
    assert question is not None
    question = replace(question, begin=THURSDAY, effort=0.2)
    cast: list[str] = []

    def cured(planned: Plan) -> CureForecast:
        asked = cure_question(planned)
        assert asked is not None
        cast.append(planned.job.batch.name)
        return CureForecast(asked, demould_min=Band(900, 1000, 1100), ready_min=Band(5000, 6000, 7000))

    early: list[Weeks] = []
    found = weeks(question, plan, cured=cured, early=early.append)
    assert cast == ["Other 1", "Other 2", "Other 3"]
    assert [(one.is_first_look, one.question) for one in early] == [(True, question), (False, question)]
    assert not list(weeks_findings(replace(plan(second_demo_job(), shop, others), weeks=early[0])))
    pours = [slot for slot in found.table.slots if slot.task.key == "pour.1"]
    assert [slot.task.wait_min for slot in pours] == [(900, 1000, 1100)] * 3

    def leave(_part: float) -> None:
        if cast:
            raise InterruptedError

    cast.clear()
    with pytest.raises(InterruptedError):
        weeks(question, plan, leave, cured=cured)
    assert cast == ["Other 1"]
