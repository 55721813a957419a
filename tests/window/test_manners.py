"""Everyday manners: any screen, words people know, files let fall on the window, help and copies at hand."""

from __future__ import annotations

import threading
from functools import partial
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QAccessible, QColor, QDropEvent, QGuiApplication, QImage
from PySide6.QtPrintSupport import QPrintPreviewDialog
from PySide6.QtWidgets import QApplication, QDialog, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from orvek.commands import line
from orvek.documents import SolidStep, deeds, to_text
from orvek.planning import Station
from orvek.store import demo_job
from orvek.window import main_window, one_window, places, theme
from orvek.window.backups_dialog import BackupsDialog
from orvek.window.command_palette import CommandPalette, found
from orvek.window.frame import Frame
from orvek.window.help_window import HelpWindow, sections, show_help
from orvek.window.job_list import _PICTURE
from orvek.window.log_dialog import LogDialog
from orvek.window.main_window import MainWindow
from orvek.window.one_window import handed_over, listen, socket_path
from orvek.window.slab.dialog import SlabDialog
from orvek.window.slab.source import CastingSlab
from orvek.window.stations.blank.designs_dialog import DesignsDialog
from orvek.window.stations.blank.section_dialog import SectionDialog
from orvek.window.stations.blank.stretch_dialog import StretchDialog
from orvek.window.stations.pen.sharing_dialog import SharingDialog
from orvek.window.stations.timetable.hours_dialog import HoursDialog
from orvek.window.widgets.document_sheet import DocumentSheet
from orvek.window.widgets.fields import FigureValue
from orvek.window.widgets.opening import SuggestionRow
from orvek.window.widgets.outlines import focus_stops
from tests.window.conftest import Opener
from tests.window.test_every_page import name_of


def test_findings_fold_to_their_marks_where_there_is_little_room(window: MainWindow) -> None:
    window.frame.resize(1280, 800)
    QApplication.processEvents()
    assert not window.findings.is_folded()
    assert window.findings.fold_button.isHidden()
    window.frame.resize(1000, 640)
    QApplication.processEvents()
    assert window.findings.is_folded()
    narrow = window.findings.width()
    assert "2 × caution" in window.findings._marks.accessibleName()
    window.findings._marks.click()
    assert window.findings.width() > 5 * narrow
    window.findings.fold_button.click()
    assert window.findings.width() == narrow


def test_how_the_window_is_left_is_how_it_comes_back(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(
        places, "settings", lambda: places.QSettings(str(tmp_path / "window.ini"), places.QSettings.Format.IniFormat)
    )
    fresh = Frame()
    assert places.put_back(fresh) == ""
    window.frame.resize(798, 717)  # the screen of the tests is 800 wide
    window.open_named("cure")
    window.findings.draw_to(340)
    QApplication.processEvents()
    window.remembers = True
    window.frame.close()
    again = Frame()
    assert places.put_back(again) == "cure"
    assert places.findings_width() == 340
    assert (again.width(), again.height()) == (798, 717)
    (tmp_path / "window.ini").write_text("[General]\ngeometry=nonsense\n")
    assert places.put_back(Frame()) == ""


WORDS = {
    "ask": "save print open new export import delete remove help quit exit undo redo copy duplicate rename search",
    "thing": "settings preferences units backup step design mould resin pen saw glue cure colour manual report job",
    "otherwise": "mold color stabilize licence shortcuts keyboard invoice scale",
}


def test_an_everyday_word_finds_a_command(window: MainWindow) -> None:
    assert not found("undo", window.menus.commands()), "what cannot be done is not offered"
    for pens in (3, 4):
        window.session.edit(("batch", "pens_wanted"), pens, "Good pens wanted")
    window.session.undo()
    commands = window.menus.commands()
    assert not [word for word in " ".join(WORDS.values()).split() if not found(word, commands)]


def test_every_menu_has_its_letter_and_no_letter_twice(window: MainWindow) -> None:
    for menu in [window.frame.menuBar(), *(action.menu() for action in window.frame.menuBar().actions())]:
        letters = [text[text.index("&") + 1].lower() for action in menu.actions() if "&" in (text := action.text())]
        assert len(letters) == len(set(letters)), letters
    assert all("&" in action.text() for action in window.frame.menuBar().actions())


def test_enter_and_space_press_what_looks_like_a_button(window: MainWindow, qtbot: QtBot) -> None:
    value = next(one for one in window.at("Pen").findChildren(FigureValue) if one.figure() is not None)
    opened: list[bool] = []
    value.clicked.connect(lambda: opened.append(True))
    for key in (Qt.Key.Key_Return, Qt.Key.Key_Space):
        qtbot.keyClick(value, key)
        for popup in QApplication.topLevelWidgets():
            if popup.isVisible() and popup is not window.frame:
                popup.close()
    assert len(opened) == 2
    for station, key in ((Station.BLANK, Qt.Key.Key_Return), (Station.TODAY, Qt.Key.Key_Space)):
        qtbot.keyClick(window.rail.buttons[station], key)
        assert window.station is station


def test_a_job_file_let_fall_on_the_window_is_opened(window: MainWindow, tmp_path: Path) -> None:
    job = demo_job()
    file = tmp_path / "let fall.orvek.json"
    file.write_text(to_text(job.with_(batch=job.batch.with_(id="0123456789ab", name="Let fall"))), encoding="utf-8")
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(file))])
    action, button = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    event = QDropEvent(QPointF(300, 300), action, mime, button, Qt.KeyboardModifier.NoModifier)
    window.dropEvent(event)
    assert window.session.job.batch.name == "Let fall"
    picture = tmp_path / "no job.txt"
    picture.write_bytes(b"\x89PNG")
    mime.setUrls([QUrl.fromLocalFile(str(picture))])
    window.dropEvent(QDropEvent(QPointF(300, 300), action, mime, button, Qt.KeyboardModifier.NoModifier))
    assert window.session.job.batch.name == "Let fall"
    assert window.notice.text(), "what is no job is said"


@pytest.mark.parametrize(
    ("given", "file"),
    [
        (["some.orvek.json"], "some.orvek.json"),
        (["--workshop", "w.sqlite", "--demo", "some.orvek.json"], "some.orvek.json"),
        (["report", "some.orvek.json"], None),
        (["--station", "pour"], None),
        (["orvek"], None),
        ([], None),
    ],
)
def test_a_file_manager_opens_a_file(given: list[str], file: str | None) -> None:
    rest, found_file = line._job_file_in(given)
    assert (str(found_file) if found_file else None) == file
    assert rest == [word for word in given if word != file]


def test_without_a_runtime_folder_the_line_lies_in_one_of_the_makers_own(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv("XDG_RUNTIME_DIR", raising=False)
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    server = listen(window, tmp_path / "w.sqlite", lambda _: None)
    folder = socket_path(tmp_path / "w.sqlite").parent
    assert server.isListening()
    assert folder.stat().st_mode & 0o777 == 0o700
    server.close()
    folder.rmdir()
    folder.symlink_to(tmp_path)  # as somebody else would lay one there
    assert not listen(window, tmp_path / "w.sqlite", lambda _: None).isListening()


def test_a_second_start_brings_the_window_forward_with_its_file(
    window: MainWindow, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    monkeypatch.setattr(one_window, "_WAIT_S", 300.0)  # on a busy machine a window may take long to answer
    workshop, got = tmp_path / "w.sqlite", []
    assert not handed_over(workshop, {"file": "x"}), "nobody is there"
    server = listen(window, workshop, got.append)
    answers: list[bool] = []
    asking = threading.Thread(target=lambda: answers.append(handed_over(workshop, {"file": "a.orvek.json"})))
    asking.start()
    qtbot.waitUntil(lambda: bool(got))
    asking.join()
    assert (got, answers) == ([{"file": "a.orvek.json"}], [True])
    assert socket_path(workshop) == socket_path(tmp_path / "." / "w.sqlite") != socket_path(tmp_path / "v.sqlite")
    monkeypatch.setattr("orvek.window.one_window._uid_of", lambda _handle: 12345)
    assert not handed_over(workshop, {"file": "b.orvek.json"}), "another user's window is told nothing"
    monkeypatch.undo()
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    server.close()
    socket_path(workshop).write_text("left behind by one that was killed")
    assert not handed_over(workshop, {})
    listen(window, workshop, got.append).close()


def test_a_written_file_can_be_opened_and_found(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened: list[str] = []
    monkeypatch.setattr(main_window.QDesktopServices, "openUrl", lambda url: opened.append(url.toLocalFile()) or True)
    window.cards.write("pour", tmp_path / "card.pdf")
    assert (window.notice.button.text(), window.notice.second.text()) == ("Open it", "Show the folder")
    window.notice.second.click()
    window.notice.button.click()
    assert opened == [str(tmp_path), str(tmp_path / "card.pdf")]
    monkeypatch.setattr(main_window.QDesktopServices, "openUrl", lambda _url: False)
    window.cards.write("pour", tmp_path / "card.pdf")
    window.notice.button.click()
    assert "No program on this computer opens card.pdf" in window.notice.text()


def test_the_code_on_a_card_opens_its_job() -> None:
    assert line._job_file_in(["orvek:job:0123456789ab"]) == (["--job", "0123456789ab"], None)
    assert line._job_file_in(["--demo", "0123456789ab"]) == (["--demo", "--job", "0123456789ab"], None)


def _contrast(one: QColor, other: QColor) -> float:
    """Contrast of two colours, 1 to 21 (WCAG 2)."""

    def light(colour: QColor) -> float:
        parts = [v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in colour.getRgbF()[:3]]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    high, low = sorted((light(one), light(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("evening", [False, True])
def test_words_stand_out_on_both_grounds(evening: bool) -> None:
    theme.set_ground(evening=evening)
    try:
        for ground in (theme.PAPER, theme.PANEL):
            for words in (theme.INK, theme.QUIET, theme.ACCENT, theme.STOP, theme.CAUTION, theme.BRASS_DARK):
                assert _contrast(words, ground) >= 4.5, (words.name(), ground.name())
        assert _contrast(theme.PANEL, theme.ACCENT) >= 4.5, "what is chosen in a menu"
    finally:
        theme.set_ground(evening=False)
    assert theme.PAPER.name() == "#f5f2eb"


def test_the_ground_is_chosen_and_kept(window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(
        places, "settings", lambda: places.QSettings(str(tmp_path / "window.ini"), places.QSettings.Format.IniFormat)
    )
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    for wanted, evening in (("dark", True), ("light", False)):
        window.menus._grounds[wanted].trigger()
        assert places.ground() == wanted
        assert places.is_evening(application) is evening
        assert [name for name, action in window.menus._grounds.items() if action.isChecked()] == [wanted]
        assert (theme.INK.lightness() > 128) is evening
        assert window.rail.palette().color(window.rail.backgroundRole()) == theme.PANEL
        assert theme.INK.name() in window.rail.head.name.styleSheet(), "at once, not at the next start"
    places.set_ground("purple")
    assert places.ground() == "as the desktop"


def test_help_opens_at_the_station_and_is_searched(window: MainWindow) -> None:
    help_ = show_help(window, Station.POUR)
    assert "drilled on Sunday" in help_.text.toPlainText()
    assert show_help(window, Station.BLANK) is help_, "one window"
    assert help_.text.toPlainText().startswith("Blank")
    help_.search.setText("backup")
    assert 0 < len(help_.titles()) < len(sections())
    assert "ackup" in help_.text.toPlainText()
    help_.search.setText("zzzz")
    assert help_.titles() == []
    assert "Nothing in the help" in help_.text.toPlainText()
    for station in Station:
        help_.search.clear()
        assert show_help(window, station).list.currentItem() is not None
    assert isinstance(help_, HelpWindow)


def test_what_is_said_can_be_copied(window: MainWindow) -> None:
    window.menus._copy_findings()
    text = QGuiApplication.clipboard().text()
    assert all(finding.title in text for finding in window.session.plan.findings)
    window.menus._copy_report()
    assert window.session.job.batch.name in QGuiApplication.clipboard().text()
    window.menus._copy_picture()
    assert not QGuiApplication.clipboard().image().isNull()


class Keyboard:
    """A maker without a mouse: Tab until something is reached by its name, then Enter."""

    def __init__(self, window: MainWindow, qtbot: QtBot) -> None:
        self._window, self._qtbot = window, qtbot

    def reach(self, words: str) -> QWidget:
        """Tab until the focus is on something whose name holds these words."""
        window = self._window
        for _ in range(200):
            focused = window.frame.focusWidget() or window
            if words in name_of(focused) or words in getattr(focused, "text", str)():
                return focused
            self._qtbot.keyClick(focused, Qt.Key.Key_Tab)
            QApplication.processEvents()
        raise AssertionError(f"{words} is not reached by Tab")

    def press(self, words: str) -> None:
        """Reach it and press Enter."""
        self._qtbot.keyClick(self.reach(words), Qt.Key.Key_Return)
        QApplication.processEvents()

    def type_into(self, words: str, text: str) -> None:
        """Reach a field, write over what stands there, Enter."""
        field = self.reach(words)
        self._qtbot.keyClick(field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        self._qtbot.keyClicks(field, text)
        self._qtbot.keyClick(field, Qt.Key.Key_Return)
        QApplication.processEvents()


def test_from_an_empty_workshop_to_a_card_without_a_mouse(
    open_window: Opener, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window()
    window.frame.activateWindow()
    hands = Keyboard(window, qtbot)
    hands.press("Pen, ")
    hands.press("Two barrels")
    assert window.session.job.pen is not None
    first = window.session.job.pen.barrels[0].name
    hands.type_into(f"{first}: tube length", "52.5 mm")
    assert window.session.job.pen.barrels[0].tube_length_mm == 52.5
    hands.press("Pour, ")
    hands.press("Tray of six bars")
    assert window.session.job.pour.mould is not None
    hands.press("epoxy")
    assert window.session.job.pour.resin is not None
    hands.press("Black paste")
    assert window.session.job.cast.cups
    printed: list[str] = []
    monkeypatch.setattr(QPrintPreviewDialog, "exec", lambda dialog: printed.append(dialog.windowTitle()))
    palette = CommandPalette(window, window.menus.commands())
    qtbot.addWidget(palette)
    qtbot.keyClicks(palette._line, "print pour")
    qtbot.keyClick(palette._line, Qt.Key.Key_Return)
    assert printed == ["Print: New job, pour card"]
    assert not window.notice.text()


def test_new_jobs_have_names_of_their_own_and_their_day(window: MainWindow) -> None:
    for _ in range(3):
        window.session.new_job()
    names = [entry.name for entry in window.session.jobs()]
    assert {"New job", "New job 2", "New job 3"} <= set(names)
    assert len(set(names)) == len(names)
    tips = [window.rail.jobs.list.item(row).toolTip() for row in range(window.rail.jobs.list.count())]
    assert all("changed" in tip and any(year in tip for year in ("20", "19")) for tip in tips)
    before = window.session.job.batch.name
    window.rail.jobs.list.keyboardSearch("Rope")
    assert window.rail.jobs.list.currentItem().text().startswith("Rope"), "typed letters find a job"
    assert window.session.job.batch.name == before


def test_a_job_is_found_in_a_long_list_and_seen_in_it(window: MainWindow, qtbot: QtBot) -> None:
    jobs = window.rail.jobs
    assert jobs.search.isHidden(), "two jobs are found by looking"
    for _ in range(6):
        window.session.new_job()
    assert not jobs.search.isHidden()
    qtbot.keyClicks(jobs.search, "tide")
    assert [jobs.list.item(row).text() for row in range(jobs.list.count())] == ["Tideline"]
    window.surface.wait()
    qtbot.waitUntil(lambda: isinstance(jobs.list.item(0).data(_PICTURE), QImage))
    assert "caution" in jobs.list.item(0).toolTip()
    jobs.list.itemActivated.emit(jobs.list.item(0))
    assert window.session.job.batch.name == "Tideline"


def test_dead_ends_have_a_way_on(window: MainWindow) -> None:
    """Nothing is sawn, nothing is cast: a button leads to where that can be changed."""
    window.open_station(Station.GLUE_UP)
    rows = [row for row in window.at("Glue-up").findChildren(SuggestionRow) if row.isVisible()]
    assert [row.accessibleName() for row in rows] == ["Go to Blank"]
    rows[0].click()
    assert window.station is Station.BLANK
    window.session.attempt("Solid", lambda job: deeds.set_steps(job, (SolidStep(),)))
    window.open_station(Station.POUR)
    rows = [row for row in window.at("Pour").findChildren(SuggestionRow) if row.isVisible()]
    assert [row.accessibleName() for row in rows] == ["Pour a casting", "Go to Blank"]
    rows[0].click()
    assert window.session.job.cast_index == 0
    window.session.undo()
    assert window.session.job.blank.steps == (SolidStep(),)


def _dialogs(window: MainWindow) -> list[QDialog]:
    session = window.session
    return [
        BackupsDialog(window, session),
        CommandPalette(window, window.menus.commands()),
        DesignsDialog(window, session, window.surface),
        DocumentSheet(window, "Preferences", session.shop.preferences, session.units, session.shop),
        HelpWindow(window),
        LogDialog(window),
        SectionDialog(window, session, window.surface),
        SharingDialog(window, session),
        SlabDialog(window, CastingSlab(session.plan), session.units, window.surface),
        StretchDialog(window, session, window.surface),
    ]


def test_every_dialog_can_be_used_by_keyboard_and_by_ear(window: MainWindow, qtbot: QtBot) -> None:
    """Each stop has a name and a role, something has the focus, and Escape closes it."""
    dumb = {QAccessible.Role.NoRole, QAccessible.Role.Client}
    for dialog in _dialogs(window):
        qtbot.addWidget(dialog)
        dialog.show()
        QApplication.processEvents()
        stops = focus_stops([dialog])
        assert stops, type(dialog)
        for stop in stops:
            told = QAccessible.queryAccessibleInterface(stop)
            assert told is not None
            assert told.text(QAccessible.Text.Name), (type(dialog).__name__, stop)
            assert told.role() not in dumb, (type(dialog).__name__, stop)
        qtbot.keyClick(dialog, Qt.Key.Key_Escape)
        assert not dialog.isVisible(), type(dialog)


def test_return_in_a_sheet_presses_nothing_that_nobody_chose(window: MainWindow, qtbot: QtBot) -> None:
    sheet = HoursDialog(window, window.session)
    qtbot.addWidget(sheet)
    pressed: list[str] = []
    for button in sheet.findChildren(QPushButton):
        button.clicked.connect(partial(pressed.append, button.text()))
    sheet.show()
    for cell in (sheet.cells[0, "from_h"], sheet.off):
        cell.setFocus()
        qtbot.keyClick(cell, Qt.Key.Key_Return)
    assert pressed == []
    assert sheet.isVisible()
    sheet.close_button.setFocus()
    qtbot.keyClick(sheet.close_button, Qt.Key.Key_Return)
    assert pressed == ["Close"]
