"""The end of the log, to read or to copy."""

from __future__ import annotations

from PySide6.QtCore import QUrl
from PySide6.QtGui import QDesktopServices, QTextCursor
from PySide6.QtWidgets import QApplication, QHBoxLayout, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

from orvek.log import log_path, log_tail
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.sheets import Sheet


class LogDialog(Sheet):
    """What Orvek wrote down about its own faults; nothing of it leaves this computer by itself."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Log")
        self.resize(760, 480)
        self.text = QPlainTextEdit(log_tail() or "Nothing has been written down.")
        self.text.setReadOnly(True)
        self.text.setAccessibleName("The end of the log")
        self.text.moveCursor(QTextCursor.MoveOperation.End)
        copy, folder = QPushButton("Copy"), QPushButton("Show the folder")
        copy.clicked.connect(lambda: QApplication.clipboard().setText(self.text.toPlainText()))
        folder.clicked.connect(lambda: QDesktopServices.openUrl(QUrl.fromLocalFile(str(log_path().parent))))
        buttons = QHBoxLayout()
        for button in (copy, folder):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(12)
        column.addWidget(quiet_label(str(log_path())))
        column.addWidget(self.text, 1)
        column.addLayout(buttons)
