"""Every page of every station: at any size nothing overlaps or is cut off, each stop has a name, commands go there."""

from __future__ import annotations

import itertools
import os
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator

import pytest
from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QScrollArea, QWidget
from pytestqt.qtbot import QtBot

from orvek.commands import line
from orvek.planning import Station
from orvek.stations import STATIONS, place_names, row_of
from orvek.store import demo_job
from orvek.window.main_window import MainWindow

SIZES = [(960, 600), (1024, 700), (1280, 770), (1600, 1000), (2560, 1440)]
_BETWEEN = {(1024, 700), (1600, 1000), (2560, 1440)}  # what fits at the sizes beside them is read there every day
PAGES = [name for row in STATIONS for name in ([page.name for page in row.pages] or [row.name])]
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


def _at_the_window(widget: QWidget, window: MainWindow) -> tuple[int, int, int, int]:
    corner = widget.mapTo(window, QPoint(0, 0))
    return corner.x(), corner.y(), corner.x() + widget.width(), corner.y() + widget.height()


@pytest.mark.parametrize(
    "size", [pytest.param(size, marks=[pytest.mark.long] if size in _BETWEEN else []) for size in SIZES]
)
def test_no_words_overlap_or_are_cut_off(walked: MainWindow, size: tuple[int, int]) -> None:
    window = walked
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


@pytest.mark.parametrize("size", SIZES)
def test_the_window_fits_any_screen(walked: MainWindow, size: tuple[int, int], qtbot: QtBot) -> None:
    """Rail, station, findings and strip lie beside each other, and all of the strip's ruler is in sight."""
    walked.frame.resize(*size)
    for station in Station:
        walked.open_station(station)
        QApplication.processEvents()
        there = walked.at(station)  # a late answer may ask for its room while the page is laid out
        qtbot.waitUntil(lambda one=there: one.height() >= one.minimumSizeHint().height())  # type: ignore[misc]
        is_of_job = row_of(station).is_of_job
        assert (walked.findings.isVisible(), walked.strip.isVisible()) == (is_of_job, is_of_job)
        parts = (walked.rail, walked._areas[station], walked.findings, walked.strip)
        rail, area, findings, strip = (_at_the_window(part, walked) for part in parts)
        assert rail[2] <= area[0]
        if is_of_job:
            assert area[2] <= findings[0]
            assert findings[2] == walked.width() <= size[0]
            assert max(rail[3], area[3], findings[3]) <= strip[1]
            assert strip[3] <= walked.height()
        else:
            assert area[2] == walked.width() <= size[0], "the workshop's places use the whole width"
            assert area[3] == walked.height()
        # The station itself is never squeezed: what does not fit is scrolled to.
        assert walked.at(station).height() >= walked.at(station).minimumSizeHint().height()
        if walked.strip.isVisible() and walked.strip.is_open:
            assert walked.strip.bar_rect().bottom() + 12 + 24 <= walked.strip.height()


def test_no_label_anywhere_is_cut_off_at_the_smallest_window(walked: MainWindow) -> None:
    walked.frame.resize(walked.frame.minimumSize())
    for station in Station:
        walked.open_station(station)
        QApplication.processEvents()
        QApplication.processEvents()  # a station that is built now is laid out by and by
        cut = [
            label.text()
            for label in walked.findChildren(QLabel)
            if label.isVisible() and not label.wordWrap() and label.width() < label.sizeHint().width() - 1
        ]
        assert cut == []


def test_everything_has_a_name_for_those_who_listen(walked: MainWindow) -> None:
    for station in Station:
        walked.open_station(station)
        QApplication.processEvents()
        reachable = [
            w
            for w in walked.findChildren(QWidget)
            if w.isVisible() and w.focusPolicy() & Qt.FocusPolicy.TabFocus and type(w).__name__ != "QScrollArea"
        ]
        nameless = [type(w).__name__ for w in reachable if not (w.accessibleName() or getattr(w, "text", str)())]
        assert nameless == []


def show_the_cure(window: MainWindow, qtbot: QtBot) -> None:
    """Take Tideline in hand, whatever was, and wait until the cure's chart stands there."""
    window.session.open_job(demo_job().batch.id)
    window.open_named("cure")
    page = window.at("Pour").cure
    qtbot.waitUntil(lambda: page.chart is not None)


def test_pictures_shrink_before_a_page_is_scrolled(walked: MainWindow, qtbot: QtBot) -> None:
    """At 1280 x 800 with a title bar and a panel all of a station stands there, the cure's charts too."""
    window = walked
    window.frame.resize(1280, 730)
    show_the_cure(window, qtbot)

    def over() -> int:
        area = window._areas[window.station]
        return area.widget().height() - area.viewport().height()

    for page in PAGES:
        window.open_named(page)
        qtbot.waitUntil(lambda: over() <= 0)


def test_a_low_window_has_one_scroll_bar_and_never_two(walked: MainWindow, qtbot: QtBot) -> None:
    """A small screen with large text: the page is scrolled, and nothing within it."""
    window, least = walked, walked.frame.minimumSize()
    window.frame.setMinimumSize(0, 0)
    window.frame.resize(908, 480)

    def bars() -> int:
        area = window._areas[window.station]
        areas = (area, *area.findChildren(QScrollArea))
        return sum(one.verticalScrollBar().isVisible() for one in areas)

    for page in PAGES:
        window.open_named(page)
        qtbot.waitUntil(lambda: bars() <= 1)
    window.frame.setMinimumSize(least)


def test_commands_go_to_pages_and_jobs(walked: MainWindow) -> None:
    pages = [page.name for row in STATIONS for page in row.pages]
    told = {one.words: one for one in walked.menus.commands()}
    assert pages
    for row in STATIONS:
        for page in row.pages:
            told[f"{row.station.words}: {page.words}"].do()
            assert walked.station is row.station
    told["Open Ropewalk"].do()
    assert walked.session.job.batch.name == "Ropewalk"


def test_the_command_line_knows_every_place() -> None:
    """It names them itself, because the table of stations would load Qt for every report."""
    places = set(place_names())
    assert places == set(line._PLACES)


def name_of(stop: QWidget) -> str:
    told = QAccessible.queryAccessibleInterface(stop)
    return told.text(QAccessible.Text.Name) if told else ""


def test_every_stop_of_the_keyboard_has_a_name_and_a_role(walked: MainWindow, qtbot: QtBot) -> None:
    """Over all stations and their pages: a screen reader is never told nothing."""
    show_the_cure(walked, qtbot)  # it has stops of its own
    dumb = {QAccessible.Role.NoRole, QAccessible.Role.Client}
    for row in STATIONS:
        for place in (row.name, *(page.name for page in row.pages)):
            walked.open_named(place)
            QApplication.processEvents()
            names = Counter(name_of(stop) for stop in walked.focus_stops() if walked._stack.isAncestorOf(stop))
            assert [name for name, count in names.items() if count > 1] == [], place
            for stop in walked.focus_stops():
                told = QAccessible.queryAccessibleInterface(stop)
                assert told is not None
                assert told.text(QAccessible.Text.Name), (place, stop)
                assert told.role() not in dumb, (place, stop)


def test_tab_goes_from_the_station_to_the_findings_to_the_strip(walked: MainWindow, qtbot: QtBot) -> None:
    walked.frame.activateWindow()
    parts = (walked.rail, walked.band, walked._stack, walked.findings, walked.strip)
    for station in Station:
        walked.open_station(station)
        QApplication.processEvents()
        focused = walked.frame.focusWidget()
        assert walked._areas[station].isAncestorOf(focused), "opening a station takes the focus into it"
        been: list[int] = []
        for _ in range(120):
            part = next(n for n, one in enumerate(parts) if one is focused or one.isAncestorOf(focused))
            if not been or been[-1] != part:
                been.append(part)
            qtbot.keyClick(focused, Qt.Key.Key_Tab)
            focused = walked.frame.focusWidget()
            if been[-1] == 0:
                break
        wanted = [2, 3, 4, 0] if row_of(station).is_of_job else [2, 0]
        assert been == wanted, f"{station}: station, findings, strip, then the rail again"


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
