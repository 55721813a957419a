"""Photos of a bar, as a maker takes them in: dropped, corners dragged, colours set right, marked, saved, undone."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from orvek.documents import PhotoStep, deeds
from orvek.planning import Severity, Station
from orvek.quantities import Units
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.main_window import MainWindow
from orvek.window.photos import asking
from orvek.window.photos import sheet as sheet_module
from orvek.window.photos.sheet import PhotoSheet
from orvek.window.photos.work_photos import WorkPhotos
from tests.photos import ASKEW, SIZE, photographed
from tests.window.hands import drag

LAMP = (1.0, 0.9, 0.75)


@pytest.fixture(scope="module")
def photos(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    """Two faces of a bar of two woods, as files."""
    columns = np.arange(660)[None, :, None] < 330
    texture = np.broadcast_to(np.where(columns, (92, 58, 34), (196, 160, 110)), (100, 660, 3)).astype(np.uint8)
    folder = tmp_path_factory.mktemp("photos")
    paths = [folder / "face A.jpg", folder / "face B.png"]
    for path in paths:
        Image.fromarray(photographed(texture, cast=LAMP)).save(path)
    return paths


@pytest.fixture(autouse=True)
def asked(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Nobody is asked before changes are dropped, but it is noted."""
    noted: list[str] = []
    monkeypatch.setattr(sheet_module, "ask", lambda _parent, title, *_: noted.append(title) or 0)
    return noted


@pytest.fixture
def sheet(qtbot: QtBot, photos: list[Path]) -> PhotoSheet:
    """The sheet with both photos taken in."""
    made = PhotoSheet(None, PhotoStep(length_mm=132), Units())
    qtbot.addWidget(made)
    made.show()
    made.take(photos)
    qtbot.waitUntil(lambda: len(made.step.views) == 2)
    return made


def test_photos_are_taken_in_and_the_bar_is_found(sheet: PhotoSheet) -> None:
    assert [view.face for view in sheet.step.views] == ["A", "B"]
    for view in sheet.step.views:
        assert np.abs((np.array(view.corners) - ASKEW) * SIZE).max() < 6
    assert [view.artwork.name for view in sheet.step.views] == ["face A", "face B"]


def test_a_corner_is_dragged_and_nudged(sheet: PhotoSheet, qtbot: QtBot) -> None:
    sheet._choose(0)
    handle = sheet.photo.handles()[1]
    drag(sheet.photo, handle, handle + QPointF(-30, 12))
    moved = sheet.photo.handles()[1]
    assert (moved - handle - QPointF(-30, 12)).manhattanLength() < 2
    sheet.photo.setFocus()
    qtbot.keyClick(sheet.photo, Qt.Key.Key_3)
    before = sheet.step.views[0].corners[2]
    qtbot.keyClick(sheet.photo, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    after = sheet.step.views[0].corners[2]
    assert (before[0] - after[0]) * SIZE[0] == pytest.approx(10)
    # Dragged across the others it makes no face: the sentence says so, and the last face stands.
    drag(sheet.photo, sheet.photo.handles()[0], sheet.photo.handles()[2] + QPointF(60, 30))
    assert sheet.step.views[0].corners[0] != sheet.step.views[0].corners[2]


def test_white_is_clicked_and_taken_back(sheet: PhotoSheet, qtbot: QtBot) -> None:
    sheet.buttons["white"].click()
    place = sheet.photo.at((0.5, 0.1))
    qtbot.mouseClick(sheet.photo, Qt.MouseButton.LeftButton, pos=place.toPoint())
    white = sheet.step.views[1].white
    assert white is not None
    red, blue = int(white[1:3], 16), int(white[5:7], 16)
    assert red > blue  # the bench under this lamp is warm
    sheet.buttons["white"].click()
    assert sheet.step.views[1].white is None


def test_places_are_marked_and_unmarked(sheet: PhotoSheet, qtbot: QtBot) -> None:
    sheet._choose(0)
    for z, kind in ((66.0, "centre this"), (100.0, "must not show")):
        sheet._set_kind(kind)
        qtbot.mouseClick(sheet.flat, Qt.MouseButton.LeftButton, pos=sheet.flat.at(z, 2.0).toPoint())
    assert [(mark.kind, round(mark.z_mm)) for mark in sheet.step.marks] == [("centre this", 66), ("must not show", 100)]
    qtbot.mouseClick(sheet.flat, Qt.MouseButton.LeftButton, pos=sheet.flat.at(66.0, 2.0).toPoint())
    assert [mark.kind for mark in sheet.step.marks] == ["must not show"]
    sheet.flat.setFocus()
    for _ in range(5):
        qtbot.keyClick(sheet.flat, Qt.Key.Key_Right)
    qtbot.keyClick(sheet.flat, Qt.Key.Key_Return)
    assert sheet.step.marks[-1].z_mm == pytest.approx(5.0)


def test_a_ruler_on_the_photo_gives_the_size(sheet: PhotoSheet) -> None:
    sheet._choose(0)
    sheet.sizes["length_mm"].entered.emit(140.0)
    sheet._lay_ruler()
    # Half of the bar's upper edge, laid on it: its ends are 66 mm apart on the bench.
    left, right = ASKEW[0], ASKEW[1]
    from orvek.workpiece.rectifying import carried, flattening

    back = np.linalg.inv(flattening(np.array(ASKEW) * SIZE, 132, 20))
    ends = carried(back, np.array([(0.0, 0.0), (66.0, 0.0)])) / SIZE
    sheet._ruler_mm = 66.0
    sheet._move(sheet.step.views[0].corners, tuple((float(x), float(y)) for x, y in ends))
    # The corners were drawn without a camera, so that the proportion is what they seem to say.
    assert sheet.step.length_mm == pytest.approx(132, rel=0.02)
    assert left[0] < right[0]


def test_what_is_no_photo_is_said_and_nothing_lost(sheet: PhotoSheet, qtbot: QtBot, tmp_path: Path) -> None:
    before = sheet.step
    bad = tmp_path / "photo.heic"
    bad.write_bytes(b"\0\0\0\x18ftypheic" + bytes(200))
    sheet.take([bad])
    qtbot.waitUntil(lambda: "HEIC" in sheet._sentence.text())
    assert sheet.step == before
    plain = tmp_path / "bench.png"
    Image.fromarray(np.full((300, 400, 3), 150, np.uint8)).save(plain)
    sheet.take([plain])
    qtbot.waitUntil(lambda: len(sheet.step.views) == 3)
    assert "drag the four corners" in sheet._sentence.text()


def test_photos_dropped_on_the_window_begin_the_blank(
    window: MainWindow, photos: list[Path], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.surface.wait()
    before = window.session.job

    def save(made: PhotoSheet) -> int:
        qtbot.addWidget(made)
        qtbot.waitUntil(lambda: len(made.step.views) == 2 and not made.searches.is_busy())
        made.accept()
        qtbot.waitUntil(lambda: made.result() == QDialog.DialogCode.Accepted)
        return made.result()

    monkeypatch.setattr(PhotoSheet, "exec", save)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path)) for path in photos])
    left = Qt.MouseButton.LeftButton
    none = Qt.KeyboardModifier.NoModifier
    window.dropEvent(QDropEvent(QPointF(9, 9), Qt.DropAction.CopyAction, data, left, none))
    step = window.session.job.blank.steps[0]
    assert isinstance(step, PhotoStep)
    assert window.session.plan.layout is not None
    assert window.session.plan.layout.length_mm == step.length_mm
    titles = [finding.title for finding in window.session.plan.findings if finding.station == Station.BLANK]
    assert "Faces C and D are not photographed." in titles
    assert all(finding.severity != Severity.STOP for finding in window.session.plan.findings)
    # Photos once more: the same bar, and nothing to do where nothing was changed.
    asking.photograph_bar(window, window.session)
    window.session.undo()
    assert window.session.job.blank == before.blank


def test_a_mark_is_centred_and_a_crack_kept_off(window: MainWindow) -> None:
    window.surface.wait()
    from orvek.documents import Mark
    from orvek.window.stations.blank.stretch_dialog import StretchDialog

    marks = (Mark(z_mm=52, kind="centre this"), Mark(z_mm=84, kind="must not show", size_mm=2))
    session = window.session
    session.attempt("Photo", lambda job: deeds.replace_stock(job, PhotoStep(length_mm=200, marks=marks)))
    dialog = StretchDialog(window, session, window.surface)
    dialog.joint.setChecked(False)
    found = dialog._wish()
    assert found.centre_mm == (52,)
    assert found.off_mm == ((83, 85),)
    dialog.close()


def test_light_that_comes_through_is_marked(sheet: PhotoSheet, tmp_path: Path) -> None:
    sheet._choose(0)
    texture = np.full((100, 660, 3), 22, np.uint8)
    y, x = np.mgrid[0:100, 0:660] / 5.0
    texture[np.hypot(x - 40, y - 8) < 1.5] = (250, 200, 150)
    texture[np.hypot(x - 90, y - 13) < 0.8] = (250, 200, 150)
    Image.fromarray(photographed(texture, bench=(252, 252, 250), noise=2)).save(tmp_path / "light.png")
    sheet.take_against_light(tmp_path / "light.png")
    found = [mark for mark in sheet.step.marks if mark.kind == "light comes through"]
    for mark, (z, across) in zip(found, ((40, -2), (90, 3)), strict=True):
        assert (mark.z_mm, mark.across_mm) == pytest.approx((z, across), abs=0.8)
    assert found[0].size_mm == pytest.approx(3, abs=0.8)
    sheet.take_against_light(tmp_path / "light.png")  # taken once more it is the same bar
    assert len(sheet.step.marks) == 2


def test_photos_of_the_pen_are_kept_with_the_job(window: MainWindow, photos: list[Path], tmp_path: Path) -> None:
    window.open_station(Station.FINISH)
    session = window.session
    window.at(Station.FINISH).open_page("press")
    row = window.frame.findChild(WorkPhotos)
    assert row is not None
    bad = tmp_path / "bad.jpg"
    bad.write_bytes(b"no picture")
    row.take([*photos, bad])
    assert [photo.artwork.name for photo in session.job.work.photos] == ["face A", "face B"]
    assert session.workshop.job(session.job.batch.id).work.photos == session.job.work.photos
    assert session.workshop.job(session.job.batch.id, pictures=False).work.photos[0].artwork.content == b""
    session.undo()
    assert len(session.job.work.photos) == 1
    task = session.plan.route.open[0]  # type: ignore[union-attr]
    bench = BenchWindow(window, session, task)
    bench.take_photo(photos[1])
    assert session.job.work.photos[-1].task == task.key
    bench.close()


def test_escape_asks_before_it_drops_photos_and_marks(
    sheet: PhotoSheet, qtbot: QtBot, asked: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sheet_module, "ask", lambda *_: asked.append("kept"))
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert sheet.isVisible()
    assert asked == ["kept"]
    monkeypatch.setattr(sheet_module, "ask", lambda *_: 0)
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert not sheet.isVisible()
    plain = PhotoSheet(None, PhotoStep(), Units())
    qtbot.addWidget(plain)
    plain.show()
    qtbot.keyClick(plain, Qt.Key.Key_Escape)
    assert not plain.isVisible()
    assert asked == ["kept"], "nothing was changed on it"


def test_escape_leaves_the_looking_for_white_and_saving_waits_for_a_photo(
    sheet: PhotoSheet, qtbot: QtBot, photos: list[Path]
) -> None:
    sheet.buttons["white"].click()
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert sheet.isVisible()
    assert sheet.photo.mode == "corners"
    # Saved while a third photo is read: it is waited for, not lost.
    sheet.take(photos[:1])
    if sheet.searches.is_busy():
        sheet.accept()
        assert sheet.isVisible()
    qtbot.waitUntil(lambda: len(sheet.step.views) == 3 and not sheet.searches.is_busy())
    sheet.accept()
    qtbot.waitUntil(lambda: sheet.result() == QDialog.DialogCode.Accepted)
    assert [view.face for view in sheet.step.views] == ["A", "B", "C"]
