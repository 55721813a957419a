"""What to measure of a pen that was never made before: a numbered list on a sheet, to be read at the calipers."""

from __future__ import annotations

from PySide6.QtWidgets import QDialogButtonBox, QVBoxLayout, QWidget

from orvek.planning.pen.measuring import measuring_lines
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.sheets import Sheet


class MeasuringDialog(Sheet):
    """The list for the pen of the job in hand."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        pen = session.job.pen
        self.setWindowTitle("What to measure first")
        self.resize(640, 520)
        title = Label("What to measure first")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        lines = QWidget()
        inside = QVBoxLayout(lines)
        inside.setContentsMargins(0, 0, 0, 0)
        for number, words in enumerate(measuring_lines(pen, session.units) if pen is not None else (), 1):
            line = Label(f"{number}  {words}")
            line.setWordWrap(True)
            inside.addWidget(line)
        inside.addStretch(1)
        ends = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        ends.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addWidget(scrolled(lines), 1)
        column.addWidget(ends)
