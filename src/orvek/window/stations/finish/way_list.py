"""The ways out of a fault in a list: each with what it takes; those that cannot work here stand faint, and say why."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.planning.faults.results import WayOut
from orvek.planning.faults.words import in_short
from orvek.quantities import Units
from orvek.window import theme
from orvek.window.widgets.layouts import clear, widgets_in

_TALL = 40


class WayButton(QAbstractButton):
    """One way: its name, and under it hands, waiting, cost and chance."""

    def __init__(self, way: WayOut, units: Units, *, is_open: bool, is_decided: bool) -> None:
        super().__init__()
        self.way, self._line = way, in_short(way, units) if way.can else "not here: click to see why"
        self._is_open, self._is_decided = is_open, is_decided
        self.setText(way.title)
        self.setAccessibleName(way.title)
        self.setAccessibleDescription(f"decided; {self._line}" if is_decided else self._line)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(260, _TALL)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._is_open:
            painter.fillRect(self.rect(), theme.PANEL)
        if self._is_open or self.hasFocus():
            painter.fillRect(QRectF(0, 0, 3, self.height()), theme.ACCENT)
        room = self.width() - 16
        painter.setFont(theme.bold(theme.BODY) if self._is_open else theme.font(theme.BODY))
        painter.setPen(theme.INK if self.way.can else theme.QUIET)
        name = f"✓ {self.text()}" if self._is_decided else self.text()
        shown = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(10, 2, room, 18), Qt.AlignmentFlag.AlignVCenter, shown)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        line = painter.fontMetrics().elidedText(self._line, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(10, 20, room, 17), Qt.AlignmentFlag.AlignVCenter, line)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class WayList(QWidget):
    """All ways; one is open and shown in full beside the list."""

    opened = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._shown: tuple[object, ...] = ()
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)

    def show_ways(self, ways: Sequence[WayOut], open_key: str, decided: str, units: Units) -> None:
        """Show these ways; built anew only when something about them changes."""
        shown = (tuple(ways), open_key, decided, units)
        if shown == self._shown:
            return
        had_focus = any(button.hasFocus() for button in self.buttons())
        self._shown = shown
        clear(self._column)
        for way in ways:
            button = WayButton(way, units, is_open=way.key == open_key, is_decided=way.key == decided)
            button.clicked.connect(partial(self.opened.emit, way.key))
            self._column.addWidget(button)
            if had_focus and way.key == open_key:
                button.setFocus()
        self._column.addStretch(1)

    def buttons(self) -> list[WayButton]:
        """The ways as they stand."""
        return list(widgets_in(self._column, WayButton))
