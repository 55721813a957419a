"""The station Glue-up, driven: cuts stepped through, boards put on the shelf, glue changed, will it meet."""

from __future__ import annotations

from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QPushButton
from pytestqt.qtbot import QtBot

from orvek.documents import ArcStep, BadSpot, Board, CutStep, RoundStep, deeds
from orvek.planning import Severity, StationState
from orvek.stations import Station, row_of
from orvek.store import open_workshop
from orvek.store.demo import second_demo_job
from orvek.window.main_window import MainWindow

CUTS, BOARDS, GLUING, MEET = range(4)


@pytest.fixture
def bench(window: MainWindow) -> MainWindow:
    """Ropewalk at the station Glue-up."""
    window.surface.wait()
    QApplication.processEvents()
    window.session.open_job(second_demo_job().batch.id)
    window.open_station(Station.GLUE_UP)
    return window


def settled(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: not window.session.answers.is_busy())
    QApplication.processEvents()


def test_each_cut_shows_its_two_numbers_and_stands_on_the_strip(bench: MainWindow) -> None:
    page = bench.at("Glue-up").cuts
    assert page.list.count() == 1 + 4 + 3, "the stock to its length, four faces, then the bar into its pieces"
    assert page._numbers[0].text() == "Stop 115.5 mm"
    page.list.setCurrentRow(1)
    assert page._numbers[0].text() == "Stop 52.1 mm"
    assert page._numbers[1].text() == "Mitre 55.0°"
    assert all(number.figure() is not None for number in page._numbers), "each shows its working"
    before, strip = page.picture.grab().toImage(), bench.strip.grab().toImage()
    page.list.setCurrentRow(3)
    assert "face B down" in page.list.currentItem().text()
    assert bench.strip._cut == page.cut()
    steeper = bench.session.job.blank.steps[3].with_(angle_deg=60, centre_mm=70)
    bench.session.attempt("Change", lambda job: deeds.set_step(job, 3, steeper))
    assert page.picture.grab().toImage() != before
    assert bench.strip.grab().toImage() != strip
    assert page._numbers[1].text() == "Mitre 30.0°"
    bench.open_station(Station.PEN)
    assert bench.strip._cut is None


def test_arcs_and_rounding_have_rows_of_their_own(bench: MainWindow) -> None:
    """An arc by its centre; what is turned has no stop, no fence and no line across the strip."""
    arc = ArcStep(radius_mm=30, distance_mm=33, centre_mm=50, kerf_mm=1)
    steps = (*bench.session.job.blank.steps[:1], arc, RoundStep(diameter_mm=15))
    bench.session.attempt("Steps", lambda job: deeds.set_steps(job, steps))
    page = bench.at("Glue-up").cuts
    rows = [page.list.item(n).text() for n in range(page.list.count())]
    row = next(n for n, text in enumerate(rows) if "Saw an arc" in text)
    page.list.setCurrentRow(row)
    assert page._numbers[0].text() == "Centre at 50.0 mm"
    drawn = page.picture.grab().toImage()
    page.list.setCurrentRow(next(n for n, text in enumerate(rows) if "Turn it round" in text))
    assert "on the lathe" in page.list.currentItem().text()
    assert [number.text() for number in page._numbers] == ["", ""]
    assert page.picture.grab().toImage() != drawn
    bench.strip.grab()
    assert "mark 0°" in page._keep.text()


def test_calipers_replace_what_is_assumed(bench: MainWindow) -> None:
    line = bench.at("Glue-up").cuts.kerfs.line
    line.setFocus()
    QTest.keyClicks(line, "2.45 2.5; 2.55")
    line.editingFinished.emit()
    assert bench.session.job.glue_up.kerf_readings_mm == (2.45, 2.5, 2.55)
    assert bench.at("Glue-up").cuts.kerfs.sentence() == "2.50 mm, ± 0.05 mm, of 3"
    finding = next(f for f in bench.session.plan.findings if "kerf is not this saw's" in f.title)
    button = next(b for b in bench.findings.findChildren(QPushButton) if b.toolTip() == finding.remedies[0].label)
    button.click()
    assert {s.kerf_mm for s in bench.session.job.blank.steps if isinstance(s, CutStep)} == {2.5}
    line.selectAll()
    QTest.keyClicks(line, "banana")
    line.editingFinished.emit()
    assert "a length like" in bench.at("Glue-up").cuts.kerfs.sentence()
    assert bench.session.job.glue_up.kerf_readings_mm == (2.45, 2.5, 2.55)


def test_pieces_are_laid_on_the_boards_at_hand(bench: MainWindow, qtbot: QtBot) -> None:
    page = bench.at("Glue-up").boards
    bench.at("Glue-up").tabs.choose(BOARDS)
    settled(bench, qtbot)
    words = "Everything comes out of 1 board of black cherry, 1 board of ebony and 1 board of holly."
    assert page.words.text().startswith(words)
    before = page.picture.grab().toImage()
    boards = bench.session.shop.boards
    page.keep_boards((*boards[:2], Board(name="Splinter", material="holly", length_mm=30, width_mm=30, thickness_mm=1)))
    settled(bench, qtbot)
    assert "longer than any such board" in page.words.text()
    assert page.picture.grab().toImage() != before
    crack = BadSpot(x_mm=0, y_mm=0, length_mm=420, width_mm=90)
    page.keep_boards((boards[0].with_(bad=(crack,)), *boards[1:]))
    settled(bench, qtbot)
    assert "find no place" in page.words.text()
    answer = bench.session.plan.boards
    assert answer is not None
    page.show_answer(replace(answer, is_best=False))
    assert page.look_on.isVisible()
    page.look_on.click()
    assert not page.look_on.isVisible()
    settled(bench, qtbot)
    further = bench.session.plan.boards
    assert further is not None
    assert further.question == answer.question.further()
    assert not page.look_on.isVisible()
    menu = QMenu()
    page._fill_off(menu)
    menu.actions()[0].trigger()
    assert len(bench.session.shop.boards) == 2


def test_glue_that_sets_too_soon_is_said_with_a_way_out(bench: MainWindow) -> None:
    bench.at("Glue-up").tabs.choose(GLUING)
    menu = QMenu()
    bench.at("Glue-up").gluing._fill_glues(menu)
    next(action for action in menu.actions() if action.text().startswith("medium")).trigger()
    assert bench.session.job.glue_up.glue == "medium cyanoacrylate"
    stop = next(f for f in bench.session.plan.findings if "sets before the last joint" in f.title)
    assert stop.severity is Severity.CAUTION
    assert bench.session.plan.state(Station.GLUE_UP) is StationState.NEEDS_A_LOOK
    bench.session.remedy(stop.remedies[0])
    assert not any("sets before" in f.title for f in bench.session.plan.findings)
    assert "joints" in bench.at("Glue-up").gluing.picture.accessibleDescription()


def test_will_it_meet_and_what_to_improve(bench: MainWindow, qtbot: QtBot) -> None:
    page = bench.at("Glue-up").meeting
    bench.at("Glue-up").tabs.choose(MEET)
    settled(bench, qtbot)
    assert "Lines miss their place by" in page.answer.text()
    assert "First improve the centring of the hole" in page._advice.text()
    designed = page.picture.grab().toImage()
    page.slider.setValue(2)
    assert page.picture.grab().toImage() != designed
    assert page.picture.accessibleDescription() == "an unlucky one in twenty"
    before = bench.session.plan.meet.run.median_mm
    line = page._fields["centring_mm"].line
    line.setFocus()
    line.selectAll()
    QTest.keyClicks(line, "0.02")
    line.editingFinished.emit()
    settled(bench, qtbot)
    assert bench.session.shop.accuracy.centring_mm == 0.02
    assert bench.session.plan.meet.run.median_mm < before


def test_the_menu_writes_the_cards(bench: MainWindow, tmp_path: Path) -> None:
    for kind, suffix in (("cuts", "pdf"), ("settings", "pdf"), ("glue-up", "pdf"), ("csv", "csv")):
        bench.cards.write(kind, tmp_path / f"{kind}.{suffix}")
        assert (tmp_path / f"{kind}.{suffix}").stat().st_size > 300
    for suffix in ("pdf", "svg", "dxf"):
        bench.cards.write("template", tmp_path / f"template.{suffix}")
        assert (tmp_path / f"template.{suffix}").stat().st_size > 300
    assert any("Template of this cut as DXF" in action.text() for action in bench.menus.actions())


def test_nothing_sawn_says_so(bench: MainWindow, tmp_path: Path) -> None:
    bench.session.open_job("7e4c0d1de001")
    assert bench.at("Glue-up")._stack.currentIndex() == 1
    bench.cards.write("cuts", tmp_path / "none.pdf")
    assert "sawn or glued" in bench.notice.text()
    bench.cards.write("template", tmp_path / "none.dxf")
    assert not list(tmp_path.glob("none.*"))


@pytest.mark.parametrize("page", [page.name for page in row_of(Station.GLUE_UP).pages])
def test_every_page_opens_by_its_name(window: MainWindow, page: str) -> None:
    window.open_named(page)
    assert window.station is Station.GLUE_UP


def test_how_a_job_is_glued_is_there_after_closing(bench: MainWindow, workshop_path: Path) -> None:
    bench.session.edit(("glue_up", "glue"), "quick epoxy", "Glue")
    bench.session.edit(("glue_up", "kerf_readings_mm"), (2.1, 2.2, 2.3), "Readings")
    kept = bench.session.job
    bench.session.workshop.close()
    again = open_workshop(workshop_path)
    assert again.job(kept.batch.id) == kept
    assert again.undo(kept.batch.id).glue_up.kerf_readings_mm == ()
    again.close()
