"""What can be taken out of the window: any picture, a figure with its working, the report; other workshops in."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QPoint
from PySide6.QtGui import QContextMenuEvent, QGuiApplication, QHelpEvent, QImage
from PySide6.QtWidgets import QApplication, QFileDialog

from orvek.stations import Station
from orvek.store import open_workshop
from orvek.window import main_window
from orvek.window.main_window import MainWindow
from orvek.window.picture_menu import picture_at, picture_bytes
from orvek.window.widgets.fields import FigureValue, QuantityEdit
from orvek.window.widgets.working_popup import WorkingPopup


def test_every_picture_has_a_menu(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    shown: list[list[str]] = []
    of_picture = window.picture_menu.menu
    told = lambda picture, _place: shown.append([one.text() for one in of_picture(picture).actions()])  # noqa: E731
    monkeypatch.setattr(window.picture_menu, "open", told)
    window.open_named("blank")
    QApplication.processEvents()
    for picture in (window.at("Blank").turned, window.strip):
        middle = picture.mapTo(window, picture.rect().center())
        event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, middle, window.mapToGlobal(middle))
        QApplication.sendEvent(window, event)
    assert shown == [["&Copy this picture", "&Save it as PNG…", "Save it as S&VG…"]] * 2
    assert picture_at(window.rail) is None
    window.strip.setFocus()
    by_key = QContextMenuEvent(QContextMenuEvent.Reason.Keyboard, QPoint(0, 0), QPoint(0, 0))
    QApplication.sendEvent(window, by_key)
    assert len(shown) == 3


def test_a_picture_is_copied_and_saved_as_it_is_seen(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.open_station(Station.BLANK)
    actions = window.picture_menu.menu(window.strip).actions()
    actions[0].trigger()
    assert QGuiApplication.clipboard().image().size() == window.strip.size()
    for action, ending in zip(actions[1:], (".png", ".svg"), strict=True):
        place = tmp_path / f"strip{ending}"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, p=place: (str(p.with_suffix("")), ""))
        action.trigger()
        assert place.read_bytes() == picture_bytes(window.strip, ending)
    assert QImage(str(tmp_path / "strip.png")).width() == window.strip.width()
    assert "14.6 mm" in (tmp_path / "strip.svg").read_text(), "words stay words"


def test_a_figure_is_copied_with_its_working(window: MainWindow) -> None:
    value = next(one for one in window.at("Pen").findChildren(FigureValue) if one.figure() is not None)
    value.click()
    popup = next(one for one in QApplication.topLevelWidgets() if isinstance(one, WorkingPopup) and one.isVisible())
    popup.copy.click()
    copied = QGuiApplication.clipboard().text()
    assert copied.splitlines()[0] == value.figure().label
    assert value.figure().formula in copied
    assert value.figure().source in copied
    popup.close()


def test_a_finding_is_copied(window: MainWindow) -> None:
    window.open_station(Station.POUR)
    view = window.findings._views[0]
    view.copy_action.trigger()
    finding = window.session.plan.findings[0]
    assert QGuiApplication.clipboard().text() == f"{finding.severity.value}: {finding.title} {finding.because}"


@pytest.mark.parametrize(
    ("ending", "holds"), [(".txt", b"Resin to pour"), (".html", b"<h2>Pen</h2>"), (".pdf", b"%PDF")]
)
def test_the_report_is_written(window: MainWindow, tmp_path: Path, ending: str, holds: bytes) -> None:
    window.cards.write("report", tmp_path / f"report{ending}")
    assert holds in (tmp_path / f"report{ending}").read_bytes()


def test_another_workshop_is_opened_in_the_window(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = window.session.workshop.path
    other = tmp_path / "other"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (str(other), ""))
    window.menus._open_workshop()
    assert window.session.workshop.path == other.with_suffix(".sqlite")
    assert [one.id for one in window.session.jobs()] == [window.session.job.batch.id], "an empty job is begun there"
    assert "Tideline" not in {one.name for one in window.session.jobs()}
    assert window.session.others.of(window.session.job.batch.id) == (), "nor is it among the other jobs"
    window.session.edit(("batch", "pens_wanted"), 3, "Good pens wanted")
    before = open_workshop(first)
    assert before.is_writable, "the first was let go"
    assert {one.name for one in before.jobs()} == {"Tideline", "Ropewalk", "Driftwood"}, "and lost nothing"
    before.close()
    text = tmp_path / "no workshop.sqlite"
    text.write_text("nothing of the kind")
    assert not window.session.open_workshop(text)
    assert window.session.workshop.path == other.with_suffix(".sqlite")
    assert window.notice.text()
    assert text.read_text() == "nothing of the kind"


def test_what_is_this_explains_a_field_and_a_picture(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    told: list[str] = []
    monkeypatch.setattr(main_window.QWhatsThis, "showText", lambda _at, words, _window: told.append(words))
    place = window.strip.mapTo(window, window.strip.rect().center())
    QApplication.sendEvent(window, QHelpEvent(QEvent.Type.WhatsThis, place, window.mapToGlobal(place)))
    assert told[0].startswith("The blank, with its tubes")
    field = next(one for one in window.at("Pen").findChildren(QuantityEdit) if one.isVisible())
    assert "mm" in field.whatsThis()
    window.menus._set_length_unit("inch fraction")
    assert " in" in field.whatsThis(), "in the maker's units as they are now"
    assert "mm" not in field.toolTip()
