"""Timetables of made-up weeks, written down and held to: where tasks go, why, what that costs, what none costs less.

Recorded like the sixteen jobs are: `ORVEK_RECORD=1 python -m pytest tests/planning/timetable`. That a plan keeps what
it must, and costs no less than the bound, is held by tests of its own.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from datetime import date, datetime, timedelta

from orvek.documents import Busy, DayHours, Hours
from orvek.planning.findings import Station
from orvek.planning.route.results import Operation
from orvek.planning.timetable.costing import cost
from orvek.planning.timetable.earlier import earlier
from orvek.planning.timetable.items import Item, is_soon_enough, items_of, open_for, taken_places
from orvek.planning.timetable.reasons import chain, reasons
from orvek.planning.timetable.results import JobTasks, TimetableQuestion, Wait
from orvek.planning.timetable.solving import quickly, solved, told
from orvek.planning.timetable.stepwise import stepwise
from orvek.planning.timetable.windows import longest, usual, windows
from tests.jobs.recorded_text import hold, prose, sentences

THURSDAY = datetime(2026, 11, 26, 9, 7)
_EVENINGS = (*(DayHours(from_h=18, to_h=21.4),) * 4, DayHours(from_h=14, to_h=23), DayHours(from_h=8, to_h=24))


def hours(chance: random.Random) -> Hours:
    """Evenings and week-ends, some of them off or booked; or every day alike; quiet at night or at noon."""
    days = chance.choice(((*_EVENINGS, DayHours(from_h=0, to_h=9)), (DayHours(from_h=8, to_h=12),) * 7))
    quiet_from, quiet_to = chance.choice(((20.5, 7.0), (12.0, 14.0), (0.0, 0.0)))
    begins = THURSDAY + timedelta(hours=chance.randrange(80))
    return Hours(
        days=days,
        quiet_from_h=quiet_from,
        quiet_to_h=quiet_to,
        off=(date(2026, 11, 27 + chance.randrange(4)),),
        busy=(Busy(begins=begins, ends=begins + timedelta(minutes=chance.choice((25, 200)))),),
    )


def tasks(chance: random.Random) -> Iterator[Operation]:
    """One to five tasks, one after another: short and long, loud, with places that are held, some that cannot wait."""
    for number in range(chance.randrange(1, 6)):
        hands, wait = chance.choice((7.0, 20.0, 45.0, 100.0)), chance.choice((0.0, 0.0, 35.0, 600.0, 1500.0))
        yield Operation(
            f"t{number}", "turn", f"Operation {number}", Station.FINISH, hands, (0.7 * hands, 1.6 * hands),
            wait_min=(0.8 * wait, wait, 1.3 * wait),
            wait_words=chance.choice(("", "it hardens")) if wait else "",
            after=(f"t{number - 1}",) if number else (),
            place=chance.choice(("", "lathe", "pressure pot")),
            holds=chance.random() < 0.5,
            is_loud=chance.random() < 0.3,
            soon_min=chance.choice((None, None, 12.0, 300.0)) if number else None,
        )  # fmt: skip


def week(seed: int) -> TimetableQuestion:
    """One to five jobs: promised or not, one of them pinned, one waiting for what was done."""
    chance = random.Random(seed)
    there, jobs = hours(chance), []
    for number in range(1 + seed % 5):
        own = tuple(tasks(chance))
        promised = THURSDAY.date() + timedelta(days=chance.randrange(-1, 9)) if chance.random() < 0.6 else None
        pins = ((own[-1].key, THURSDAY + timedelta(minutes=chance.randrange(4000))),) if chance.random() < 0.2 else ()
        ends = THURSDAY + timedelta(minutes=chance.randrange(-200, 900))
        waiting = (Wait(f"j{number}", "Cast", ends, "pressure pot"),) if chance.random() < 0.2 else ()
        jobs.append(JobTasks(f"j{number}", f"Job {number}", own, promised, pins, waiting))
    return TimetableQuestion(tuple(jobs), there, THURSDAY, 0.2)


def lazily(items: list[Item], starts: list[int]) -> list[int]:
    """The same plan, everything a good deal later."""
    return [start + (7 + 3 * n) * (items[n].pinned is None) for n, start in enumerate(starts)]


def timetables() -> Iterator[str]:
    """Many weeks."""
    for seed in range(30):
        question = week(seed)
        items = items_of(question)
        yield f"{seed}: {question.days} days, taken {taken_places(question)}"
        for loud in (False, True):
            there = windows(question.hours, THURSDAY, 12, loud=loud)
            yield f"  hours {there[:7]} longest {longest(there)} usual {usual(there)}"
        yield f"  free {[open_for(question, item)[:2] for item in items]}"
        starts = stepwise(question, items)
        yield f"  no room: {solved(question).problem}" if starts is None else f"  step by step {starts}"
        if starts is None:
            continue
        better = stepwise(question, items, tries=25)
        assert better is not None
        yield f"  {is_soon_enough(items, starts)} {is_soon_enough(items, lazily(items, starts))}"
        yield f"  better {better}, earlier {earlier(question, items, better)}"
        yield f"  from later {earlier(question, items, lazily(items, starts))}"
        costs = (cost(question, items, one) for one in (starts, better, lazily(items, starts)))
        yield f"  {' '.join(f'{one:g}' for one in costs)}"
        yield from sentences(reasons(question, items, starts))
        table = told(question, items, lazily(items, better))
        yield from sentences(line for job in question.jobs for line in chain(table, job.job))
        yield " ".join(f"{slot.job} {slot.begins:%d %H:%M} {prose(slot.why)}" for slot in quickly(question).slots)


def test_weeks_are_planned_as_they_were() -> None:
    hold("timetables", timetables())


def test_nothing_to_do_and_no_hours_are_told() -> None:
    assert solved(TimetableQuestion((), week(3).hours, THURSDAY)).slots == ()
    never = Hours(days=(DayHours(from_h=9, to_h=9),) * 7)
    table = solved(TimetableQuestion(week(3).jobs, never, THURSDAY))
    assert table.slots == ()
    assert "no time at the bench" in table.problem
    assert chain(table, "j0") == ()
