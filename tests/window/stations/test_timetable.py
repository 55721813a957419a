"""Today, the timetable and bench mode as a maker drives them: promised, pinned, weighed, counted, done."""

from __future__ import annotations

import io
from collections.abc import Callable
from datetime import date, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QLabel
from pytestqt.qtbot import QtBot

from orvek.cards.every import report_text
from orvek.devices import Reading
from orvek.documents import DurationSeen, Job, MeterPlace, Weighing, deeds
from orvek.documents.deeds import set_value
from orvek.documents.job.pour import Scale as DocumentScale
from orvek.errors import NotPluggedInError
from orvek.planning import Station, plan
from orvek.planning.compared import compared
from orvek.planning.history import fates_of
from orvek.planning.route.bench import cup_life_min, mixed, wanted_g
from orvek.planning.route.steps import GLUE_READY, BenchStep, steps_of
from orvek.planning.soak.words import dry_line
from orvek.planning.timetable.next_day import next_slots
from orvek.window.bench import bench_window
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.devices_sheet import plugged_in
from orvek.window.lay_out_sheet import LayOutSheet
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
from orvek.window.stations.timetable.hours_dialog import HoursDialog
from orvek.window.stations.today import station as today_station
from tests.cards.test_calendar import calendar_of
from tests.window.hands import Clock


def open_at(window: MainWindow, station: Station, qtbot: QtBot) -> Any:
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(station)
    qtbot.waitUntil(lambda: _is_planned(window.session))
    return window.at(station)


def _is_planned(session: Session) -> bool:
    return session.plan.weeks is not None and not session.plan.weeks.is_first_look


def up_to(bench: BenchWindow, there: Callable[[BenchStep], bool]) -> None:
    """Press Space until a step is there, and no further than there are steps."""
    for _ in bench.walk.steps:
        if there(bench.step):
            return
        QTest.keyClick(bench, Qt.Key.Key_Space)
    raise AssertionError("there is no such step")


def test_the_timetable_waits_as_the_cure_page_says(window: MainWindow, qtbot: QtBot) -> None:
    """It is asked again when the forecast is there; until then the last one stands."""
    open_at(window, Station.TIMETABLE, qtbot)
    session = window.session

    def is_told() -> bool:
        weeks, cure = session.plan.weeks, session.plan.cure
        is_whole = (
            not session.answers.forecasters["cure"].is_awaited() and weeks is not None and weeks.question.effort > 1
        )
        return is_whole and cure is not None and weeks is not None and weeks.question.cure == cure.times

    qtbot.waitUntil(is_told)
    plan = session.plan
    assert plan.cure is not None
    assert plan.cure.demould_min is not None
    pour = next(slot for slot in plan.weeks.table.of(session.job.batch.id) if slot.task.key == "pour.1")  # type: ignore[union-attr]
    assert pour.task.wait_min == (plan.cure.demould_min.low, plan.cure.demould_min.best, plan.cure.demould_min.high)
    assert next(one for one in plan.route.operations if one.key == "pour.1").wait_source == "forecast"  # type: ignore[union-attr]


def test_a_cure_that_nobody_waits_for_leaves_the_timetable_whole(window: MainWindow, qtbot: QtBot) -> None:
    """It is asked with little thought while the forecast is made; where that is stopped, it is asked whole."""
    session = window.session
    open_at(window, Station.TIMETABLE, qtbot)
    session.answers.forecasters["cure"].stop()
    qtbot.waitUntil(lambda: session.plan.weeks is not None and session.plan.weeks.question.effort > 1)
    assert not session.answers.forecasters["cure"].is_awaited()


class Scale:
    """A scale that says what it is told; pulled out, it says so."""

    def __init__(self) -> None:
        self.mass_g: float | None = 0.0
        self.is_steady, self.heard, self.is_closed = True, "", False

    def read(self) -> Reading | None:
        if self.mass_g is None:
            raise NotPluggedInError("/dev/ttyUSB0")
        return Reading(self.mass_g, self.is_steady)

    def close(self) -> None:
        self.is_closed = True


def test_a_job_is_promised_pinned_and_done(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    slow = tuple(DurationSeen(name=f"{n}", kind="turn", minutes=40, pieces=1) for n in range(6))
    window.session.change_shop("Slow at the lathe", lambda shop: shop.with_(durations=slow))
    station, session = open_at(window, Station.TIMETABLE, qtbot), window.session
    assert station.answer.text().startswith("Ready ")
    written = [knot.when for knot in station.tasks._knots]
    assert sum(map(bool, written)) == len(session.plan.weeks.table.of(session.job.batch.id))  # type: ignore[union-attr]
    station.promised.setText("soon")
    station.promised.editingFinished.emit()
    assert "year, month, day" in station._refused.text()
    station.promised.setText("2001-01-01")
    station.promised.editingFinished.emit()
    assert "past" in station._refused.text()
    day = date.today() + timedelta(days=90)
    station.promised.setText(day.isoformat())
    station.promised.editingFinished.emit()
    assert session.job.work.promised == day
    qtbot.waitUntil(lambda: "of 100 tries" in station.answer.text())
    slot = station.picture._weeks.table.of(session.job.batch.id)[0]
    grip = station.picture.slot_rect(slot).center().toPoint()
    qtbot.mousePress(station.picture, Qt.MouseButton.LeftButton, pos=grip)
    qtbot.mouseMove(station.picture, grip + QPoint(80, 0))
    qtbot.mouseRelease(station.picture, Qt.MouseButton.LeftButton, pos=grip + QPoint(80, 0))
    assert session.job.work.pins[0].task == slot.task.key
    station.picture._zoom(0.5, 300)
    qtbot.waitUntil(lambda: session.plan.weeks is not None and station.tasks.count() > 0)
    station.tasks.setCurrentRow(0)
    station.free.click()
    assert session.job.work.pins == ()
    qtbot.waitUntil(lambda: session.plan.weeks is not None and station.tasks.count() > 0)
    station.tasks.setCurrentRow(0)
    station.done.click()
    assert session.plan.route.done == {"weigh.1"}  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: _is_planned(session) and "weigh.1" not in {knot.key for knot in station.tasks._knots})
    assert station.tasks.key() == "pour.1", "what was in hand is done: the next one is, in its place"
    session.undo()
    assert session.plan.route.done == frozenset()  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: session.plan.weeks is not None)
    part = next(row for row, knot in enumerate(station.tasks._knots) if "part 1" in knot.words)
    station.tasks.setCurrentRow(part)
    station.done.click()
    assert session.plan.route.done == {"turn/1"}, "a part, not the whole task"  # type: ignore[union-attr]
    session.undo()
    later = datetime.combine(date.today() + timedelta(days=50), datetime.min.time()).replace(hour=19)
    station.picture.pinned.emit("turn/1", later)
    qtbot.waitUntil(lambda: session.plan.weeks is not None)
    turned = next(s for s in session.plan.weeks.table.of(session.job.batch.id) if s.task.key == "turn/1")
    assert (turned.begins, turned.is_pinned) == (later, True)
    session.undo()
    qtbot.waitUntil(lambda: session.plan.weeks is not None)
    station.write_calendar(tmp_path / "week.ics")
    assert b"BEGIN:VEVENT" in (tmp_path / "week.ics").read_bytes()


def test_hours_are_typed_and_calendars_taken(window: MainWindow, tmp_path: Path, qtbot: QtBot) -> None:
    dialog, session = HoursDialog(window, window.session), window.session
    dialog.cells[0, "from_h"].entered.emit(16.0)
    assert session.shop.hours.days[0].from_h == 16
    dialog.off.setText("tomorrow")
    dialog.off.editingFinished.emit()
    assert "2026-12-24" in dialog._sentence.text()
    dialog.off.setText("2026-12-24, 2026-12-25")
    dialog.off.editingFinished.emit()
    assert session.shop.hours.off == (date(2026, 12, 24), date(2026, 12, 25))
    (tmp_path / "broken.ics").write_text("BEGIN:VCALENDAR")
    dialog.take_calendar(tmp_path / "broken.ics")
    qtbot.waitUntil(lambda: "no calendar" in dialog._sentence.text())
    often = "UID:1\nDTSTART:20261203T190000\nRRULE:FREQ=SECONDLY"
    (tmp_path / "odd.ics").write_text(calendar_of(often, f"UID:2\nDTSTART:{date.today():%Y%m%d}T235000"))
    dialog.take_calendar(tmp_path / "odd.ics")
    qtbot.waitUntil(lambda: "too often" in dialog._sentence.text())
    assert len(session.shop.hours.busy) == 1
    session.undo_shop()
    session.undo_shop()
    assert session.shop.hours.off == ()
    dialog.close()


def test_today_leads_to_the_bench(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    station = open_at(window, Station.TODAY, qtbot)
    assert station.now.text()
    opened: list[str] = []
    module = type(station).__module__
    monkeypatch.setattr(f"{module}.at_the_bench", lambda _parent, _session, task, _scale: opened.append(task.key))
    slot = station._slot
    station.bench.click()
    assert opened == [slot.task.key.split("/")[0]]
    assert window.session.job.batch.id == slot.job


def test_what_the_next_day_needs_is_laid_out_of_every_job(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    station = open_at(window, Station.TODAY, qtbot)
    shown: list[LayOutSheet] = []
    monkeypatch.setattr(LayOutSheet, "exec", lambda sheet: shown.append(sheet))
    station.lay_out.click()
    (sheet,) = shown
    slots = next_slots(window.session.plan.weeks.table.slots, datetime.now())  # type: ignore[union-attr]
    names = {window.session.plan.weeks.name(slot.job) for slot in slots}  # type: ignore[union-attr]
    assert {name for one in sheet.things for name in one.jobs} == names
    assert [box.text() for box in sheet.findChildren(QCheckBox)] == [one.words for one in sheet.things]
    told = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(sheet.pdf())).pages).replace("\n", " ")
    assert all(one.words.split(",")[0] in told for one in sheet.things)


def test_a_weight_that_still_moves_is_waited_for_at_the_bench(window: MainWindow) -> None:
    session, scale = window.session, Scale()
    assert session.plan.route is not None
    bench = BenchWindow(window, session, session.plan.route.operations[0], now=Clock())
    bench.use(scale)
    up_to(bench, lambda step: step.kind == "weigh")
    first, scale.mass_g, scale.is_steady = bench.step, 160.0, False
    bench.ask_devices()
    bench.go_on()
    assert bench.step is first
    assert "still moves" in bench._caution.text()
    scale.mass_g, scale.is_steady = 161.5, True
    bench.ask_devices()
    assert bench.step is not first, "steady: it is taken by itself"
    written = [one for one in session.job.work.actuals if one.what == "weighed"]
    assert [(one.task, one.value) for one in written] == [(first.key, 161.5)]
    scale.is_steady = False
    bench.ask_devices()
    second = bench.step
    bench.go_on()
    bench.go_on()
    assert bench.step is not second, "asked twice, it is taken as it is"
    bench.reject()


def test_what_is_typed_stays_whatever_the_scale_says(window: MainWindow, qtbot: QtBot) -> None:
    session, scale = window.session, Scale()
    bench = BenchWindow(window, session, session.plan.route.operations[0], now=Clock())  # type: ignore[union-attr]
    bench.use(scale)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    scale.mass_g = 20.0
    bench.ask_devices()
    qtbot.keyClicks(bench, "84")
    bench.ask_devices()
    assert bench._figure.text() == "84", "a live scale writes over nothing"
    part_a = bench.step.key
    qtbot.keyClick(bench, Qt.Key.Key_Space)  # without Enter: it is taken all the same
    assert session.job.work.actuals[-1].task == part_a
    assert session.job.work.actuals[-1].value == 84.0
    qtbot.keyClicks(bench, "3")
    qtbot.keyClick(bench, Qt.Key.Key_Delete)
    bench.ask_devices()
    assert bench._figure.text() == "20.0 g", "forgotten: the scale counts again"
    bench.reject()


def test_the_open_time_of_a_glue_counts_down_from_when_it_is_ready(window: MainWindow) -> None:
    session, clock = window.session, Clock()
    tube = next(one for one in session.plan.route.operations if one.kind == "tube")  # type: ignore[union-attr]
    bench = BenchWindow(window, session, tube, now=clock)
    bench._is_overruled = True
    glue = session.plan.bore.glue  # type: ignore[union-attr]
    assert [bench.step.key, bench.go_on() or bench.step.key] == [f"{tube.key}:A", f"{tube.key}:B"], "weighed first"
    bench.go_on()
    assert bench.step.key == f"{tube.key}:{GLUE_READY}"
    assert bench._life.isHidden()
    bench.go_on()
    assert f"{glue.open_min:.0f} min left" in bench._life.text()
    clock.at += timedelta(minutes=glue.open_min)
    bench._tick()
    assert "skins over" in bench._life.text()
    bench.go_back()
    assert bench._life.isHidden(), "taken back: it is not ready"
    for _ in bench.walk.steps:
        bench.go_on()
    assert mixed(session.plan, tube) == ()
    quick = deeds.set_value(session.job, ("bore", "glue"), "thin cyanoacrylate")
    grabs = plan(quick, session.shop)
    steps = steps_of(grabs, next(one for one in grabs.route.operations if one.kind == "tube"))  # type: ignore[union-attr]
    assert not [step for step in steps if step.key.endswith(GLUE_READY)], "what grabs at once has no time to count"


def test_after_the_last_task_every_blank_is_asked_for(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    last = next(one for one in session.plan.route.operations if one.kind == "write")  # type: ignore[union-attr]
    bench = BenchWindow(window, session, last, now=datetime.now)
    bench._is_overruled = True
    up_to(bench, lambda step: step.kind == "fate")
    begun = round(session.plan.bars.blanks.value)
    for key in "1" * (begun - 2) + "4":
        qtbot.keyClicks(bench, key)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    known = fates_of(session.shop.ledger, session.job.batch.id)
    assert [known[n].fate for n in sorted(known)] == [*["good"] * (begun - 2), "spoilt"]
    assert bench.result() == BenchWindow.DialogCode.Accepted
    assert last.key in session.job.work.done()
    again = BenchWindow(window, session, last, now=datetime.now)
    assert [one.blank_no for one in again.walk.steps if one.kind == "fate"] == [begun], "only who has no word yet"
    again.reject()


def test_a_scale_is_set_up_once_for_every_job(window: MainWindow) -> None:
    session = window.session
    assert plugged_in(session) == session.job.pour.scale
    known = session.shop.scales[0].with_(plugged_in_at="/dev/ttyUSB3")
    session.change_shop("Plug it in", lambda shop: shop.with_(scales=(known, *shop.scales[1:])))
    found = plugged_in(session)
    assert found is not None
    assert found.plugged_in_at == "/dev/ttyUSB3", "a job that was begun before it was plugged in has it, too"


def test_pot_life_counts_down_from_the_first_drop_of_hardener(window: MainWindow) -> None:
    session, scale, clock = window.session, Scale(), Clock()
    assert session.plan.route is not None
    weigh, pour = session.plan.route.operations[:2]
    bench = BenchWindow(window, session, weigh, now=clock)
    bench.use(scale)
    for _ in bench.walk.steps[: next(n for n, one in enumerate(bench.walk.steps) if one.hardens is not None)]:
        scale.mass_g = bench.step.target_g or 0.0
        bench.ask_devices()
        bench.go_on()
    assert bench._life.isHidden(), "nothing hardens yet"
    scale.mass_g = 0.0
    bench.ask_devices()
    clock.at += timedelta(hours=2)  # called away: nothing is in the cup
    scale.mass_g = 0.1 * (bench.step.target_g or 0.0)
    bench.ask_devices()
    (cup,) = mixed(session.plan, weigh)
    assert cup.since == clock.at
    again = BenchWindow(window, session, weigh, now=clock)
    assert again.step == bench.step, "begun and not weighed: left and come back, its weight is still asked for"
    again.reject()
    assert cup.life_min == cup_life_min(session.plan, 0)
    clock.at += timedelta(minutes=4)
    bench._tick()
    assert f"{cup.life_min - 4:.0f} min left" in bench._life.text()
    bench.reject()
    later = BenchWindow(window, session, pour, now=clock)
    assert f"{cup.life_min - 4:.0f} min left" in later._life.text(), "the same cup where it is poured"
    clock.at += timedelta(minutes=cup.life_min)
    later._tick()
    assert "may gel now" in later._life.text()
    clock.at -= timedelta(days=400)
    later._tick()
    assert f"{cup.life_min:.0f} min left" in later._life.text(), "a clock that was set back gives no more than all"
    for _ in later.walk.steps:
        later.go_on()
    session.attempt("Done", partial(deeds.finish_task, task=pour.key, when=clock.at))
    assert mixed(session.plan, pour) == ()


def test_today_shows_what_is_waited_for_and_other_jobs_while_an_empty_one_is_in_hand(
    window: MainWindow, qtbot: QtBot
) -> None:
    session, now = window.session, datetime.now().replace(second=0, microsecond=0)
    for key in ("weigh.1", "pour.1"):
        session.attempt("Done", partial(deeds.finish_task, task=key, when=now))
    session.new_job()
    assert session.plan.route is None
    station = open_at(window, Station.TODAY, qtbot)
    qtbot.waitUntil(lambda: session.plan.weeks is not None and bool(session.plan.weeks.waiting))
    assert station._slot is not None
    told = [label.text() for label in station.findChildren(QLabel)]
    assert any("Tideline: the casting hardens until" in words for words in told)
    assert not station._nothing.isVisible()


def test_the_demo_pen_is_made_at_the_bench(window: MainWindow, qtbot: QtBot) -> None:
    """Weighed, poured, bored, turned, coated, pressed: every task step by step, and the actuals beside the plan."""
    session, clock, scale = window.session, Clock(), Scale()
    session.edit(("batch", "pens_wanted"), 2, "Pens")
    session.edit(("finish", "school"), "thin, then medium", "Coats")
    tasks = session.plan.route
    assert tasks is not None
    too_soon = []
    for task in tasks.operations:
        bench = BenchWindow(window, session, task, now=clock)
        bench.use(scale)
        bench.end_task()
        if "Not yet: " in bench._caution.text():
            too_soon.append(task.key)
            clock.at += timedelta(days=2)
        elif bench.result() == BenchWindow.DialogCode.Accepted:  # all of it at once: again, step by step
            session.undo()
            bench = BenchWindow(window, session, task, now=clock)
            bench.use(scale)
        for _ in range(len(bench.walk.steps)):
            if bench.step.kind == "weigh":
                scale.mass_g = round((wanted_g(bench.step, bench.walk.weighed()) or 0) * 1.01, 2)
                bench.ask_devices()
                assert "too much" in bench._under.text()
            clock.at += timedelta(minutes=task.hands_min / len(bench.walk.steps))
            qtbot.keyClick(bench, Qt.Key.Key_Space)
        assert bench.result() == BenchWindow.DialogCode.Accepted
        bench.close()
    too_soon = [key for key in too_soon if key != "length"]  # it cools, or has cured meanwhile where that is forecast
    assert too_soon == ["demould.1", "square", "level"], "one minute after the pour, the glue, the coats"
    assert session.plan.route is not None
    assert session.plan.route.open == ()
    assert {seen.kind for seen in session.shop.durations} >= {"weigh", "pour", "bore", "turn", "coat", "press"}
    report = report_text(session.plan, session.units)
    assert "Weighed, beside what was planned" in report
    assert session.workshop.job(session.job.batch.id) == session.job


@pytest.mark.parametrize(
    "by", [timedelta(days=-1), timedelta(days=365), timedelta(hours=1), timedelta(hours=-1)], ids=str
)
def test_a_clock_that_is_set_makes_no_wait_longer_or_shorter(window: MainWindow, by: timedelta) -> None:
    session, clock, passed = window.session, Clock(), [0.0]
    task = session.plan.route.operations[0]  # type: ignore[union-attr]
    bench = BenchWindow(window, session, task, now=clock, passed_s=lambda: passed[0])
    up_to(bench, lambda step: step.wait_s > 0)
    wait_s = bench.step.wait_s
    bench.go_on()
    clock.at += by
    passed[0] += wait_s - 10
    bench._tick()
    assert bench._clock.text() == "wait 0:11"
    passed[0] += 11
    bench._tick()
    assert bench._clock.isHidden()
    assert bench._many.text().startswith("begun" if abs(by) >= timedelta(days=1) or by < timedelta(0) else "60 min")
    again = BenchWindow(window, session, task, now=clock, passed_s=lambda: passed[0])
    again._tick()
    left = again._clock.text()
    assert left == f"wait {int(wait_s) // 60}:01" if by < timedelta(0) else not left.startswith("wait")
    bench.close()
    again.close()


def test_bench_mode_goes_on_where_it_was_left(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, clock, scale = window.session, Clock(), Scale()
    task = session.plan.route.operations[0]  # type: ignore[union-attr]
    bench = BenchWindow(window, session, task, now=clock)
    bench.use(scale)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    part_a = bench.step
    assert part_a.target_g is not None
    scale.mass_g = 1.1 * part_a.target_g
    bench.ask_devices()
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    up_to(bench, lambda step: step.of is not None)
    wanted = wanted_g(bench.step, bench.walk.weighed())
    assert wanted == pytest.approx(1.1 * bench.step.target_g, rel=1e-3), "more of A asks for more of B"  # type: ignore[operator]
    place, words = bench.walk.place, bench.words()
    bench.close()
    again = BenchWindow(window, session, task, now=clock)
    assert (again.walk.place, again.words()) == (place, words)
    again.use(scale)
    scale.mass_g = None
    again.ask_devices()
    assert "/dev/ttyUSB0" in again._caution.text()
    qtbot.keyClick(again, Qt.Key.Key_Backspace)
    assert again.walk.place == place - 1
    session.undo()
    qtbot.keyClick(again, Qt.Key.Key_Return)
    assert task.key not in session.job.work.done(), "Enter takes what was typed, and nothing else"
    asked: list[str] = []
    monkeypatch.setattr(bench_window, "ask", lambda _parent, title, *_: asked.append(title))
    again.end_early()
    assert asked
    assert task.key not in session.job.work.done()
    monkeypatch.setattr(bench_window, "ask", lambda *_: 0)
    again.end_early()
    assert task.key in session.job.work.done()
    again.close()


def test_calipers_that_type_and_pigment_that_was_too_much(window: MainWindow, qtbot: QtBot) -> None:
    session, clock, scale = window.session, Clock(), Scale()
    tasks = session.plan.route
    assert tasks is not None
    turn = BenchWindow(window, session, next(one for one in tasks.operations if one.key == "turn"), now=clock)
    up_to(turn, lambda step: step.kind == "measure")
    target = turn.step.target_mm
    assert target is not None
    qtbot.keyClicks(turn, f"{target + 0.14:.2f}")
    qtbot.keyClick(turn, Qt.Key.Key_Return)
    assert "0.14 mm still to come off" in turn._under.text()
    qtbot.keyClick(turn, Qt.Key.Key_Space)
    assert session.job.finish.of(0).now_left_mm == pytest.approx(target + 0.14, abs=0.005)
    qtbot.keyClicks(turn, "1.2.3")
    qtbot.keyClick(turn, Qt.Key.Key_Return)
    assert "1.2.3" in turn._caution.text()
    assert turn.isVisible() or not turn.result(), "nonsense does not end the task"
    turn.close()
    weigh = BenchWindow(window, session, tasks.operations[0], now=clock)
    weigh.use(scale)
    up_to(weigh, lambda step: ".p" in step.key)
    assert weigh.step.target_g is not None
    scale.mass_g = 1.2 * weigh.step.target_g
    weigh.ask_devices()
    assert "Too much by 20 %" in weigh._caution.text()
    scale.mass_g = 50 * weigh.step.target_g
    weigh.ask_devices()
    assert "Far too much" in weigh._caution.text()
    weigh.close()


def test_wood_is_weighed_into_its_log_at_the_bench(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.open_job(next(one.id for one in session.jobs() if one.name == "Driftwood"))
    before = session.job.soak.drying.log
    operations = {one.key: one for one in session.plan.route.operations}  # type: ignore[union-attr]
    weigh = BenchWindow(window, session, operations["soak.2"], now=lambda: before[-1].when + timedelta(hours=3))
    qtbot.keyClicks(weigh, "120.1")
    qtbot.keyClick(weigh, Qt.Key.Key_Return)
    assert weigh._figure.text() == "120.1 g"
    later = plan(with_weight(session.job, before, 120.1, 3), session.shop)
    assert weigh._under.text() == str(dry_line(later.soak.drying, session.units))
    assert session.job.soak.drying.log == before, "it is not entered yet"
    qtbot.keyClick(weigh, Qt.Key.Key_Space)
    assert [one.mass_g for one in session.job.soak.drying.log] == [*(one.mass_g for one in before), 120.1]
    assert session.job.work.when("soak.2", "done") is not None
    again = BenchWindow(window, session, operations["soak.1"], now=lambda: before[-1].when + timedelta(hours=4))
    again._is_overruled = True
    logged = session.job.soak.drying.log
    for nonsense in ("0", "900000"):
        qtbot.keyClicks(again, nonsense)
        qtbot.keyClick(again, Qt.Key.Key_Space)
        assert again.step.into == "log", "it stays to be put right"
        assert again._caution.text().endswith(".")
    qtbot.keyClick(again, Qt.Key.Key_Delete)
    qtbot.keyClick(again, Qt.Key.Key_Space)
    assert again.step.into == "", "nothing was weighed, and that is no reason to stay"
    assert session.job.soak.drying.log == logged
    again.close()
    out = BenchWindow(window, session, operations["soak.3"], now=lambda: before[-1].when + timedelta(days=4))
    out._is_overruled = True
    qtbot.keyClick(out, Qt.Key.Key_Space)
    qtbot.keyClicks(out, "251")
    qtbot.keyClick(out, Qt.Key.Key_Space)
    assert session.job.soak.bath.after_g == 251
    assert session.job.work.when("soak.3", "done") is not None


def with_weight(job: Job, log: tuple[Weighing, ...], mass_g: float, hours: int) -> Job:
    more = Weighing(when=log[-1].when + timedelta(hours=hours), mass_g=mass_g)
    return set_value(job, ("soak", "drying", "log"), (*log, more))


def test_a_task_is_pinned_by_keys(window: MainWindow, qtbot: QtBot) -> None:
    station, session = open_at(window, Station.TIMETABLE, qtbot), window.session
    picture = station.picture
    picture.setFocus()
    own = picture._weeks.table.of(session.job.batch.id)
    qtbot.keyClick(picture, Qt.Key.Key_N)
    qtbot.keyClick(picture, Qt.Key.Key_N)
    assert own[1].task.words in picture.accessibleDescription()
    qtbot.keyClick(picture, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(picture, Qt.Key.Key_Escape)
    assert not session.job.work.pins
    qtbot.keyClick(picture, Qt.Key.Key_N)
    for _ in range(3):
        qtbot.keyClick(picture, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    shift = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier
    qtbot.keyClick(picture, Qt.Key.Key_Right, shift)
    qtbot.keyClick(picture, Qt.Key.Key_Return)
    (pin,) = session.job.work.pins
    assert pin.task == own[0].task.key
    assert pin.begins == own[0].begins + timedelta(days=1, minutes=45)


class Probe:
    """Calipers or a thermometer that says what it is told, until it is pulled out."""

    heard = ""

    def __init__(self) -> None:
        self.value: float | None = None

    def read(self) -> float | None:
        if self.value == -1:
            raise NotPluggedInError("/dev/ttyUSB1", "caliper")
        found, self.value = self.value, None
        return found

    def close(self) -> None:
        pass


def test_a_scale_that_is_gone_says_nothing_and_is_looked_for(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Pulled out while part A is poured: its last weight is no weight, and part B is not worked out from it."""
    session, scales = window.session, [Scale()]

    def opened(place: str, _baud: int, _line: str) -> Scale:
        if scales[-1].mass_g is None:
            raise NotPluggedInError(place)
        return scales[-1]

    monkeypatch.setattr("orvek.window.bench.devices.open_scale", opened)
    assert session.plan.route is not None
    own = DocumentScale(name="Bench", resolution_g=0.1, plugged_in_at="/dev/ttyUSB0")
    bench = BenchWindow(window, session, session.plan.route.operations[0], scale=own, now=Clock())
    qtbot.addWidget(bench)
    up_to(bench, lambda step: step.key.endswith(".A"))
    scales[0].mass_g = 8.32
    bench.ask_devices()
    assert "8.3 g" in bench._figure.text()
    scales[0].mass_g = None
    bench.ask_devices()
    assert scales[0].is_closed
    assert "8.3" not in bench._figure.text()
    assert "type what you read" in bench._caution.text()
    bench._tick()
    assert "type what you read" in bench._caution.text(), "still gone"
    part_a = bench.step
    assert part_a.target_g is not None
    qtbot.keyClicks(bench, f"{part_a.target_g:.1f}")
    qtbot.keyClick(bench, Qt.Key.Key_Return)
    bench.ask_devices()
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    written = {one.task: one.value for one in session.job.work.actuals if one.what == "weighed"}
    assert written == {part_a.key: pytest.approx(part_a.target_g, abs=0.05)}
    scales.append(Scale())
    scales[-1].mass_g = 1.4
    bench._tick()
    assert "answers again" in bench._caution.text()
    bench.ask_devices()
    assert bench._figure.text() == "1.4 g"
    scales[-1].mass_g = None
    bench.ask_devices()
    bench.go_on()
    assert [one.value for one in session.job.work.actuals if one.what == "weighed"][-1] is None, "never what it was"
    bench.reject()


def test_calipers_and_a_thermometer_write_down_what_they_say_and_the_scale_is_tared(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    session = window.session
    log = tmp_path / "probe.csv"
    log.write_text("18:00,24.5 C\n", encoding="utf-8")
    place = MeterPlace(name="Probe", kind="thermometer", plugged_in_at=str(log))
    gone = MeterPlace(name="Calipers", plugged_in_at="/dev/none")
    session.change_shop("Plug in", lambda shop: shop.with_(meters=(place, gone)))
    tasks = session.plan.route
    assert tasks is not None
    pour = BenchWindow(window, session, next(one for one in tasks.operations if one.key == "pour.1"), now=Clock())
    qtbot.addWidget(pour)
    assert "No calipers answer at /dev/none" in pour._caution.text()
    assert pour.step.kind == "temperature"
    pour.ask_devices()
    assert (pour._figure.text(), pour._under.text()) == ("24.5 °C", "planned 21.0 °C")
    qtbot.keyClick(pour, Qt.Key.Key_Space)
    written = session.job.work.actuals[-1]
    assert (written.value, written.planned, written.unit) == (24.5, 21.0, "°C")
    row = next(one for one in compared(session.plan) if one.task == "pour.1:warm")
    assert not row.is_within
    assert row.written(session.units)[2] == "+3.5 °C"
    turn = BenchWindow(window, session, next(one for one in tasks.operations if one.key == "turn"), now=Clock())
    qtbot.addWidget(turn)
    calipers = Probe()
    turn.devices.use_meter("caliper", calipers)
    up_to(turn, lambda step: step.kind == "measure")
    assert turn.step.target_mm is not None
    calipers.value = turn.step.target_mm + 0.2
    turn.ask_devices()
    assert "0.20 mm still to come off" in turn._under.text()
    calipers.value = -1
    turn.ask_devices()
    assert "No calipers answer" in turn._caution.text()
    assert "type what the calipers say" in turn._under.text(), "what lost calipers said last is forgotten"
    qtbot.keyClicks(turn, f"{turn.step.target_mm + 0.1:.2f}")
    qtbot.keyClick(turn, Qt.Key.Key_Return)
    turn.ask_devices()
    qtbot.keyClick(turn, Qt.Key.Key_Space)
    assert session.job.finish.of(0).now_left_mm == pytest.approx(
        turn.walk.steps[turn.walk.place - 1].target_mm + 0.1, abs=0.01
    )
    weigh = BenchWindow(window, session, tasks.operations[0], now=Clock())
    qtbot.addWidget(weigh)
    qtbot.keyClick(weigh, Qt.Key.Key_T)
    assert "No scale is plugged in" in weigh._caution.text()
    scale = Scale()
    weigh.use(scale)
    up_to(weigh, lambda step: step.kind == "weigh")
    scale.mass_g = 33.0  # the cup
    weigh.ask_devices()
    qtbot.keyClick(weigh, Qt.Key.Key_T)
    scale.mass_g = 53.0
    weigh.ask_devices()
    assert weigh._figure.text() == "20.0 g"
    qtbot.keyClick(weigh, Qt.Key.Key_Escape)
    assert scale.is_closed, "however the bench is left, the scale is let go"


def test_the_cure_is_forecast_from_when_the_timetable_pours(window: MainWindow, qtbot: QtBot) -> None:
    cold = window.session.job.pour.conditions.with_(night_c=9, poured_h=8)
    window.session.edit(("pour", "conditions"), cold, "Cold nights")
    station, session = open_at(window, Station.TIMETABLE, qtbot), window.session
    finding = next(one for one in session.plan.findings if one.title == "The cure is forecast for another time.")
    pour = next(slot for slot in station.picture._weeks.table.of(session.job.batch.id) if slot.task.key == "pour.1")
    session.remedy(finding.remedies[0])
    assert session.job.pour.conditions.poured_on == pour.begins.date()
    assert station.tasks.count() > 0, "the old one stays in sight"
    qtbot.waitUntil(lambda: session.plan.weeks is not None)


def test_what_cannot_wait_is_told_before_its_time_is_over(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, told = window.session, []  # type: ignore[var-annotated]
    monkeypatch.setattr(today_station, "notify", lambda _window, title, words: told.append((title, words)))
    station = open_at(window, Station.TODAY, qtbot)
    # Mixed seven minutes ago: a cup is to be poured within ten.
    mixed = datetime.now().replace(second=0, microsecond=0) - timedelta(minutes=7)
    session.attempt("Done", partial(deeds.finish_task, task="weigh.1", when=mixed))
    qtbot.waitUntil(lambda: session.plan.weeks is not None and "weigh.1" in session.job.work.done())
    station._look_again()
    station._look_again()
    assert [title.startswith("Tideline: Pour") for title, _ in told] == [True]  # once, however often it is looked at
    assert "cannot wait" in told[0][1]
    lines = [label.text() for label in station.findChildren(QLabel)]
    assert any("Pour" in words and " before " in words for words in lines)
    session.attempt("Done", partial(deeds.finish_task, task="pour.1", when=mixed))
    assert not any(one.task.key == "pour.1" for one in station._closing())
    # What cannot wait is told of all jobs, whichever is in hand.
    session.undo()
    other = next(entry.id for entry in session.jobs() if entry.name == "Ropewalk")
    session.open_job(other)
    assert [(one.job, one.task.key) for one in station._closing()] == [("Tideline", "pour.1")]


def test_five_blanks_at_the_bench_one_by_one_or_together_and_one_falls_out(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = window.session
    square = next(one for one in session.plan.route.operations if one.kind == "square")  # type: ignore[union-attr]
    bench = BenchWindow(window, session, square, now=Clock())
    qtbot.addWidget(bench)
    blanks = round(session.plan.bars.blanks.value)
    assert [step.blank for step in bench.walk.steps[:blanks]] == list(range(1, blanks + 1))
    qtbot.keyClicks(bench, "47.6")
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert bench.step.blank == 2
    assert bench.words().startswith("Blank 2")

    def fall(_parent: object, there: Session, number: int, fate: str) -> bool:
        assert (number, fate) == (2, "spoilt")
        return bench_window.write_fate(there, bench_window.new_fate(there, number, "spoilt"))

    monkeypatch.setattr(bench_window, "ask_fate", fall)
    qtbot.keyClick(bench, Qt.Key.Key_F)
    assert bench.step.blank == 3, "the next one that is left"
    assert 2 not in {step.blank for step in bench.walk.steps}
    bench.reject()
    again = BenchWindow(window, session, square, now=Clock())
    qtbot.addWidget(again)
    assert again.step.blank == 3, "the place is kept"
    assert any(row.words.startswith("Blank 1, Nib: square") for row in compared(session.plan))
    sand = next(one for one in session.plan.route.operations if one.kind == "sand")  # type: ignore[union-attr]
    grits = BenchWindow(window, session, sand, now=Clock())
    qtbot.addWidget(grits)
    assert grits.step.blank == 0
    assert "for all" in grits._many.text()
    steps = len(grits.walk.steps)
    qtbot.keyClick(grits, Qt.Key.Key_Space)
    qtbot.keyClick(grits, Qt.Key.Key_B)
    assert len(grits.walk.steps) == steps * (blanks - 1)
    assert grits.step.key.endswith(":2#1"), "the first grit was done to all of them"
