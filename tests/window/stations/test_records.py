"""Records, driven: fates by a click, corrected and never lost; costs, what is learned, jobs found again."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QLineEdit, QMenu
from pytestqt.qtbot import QtBot

from orvek.documents import JOB, BoredHole, FateEntry, Selling, deeds, path_to
from orvek.planning import Station
from orvek.planning.history import fates_of
from orvek.store import open_workshop
from orvek.store.demo_records import demo_ledger
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.compare_sheet import CompareSheet
from orvek.window.main_window import MainWindow
from orvek.window.stations.batch.station import BatchStation
from orvek.window.stations.records.station import RecordsStation
from orvek.window.widgets import fates
from orvek.window.widgets.fates import FateSheet


@pytest.fixture
def records(window: MainWindow) -> RecordsStation:
    window.surface.wait()
    window.open_station(Station.RECORDS)
    station = window.at(Station.RECORDS)
    assert isinstance(station, RecordsStation)
    return station


@pytest.fixture
def batch(window: MainWindow) -> BatchStation:
    window.surface.wait()
    window.open_station(Station.BATCH)
    station = window.at(Station.BATCH)
    assert isinstance(station, BatchStation)
    return station


def typed(cause: str, stage: str = "turning") -> Callable[[FateSheet], QDialog.DialogCode]:
    """A maker who types a cause into the sheet and saves it."""

    def run(sheet: FateSheet) -> QDialog.DialogCode:
        line = sheet.findChild(QLineEdit, "cause")
        assert isinstance(line, QLineEdit)
        assert line.completer() is not None
        line.setText(cause)
        sheet._document = sheet._document.with_(stage=stage)
        sheet._keep()
        return QDialog.DialogCode.Accepted

    return run


def known(window: MainWindow) -> dict[int, FateEntry]:
    return fates_of(window.session.shop.ledger, window.session.job.batch.id)


def test_each_blank_gets_its_fate_and_a_correction_is_an_entry(
    window: MainWindow, batch: BatchStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    page, before = batch.blanks, len(window.session.shop.ledger)
    batch.open_page("blanks")
    page.buttons["good"].click()
    QTest.mouseClick(page.tiles, Qt.MouseButton.LeftButton, pos=page.tiles.place(2).center().toPoint())
    assert page.tiles.number == 2
    monkeypatch.setattr(FateSheet, "exec", typed("blow-out"))
    page.buttons["spoilt"].click()
    assert {n: (one.fate, one.cause) for n, one in known(window).items()} == {
        1: ("good", ""),
        2: ("spoilt", "blow-out"),
    }
    assert "Blank 2: scrapped, while turning, blow-out" in page._line.text()
    page.open_again.click()
    assert set(known(window)) == {1}
    assert len(window.session.shop.ledger) == before + 3
    # Undo on the shelves takes a price back, undo of the job an order; neither takes an entry.
    window.session.change_shop("Margin", lambda shop: shop.with_(selling=Selling(margin_pct=50)))
    page.buttons["good"].click()
    window.session.undo_shop()
    window.menus.undo_here()
    assert window.session.shop.selling.margin_pct != 50
    assert len(window.session.shop.ledger) == before + 4
    again = open_workshop(window.session.workshop.path)
    assert again.shop().ledger == window.session.shop.ledger
    again.close()


def test_a_finished_batch_is_one_line_with_its_cost(window: MainWindow, batch: BatchStation) -> None:
    batch.open_page("blanks")
    page = batch.blanks
    assert not page.close_batch.isEnabled()
    for number in range(1, 6):
        page._choose(number)
        page.buttons["good"].click()
    page.another.click()
    assert "7 started" in page._state.text()
    page._choose(7)
    page.buttons["good"].click()
    assert "7 started" in page._state.text(), "the one more that was begun is that one"
    page.open_again.click()
    page.close_batch.click()
    closed = window.session.shop.ledger[-1]
    assert (closed.started, closed.good) == (6, 5)  # type: ignore[union-attr]
    assert closed.cost_good > 0  # type: ignore[union-attr,operator]
    page.words.setText("Cool the parts")
    page.write_lesson()
    assert window.session.shop.ledger[-1].words == "Cool the parts"  # type: ignore[union-attr]
    count = len(window.session.shop.ledger)
    page.write_lesson()  # nothing is written without words
    assert len(window.session.shop.ledger) == count


def test_at_the_bench_one_key_says_that_a_blank_failed(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = window.session.plan
    assert plan.route is not None
    said: list[str] = []
    window.session.said.connect(said.append)
    window.session.attempt("Weighed", lambda job: deeds.finish_task(job, "weigh.1", fates.datetime.now()))
    bench = BenchWindow(window, window.session, next(task for task in plan.route.operations if task.kind == "turn"))
    qtbot.addWidget(bench)
    monkeypatch.setattr(FateSheet, "exec", typed("blow-out"))
    qtbot.keyClick(bench, Qt.Key.Key_F)
    assert [(n, one.fate, one.stage) for n, one in known(window).items()] == [(1, "spoilt", "turning")]
    assert "“Pour” comes before that and is not done" in said[-1]


def test_what_came_twice_is_changed_from_now_on(window: MainWindow, records: RecordsStation, qtbot: QtBot) -> None:
    page = records.next
    picture = page.picture
    picture.setFocus()
    while page._rows[picture.index].seen.work != "hybrid":
        qtbot.keyClick(picture, Qt.Key.Key_Down)
    assert page.adopt.isVisible()
    page.adopt.click()
    assert window.session.shop.ledger[-1].cause == "resin off the wood"  # type: ignore[union-attr]
    assert not page.adopt.isVisible()
    assert not page.by_record.isVisible(), "this job is of another kind"
    window.session.open_job(next(entry.id for entry in window.session.jobs() if entry.name == "Ropewalk"))
    page._choose(next(n for n, row in enumerate(page._rows) if row.seen.work == "segmented"))
    assert page.by_record.isVisible(), "wherever its kind stands in the list"
    window.session.open_job(next(entry.id for entry in window.session.jobs() if entry.name == "Tideline"))
    page._choose(0)
    page.by_record.click()
    assert window.session.job.batch.spoilage_pct is None
    assert window.session.plan.bars.blanks.source.startswith("yours, 2 of 20")
    # The same by hand: the field at Pen typed, then emptied.
    window.open_station(Station.PEN)
    field = window.at(Station.PEN)._wanted["spoilage_pct"]
    for typed, source in (("25 %", "enough good ones"), ("", "yours, 2 of 20")):
        field.line.setFocus()
        field.line.selectAll()
        QTest.keyClicks(field.line, typed) if typed else QTest.keyClick(field.line, Qt.Key.Key_Delete)
        QTest.keyClick(field.line, Qt.Key.Key_Return)
        assert window.session.plan.bars.blanks.source.startswith(source)


def test_cost_orders_and_papers(window: MainWindow, batch: BatchStation, monkeypatch: pytest.MonkeyPatch) -> None:
    batch.open_page("cost")
    page = batch.cost
    assert page.asked() == 140.0
    assert page.certificate().startswith(b"%PDF")
    assert page.label().startswith(b"%PDF")
    assert page.certificate("Harbour office").startswith(b"%PDF")
    orders = page.orders
    # One at once, three are asked for; a delivery is taken back, what was paid is added.
    orders._deliver(1)
    assert window.session.job.orders[1].is_delivered
    monkeypatch.setattr(QInputDialog, "getText", lambda *_args, **_more: ("2", True))
    orders._deliver(0)
    orders._take_back(0)
    assert [one.pens for one in window.session.job.orders[0].deliveries] == [2, -2]
    orders._deliver(0)
    orders._pay(0)
    office = window.session.job.orders[0]
    assert (office.delivered, office.paid, office.owing, office.to_come) == (2, 302.0, -22.0, 118.0)
    orders._remove(0)  # its pens come back first
    assert len(window.session.job.orders) == 2
    for nonsense in ("7", "0", "1.5", "two"):
        monkeypatch.setattr(QInputDialog, "getText", lambda *_args, words=nonsense, **_more: (words, True))
        orders._take_back(0)
    assert window.session.job.orders[0] == office
    menu = QMenu()
    orders.fill(0, menu)
    assert [action.text() for action in menu.actions() if action.text()] == [
        "Change…", "Delivered today", "Take a delivery back…", "Paid…", "Certificate and care card…", "Price label…",
        "Remove",
    ]  # fmt: skip
    page.sell_by(Selling(margin_pct=70, fee_pct=40))
    assert "no price leaves that" in page._warning.text()
    window.session.edit(path_to(JOB.orders), (), "Orders")
    assert page.asked() == 0.0
    assert not page.buttons["label"].isEnabled()
    window.session.undo()
    assert window.session.job.orders[0].customer == "Harbour office"


def test_lots_are_compared_at_records(window: MainWindow) -> None:
    window.open_station(Station.RECORDS)
    records = window.at("Records")
    records.open_page("lots")
    page = records.lots
    assert {row.kind for row in page.rows} >= {"lot", "seller"}
    assert page.table.rowCount() == len(page.rows)
    assert "nothing to compare it with" in {row.verdict for row in page.rows}


def test_a_default_is_set_back_and_taken_up_again(window: MainWindow, records: RecordsStation) -> None:
    holes = tuple(BoredHole(name=f"Hole {n}", bit_mm=7, off_mm=0.1 * n) for n in range(1, 4))
    window.session.change_shop("Holes", lambda shop: shop.with_(bored=holes))
    records.open_page("learned")
    page = records.learned
    page.show_only("only mine")
    row = next(n for n, one in enumerate(page._rows) if "a bit of 7 mm" in one.words)
    page.table.selectRow(row)
    page.back.click()
    assert not window.session.shop.bored
    assert page.table.rowCount() > 1
    page.show_only("all")
    assert not any("a bit of 7 mm" in one.words for one in page._rows)
    assert page.table.rowCount() == len(page._rows)
    spoilage = next(n for n, one in enumerate(page._rows) if one.words == "hybrid")
    page.table.selectRow(spoilage)
    assert page._rows[spoilage].count == 12
    page.back.click()
    assert page._rows[spoilage].source == "generic"


def test_jobs_are_found_compared_and_made_again(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, deeds_of = window.session, window.job_deeds
    chooser = window.rail.chooser
    window.rail.choose_job()
    chooser.jobs.search.setText("cherry")
    (ropewalk,) = chooser.jobs.listed()
    assert session.workshop.job(ropewalk).batch.name == "Ropewalk"
    compare, again = deeds_of.menu(ropewalk).actions()
    assert compare.text() == "Compare with Tideline…"
    assert len(deeds_of.menu(session.job.batch.id).actions()) == 1, "a job is not compared with itself"
    shown: list[CompareSheet] = []
    monkeypatch.setattr(CompareSheet, "exec", lambda sheet: shown.append(sheet))
    compare.trigger()
    heads = [shown[0].table.horizontalHeaderItem(n).text() for n in range(3)]
    assert heads == ["", "Tideline", "Ropewalk"]
    chooser.jobs.search.setText("cherry, and no such word")
    assert chooser.jobs.listed() == ()
    assert "No job" in chooser.jobs._head.text()
    chooser.jobs.search.clear()
    assert len(chooser.jobs.listed()) == 3
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path))
    qtbot.mouseClick(chooser.gallery, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not deeds_of.is_busy())
    assert (tmp_path / "index.html").read_text(encoding="utf-8").count("<figure>") == 3
    again.trigger()
    assert session.job.batch.name == "Ropewalk, again"


def test_a_row_of_the_chooser_tells_what_else_can_be_done(window: MainWindow, qtbot: QtBot) -> None:
    window.rail.choose_job()
    jobs, asked = window.rail.jobs, list[str]()
    jobs.more_wanted.disconnect()
    jobs.more_wanted.connect(lambda job, _place: asked.append(job))
    row = jobs.list.visualItemRect(jobs.list.item(1))
    qtbot.mouseClick(jobs.list.viewport(), Qt.MouseButton.LeftButton, pos=row.bottomRight() - QPoint(20, 14))
    assert asked == [jobs.listed()[1]]
    assert window.rail.chooser.isVisible(), "nothing was opened by it"
    window.rail.chooser.reject()


def test_what_was_written_down_is_given_out(records: RecordsStation, tmp_path: Path) -> None:
    page = records.next
    for kind in ("csv", "jsonl", "pdf"):
        page.export(kind, tmp_path / f"all.{kind}", demo_ledger(date.today())[-1].when.year)
        assert (tmp_path / f"all.{kind}").stat().st_size > 1000
    page.export("pdf", tmp_path / "none.pdf", 1990)
    assert not (tmp_path / "none.pdf").exists()


def test_the_cost_of_a_good_pen_is_seen_batch_by_batch(window: MainWindow) -> None:
    window.open_named("cost")
    page = window.at("Batch").cost
    assert page.answer.text().startswith("A good pen costs €48.")
    prices = window.session.shop.prices
    window.session.change_shop("One less", lambda shop: shop.with_(prices=prices[2:]))
    assert page.answer.text().endswith(" and more"), "an hour of work has no price"
    window.session.change_shop("None", lambda shop: shop.with_(prices=()))
    window.session.attempt("No resin", lambda job: job.with_(pour=job.pour.with_(resin=None)))
    assert page.answer.text() == "Type prices first: then a good pen has its cost"
    window.session.undo()
    told = window.at("Batch").cost.batches.accessibleDescription()
    assert "Lugger, again €" in told
    assert told.count(";") == 7, "the newest eight"
