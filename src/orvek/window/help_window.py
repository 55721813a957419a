"""Help, offline: the guide and how things are computed, opened where the maker is, with a search over all of it."""

from __future__ import annotations

from importlib import resources

from msgspec import Struct
from PySide6.QtGui import QTextCursor
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from orvek.stations import Station, row_of
from orvek.window.widgets.sheets import Sheet


class Section(Struct, frozen=True):
    """One heading of the help with what stands below it, as Markdown."""

    title: str
    text: str


def sections() -> tuple[Section, ...]:
    """All of the help, in its order: the guide, then how things are computed."""
    folder = resources.files("orvek.data").joinpath("help")
    how = sorted(folder.joinpath("how").iterdir(), key=lambda entry: entry.name)
    pages = [folder.joinpath("guide.md"), *(entry for entry in how if entry.name.endswith(".md"))]
    return tuple(section for page in pages for section in _parted(page.read_text(encoding="utf-8")))


def _parted(text: str) -> list[Section]:
    """A page by its headings of the first and second order."""
    found: list[Section] = []
    lines: list[str] = []
    title = ""
    for line in [*text.splitlines(), "# "]:
        if line.startswith(("# ", "## ")):
            body = "\n".join(lines).strip()
            if title and body:
                found.append(Section(title, f"## {title}\n\n{body}"))
            title, lines = line.lstrip("# "), []
        else:
            lines.append(line)
    return found


class HelpWindow(Sheet):
    """Headings at the left, the text at the right; a window of its own, so that it can stay open beside the work."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Orvek help")
        self.setModal(False)
        self.resize(820, 560)
        self._sections = sections()
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search the help")
        self.search.setAccessibleName("Search the help")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self._list_what_holds)
        self.list = QListWidget()
        self.list.setAccessibleName("Headings")
        self.list.setFixedWidth(250)
        self.list.setWordWrap(True)
        self.list.currentItemChanged.connect(lambda item, _: self._show(item))
        self.text = QTextBrowser()
        self.text.setAccessibleName("Help")
        self.text.setOpenLinks(False)
        self.text.document().setDocumentMargin(14)
        left = QVBoxLayout()
        left.addWidget(self.search)
        left.addWidget(self.list, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 16, 16, 16)
        row.setSpacing(16)
        row.addLayout(left)
        row.addWidget(self.text, 1)
        self._list_what_holds("")

    def open_at(self, title: str) -> None:
        """Show the section of that heading."""
        self.search.clear()
        for row in range(self.list.count()):
            if self.list.item(row).text() == title:
                self.list.setCurrentRow(row)

    def titles(self) -> list[str]:
        """The headings that are listed now."""
        return [self.list.item(row).text() for row in range(self.list.count())]

    def _list_what_holds(self, wanted: str) -> None:
        words = wanted.casefold().split()
        self.list.clear()
        for number, section in enumerate(self._sections):
            if all(word in section.text.casefold() for word in words):
                item = QListWidgetItem(section.title)
                item.setData(256, number)
                self.list.addItem(item)
        self.list.setCurrentRow(0)
        if not self.list.count():
            self.text.setPlainText("Nothing in the help holds these words.")

    def _show(self, item: QListWidgetItem | None) -> None:
        if item is None:
            return
        self.text.setMarkdown(self._sections[item.data(256)].text)
        wanted = self.search.text().strip()
        self.text.moveCursor(QTextCursor.MoveOperation.Start)
        if wanted:
            self.text.find(wanted)


def show_help(parent: QWidget, station: Station) -> HelpWindow:
    """Open the help at a station; the window that is open already is used again."""
    window = next((child for child in parent.children() if isinstance(child, HelpWindow)), None) or HelpWindow(parent)
    window.open_at(row_of(station).help)
    window.show()
    window.raise_()
    window.activateWindow()
    return window
