"""Any screen, any length of words: nothing overlaps, nothing lies outside, nothing is cut off."""

from __future__ import annotations

import itertools
import os
import subprocess
import sys
from collections.abc import Iterator

import pytest
from PySide6.QtCore import QPoint, QRect
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QScrollArea, QWidget
from pytestqt.qtbot import QtBot

from orvek.window.main_window import MainWindow
from orvek.window.stations.table import STATIONS
from tests.window.conftest import Opener

SIZES = [(960, 600), (1024, 700), (1280, 770), (1600, 1000), (2560, 1440)]
PAGES = [page for entry in STATIONS for page in (entry.pages or (entry.station.value.lower(),))]
_CROWDED = 2  # pixels that two lines may share


def _at(widget: QWidget, within: QWidget) -> QRect:
    return QRect(widget.mapTo(within, QPoint(0, 0)), widget.size())


def _words_in(part: QWidget) -> list[QWidget]:
    """Labels and buttons with words that can be seen."""
    kinds = (QLabel, QAbstractButton)
    seen = [one for kind in kinds for one in part.findChildren(kind) if one.isVisible() and one.text()]
    return [one for one in seen if not one.visibleRegion().isEmpty()]


def _overlapping(part: QWidget) -> Iterator[tuple[str, str]]:
    there = [(one, _at(one, part).adjusted(0, _CROWDED, 0, -_CROWDED)) for one in _words_in(part)]
    for (one, here), (other, beside) in itertools.combinations(there, 2):
        if here.intersects(beside) and not one.isAncestorOf(other) and not other.isAncestorOf(one):
            yield one.text(), other.text()


def _outside(part: QWidget) -> Iterator[str]:
    for one in _words_in(part):
        parent = one.parentWidget()
        if parent is not None and not parent.rect().adjusted(-1, -1, 1, 1).contains(one.geometry()):
            yield one.text()


def _cut_off(part: QWidget) -> Iterator[str]:
    """Words that have less room than they need."""
    for one in _words_in(part):
        if isinstance(one, QLabel):
            metrics = one.fontMetrics()
            needed = (
                one.heightForWidth(one.width())
                if one.wordWrap()
                else 0
                if metrics.horizontalAdvance(max(one.text().split("\n"), key=len)) <= one.width() + 1
                else 10_000
            )
            if needed > one.height() + 2 and "<" not in one.text():
                yield one.text()
        elif one.width() + 1 < one.minimumSizeHint().width():
            yield one.text()


def _parts(window: MainWindow) -> tuple[QWidget, ...]:
    station: QScrollArea = window._areas[window.station]
    return window.rail, station.widget(), window.findings


def _settle(part: QWidget) -> None:
    """An answer may have come while the page was laid out: let what it brought find its room."""
    for _ in range(20):
        if not list(_cut_off(part)):
            return
        QApplication.processEvents()


@pytest.mark.parametrize("size", SIZES)
def test_no_words_overlap_or_are_cut_off(open_window: Opener, size: tuple[int, int]) -> None:
    window = open_window(demo=True)
    window.frame.resize(*size)
    for job in ("Tideline", "Ropewalk"):
        window.session.open_job(next(one.id for one in window.session.jobs() if one.name == job))
        for page in PAGES:
            window.open_named(page)
            for _ in range(3):
                QApplication.processEvents()
            for part in _parts(window):
                _settle(part)
                place = f"{job}, {page}, {type(part).__name__}"
                assert list(_overlapping(part)) == [], place
                assert list(_outside(part)) == [], place
                assert list(_cut_off(part)) == [], place


def test_pictures_shrink_before_a_page_is_scrolled(open_window: Opener, qtbot: QtBot) -> None:
    """At 1280 x 800 with a title bar all of a station stands there, the cure's charts too when they have come."""
    window = open_window(demo=True)
    window.frame.resize(1280, 770)
    window.open_named("cure")
    qtbot.waitUntil(lambda: window.at("Pour").cure.chart is not None, timeout=120_000)
    over: dict[str, int] = {}
    for page in PAGES:
        window.open_named(page)
        for _ in range(3):
            QApplication.processEvents()
        area = window._areas[window.station]
        over[page] = area.widget().height() - area.viewport().height()
    assert max(over.values()) <= 0, over


@pytest.mark.parametrize("scale", ["1.5", "2"])
def test_a_screen_of_fine_dots_is_used(scale: str) -> None:
    """At 150 and 200 % the window opens, is as large in points of the desktop, and its pictures are as much finer."""
    script = (
        "from orvek.window.application import make_application\n"
        "app = make_application()\n"
        "from orvek.window.frame import Frame\n"
        "frame = Frame(); frame.resize(1000, 640); frame.show(); app.processEvents()\n"
        "made = frame.grab(); print(made.width(), made.height(), frame.width())\n"
    )
    environment = {**os.environ, "QT_SCALE_FACTOR": scale, "QT_QPA_PLATFORM": "offscreen"}
    told = subprocess.run([sys.executable, "-c", script], env=environment, capture_output=True, text=True, check=True)
    wide, tall, points = (int(part) for part in told.stdout.split())
    assert (wide, tall, points) == (round(1000 * float(scale)), round(640 * float(scale)), 1000)
