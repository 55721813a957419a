"""When the workshop cannot be written: a sentence, and the maker's work stays until it can."""

from __future__ import annotations

import sqlite3

import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot
from sqlalchemy import event

from orvek.window.main_window import MainWindow
from tests.window.conftest import Opener


def limit_pages(window: MainWindow, pages: int | None = None) -> None:
    """No connection of this window makes the file larger than it is, or than so many pages."""
    engine = window.session.workshop._engine
    with engine.connect() as connection:
        most = pages or connection.exec_driver_sql("pragma page_count").scalar_one()

    def limited(own: sqlite3.Connection, *_: object) -> None:
        own.execute(f"pragma max_page_count = {most}")

    event.listen(engine, "checkout", limited)


def test_a_full_disk_keeps_the_work_in_the_window_until_there_is_room(qtbot: QtBot, open_window: Opener) -> None:
    window = open_window(demo=True)
    session = window.session
    limit_pages(window)
    for pens in range(6, 40):
        session.edit(("batch", "pens_wanted"), pens, f"Want {pens}")
    assert session.unsaved > 0
    assert session.job.batch.pens_wanted == 39
    assert "the disk is full" in window.keeping.text()
    waiting = session.unsaved
    session.undo()
    assert session.job.batch.pens_wanted == 38
    assert session.unsaved == waiting - 1
    limit_pages(window, 100000)
    qtbot.mouseClick(window.keeping.button, Qt.MouseButton.LeftButton)
    assert session.unsaved == 0
    assert window.keeping.text() == ""
    window.frame.close()
    assert open_window().session.job.batch.pens_wanted == 38


def test_closing_with_unkept_work_asks_first(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    window = open_window(demo=True)
    limit_pages(window)
    for pens in range(6, 500):  # until the file is full: how many go into it depends on what was free in it
        window.session.edit(("batch", "pens_wanted"), pens, f"Want {pens}")
        if window.session.unsaved:
            break
    asked: list[bool] = []
    monkeypatch.setattr(window, "_leave_unsaved", lambda: asked.append(True))
    assert not window.frame.close()
    assert asked == [True]
    assert window.isVisible()


def test_typing_is_kept_when_the_window_is_closed_on_it(qtbot: QtBot, open_window: Opener) -> None:
    window = open_window(demo=True)
    cell = window.at("Pen").table.cell(0, "tube_length_mm")
    cell.setFocus()
    cell.selectAll()
    qtbot.keyClicks(cell, "46")
    window.frame.close()
    pen = open_window().session.job.pen
    assert pen is not None
    assert pen.barrels[0].tube_length_mm == 46
