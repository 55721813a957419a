"""What a station shows while its first decision is still to be taken: the question, and places to start from."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QEnterEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import BarMould, LoafMould, Mould, Pen
from orvek.window import theme
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear

Drawing = Callable[[QPainter, QRectF], None]
_TALL, _DRAWING = 56, 120


class Suggestion(Struct, frozen=True):
    """A place to start from, with a small drawing of it."""

    name: str
    line: str
    deed: Callable[[], None]
    draw: Drawing | None = None


class SuggestionRow(QPushButton):
    """One suggestion: drawing, name, what it is; a hairline under it."""

    def __init__(self, suggestion: Suggestion) -> None:
        super().__init__()
        self._suggestion = suggestion
        self._over = False
        self.setAccessibleName(suggestion.name)
        self.setAccessibleDescription(suggestion.line)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.clicked.connect(lambda: suggestion.deed())

    def sizeHint(self) -> QSize:
        return QSize(480, _TALL)

    def enterEvent(self, event: QEnterEvent) -> None:
        self._over = True
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        self._over = False
        super().leaveEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._over or self.hasFocus():
            painter.fillRect(self.rect(), theme.PANEL)
            painter.fillRect(QRectF(0, 0, 4, self.height()), theme.ACCENT)
        if self._suggestion.draw:
            self._suggestion.draw(painter, QRectF(16, 9, _DRAWING, _TALL - 18))
        left = _DRAWING + 40
        painter.setPen(theme.INK)
        painter.setFont(theme.bold())
        area = QRectF(left, 8, self.width() - left - 16, 20)
        painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, self._suggestion.name)
        painter.setPen(theme.QUIET)
        painter.setFont(theme.font(theme.SMALL))
        painter.drawText(area.translated(0, 20), Qt.AlignmentFlag.AlignVCenter, self._suggestion.line)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class Opening(QWidget):
    """A question, and suggestions under it."""

    def __init__(self, question: str, because: str) -> None:
        super().__init__()
        self._shown: tuple[tuple[str, str], ...] | None = None
        inside = QWidget()
        self._list = QVBoxLayout(inside)
        self._list.setContentsMargins(0, 0, 12, 0)
        self._list.setSpacing(0)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inside)
        area.setAccessibleName(question)
        title = Label(question)
        title.setStyleSheet(theme.words_css(theme.INK, theme.TITLE, 600))
        line = Label(because)
        line.setWordWrap(True)
        line.setStyleSheet(theme.words_css(theme.QUIET, theme.BODY))
        column = QVBoxLayout(self)
        column.setContentsMargins(56, 48, 44, 16)
        column.setSpacing(8)
        column.addWidget(title)
        column.addWidget(line)
        column.addSpacing(16)
        column.addWidget(area, 1)

    def show_suggestions(self, suggestions: tuple[Suggestion, ...]) -> None:
        """Show these; built anew only when they have changed."""
        words = tuple((s.name, s.line) for s in suggestions)
        if words == self._shown:
            return
        self._shown = words
        clear(self._list)
        for suggestion in suggestions:
            self._list.addWidget(SuggestionRow(suggestion))
        self._list.addStretch(1)


def pen_drawing(pen: Pen) -> Drawing:
    """The barrels' outlines, end to end."""

    def draw(painter: QPainter, area: QRectF) -> None:
        along = sum(b.tube_length_mm for b in pen.barrels) + 4 * (len(pen.barrels) - 1)
        scale, left = area.width() / along, area.left()
        painter.setPen(theme.pen(theme.INK, 1))
        for barrel in pen.barrels:
            right = left + barrel.tube_length_mm * scale
            tube = barrel.tube_diameter_mm * scale / 2
            middle = area.center().y()
            painter.setBrush(theme.MOULD)
            outline = [(left + part * (right - left), size * scale / 2) for part, size in barrel.profile]
            over, under = ([QPointF(x, middle + side * y) for x, y in outline] for side in (-1, 1))
            painter.drawPolygon([*over, *reversed(under)])
            if barrel.glued_from_to_mm:
                first, last = barrel.glued_from_to_mm
                painter.fillRect(
                    QRectF(left + first * scale, middle - tube, (last - first) * scale, 2 * tube), theme.BRASS
                )
            left = right + 4 * scale

    return draw


def mould_drawing(mould: Mould) -> Drawing:
    """The mould from above."""

    def draw(painter: QPainter, area: QRectF) -> None:
        count = 1 if isinstance(mould, LoafMould) else mould.cavities
        across = mould.width_mm if isinstance(mould, BarMould | LoafMould) else mould.diameter_mm
        pitch = across + 5
        scale = min(area.width() / (mould.length_mm + 10), area.height() / (count * pitch + 5))
        body = QRectF(0, 0, (mould.length_mm + 10) * scale, (count * pitch + 5) * scale)
        body.moveCenter(area.center())
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.setBrush(theme.MOULD)
        painter.drawRect(body)
        for n in range(count):
            top = body.top() + (5 + n * pitch) * scale
            painter.fillRect(QRectF(body.left() + 5 * scale, top, mould.length_mm * scale, across * scale), theme.PANEL)

    return draw


def colour_drawing(colour: str) -> Drawing:
    """A swatch."""

    def draw(painter: QPainter, area: QRectF) -> None:
        painter.setPen(theme.pen(theme.INK, 1))
        painter.setBrush(QColor(colour))
        painter.drawRect(area)

    return draw


def parts_drawing(part_a: float, part_b: float) -> Drawing:
    """Parts A and B by volume, side by side."""

    def draw(painter: QPainter, area: QRectF) -> None:
        split = area.left() + area.width() * part_a / (part_a + part_b)
        painter.setPen(theme.pen(theme.INK, 1))
        painter.setFont(theme.bold(theme.SMALL))
        for left, right, name, fill in (
            (area.left(), split, "A", theme.PANEL),
            (split, area.right(), "B", theme.MOULD),
        ):
            piece = QRectF(left, area.top() + 6, right - left, area.height() - 12)
            painter.setBrush(fill)
            painter.drawRect(piece)
            if piece.width() > 16:
                painter.drawText(piece, Qt.AlignmentFlag.AlignCenter, name)

    return draw
