"""The working of a figure: formula, the numbers put in, the result, the source.

Escape or a click elsewhere closes it.
"""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFrame, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from orvek.documents import STANDING_WORDS
from orvek.planning import Figure, Term
from orvek.quantities import Units, exact
from orvek.window import theme
from orvek.window.widgets.label import Label

_WIDTH = 380


class WorkingPopup(QFrame):
    """A small sheet beside the figure it explains."""

    def __init__(self, parent: QWidget, figure: Figure, units: Units) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setAccessibleName(f"Working of {figure.label}")
        self.setStyleSheet(
            f"WorkingPopup {{ background: {theme.PANEL.name()}; border: 1px solid {theme.ACCENT.name()}; }}"
        )
        self.setFixedWidth(_WIDTH)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(6)
        column.addWidget(_label(figure.label, theme.words_css(theme.INK, theme.BODY, 600)))
        column.addWidget(_label(figure.formula, theme.words_css(theme.ACCENT, theme.BODY, 500)))
        column.addLayout(_terms(figure.terms, units))
        column.addWidget(_label(f"= {figure.result(units)}", theme.words_css(theme.INK, theme.LARGE, 600)))
        column.addWidget(_label(_source(figure), theme.words_css(theme.QUIET)))
        self.copy = QPushButton("Copy")
        self.copy.setProperty("kind", "small")
        self.copy.setToolTip("The figure and its working, to the clipboard")
        self.copy.clicked.connect(lambda: QGuiApplication.clipboard().setText(self.words()))
        column.addWidget(self.copy, 0, Qt.AlignmentFlag.AlignRight)

    def words(self) -> str:
        """All that stands on the sheet, for those who listen and for tests."""
        return "\n".join(label.text() for label in self.findChildren(QLabel))


def show_working(beside: QWidget, figure: Figure, units: Units) -> WorkingPopup:
    """Open the working of `figure` beside a widget, kept on the screen."""
    popup = WorkingPopup(beside, figure, units)
    popup.adjustSize()
    corner = beside.mapToGlobal(QPoint(beside.width() - popup.width(), beside.height() + 4))
    screen = beside.screen().availableGeometry()
    x = min(max(corner.x(), screen.left() + 8), screen.right() - popup.width() - 8)
    below = corner.y() + popup.height() < screen.bottom()
    y = corner.y() if below else beside.mapToGlobal(QPoint(0, 0)).y() - popup.height() - 4
    popup.move(x, max(y, screen.top()))
    popup.show()
    return popup


def _terms(terms: tuple[Term, ...], units: Units) -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(12)
    grid.setVerticalSpacing(3)
    grid.setColumnStretch(2, 1)
    for row, term in enumerate(terms):
        grid.addWidget(_label(term.symbol, theme.words_css(theme.ACCENT, theme.SMALL, 500), wrap=False), row, 0)
        value = _label(
            exact(term.value, term.dimension, units), theme.words_css(theme.INK, theme.SMALL, 600), wrap=False
        )
        grid.addWidget(value, row, 1, Qt.AlignmentFlag.AlignRight)
        standing = f" · {STANDING_WORDS[term.standing]}" if term.standing else ""
        grid.addWidget(_label(term.words + standing, theme.words_css(theme.QUIET)), row, 2)
    return grid


def _source(figure: Figure) -> str:
    sources = dict.fromkeys(term.source for term in figure.terms if term.source)
    return "; ".join([figure.source, *sources])


def _label(words: str, css: str, *, wrap: bool = True) -> QLabel:
    label = Label(words)
    label.setTextFormat(Qt.TextFormat.PlainText)
    label.setWordWrap(wrap)
    label.setStyleSheet(css)
    return label
