"""What hands do in the window: type, drag, nudge, click remedies, undo; nonsense costs nothing."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from orvek.planning import Station
from orvek.store.demo import second_demo_job, third_demo_job
from orvek.window import job_files
from orvek.window.command_palette import CommandPalette
from orvek.window.main_window import MainWindow
from orvek.window.widgets.document_sheet import DocumentSheet
from orvek.window.widgets.fields import FigureValue, QuantityEdit
from orvek.window.widgets.working_popup import WorkingPopup
from tests.window.conftest import Opener
from tests.window.hands import drag


def type_into(qtbot: QtBot, edit: QuantityEdit, text: str) -> None:
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClicks(edit, text)
    qtbot.keyClick(edit, Qt.Key.Key_Return)


@pytest.mark.parametrize(
    ("text", "value"), [("1 7/8", 47.625), ("48,2", 48.2), ("4.9 cm", 49.0), ('2"', 50.8), ("45", 45.0)]
)
def test_a_typed_length_is_understood(qtbot: QtBot, window: MainWindow, text: str, value: float) -> None:
    type_into(qtbot, window.at("Pen").table.cell(0, "tube_length_mm"), text)
    assert window.session.job.pen is not None
    assert window.session.job.pen.barrels[0].tube_length_mm == pytest.approx(value)
    assert window.at("Pen").table.sentence() == ""


@pytest.mark.parametrize("text", ["long", "-5", "0", "9 kg", "1/0", "1e9", "9999", ""])
def test_nonsense_gets_a_sentence_and_the_old_value_stays(qtbot: QtBot, window: MainWindow, text: str) -> None:
    cell, job = window.at("Pen").table.cell(0, "tube_length_mm"), window.session.job
    cell.setFocus()
    cell.selectAll()
    qtbot.keyClick(cell, Qt.Key.Key_Delete)
    qtbot.keyClicks(cell, text)
    qtbot.keyClick(cell, Qt.Key.Key_Return)
    assert window.session.job == job
    assert cell.text() == text, "it stays to be put right"
    assert window.at("Pen").table.sentence().endswith("47.5 mm counts.")
    window.session.edit(("batch", "pens_wanted"), 7, "Pens")
    assert cell.text() == text
    qtbot.keyClick(cell, Qt.Key.Key_Escape)
    assert cell.text() == "47.5 mm"
    assert window.at("Pen").table.sentence() == ""


def test_the_first_click_takes_the_whole_value_the_next_a_place_in_it(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.PEN)
    cell = window.at("Pen").table.cell(0, "tube_length_mm")
    window.setFocus()
    qtbot.mouseClick(cell, Qt.MouseButton.LeftButton)
    assert cell.selectedText() == "47.5 mm"
    qtbot.mouseClick(cell, Qt.MouseButton.LeftButton)
    assert cell.selectedText() == ""


def test_escape_gives_the_old_value_back(qtbot: QtBot, window: MainWindow) -> None:
    cell = window.at("Pen").table.cell(0, "tube_length_mm")
    cell.setFocus()
    cell.selectAll()
    qtbot.keyClicks(cell, "99")
    qtbot.keyClick(cell, Qt.Key.Key_Escape)
    assert cell.text() == "47.5 mm"
    assert window.session.workshop.history(window.session.job.batch.id).undo is None


def test_a_bit_is_typed_by_its_letter(qtbot: QtBot, window: MainWindow) -> None:
    type_into(qtbot, window.at("Pen").table.cell(0, "bit_diameter_mm"), "letter P")
    assert window.session.job.pen is not None
    assert window.session.job.pen.barrels[0].bit_diameter_mm == pytest.approx(8.204, abs=0.001)


def test_a_tube_is_dragged_and_the_drag_is_one_undo(window: MainWindow) -> None:
    window.open_station(Station.BLANK)
    strip, session = window.strip, window.session
    before = session.job
    centre = strip.tube_rect(1).center()
    drag(strip, centre, centre + QPointF(8, 0), centre + QPointF(21, 3), centre + QPointF(32, 0))
    moved = session.job.blank.tube_starts_mm
    assert moved[0] == pytest.approx(18.35)
    assert moved[1] == pytest.approx(70.45 + 32 / (strip.bar_rect().width() / 132), abs=0.1)
    assert session.workshop.history(session.job.batch.id).undo == "Slide Cap"
    session.undo()
    assert session.job == before
    session.redo()
    assert session.job.blank.tube_starts_mm == moved


def test_a_tube_is_nudged_with_the_arrows_and_kept_on_the_bar(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.BLANK)
    strip, session = window.strip, window.session
    strip.setFocus(Qt.FocusReason.TabFocusReason)
    qtbot.keyClick(strip, Qt.Key.Key_Right)
    assert session.job.blank.tube_starts_mm == pytest.approx((18.45, 70.45))
    qtbot.keyClick(strip, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert session.job.blank.tube_starts_mm == pytest.approx((17.45, 70.45))
    left = strip.tube_rect(0).center()
    drag(strip, left, left - QPointF(600, 0))
    assert session.job.blank.tube_starts_mm[0] == 0.0
    assert any("lost end" in finding.title for finding in session.plan.findings)


def test_a_boundary_between_cups_is_dragged(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.POUR)
    cups, session = window.at("Pour").weigh.cups, window.session
    start = cups.boundary(0)
    drag(cups, start, start - QPointF(30, 0), start - QPointF(60, 0))
    shares = [cup.share for cup in session.job.cast.cups]
    assert sum(shares) == pytest.approx(100)
    assert shares[0] < 60
    assert session.workshop.history(session.job.batch.id).undo == "Share out the resin"
    cups.setFocus()
    qtbot.keyClick(cups, Qt.Key.Key_Right)
    assert session.job.cast.cups[0].share == pytest.approx(shares[0] + 1)
    assert window.at("Pour").weigh.table.row(0).part_a.text().endswith(" g")


def test_an_end_is_dragged_on_the_picture(window: MainWindow) -> None:
    picture, session = window.at("Pen").picture, window.session
    handle = picture.handles()[0]
    drag(picture, handle.point, handle.point - QPointF(0, 4), handle.point - QPointF(0, 9))
    assert session.job.pen is not None
    assert session.job.pen.barrels[0].finished_left_mm > 12
    session.undo()
    assert session.job.pen.barrels[0].finished_left_mm == 11.4


def test_a_remedy_does_what_it_says(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.POUR)
    button = next(b for b in window.findings.findChildren(QPushButton) if b.text() == "Weigh 2.4 g of a 20 % stock")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert window.session.job.cast.cups[0].pigments[1].stock_pct == 20
    assert not any("too little to weigh" in f.title for f in window.session.plan.findings)
    assert window.at("Pour").weigh.table.row(0).doses[1].mass.text() == "2.4 g"
    window.session.undo()
    assert window.session.job.cast.cups[0].pigments[1].stock_pct is None


def test_shares_that_do_not_add_up_are_scaled_and_said(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.POUR)
    type_into(qtbot, window.at("Pour").weigh.table.row(0).share, "100")
    assert any(f.title == "The shares make 136 %." for f in window.session.plan.findings)
    assert window.session.plan.mixture is not None
    assert sum(c.share_pct.value for c in window.session.plan.mixture.cups) == pytest.approx(100)


def test_a_figure_shows_its_working(qtbot: QtBot, window: MainWindow) -> None:
    window.open_station(Station.POUR)
    value = window.at("Pour").weigh.table.row(0).part_b
    value.setFocus()
    qtbot.keyClick(value, Qt.Key.Key_Return)
    popup = next(w for w in QApplication.topLevelWidgets() if isinstance(w, WorkingPopup) and w.isVisible())
    words = popup.words()
    assert "B = A · r" in words
    assert "0.4375" in words
    popup.close()


def test_every_figure_on_the_screen_is_computed(window: MainWindow) -> None:
    for station in (Station.PEN, Station.BLANK, Station.POUR):
        window.open_station(station)
        shown = [value for value in window.findChildren(FigureValue) if value.isVisible()]
        assert len(shown) >= 2
        assert all(value.figure() is not None for value in shown)


def test_units_are_switched_and_switched_back(window: MainWindow) -> None:
    window.menus._switch_units()
    assert window.at("Pen").table.cell(0, "tube_length_mm").text() == "1 7/8 in"
    assert window.session.workshop.shop().preferences.length == "inch fraction"
    job = window.session.job
    window.menus._switch_units()
    assert window.at("Pen").table.cell(0, "tube_length_mm").text() == "47.5 mm"
    assert window.session.job == job


def test_looking_at_a_field_in_inches_does_not_change_it(qtbot: QtBot, window: MainWindow) -> None:
    window.menus._switch_units()
    cell = window.at("Pen").table.cell(0, "tube_length_mm")
    cell.setFocus()
    qtbot.keyClick(cell, Qt.Key.Key_Return)
    assert window.session.job.pen is not None
    assert window.session.job.pen.barrels[0].tube_length_mm == 47.5


def test_a_deed_is_found_by_a_few_letters(qtbot: QtBot, window: MainWindow) -> None:
    palette = CommandPalette(window, window.menus.commands())
    qtbot.addWidget(palette)
    qtbot.keyClicks(palette._line, "go po")
    assert [name.split("    ")[0] for name in palette.names()][:1] == ["Go to Pour"]
    qtbot.keyClick(palette._line, Qt.Key.Key_Return)
    assert window.station is Station.POUR


def test_a_sheet_is_made_from_the_document_and_refuses_nonsense(qtbot: QtBot, window: MainWindow) -> None:
    resin = window.session.shop.resins[0]
    sheet = DocumentSheet(window, "This resin", resin, window.session.units, window.session.shop)
    qtbot.addWidget(sheet)
    density = sheet.findChild(QuantityEdit, "density_a")
    ratio = sheet.findChild(QuantityEdit, "ratio_b")
    type_into(qtbot, ratio, "0")
    assert "must be from" in sheet.sentence()
    type_into(qtbot, density, "heavy")
    assert "density" in sheet.sentence()
    type_into(qtbot, density, "1.14")
    sheet._keep()
    assert sheet.result_document is None
    assert "must be from" in sheet.sentence()
    qtbot.keyClick(ratio, Qt.Key.Key_Escape)
    sheet._keep()
    assert sheet.result_document is not None
    assert sheet.result_document.density_a.value == 1.14  # type: ignore[attr-defined]
    assert sheet.result_document.ratio_b == resin.ratio_b  # type: ignore[attr-defined]


def test_shelves_list_what_the_maker_owns(window: MainWindow) -> None:
    window.session.shelf_wanted.emit("pigments")
    shelves = window.at("Shelf").shelves
    assert shelves.isVisible()
    count = shelves._items.count()
    assert count == len(window.session.shop.pigments)
    shelves._items.setCurrentRow(0)
    shelves._take_off()
    assert len(window.session.workshop.shop().pigments) == count - 1
    shelves._vessels.setText("80 ml, lots")
    shelves._set_vessels()
    assert "Mixing cups are volumes" in shelves._sentence.text()


def test_jobs_are_begun_copied_switched_and_removed(window: MainWindow) -> None:
    session = window.session
    first = session.job.batch.id
    session.copy_job()
    assert session.job.batch.name == "Tideline, again"
    session.edit(("batch", "pens_wanted"), 9, "Good pens wanted")
    copy = session.job.batch.id
    session.open_job(first)
    assert session.job.batch.pens_wanted == 5
    session.open_job(copy)
    assert session.job.batch.pens_wanted == 9
    session.remove_job()
    assert session.job.batch.id == first
    assert {entry.id for entry in session.jobs()} == {first, second_demo_job().batch.id, third_demo_job().batch.id}


@pytest.mark.parametrize("chosen", [0, 1, None])
def test_a_job_goes_out_and_comes_in(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, chosen: int | None
) -> None:
    """Its file never takes the place of a job that is here unasked; what differs is said."""
    session, path, asked = window.session, tmp_path / "out.orvek.json", list[str]()

    def answer(_parent: object, _title: str, words: str, *_: object) -> int | None:
        asked.append(words)
        return chosen

    monkeypatch.setattr(job_files, "ask", answer)
    session.give_out(path)
    mine, count = session.job, len(session.jobs())
    window.menus.take_in(path)
    assert (asked, session.job) == ([], mine), "the same: nothing to ask"
    session.edit(("batch", "pens_wanted"), 12, "Good pens wanted")
    session.edit(("finish", "wet"), "wet throughout", "Sanded")
    window.menus.take_in(path)
    assert "name and numbers and finish" in asked[0]
    assert session.job.batch.pens_wanted == (12 if chosen is None else 5)
    assert len(session.jobs()) == count + (chosen == 1)
    if chosen == 0:
        session.undo()
        assert session.job.batch.pens_wanted == 12
    elif chosen == 1:
        assert session.job.batch.name == f"{mine.batch.name} 2", "two of one name are told apart"
        assert session.job_of(mine.batch.id) != session.job


@pytest.mark.parametrize("content", ["", "{", '{"format": "tune"}', '{"format": "orvek-job", "version": 7}'])
def test_a_bad_file_changes_nothing_and_is_said(window: MainWindow, tmp_path: Path, content: str) -> None:
    path, job = tmp_path / "bad.orvek.json", window.session.job
    path.write_text(content)
    window.menus.take_in(path)
    assert window.session.job == job
    assert "bad.orvek.json" in window.notice.text()


def test_a_second_window_looks_and_follows(open_window: Opener, qtbot: QtBot) -> None:
    first = open_window(demo=True)
    second = open_window()
    assert "open in another window" in second.keeping.text()
    job = second.session.job
    second.session.edit(("batch", "pens_wanted"), 40, "No")
    assert second.session.job == job
    first.session.edit(("batch", "pens_wanted"), 8, "Good pens wanted")
    qtbot.waitUntil(lambda: second.session.job.batch.pens_wanted == 8)
