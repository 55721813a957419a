"""The plan of the demo job: under 30 ms, and beside a yardstick of plain Python in the same run."""

from __future__ import annotations

from pytest_benchmark.fixture import BenchmarkFixture

from benchmarks.timing import best_of
from orvek.documents import deeds
from orvek.planning import plan
from orvek.store import demo_job, demo_shop


def yardstick() -> int:
    """A hundred thousand additions in plain Python."""
    total = 0
    for n in range(100_000):
        total += n
    return total


def test_plan_of_the_demo_job(benchmark: BenchmarkFixture) -> None:
    job, shop = demo_job(), demo_shop()
    benchmark(plan, job, shop)
    seconds, stick = best_of(lambda: plan(job, shop)), best_of(yardstick)
    print(f"\nplan {1000 * seconds:.2f} ms, {seconds / stick:.2f} x the yardstick of {1000 * stick:.2f} ms")
    assert seconds / stick < 3


def test_one_step_of_a_drag(benchmark: BenchmarkFixture) -> None:
    """A deed and the plan that follows: what happens sixty times a second while a tube is dragged."""
    job, shop = demo_job(), demo_shop()

    def step() -> object:
        return plan(deeds.move_tube(job, (18.35, 70.45), 1, 74.2), shop)

    benchmark(step)
    seconds, stick = best_of(step), best_of(yardstick)
    print(f"\ndrag {1000 * seconds:.2f} ms, {seconds / stick:.2f} x the yardstick")
    assert seconds / stick < 3
