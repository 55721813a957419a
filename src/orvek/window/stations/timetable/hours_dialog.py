"""The maker's hours: from when to when on each weekday, quiet hours, days off, and times booked in a calendar file."""

from __future__ import annotations

from datetime import date
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QThread, Signal
from PySide6.QtWidgets import QFileDialog, QGridLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from orvek.documents import WEEKDAYS, DayHours, Hours, declared
from orvek.errors import OrvekError
from orvek.files import read_text
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityEdit, QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.searches import SearchDialog

if TYPE_CHECKING:
    from orvek.cards.calendar import BusyFound


class _Calendar(QThread):
    """Reads a calendar file in the background: thousands of repeats take a while."""

    told = Signal(int)  # how far it is, in percent
    found = Signal(object)  # what it holds, or the sentence that says why it cannot be read

    def __init__(self, path: Path) -> None:
        super().__init__()
        self._path = path

    def run(self) -> None:
        from orvek.cards.calendar import busy_times

        try:
            self.found.emit(busy_times(read_text(self._path), self._path.name, tell=self._tell))
        except OrvekError as error:
            self.found.emit(str(error))
        except InterruptedError:
            return

    def _tell(self, part: float) -> None:
        if self.isInterruptionRequested():
            raise InterruptedError
        self.told.emit(round(100 * part))


class HoursDialog(SearchDialog):
    """Every change is kept at once, and can be undone with the shelves."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self._session, self._file = session, ""
        self.setWindowTitle("Your hours")
        title = Label("When you are at the bench")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        grid = QGridLayout()
        self.cells: dict[tuple[int, str], QuantityEdit] = {}
        for row, name in enumerate(WEEKDAYS):
            grid.addWidget(quiet_label(name), row, 0)
            for column, field in enumerate(("from_h", "to_h"), 1):
                cell = QuantityEdit(declared(DayHours, field), session.units)
                cell.setAccessibleName(f"{name}, {declared(DayHours, field).title.lower()}")
                cell.entered.connect(partial(self._set_day, row, field))
                cell.refused.connect(self._say)
                self.cells[row, field] = cell
                grid.addWidget(cell, row, column)
        self.quiet = {
            name: QuantityField(declared(Hours, name), session.units) for name in ("quiet_from_h", "quiet_to_h")
        }
        for name, edit in self.quiet.items():
            edit.entered.connect(partial(self._set, name))
        self.waits = ChoiceField("Waits are planned", self._fill_waits)
        self.off = QLineEdit()
        self.off.setAccessibleName("Days off")
        self.off.setPlaceholderText("2026-12-24, 2026-12-25")
        self.off.editingFinished.connect(self._set_off)
        self.calendar = QPushButton("Take busy times from a calendar file…")
        self.calendar.clicked.connect(self._ask_calendar)
        self._busy, self._sentence = quiet_label(""), Label()
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))
        self._sentence.setWordWrap(True)
        self.close_button = QPushButton("Close")
        self.close_button.clicked.connect(self.accept)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(24, 20, 24, 16)
        whole.setSpacing(8)
        whole.addWidget(title)
        whole.addWidget(quiet_label("From and to the same hour: not at all on that day."))
        whole.addLayout(grid)
        for widget in (*self.quiet.values(), self.waits, quiet_label("Days off"), self.off, self.calendar, self._busy):
            whole.addWidget(widget)
        whole.addWidget(self._sentence)
        whole.addWidget(self.close_button)
        self._show()

    def _show(self) -> None:
        hours, units = self._session.shop.hours, self._session.units
        for (row, field), cell in self.cells.items():
            cell.set_value(getattr(hours.days[row], field), units)
        for name, edit in self.quiet.items():
            edit.set_value(getattr(hours, name), units)
        self.waits.set_text(hours.waits)
        self.off.setText(", ".join(day.isoformat() for day in hours.off))
        self._busy.setText(f"{len(hours.busy)} times are booked already." if hours.busy else "Nothing is booked.")

    def _say(self, words: str) -> None:
        self._sentence.setText(words)

    def _keep(self, words: str, **values: Any) -> None:
        try:
            self._session.change_shop(words, lambda shop: shop.with_(hours=shop.hours.with_(**values)))
            self._say("")
        except OrvekError as error:
            self._say(str(error))
        self._show()

    def _set(self, name: str, value: Any) -> None:
        self._keep("Your hours", **{name: value})

    def _set_day(self, row: int, field: str, value: float) -> None:
        days = list(self._session.shop.hours.days)
        days[row] = days[row].with_(**{field: value})
        self._keep(f"Hours on {WEEKDAYS[row]}", days=tuple(days))

    def _set_off(self) -> None:
        try:
            days = tuple(date.fromisoformat(part.strip()) for part in self.off.text().split(",") if part.strip())
        except ValueError:
            self._say("A day off is written as year, month, day: 2026-12-24; with commas between several.")
            return
        if days != self._session.shop.hours.off:
            self._keep("Days off", off=days)

    def _fill_waits(self, menu: Any) -> None:
        now = self._session.shop.hours.waits
        for words in ("as they usually take", "as long as they may take"):
            add_action(menu, words, partial(self._set, "waits", words), checked=words == now)

    def _ask_calendar(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "A calendar", "", "Calendars (*.ics)")
        if path:
            self.take_calendar(Path(path))

    def take_calendar(self, path: Path) -> None:
        """Take the busy times of a calendar file in the place of those that were taken before."""
        self.searches.ask_anew()
        self._file, reading = path.name, _Calendar(path)
        reading.told.connect(lambda percent: self._busy.setText(f"Reading {path.name}: {percent} %"))
        reading.found.connect(self._take_found)
        self.calendar.setEnabled(False)
        self.searches.begin(reading)

    def _take_found(self, found: BusyFound | str) -> None:
        self.calendar.setEnabled(True)
        if isinstance(found, str):
            self._show()
            self._say(found)
            return
        self._keep(f"Busy times from {self._file}", busy=found.busy)
        if found.left_out:
            self._say(found.left_out)
