"""The station Bore, driven as a maker drives it: advice before, measurements after, the log, the tubes."""

from __future__ import annotations

from functools import partial
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from orvek.documents import Hole, PenPart, Press
from orvek.planning import Station
from orvek.window.main_window import MainWindow
from orvek.window.stations.bore import hole_page
from orvek.window.stations.pen import parts_dialog
from orvek.window.stations.pen import station as pen_station
from orvek.window.stations.pen.parts_dialog import PartsDialog
from orvek.window.stations.pen.shape_menu import ShapeMenu
from orvek.window.stations.shelf.shelf_rows import SHELVES
from tests.window.conftest import Opener


@pytest.fixture
def bore(window: MainWindow) -> Any:
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(Station.BORE)
    station = window.at("Bore")
    station.holes.choose(0)
    return station


def choose(fill: Any, words: str) -> None:
    menu = QMenu()
    fill(menu)
    next(action for action in menu.actions() if action.text().startswith(words)).trigger()


def type_into(field: Any, words: str, qtbot: QtBot) -> None:
    line = getattr(field, "line", field)
    line.setFocus()
    line.selectAll()
    qtbot.keyClicks(line, words)
    qtbot.keyClick(line, Qt.Key.Key_Return)


def titles(window: MainWindow) -> list[str]:
    return [finding.title for finding in window.session.plan.findings]


def test_what_is_measured_says_whether_to_go_on(bore: Any, window: MainWindow, qtbot: QtBot) -> None:
    page = bore.holes
    before = page.picture.grab().toImage()
    type_into(page._seen["left_x_mm"], "0.2", qtbot)
    type_into(page._seen["right_x_mm"], "0.8 mm", qtbot)
    assert "Nib: crooked but fine." in titles(window)
    assert page.picture.grab().toImage() != before, "the hole as it is lies in the picture"
    type_into(page._seen["right_x_mm"], "5", qtbot)
    assert "Nib: a flat stays." in titles(window)
    type_into(page._seen["right_x_mm"], "forty", qtbot)
    assert page._seen["right_x_mm"].sentence()
    assert window.session.job.bore.hole(0).right_x_mm == 5, "nonsense leaves what stands"
    window.session.undo()
    assert "Nib: crooked but fine." in titles(window)


def test_the_other_barrel_has_a_hole_of_its_own(bore: Any, window: MainWindow, qtbot: QtBot) -> None:
    page = bore.holes
    choose(page._fill_barrels, "Cap")
    assert "Cap" in page.picture.accessibleDescription()
    type_into(page._seen["measured_mm"], "9.6", qtbot)
    assert window.session.job.bore.hole(1).measured_mm == 9.6
    assert window.session.job.bore.hole(0).measured_mm is None
    choose(partial(page._fill_seen, "from_end", "Bored from"), "left")
    assert window.session.job.bore.hole(1).from_end == "left"
    choose(partial(page._fill_seen, "light", "Light test"), "much")
    assert "Cap: the tube will show." in titles(window)


def test_a_hole_is_added_to_the_log_and_learned_from(
    bore: Any, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = bore.holes
    type_into(page._seen["left_x_mm"], "1.8", qtbot)
    type_into(page._seen["right_x_mm"], "0", qtbot)
    monkeypatch.setattr(hole_page, "edit_document", lambda _parent, _title, document, _shop: document)
    before = page.hole().scatter_mm.value
    page._log.click()
    logged = window.session.shop.bored
    assert [(one.bit_mm, one.off_mm) for one in logged] == [(8.3, 1.8)], "bored from the right, it came out at the left"
    assert page.hole().scatter_mm.value > before
    window.session.undo_shop()
    assert page.hole().scatter_mm.value == before


def test_the_machine_is_described_once(bore: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    assert bore.holes._press.button.toolTip() == "not described"
    press = Press(name="Boathouse press", travel_mm=30)
    monkeypatch.setattr(hole_page, "edit_document", lambda *_: press)
    choose(bore.holes._fill_presses, "Describe")
    assert window.session.shop.presses[-1] == press
    assert "The quill is shorter than the hole." in titles(window)


def test_the_tubes_have_their_glue_and_their_steps(bore: Any, window: MainWindow) -> None:
    bore.open_page("tubes")
    choose(bore.tubes._fill_glues, "polyurethane")
    choose(bore.tubes._fill_plugged, "no")
    assert "The glue will foam into the tubes." in titles(window)
    choose(partial(bore.tubes._fill_squared, "squared"), "in a sanding jig")
    steps = bore.tubes._steps
    words = [item.widget().text() for n in range(steps.count()) if (item := steps.itemAt(n)).widget()]
    assert "sanding jig" in words[-1]
    assert any("Spread polyurethane" in line for line in words)


def test_the_pattern_is_shown_as_a_crooked_hole_makes_it(bore: Any, window: MainWindow, qtbot: QtBot) -> None:
    def pictures() -> list[Any]:
        return [image for _, image in bore.pattern.rows() if image is not None]

    bore.open_page("pattern")
    qtbot.waitUntil(lambda: len(pictures()) == 3)
    designed, typical, unlucky = pictures()
    assert designed != typical != unlucky
    words = [words for words, _ in bore.pattern.rows()]
    assert words[0] == "as designed"
    assert "0.41 mm off" in words[2]
    crooked = Hole(left_x_mm=2.0, right_x_mm=0.0)
    window.session.edit(("bore", "holes"), (crooked,), "Off centre")
    qtbot.waitUntil(lambda: len(pictures()) == 4)
    assert bore.pattern.rows()[3][0] == "as you measured it"
    assert pictures()[3] != designed


def test_a_barrel_is_given_a_shape(window: MainWindow) -> None:
    pen = window.at("Pen")
    menus = [ShapeMenu(pen, window.session, index) for index in range(2)]
    picture = pen.picture.grab().toImage()
    choose(menus[0].fill, "swelling")
    assert window.session.job.pen.barrels[0].widest_mm > 13
    assert pen.table._shapes[0].toolTip() == "swelling"
    assert pen.picture.grab().toImage() != picture
    menus[1].take("30 mm: 13.1; 10: 12.9 mm")
    assert [point.diameter_mm for point in window.session.job.pen.barrels[1].outline] == [12.9, 13.1]
    assert pen.table._shapes[1].toolTip() == "by points"
    for nonsense in ("somewhere", "80 mm: 12", "12: 200", "; ".join(f"{n}: 12" for n in range(1, 20))):
        before = window.session.job
        window.notice.say("")
        menus[1].take(nonsense)
        assert window.session.job == before
        assert window.notice.text(), nonsense
    menus[1].take("")
    assert pen.table._shapes[1].toolTip() == "straight"


def test_without_a_pen_the_way_leads_to_the_pen(open_window: Opener) -> None:
    window = open_window()
    window.open_station(Station.BORE)
    station = window.at("Bore")
    assert station._stack.currentWidget() is station._nothing


def test_bits_and_holes_stand_on_the_shelves(window: MainWindow) -> None:
    for shelf in ("presses", "rack", "bored", "recipes", "pens"):
        window.session.shelf_wanted.emit(shelf)
        assert window.at("Shelf").shelves._shelf() == shelf
        made = [words for words, _ in SHELVES[shelf].beginnings()]
        assert bool(made) == (shelf != "recipes"), shelf


def test_dragging_a_tube_moves_the_hole_with_it(bore: Any, window: MainWindow) -> None:
    window._move_tube(0, window.session.plan.layout.starts_mm[0] - 4)
    moved = bore.holes.hole()
    assert moved is not None
    window.session.finish("Slide a tube")
    assert "bore" not in window.session.plan.failed


def test_a_hole_follows_the_pattern_once_its_middle_was_measured(bore: Any, window: MainWindow, qtbot: QtBot) -> None:
    assert not bore.holes._pattern["pattern_left_x_mm"].isVisible()
    choose(partial(bore.holes._fill_choice, "centred"), "on the pattern")
    assert "Where is the middle of the pattern?" in titles(window)
    for number in range(2):
        bore.holes.choose(number)
        for name, text in (("pattern_left_x_mm", "0.8"), ("pattern_right_x_mm", "-0.4")):
            type_into(bore.holes._pattern[name], text, qtbot)
    assert "Where is the middle of the pattern?" not in titles(window)
    assert "left end 0.8 mm right" in bore.holes._centre.text()
    assert window.session.job.bore.holes[1].pattern_mm == ((0.8, 0.0), (-0.4, 0.0))


def test_a_tube_used_before_is_measured_in_the_table(bore: Any, window: MainWindow, qtbot: QtBot) -> None:
    bore.open_page("tubes")
    table = bore.tubes.table
    choose(partial(table._fill_kinds, 1), "reclaimed")
    assert "Cap: measure the old tube." in titles(window)
    assert "extraction" in bore.tubes._caution.text()
    type_into(table._sizes[1], "9.45", qtbot)
    assert "Cap: measure the old tube." not in titles(window)
    assert table._figures[1, "gap_mm"].text() == "0.05 mm"
    type_into(table._sizes[1], "nonsense", qtbot)
    assert window.session.job.bore.holes[1].tube_mm == 9.45


def test_light_is_seen_through_one_of_the_colours(bore: Any, window: MainWindow) -> None:
    assert not bore.holes._colour.isVisible()
    choose(partial(bore.holes._fill_seen, "light", "Light test"), "much")
    assert bore.holes._colour.isVisible()
    choose(bore.holes._fill_colour, "Foam")
    assert window.session.job.bore.holes[0].light_colour == "Foam"
    assert "Nib: the tube will show." in titles(window)
    assert "The tube may show at 2 of 4 ends." in titles(window)


def test_a_barrel_is_given_a_step_and_bushings_on_its_sheet(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[tuple[str, ...]] = []

    def edited(_parent: Any, _title: str, barrel: Any, _shop: Any, *, only: tuple[str, ...]) -> Any:
        asked.append(only)
        return barrel.with_(wide_bit_mm=9.6, wide_depth_mm=8, bushing_left_mm=11.0)

    monkeypatch.setattr(pen_station, "edit_document", edited)
    window.open_station(Station.PEN)
    table = window.at("Pen").table
    table._holes[0].click()
    assert "wide_bit_mm" in asked[0]
    assert "name" not in asked[0]
    assert table._holes[0].toolTip() == "a brass tube, stepped to 9.60 mm, own bushings"
    assert "The nib barrel is not turned down to its bushings." in titles(window)
    window.session.undo()
    assert table._holes[0].toolTip() == "a brass tube"


def test_parts_are_listed_moved_and_kept_in_their_order(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    names = iter(("Nib cone", "Twist mechanism", "Clip"))
    monkeypatch.setattr(parts_dialog, "edit_document", lambda *_: PenPart(name=next(names), into="Nib, left"))
    window.session.edit(("pen", "parts"), (), "No parts")
    dialog = PartsDialog(window, window.session)
    for _ in range(3):
        dialog._buttons["add"].click()
    assert [part.name for part in dialog.parts()] == ["Nib cone", "Twist mechanism", "Clip"]
    dialog._buttons["earlier"].click()
    assert dialog.list.item(1).text() == "2  Clip: pressed into Nib, left"
    dialog._buttons["earlier"].click()
    assert not dialog._buttons["earlier"].isEnabled()
    dialog._buttons["remove"].click()
    assert [part.name for part in window.session.job.pen.parts] == ["Nib cone", "Twist mechanism"]  # type: ignore[union-attr]
    for _ in range(6):
        window.session.undo()
    assert window.session.job.pen.parts == ()  # type: ignore[union-attr]
    dialog.close()


def test_a_barrel_is_laid_end_for_end_and_a_chip_shows_what_shortening_leaves(
    bore: Any, window: MainWindow, qtbot: QtBot
) -> None:
    laid = window.session.plan.layout
    choose(bore.holes._fill_lies, "to the right")
    turned = window.session.plan.layout
    assert laid is not None
    assert turned is not None
    assert turned.tubes[0].barrel.profile == tuple(
        (1 - at, size) for at, size in reversed(laid.tubes[0].barrel.profile)
    )
    assert window.session.job.pen.barrels[0].finished_left_mm == 11.4, "the pen stays as it is"  # type: ignore[union-attr]
    choose(bore.holes._fill_lies, "to the left")
    assert window.session.plan.layout == laid
    type_into(bore.holes._seen["chip_mm"], "4", qtbot)
    assert "Nib: a chip reaches past the trim." in titles(window)
    bore.open_page("pattern")
    qtbot.waitUntil(lambda: all(image is not None for _, image in bore.pattern.rows()))
    assert bore.pattern.rows()[-1][0].startswith("shortened at both ends")
    assert bore.pattern.rows()[-1][1] != bore.pattern.rows()[0][1]
