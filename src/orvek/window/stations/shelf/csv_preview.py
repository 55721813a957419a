"""Before rows of a table are put on a shelf: what each of them is, and why those that are none are left."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from orvek.cards.shelf_csv import ReadShelf
from orvek.window import theme
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet


class CsvPreview(Sheet):
    """One line a row; accepted when the maker takes what can be taken."""

    def __init__(self, parent: QWidget, read: ReadShelf, there: tuple[Any, ...]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Import from CSV")
        self.resize(620, 420)
        names = {thing.name for thing in there}
        self.list = QListWidget()
        self.list.setAccessibleName("Rows of the table")
        for row in read.rows:
            words = f"Row {row.number}: {row.sentence}"
            if row.thing is not None:
                words = f"Row {row.number}: {row.thing.name}"
                words += ", in place of the one there" if row.thing.name in names else ", new"
            item = QListWidgetItem(words)
            if row.thing is None:
                item.setForeground(theme.STOP)
            self.list.addItem(item)
        count = len(read.things)
        left = len(read.rows) - count
        heading = Label(f"{count} of {len(read.rows)} rows can be taken")
        heading.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self.take, cancel = QPushButton(f"Take {count}"), QPushButton("Cancel")
        self.take.setEnabled(count > 0)
        self.take.setDefault(True)
        self.take.clicked.connect(self.accept)
        cancel.clicked.connect(self.reject)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(self.take)
        buttons.addWidget(cancel)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(heading)
        if read.unknown:
            column.addWidget(quiet_label(f"Not known, and left out: {', '.join(read.unknown[:12])}"))
        column.addWidget(self.list, 1)
        if left:
            column.addWidget(quiet_label(f"{left} are left as they are, with the reason beside them."))
        column.addLayout(buttons)
