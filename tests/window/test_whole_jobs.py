"""Whole jobs by the bench alone, with simulated devices: step by step, then planned beside actual."""

from __future__ import annotations

from datetime import timedelta

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from orvek.devices import Reading
from orvek.documents import JOB, Fault, Holding, deeds, path_to
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
    "name",
    [
        "07 knot",
        "12 oblong own mould",
        "16 fragile fibre",
        *(pytest.param(name, marks=pytest.mark.long) for name in ("10 striped round", "14 long barrel")),
    ],
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


def work_on(window: MainWindow, clock: Clock, until: str, reading: float = 0.0) -> None:
    """The operations at the bench up to one of a key, or all; a dial shows a reading at the mark and half way round."""
    session = window.session
    for _ in range(80):
        assert session.plan.route is not None
        if not session.plan.route.open or session.plan.route.open[0].key.startswith(until):
            return
        task = session.plan.route.open[0]
        bench = BenchWindow(window, session, task, now=clock, surface=window.surface)
        while task.kind == "true" and bench.result() != BenchWindow.DialogCode.Accepted:
            if bench.step.reads is not None:
                at = {"at_0_mm": reading, "at_180_mm": -reading}.get(bench.step.reads[2], 0.0)
                QTest.keyClicks(bench, f"{at:.2f}")
            clock.at += timedelta(seconds=30)
            QTest.keyClick(bench, Qt.Key.Key_Space)
        if bench.result() != BenchWindow.DialogCode.Accepted:
            carry(bench, clock, task.hands_min)
        clock.at += timedelta(minutes=task.wait_min[1] + 1)


def test_a_torn_barrel_is_filled_remounted_trued_shortened_and_finished(window: MainWindow) -> None:
    """By the bench alone: what the dial said stands at True, both ends are cut as one set, nothing is left open."""
    session, clock = window.session, Clock()
    session.add_job(SIXTEEN["14 long barrel"](), "A job")
    window.surface.wait()
    session.change_shop("A dial", lambda shop: shop.with_(holding=Holding(way="between centres", has_dial=True)))
    barrel = session.job.laid[0]
    pen = session.job.pen
    assert pen is not None
    lasting = pen.with_(barrels=tuple(one.with_(play_mm=6.0) for one in pen.barrels))
    session.edit(path_to(JOB.pen), lasting, "May become shorter")
    work_on(window, clock, "sand")
    torn = Fault(kind="blow-out", at_mm=40, long_mm=3, wide_mm=2, deep_mm=0.3, moment="turning", way="fill")
    session.attempt("Torn", lambda job: deeds.add_fault(job, torn))
    work_on(window, clock, "sand", reading=0.12)
    read = session.job.finish.truing(0)
    assert (read.left.at_0_mm, read.left.at_180_mm, read.left_turned.at_0_mm) == (0.12, -0.12, 0.12)
    assert session.plan.finish.trues[0].fault == "holding"  # type: ignore[union-attr]
    work_on(window, clock, "inspect")
    ends = (0.7, barrel.tube_length_mm - 0.7)
    for at in ends:
        chip = Fault(kind="chip at an end", at_mm=at, long_mm=1.4, wide_mm=2, deep_mm=0.6, moment="sanding")
        session.attempt("Chipped", lambda job, chip=chip: deeds.add_fault(job, chip))
    told = next(one for one in session.plan.findings if "flaws" in one.title)
    session.remedy(told.remedies[0])
    assert [fault.way for fault in session.job.faults.found[1:]] == ["shorten", "shorten"]
    work_on(window, clock, "none")
    assert session.plan.route.open == ()  # type: ignore[union-attr]
    kinds = [one.task.partition(":")[0] for one in session.job.work.actuals if one.what == "done"]
    assert sum(key.startswith("mend.") for key in kinds) >= 3
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
