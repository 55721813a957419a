"""The station Soak as a maker drives it: a notebook pasted, a weight left out, resin, oven, colours, records."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from orvek.cards.every import CARDS
from orvek.documents import DyeStep, Known, Material, SolidStep, Weighing
from orvek.planning import Station
from orvek.window.main_window import MainWindow
from orvek.window.stations.soak import log_list
from orvek.window.stations.soak.paste_dialog import PasteDialog
from orvek.window.widgets.scale_dialog import ScaleDialog

NOTEBOOK = """when;grams
24.11.2026 18:30;202,5
24.11.2026 20:30;198,2
24.11.2026 22:30;194,8
25.11.2026 2:30;189,8
25.11.2026 7:00;186,4
25.11.2026 9:30;185,1
25.11.2026 14:30;183,3
25.11.2026 19:00;182,4
"""


@pytest.fixture
def soak(window: MainWindow) -> Any:
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(Station.SOAK)
    return window.at("Soak")


def titles(window: MainWindow) -> list[str]:
    return [finding.title for finding in window.session.plan.findings]


def choose(fields: Any, name: str, words: str) -> None:
    menu = QMenu()
    fields.fill(name, menu)
    next(action for action in menu.actions() if action.text() == words).trigger()


def type_into(field: Any, words: str, qtbot: QtBot) -> None:
    field.line.setFocus()
    field.line.selectAll()
    qtbot.keyClicks(field.line, words)
    qtbot.keyClick(field.line, Qt.Key.Key_Return)


def begin(soak: Any, route: str) -> None:
    """Press what the opening page offers."""
    rows = soak._nothing._list
    row = next(
        rows.itemAt(n).widget() for n in range(rows.count()) if rows.itemAt(n).widget().accessibleName() == route
    )
    row.click()


def pasted(monkeypatch: pytest.MonkeyPatch, text: str) -> None:
    """The maker pastes a text and presses Add."""

    def ask(parent: Any, begun: str) -> tuple[Weighing, ...]:
        dialog = PasteDialog(parent, begun)
        dialog.text.setPlainText(begun or text)
        assert dialog.add.isEnabled()
        return dialog.weighings()

    monkeypatch.setattr(log_list, "ask_weighings", ask)


def test_a_notebook_is_pasted_and_something_true_is_told(
    soak: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    begin(soak, "Dry it")
    pasted(monkeypatch, NOTEBOOK)
    page = soak.drying
    page.log.seldom["paste"].trigger()
    assert page.log.list.count() == 8
    assert page.answer.text().startswith("Dry at about 18")
    assert "Wednesday night, 25 November" in page.answer.text()
    before = page.picture.grab().toImage()
    page.log.seldom["paste"].trigger()
    assert page.log.list.count() == 8, "the same weights again are not added twice"
    page.log.list.setCurrentRow(7)
    page.log.seldom["out"].trigger()
    assert "left out" in page.log.list.item(7).text()
    assert page.picture.grab().toImage() != before
    assert page.log.seldom["out"].text() == "Use again"
    page.log.seldom["out"].trigger()
    page.log.seldom["remove"].trigger()
    assert page.log.list.count() == 7
    for _ in range(5):
        window.session.undo()
    assert window.session.job.soak.drying.log == ()
    assert window.session.job.soak.route == "nothing"


def test_it_begins_with_the_blanks_own_wood_and_sizes(soak: Any, window: MainWindow) -> None:
    window.session.edit(("blank", "steps"), (SolidStep(material="white-ash"),), "A bar of ash")
    begin(soak, "Dry it")
    wood = window.session.job.soak.wood
    assert (wood.count, wood.length_mm, wood.width_mm) == (6, 132, 20)
    assert soak.drying.species.button.toolTip() == "White ash"
    menu = QMenu()
    soak.drying._fill_species(menu)
    next(action for action in menu.actions() if action.text() == "Beech").trigger()
    assert window.session.job.blank.woods == ("beech",), "one decision: the blank is of it, too"
    window.session.undo()
    assert soak.drying.species.button.toolTip() == "White ash"


def test_the_makers_own_wood_is_carried_along(soak: Any, window: MainWindow) -> None:
    own = Material(key="own-drift", name="Drift", look="wood", colour="#998877", second="#665544",
                   density_g_ml=Known(value=0.37, standing="measured"))  # fmt: skip
    window.session.change_shop("Add Drift", lambda shop: shop.with_(materials=(own,)))
    begin(soak, "Dry it")
    menu = QMenu()
    soak.drying._fill_species(menu)
    next(action for action in menu.actions() if action.text() == "Drift").trigger()
    assert soak.drying.species.button.toolTip() == "Drift"
    assert soak.drying._figures[5].value.text() == "0.37 g/ml"
    assert window.session.job.blank.materials == (own,)


def test_a_file_of_weights_is_read_and_what_is_wrong_is_said(
    soak: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    begin(soak, "Stabilise it")
    file = tmp_path / "oven.csv"
    file.write_text(NOTEBOOK.replace("189,8", "1898"), encoding="utf-8")
    monkeypatch.setattr(log_list.QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    pasted(monkeypatch, "")
    soak.drying.log.seldom["file"].trigger()
    assert any("25 Nov 02:30 is far from all others" in one for one in titles(window))
    finding = next(one for one in window.session.plan.findings if "1898.0" in one.title)
    window.session.remedy(finding.remedies[0])
    assert window.session.job.soak.drying.log[3].is_left_out
    monkeypatch.setattr(log_list.QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "gone.csv"), ""))
    said: list[str] = []
    window.session.said.connect(said.append)
    soak.drying.log.seldom["file"].trigger()
    assert said
    assert said[0].startswith("gone.csv cannot be read")


def test_the_paste_dialog_says_of_every_line_what_it_is(qtbot: QtBot) -> None:
    dialog = PasteDialog(None, "")
    qtbot.addWidget(dialog)
    assert not dialog.add.isEnabled()
    dialog.text.setPlainText("24.11. 18:30  40\nyesterday 39\n")
    assert dialog.add.isEnabled()
    assert [dialog.lines.item(n).text()[:5] for n in range(2)] == ["1   T", "2   “"]
    dialog.text.setPlainText("nothing")
    assert not dialog.add.isEnabled()
    assert dialog._told.text()


def test_a_weight_is_added_by_hand(soak: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    begin(soak, "Dry it")
    monkeypatch.setattr(log_list, "edit_document", lambda _p, _t, line, _s: line.with_(mass_g=41.5))
    soak.drying.log.buttons["weigh"].click()
    (line,) = window.session.job.soak.drying.log
    assert line.mass_g == 41.5
    assert abs((datetime.now() - line.when).total_seconds()) < 3600 * 24
    soak.drying.log.seldom["change"].trigger()
    assert len(window.session.job.soak.drying.log) == 1


def test_chamber_oven_and_uptake(soak: Any, window: MainWindow, qtbot: QtBot) -> None:
    begin(soak, "Stabilise it")
    soak.open_page("resin")
    page = soak.resin
    choose(page.bath, "chamber", "plain glass")
    assert "Never pull a vacuum on plain glass." in titles(window)
    choose(page.bath, "chamber", "steel")
    soak.open_page("drying")
    type_into(soak.drying.wood["dry_g"], "38", qtbot)
    soak.open_page("resin")
    type_into(page.bath["after_g"], "72", qtbot)
    assert page._figures["taken_pct"].value.text().endswith("%")
    assert any(one.startswith("They took up") for one in titles(window))
    choose(page.heat, "has_fan", "yes")
    assert window.session.job.soak.heat.has_fan
    type_into(page.heat["core_min"], "52", qtbot)
    assert page._clock.value.text() == "1 h 37 min"
    assert page.records.isEnabled()
    page.records.click()
    assert [one.seen for one in window.session.shop.soaked] == ["uptake, % of the possible", "core, min"]
    assert not page.records.isEnabled()
    type_into(page.bath["chamber_mm"], "wide", qtbot)
    assert page.bath["chamber_mm"].sentence()
    assert window.session.job.soak.bath.chamber_mm == 100


def test_a_colour_is_added_and_what_was_seen_decides(soak: Any, window: MainWindow, qtbot: QtBot) -> None:
    begin(soak, "Dye it")
    soak.open_page("dyes")
    (column,) = soak.dyes.columns
    assert isinstance(window.session.job.blank.steps[1], DyeStep)
    assert "Colour 1 may be removed in turning." in titles(window)
    choose(column.fields, "carrier", "alcohol")
    assert "Alcohol dye bleeds." in titles(window)
    type_into(column.fields["seen_mm"], "0.9", qtbot)
    assert "Colour 1 is removed in turning." in titles(window)
    soak.dyes.add.click()
    assert len(soak.dyes.columns) == 2
    assert soak.dyes.picture.accessibleDescription().startswith("colour 1: 0.9 mm deep; colour 2")
    soak.dyes.records.click()
    (seen,) = window.session.shop.soaked
    assert (seen.carrier, seen.value) == ("alcohol", 0.9)


def test_the_soak_card_has_the_treatment_and_room_for_what_is_seen(soak: Any, window: MainWindow) -> None:
    import io

    from pypdf import PdfReader

    begin(soak, "Stabilise it")
    pdf = CARDS["soak"](window.session.plan, window.session.shop, datetime(2026, 11, 26).date())
    words = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)
    for told in ("Soak card", "In this order", "Weights on top", "when, and what was seen", "can implode"):
        assert told in words


def test_a_weight_comes_from_the_scale(soak: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    begin(soak, "Dry it")

    def agree(dialog: ScaleDialog) -> int:
        panel = dialog.panel
        panel.line.setText("no number")
        panel.line.editingFinished.emit()
        assert "{weight}" in panel.sentence
        panel.line.setText("")
        panel.speed.setCurrentText("4800")
        panel.put_at("/dev/no-such-scale")
        assert panel.sentence.startswith("No scale answers")
        assert not dialog.take.isEnabled()
        panel.put_at("simulated")
        panel.ask()
        assert not dialog.take.isEnabled(), "it still moves"
        for _ in range(5):
            panel.ask()
        assert dialog.take.isEnabled()
        return int(dialog.DialogCode.Accepted)

    monkeypatch.setattr(ScaleDialog, "exec", agree)
    soak.drying.log.seldom["scale"].trigger()
    (line,) = window.session.job.soak.drying.log
    assert line.mass_g == 42.5
    assert window.session.job.pour.scale.plugged_in_at == "simulated"
    assert window.session.job.pour.scale.baud == "4800"
    assert any(scale.plugged_in_at == "simulated" for scale in window.session.shop.scales)
