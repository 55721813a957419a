"""Forty jobs of thirty tasks: laid into the hours once, improved for about ten seconds, drawn while one is dragged."""

from __future__ import annotations

import random
from datetime import datetime

from pytest_benchmark.fixture import BenchmarkFixture
from pytestqt.qtbot import QtBot

from benchmarks.bench_plan import yardstick
from benchmarks.timing import best_of
from orvek.documents import Hours, Shop
from orvek.planning.findings import Station
from orvek.planning.route.results import Operation
from orvek.planning.timetable.items import items_of
from orvek.planning.timetable.results import JobTasks, Timetable, TimetableQuestion, Weeks, WeeksQuestion
from orvek.planning.timetable.solving import quickly, solved
from orvek.planning.timetable.stepwise import in_order
from orvek.window.stations.timetable.weeks_picture import WeeksPicture

_PLACES = ("", "", "pressure pot", "lathe", "clamps")


def forty_jobs(effort: float) -> TimetableQuestion:
    """Work of about half a year in evenings and Saturdays."""
    chance, jobs = random.Random(4), []
    for number in range(40):
        tasks = []
        for n in range(30):
            hands, wait = chance.choice((10, 15, 20, 30, 45, 60, 90)), chance.choice((0, 0, 0, 0, 60, 720, 1440))
            after = (f"{n - 1}",) if n else ()
            task = Operation(
                f"{n}", "turn", "Turn", Station.FINISH, hands, (hands, hands), wait_min=(wait, wait, wait),
                after=after, place=chance.choice(_PLACES),
            )  # fmt: skip
            tasks.append(task)
        jobs.append(JobTasks(f"{number}", f"Job {number}", tuple(tasks), None))
    return TimetableQuestion(tuple(jobs), Hours(), datetime(2026, 11, 26, 9, 0), effort)


def test_forty_jobs_in_one_order(benchmark: BenchmarkFixture) -> None:
    question = forty_jobs(1.0)
    items, order = items_of(question), list(range(40))
    benchmark(in_order, question, items, order)
    seconds, stick = best_of(lambda: in_order(question, items, order)), best_of(yardstick)
    print(f"\nforty jobs {1000 * seconds:.1f} ms, {seconds / stick:.2f} x the yardstick of {1000 * stick:.2f} ms")
    assert seconds / stick < 15


def test_ten_seconds_of_forty_jobs() -> None:
    question = forty_jobs(10.0)
    first, table = quickly(question), solved(question)
    saved = sum(_ready_h(first, job.job) - _ready_h(table, job.job) for job in question.jobs) / len(question.jobs)
    print(f"\nforty jobs in ten seconds: each ready {saved:.1f} h earlier than at once")
    assert saved > 0


def _ready_h(table: Timetable, job: str) -> float:
    ready = table.ready(job)
    assert ready is not None
    return (ready - table.question.begin).total_seconds() / 3600


def test_a_drag_over_forty_jobs(benchmark: BenchmarkFixture, qtbot: QtBot) -> None:
    question = forty_jobs(0.1)
    names = tuple((job.job, job.name) for job in question.jobs)
    shop = Shop().with_(hours=question.hours)
    weeks = Weeks(WeeksQuestion((), shop, question.begin), solved(question), names)
    picture = WeeksPicture()
    qtbot.addWidget(picture)
    picture.resize(800, 660)
    picture.show_weeks(weeks, "0")
    benchmark(picture.grab)
    seconds, stick = best_of(picture.grab), best_of(yardstick)
    print(f"\npicture {1000 * seconds:.1f} ms, {seconds / stick:.2f} x the yardstick")
    assert seconds / stick < 8
