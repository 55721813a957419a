"""A maker who has just arrived: from nothing to a pour card, through the stations, and all is there next time."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from orvek.planning import Station, StationState
from orvek.window.main_window import MainWindow
from orvek.window.widgets.opening import Opening
from tests.window.conftest import Opener


def suggestion(window: MainWindow, station: Station, name: str) -> QPushButton:
    page = window.at("Pen") if station is Station.PEN else window.at("Pour")
    QApplication.processEvents()
    buttons = [
        button
        for opening in page.findChildren(Opening)
        if opening.isVisible()
        for button in opening.findChildren(QPushButton)
        if button.accessibleName() == name and not button.isHidden()
    ]
    assert len(buttons) == 1
    return buttons[0]


def click(qtbot: QtBot, button: QPushButton) -> None:
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)


def test_from_nothing_to_a_card_and_back(qtbot: QtBot, open_window: Opener, tmp_path: Path) -> None:
    window = open_window()
    session = window.session
    assert session.plan.findings[0].title == "Begin with the pen."
    click(qtbot, suggestion(window, Station.PEN, "Two barrels, narrow tubes"))
    assert session.job.pen is not None
    assert session.plan.findings[0].title != "Begin with the pen."
    window.open_station(Station.POUR)
    click(qtbot, suggestion(window, Station.POUR, "Tray of six bars"))
    click(qtbot, suggestion(window, Station.POUR, "Generic slow deep-pour epoxy"))
    click(qtbot, suggestion(window, Station.POUR, "Pearl blue"))
    assert session.plan.mixture is not None
    assert len(session.plan.mixture.cups) == 1
    window.at("Pour")._menus.add_colour(session.shop.pigments[0])
    assert [cup.share for cup in session.job.cast.cups] == [50, 50]
    assert not session.plan.has_stop
    assert session.plan.state(Station.POUR) is not StationState.EMPTY

    card = tmp_path / "card.pdf"
    window.cards.write("pour", card)
    assert card.read_bytes().startswith(b"%PDF")
    assert "Wrote" in window.notice.text()

    job = session.job
    window.frame.close()
    again = open_window()
    assert again.session.job == job
    assert again.session.workshop.history(job.batch.id).undo == "Add Pearl white"


def test_a_card_before_its_time_says_what_is_missing(open_window: Opener, tmp_path: Path) -> None:
    window = open_window()
    window.cards.write("pour", tmp_path / "card.pdf")
    assert window.notice.text() == "A pour card needs a mould first."
    assert not (tmp_path / "card.pdf").exists()
