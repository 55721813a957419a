"""A line while something slow is worked out: how far it is, and a button for those who do not want to wait."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

if TYPE_CHECKING:
    from orvek.window.forecasting import Forecaster


class Waiting(QWidget):
    """The progress of one forecaster; nothing is shown when there is nothing to wait for."""

    def __init__(self, forecaster: Forecaster, what: str) -> None:
        super().__init__()
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(4)
        self.bar.setAccessibleName(f"How far {what} is")
        self.stop = QPushButton("Do not wait")
        self.stop.setProperty("kind", "small")
        self.stop.setToolTip("Go on without this answer; it is asked again when something changes")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.bar, 1)
        row.addWidget(self.stop)
        policy = self.sizePolicy()
        policy.setRetainSizeWhenHidden(True)  # what stands below does not jump
        self.setSizePolicy(policy)
        self.hide()
        forecaster.progressed.connect(self.show_progress)
        self.stop.clicked.connect(forecaster.stop)

    def show_progress(self, part: float) -> None:
        """How far it is, 0 to 1; many solvers cannot say, and then the line only moves."""
        self.bar.setRange(0, 100 if part > 0 else 0)
        self.bar.setValue(round(100 * part))
        self.setVisible(part < 1)
