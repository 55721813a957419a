"""Whole jobs by the bench alone, with simulated devices: step by step, then planned beside actual."""

from __future__ import annotations

from datetime import timedelta

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from orvek.devices import Reading
from orvek.planning.compared import compared
from orvek.planning.history import fates_of
from orvek.planning.route.bench import wanted_g
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.main_window import MainWindow
from tests.jobs.the_sixteen import SIXTEEN
from tests.window.hands import Clock


class Scale:
    """It weighs one per cent more than it was asked for."""

    heard = ""
    mass_g = 0.0

    def read(self) -> Reading:
        return Reading(round(self.mass_g, 2), is_steady=True)

    def close(self) -> None:
        """Nothing is held."""


class Meter:
    """Calipers or a probe: a little more than was planned."""

    heard = ""
    value = 0.0

    def read(self) -> float:
        return self.value

    def close(self) -> None:
        """Nothing is held."""


def carry(bench: BenchWindow, clock: Clock, minutes: float) -> None:
    """All steps of an operation, as its steps ask for them; a wait and what is too soon are waited for."""
    scale, calipers, probe = Scale(), Meter(), Meter()
    bench.use(scale)
    bench.devices.use_meter("caliper", calipers)
    bench.devices.use_meter("thermometer", probe)
    steps = len(bench.walk.steps)
    for _ in range(3 * steps + 3):
        step = bench.step
        scale.mass_g = 1.01 * (wanted_g(step, bench.walk.weighed()) or 240.0)
        calipers.value = (step.target_mm or 0.0) + 0.02
        probe.value = (step.target_c or 0.0) + 1
        bench.ask_devices()
        clock.at += timedelta(minutes=minutes / steps, seconds=step.wait_s)
        QTest.keyClick(bench, Qt.Key.Key_1 if step.kind == "fate" else Qt.Key.Key_Space)
        if bench.result() == BenchWindow.DialogCode.Accepted:
            return
        if "Not yet: " in bench._caution.text():
            clock.at += timedelta(days=3)
    raise AssertionError(f"{bench.words()} does not end")


@pytest.mark.parametrize(
    "name", ["07 knot", "10 striped round", "12 oblong own mould", "14 long barrel", "16 fragile fibre"]
)
def test_a_job_is_carried_by_the_bench_alone(window: MainWindow, name: str) -> None:
    session, clock = window.session, Clock()
    session.add_job(SIXTEEN[name](), "A job")
    window.surface.wait()
    for _ in range(80):
        assert session.plan.route is not None
        if not session.plan.route.open:
            break
        task = session.plan.route.open[0]
        bench = BenchWindow(window, session, task, now=clock, surface=window.surface)
        carry(bench, clock, task.hands_min)
        clock.at += timedelta(minutes=task.wait_min[1] + 1)
    assert session.plan.route.open == ()  # type: ignore[union-attr]
    rows = {row.task for row in compared(session.plan)}
    without = [one.key for one in session.plan.route.operations if one.key not in rows]  # type: ignore[union-attr]
    assert without == [], "planned stands beside actual for every operation"
    begun = round(session.plan.bars.blanks.value)
    assert [one.fate for one in fates_of(session.shop.ledger, session.job.batch.id).values()] == ["good"] * begun
    assert session.workshop.job(session.job.batch.id) == session.job


def test_calipers_that_lie_idle_measure_nothing_unasked(window: MainWindow) -> None:
    session, calipers = window.session, Meter()
    square = next(one for one in session.plan.route.operations if one.kind == "square")  # type: ignore[union-attr]
    bench = BenchWindow(window, session, square, now=Clock())
    bench.devices.use_meter("caliper", calipers)
    calipers.value = 12.3
    bench.ask_devices()
    first = bench.step
    QTest.keyClick(bench, Qt.Key.Key_Space)
    if "Not yet: " in bench._caution.text():
        QTest.keyClick(bench, Qt.Key.Key_Space)
    assert bench.step is first
    assert "far from" in bench._caution.text()
    QTest.keyClick(bench, Qt.Key.Key_Delete)
    calipers.value = 47.52
    bench.ask_devices()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert bench.step is not first
    assert [one.value for one in session.job.work.actuals if one.what == "measured"] == [47.52]
    calipers.value = 12.3
    bench.ask_devices()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert [one.value for one in session.job.work.actuals if one.what == "measured"] == [47.52, 12.3], "overruled"
