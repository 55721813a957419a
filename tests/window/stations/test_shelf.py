"""The station Shelf: pieces put on it, photographed, found, sawn, counted, labelled; what they can still become."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import cache, partial
from pathlib import Path
from typing import Any

import numpy as np
import pypdf
import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu
from pytestqt.qtbot import QtBot

from orvek.documents import MadeLook, Mark, PhotoStep, PhotoView, Piece, deeds
from orvek.planning import Station
from orvek.planning.shelf_list import counted_line
from orvek.window.main_window import MainWindow
from orvek.window.stations.shelf import details
from orvek.window.stations.shelf.pieces_page import PiecesPage
from orvek.window.stations.shelf.searching import Look, Match
from orvek.window.stations.shelf.shelf_rows import GROUPS, SHELVES
from orvek.window.widgets.document_sheet import DocumentSheet
from tests.photos import ASKEW, artwork_of, photographed


@cache
def two_woods(px_per_mm: int = 5, long_mm: int = 132) -> PhotoStep:
    """A bar of dark and light wood as photographed on one face, with a knot that must not show."""
    columns = np.arange(long_mm * px_per_mm)[None, :, None] < 66 * px_per_mm
    shape = (20 * px_per_mm, long_mm * px_per_mm, 3)
    texture = np.broadcast_to(np.where(columns, (92, 58, 34), (196, 160, 110)), shape).astype(np.uint8)
    view = PhotoView(artwork=artwork_of(photographed(texture)), corners=ASKEW)
    return PhotoStep(length_mm=long_mm, views=(view,), marks=(Mark(z_mm=20, kind="must not show"),))


@pytest.fixture
def shelf(window: MainWindow, qtbot: QtBot) -> PiecesPage:
    """The station with a photographed bar, two leftovers of Tideline, an orphan barrel, tubes and a jar."""
    window.surface.wait()
    session = window.session
    look = MadeLook(steps=session.job.blank.steps, length_mm=132)
    pen = session.shop.pens[0].name
    album = session.workshop.keep_album(two_woods())
    things = (
        Piece(
            name="Tubes", kind="tube", count=14, pen=pen, counted_at=datetime(2026, 11, 1), sold_by=10, code="TUBE22"
        ),
        Piece(name="Orphan", kind="orphan barrel", form="round", length_mm=47, width_mm=13, depth_mm=13, look=look),
        Piece(name="Tideline end", kind="leftover", length_mm=30, look=look, place="Bin 2"),
        Piece(name="Long end", kind="leftover", length_mm=120, look=look.with_(from_mm=6), code="LNG234"),
        Piece(name="Found bar", length_mm=132, album=album, code="FND234"),
    )
    session.change_shop("Clear it", lambda shop: shop.with_(pieces=()))
    for thing in things:
        session.change_shop("Put", partial(lambda shop, piece: deeds.pieces.put_piece(shop, piece), piece=thing))
    window.open_station(Station.SHELF)
    station = window.at(Station.SHELF).pieces
    assert isinstance(station, PiecesPage)
    settle(station, qtbot)
    return station


def settle(station: PiecesPage, qtbot: QtBot) -> None:
    QApplication.processEvents()
    qtbot.waitUntil(lambda: not station.is_busy())
    QApplication.processEvents()


def choose(station: PiecesPage, code: str, qtbot: QtBot) -> None:
    assert station.list.choose(code)
    settle(station, qtbot)


def test_a_piece_is_shown_with_the_pens_it_can_become(shelf: PiecesPage, qtbot: QtBot) -> None:
    choose(shelf, "FND234", qtbot)
    looks = [button.subject for button in shelf.becoming.buttons()]
    assert looks
    assert all(isinstance(look, Look) for look in looks)
    for look in looks:
        assert isinstance(look, Look)
        for start, barrel in zip(look.starts_mm, look.fit.pen.barrels, strict=True):
            assert start >= barrel.trim_mm - 0.6
            assert start + barrel.tube_length_mm <= 132 - barrel.trim_mm + 0.6
            assert not start < 21 < start + barrel.tube_length_mm  # the knot is kept off
    qtbot.waitUntil(lambda: shelf.details.picture.image() is not None)
    solids = [entry for entry in shelf._entries if entry.piece.is_solid]
    qtbot.waitUntil(lambda: all(shelf.looks.look(entry) is not None for entry in solids))


def test_one_click_begins_a_job_with_the_piece(shelf: PiecesPage, window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    for code in ("FND234", "LNG234"):
        window.open_station(Station.SHELF)
        choose(shelf, code, qtbot)
        button = shelf.becoming.buttons()[0]
        look = button.subject
        assert isinstance(look, Look)
        button.click()
        job = session.job
        assert job.blank.piece == code
        assert isinstance(job.blank.steps[0], PhotoStep)  # as photographed, or as it is computed to look
        assert len(job.blank.steps[0].views) == (1 if code == "FND234" else 4)
        assert job.blank.tube_starts_mm == look.starts_mm
        assert job.pen == look.fit.pen
        shelf_now = {entry.piece.code: entry for entry in session.others.shelf(session.plan)[0]}
        assert shelf_now[code].reserved_for == (job.batch.name,)
        # Sawn to length: the piece is used, what is left over is on the shelf, and undo takes both back.
        when = datetime(2026, 11, 20, 9, 0)
        session.attempt("Done", partial(deeds.finish_task, task="length", when=when))
        held = {entry.piece.code: entry for entry in session.others.shelf(session.plan)[0]}
        assert held[code].left == 0
        ends = [entry for entry in held.values() if entry.is_new]
        assert all(entry.piece.parent == code for entry in ends)
        session.undo()
        held = {entry.piece.code: entry for entry in session.others.shelf(session.plan)[0]}
        assert held[code].left == 1
        assert not any(entry.is_new for entry in held.values())


def test_tubes_are_used_as_the_work_goes_on_and_undo_gives_them_back(
    shelf: PiecesPage, window: MainWindow, qtbot: QtBot
) -> None:
    session = window.session
    tube = next(task for task in session.plan.route.operations if task.kind == "tube")  # type: ignore[union-attr]
    session.attempt("Done", partial(deeds.finish_task, task="tube", when=datetime(2026, 11, 20, 10, 0)))

    def left() -> float:
        return next(entry.left for entry in shelf._entries if entry.piece.code == "TUBE22")

    assert left() == 14 - tube.pieces
    session.undo()
    assert left() == 14
    # Used for another job it is used, whichever job is in hand.
    session.attempt("Done", partial(deeds.finish_task, task="tube", when=datetime(2026, 11, 20, 10, 0)))
    session.new_job()
    assert left() == 14 - tube.pieces
    session.remove_job()
    session.undo()
    assert left() == 14
    # A count corrects: what was used before it is in it.
    session.attempt("Done", partial(deeds.finish_task, task="tube", when=datetime(2026, 11, 20, 10, 0)))
    choose(shelf, "TUBE22", qtbot)
    shelf.details.count(3)
    assert left() == 3
    session.undo_shop()
    assert left() == 14 - tube.pieces
    # Without tubes there is something to buy, in whole lots.
    session.undo()
    shelf.details.count(1)
    window.open_named("cost")
    to_buy = window.at(Station.BATCH).cost.to_buy  # type: ignore[attr-defined]
    assert to_buy.isVisible()
    assert "10 × tube" in to_buy.lines.toolTip() or "20 × tube" in to_buy.lines.toolTip()


def test_found_by_words_by_what_fits_and_by_its_label(shelf: PiecesPage, window: MainWindow, qtbot: QtBot) -> None:
    def names() -> list[str]:
        return [entry.piece.name for entry in shelf.list._model().entries]

    qtbot.keyClicks(shelf.search, "bin 2")
    assert names() == ["Tideline end"]
    shelf.search.clear()
    pen = window.session.shop.pens[0]
    shelf.filter_by("", pen.name)
    assert "Tideline end" not in names()
    assert names()[0] == "Long end"  # it wastes least
    shelf.order_by("best look")
    settle(shelf, qtbot)
    # A knot in plain wood can be kept off, a swirl has lines at every end: the plain bar looks calmer.
    assert names() == ["Found bar", "Long end"]
    shelf.filter_by("tube", "")
    assert names() == ["Tubes"]
    qtbot.keyClicks(shelf.search, "fnd234")
    qtbot.keyClick(shelf.search, Qt.Key.Key_Return)
    entry = shelf.list.entry()
    assert entry is not None
    assert entry.piece.name == "Found bar"


def test_sawn_in_two_each_part_keeps_its_part_of_the_photo(shelf: PiecesPage, window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    choose(shelf, "FND234", qtbot)
    shelf.details.cut_at(66.0)
    parts = {piece.name: piece for piece in session.shop.pieces if piece.parent == "FND234"}
    kerf = session.job.blank.saw_kerf_mm
    assert {name: round(piece.length_mm, 1) for name, piece in parts.items()} == {
        "Found bar, left": round(66 - kerf / 2, 1),
        "Found bar, right": round(66 - kerf / 2, 1),
    }
    settle(shelf, qtbot)
    albums = {name: session.workshop.album(piece.album) for name, piece in parts.items()}
    from orvek.workpiece.photo import face_of

    shades = {}
    for name, album in albums.items():
        assert album is not None
        flat = face_of(album.views[0], album.length_mm, 20, 4.0)
        assert flat is not None
        shades[name] = flat[8:-8, 8:-8].mean()
    assert shades["Found bar, left"] < 80 < 140 < shades["Found bar, right"]  # dark wood left, light wood right
    left = albums["Found bar, left"]
    assert left is not None
    assert [round(mark.z_mm) for mark in left.marks] == [20]
    session.undo_shop()
    assert [piece.name for piece in session.shop.pieces if piece.code == "FND234"] == ["Found bar"]
    shelf.details.cut_at(500.0)
    assert len([piece for piece in session.shop.pieces if piece.code == "FND234"]) == 1


def test_an_orphan_barrel_is_shown_beside_what_looks_like_it(
    shelf: PiecesPage, window: MainWindow, qtbot: QtBot
) -> None:
    orphan = next(piece for piece in window.session.shop.pieces if piece.name == "Orphan")
    choose(shelf, orphan.code, qtbot)
    matches = [button.subject for button in shelf.becoming.buttons()]
    assert all(isinstance(match, Match) for match in matches)
    found = [match.entry.piece.name for match in matches if isinstance(match, Match)]
    assert found[-1] == "Found bar"  # brown wood is not what a blue casting is matched with
    assert set(found[:2]) == {"Tideline end", "Long end"}


def test_labels_and_photos_and_what_the_work_has_made(
    shelf: PiecesPage, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    session = window.session
    choose(shelf, "TUBE22", qtbot)
    for paper, pages in (("A4", 1), ("label roll", 14)):
        shelf.details.write_label(tmp_path / f"{paper}.pdf", paper)
        read = pypdf.PdfReader(tmp_path / f"{paper}.pdf")
        assert len(read.pages) == pages
        assert "TUBE22" in read.pages[0].extract_text()
    for task in [task.key for task in session.plan.route.operations if task.kind == "demould"]:  # type: ignore[union-attr]
        session.attempt("Done", partial(deeds.finish_task, task=task, when=datetime(2026, 11, 20, 10, 0)))
    new = [entry for entry in shelf._entries if entry.is_new]
    assert [entry.piece.kind for entry in new] == ["bar"]
    assert new[0].piece.count == round(session.plan.bars.bars.value)
    # Photographed it stands on the shelf, and the work makes it no second time.
    shelf.details.put_photos(new[0], two_woods())
    again = [entry for entry in shelf._entries if entry.piece.born == new[0].piece.born]
    assert len(again) == 1
    assert not again[0].is_new
    assert session.workshop.album(again[0].piece.album) == two_woods()


@pytest.mark.usefixtures("shelf")
def test_photos_are_kept_when_jobs_are_deleted_and_the_shelf_reads_again(window: MainWindow) -> None:
    session = window.session
    album = next(piece.album for piece in session.shop.pieces if piece.code == "FND234")
    session.remove_job()
    assert session.workshop.album(album) == two_woods()
    assert session.workshop.album("sha256:" + "0" * 64) is None
    assert session.workshop.shop().pieces == session.shop.pieces


def test_a_piece_photographed_on_the_shelf(shelf: PiecesPage, window: MainWindow, tmp_path: Path) -> None:
    Image.fromarray(np.zeros((4, 4, 3), np.uint8)).save(tmp_path / "x.png")
    shelf.put_photographed(two_woods(), Piece(name="Bar"))
    found = next(piece for piece in window.session.shop.pieces if piece.name == "Bar")
    assert (found.length_mm, found.width_mm) == (132, 20)
    assert window.session.workshop.album(found.album) == two_woods()


def test_pour_says_how_much_of_a_resin_is_left(shelf: PiecesPage, window: MainWindow) -> None:
    session = window.session
    resin = session.job.pour.resin
    assert resin is not None
    jar = Piece(name=resin.name, kind="jar", grams=900)
    shelf.keep("Put it there", lambda shop: deeds.pieces.put_piece(shop, jar))
    menu = QMenu()
    window.at(Station.POUR)._menus.fill_resins(menu)
    told = [action.text() for action in menu.actions() if action.text().startswith(resin.name)]
    assert told == [f"{resin.name}   900.0 g there"]


def test_undo_at_the_shelf_is_of_the_shelf(shelf: PiecesPage, window: MainWindow, qtbot: QtBot) -> None:
    session, job = window.session, window.session.job
    session.edit(("batch", "name"), "Ebb tide", "Name")
    choose(shelf, "FND234", qtbot)
    shelf.details.more_deeds["delete"].trigger()
    assert not any(piece.code == "FND234" for piece in session.shop.pieces)
    assert "Found bar" in window.menus._undo.text()
    window.menus._undo.trigger()
    assert any(piece.code == "FND234" for piece in session.shop.pieces)
    assert session.job.batch.name == "Ebb tide"
    window.open_station(Station.BLANK)
    assert "Name" in window.menus._undo.text()
    window.menus._undo.trigger()
    assert session.job == job


def test_what_is_put_on_the_shelf_today_was_not_used_yesterday(shelf: PiecesPage, window: MainWindow) -> None:
    session = window.session
    session.attempt("Done", partial(deeds.finish_task, task="press", when=datetime(2026, 11, 20, 10, 0)))
    pen = session.shop.pens[0].name
    shelf.put(Piece(name="New sets", kind="part set", count=9, pen=pen, code="SETS22"))
    assert next(entry.left for entry in shelf._entries if entry.piece.code == "SETS22") == 9
    session.attempt("Again", partial(deeds.open_task_again, task="press"))
    later = datetime.now().replace(microsecond=0) + timedelta(minutes=1)
    session.attempt("Done", partial(deeds.finish_task, task="press", when=later))
    left = next(entry for entry in shelf._entries if entry.piece.code == "SETS22")
    assert left.left == 9 - session.job.batch.pens_wanted
    assert "9 counted" in counted_line(left)
    assert f"{session.job.batch.pens_wanted} used since for Tideline" in counted_line(left)


def test_the_rest_of_a_photographed_bar_has_its_photos_whichever_job_is_in_hand(
    shelf: PiecesPage, window: MainWindow, qtbot: QtBot
) -> None:
    session = window.session
    choose(shelf, "FND234", qtbot)
    shelf.becoming.buttons()[0].click()
    session.attempt("Done", partial(deeds.finish_task, task="length", when=datetime(2026, 11, 20, 9, 0)))
    window.open_station(Station.SHELF)
    for other in (False, True):
        if other:
            session.new_job()
        ends = [entry for entry in shelf._entries if entry.is_new]
        assert ends
        for entry in ends:
            album = shelf.looks.album(entry)
            assert album is not None
            assert album.length_mm == pytest.approx(entry.piece.length_mm, abs=0.2)
            assert len(album.views[0].artwork.content) > 1000
    # Put away, it keeps them.
    rest = next(entry for entry in shelf._entries if entry.is_new)
    choose(shelf, rest.piece.code, qtbot)
    shelf.details.count(1)
    kept = next(piece for piece in session.shop.pieces if piece.born == rest.piece.born)
    assert kept.count == 1
    album = session.workshop.album(kept.album)
    assert album is not None
    assert len(album.views[0].artwork.content) > 1000


def test_every_shelf_stands_in_one_group() -> None:
    assert sorted(key for keys in GROUPS.values() for key in keys) == sorted(SHELVES)


@pytest.mark.parametrize(("kind", "asked"), [("leftover", 6), ("tube", 4), ("jar", 3)])
def test_a_thing_is_put_on_the_shelf_with_few_answers(window: MainWindow, qtbot: QtBot, kind: Any, asked: int) -> None:
    piece = Piece(name="Thing", kind=kind, grams=100.0 if kind == "jar" else None)
    units, shop = window.session.units, window.session.shop
    sheet = DocumentSheet(window, "Put on the shelf", piece, units, shop, first=piece.asked)
    qtbot.addWidget(sheet)
    sheet.show()
    few = [one for one in sheet.findChildren(QLineEdit) if one.isVisible()]
    assert len(few) == asked
    qtbot.mouseClick(sheet.more, Qt.MouseButton.LeftButton)
    assert len([one for one in sheet.findChildren(QLineEdit) if one.isVisible()]) > asked + 8
    lot = sheet.findChild(QLineEdit, "lot")
    assert isinstance(lot, QLineEdit)
    lot.setText("B 7")
    sheet._keep()
    assert sheet.result_document == piece.with_(lot="B 7")
    again = DocumentSheet(window, "Change it", sheet.result_document, units, shop, first=piece.asked)
    qtbot.addWidget(again)
    again.show()
    assert again.findChild(QLineEdit, "lot").isVisible(), "what was set is in sight"  # type: ignore[union-attr]


def test_one_bar_has_one_job(shelf: Any, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Reserved by the job that begins with it: refused to another, not sawn unasked, free when the job goes."""
    session, asked = window.session, list[str]()
    choose(shelf, "LNG234", qtbot)
    shelf.becoming.buttons()[0].click()
    first = session.job
    window.open_station(Station.SHELF)
    choose(shelf, "LNG234", qtbot)
    shelf.becoming.buttons()[0].click()
    assert session.job == first, "refused"
    assert f"reserved for {first.batch.name}" in window.notice.text()
    monkeypatch.setattr(details, "ask", lambda _parent, _title, words, *_: asked.append(words))
    monkeypatch.setattr(details.QInputDialog, "getText", lambda *_, **__: pytest.fail("it was not to be sawn"))
    shelf.details.buttons["saw"].click()
    assert first.batch.name in asked[0]
    session.copy_job()
    assert session.job.blank.piece == "", "made again it wants another bar"
    session.remove_job()
    session.open_job(first.batch.id)
    session.remove_job()
    free = next(entry for entry in session.others.shelf(session.plan)[0] if entry.piece.code == "LNG234")
    assert (free.reserved_for, free.is_taken) == ((), False)
    session.add_job(first, "Open a file")
    session.change_shop("Sawn", lambda shop: deeds.pieces.take_piece_off(shop, "LNG234"))
    session.refresh()
    assert "The bar of this job is not on the shelf." in [one.title for one in session.plan.findings]
