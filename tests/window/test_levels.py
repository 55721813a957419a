"""Workshop and job apart: the rail, the band over the stations, the bar that folds, findings that lead on."""

from __future__ import annotations

from datetime import datetime
from functools import partial

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton, QToolButton
from pytestqt.qtbot import QtBot
from shiboken6 import getCppPointer

from orvek.documents import deeds
from orvek.planning import Severity
from orvek.planning.route.stations import OF_JOB, stations_of
from orvek.quantities import write_moment
from orvek.stations import Station, row_of
from orvek.window.bench import opening
from orvek.window.card_writer import cards_of
from orvek.window.main_window import MainWindow
from orvek.window.widgets.choice import ChoiceButton


def shown(window: MainWindow) -> list[Station]:
    """The stations on the rail, from the top."""
    buttons = [one for one in window.rail.buttons.values() if one.isVisible()]
    return [one.station for one in sorted(buttons, key=lambda one: one.mapTo(window, QPoint()).y())]


def places(window: MainWindow) -> dict[int, tuple[int, int]]:
    """Where everything stands that can be stopped at, but for the band's own buttons."""
    stops = [one for one in window.focus_stops() if not window.band.isAncestorOf(one)]
    # By what Qt knows them by: Python's own names of them come and go.
    return {getCppPointer(one)[0]: (one.mapTo(window, QPoint()).x(), one.mapTo(window, QPoint()).y()) for one in stops}


def test_the_workshop_stands_above_the_job_and_has_nothing_of_it(window: MainWindow) -> None:
    workshop = [Station.TODAY, Station.TIMETABLE, Station.SHELF, Station.RECORDS]
    for station in workshop:
        window.open_station(station)
        QApplication.processEvents()
        assert not window.findings.isVisible()
        assert not window.strip.isVisible()
    window.open_station(Station.BLANK)
    QApplication.processEvents()
    assert window.findings.isVisible()
    assert window.strip.is_open
    cast = [Station.PEN, Station.BLANK, Station.POUR, Station.BORE, Station.FINISH, Station.BATCH]
    assert shown(window) == [*workshop, *cast]
    window.session.open_job(next(one.id for one in window.session.jobs() if one.name == "Ropewalk"))
    QApplication.processEvents()
    glued = [Station.PEN, Station.BLANK, Station.GLUE_UP, Station.BORE, Station.FINISH, Station.BATCH]
    assert shown(window) == [*workshop, *glued]


def test_today_says_which_jobs_need_a_look(window: MainWindow, qtbot: QtBot) -> None:
    window.open_station(Station.TODAY)
    window.looks.want(window.session.jobs())
    settle(window, qtbot)
    qtbot.waitUntil(lambda: not window.looks.is_busy())
    told = {one.entry.name: one.worst for one in window.looks.needing()}
    assert told["Tideline"] is Severity.CAUTION
    today = window.at(Station.TODAY)
    link = next(one for one in today.findChildren(QToolButton) if one.text() == "Tideline: caution")
    window.session.new_job()
    link.click()
    assert window.session.job.batch.name == "Tideline"
    assert window.station is Station.POUR, "where the first of it stands"


def test_what_is_not_on_the_route_is_behind_more(window: MainWindow) -> None:
    others = {Station.SOAK, Station.GLUE_UP}
    assert not others & set(shown(window))
    window.rail.more.click()
    QApplication.processEvents()
    assert set(OF_JOB) <= set(shown(window))
    window.rail.more.click()
    window.open_named("drying")
    QApplication.processEvents()
    assert others & set(shown(window)) == {Station.SOAK}, "the one that is open is never hidden"


def test_a_job_is_chosen_by_keys(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.keyClick(window.rail.head, Qt.Key.Key_Return)
    chooser = window.rail.chooser
    assert chooser.isVisible()
    chooser.jobs.list.keyboardSearch("Rope")
    qtbot.keyClick(chooser.jobs.list, Qt.Key.Key_Return)
    assert not chooser.isVisible()
    assert window.session.job.batch.name == "Ropewalk"
    assert window.rail.head.name.text() == "Ropewalk"
    window.rail.choose_job()
    chooser.new.click()
    assert not chooser.isVisible()
    assert window.session.job.pen is None
    assert window.band.line.words.text() == "Next: choose the pen"


def settle(window: MainWindow, qtbot: QtBot) -> None:
    """Until nothing is worked out any more, and everything lies where it belongs."""
    window.surface.wait()
    qtbot.waitUntil(lambda: not window.session.answers.is_busy())
    for _ in range(3):
        QApplication.processEvents()


def test_nothing_moves_when_something_is_said_or_a_bar_is_opened(window: MainWindow, qtbot: QtBot) -> None:
    for station in (Station.PEN, Station.POUR, Station.TODAY):
        window.open_station(station)
        settle(window, qtbot)
        before = places(window)
        window.say("A sentence that goes over the whole line and says a great deal of things, one after another.")
        QApplication.processEvents()
        assert places(window) == before
        window.notice.say("")
    window.open_station(Station.POUR)
    QApplication.processEvents()
    rail = [one.mapTo(window, QPoint()).y() for one in window.rail.buttons.values() if one.isVisible()]
    window.fold_strip()
    QApplication.processEvents()
    assert window.strip.is_open
    assert [one.mapTo(window, QPoint()).y() for one in window.rail.buttons.values() if one.isVisible()] == rail


def test_late_answers_move_nothing(window: MainWindow, qtbot: QtBot) -> None:
    for name in ("today", "cure", "cost"):
        window.session.edit(("batch", "shop_temperature_c"), 20.0 + len(name) / 7, "Warmth")  # asked anew
        window.open_named(name)
        for _ in range(3):
            QApplication.processEvents()
        before = places(window)
        settle(window, qtbot)
        after = places(window)
        assert {one: place for one, place in after.items() if before.get(one, place) != place} == {}, name


def test_the_bar_stays_as_it_was_folded_at_a_station(window: MainWindow, qtbot: QtBot) -> None:
    window.open_station(Station.FINISH)
    assert not window.strip.is_open
    qtbot.keyClick(window.strip, Qt.Key.Key_Space)
    assert window.strip.is_open
    window.open_station(Station.BORE)
    qtbot.mouseClick(window.strip, Qt.MouseButton.LeftButton, pos=QPoint(30, 20))
    assert not window.strip.is_open
    window.open_station(Station.FINISH)
    assert window.strip.is_open


def test_the_band_leads_on_takes_back_and_begins(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    begun: list[str] = []
    monkeypatch.setattr(opening, "at_the_bench", lambda _w, _s, operation, _scale: begun.append(operation.key))
    line = window.band.line
    window.session.edit(("pour", "resin"), None, "No resin")
    assert line.words.text() == "Next, at Pour: choose the resin"
    assert not line.bench.isVisible()
    line.words.click()
    assert window.station is Station.POUR
    assert line.undo.accessibleName() == "Undo: No resin"
    line.undo.click()
    assert window.session.job.pour.resin is not None
    assert line.words.text() == "Ready: weigh and mix"
    line.bench.click()
    assert begun == ["weigh.1"]


def test_a_finding_leads_to_its_page_and_shows_all_of_its_reason(window: MainWindow, qtbot: QtBot) -> None:
    window.open_station(Station.POUR)
    window.open_named("weigh")
    if window.findings.is_folded():
        window.findings.toggle()
    settle(window, qtbot)
    view = next(one for one in window.findings._views if "run too hot" in one._finding.title)
    assert view._because.text().endswith("…")
    parts = window.at(Station.POUR).cure._fields["parts_c"]
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton)
    assert window.place() == "cure"
    assert parts.isVisible(), "rare as it is: it would help"
    assert window.leading.ring.around is parts
    assert view._because.text() == view._finding.because
    settle(window, qtbot)
    assert view.mapTo(window.findings, view.rect().topRight()).x() <= window.findings.width(), "it is not cut off"
    window.open_station(Station.PEN)
    assert window.findings._views == []
    link = next(one for one in window.findings.findChildren(QPushButton) if one.text().startswith("Pour"))
    link.click()
    assert window.station is Station.POUR


def test_the_route_is_walked_from_its_page(window: MainWindow) -> None:
    window.open_named("route")
    page = window.at(Station.BATCH).route
    knots = page.work._knots
    assert [knot.key for knot in knots] == [one.key for one in window.session.plan.route.operations]  # type: ignore[union-attr]
    assert [knot.state for knot in knots] == ["next", *["open"] * (len(knots) - 1)]
    assert page.work.key() == "weigh.1"
    assert page.work.item(1).text() == knots[1].told, "it is read out whole"
    assert knots[1].wait in knots[1].told
    page.done.click()
    assert "weigh.1" in window.session.job.work.done()
    assert [knot.state for knot in page.work._knots[:3]] == ["done", "next", "open"]
    assert page.work.key() == "weigh.1", "what was in hand stays in hand"
    assert page.done.text() == "Not done after all"
    page.done.click()
    assert "weigh.1" not in window.session.job.work.done()
    when = datetime(2026, 12, 1, 18, 0)
    window.session.attempt("Done", partial(deeds.finish_task, task="weigh.1", when=when))
    assert page.work._knots[0].amount.startswith(write_moment(when))


def test_a_remedy_leaves_its_room_with_undo_and_rings_what_it_changed(window: MainWindow, qtbot: QtBot) -> None:
    window.open_named("cure")
    if window.findings.is_folded():
        window.findings.toggle()
    settle(window, qtbot)
    number, view = next(
        (number, one) for number, one in enumerate(window.findings._views) if "run too hot" in one._finding.title
    )
    after = window.findings._views[number + 1]
    top, title = after.mapTo(window, QPoint()).y(), after._finding.title
    qtbot.mouseClick(view._buttons[0], Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    parts = window.at(Station.POUR).cure._fields["parts_c"]
    assert parts.isVisible(), "it is rare, and in sight since it is set"
    assert window.leading.ring.around is parts
    assert window.findings._done is not None
    done = window.findings._done[1]
    following = window.findings._views[number]
    assert (following._finding.title, window.frame.focusWidget()) == (title, following)
    settle(window, qtbot)
    assert window.findings._views[number].mapTo(window, QPoint()).y() == top
    done.undo.click()
    assert window.session.job.pour.conditions.parts_c is None
    assert window.findings._done is None
    settle(window, qtbot)
    view = next(one for one in window.findings._views if "run too hot" in one._finding.title)
    view._buttons[0].click()
    assert window.findings._done is not None
    window.session.edit(("batch", "pens_wanted"), 7, "Pens")
    assert window.findings._done is None, "Undo would take the pens back"


def test_what_few_need_is_behind_more_until_it_is_used(window: MainWindow, qtbot: QtBot) -> None:
    window.open_named("holes")
    page = window.at(Station.BORE).holes
    lies, exit_mm = page._lies, page._fields["exit_mm"]
    assert not lies.isVisible()
    assert not exit_mm.isVisible()
    window.session.edit(("bore", "exit_mm"), 3.0, "Exit")
    assert exit_mm.isVisible()
    assert not lies.isVisible()
    qtbot.mouseClick(page.more, Qt.MouseButton.LeftButton)
    assert lies.isVisible()
    window.session.undo()
    assert exit_mm.isVisible(), "it stays open"
    qtbot.mouseClick(page.more, Qt.MouseButton.LeftButton)
    assert not exit_mm.isVisible()


def test_pages_of_what_a_job_has_not_are_behind_more(window: MainWindow) -> None:
    window.open_station(Station.FINISH)
    tabs = window.at(Station.FINISH).tabs
    words = [one.text() for one in tabs.findChildren(QPushButton) if one.isVisible()]
    assert words == ["True", "Size", "Sanding and coats", "Press", "What now", "More ›"]
    window.open_named("voids")
    assert window.place() == "voids"
    window.session.edit(("finish", "void", "count"), 3, "Voids")
    window.open_named("size")
    words = [one.text() for one in tabs.findChildren(QPushButton) if one.isVisible()]
    assert words == ["True", "Size", "Voids", "Sanding and coats", "Press", "What now", "More ›"]


def test_the_three_jobs_of_the_demo_ask_for_fewer_than_a_hundred_values(window: MainWindow) -> None:
    for entry in window.session.jobs():
        window.session.open_job(entry.id)
        count = 0
        for station in stations_of(window.session.plan):
            for page in row_of(station).pages or (row_of(station),):
                window.open_named(page.name)
                QApplication.processEvents()
                here = window.at(station)
                count += sum(one.isVisible() for kind in (QLineEdit, ChoiceButton) for one in here.findChildren(kind))
        assert 20 < count < 100, entry.name


def test_the_cards_of_a_job_are_offered_in_the_order_of_its_route(window: MainWindow) -> None:
    def offered(job: str) -> list[str]:
        window.session.open_job(next(entry.id for entry in window.session.jobs() if entry.name == job))
        return [card.kind for card in cards_of(window.session.plan)]

    assert offered("Tideline") == ["traveller", "pour", "cure", "bore", "strip", "finish", "week"]
    glued = offered("Ropewalk")
    assert glued[:2] == ["traveller", "cuts"]
    assert {"soak", "pour", "cure", "wrap"}.isdisjoint(glued)
    words = [command.words for command in window.menus.commands()]
    assert "Cut list as PDF…" in words
    assert not {"Pour card as PDF…", "Soak card as PDF…", "Print the cure card…"} & set(words), "what cannot be done"
    assert words.index("Cut list as PDF…") < words.index("Boring card as PDF…") < words.index("Report as PDF…")
