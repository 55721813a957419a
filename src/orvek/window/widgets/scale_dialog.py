"""The weight that lies on the scale, live; what is steady can be taken."""

from __future__ import annotations

from typing import cast

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QVBoxLayout, QWidget

from orvek.documents.job.pour import Scale
from orvek.quantities import Units
from orvek.window.widgets.device_panel import DevicePanel
from orvek.window.widgets.sheets import Sheet


class ScaleDialog(Sheet):
    """The scale as it is plugged in, what it says, and a button that takes it."""

    def __init__(self, parent: QWidget | None, units: Units, scale: Scale) -> None:
        super().__init__(parent)
        self.setWindowTitle("From the scale")
        self.setMinimumWidth(420)
        self.mass_g = 0.0
        self.panel = DevicePanel(scale, units)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.take = buttons.button(QDialogButtonBox.StandardButton.Ok)
        self.take.setText("Add this weight")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("Cancel")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(self.panel)
        column.addWidget(buttons)
        self.panel.fell_silent.connect(lambda: self.take.setEnabled(False))
        self.panel.said.connect(self._hear)
        self.take.setEnabled(False)
        self.panel.try_out()

    def _hear(self, mass_g: float, is_steady: bool) -> None:
        """Only a weight that is steady can be taken."""
        self.mass_g = mass_g
        self.take.setEnabled(is_steady and mass_g > 0)


def ask_scale(parent: QWidget, units: Units, scale: Scale) -> tuple[float, Scale] | None:
    """Ask the scale: the weight in grams and the scale as it was described; None when the maker thinks better of it."""
    dialog = ScaleDialog(parent, units, scale)
    agreed = dialog.exec() == QDialog.DialogCode.Accepted
    if not agreed or dialog.mass_g <= 0:
        return None
    return dialog.mass_g, cast(Scale, dialog.panel.device)
