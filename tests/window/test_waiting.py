"""Waiting: how far it is, a way not to wait, a word on the desktop afterwards; and what is said after a crash."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from orvek import log
from orvek.window import notifying
from orvek.window.forecasting import Forecaster
from orvek.window.main_window import MainWindow
from orvek.window.widgets.waiting import Waiting


@pytest.mark.usefixtures("qapp")
def test_a_line_shows_how_far_it_is_and_a_button_ends_the_wait() -> None:
    forecaster = Forecaster(lambda *_: None)
    line = Waiting(forecaster, "the layout")
    assert line.isHidden()
    forecaster.ask("how are the pieces laid out?")
    assert not line.isHidden()
    assert line.bar.maximum() == 0, "nobody knows yet how long it takes"
    forecaster.progressed.emit(0.4)
    assert (line.bar.value(), line.bar.maximum()) == (40, 100)
    line.stop.click()
    assert not forecaster.is_busy()
    assert line.isHidden()


@pytest.mark.parametrize("place", ["cure", "boards", "meet"])
def test_what_was_not_waited_for_is_said(window: MainWindow, place: str) -> None:
    window.session.open_job(next(one.id for one in window.session.jobs() if one.name == "Ropewalk"))
    if place == "cure":
        window.session.open_job(next(one.id for one in window.session.jobs() if one.name == "Tideline"))
    window.open_named(place)
    station = window.at(window.station)
    page = {"cure": lambda: station.cure, "boards": lambda: station.boards, "meet": lambda: station.meeting}[place]()
    if place == "cure":
        page.show_forecast(None)
        page._forecast = None
    else:
        page._answer = None
    page.waiting.stop.click()
    words = page.words.text() if place == "boards" else page.answer.text()
    assert "not" in words.lower() or "no forecast" in words.lower(), words


def test_the_desktop_is_told_when_something_long_is_done(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    told: list[list[str]] = []
    monkeypatch.setattr(notifying.shutil, "which", lambda _name: "/usr/bin/notify-send")
    monkeypatch.setattr(notifying.QProcess, "startDetached", lambda _tool, words: told.append(words))
    monkeypatch.setattr(type(window.frame), "isActiveWindow", lambda _frame: True)
    window.session.answers.took.emit("the cure", 30.0)
    assert not told, "the maker looks at it"
    monkeypatch.setattr(type(window.frame), "isActiveWindow", lambda _frame: False)
    window.session.answers.took.emit("the cure", 2.0)
    assert not told, "nobody goes away for two seconds"
    window.session.answers.took.emit("the cure", 30.0)
    assert told[0][-2:] == ["Tideline", "Orvek has worked out the cure."]


_RUN = """
import os, sys
from orvek import log
print(log.watch_for_crashes(), flush=True)
if sys.argv[1] == "kill":
    os.kill(os.getpid(), 9)
if sys.argv[1] == "crash":
    import ctypes
    ctypes.string_at(0)
"""


def _run(how: str, folder: Path) -> tuple[str, int]:
    environment = {**os.environ, "XDG_STATE_HOME": str(folder)}
    told = subprocess.run([sys.executable, "-c", _RUN, how], env=environment, capture_output=True, text=True)
    return told.stdout.strip(), told.returncode


def test_after_a_crash_the_next_start_says_where_the_log_is(tmp_path: Path) -> None:
    assert _run("end", tmp_path) == ("", 0)
    assert _run("kill", tmp_path) == ("", -signal.SIGKILL), "the one before ended as it should"
    said, _ = _run("crash", tmp_path)
    assert said.startswith("Orvek did not end as it should the last time. Nothing that you changed was lost.")
    said, _ = _run("end", tmp_path)
    crash = Path(said.partition("What happened is in ")[2].rstrip("."))
    assert "Segmentation fault" in crash.read_text(), "where in the program it was"
    assert _run("end", tmp_path) == ("", 0), "said once"


def test_a_folder_that_cannot_be_written_is_no_reason_not_to_start(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(log, "log_path", lambda: tmp_path / "a file" / "orvek.log")
    (tmp_path / "a file").write_text("no folder")
    assert log.watch_for_crashes() == ""
    log.end_well()
