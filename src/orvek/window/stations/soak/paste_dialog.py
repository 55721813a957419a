"""A notebook's table of weights, pasted: what is understood stands below it, line by line, before it is added."""

from __future__ import annotations

from datetime import datetime

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QListWidget, QPlainTextEdit, QVBoxLayout, QWidget

from orvek.cards.weighings import ReadLog, read_weighings
from orvek.documents import Weighing
from orvek.errors import OrvekError
from orvek.quantities import Dimension, write, write_moment
from orvek.window import theme
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet


class PasteDialog(Sheet):
    """Text above, what it means below."""

    def __init__(self, parent: QWidget | None, text: str) -> None:
        super().__init__(parent)
        self.setWindowTitle("Weights from a table")
        self.resize(560, 520)
        title = Label("Paste times and weights")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        words = quiet_label("A line a weight: 20.11. 18:30, 40.0 – or hours after the first: 4, 37.5.")
        words.setWordWrap(True)
        self.text = QPlainTextEdit(text)
        self.text.setAccessibleName("The table")
        self.text.setTabChangesFocus(True)
        self.lines = QListWidget()
        self.lines.setAccessibleName("What was understood")
        self._told = quiet_label("")
        self._told.setWordWrap(True)
        self.read: ReadLog | None = None
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.add = buttons.button(QDialogButtonBox.StandardButton.Ok)
        self.add.setText("Add")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("Cancel")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(8)
        for widget in (title, words):
            column.addWidget(widget)
        column.addWidget(self.text, 1)
        column.addWidget(self.lines, 1)
        column.addWidget(self._told)
        column.addWidget(buttons)
        self.text.textChanged.connect(self._read)
        self._read()

    def weighings(self) -> tuple[Weighing, ...]:
        """What would be added."""
        return self.read.weighings if self.read else ()

    def _read(self) -> None:
        self.lines.clear()
        try:
            self.read = read_weighings(self.text.toPlainText(), datetime.now())
            self._told.setText(self.read.note)
        except OrvekError as error:
            self.read = None
            self._told.setText(str(error) if self.text.toPlainText().strip() else "")
        for line in self.read.lines if self.read else ():
            one = line.weighing
            said = (
                f"{write_moment(one.when)} {one.when.year}   {write(one.mass_g, Dimension.MASS)}"
                if one
                else line.sentence
            )
            self.lines.addItem(f"{line.number}   {said}")
        self.add.setEnabled(bool(self.weighings()))


def ask_weighings(parent: QWidget, text: str) -> tuple[Weighing, ...]:
    """Ask for a table; empty when the maker thinks better of it."""
    dialog = PasteDialog(parent, text)
    agreed = dialog.exec() == QDialog.DialogCode.Accepted
    return dialog.weighings() if agreed else ()
