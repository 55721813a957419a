"""A monkey at the bench: clicks, nonsense, drags, undo, other jobs, dialogs, in any order. Nothing breaks, all is kept.

Each run is a seed, so that what it finds can be found again.
"""

from __future__ import annotations

import logging
import os
import random
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from types import TracebackType

import pytest
from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QDialog,
    QFileDialog,
    QLineEdit,
    QListWidget,
    QMenu,
    QWidget,
)

from orvek.planning import Station
from orvek.store import open_workshop
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
from orvek.window.strip import Strip
from tests.window.conftest import Opener

ACTIONS = 200
_WORDS = (
    *("0.3", "0", "-1", "banana", "19/64", "1e9", "12 am", "=1+1", "<b>x</b>", "5000", "0.04 0.04 0.04", "1 8 1"),
    *("", "   ", "20", "130 mm", "70 F", "2 h 30", "18:30", "50 %", "a" * 300, "\u202e!", "½", "3,5", "99999999999"),
)
# What leaves the window: it would end the test, or open another program.
_NOT_PRESSED = {"Quit", "Show the folder", "Show the workshop's folder", "Open it"}


def _words(thing: QAction | QAbstractButton) -> str:
    return thing.text().replace("&", "")


class Monkey:
    """One seeded hand on one window."""

    def __init__(self, window: MainWindow, seed: int) -> None:
        self.window, self.chance = window, random.Random(seed)
        self.done: list[str] = []

    def act(self) -> None:
        """Do one thing, whatever it is."""
        deeds: tuple[Callable[[], None], ...] = (
            self.type, self.type, self.type, self.click, self.click, self.drag, self.undo, self.redo, self.station,
            self.other_job, self.menu, self.remedy, self.press_keys, self.popup,
        )  # fmt: skip
        deed = self.chance.choice(deeds)
        self.done.append(deed.__name__)
        QTimer.singleShot(0, self.leave_dialog)
        deed()
        QApplication.processEvents()
        self.leave_dialog()

    def type(self) -> None:
        lines = self.seen(QLineEdit)
        if lines:
            line = self.chance.choice(lines)
            line.setFocus()
            line.selectAll()
            words = self.chance.choice(_WORDS)
            if words.isascii():
                QTest.keyClicks(line, words)
            else:
                line.insert(words)  # no key of a plain keyboard gives these: pasted
                line.setModified(True)
            QTest.keyClick(line, self.chance.choice([Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Escape]))

    def click(self) -> None:
        buttons = [b for b in self.seen(QAbstractButton) if _words(b) not in _NOT_PRESSED and not _menu_of(b)]
        if buttons:
            self.chance.choice(buttons).click()

    def popup(self) -> None:
        menus = [menu for button in self.seen(QAbstractButton) if (menu := _menu_of(button)) is not None]
        if menus:
            menu = self.chance.choice(menus)
            menu.aboutToShow.emit()
            self.choose(menu)

    def choose(self, menu: QMenu) -> None:
        actions = [a for a in menu.actions() if a.isEnabled() and not a.isSeparator() and _words(a) not in _NOT_PRESSED]
        if actions:
            action = self.chance.choice(actions)
            if action.menu() is not None:
                self.choose(action.menu())
            else:
                self.done.append(action.text())
                action.trigger()

    def menu(self) -> None:
        action = self.chance.choice(self.window.menus.actions())
        if action.isEnabled() and _words(action) not in _NOT_PRESSED:
            self.done.append(action.text())
            action.trigger()

    def drag(self) -> None:
        pictures = [w for w in self.seen(QWidget) if isinstance(w, Strip) or w.cursor().shape() != Qt.ArrowCursor]
        if not pictures:
            return
        widget = self.chance.choice(pictures)
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=self.somewhere(widget))
        for _ in range(3):
            QTest.mouseMove(widget, self.somewhere(widget))
            QApplication.processEvents()
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=self.somewhere(widget))

    def press_keys(self) -> None:
        keys = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Space, Qt.Key.Key_Delete, Qt.Key.Key_Return)
        focused = QApplication.focusWidget() or self.window
        QTest.keyClick(focused, self.chance.choice(keys))

    def undo(self) -> None:
        for _ in range(self.chance.randint(1, 4)):
            self.window.session.undo()

    def redo(self) -> None:
        self.window.session.redo()

    def station(self) -> None:
        self.window.open_station(self.chance.choice(list(Station)))

    def other_job(self) -> None:
        lists = [w for w in self.seen(QListWidget) if w.count()]
        if lists:
            chosen = self.chance.choice(lists)
            chosen.itemClicked.emit(chosen.item(self.chance.randrange(chosen.count())))

    def remedy(self) -> None:
        remedies = [remedy for finding in self.window.session.plan.findings for remedy in finding.remedies]
        if remedies:
            self.window.session.remedy(self.chance.choice(remedies))

    def leave_dialog(self) -> None:
        """Press something in a dialog that is open, or close it."""
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QDialog):
            buttons = [b for b in dialog.findChildren(QAbstractButton) if b.isVisible() and b.isEnabled()]
            buttons = [b for b in buttons if _words(b) not in _NOT_PRESSED and not _menu_of(b)]
            if buttons and self.chance.random() < 0.5:
                QTimer.singleShot(0, self._leave_all)
                self.chance.choice(buttons).click()
            else:
                dialog.reject()
        popup = QApplication.activePopupWidget()
        if popup is not None:
            popup.close()

    def _leave_all(self) -> None:
        """Close the dialog that is open, and then the one it was opened from: a printer's asks for a file."""
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QDialog):
            QTimer.singleShot(0, self._leave_all)
            dialog.reject()

    def seen(self, kind: type) -> list:
        return [w for w in self.window.frame.findChildren(kind) if w.isVisible() and w.isEnabled()]

    def somewhere(self, widget: QWidget) -> QPoint:
        return QPoint(self.chance.randrange(max(1, widget.width())), self.chance.randrange(max(1, widget.height())))


def _menu_of(button: QAbstractButton) -> QMenu | None:
    found = getattr(button, "menu", None)
    return found() if callable(found) else None


@pytest.fixture
def faults(monkeypatch: pytest.MonkeyPatch) -> Iterator[list[str]]:
    """Tracebacks of the window's slots, and whatever Orvek wrote to its log as a fault."""
    found: list[str] = []

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        import traceback

        found.append("".join(traceback.format_exception(kind, error, trace)))

    class Listener(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            found.append(self.format(record))

    listener = Listener(logging.ERROR)
    monkeypatch.setattr(sys, "excepthook", hook)
    logging.getLogger("orvek").addHandler(listener)
    yield found
    logging.getLogger("orvek").removeHandler(listener)


@pytest.mark.parametrize("seed", [1, *(pytest.param(n, marks=pytest.mark.long) for n in range(2, 23))])
def test_nothing_breaks_and_everything_is_kept(
    open_window: Opener, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, faults: list[str], seed: int
) -> None:
    """A run of 300 actions, of 150 every day; then the workshop is opened again and holds what the window showed."""
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "nowhere.csv"), ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (str(tmp_path / "out"), ""))
    window = open_window(demo=True)
    monkey = Monkey(window, seed)
    for number in range(ACTIONS if seed > 2 else ACTIONS // 2):
        monkey.act()
        assert not faults, f"seed {seed}, action {number} of {monkey.done[-6:]}:\n{faults[0]}"
    session = window.session
    assert session.unsaved == 0
    job, shop, names = session.job, session.shop, session.jobs()
    window.frame.close()
    again = Session(open_workshop(session.workshop.path))
    assert again.workshop.job(job.batch.id) == job
    assert again.shop == shop
    assert again.jobs() == names
    again.workshop.close()


_DRIVEN = """
import random, sys
from pathlib import Path
from orvek.window.application import make_application
application = make_application()
from orvek.store import fill_with_demo, open_workshop
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
from tests.window.test_monkey import Monkey
workshop = open_workshop(Path(sys.argv[1]))
fill_with_demo(workshop)
window = MainWindow(Session(workshop))
window.frame.show()
chance = random.Random(int(sys.argv[2]))
session = window.session
for number in range(100_000):
    session.edit(("batch", "pens_wanted"), 1 + number % 900, "Good pens wanted")
    if number % 7 == 0:
        Monkey(window, number).drag()
    print(session.job.batch.id, session.job.batch.pens_wanted, flush=True)
"""


@pytest.mark.parametrize("seed", [0, *(pytest.param(n, marks=pytest.mark.long) for n in range(1, 30))])
def test_a_driven_window_that_is_killed_loses_at_most_the_change_in_hand(workshop_path: Path, seed: int) -> None:
    root = Path(__file__).parents[2]
    process = subprocess.Popen(
        [sys.executable, "-c", _DRIVEN, str(workshop_path), str(seed)],
        stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, cwd=root,
        env={**os.environ, "PYTHONPATH": str(root)},
    )  # fmt: skip
    assert process.stdout is not None
    for _ in range(random.Random(seed).randint(1, 60)):
        told = process.stdout.readline().split()
    process.kill()
    told = ([told, *(line.split() for line in process.stdout.read().splitlines() if len(line.split()) == 2)])[-1]
    process.wait()
    process.stdout.close()
    again = Session(open_workshop(workshop_path))
    assert not again.notes
    assert again.workshop.job(told[0]).batch.pens_wanted in {int(told[1]), int(told[1]) % 900 + 1}
    again.workshop.close()
