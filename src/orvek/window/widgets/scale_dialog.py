"""The weight that lies on the scale, live; what is steady can be taken."""

from __future__ import annotations

from typing import get_args

from PySide6.QtCore import QTimer
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QLineEdit, QVBoxLayout, QWidget

from orvek.devices import SIMULATED, Reading, ScalePort, open_scale, ports
from orvek.documents.job.pour import Scale
from orvek.documents.shelf.plugged_in import Baud
from orvek.errors import OrvekError
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

_ASK_MS = 120


class ScaleDialog(Sheet):
    """Where the scale is plugged in, how its lines look, what it says, and a button that takes it."""

    def __init__(self, parent: QWidget | None, units: Units, scale: Scale) -> None:
        super().__init__(parent)
        self.setWindowTitle("From the scale")
        self.setMinimumWidth(420)
        self._units, self._like = units, scale
        self._scale: ScalePort | None = None
        self.reading: Reading | None = None
        title = Label("What lies on the scale")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self.place = QComboBox()
        self.place.setEditable(True)
        self.place.setAccessibleName("Plugged in at")
        found = [one for one in (scale.plugged_in_at, *ports()) if one]
        self.place.addItems([*dict.fromkeys(found), SIMULATED])
        self.place.currentTextChanged.connect(self._open)
        self.speed = QComboBox()
        self.speed.setAccessibleName("Speed of its line")
        self.speed.addItems(get_args(Baud))
        self.speed.setCurrentText(scale.baud)
        self.line = QLineEdit(scale.line)
        self.line.setAccessibleName("Sample line")
        self.line.setPlaceholderText("the usual ones; else e.g. N {weight} B")
        self.speed.currentTextChanged.connect(lambda _: self._open(self.place.currentText()))
        self.line.editingFinished.connect(lambda: self._open(self.place.currentText()))
        self.weight = Label("–")
        self.weight.setStyleSheet(theme.words_css(theme.INK, 40, 600))
        self.weight.setAccessibleName("The weight")
        self._told = quiet_label("")
        self._told.setWordWrap(True)
        self._heard = quiet_label("")
        self._heard.setWordWrap(True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.take = buttons.button(QDialogButtonBox.StandardButton.Ok)
        self.take.setText("Add this weight")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("Cancel")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        form = QFormLayout()
        for words, field in (("Plugged in at", self.place), ("Speed", self.speed), ("Sample line", self.line)):
            form.addRow(quiet_label(words), field)
        column.addWidget(title)
        column.addLayout(form)
        for widget in (self.weight, self._told, self._heard, buttons):
            column.addWidget(widget)
        self._timer = QTimer(self)
        self._timer.setInterval(_ASK_MS)
        self._timer.timeout.connect(self.ask)
        self._open(self.place.currentText())

    def ask(self) -> None:
        """Show the latest weight; only one that is steady can be taken."""
        if self._scale is None:
            return
        try:
            found = self._scale.read()
        except OrvekError as error:
            self._let_go(str(error))
            return
        if self._scale.heard:
            self._heard.setText(f"It sent: {self._scale.heard[:60]}")
        if found is None:
            return
        self.reading = found
        self.weight.setText(write(found.mass_g, Dimension.MASS, self._units, 2))
        self._told.setText("steady" if found.is_steady else "it still moves")
        self.take.setEnabled(found.is_steady and found.mass_g > 0)

    def scale(self, place: str) -> Scale:
        """The scale as it is told here."""
        told = {"plugged_in_at": place.strip(), "baud": self.speed.currentText(), "line": self.line.text().strip()}
        return Scale.model_validate(self._like.model_dump() | told)

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._let_go("")

    def _open(self, place: str) -> None:
        self._let_go("")
        try:
            wanted = self.scale(place)
            self._scale = open_scale(wanted.plugged_in_at, int(wanted.baud), wanted.line)
        except OrvekError as error:
            self._let_go(str(error))
            return
        except ValueError:  # pydantic's own
            self._let_go("A line says once where its {weight} stands, as in: N {weight} B")
            return
        self._told.setText("A simulated scale, for trying things out." if place == SIMULATED else "")
        self._timer.start()

    def _let_go(self, words: str) -> None:
        self._timer.stop()
        if self._scale is not None:
            self._scale.close()
        self._scale = None
        if self.isVisible() or words:
            self.weight.setText("–")
        self.take.setEnabled(False)
        self._told.setText(words)
        self._heard.setText("")


def ask_scale(parent: QWidget, units: Units, scale: Scale) -> tuple[float, Scale] | None:
    """Ask the scale: the weight in grams and the scale as it was told; None when the maker thinks better of it."""
    dialog = ScaleDialog(parent, units, scale)
    agreed = dialog.exec() == QDialog.DialogCode.Accepted
    if not agreed or dialog.reading is None:
        return None
    return dialog.reading.mass_g, dialog.scale(dialog.place.currentText())
