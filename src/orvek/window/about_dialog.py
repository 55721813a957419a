"""About Orvek: its version, and what it is made of with the licences of that."""

from __future__ import annotations

import re
from collections.abc import Iterator
from importlib import metadata

from PySide6.QtCore import qVersion
from PySide6.QtWidgets import QDialogButtonBox, QPlainTextEdit, QVBoxLayout, QWidget

from orvek import __version__
from orvek.window import theme
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

_WORDS = (
    "From a pen and a mould to a blank and its pour card.\n"
    "Figures are calculations: labels, safety sheets and your own records go before them."
)
_QT = (
    "Orvek shows its windows with Qt {version}, by PySide6. Both are used under the GNU Lesser General Public License, "
    "version 3: they are separate libraries, and you may put other builds of them in their place."
)
_NAME = re.compile(r"[A-Za-z0-9_.-]+")


class AboutDialog(Sheet):
    """The version; below it every library with its version and licence."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setWindowTitle("About Orvek")
        self.resize(560, 480)
        title, words = Label(f"Orvek {__version__}"), Label(_WORDS)
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        words.setWordWrap(True)
        qt = Label(_QT.format(version=qVersion()))
        qt.setWordWrap(True)
        self.list = QPlainTextEdit("\n".join(libraries("orvek")))
        self.list.setReadOnly(True)
        self.list.setAccessibleName("Libraries and their licences")
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(12)
        for widget in (title, words, qt, self.list, buttons):
            column.addWidget(widget)


def libraries(of: str) -> list[str]:
    """A line for each library that a distribution needs, and those need in their turn: name, version, licence."""
    wanted, seen = [of], set[str]()
    lines = {}
    while wanted:
        name = wanted.pop()
        try:
            found = metadata.distribution(name)
        except metadata.PackageNotFoundError:
            continue  # another system's, or one for developers
        key = found.metadata["Name"].lower()
        if key in seen:
            continue
        seen.add(key)
        wanted.extend(_needed(found))
        if name != of:
            lines[key] = f"{found.metadata['Name']} {found.version}: {_licence(found)}"
    return [lines[key] for key in sorted(lines)]


def _needed(found: metadata.Distribution) -> Iterator[str]:
    for line in found.requires or ():
        name, _, condition = line.partition(";")
        match = _NAME.match(name)
        if match is not None and "extra" not in condition:
            yield match.group()


def _licence(found: metadata.Distribution) -> str:
    """As the library says it: in an expression, by its classifiers, or in the first line of its words."""
    told = found.metadata
    classes = [one.rpartition(" :: ")[2] for one in told.get_all("Classifier") or () if one.startswith("License ::")]
    first = [words.strip().splitlines()[0] for words in told.get_all("License") or () if words.strip()]
    said = (*(told.get_all("License-Expression") or ()), ", ".join(classes), *first, "see its own files")
    return next(str(words) for words in said if words)
