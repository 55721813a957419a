"""A plain button that shows what is chosen and opens a menu of what else there is."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QWidget

from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import plain_tip, without_shortcut

MenuFiller = Callable[[QMenu], None]


def refill(menu: QMenu, fill: MenuFiller) -> None:
    """Fill a menu anew each time it opens, so that it never shows what is no longer there."""

    def now() -> None:
        menu.clear()
        fill(menu)

    menu.aboutToShow.connect(now)


class ChoiceButton(QPushButton):
    """Its menu is filled each time it opens; without one, whoever made the button listens to its clicks."""

    def __init__(self, words: str, fill: MenuFiller | None) -> None:
        super().__init__()
        self.setProperty("kind", "value")
        self.setAccessibleName(words)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._full = ""
        self.setStyleSheet("text-align: right;")
        if fill is not None:
            menu = QMenu(self)
            refill(menu, fill)
            self.setMenu(menu)

    def set_text(self, text: str) -> None:
        """Show what is chosen, shortened to the room there is."""
        self._full = text
        self.setToolTip(plain_tip(self._full))
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = max(24, self.width() - 24)
        shown = self.fontMetrics().elidedText(self._full, Qt.TextElideMode.ElideRight, room)
        self.setText(without_shortcut(f"{shown} ›"))


class ChoiceField(QWidget):
    """A quiet label and a `ChoiceButton`."""

    def __init__(self, words: str, fill: MenuFiller | None) -> None:
        super().__init__()
        self.button = ChoiceButton(words, fill)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(quiet_label(words))
        row.addWidget(self.button, 1)
        self.setFocusProxy(self.button)

    def set_text(self, text: str) -> None:
        """Show what is chosen."""
        self.button.set_text(text)


def add_action(menu: QMenu, words: str, deed: Callable[[], None], *, checked: bool | None = None) -> QAction:
    """Put a line into a menu."""
    action = menu.addAction(without_shortcut(words))
    action.triggered.connect(lambda: deed())
    if checked is not None:
        action.setCheckable(True)
        action.setChecked(checked)
    return action


def add_heading(menu: QMenu, words: str) -> None:
    """Put a line that only names what follows into a menu."""
    menu.addAction(without_shortcut(words)).setEnabled(False)
