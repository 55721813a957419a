"""Bars out of a slab: laid out, dragged, turned, sawn; each with its own part of the photo, and undone again."""

from __future__ import annotations

import os

import numpy as np
import pypdfium2
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from orvek.cards.slab_sheet import slab_sheet
from orvek.documents import Mark, PhotoStep, PhotoView, Piece, deeds
from orvek.planning import Station
from orvek.window.main_window import MainWindow
from orvek.window.slab.dialog import SlabDialog
from orvek.window.slab.source import PhotoSlab
from orvek.window.stations.shelf.pieces_page import PiecesPage
from orvek.workpiece.photo import face_of
from orvek.workpiece.slab_bars import bar_album, slab_of
from tests.photos import SLAB_CORNERS, SLAB_MM, artwork_of, photographed, slab_with_bark
from tests.window.hands import drag

CORNERS = ((0.08, 0.12), (0.92, 0.08), (0.96, 0.93), (0.05, 0.9))


def slab(with_knot: bool = False) -> PhotoStep:
    """A slab of 280 x 90 whose colour changes along it and down it, as photographed from above."""
    y, x = np.mgrid[0:360, 0:1120]
    texture = np.stack([40 + 160 * x / 1120, 40 + 160 * y / 360, np.full_like(x, 90)], axis=2).astype(np.uint8)
    view = PhotoView(artwork=artwork_of(photographed(texture, CORNERS, noise=1, falloff=0)), corners=CORNERS)
    marks = (Mark(kind="must not show", z_mm=70, across_mm=0, size_mm=10),) if with_knot else ()
    return PhotoStep(length_mm=280, width_mm=90, depth_mm=20, views=(view,), marks=marks)


def colour_at(album: PhotoStep) -> np.ndarray:
    flat = face_of(album.views[0], album.length_mm, album.width_mm, 2.0)
    assert flat is not None
    tall, wide, _ = flat.shape
    return flat[tall // 2 - 2 : tall // 2 + 2, wide // 2 - 2 : wide // 2 + 2].reshape(-1, 3).mean(axis=0)


def test_each_bar_is_its_own_part_of_the_photo() -> None:
    from orvek.workpiece.slab import SlabBar

    whole = slab(with_knot=True)
    for x, y, angle in ((60, 20, 0.0), (200, 60, 0.0), (140, 45, 37.0), (100, 45, 180.0)):
        album = bar_album(whole, SlabBar(x, y, angle, 60, 18))
        red, green, _ = colour_at(album)
        assert red == pytest.approx(40 + 160 * x / 280, abs=5)
        assert green == pytest.approx(40 + 160 * y / 90, abs=5)
    # The knot lies on the bar that lies over it, where it lies on that bar.
    over = bar_album(whole, SlabBar(80, 45, 0.0, 60, 18))
    assert [(mark.z_mm, mark.across_mm) for mark in over.marks] == [(20, 0)]
    turned = bar_album(whole, SlabBar(80, 45, 180.0, 60, 18))
    assert [(mark.z_mm, mark.across_mm) for mark in turned.marks] == [(40, 0)]
    assert not bar_album(whole, SlabBar(200, 45, 0.0, 60, 18)).marks
    assert slab_of(whole).bad == ((70, 45, 10),)


@pytest.fixture
def dialog(window: MainWindow, qtbot: QtBot) -> SlabDialog:
    window.surface.wait()
    session = window.session
    made = SlabDialog(None, PhotoSlab("Driftboard", slab(), session.job.pen, 1.6), session.units, window.surface)
    qtbot.addWidget(made)
    made.show()
    QApplication.processEvents()
    return made


def test_bars_are_laid_out_dragged_and_turned(dialog: SlabDialog, qtbot: QtBot) -> None:
    assert len(dialog.bars) >= 8
    assert dialog._save.isEnabled()
    qtbot.waitUntil(lambda: len(dialog.buttons()) == len(dialog.bars))
    if "ORVEK_LOOK" in os.environ:
        dialog.grab().save(os.environ["ORVEK_LOOK"])
    first = dialog.bars[0]
    start = dialog.picture.at(first.x_mm, first.y_mm)
    drag(dialog.picture, start, start + QPointF(0, 14))
    assert dialog.bars[0].y_mm > first.y_mm
    assert not dialog._save.isEnabled()
    assert "no room for the saw" in dialog._line.text()
    dialog.remove_bar()
    assert dialog._save.isEnabled()
    dialog.picture.setFocus()
    qtbot.keyClicks(dialog.picture, "n")
    before = dialog.bars[dialog._index]
    qtbot.keyClicks(dialog.picture, "+")
    qtbot.keyClick(dialog.picture, Qt.Key.Key_Left)
    after = dialog.bars[dialog._index]
    assert (after.angle_deg - before.angle_deg, after.x_mm - before.x_mm) == pytest.approx((1, -0.5))
    dialog.add_bar()
    assert dialog._index == len(dialog.bars) - 1
    dialog.fields["length"].entered.emit(400.0)
    dialog.lay_out_bars()
    assert not dialog.bars
    assert "No bar of this size" in dialog._line.text()


@pytest.fixture
def shelf(window: MainWindow, qtbot: QtBot) -> PiecesPage:
    """The shelf's page with the slab of the photo on it, and nothing else."""
    window.surface.wait()
    session = window.session
    board = Piece(name="Driftboard", kind="board", length_mm=280, width_mm=90, code="BRD222", place="Rack")
    board = board.with_(album=session.workshop.keep_album(slab()))
    session.change_shop("Put", lambda shop: deeds.pieces.put_piece(shop.with_(pieces=()), board))
    window.open_station(Station.SHELF)
    page = window.at(Station.SHELF).pieces
    assert isinstance(page, PiecesPage)
    qtbot.waitUntil(lambda: not page.is_busy())
    return page


def test_a_slab_becomes_bars_on_the_shelf_and_undo_brings_it_back(
    window: MainWindow, qtbot: QtBot, shelf: PiecesPage
) -> None:
    session = window.session
    source = PhotoSlab("Driftboard", slab(), session.job.pen, 1.6)
    made = SlabDialog(None, source, session.units, window.surface)
    qtbot.addWidget(made)
    shelf.details.saw_into(source.albums(made.bars))
    bars = [piece for piece in session.shop.pieces if piece.parent == "BRD222"]
    assert len(bars) == len(made.bars)
    assert len({tuple(colour_at(session.workshop.album(bar.album)).round()) for bar in bars}) == len(bars)  # type: ignore[arg-type]
    assert all(bar.place == "Rack" for bar in bars)
    session.undo_shop()
    assert [piece.name for piece in session.shop.pieces] == ["Driftboard"]


def test_another_size_is_of_all_bars_where_they_lie(dialog: SlabDialog) -> None:
    before = [(bar.x_mm, bar.y_mm) for bar in dialog.bars]
    dialog.fields["width"].entered.emit(12.0)
    assert [(bar.x_mm, bar.y_mm) for bar in dialog.bars] == before
    assert {bar.width_mm for bar in dialog.bars} == {12.0}
    assert dialog._save.isEnabled()
    dialog.fields["kerf"].entered.emit(9.0)
    assert "no room for the saw" in dialog._line.text()
    assert not dialog._save.isEnabled()
    dialog.lay_out_bars()
    assert dialog._save.isEnabled()


def test_edge_knots_and_cracks_are_marked_by_hand_and_undone(dialog: SlabDialog, qtbot: QtBot) -> None:
    count, picture = len(dialog.bars), dialog.picture
    dialog.set_mode("Mark its edge")
    drag(picture, picture.at(140, 0), picture.at(140, 30))
    assert dialog.source.slab.outline[1] == pytest.approx((140, 30), abs=1.5)
    fewer = len(dialog.bars)
    assert fewer < count
    dialog.set_mode("Mark knots and holes")
    drag(picture, picture.at(60, 70), picture.at(66, 70))
    assert dialog.source.slab.bad[0][2] == pytest.approx(12, abs=1.5)
    dialog.set_mode("Mark cracks")
    drag(picture, picture.at(2, 60), picture.at(40, 62))
    assert dialog.source.slab.cracks[0][2:4] == pytest.approx((40, 62), abs=1.5)
    assert not any(bar.holds(60, 70) or bar.holds(20, 61) for bar in dialog.bars)
    assert dialog._save.isEnabled() == bool(dialog.bars)
    # By the keyboard: wider, moved, taken away.
    picture.setFocus()
    qtbot.keyClicks(picture, "+")
    qtbot.keyClick(picture, Qt.Key.Key_Right)
    assert dialog.source.slab.cracks[0][4] == 2.5
    qtbot.keyClick(picture, Qt.Key.Key_Delete)
    assert not dialog.source.slab.cracks
    for _ in range(9):
        dialog.undo_mark()
    assert dialog.source.slab.outline == ()
    assert len(dialog.bars) == count
    # An edge that would cross itself is said, and not taken.
    dialog.set_mode("Mark its edge")
    drag(picture, picture.at(140, 0), picture.at(140, 30))
    bent = dialog.source.slab.outline
    drag(picture, picture.at(0, 0), picture.at(279, 50))
    assert dialog.source.slab.outline[0][0] < 279, "it stopped before it crossed"
    assert len(dialog.source.slab.outline) == len(bent)


def test_marks_beside_the_slab_and_more_than_it_can_have_break_nothing(dialog: SlabDialog) -> None:
    picture = dialog.picture
    for mode, field in (("Mark knots and holes", "bad"), ("Mark cracks", "cracks")):
        dialog.set_mode(mode)
        drag(picture, QPointF(1, 1), picture.at(40, 40))
        assert len(getattr(dialog.source.slab, field)) == 1
        full = tuple((100.0 + n / 10, 50.0, *((104.0, 50.0) if field == "cracks" else ()), 2.0) for n in range(60))
        dialog._mark(replace(dialog.source.slab, **{field: full}))
        dialog._end_mark()
        drag(picture, picture.at(20, 80), picture.at(60, 85))
        assert getattr(dialog.source.slab, field) == full
        assert "stays as it was" in dialog._line.text()
        for key in (Qt.Key.Key_Insert, Qt.Key.Key_Right, Qt.Key.Key_N, Qt.Key.Key_Delete, Qt.Key.Key_Left):
            QTest.keyClick(picture, key)
        assert len(getattr(dialog.source.slab, field)) == 59


def test_a_natural_edge_is_found_and_kept_with_the_slab_that_is_not_sawn(window: MainWindow, qtbot: QtBot) -> None:
    window.surface.wait()
    session = window.session
    _, picture = slab_with_bark(4)
    view = PhotoView(artwork=artwork_of(picture), corners=SLAB_CORNERS)
    album = PhotoStep(length_mm=SLAB_MM[0], width_mm=SLAB_MM[1], depth_mm=20, views=(view,))
    source = PhotoSlab("Saltmarsh slab", album, session.job.pen, 1.6)
    printed: list[SlabDialog] = []
    made = SlabDialog(None, source, session.units, window.surface, printed.append)
    qtbot.addWidget(made)
    made.show()
    before = len(made.bars)
    made.find_edge()
    qtbot.waitUntil(lambda: bool(source.album.outline), timeout=60_000)
    assert 0 < len(made.bars) < before
    assert source.values["margin"] == 2.0
    made.tabs.choose(1)
    assert made.saw_list.cuts.count() > 3
    made.saw_list.cuts.setCurrentRow(2)
    made.saw_list.print_button.click()
    assert printed == [made]
    sheet = slab_sheet(source.name, source.album, source.slab, made.bars, 1.6, session.shop.preferences)
    text = pypdfium2.PdfDocument(sheet)
    words = text[0].get_textpage().get_text_range()
    assert "frees bar" in words
    assert len(text) == 3  # the list, and 320 mm at 1:1 on two pages
    huge = replace(source.slab, length_mm=3000.0, width_mm=900.0, outline=())
    sheet = slab_sheet("Huge", source.album, huge, made.bars[:1], 1.6, session.shop.preferences)
    assert len(pypdfium2.PdfDocument(sheet)) == 1
    made.lay_at(90.0)
    assert "across the slab's length" in made._line.text()


def test_marks_on_a_slab_stay_with_it_when_the_sheet_is_closed(window: MainWindow, shelf: PiecesPage) -> None:
    session = window.session
    (before,) = session.shop.pieces

    def mark_and_close() -> None:
        sheet = QApplication.activeModalWidget()
        assert isinstance(sheet, SlabDialog)
        sheet.set_mode("Mark knots and holes")
        drag(sheet.picture, sheet.picture.at(60, 40), sheet.picture.at(64, 40))
        sheet.reject()

    QTimer.singleShot(0, mark_and_close)
    shelf.details.more_deeds["bars"].trigger()
    (piece,) = session.shop.pieces
    kept = session.workshop.album(piece.album)
    assert kept is not None
    assert slab_of(kept).bad[0][:2] == pytest.approx((60, 40), abs=1.5)
    session.undo_shop()
    assert session.shop.pieces[0].album == before.album
