"""Nothing that is typed, kept or damaged takes the window, the other jobs or the next start with it."""

from __future__ import annotations

import json
import logging
import shutil
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QLineEdit, QMenu
from pytestqt.qtbot import QtBot

from orvek.documents import Chip, CutStep, Layer, StavesStep, deeds, to_text
from orvek.documents.deeds import set_preference, take_off_shelf
from orvek.planning import Plan, Station
from orvek.store import back_up, demo_job
from orvek.window.backups_dialog import BackupsDialog
from orvek.window.forecasting import Forecaster
from orvek.window.main_window import MainWindow
from orvek.window.stations.pen.station import PenStation
from orvek.window.widgets.label import Label, plain_tip
from tests.window.conftest import Opener


@pytest.fixture
def quiet_log() -> Iterator[None]:
    """Faults that a test makes on purpose are not printed."""
    logger = logging.getLogger("orvek")
    before, logger.propagate = logger.propagate, False
    yield
    logger.propagate = before


def test_what_could_once_not_be_computed_is_planned_or_refused(window: MainWindow) -> None:
    session = window.session
    staves = StavesStep()
    session.attempt("Staves", lambda job: deeds.replace_stock(job, staves))
    session.edit(("blank", "steps", 0, "ring_mm"), 0.3, "Sawn into rings")
    assert "too thin to saw" in window.notice.text()
    cut = CutStep(sheet=(Layer(material="brass", thickness_mm=0.8),))
    session.attempt("Cut", lambda job: deeds.add_step(job, cut))
    for readings in ((0.04, 0.04, 0.04), (1, 8, 1), (0.15, 0.15, 0.15), (300, 300, 300)):
        session.edit(("glue_up", "sheet_readings_mm"), readings, "Sheets")
        session.edit(("glue_up", "kerf_readings_mm"), readings, "Kerf")
        assert not session.plan.failed
    session.open_job(demo_job().batch.id)
    for name in {dose.pigment.name for cup in demo_job().cast.cups for dose in cup.pigments}:
        session.attempt("Measure", lambda job, name=name: deeds.set_chip(job, name, Chip()))
    assert not session.plan.failed


@pytest.mark.usefixtures("quiet_log")
def test_a_part_that_raises_is_a_finding_and_the_others_stand(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise ZeroDivisionError("float division by zero")

    session = window.session
    monkeypatch.setattr(sys.modules["orvek.planning.pour.part"], "cost_plan", broken)
    before = session.job
    session.edit(("batch", "pens_wanted"), 17, "Good pens wanted")
    finding = next(f for f in session.plan.findings if "could not work this out" in f.title)
    assert "what is mixed and poured" in finding.title
    assert session.plan.layout is not None
    assert session.job.batch.pens_wanted == 17
    session.remedy(next(r for r in finding.remedies if "Undo" in r.label))
    assert session.job == before


@pytest.mark.usefixtures("quiet_log")
def test_a_station_that_cannot_show_a_job_leaves_the_window_alone(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_self: object, _plan: Plan) -> None:
        raise IndexError("list index out of range")

    window.open_station(Station.POUR)
    monkeypatch.setattr(PenStation, "show_plan", broken)
    window.open_station(Station.PEN)
    assert "could not show the station Pen" in window.notice.text()
    window.session.edit(("batch", "pens_wanted"), 11, "Good pens wanted")
    window.open_station(Station.POUR)
    assert window.session.job.batch.pens_wanted == 11


@pytest.mark.parametrize("damage", ["last version", "every version", "last open", "shelf", "preferences"])
def test_one_damaged_row_never_keeps_the_program_from_starting(
    open_window: Opener, workshop_path: Path, damage: str
) -> None:
    first = open_window(demo=True)
    tideline = first.session.job.batch.id
    first.session.edit(("batch", "pens_wanted"), 21, "Good pens wanted")
    first.frame.close()
    statement = {
        "last version": f"update job_version set body = '{{' where job_id = '{tideline}' and number > 0",
        "every version": f"update job_version set body = '{{' where job_id = '{tideline}'",
        "last open": "update setting set body = '{' where key = 'last_open'",
        "shelf": "update shelf set body = '7' where kind = 'resins'",
        "preferences": "update setting set body = '[]' where key = 'preferences'",
    }[damage]
    with closing(sqlite3.connect(workshop_path)) as connection:
        connection.execute(statement)
        connection.commit()
    window = open_window()
    names = {entry.name for entry in window.session.jobs()}
    assert names == {"Tideline", "Ropewalk", "Driftwood"}
    assert window.session.job.batch.name == ("Ropewalk" if damage == "every version" else "Tideline")
    assert damage == "last open" or window.notice.text()
    window.session.edit(("batch", "pens_wanted"), 22, "Good pens wanted")
    assert window.session.unsaved == 0


def test_names_are_shown_as_they_were_typed(window: MainWindow) -> None:
    name = '<img src="/dev/zero"> & <b>co'
    session = window.session
    session.edit(("batch", "name"), name, "Name")
    session.edit(("pour", "mould", "name"), name, "Name")
    session.attempt("Name", lambda job: deeds.set_cup(job, 0, job.cast.cups[0].with_(name=name)))
    for station in Station:
        window.open_station(station)
    labels = window.frame.findChildren(QLabel)
    assert any(name in label.text() for label in labels)
    assert {label.textFormat() for label in labels if isinstance(label, Label)} == {Qt.TextFormat.PlainText}
    assert all(isinstance(label, Label) for label in labels if name in label.text())
    assert plain_tip(name) == "<qt>&lt;img src=&quot;/dev/zero&quot;&gt; &amp; &lt;b&gt;co</qt>"
    menu = QMenu()
    window.at("Pour")._menus.fill_moulds(menu)
    assert not any("& " in action.text().replace("&&", "") for action in menu.actions())


@pytest.mark.usefixtures("quiet_log")
def test_a_fault_in_the_background_is_a_sentence_and_progress_ends(qtbot: QtBot) -> None:
    def broken(_question: object, tell: object, _early: object) -> None:
        tell(0.1)  # type: ignore[operator]
        raise RuntimeError("the solver lost its way")

    forecaster = Forecaster(broken)
    shown: list[float] = []
    forecaster.progressed.connect(shown.append)
    with qtbot.waitSignal(forecaster.failed) as failed:
        forecaster.ask("a question")
    assert "the solver lost its way" in failed.args[0]
    assert shown[-1] == 1.0
    assert forecaster.close(within_ms=20_000)


def test_closing_does_not_wait_for_what_cannot_be_stopped(qtbot: QtBot) -> None:
    import threading

    started, go = threading.Event(), threading.Event()

    def stubborn(question: str, _tell: object, _early: object) -> object:
        started.set()
        go.wait()
        return question

    forecaster = Forecaster(stubborn)
    forecaster.ask("a question")
    qtbot.waitUntil(started.is_set)
    assert not forecaster.close(within_ms=50)
    go.set()
    assert forecaster.close(within_ms=20_000)


def test_the_second_window_takes_over_and_its_notice_stays_until_then(open_window: Opener) -> None:
    first, second = open_window(demo=True), open_window()
    second.session.new_job()
    second.session.edit(("batch", "pens_wanted"), 3, "Good pens wanted")
    second.say("something else")
    assert "open in another window" in second.keeping.text()
    first.session.edit(("batch", "pens_wanted"), 33, "Good pens wanted")
    second._look_again()
    assert second.session.job.batch.pens_wanted == 33
    first.frame.close()
    second._look_again()
    assert second.session.workshop.is_writable
    assert second.keeping.text() == ""
    second.session.edit(("batch", "pens_wanted"), 44, "Good pens wanted")
    assert second.session.unsaved == 0
    assert second.findings.isEnabled()


@pytest.mark.parametrize("way", ["deleted", "copied over"])
def test_a_file_gone_while_open_is_said_and_saved_under_a_new_name(
    open_window: Opener, workshop_path: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, way: str
) -> None:
    window = open_window(demo=True)
    session = window.session
    older = tmp_path / "older.sqlite"
    shutil.copyfile(workshop_path, older)
    session.edit(("batch", "pens_wanted"), 40, "Good pens wanted")
    back_up(workshop_path, "asked")
    session.edit(("batch", "pens_wanted"), 41, "Good pens wanted")
    workshop_path.unlink() if way == "deleted" else shutil.copyfile(older, workshop_path)
    window._look_again()
    assert "save it under a new name" in window.keeping.text()
    session.edit(("batch", "pens_wanted"), 42, "Good pens wanted")
    assert session.job.batch.pens_wanted == 42
    target = tmp_path / "kept.sqlite"
    from PySide6.QtWidgets import QFileDialog

    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    window.keeping.button.click()
    assert session.unsaved == 0
    assert session.workshop.path == target
    assert window.keeping.text() == ""
    session.undo()
    assert session.job.batch.pens_wanted == (41 if way == "deleted" else 40)
    assert {entry.name for entry in session.jobs()} == {"Tideline", "Ropewalk", "Driftwood"}


def test_after_the_undo_of_a_restore_the_same_job_is_in_hand(window: MainWindow) -> None:
    session = window.session
    backup = back_up(session.workshop.path, "asked")
    mine = session.job.with_(batch=session.job.batch.with_(id="c" * 12, name="Since then"))
    session.add_job(mine, "A job since then")
    other = next(entry.id for entry in session.jobs() if entry.id != mine.batch.id)
    before = session.restore(backup)
    assert before is not None
    assert mine.batch.id not in {entry.id for entry in session.jobs()}
    session.open_job(other)
    assert session.restore(before) is not None
    assert session.job.batch.id == mine.batch.id


def test_a_backup_is_restored_from_its_list_and_taken_back_by_one_button(window: MainWindow) -> None:
    session = window.session
    dialog = BackupsDialog(window, session)
    dialog.restored.connect(window.menus._say_restored)
    dialog.make.click()
    assert dialog.table.rowCount() == 1
    assert dialog.table.item(0, 2).text() == "3"
    session.edit(("batch", "pens_wanted"), 64, "Good pens wanted")
    session.change_shop("Units", lambda shop: set_preference(shop, "length", "inch decimal"))
    dialog.put_back.click()
    assert session.units.length == "mm"
    assert session.shop_undo is None
    assert session.job.batch.pens_wanted == demo_job().batch.pens_wanted
    window.notice.button.click()
    assert session.job.batch.pens_wanted == 64


def test_many_cuts_do_not_stop_the_window(window: MainWindow) -> None:
    """A count of computed pictures stands for time: a strip of 199 cuts is read once for each end, not for each cut."""
    from orvek.planning.blank.lines import _nearest

    cuts = tuple(CutStep(centre_mm=10 + n % 100, azimuth_deg=n * 7 % 360, angle_deg=30 + n % 40) for n in range(80))
    _nearest.cache_clear()
    window.session.attempt("Cuts", lambda job: deeds.replace_stock(job, StavesStep()))
    window.session.attempt("Cuts", lambda job: deeds.set_steps(job, (*job.blank.steps[:1], *cuts)))
    assert _nearest.cache_info().misses <= 8
    assert len(window.session.job.blank.steps) == 81


_CLOSE_WHILE_COMPUTING = """
import os, sys, time
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QTimer
from orvek.window import application
started = []
original = application.Start.open_workshop
def opened(self):
    original(self)
    def close():
        started.append(time.monotonic())
        self._frame.close()
    QTimer.singleShot(1500, close)
application.Start.open_workshop = opened
import atexit
code = 0
import orvek.window.application as a
real = os._exit
def leave(code):
    print(time.monotonic() - started[0], flush=True); real(code)
os._exit = leave
code = a.run(Path(sys.argv[1]), demo=True, picture=None, begin=("cure", None))
print(time.monotonic() - started[0], flush=True)
real(code)
"""


def test_the_program_ends_though_a_forecast_runs(workshop_path: Path) -> None:
    found = subprocess.run(
        [sys.executable, "-c", _CLOSE_WHILE_COMPUTING, str(workshop_path)],
        capture_output=True, text=True, check=False, timeout=300,
    )  # fmt: skip
    assert found.returncode == 0, found.stderr
    assert found.stdout.strip()


def test_typing_into_every_field_is_taken_or_refused(window: MainWindow, qtbot: QtBot) -> None:
    for station in Station:
        window.open_station(station)
        for line in window.frame.findChildren(QLineEdit):
            if line.isVisible() and line.isEnabled():
                for text in ("0.3", "banana", "12 am", "1e400", "-5", "= 1+1"):
                    line.setFocus()
                    line.selectAll()
                    qtbot.keyClicks(line, text)
                    qtbot.keyClick(line, Qt.Key.Key_Return)
    assert window.session.unsaved == 0
    assert not window.session.plan.failed
    text = to_text(window.session.job)
    assert json.loads(text)


def test_a_deed_on_the_shelves_is_undone_and_kept_undone(window: MainWindow, open_window: Opener) -> None:
    session = window.session
    before = session.shop
    session.change_shop("Take a mould off", lambda shop: take_off_shelf(shop, "moulds", shop.moulds[0].name))
    session.change_shop("Units", lambda shop: set_preference(shop, "length", "inch decimal"))
    assert window.menus._shop_undo.text() == "&Undo: Units"
    window.menus._shop_undo.trigger()
    assert session.units.length == "mm"
    window.menus._shop_undo.trigger()
    assert session.shop == before
    assert not window.menus._shop_undo.isEnabled()
    window.frame.close()
    assert open_window().session.shop == before


def test_sheets_begin_within_bounds_whatever_was_measured(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    from orvek.window.stations.colour import page as colour_page
    from orvek.window.stations.cure import page as cure_page

    begun: list[object] = []
    for module in (colour_page, cure_page):
        monkeypatch.setattr(module, "edit_document", lambda _parent, _title, document, _units: begun.append(document))
    session, pour = window.session, window.at("Pour")
    session.edit(("batch", "shop_temperature_c"), -5.0, "Cold")
    for peak in (None, 900.0, -40.0):
        pour.cure.ask_for_log(peak)
    session.edit(("blank", "steps", session.job.cast_index, "cups", 0, "pigments", 0, "load_pct"), 0.0, "No load")
    pour.colour._ask_for_chip(0, 0)
    assert len(begun) == 4
