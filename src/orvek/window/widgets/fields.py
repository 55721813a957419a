"""Fields and figures: one line each, a quiet label on the left, the value on the right, a hairline under it.

`QuantityField` reads what a maker types; `FigureLine` shows a computed value and opens its working.
"""

from __future__ import annotations

from PySide6.QtCore import SIGNAL, QSize, Qt, Signal
from PySide6.QtGui import QFocusEvent, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSizePolicy,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import Measure
from orvek.errors import NotUnderstoodError, OrvekError, OutOfBoundsError
from orvek.planning import Figure
from orvek.quantities import Dimension, Units, read, read_bit, write, write_bit
from orvek.window import theme
from orvek.window.widgets.label import Label, plain_tip
from orvek.window.widgets.working_popup import show_working

_VALUE_WIDTH = 84
_WHOLE = frozenset({Dimension.TEMPERATURE, Dimension.TURNS, Dimension.ALTITUDE})  # written without decimals
_TENTHS = frozenset({Dimension.LENGTH, Dimension.MASS, Dimension.PRESSURE, Dimension.ANGLE, Dimension.VOLUME})
_REFUSED = SIGNAL("refused(QString)")


def quiet_label(words: str, size: int = theme.SMALL) -> QLabel:
    """A label in quiet ink."""
    label = Label(words)
    label.setStyleSheet(theme.words_css(theme.QUIET, size))
    return label


def caution_label() -> Label:
    """Lines in the ink of cautions; empty until something can hurt."""
    label = Label()
    label.setWordWrap(True)
    label.setStyleSheet(theme.words_css(theme.CAUTION, theme.SMALL, 500))
    return label


def heading(words: str) -> QLabel:
    """The heading of a group of fields."""
    label = Label(words)
    label.setWordWrap(True)
    label.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
    label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
    return label


class QuantityEdit(QLineEdit):
    """A line that reads a quantity. Nonsense gets a sentence through `refused` and stays to be put right.

    The value that counts is the old one until then; Escape shows it again.
    """

    entered = Signal(object)
    refused = Signal(str)

    def __init__(self, measure: Measure, units: Units, *, is_bit: bool = False, optional: bool = False) -> None:
        super().__init__()
        self._measure = measure
        self._units = units
        self._is_bit = is_bit
        self._optional = optional
        self._value: float | None = None
        self._shown = ""
        self._refusal = ""  # why what stands there was not taken; the value before it counts
        self._is_fresh = False  # the pointer has just come into it
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setAccessibleName(measure.title)
        self._explain()
        self.setStyleSheet("font-weight: 600;")
        self.editingFinished.connect(self._finish)

    def set_value(self, value: float | None, units: Units | None = None) -> None:
        """Show a value, unless the maker is typing."""
        if units is not None and units != self._units:
            self._units = units
            self._explain()
            self.take_back()
        is_kept = self._refusal and value == self._value
        self._value = value
        if not is_kept and not (self.hasFocus() and self.isModified()):
            self.take_back()

    def value(self) -> float | None:
        """The value that stands."""
        return self._value

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.take_back()
            return
        super().keyPressEvent(event)

    def take_back(self) -> None:
        """Show the value that stands, and no sentence."""
        if self._refusal:
            self._refusal = ""
            self.refused.emit("")
        self._show()

    def paintEvent(self, event: QPaintEvent) -> None:
        """An empty field says in quiet ink what counts instead; under what was refused there is a bar."""
        super().paintEvent(event)
        if self._refusal:
            QPainter(self).fillRect(0, self.height() - 2, self.width(), 2, theme.STOP)
        if self._optional and not self.text() and not self.hasFocus():
            painter = QPainter(self)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.QUIET)
            area = self.rect().adjusted(0, 0, -4, -1)
            said = painter.fontMetrics().elidedText(
                self._measure.when_empty or "–", Qt.TextElideMode.ElideRight, area.width()
            )
            painter.drawText(area, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter), said)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._is_fresh = event.reason() is Qt.FocusReason.MouseFocusReason
        if event.reason() in {Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason}:
            self.selectAll()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """The first click takes the whole value, so that typing replaces it; the next one takes a place in it."""
        super().mouseReleaseEvent(event)
        if self._is_fresh and not self.hasSelectedText():
            self.selectAll()
        self._is_fresh = False

    def _explain(self) -> None:
        """What may stand here, in the maker's units as they are now."""
        limit = f"{self._measure.title}, {self._measure.limit(self._units)}"
        self.setToolTip(self._measure.hint or limit)
        self.setWhatsThis(plain_tip(f"{limit}. {self._measure.hint}".removesuffix(" ")))

    def _show(self) -> None:
        if self._value is None:
            text = ""
        elif self._is_bit:
            text = write_bit(self._value, self._units)
        else:
            text = write(self._value, self._measure.dimension, self._units, self._digits())
        self._shown = text
        self.setText(text)
        self.setModified(False)

    def _digits(self) -> int | None:
        """As many decimals as were typed, up to two; None where the usual ones show them all."""
        assert self._value is not None
        is_whole = self._measure.dimension in _WHOLE and self._units.temperature == "°C"
        usual = 0 if is_whole else 1 if self._measure.dimension in _TENTHS else 2
        needed = next(digits for digits in (0, 1, 2) if digits == 2 or round(self._value, digits) == self._value)
        return needed if needed > usual else None

    def _finish(self) -> None:
        if self._refusal and not self.isModified():
            return
        if not self.isModified() or self.text().strip() == self._shown:
            self.take_back()
            return
        try:
            value = self._read()
        except OrvekError as error:
            self.setModified(False)
            self._refuse(f"{error} Until then {self._shown or 'nothing'} counts.")
            return
        self._refusal = ""
        self.refused.emit("")
        self._value = value
        self._show()
        self.entered.emit(value)

    def _refuse(self, sentence: str) -> None:
        """Where nobody shows the sentence beside it, the field does."""
        self._refusal = sentence
        if self.receivers(_REFUSED) == 0:
            QToolTip.showText(self.mapToGlobal(self.rect().bottomLeft()), plain_tip(sentence), self)
        self.refused.emit(sentence)

    def refusal(self) -> str:
        """Why what stands there was not taken; empty where it was."""
        return self._refusal

    def _read(self) -> float | None:
        text = self.text().strip()
        if not text:
            if self._optional:
                return None
            raise NotUnderstoodError(text, "a value")
        value = read_bit(text, self._units) if self._is_bit else read(text, self._measure.dimension, self._units)
        if not self._measure.low <= value <= self._measure.high:
            raise OutOfBoundsError(self._measure.title, text, self._measure.limit(self._units))
        return int(value) if self._measure.dimension is Dimension.COUNT else value


class QuantityField(QWidget):
    """A label, a `QuantityEdit` and, when something was refused, the sentence under it."""

    entered = Signal(object)

    def __init__(self, measure: Measure, units: Units, *, is_bit: bool = False, optional: bool = False) -> None:
        super().__init__()
        self.line = QuantityEdit(measure, units, is_bit=is_bit, optional=optional)
        self.line.setFixedWidth(_VALUE_WIDTH)
        self.setFocusProxy(self.line)
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))
        self._sentence.hide()
        row = QHBoxLayout()
        row.setSpacing(8)
        self.label = quiet_label(measure.title)
        self.label.setWordWrap(True)
        self.label.setBuddy(self.line)
        row.addWidget(self.label, 1)
        row.addWidget(self.line)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(row)
        column.addWidget(self._sentence)
        self.line.entered.connect(self.entered)
        self.line.refused.connect(self.refuse)

    def set_value(self, value: float | None, units: Units | None = None) -> None:
        """Show a value, unless the maker is typing."""
        self.line.set_value(value, units)

    def refuse(self, sentence: str) -> None:
        """Show why something was not taken; an empty sentence takes it away."""
        self._sentence.setText(sentence)
        self._sentence.setVisible(bool(sentence))

    def sentence(self) -> str:
        """The sentence that stands under the field, if any."""
        return self._sentence.text()


class FigureValue(QAbstractButton):
    """A computed value. A click, or Enter with the focus on it, opens its working."""

    def __init__(self, size: int = theme.BODY, align: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignRight) -> None:
        super().__init__()
        self._figure: Figure | None = None
        self._units = Units()
        self._text = ""
        self._size = size
        self._align = align
        self.clicked.connect(self._open)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.MinimumExpanding, QSizePolicy.Policy.Fixed)

    def set_figure(self, figure: Figure | None, units: Units, text: str | None = None, *, of: str = "") -> None:
        """Show a figure; `text` replaces its usual writing, e.g. by what the scale shows; `of` says whose it is."""
        before = self.accessibleName()
        self._figure, self._units = figure, units
        self._text = text if text is not None else figure.written(units) if figure else "–"
        whose = f"{of}: " if of else ""
        self.setAccessibleName(f"{whose}{figure.label}: {self._text}" if figure else f"{whose}not known yet")
        if self.accessibleName() == before:
            return  # nothing to lay out or paint anew: a drag asks sixty times a second
        self.setToolTip("Click for the working" if figure else "")
        self.setWhatsThis(plain_tip(f"{figure.label}: {figure.formula}. {figure.source}") if figure else "")
        self.updateGeometry()
        self.update()

    def text(self) -> str:
        """What is shown."""
        return self._text

    def figure(self) -> Figure | None:
        """The figure that is shown."""
        return self._figure

    def sizeHint(self) -> QSize:
        metrics = self.fontMetrics() if self._size == theme.BODY else _metrics(self._size)
        return QSize(metrics.horizontalAdvance(self._text) + 10, self._size + 10)

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.click()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(theme.bold(self._size))
        painter.setPen(theme.INK)
        area = self.rect().adjusted(2, 0, -5, -2)
        painter.drawText(area, int(self._align | Qt.AlignmentFlag.AlignVCenter), self._text)
        if self._figure is not None:
            # A dotted line says that there is something behind the figure.
            width = min(painter.fontMetrics().horizontalAdvance(self._text), area.width())
            left = area.left() if self._align & Qt.AlignmentFlag.AlignLeft else area.right() - width
            colour = theme.ACCENT if self.hasFocus() else theme.QUIET
            painter.setPen(theme.pen(colour, 2 if self.hasFocus() else 1, Qt.PenStyle.DotLine))
            painter.drawLine(left, self.height() - 3, left + width, self.height() - 3)

    def _open(self) -> None:
        if self._figure is not None:
            show_working(self, self._figure, self._units)


class Answer(FigureValue):
    """What a page answers, said once, in the largest letters that have room; a click opens its figure's working."""

    def __init__(self) -> None:
        super().__init__(theme.TITLE, Qt.AlignmentFlag.AlignLeft)
        self.setFixedHeight(_ANSWER_PX)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def say(self, words: str, units: Units, figure: Figure | None = None) -> None:
        """Say it; `figure` is what it rests on."""
        if (words, units, figure) == (self._text, self._units, self._figure):
            return  # a drag asks sixty times a second
        self.set_figure(figure, units, words)
        self.setAccessibleName(words)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if figure else Qt.FocusPolicy.NoFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor if figure else Qt.CursorShape.ArrowCursor)
        self._fit()

    def minimumSizeHint(self) -> QSize:
        return QSize(0, _ANSWER_PX)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Take the largest size in which it stands on the line; the least is cut short, and told whole by its tip."""
        sizes = (theme.TITLE, theme.LARGE, theme.BODY)
        self._size = next((one for one in sizes if _metrics(one).horizontalAdvance(self._text) < self.width() - 8), 0)
        if not self._size:
            self._size = theme.SMALL
            self.setToolTip(plain_tip(self._text))
        self.update()


class FigureLine(QWidget):
    """A quiet label and a computed value on one line."""

    def __init__(self, words: str, size: int = theme.BODY) -> None:
        super().__init__()
        self.label = quiet_label(words)
        self.value = FigureValue(size)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(self.label)
        row.addWidget(self.value, 1)

    def set_figure(self, figure: Figure | None, units: Units, text: str | None = None) -> None:
        """Show a figure, or a dash where there is none yet."""
        self.value.set_figure(figure, units, text)

    def tell(self, figure: Figure | None, units: Units) -> None:
        """Show a figure under its own name; nothing where there is none."""
        self.setVisible(figure is not None)
        if figure is not None:
            self.label.setText(figure.label)
            self.set_figure(figure, units)


_ANSWER_PX = 36


def _metrics(size: int) -> QFontMetrics:
    return QFontMetrics(theme.bold(size))
