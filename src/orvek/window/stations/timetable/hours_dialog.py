"""The maker's hours: from when to when on each weekday, quiet hours, days off, and times booked in a calendar file."""

from __future__ import annotations

from datetime import date
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QDialog, QFileDialog, QGridLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from orvek.documents import WEEKDAYS, DayHours, Hours, declared
from orvek.errors import OrvekError
from orvek.files import read_text
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityEdit, QuantityField, quiet_label
from orvek.window.widgets.label import Label


class HoursDialog(QDialog):
    """Every change is kept at once, and can be undone with the shelves."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self._session = session
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
        close = QPushButton("Close")
        close.clicked.connect(self.accept)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(24, 20, 24, 16)
        whole.setSpacing(8)
        whole.addWidget(title)
        whole.addWidget(quiet_label("From and to the same hour: not at all on that day."))
        whole.addLayout(grid)
        for widget in (*self.quiet.values(), self.waits, quiet_label("Days off"), self.off, self.calendar, self._busy):
            whole.addWidget(widget)
        whole.addWidget(self._sentence)
        whole.addWidget(close)
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
        from orvek.cards.calendar import busy_times

        try:
            busy = busy_times(read_text(path), path.name)
        except OrvekError as error:
            self._say(str(error))
            return
        self._keep(f"Busy times from {path.name}", busy=busy)
