"""The band over a station: what is next and where it leads, the last change with Undo; notices take its place.

It is always there and always as tall, so that nothing below it moves when something is said.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QStackedLayout, QWidget

from orvek.planning import Plan
from orvek.planning.route.next import Next, next_of
from orvek.window import theme
from orvek.window.widgets.label import Label, plain_tip, without_shortcut

HEIGHT = 40
_LAST_PX, _MINUTE_MS = 300, 30_000


class Notice(QWidget):
    """One line: what went wrong, or what was done."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._said = ""
        self._words = Label()
        self._words.setWordWrap(True)
        self._words.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 500))
        self.button, self.second = QPushButton(), QPushButton()
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 2, 24, 2)
        row.addWidget(self._words, 1)
        row.addWidget(self.button)
        row.addWidget(self.second)

    def say(self, words: str, button: str = "", second: str = "") -> None:
        """Show a sentence with up to two buttons; an empty one takes the line away."""
        self._said = words
        self._words.setText(words)
        self._words.setToolTip(plain_tip(words) if words else "")
        for there, label in ((self.button, button), (self.second, second)):
            there.setText(label)
            there.setVisible(bool(label))
        self.changed.emit()

    def text(self) -> str:
        """What is said now."""
        return self._said


class NextLine(QWidget):
    """What is next in the job, with its action; at the right the last change, which can be taken back."""

    station_wanted = Signal(object)
    bench_wanted = Signal(object)
    undo_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._next: Next | None = None
        self.words = QPushButton()
        self.words.setProperty("kind", "place")
        self.words.setStyleSheet(f"font-size: {theme.BODY}px; font-weight: 600; border: none; text-align: left;")
        self.words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.words.clicked.connect(self._lead)
        self.bench, self.undo = QPushButton("At the bench"), QPushButton()
        self.bench.clicked.connect(self._begin)
        self.undo.setProperty("kind", "small")
        self.undo.setMaximumWidth(_LAST_PX)
        self.undo.clicked.connect(self.undo_wanted)
        row = QHBoxLayout(self)
        row.setContentsMargins(20, 2, 16, 2)
        row.setSpacing(12)
        row.addWidget(self.words, 1)
        row.addWidget(self.bench)
        row.addWidget(self.undo)

    def show_next(self, found: Next | None, *, writable: bool) -> None:
        """Show what is next; None where no job is looked at."""
        self._next = found
        self.words.setText(without_shortcut(found.words) if found is not None else "")
        self.words.setAccessibleName(found.words if found is not None else "Nothing is next")
        self.words.setToolTip(f"Go to {found.station.words}" if found is not None else "")
        self.words.setEnabled(found is not None)
        self.bench.setVisible(found is not None and found.operation is not None and writable)

    def show_last(self, deed: str) -> None:
        """Name the last change; nothing where there is none that can be taken back."""
        words = f"Undo: {deed}"
        self.undo.setVisible(bool(deed))
        self.undo.setText(
            without_shortcut(self.undo.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, _LAST_PX - 24))
        )
        self.undo.setAccessibleName(words)
        self.undo.setToolTip(plain_tip(words))

    def _lead(self) -> None:
        if self._next is not None:
            self.station_wanted.emit(self._next.station)

    def _begin(self) -> None:
        if self._next is not None and self._next.operation is not None:
            self.bench_wanted.emit(self._next.operation)


class Band(QWidget):
    """The next line; in its place a notice for a while, or what stays to be said of the file."""

    def __init__(self, now: Callable[[], datetime] = datetime.now) -> None:
        super().__init__()
        self._now = now
        self._plan: Plan | None = None  # the plan of a job that is looked at
        self._writable = False
        self._minute = QTimer(self)
        self._minute.setInterval(_MINUTE_MS)
        self._minute.timeout.connect(self.show_next)
        self._minute.start()
        self.setFixedHeight(HEIGHT)
        self.line, self.notice, self.keeping = NextLine(), Notice(), Notice()
        self._parts = QStackedLayout(self)
        self._parts.setContentsMargins(0, 0, 0, 0)
        for part in (self.line, self.notice, self.keeping):
            self._parts.addWidget(part)
        for said in (self.notice, self.keeping):
            said.changed.connect(self._show_what_counts)

    def show_plan(self, plan: Plan, *, is_of_job: bool, writable: bool) -> None:
        """Show what is next in a job; at the workshop's places nothing is."""
        self._plan, self._writable = plan if is_of_job else None, writable
        self.show_next()

    def show_next(self) -> None:
        """Show it as it is now: waits end while nobody touches anything."""
        found = next_of(self._plan, self._now()) if self._plan is not None else None
        self.line.show_next(found, writable=self._writable)

    def _show_what_counts(self) -> None:
        said = next((one for one in (self.notice, self.keeping) if one.text()), None)
        self._parts.setCurrentWidget(said if said is not None else self.line)
