"""The window, driven as a maker drives it."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QEvent, QSettings
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from orvek.planning import Station
from orvek.store import demo_job, fill_with_demo, open_workshop
from orvek.window import last_time, places, theme
from orvek.window.answers import Answers
from orvek.window.frame import USUAL_SIZE
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
from orvek.window.stations.paged import Paged
from tests.window.rough import rough_answer

Opener = Callable[..., MainWindow]
_MS = 300_000


class Patient(QtBot):
    """Waits for events as long as a busy machine may take for them; a test that fails fails late, and only then."""

    def waitUntil(self, callback: Callable[[], bool | None], *, timeout: int = _MS) -> None:  # noqa: N802 - its name in pytest-qt
        super().waitUntil(callback, timeout=timeout)

    def waitSignal(self, signal: Any, *, timeout: int = _MS, **more: Any) -> Any:  # noqa: N802 - the same
        return super().waitSignal(signal, timeout=timeout, **more)


@pytest.fixture
def qtbot(qapp: QApplication, request: pytest.FixtureRequest) -> QtBot:  # noqa: ARG001 - there must be one
    return Patient(request)


@pytest.fixture(scope="session")
def qapp_cls() -> type[QApplication]:
    return QApplication


@pytest.fixture(autouse=True)
def recorded_answers(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """A slow question is worked out once a session and not to its end; `fresh_answers` tests work it out in full."""
    if not request.node.get_closest_marker("fresh_answers"):
        monkeypatch.setattr(Answers, "_answer", rough_answer)


@pytest.fixture(autouse=True)
def own_settings(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """No test reads or writes how the maker of this computer left the window."""
    file = str(tmp_path / "window.ini")
    monkeypatch.setattr(places, "settings", lambda: QSettings(file, QSettings.Format.IniFormat))
    monkeypatch.setattr(last_time, "_file", lambda workshop, what: tmp_path / "last" / f"{workshop.name}.{what}")


def _end(windows: list[MainWindow], qapp: QApplication) -> None:
    for window in windows:
        window.session._pending.clear()
        window.frame.close()
        window.surface.wait()
        window.frame.deleteLater()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    qapp.processEvents()


@pytest.fixture(scope="module")
def walked(qapp: QApplication, tmp_path_factory: pytest.TempPathFactory) -> Iterator[MainWindow]:
    """A window on the demo that the tests of a module walk through one after another; none of them changes a job."""
    theme.apply(qapp)
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(Answers, "_answer", rough_answer)
        workshop = open_workshop(tmp_path_factory.mktemp("walked") / "workshop.sqlite")
        fill_with_demo(workshop)
        window = MainWindow(Session(workshop))
        window.frame.show()
        window.load_slow_parts()
        yield window
        _end([window], qapp)


@pytest.fixture(scope="session")
def demo_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A workshop file with Tern Quay, to be copied: filling one takes as long as building a station."""
    path = tmp_path_factory.mktemp("demo") / "workshop.sqlite"
    workshop = open_workshop(path)
    fill_with_demo(workshop)
    workshop.close()
    return path


def _copy(demo_file: Path, path: Path) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    shutil.copy(demo_file, path)


@pytest.fixture
def open_window(qtbot: QtBot, qapp: QApplication, workshop_path: Path, demo_file: Path) -> Iterator[Opener]:
    """Opens windows on one workshop file; demo=True: it holds Tern Quay; keep=True: they stay after the test."""
    if theme.FAMILY not in qapp.font().family():
        theme.apply(qapp)
    opened: list[MainWindow] = []

    def make(*, demo: bool = False, path: Path = workshop_path, keep: bool = False) -> MainWindow:
        if demo and not path.exists():
            _copy(demo_file, path)
            demo = False
        workshop = open_workshop(path)
        if demo:
            fill_with_demo(workshop)
        window = MainWindow(Session(workshop))
        window.frame.show()
        window.load_slow_parts()
        qtbot.waitExposed(window.frame)
        if not keep:
            opened.append(window)
        return window

    yield make
    _end(opened, qapp)


@pytest.fixture(scope="module")
def windows(qapp: QApplication) -> Iterator[list[MainWindow]]:
    """The one window that the tests of a module share, once there is one; another where a test closed it."""
    made: list[MainWindow] = []
    yield made
    _end(made, qapp)


@pytest.fixture
def window(
    request: pytest.FixtureRequest,
    windows: list[MainWindow],
    open_window: Opener,
    qtbot: QtBot,
    workshop_path: Path,
    demo_file: Path,
) -> MainWindow:
    """The module's window gone on to a fresh workshop with the demo job, at Pen and every first page."""
    if request.node.get_closest_marker("fresh_answers"):
        return open_window(demo=True)
    if not windows or not windows[-1].frame.isVisible():
        windows.append(open_window(demo=True, keep=True))
        return windows[-1]
    window, session = windows[-1], windows[-1].session
    _copy(demo_file, workshop_path)
    session._pending.clear()
    assert session.open_workshop(workshop_path)
    session.open_job(next(entry.id for entry in session.jobs() if entry.name == demo_job().batch.name))
    for station in (built for built in window._built.values() if isinstance(built, Paged)):
        station.open_page(station._names[0])
    window.open_station(Station.PEN)
    window.frame.resize(*USUAL_SIZE)
    window.frame.activateWindow()
    QApplication.processEvents()
    window.notice.say("")
    qtbot.waitExposed(window.frame)
    return window
