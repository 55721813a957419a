"""Readings of a pair of calipers on one line: numbers with blanks or semicolons between them."""

from __future__ import annotations

import re
from statistics import mean, stdev

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from orvek.errors import OrvekError
from orvek.quantities import Dimension, Units, decimal, read, write
from orvek.window import theme
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label


class ReadingsField(QWidget):
    """A label, the readings, and their mean and spread under them."""

    entered = Signal(object)

    def __init__(self, words: str) -> None:
        super().__init__()
        self._units = Units()
        self._values: tuple[float, ...] = ()
        self.line = QLineEdit()
        self.line.setAccessibleName(words)
        self.line.setPlaceholderText("2.02 1.98 2.05")
        self.line.setToolTip("Three readings and more replace what is assumed")
        self.line.editingFinished.connect(self._finish)
        self._words = Label()
        self._words.setStyleSheet(theme.words_css(theme.QUIET))
        row = QHBoxLayout()
        row.addWidget(quiet_label(words))
        row.addWidget(self.line, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(row)
        column.addWidget(self._words)

    def set_values(self, values: tuple[float, ...], units: Units) -> None:
        """Show readings, unless the maker is typing."""
        self._values, self._units = values, units
        if not (self.line.hasFocus() and self.line.isModified()):
            self.line.setText(" ".join(decimal(value) for value in values))
        if len(values) >= 3:
            middle, spread = (write(v, Dimension.LENGTH, units, 2) for v in (mean(values), stdev(values)))
            self._words.setText(f"{middle}, ± {spread}, of {len(values)}")
        else:
            self._words.setText("")

    def sentence(self) -> str:
        """What stands under the readings."""
        return self._words.text()

    def _finish(self) -> None:
        if not self.line.isModified():
            return
        parts = [part for part in re.split(r"[;\s]+", self.line.text().strip()) if part]
        try:
            values = tuple(round(read(part, Dimension.LENGTH, self._units), 4) for part in parts)
        except OrvekError as error:
            self.line.setText(" ".join(decimal(value) for value in self._values))
            self._words.setText(str(error))
            return
        self.line.setModified(False)
        if values != self._values:
            self.entered.emit(values)
