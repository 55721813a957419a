"""The menus of the window: every command with its words, its key, and the other words a maker may look for it by."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QUrl
from PySide6.QtGui import QAction, QDesktopServices, QGuiApplication, QKeySequence
from PySide6.QtWidgets import QApplication, QFileDialog, QMenu, QWhatsThis

from orvek.documents import JOB, deeds, path_to
from orvek.documents.deeds import set_preference
from orvek.errors import OrvekError
from orvek.files import JOB_SUFFIX, safe_name
from orvek.quantities import LengthUnit
from orvek.stations import STATIONS, Station, card_of
from orvek.store import back_up
from orvek.window import places, theme
from orvek.window.card_writer import CARDS, Card, cards_of
from orvek.window.command_palette import Command, CommandPalette
from orvek.window.host import Host
from orvek.window.job_files import take_in
from orvek.window.places import GROUNDS, TEXT_SIZES
from orvek.window.widgets.asking import ask
from orvek.window.widgets.label import without_shortcut
from orvek.window.widgets.naming import ask_name

_DIGITS = 10  # stations that a digit opens
Key = QKeySequence | QKeySequence.StandardKey | None
_UNITS: tuple[tuple[str, LengthUnit], ...] = (
    ("&Millimetres", "mm"),
    ("Inches as &fractions", "inch fraction"),
    ("Inches as &decimals", "inch decimal"),
)


class Menus(QObject):
    """Builds the menu bar of a window and does what its lines say."""

    def __init__(self, window: Host) -> None:
        super().__init__(window)  # signals that come after the window has gone find nobody
        self._window, self._session = window, window.session
        self._also: dict[QAction, str] = {}
        self._units: dict[LengthUnit, QAction] = {}
        self._grounds: dict[str, QAction] = {}
        self._texts: dict[int, QAction] = {}
        self._cards: dict[tuple[Card, QMenu], QAction] = {}
        menus = [window.frame.menuBar().addMenu(words) for words in ("&Job", "&Edit", "&Shop", "&View", "&Help")]
        job, edit, shop, view, about = menus
        key = QKeySequence.StandardKey
        self._fill_job(job)
        self._fill_edit(edit)
        self._fill_shop(shop)
        self._fill_view(view)
        self._action(
            about,
            "&Help for this station",
            self._help,
            QKeySequence("F1"),
            also="manual guide how explain shortcuts keyboard keys",
        )
        self._action(about, "&What is this?", QWhatsThis.enterWhatsThisMode, key.WhatsThis, also="explain point tip")
        self._action(about, "Show the &log…", self.show_log, also="error fault report")
        self._action(about, "&About Orvek", self._about, also="version licence license")

    # -- filling -------------------------------------------------------------------------------------------------

    def _fill_job(self, job: QMenu) -> None:
        session, key = self._session, QKeySequence.StandardKey
        self._action(job, "&New job", self._window.new_job, key.New, also="begin create start add")
        self._action(
            job, "C&hoose a job…", self._window.rail.choose_job, QKeySequence("Ctrl+J"), also="open switch other"
        )
        self._action(job, "&Duplicate this job", session.copy_job, also="copy again like")
        self._action(job, "&Rename this job…", self._rename, QKeySequence("F2"), also="name title")
        job.addSeparator()
        self._action(job, "&Open a job file…", self._open, key.Open, also="import load file")
        self._action(job, "&Save a copy…", self.save_copy, key.SaveAs, also="export file write share send")
        cards = job.addMenu("&Cards and templates")
        for card in CARDS:
            write = partial(self._window.cards.ask, card.words, card.kind, card.suffix)
            words = f"{card.words.capitalize()} as {card.suffix[1:].upper()}…"
            self._cards[card, cards] = self._action(cards, words, write, also="paper export")
        for words, suffix in (("text", ".txt"), ("HTML", ".html"), ("PDF", ".pdf")):
            write = partial(self._window.cards.ask, "report", "report", suffix)
            self._action(cards, f"Report as {words}…", write, also="paper export save plan figures")
        self._action(job, "&Print the card of this page…", self._print, key.Print, also="paper")
        prints = job.addMenu("Pr&int another card")
        for card in (card for card in CARDS if card.suffix == ".pdf"):
            write = partial(self._window.cards.print, card.kind)
            self._cards[card, prints] = self._action(prints, f"Print the {card.words}…", write, also="paper")
        self._action(prints, "Print the report…", partial(self._window.cards.print, "report"), also="paper")
        for menu in (cards, prints):
            menu.aboutToShow.connect(self._show_cards)
        job.addSeparator()
        self._action(job, "De&lete this job…", self._delete, also="remove erase")
        self._action(job, "&Quit", self._window.frame.close, key.Quit, also="exit close end")

    def _fill_edit(self, edit: QMenu) -> None:
        session, key = self._session, QKeySequence.StandardKey
        self._undo = self._action(edit, "&Undo", self.undo_here, key.Undo, also="back revert")
        self._redo = self._action(edit, "&Redo", session.redo, key.Redo, also="again")
        edit.addSeparator()
        self._action(edit, "Copy the repor&t", self._copy_report, QKeySequence("Ctrl+Shift+C"), also="clipboard text")
        self._action(edit, "Copy the &findings", self._copy_findings, also="clipboard text warnings")
        self._action(edit, "Copy a &picture of the window", self._copy_picture, also="clipboard screenshot image")
        edit.addSeparator()
        reset = partial(session.attempt, "Lay the tubes out", deeds.lay_tubes_out)
        self._action(edit, "Reset the tubes' p&laces", reset, also="tube lay out centre")
        scale = partial(session.attempt, "Scale the shares", deeds.renormalise_shares)
        self._action(edit, "&Scale the shares to 100 %", scale, also="cups percent colours")
        self._action(edit, "Find a &command…", self.find_command, QKeySequence("Ctrl+."), also="search palette")

    def _print(self) -> None:
        self._window.cards.print(card_of(self._window.place()))

    def _fill_shop(self, shop: QMenu) -> None:
        self._action(
            shop, "S&helves…", self._shelves, also="pens moulds molds resins pigments boards saws glues materials pots"
        )
        self._shop_undo = self._action(shop, "&Undo on the shelves", self._session.undo_shop)
        self._action(
            shop,
            "&What is plugged in…",
            self.show_devices,
            also="scale calipers thermometer probe device port usb serial weigh set up",
        )
        self._action(shop, "&Preferences…", self.preferences, also="settings options paper currency temperature")
        shop.addSeparator()
        self._action(shop, "&Back up now", self._back_up, also="save safe copy")
        self._action(shop, "Backup&s…", self._backups, also="restore recover")
        self._action(shop, "&Open another workshop…", self._open_workshop, also="file database new")
        self._action(shop, "Show the workshop's &folder", self._show_folder, also="file where directory")

    def _fill_view(self, view: QMenu) -> None:
        for number, row in enumerate(STATIONS, 1):
            go = partial(self._window.open_station, row.station)
            keys = QKeySequence(f"Alt+{number % 10}" if number <= _DIGITS else f"Alt+Shift+{number - _DIGITS}")
            self._action(view, f"Go to {row.station.words}", go, keys, also=row.also)
        self._action(
            view, "Fold or open the &bar", self._window.fold_strip, QKeySequence("Ctrl+B"), also="strip tubes room"
        )
        view.addSeparator()
        for words, unit in _UNITS:
            action = self._action(view, words, partial(self._set_length_unit, unit), also="units")
            action.setCheckable(True)
            self._units[unit] = action
        view.addSeparator()
        for wanted in GROUNDS:
            action = self._action(
                view, f"&Theme: {wanted}", partial(self._set_ground, wanted), also="dark light ground colour evening"
            )
            action.setText(action.text().replace("&", "") if wanted != GROUNDS[0] else action.text())
            action.setCheckable(True)
            self._grounds[wanted] = action
        self._show_ground()
        view.addSeparator()
        for percent in TEXT_SIZES:
            words = f"Text at {percent} %" if percent else "Text as &large as the desktop's"
            action = self._action(view, words, partial(self._set_text, percent), also="size zoom big font scale")
            action.setCheckable(True)
            self._texts[percent] = action
        self._show_text()
        view.addSeparator()
        self._action(view, "S&witch mm and inches", self._switch_units, QKeySequence("Ctrl+U"), also="units")

    def _action(self, menu: QMenu, words: str, deed: Callable[[], object], key: Key = None, also: str = "") -> QAction:
        action = menu.addAction(words)
        action.triggered.connect(lambda: deed())
        if key is not None:
            action.setShortcut(key)
        self._also[action] = also
        return action

    def _show_cards(self) -> None:
        """Those of the job, in the order of its route."""
        own = cards_of(self._session.plan)
        for (card, _), action in self._cards.items():
            action.setVisible(card in own)
        for menu in dict.fromkeys(menu for _, menu in self._cards):
            rest = [action for action in menu.actions() if action not in self._cards.values()]
            ordered = [self._cards[card, menu] for card in own if (card, menu) in self._cards]
            for action in (*ordered, *rest):
                menu.removeAction(action)
                menu.addAction(action)

    # -- what the window shows of them ---------------------------------------------------------------------------

    def actions(self) -> list[QAction]:
        """Every command, in the order of the menus."""
        return list(self._also)

    def commands(self) -> list[Command]:
        """All that can be looked for: commands, pages of stations, jobs."""
        self._show_cards()
        found = [
            Command(action.text().replace("&", ""), action.trigger, action.shortcut().toString(), self._also[action])
            for action in self._also
            if action.text() and action.isEnabled() and action.isVisible()
        ]
        for row in STATIONS:
            for page in row.pages:
                go = partial(self._window.open_named, page.name)
                found.append(Command(f"{row.station.words}: {page.words}", go, "", f"go page {page.name} {page.also}"))
        for job in self._session.jobs():
            found.append(Command(f"Open {job.name}", partial(self._session.open_job, job.id), "", "job"))
        return found

    def find_command(self) -> None:
        """Type what is wanted, Enter does it."""
        CommandPalette(self._window, self.commands()).exec()

    def show_history(self) -> None:
        """Name what Undo and Redo would do."""
        try:
            state = self._session.workshop.history(self._session.job.batch.id)
        except OrvekError:
            return
        unsaved = self._session.unsaved > 0
        nothing = "&Undo" if unsaved else "Nothing to &undo"
        last = self._shelf_deed() or ("" if unsaved else state.undo)
        self._undo.setText(f"&Undo: {without_shortcut(last)}" if last else nothing)
        self._undo.setEnabled(bool(last) or unsaved)
        self._window.band.line.show_last(last or "")
        self._redo.setText(f"&Redo: {without_shortcut(state.redo)}" if state.redo else "Nothing to &redo")
        self._redo.setEnabled(bool(state.redo) and not unsaved)

    def show_shop_history(self) -> None:
        """Name what the shelves' Undo would do."""
        deed = self._session.shop_undo
        self._shop_undo.setText(f"&Undo: {without_shortcut(deed)}" if deed else "Nothing to &undo on the shelves")
        self._shop_undo.setEnabled(deed is not None)
        self.show_history()

    def _shelf_deed(self) -> str | None:
        """What Undo takes back at the Shelf: the last deed on the shelves, where there is one."""
        return self._session.shop_undo if self._window.station is Station.SHELF else None

    def undo_here(self) -> None:
        """Take back the last deed on the job; at the Shelf, the last one on the shelves."""
        if self._shelf_deed() is not None:
            self._session.undo_shop()
        else:
            self._session.undo()

    def show_units(self) -> None:
        """Mark the unit of length."""
        for unit, action in self._units.items():
            action.setChecked(unit == self._session.units.length)

    # -- what they do --------------------------------------------------------------------------------------------

    def _set_length_unit(self, unit: LengthUnit) -> None:
        self._session.change_shop("Units", lambda shop: set_preference(shop, "length", unit))
        self.show_units()

    def _set_ground(self, wanted: str) -> None:
        places.set_ground(wanted)
        self._show_ground()
        application = QApplication.instance()
        if isinstance(application, QApplication):
            theme.change_ground(application, evening=places.is_evening(application))
            self._window.surface.forget()
            self._window.show_plan(self._session.plan)

    def _show_ground(self) -> None:
        for wanted, action in self._grounds.items():
            action.setChecked(wanted == places.ground())

    def _set_text(self, percent: int) -> None:
        places.set_text_percent(percent)
        self._show_text()
        self._window.say("Text, and all that goes with it, is of that size when Orvek is opened again.")

    def _show_text(self) -> None:
        for percent, action in self._texts.items():
            action.setChecked(percent == places.text_percent())

    def _switch_units(self) -> None:
        self._set_length_unit("inch fraction" if self._session.units.length == "mm" else "mm")

    def _rename(self) -> None:
        name = ask_name(self._window, "Name of this job", self._session.job.batch.name)
        if name:
            self._session.edit(path_to(JOB.batch.name), name, "Rename the job")

    def _open(self) -> None:
        filters = f"Orvek jobs (*{JOB_SUFFIX});;All files (*)"
        name, _ = QFileDialog.getOpenFileName(self._window, "Open a job file", "", filters)
        if name:
            self.take_in(Path(name))

    def take_in(self, path: Path, *, is_asked: bool = True) -> None:
        """Open a job file; where another version of its job is here that is asked about."""
        take_in(self._window, self._session, path, is_asked=is_asked)

    def save_copy(self) -> None:
        """Ask where a copy of the job goes, and write it there."""
        suggested = f"{safe_name(self._session.job.batch.name)}{JOB_SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self._window, "Save a copy", suggested, f"Orvek jobs (*{JOB_SUFFIX})")
        if name:
            self._session.give_out(Path(name if name.endswith(".json") else name + JOB_SUFFIX))

    def _delete(self) -> None:
        name = self._session.job.batch.name
        words = f"Delete “{name}” and its history from this workshop? This cannot be undone."
        if ask(self._window, "Delete this job", words, ("Delete it", "Cancel"), default=1) == 0:
            self._session.remove_job()

    def _copy_report(self) -> None:
        from orvek.cards.every import report_text

        QGuiApplication.clipboard().setText(report_text(self._session.plan, self._session.units))
        self._window.say("The report is on the clipboard.")

    def _copy_findings(self) -> None:
        told = [f"{one.severity.words}: {one.title} {one.because}" for one in self._session.plan.findings]
        QGuiApplication.clipboard().setText("\n".join(told) or "Nothing to say.")
        self._window.say(f"{len(told)} finding{'' if len(told) == 1 else 's'} on the clipboard.")

    def _copy_picture(self) -> None:
        QGuiApplication.clipboard().setPixmap(self._window.frame.grab())
        self._window.say("A picture of the window is on the clipboard.")

    def _shelves(self) -> None:
        self._window.open_named("shelves")

    def show_devices(self) -> None:
        """Scale, calipers and thermometer: where they are, and what they say."""
        from orvek.window.devices_sheet import ask_devices

        ask_devices(self._window, self._session)

    def preferences(self) -> None:
        """Ask for the shop's preferences."""
        from orvek.window.widgets.document_sheet import edit_document

        shop = self._session.shop
        changed = edit_document(self._window, "Preferences", shop.preferences, shop)
        if changed is not None:
            self._session.change_shop("Preferences", lambda shop: shop.with_(preferences=changed))

    def _help(self) -> None:
        from orvek.window.help_window import show_help

        show_help(self._window, self._window.station)

    def _about(self) -> None:
        from orvek.window.about_dialog import AboutDialog

        AboutDialog(self._window).exec()

    def show_log(self) -> None:
        """Show what Orvek wrote down about itself."""
        from orvek.window.log_dialog import LogDialog

        LogDialog(self._window).exec()

    def _show_folder(self) -> None:
        folder = self._session.workshop.path.parent
        if not QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder))):
            self._window.say(f"The workshop's file is in {folder}.")

    def _open_workshop(self) -> None:
        folder, only_asks = str(self._session.workshop.path.parent), QFileDialog.Option.DontConfirmOverwrite
        words, kinds = "Open a workshop, or begin one under a new name", "Workshops (*.sqlite)"
        name, _ = QFileDialog.getSaveFileName(self._window, words, folder, kinds, options=only_asks)
        if name:
            self._session.open_workshop(Path(name if Path(name).suffix else f"{name}.sqlite"))

    def _back_up(self) -> None:
        try:
            made = back_up(self._session.workshop.path, "asked")
        except OrvekError as error:
            self._window.say(str(error))
            return
        self._window.say(f"Made {made.name}, in the folder {made.parent}.")

    def _backups(self) -> None:
        from orvek.window.backups_dialog import BackupsDialog

        dialog = BackupsDialog(self._window, self._session)
        dialog.restored.connect(self._say_restored)
        dialog.exec()

    def _say_restored(self, before: Path) -> None:
        words = "The workshop is as it was in that backup."
        self._window.say(words, stays=True, button="Undo the restore", deed=lambda: self._undo_restore(before))

    def _undo_restore(self, before: Path) -> None:
        if self._session.restore(before) is not None:
            self._window.say("The workshop is as it was before the restore.")
