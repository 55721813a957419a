"""The pen's parts in the order in which they go in, to be added, changed and moved."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QListWidget, QPushButton, QVBoxLayout, QWidget

from orvek.documents import MOST_PARTS, PenPart
from orvek.documents.deeds import set_parts
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.buttons import Deeds, buttons_for
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet


class PartsDialog(Sheet):
    """The list and what can be done to the part in hand; each is one deed that can be undone."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self._session = session
        pen = session.job.pen
        self.setWindowTitle("Parts, in their order")
        self.resize(620, 420)
        title = Label(f"Parts of {pen.name}" if pen else "Parts")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        words = quiet_label("First what hides or would tilt later parts. The first in the list goes in first.")
        words.setWordWrap(True)
        self.list = QListWidget()
        self.list.setAccessibleName("Parts, in their order")
        self.list.currentRowChanged.connect(lambda _row: self._enable())
        self.list.itemActivated.connect(lambda _item: self.change())
        deeds: Deeds = {
            "add": ("Add…", self.add),
            "change": ("Change…", self.change),
            "remove": ("Remove", self.remove),
            "earlier": ("Earlier", partial(self.move_part, -1)),
            "later": ("Later", partial(self.move_part, 1)),
        }
        self._buttons = buttons_for(deeds)
        row = QHBoxLayout()
        for button in self._buttons.values():
            row.addWidget(button)
        row.addStretch(1)
        close = QPushButton("Close")
        close.clicked.connect(self.accept)
        row.addWidget(close)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        for widget in (title, words):
            column.addWidget(widget)
        column.addWidget(self.list, 1)
        column.addLayout(row)
        self._show(0)

    def parts(self) -> tuple[PenPart, ...]:
        """The parts as they are now."""
        pen = self._session.job.pen
        return pen.parts if pen else ()

    def add(self) -> None:
        """Ask for one more part, after the one in hand."""
        part = edit_document(self, "A part", PenPart(), self._session.shop)
        if part is not None:
            at = self.list.currentRow() + 1
            self._set((*self.parts()[:at], part, *self.parts()[at:]), f"Add {part.name}", at)

    def change(self) -> None:
        """Ask for changes to the part in hand."""
        at = self.list.currentRow()
        if at < 0:
            return
        part = edit_document(self, "A part", self.parts()[at], self._session.shop)
        if part is not None:
            self._set((*self.parts()[:at], part, *self.parts()[at + 1 :]), f"Change {part.name}", at)

    def remove(self) -> None:
        """Take the part in hand out of the list."""
        at = self.list.currentRow()
        if at >= 0:
            left = (*self.parts()[:at], *self.parts()[at + 1 :])
            self._set(left, f"Remove {self.parts()[at].name}", min(at, len(left) - 1))

    def move_part(self, way: int) -> None:
        """Let the part in hand go in one earlier (−1) or one later (1)."""
        at, parts = self.list.currentRow(), list(self.parts())
        if at >= 0 and 0 <= at + way < len(parts):
            parts[at], parts[at + way] = parts[at + way], parts[at]
            words = "earlier" if way < 0 else "later"
            self._set(tuple(parts), f"{parts[at + way].name} {words}", at + way)

    def _set(self, parts: tuple[PenPart, ...], words: str, at: int) -> None:
        self._session.attempt(words, lambda job: set_parts(job, parts))
        self._show(at)

    def _show(self, at: int) -> None:
        self.list.clear()
        self.list.addItems([f"{number}  {part.line}" for number, part in enumerate(self.parts(), 1)])
        self.list.setCurrentRow(min(at, self.list.count() - 1))
        self._enable()

    def _enable(self) -> None:
        at, count = self.list.currentRow(), self.list.count()
        self._buttons["add"].setEnabled(count < MOST_PARTS)
        for key in ("change", "remove"):
            self._buttons[key].setEnabled(at >= 0)
        self._buttons["earlier"].setEnabled(at > 0)
        self._buttons["later"].setEnabled(0 <= at < count - 1)
