"""The station Finish as a maker drives it: sizes typed and answered, a school chosen, grits, the order of the press."""

from __future__ import annotations

import io
from datetime import date
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from orvek.cards.every import CARDS
from orvek.documents import ANGLES, JOB, EndWork, Holding, WrapStep, path_to
from orvek.planning import Severity, Station
from orvek.planning.finish.edges import renewed_at, tool_of
from orvek.planning.finish.press import FIRST_PART, press_lines
from orvek.planning.threads import ANYWHERE
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.main_window import MainWindow
from orvek.window.stations.finish import sanding_page, true_page, wrap_page
from orvek.window.stations.finish.station import FinishStation
from orvek.window.stuff_choice import fill_stuffs
from orvek.window.widgets.fields import FigureLine
from orvek.window.widgets.layouts import widgets_in


@pytest.fixture
def finish(window: MainWindow) -> Any:
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(Station.FINISH)
    return window.at("Finish")


def titles(window: MainWindow) -> list[str]:
    return [finding.title for finding in window.session.plan.findings]


def pdf_words(window: MainWindow) -> str:
    pdf = CARDS["finish"](window.session.plan, window.session.shop, date(2026, 11, 26))
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def type_into(line: Any, words: str, qtbot: QtBot) -> None:
    line.setFocus()
    line.selectAll()
    qtbot.keyClicks(line, words)
    qtbot.keyClick(line, Qt.Key.Key_Return)


def test_calipers_are_answered_at_once(finish: Any, window: MainWindow, qtbot: QtBot) -> None:
    page = finish.sizes
    type_into(page.table.cells[0, "now_left_mm"], "11.88", qtbot)
    assert "Nib: 0.25 mm more at the left." in page.answer.text()
    type_into(page.table.cells[0, "part_left_mm"], "11.3", qtbot)
    assert "0.35 mm more" in f"{page.answer.text()} {page.others.text()}"
    type_into(page.table.cells[1, "now_middle_mm"], "11", qtbot)
    assert "Cap: too much is gone." in titles(window)
    type_into(page.table.cells[1, "now_middle_mm"], "much", qtbot)
    assert window.session.job.finish.of(1).now_middle_mm == 11
    for _ in range(3):
        window.session.undo()
    assert window.session.job.finish.sized == ()


def test_a_school_and_grits_are_chosen(finish: Any, window: MainWindow) -> None:
    finish.open_page("sanding")
    page = finish.sanding
    before = page.picture.grab().toImage()

    def choose(fill: Any, *words: str) -> None:
        whole = menu = QMenu()
        fill(whole)
        for word in words[:-1]:
            menu = next(inner for inner in whole.findChildren(QMenu) if inner.title() == word)
        next(action for action in menu.actions() if action.text() == words[-1]).trigger()

    choose(page._fill_schools, "many thin coats")
    assert (window.session.job.finish.thin, window.session.job.finish.medium) == (12, 0)
    choose(partial(page._fill_grits, "bare_from"), "Paper", "P240")
    assert window.session.plan.finish.bare[0].abrasive.name == "P240"  # type: ignore[union-attr]
    assert page.picture.grab().toImage() != before
    choose(page._fill_schools, "abrasives and polish only")
    assert not page._figures["through_ends_pct"].isVisible()


def test_the_card_has_sizes_grits_and_parts(finish: Any, window: MainWindow) -> None:
    finish.open_page("press")
    words = pdf_words(window)
    for told in ("Stop the tool at", "11.63 mm", "P280", "Pad 12000", "Press", "Start each by hand", "Face shield"):
        assert told in words


def test_the_pen_comes_together_part_by_part(finish: Any, window: MainWindow) -> None:
    finish.open_page("press")
    page, pen = finish.press, window.session.job.pen
    assert pen is not None
    names = [knot.words for knot in page.steps._knots]
    assert names[FIRST_PART - 1 :][: len(pen.parts)] == [part.name for part in pen.parts]
    deep = next(knot for knot in page.steps._knots if knot.words == "Twist mechanism")
    assert deep.amount == "22.0 mm to 23.5 mm"
    seen = set()
    for row in range(page.steps.count()):
        page.steps.setCurrentRow(row)
        assert page._step.text() == press_lines(pen, window.session.units)[row]
        seen.add(bytes(page.picture.grab().toImage().constBits()))
    assert len(seen) >= sum(part.barrel_no is not None for part in pen.parts) + 1, "each part changes what is seen"


def test_a_fault_is_dragged_decided_and_undone(finish: Any, window: MainWindow, qtbot: QtBot) -> None:
    finish.open_page("what-now")
    page, session = finish.what_now, window.session
    assert page._nothing.isVisible()
    page.add.click()
    assert "Choose a repair." in "\n".join(titles(window))
    area = page.picture._rolled()
    qtbot.mousePress(page.picture, Qt.MouseButton.LeftButton, pos=page.picture.flaw_at().toPoint())
    qtbot.mouseMove(page.picture, area.center().toPoint())
    assert session.is_previewing
    qtbot.mouseRelease(page.picture, Qt.MouseButton.LeftButton, pos=area.center().toPoint())
    fault = session.job.faults.found[0]
    assert fault.at_mm == pytest.approx(session.job.laid[0].tube_length_mm / 2, abs=0.5)
    assert fault.azimuth_deg == pytest.approx(180, abs=4)
    qtbot.waitUntil(lambda: any(image is not None for _, image in page.picture._looks))
    type_into(page.fields["deep_mm"].line, "0.4", qtbot)
    filling = next(button for button in page.ways.buttons() if button.way.key == "fill")
    filling.click()
    assert page._title.text() == "Fill it"
    page.who.setText("Ines")
    page.decide.click()
    assert (session.job.faults.found[0].way, session.job.faults.found[0].decided_by) == ("fill", "Ines")
    assert "Which way out?" not in "\n".join(titles(window))
    assert "Decided by Ines." in pdf_words(window)
    page.decide.click()
    assert session.job.faults.found[0].way == ""
    for _ in range(5):
        session.undo()
    assert session.job.faults.found == ()
    assert page._nothing.isVisible()


def test_the_clip_is_turned_by_hand_and_the_pattern_carried_over(finish: Any, window: MainWindow, qtbot: QtBot) -> None:
    finish.open_page("press")
    page, session = finish.press, window.session
    qtbot.mousePress(page.dial, Qt.MouseButton.LeftButton, pos=page.dial.point_at(0).toPoint())
    qtbot.mouseMove(page.dial, page.dial.point_at(90).toPoint())
    assert session.is_previewing
    qtbot.mouseRelease(page.dial, Qt.MouseButton.LeftButton, pos=page.dial.point_at(90).toPoint())
    assert session.job.finish.clip_deg == pytest.approx(90, abs=2)
    qtbot.keyClick(page.dial, Qt.Key.Key_Right)
    assert session.job.finish.clip_deg == pytest.approx(95, abs=2)
    type_into(page.clip["best_deg"].line, "200", qtbot)
    menu = QMenu()
    page._fill_places(menu)
    assert [action.isEnabled() for action in menu.actions()] == [False, True, True, True]
    menu.actions()[1].trigger()
    assert "The clip hides the best side." in titles(window)
    type_into(page.deep["in_mm"].line, "25", qtbot)
    assert "Twist mechanism: pressed too deep." in titles(window)
    page.carry.click()
    assert len(session.job.blank.tube_turns_deg) == len(session.job.laid)
    session.undo()
    assert session.job.blank.tube_turns_deg == ()


def test_voids_are_counted_filled_and_stand_on_the_card(finish: Any, window: MainWindow, qtbot: QtBot) -> None:
    finish.open_page("voids")
    page = finish.voids
    empty = page.picture.grab().toImage()
    type_into(page.fields["count"].line, "6", qtbot)
    assert page.picture.grab().toImage() != empty
    menu = QMenu()
    page._fill_fills(menu)
    next(action for action in menu.actions() if action.text() == "crushed stone").trigger()
    assert "6 voids:" in pdf_words(window)
    assert "crushed stone" in pdf_words(window)
    assert "lungs" in page._caution.text()


def test_a_picture_is_chosen_dragged_and_printed(
    finish: Any, window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    finish.open_page("wrap")
    page, session = finish.wrap, window.session
    assert page._nothing.isVisible()
    session.edit(("blank", "steps"), (WrapStep(core_mm=9, pitch_mm=80, around=1),), "A printed sheet")
    (tmp_path / "none.png").write_bytes(b"banana")
    said: list[str] = []
    monkeypatch.setattr(wrap_page, "tell", lambda _parent, _title, words: said.append(words))
    page.take_picture(tmp_path / "none.png")
    assert "not a picture" in said[0]
    Image.effect_noise((900, 300), 80).convert("RGB").save(tmp_path / "tide.png")
    page.take_picture(tmp_path / "tide.png")
    area = page.picture._area().center().toPoint()
    qtbot.mousePress(page.picture, Qt.MouseButton.LeftButton, pos=area)
    qtbot.mouseMove(page.picture, area + QPoint(60, 10))
    assert session.is_previewing
    qtbot.mouseRelease(page.picture, Qt.MouseButton.LeftButton, pos=area + QPoint(60, 10))
    assert session.job.blank.steps[0].shift_mm > 1
    assert session.job.blank.steps[0].seam_deg > 1
    page.shape.click()
    assert session.job.blank.steps[0].pitch_mm == pytest.approx(3.14159 * 9.1 * 3, abs=0.06)
    session.edit(("finish", "clip_deg"), 75.0, "Clip")
    page.clip.click()
    assert session.job.blank.steps[0].seam_deg == 75
    page.write_sheet(tmp_path / "sheet.pdf")
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")
    qtbot.waitUntil(lambda: page.turned.image() is not None)
    job_id = session.job.batch.id
    assert session.workshop.job(job_id) == session.job


def test_a_way_to_coat_and_a_ladder_are_kept_by_name(
    finish: Any, window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    finish.open_page("sanding")
    page, session = finish.sanding, window.session
    monkeypatch.setattr(sanding_page, "edit_document", lambda _parent, _title, begin, _shop: begin)
    for fill, words in ((page._fill_schools, "Save these coats"), (page._fill_ladders, "Save this ladder")):
        menu = QMenu()
        fill(menu)
        next(action for action in menu.actions() if action.text().startswith(words)).trigger()
    assert session.shop.schools[0].name == session.job.finish.school == "My abrasives and polish only"
    assert session.shop.ladders[0].bare_from == session.job.finish.bare_from
    menu = QMenu()
    page._fill_bottles(menu)
    menu.actions()[-1].trigger()
    assert session.job.finish.bottle == session.shop.bottles[0].name


def test_a_barrel_is_read_round_and_the_fault_is_named(
    finish: Any, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Sixteen cells by the keyboard, nonsense refused, a question answered, read anew, undone."""
    finish.open_page("true")
    page = finish.true
    assert page.answer.text().startswith("Not read yet")
    assert page.table.isHidden(), "without a dial there is nothing to type"
    page.type_in.click()
    readings = {"left": (0, 0, 0, 0), "right": (0.14, 0, -0.14, 0)}
    for which, values in readings.items():
        for angle, value in zip(ANGLES, values, strict=True):
            type_into(page.cells[which, angle], str(value), qtbot)
    assert page.answer.text().startswith("0.14 mm off")
    for which, values in readings.items():
        for angle, value in zip(ANGLES, values, strict=True):
            type_into(page.cells[f"{which}_turned", angle], str(value), qtbot)
    assert "tailstock" in page.answer.text()
    assert "Nib does not run true." in titles(window)
    type_into(page.cells["left", "at_0_mm"], "a lot", qtbot)
    assert window.session.job.finish.truing(0).left.at_0_mm == 0
    menu = QMenu()
    page._fill("lip", menu)
    menu.actions()[2].trigger()
    assert window.session.job.finish.truing(0).lip == "stays with the bushing"
    page._choose(1)
    assert page.answer.text().startswith("Not read yet")
    page._choose(0)
    page.again.click()
    assert not window.session.job.finish.truing(0).is_begun
    window.session.undo()
    assert window.session.job.finish.truing(0).is_begun
    held = Holding(way="mandrel", has_dial=True)
    monkeypatch.setattr(true_page, "edit_document", lambda *_: held)
    page.hold.click()
    assert window.session.shop.holding == held
    assert "bushing" in window.session.plan.finish.hold.stack  # type: ignore[union-attr]
    window.session.undo_shop()
    assert window.session.shop.holding.way == "not said"


def test_flaws_of_one_barrel_are_decided_together(finish: Any, window: MainWindow, qtbot: QtBot) -> None:
    finish.open_page("what-now")
    page = finish.what_now
    page._add()
    assert page.all_so.isHidden()
    page._add()
    page._put("Elsewhere", at_mm=20.0, kind="void or bubble")
    assert not page.all_so.isHidden()
    assert "of hands" in page._together.text()
    qtbot.mouseClick(page.all_so, Qt.MouseButton.LeftButton)
    assert all(fault.way for fault in window.session.job.faults.found)
    window.session.undo()
    assert not any(fault.way for fault in window.session.job.faults.found)


def test_ends_and_a_thread_go_from_the_page_to_the_card(finish: Any, window: MainWindow) -> None:
    session = window.session
    finish.open_page("size")
    ends = finish.sizes.ends
    ends.put(None, EndWork(barrel_no=2, across_mm=10.5, end="left"))
    figures = list(widgets_in(ends._lines, FigureLine))
    assert [one.label.text() for one in figures] == ["Floor across", "Recess length"]
    assert "10.50 mm" in figures[0].value.text()
    menu = QMenu()
    ends.fill(menu)
    assert len([one for one in menu.actions() if one.menu() is not None]) == 1
    finish.open_page("press")
    session.edit(path_to(JOB.finish.joint), ANYWHERE, "Barrels meet by")
    session.edit(path_to(JOB.finish.thread_deg), 40.0, "Off by")
    assert finish.press.how["thread_deg"].isVisible()
    assert "40° against the clock" in finish.press._joint.text()
    said = pdf_words(window)
    assert "Cut the recess for the ring" in said
    assert "40° against the clock" in said
    session.undo()
    session.undo()
    assert not finish.press.how["thread_deg"].isVisible()


def test_what_the_bar_works_like_is_said_once_at_blank(window: MainWindow) -> None:
    session = window.session
    window.open_station(Station.BLANK)
    blank, tool = window.at("Blank"), tool_of(session.job)
    menu = QMenu()
    fill_stuffs(session, menu)
    metal = next(one for one in menu.actions() if "metal" in one.text().lower())
    metal.trigger()
    assert "metal" in blank.stuff.text()
    assert tool_of(session.job) != tool
    assert session.plan.bore is not None
    assert session.plan.bore.stuff.key == "metal"
    session.undo()
    assert tool_of(session.job) == tool


def test_size_is_the_page_that_opens_first(window: MainWindow, qtbot: QtBot) -> None:
    station = FinishStation(window.session, window.surface)
    qtbot.addWidget(station)
    assert station.page() == "size"


def test_a_flaw_is_put_aside_with_its_reason_and_its_mend_is_judged(finish: Any, window: MainWindow) -> None:
    finish.open_page("what-now")
    page = finish.what_now
    page._add()
    page.aside.setText("the slow epoxy is on its way")
    page.aside.editingFinished.emit()
    told = next(one for one in window.session.plan.findings if "put aside" in one.title)
    assert told.severity == Severity.NOTE
    assert told.because.startswith("The slow epoxy is on its way. When there is an hour")
    assert page.mend["judged"].isHidden()
    page._put("Decide", way="fill")
    assert not page.mend["judged"].isHidden()
    menu = QMenu()
    page.mend.fill("judged", menu)
    menu.actions()[1].trigger()
    assert window.session.job.faults.found[-1].judged == "not to be seen"


def test_a_fresh_edge_is_written_down_at_the_bench(window: MainWindow, qtbot: QtBot) -> None:
    window.surface.wait()
    route = window.session.plan.route
    assert route is not None
    turn = next(one for one in route.operations if one.key == "turn")
    bench = BenchWindow(window, window.session, turn)
    bench.show()
    qtbot.keyClick(bench, Qt.Key.Key_E)
    assert "fresh edge" in bench._caution.text().lower()
    job = window.session.job
    assert renewed_at(window.session.shop, tool_of(job)) is not None
    bench.close()
