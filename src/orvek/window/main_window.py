"""What fills the frame: rail, station, findings, and the strip under them; menus; the line that says what went wrong.

A station is a widget with `show_plan(plan)`; a new one is one more entry in stations/table.py.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, TypeVar

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QPushButton,
    QStackedWidget,
    QWidget,
)

from orvek import __version__
from orvek.documents import SUFFIX, deeds
from orvek.documents.deeds import set_preference
from orvek.errors import OrvekError
from orvek.files import safe_name
from orvek.planning import Plan, Station
from orvek.quantities import LengthUnit
from orvek.shop import back_up
from orvek.window import theme
from orvek.window.card_writer import CARDS, CardWriter
from orvek.window.findings_panel import FindingsPanel
from orvek.window.frame import Frame
from orvek.window.rail import Rail
from orvek.window.session import Session
from orvek.window.stations.table import STATIONS
from orvek.window.strip import Strip
from orvek.window.surface import Surface
from orvek.window.widgets.asking import ask, tell
from orvek.window.widgets.label import Label, without_shortcut
from orvek.window.widgets.naming import ask_name

T = TypeVar("T")
_LOG = logging.getLogger(__name__)

_SAID_FOR_MS = 12000
_LOOK_AGAIN_MS = 2000


class Notice(QWidget):
    """One line over the station: what went wrong, or what was done."""

    def __init__(self) -> None:
        super().__init__()
        self._words = Label()
        self._words.setWordWrap(True)
        self._words.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 500))
        self.button = QPushButton()
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 8, 24, 8)
        row.addWidget(self._words, 1)
        row.addWidget(self.button)
        self.setAutoFillBackground(True)
        palette = self.palette()
        palette.setColor(self.backgroundRole(), theme.PANEL)
        self.setPalette(palette)
        self.hide()

    def say(self, words: str, button: str = "") -> None:
        """Show a sentence; an empty one takes the line away."""
        self._words.setText(words)
        self.button.setText(button)
        self.button.setVisible(bool(button))
        self.setVisible(bool(words))

    def text(self) -> str:
        """What is said now."""
        return self._words.text() if not self.isHidden() else ""


class MainWindow(QWidget):
    """Everything in Orvek's one window, showing one session."""

    def __init__(self, session: Session, frame: Frame | None = None) -> None:
        super().__init__()
        self.session = session
        self.frame = frame or Frame()
        self.surface = Surface()
        self.rail, self.findings, self.strip = Rail(), FindingsPanel(), Strip(self.surface)
        self.cards = CardWriter(session, self)
        self._built: dict[Station, QWidget] = {}
        self.station = STATIONS[0].station
        self.has_ended = True  # after closing: whether nothing is left that still computes
        self._stack = QStackedWidget()
        self.notice, self.keeping = Notice(), Notice()
        self._said_deed: Callable[[], None] | None = None
        self._seen = 0
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(lambda: self.notice.say(""))
        self._lay_out()
        self._build_menus()
        self._connect()
        self.frame.setCentralWidget(self)
        self.frame.may_close = self._may_close
        self.show_plan(session.plan)
        self.rail.show_jobs(session.jobs(), session.job.batch.id)
        self._watch_file()
        if session.notes:
            self.say(" ".join(session.notes[:3]), stays=True)

    def open_station(self, station: Station) -> None:
        """Go to a station; it is built when it is opened for the first time."""
        if station is not self.station:
            leave = getattr(self._built.get(self.station), "leave", None)
            if leave is not None:
                leave()
        self.station = station
        self._stack.setCurrentWidget(self.at(station))
        self.show_plan(self.session.plan)

    def at(self, station: Station | str) -> Any:
        """The widget of a station, by itself or by its name; built now where it was not open yet."""
        entry = next(entry for entry in STATIONS if station in (entry.station, entry.station.value))
        if entry.station not in self._built:
            made = entry.build(self.session, self.surface)
            self._built[entry.station] = made
            self._stack.addWidget(made)
        return self._built[entry.station]

    def open_named(self, name: str) -> None:
        """Go to a station, or one of its pages, by its name as it is typed in a command."""
        for entry in STATIONS:
            if name in entry.pages:
                self.open_station(entry.station)
                self.at(entry.station).open_page(name)
            elif name == entry.station.value.lower():
                self.open_station(entry.station)

    def show_plan(self, plan: Plan) -> None:
        """Hand a plan to everything that shows one."""
        self.frame.setWindowTitle(f"{plan.job.batch.name} – Orvek".replace("[*]", "[*][*]"))
        guarded = self._shown
        guarded("the rail", lambda: self.rail.show_plan(plan, self.station))
        writable = self.session.workshop.is_writable
        guarded("the findings", lambda: self.findings.show_plan(plan, writable=writable))
        guarded("the strip", lambda: self.strip.show_plan(plan, self.session.units))
        guarded(f"the station {self.station.value}", lambda: self.at(self.station).show_plan(plan))

    def _shown(self, what: str, show: Callable[[], T]) -> T | None:
        """What `show` gives. A part of the window that cannot show a plan says so and leaves the others alone."""
        try:
            return show()
        except Exception:  # whatever it is, the maker can go on, undo, or open another job
            _LOG.exception("%s could not be shown", what)
            self.say(f"Orvek could not show {what} for this job. Your job is kept; undo, or see Help, Log.", stays=True)
            return None

    def load_slow_parts(self) -> None:
        """What can wait until the first window is up."""
        self.surface.improved.connect(lambda: self.show_plan(self.session.plan))
        self.surface.load()
        if self.surface.will_take_long() and not self.notice.text():
            self.say("Pictures are a little coarse for now; they become finer by themselves in a moment.")
        self.session.begin_forecasts(self.surface.evaluator)

    def say(self, words: str, *, stays: bool = False, button: str = "", deed: Callable[[], None] | None = None) -> None:
        """Say a sentence for a while, or until the next one; its button, if it has one, does `deed`."""
        self._said_deed = deed
        self.notice.say(words, button or ("Hide" if stays else ""))
        if stays:
            self._quiet.stop()
        else:
            self._quiet.start(_SAID_FOR_MS)

    def _do_what_was_said(self) -> None:
        deed, self._said_deed = self._said_deed, None
        self.notice.say("")
        if deed is not None:
            deed()

    # -- building ----------------------------------------------------------------------------------------------

    def _lay_out(self) -> None:
        # Nothing is marked as in hand until the maker takes something: the focus begins here.
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Orvek")
        self.setFocus()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(0)
        grid.addWidget(self.rail, 0, 0, 3, 1)
        grid.addWidget(self.keeping, 0, 1)
        grid.addWidget(self.notice, 1, 1)
        grid.addWidget(self._stack, 2, 1)
        grid.addWidget(self.findings, 0, 2, 3, 1)
        grid.addWidget(self.strip, 3, 0, 1, 3)
        grid.setColumnStretch(1, 1)
        grid.setRowStretch(2, 1)

    def _connect(self) -> None:
        session = self.session
        session.cut_chosen.connect(self.strip.show_cut)
        session.planned.connect(self.show_plan)
        session.said.connect(self.say)
        session.history_changed.connect(self._show_history)
        session.jobs_changed.connect(lambda: self.rail.show_jobs(session.jobs(), session.job.batch.id))
        session.units_changed.connect(self._show_units)
        session.unsaved_changed.connect(self._show_keeping)
        session.access_changed.connect(self._show_keeping)
        session.shop_changed.connect(self._show_shop_history)
        session.log_wanted.connect(self._show_log)
        self.keeping.button.clicked.connect(self._keep_again)
        self.notice.button.clicked.connect(self._do_what_was_said)
        self.rail.station_chosen.connect(self.open_station)
        self.rail.job_chosen.connect(session.open_job)
        self.rail.new_job_wanted.connect(session.new_job)
        self.findings.remedy_wanted.connect(session.remedy)
        self.strip.moving.connect(self._move_tube)
        self.strip.moved.connect(session.finish)
        self.strip.turned.connect(
            lambda index, by: session.attempt("Turn a barrel", lambda job: deeds.turn_tube(job, index, by))
        )
        self._show_history()
        self._show_shop_history()
        self._show_units()

    def _move_tube(self, index: int, start_mm: float) -> None:
        layout = self.session.plan.layout
        if layout is not None:
            self.session.preview(deeds.move_tube(self.session.job, layout.starts_mm, index, start_mm))

    def _build_menus(self) -> None:
        bar = self.frame.menuBar()
        job, edit, shop, view, about = (bar.addMenu(words) for words in ("Job", "Edit", "Shop", "View", "Help"))
        session = self.session
        self._action(job, "Begin a job", session.new_job, QKeySequence.StandardKey.New)
        self._action(job, "Begin one like this", session.copy_job)
        self._action(job, "Name this job…", self._name_job)
        job.addSeparator()
        self._action(job, "Take in a job file…", self._take_in, QKeySequence.StandardKey.Open)
        self._action(job, "Give out a job file…", self._give_out)
        cards = job.addMenu("Cards and templates")
        for words, kind, suffix in CARDS:
            deed = lambda w=words, k=kind, s=suffix: self.cards.ask(w, k, s)  # noqa: E731
            key = QKeySequence.StandardKey.Print if kind == "pour" else None
            self._action(cards, f"{words.capitalize()} as {suffix[1:].upper()}…", deed, key)
        job.addSeparator()
        self._action(job, "Remove this job…", self._remove_job)
        self._action(job, "Close the window", self.frame.close, QKeySequence.StandardKey.Quit)
        self._undo = self._action(edit, "Undo", session.undo, QKeySequence.StandardKey.Undo)
        self._redo = self._action(edit, "Redo", session.redo, QKeySequence.StandardKey.Redo)
        edit.addSeparator()
        lay_out = lambda: session.attempt("Lay the tubes out", deeds.lay_tubes_out)  # noqa: E731
        self._action(edit, "Lay the tubes out afresh", lay_out)
        self._action(
            edit, "Make the shares 100 %", lambda: session.attempt("Scale the shares", deeds.renormalise_shares)
        )
        self._action(edit, "Find a deed…", self._find_deed, QKeySequence("Ctrl+."))
        self._action(shop, "Shelves…", self._shelves)
        self._shop_undo = self._action(shop, "Undo on the shelves", session.undo_shop)
        self._action(shop, "Preferences…", self._preferences)
        shop.addSeparator()
        self._action(shop, "Back up now", self._back_up)
        self._action(shop, "Backups…", self._backups)
        for number, station in enumerate((entry.station for entry in STATIONS), 1):
            go = lambda s=station: self.open_station(s)  # noqa: E731
            self._action(view, f"Go to {station.value}", go, QKeySequence(f"Alt+{number}"))
        view.addSeparator()
        self._units: dict[LengthUnit, QAction] = {}
        units: tuple[tuple[str, LengthUnit], ...] = (
            ("Millimetres", "mm"),
            ("Inches as fractions", "inch fraction"),
            ("Inches as decimals", "inch decimal"),
        )
        for words, unit in units:
            action = self._action(view, words, partial(self._set_length_unit, unit))
            action.setCheckable(True)
            self._units[unit] = action
        self._action(view, "Switch mm and inches", self._switch_units, QKeySequence("Ctrl+U"))
        self._action(about, "Log…", self._show_log)
        self._action(about, "About Orvek", self._about)

    def _action(
        self,
        menu: QMenu,
        words: str,
        deed: Callable[[], object],
        shortcut: QKeySequence | QKeySequence.StandardKey | None = None,
    ) -> QAction:
        action = menu.addAction(words)
        action.triggered.connect(lambda: deed())
        if shortcut is not None:
            action.setShortcut(shortcut)
        return action

    # -- deeds of the menus ------------------------------------------------------------------------------------

    def all_actions(self) -> list[QAction]:
        """Every deed in the menus, for the palette."""
        menus = [menu for action in self.frame.menuBar().actions() if isinstance(menu := action.menu(), QMenu)]
        inner = [m for menu in menus for action in menu.actions() if isinstance(m := action.menu(), QMenu)]
        every = [action for menu in (*menus, *inner) for action in menu.actions()]
        return [action for action in every if not action.isSeparator() and not action.menu()]

    def _find_deed(self) -> None:
        from orvek.window.deeds_palette import DeedsPalette

        DeedsPalette(self, self.all_actions()).exec()

    def _show_shop_history(self) -> None:
        deed = self.session.shop_undo
        self._shop_undo.setText(without_shortcut(f"Undo: {deed}") if deed else "Undo on the shelves")
        self._shop_undo.setEnabled(deed is not None)

    def _show_history(self) -> None:
        try:
            state = self.session.workshop.history(self.session.job.batch.id)
        except OrvekError:
            return
        unsaved = self.session.unsaved > 0
        self._undo.setText(without_shortcut(f"Undo: {state.undo}") if state.undo and not unsaved else "Undo")
        self._undo.setEnabled(bool(state.undo) or unsaved)
        self._redo.setText(without_shortcut(f"Redo: {state.redo}") if state.redo else "Redo")
        self._redo.setEnabled(bool(state.redo) and not unsaved)

    def _show_units(self) -> None:
        for unit, action in self._units.items():
            action.setChecked(unit == self.session.units.length)

    def _set_length_unit(self, unit: LengthUnit) -> None:
        self.session.change_shop("Units", lambda shop: set_preference(shop, "length", unit))
        self._show_units()

    def _switch_units(self) -> None:
        self._set_length_unit("inch fraction" if self.session.units.length == "mm" else "mm")

    def _name_job(self) -> None:
        name = ask_name(self, "Name of this job", self.session.job.batch.name)
        if name:
            self.session.edit(("batch", "name"), name, "Name the job")

    def _take_in(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Take in a job file", "", f"Orvek jobs (*{SUFFIX});;All files (*)")
        if name:
            self.session.take_in(Path(name))

    def _give_out(self) -> None:
        suggested = f"{safe_name(self.session.job.batch.name)}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Give out a job file", suggested, f"Orvek jobs (*{SUFFIX})")
        if name:
            self.session.give_out(Path(name if name.endswith(".json") else name + SUFFIX))

    def _remove_job(self) -> None:
        name = self.session.job.batch.name
        words = f"Remove “{name}” and its history from this workshop? This cannot be undone."
        if ask(self, "Remove this job", words, ("Remove it", "Keep it"), default=1) == 0:
            self.session.remove_job()

    def _shelves(self) -> None:
        from orvek.window.shelves import ShelvesDialog

        ShelvesDialog(self, self.session).exec()

    def _preferences(self) -> None:
        from orvek.window.widgets.document_sheet import edit_document

        shop = self.session.shop
        changed = edit_document(self, "Preferences", shop.preferences, shop)
        if changed is not None:
            self.session.change_shop("Preferences", lambda shop: shop.with_(preferences=changed))

    def _about(self) -> None:
        words = (
            f"Orvek {__version__}\n\nFrom a pen and a mould to a blank and its pour card.\n"
            "Figures are calculations: labels, safety sheets and your own records go before them."
        )
        tell(self, "About Orvek", words)

    def _show_log(self) -> None:
        from orvek.window.log_dialog import LogDialog

        LogDialog(self).exec()

    def _back_up(self) -> None:
        try:
            made = back_up(self.session.workshop.path, "asked")
        except OrvekError as error:
            self.say(str(error))
            return
        self.say(f"Made {made.name}, in the folder {made.parent}.")

    def _backups(self) -> None:
        from orvek.window.backups_dialog import BackupsDialog

        dialog = BackupsDialog(self, self.session)
        dialog.restored.connect(self._say_restored)
        dialog.exec()

    def _say_restored(self, before: Path) -> None:
        words = "The workshop is as it was in that backup."
        self.say(words, stays=True, button="Undo the restore", deed=lambda: self._undo_restore(before))

    def _undo_restore(self, before: Path) -> None:
        if self.session.restore(before) is not None:
            self.say("The workshop is as it was before the restore.")

    # -- the file, a second window, and closing ----------------------------------------------------------------

    def _show_keeping(self, words: str = "") -> None:
        """The line that stays: what could not be kept, a file that is gone, a window that may only look."""
        button = "Save under a new name…" if self.session.file_is_lost else "Try again" if words else ""
        self.keeping.say(words or self.session.workshop.why_read_only or "", button)

    def _keep_again(self) -> None:
        if not self.session.file_is_lost:
            self.session.retry()
            return
        path = self.session.workshop.path
        suggested = str(path.with_name(f"{path.stem}-kept{path.suffix}"))
        found, _ = QFileDialog.getSaveFileName(self, "Save the workshop", suggested, "Workshops (*.sqlite)")
        if found:
            self.session.save_under(Path(found if found.endswith(".sqlite") else f"{found}.sqlite"))

    def _watch_file(self) -> None:
        self._show_keeping()
        timer = QTimer(self)
        timer.timeout.connect(self._look_again)
        timer.start(_LOOK_AGAIN_MS)

    def _look_again(self) -> None:
        """Notice what happens to the file: another window gone, another window's changes, another file in its place."""
        if self.session.workshop.is_writable:
            self.session.look_at_file()
            return
        if self.session.take_over():
            return
        try:
            count = self.session.workshop.change_count()
        except OrvekError:
            return
        if count != self._seen:
            self._seen = count
            self.session.reload()

    def _may_close(self) -> bool:
        focused = self.frame.focusWidget()
        if isinstance(focused, QLineEdit) and focused.isModified():
            focused.editingFinished.emit()
        if self.session.unsaved and not self.session.retry() and not self._leave_unsaved():
            return False
        self.surface.close()
        self.has_ended = self.session.answers.close()
        self.session.workshop.close()
        return True

    def _leave_unsaved(self) -> bool:
        words = (
            "Some changes could not be written to the workshop. Keep this window open, "
            "or give the job out as a file somewhere else first."
        )
        answer = ask(self, "Not everything is kept", words, ("Give out a job file…", "Close and lose them", "Stay"), 2)
        if answer == 0:
            self._give_out()
        return answer == 1
