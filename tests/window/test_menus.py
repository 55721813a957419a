"""Menus: what can be chosen at each station, and that choosing does it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtWidgets import QDialog, QFileDialog, QMenu

from orvek.documents import Insert, Pigment
from orvek.planning import Station
from orvek.window.main_window import MainWindow
from orvek.window.stations.pen import station as pen_station
from orvek.window.stations.pour import menus as pour_menus
from orvek.window.stations.shelf.csv_preview import CsvPreview
from orvek.window.widgets import naming


def filled(fill: Callable[[QMenu], None]) -> QMenu:
    menu = QMenu()
    fill(menu)
    return menu


def choose(menu: QMenu, words: str) -> None:
    action = next(action for action in menu.actions() if action.text().startswith(words))
    action.trigger()


def test_moulds_resins_scales_and_habits(window: MainWindow) -> None:
    session, menus = window.session, window.at("Pour")._menus
    choose(filled(menus.fill_moulds), "Long tray")
    assert session.job.pour.mould == session.shop.moulds[1]
    choose(filled(menus.fill_resins), "Quay quick")
    assert session.job.pour.resin == session.shop.resins[1]
    assert session.plan.cautions[0].words.startswith("Isocyanate")
    choose(filled(menus.fill_scales), "Pocket scale")
    assert session.job.pour.scale.resolution_g == 0.01
    choose(filled(menus.fill_weighing), "running sum")
    assert session.job.pour.weighing == "cumulative"
    for _ in range(4):
        session.undo()
    assert session.job.pour.mould == session.shop.moulds[0]


def test_what_is_changed_on_a_sheet_is_kept_and_can_be_put_on_the_shelf(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, menus = window.session, window.at("Pour")._menus

    def answer(_parent: object, _title: str, document: Any, _units: object) -> Any:
        return {
            "BarMould": lambda: document.with_(name="Narrow tray", width_mm=18.0),
            "Resin": lambda: document.with_(name="Quay thin", ratio_b=0.5),
            "Scale": lambda: document.with_(resolution_g=0.5),
            "Insert": lambda: Insert(volume_ml=12),
        }[type(document).__name__]()

    monkeypatch.setattr(pour_menus, "edit_document", answer)
    choose(filled(menus.fill_moulds), "Change this mould")
    choose(filled(menus.fill_moulds), "Save this mould")
    assert session.shop.moulds[-1].name == "Narrow tray"
    choose(filled(menus.fill_resins), "Change this resin")
    choose(filled(menus.fill_resins), "Save this resin")
    assert session.workshop.shop().resins[0].name == "Quay thin"
    choose(filled(menus.fill_scales), "Change this scale")
    assert session.job.pour.scale.resolution_g == 0.5
    poured = session.plan.mixture.volume_ml.value  # type: ignore[union-attr]
    choose(filled(menus.fill_insert), "describe what lies")
    assert session.plan.mixture.volume_ml.value < poured  # type: ignore[union-attr]
    choose(filled(menus.fill_insert), "nothing lies")
    assert session.job.pour.insert is None


def test_a_cups_own_menu(window: MainWindow) -> None:
    window.open_station(Station.POUR)
    session = window.session
    row = window.at("Pour").weigh.table.row(1)
    menu = filled(row._fill_menu)
    choose(menu.actions()[0].menu(), "Herring flake")
    assert [dose.pigment.name for dose in session.job.cast.cups[1].pigments] == ["Foam pearl", "Herring flake"]
    menu = filled(window.at("Pour").weigh.table.row(1)._fill_menu)
    choose(menu.actions()[1].menu(), "a cup of 750 ml")
    assert session.job.cast.cups[1].vessel_ml == 750
    choose(filled(window.at("Pour").weigh.table.row(1)._fill_menu), "Remove Foam pearl")
    assert [dose.pigment.name for dose in session.job.cast.cups[1].pigments] == ["Herring flake"]
    choose(filled(window.at("Pour").weigh.table.row(1).doses[0]._fill_menu), "as a 5 % stock")
    assert session.job.cast.cups[1].pigments[0].stock_pct == 5
    choose(filled(window.at("Pour").weigh.table.row(1)._fill_menu), "Mix it in two cups")
    assert len(session.job.cast.cups) == 3
    choose(filled(window.at("Pour").weigh.table.row(2)._fill_menu), "Remove Foam 2")
    assert [cup.name for cup in session.job.cast.cups] == ["Slack water", "Foam"]


def test_colours_are_added_up_to_the_most_and_then_refused(window: MainWindow) -> None:
    window.open_station(Station.POUR)
    for _ in range(7):
        choose(filled(window.at("Pour")._menus.fill_colours), "Clear")
    assert len(window.session.job.cast.cups) == 8
    assert "at most 8" in window.notice.text()


def test_a_pen_is_kept_on_the_shelf_under_a_name(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    names = iter(["Spring ebb", None])
    monkeypatch.setattr(pen_station, "ask_name", lambda *_: next(names))
    window.session.edit(("pen", "barrels", 0, "tube_length_mm"), 49.0, "Tube length of Nib")
    choose(filled(window.at("Pen")._fill_menu), "Save this pen")
    assert window.session.shop.pens[-1].name == "Spring ebb"
    assert window.session.shop.pens[-1].barrels[0].tube_length_mm == 49
    choose(filled(window.at("Pen")._fill_menu), "Save this pen")
    assert len(window.session.shop.pens) == 3
    choose(filled(window.at("Pen")._fill_menu), "Mooring, one barrel")
    assert len(window.session.job.pen.barrels) == 1  # type: ignore[union-attr]
    choose(filled(window.at("Pen")._fill_menu), "Spring ebb")
    choose(filled(window.at("Pen")._fill_menu), "Remove barrel Cap")
    assert [b.name for b in window.session.job.pen.barrels] == ["Nib"]  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("typed", "agreed", "name"), [("  Neap  ", True, "Neap"), ("", True, None), ("x", False, None)]
)
def test_a_name_is_asked_for(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, typed: str, agreed: bool, name: str | None
) -> None:
    monkeypatch.setattr(naming.QInputDialog, "getText", lambda *_, **__: (typed, agreed))
    assert naming.ask_name(window, "Name") == name


def test_a_cup_is_coloured_and_renamed(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    from PySide6.QtGui import QColor

    from orvek.window.stations.pour import weighing_table

    window.open_station(Station.POUR)
    row = window.at("Pour").weigh.table.row(0)
    monkeypatch.setattr(weighing_table.QColorDialog, "getColor", lambda *_: QColor("#123456"))
    row.dot.click()
    assert window.session.job.cast.cups[0].colour == "#123456"
    row.name.setFocus()
    row.name.selectAll()
    qtbot.keyClicks(row.name, "Deep water")
    row.name.editingFinished.emit()
    assert window.session.job.cast.cups[0].name == "Deep water"
    assert isinstance(window.session.shop.pigments[0], Pigment)


def test_preferences_change_how_things_are_written(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    from orvek.window.widgets import document_sheet

    wanted = {"temperature": "°F", "currency": "£", "bit_names": True, "length": "inch decimal"}
    monkeypatch.setattr(document_sheet, "edit_document", lambda _p, _t, document, _u: document.with_(**wanted))
    window.menus.preferences()
    window.open_named("cure")
    assert window.at("Pour").cure._shop.line.text() == "70 °F"
    window.open_named("weigh")
    assert window.at("Pour").weigh._total.value.text().startswith("£")
    window.open_station(Station.PEN)
    assert window.at("Pen").table.cell(0, "tube_length_mm").text() == "1.870 in"


def test_a_table_is_shown_row_by_row_and_put_on_the_shelf(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / "scales.csv"
    file.write_text("name,resolution_g,capacity_g\nPocket scale,0.005,100\nNew one,0.2,2000\nBad,none,1\n")
    window.session.shelf_wanted.emit("scales")
    dialog = window.at("Shelf").shelves
    shown: list[list[str]] = []

    def look(preview: CsvPreview) -> int:
        shown.append([preview.list.item(n).text() for n in range(preview.list.count())])
        return int(QDialog.DialogCode.Accepted)

    monkeypatch.setattr(CsvPreview, "exec", look)
    dialog.import_table(file)
    assert shown[0][0] == "Row 2: Pocket scale, in place of the one there"
    assert shown[0][1] == "Row 3: New one, new"
    assert shown[0][2].startswith("Row 4: ")
    scales = {scale.name: scale.resolution_g for scale in window.session.shop.scales}
    assert (scales["Pocket scale"], scales["New one"]) == (0.005, 0.2)
    assert len(scales) == 3
    window.session.undo_shop()
    assert {scale.name for scale in window.session.shop.scales} == {"Bench scale", "Pocket scale"}
    out = tmp_path / "out.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    dialog._write_table()
    assert out.read_text().count("\n") == 3
    (tmp_path / "empty.csv").write_text("")
    dialog.import_table(tmp_path / "empty.csv")
    assert "The table" in dialog._sentence.text()
    window.session.change_shop("Empty", lambda shop: shop.with_(pots=()))
    window.session.shelf_wanted.emit("pots")
    assert not dialog._edit.isEnabled(), "there is nothing to change"
    window.session.undo_shop()
    window.session.shelf_wanted.emit("scales")
    dialog._items.setCurrentRow(0)
    window.session.shelf_wanted.emit("boards")
    before = window.session.shop.boards
    dialog._remove.click()
    assert window.session.shop.boards == before, "what was chosen on another shelf chooses nothing here"
    for shelf in ("boards", "machines", "pots"):
        window.session.shelf_wanted.emit(shelf)
        assert dialog._items.count() == len(getattr(window.session.shop, shelf)) > 0
        assert dialog._add.isEnabled()
