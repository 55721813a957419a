"""The findings: short sentences, worst first, each with its because and the remedies that can be had."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAction,
    QFontMetrics,
    QGuiApplication,
    QPainter,
    QPaintEvent,
    QPolygonF,
    QResizeEvent,
)
from PySide6.QtWidgets import (
    QAbstractButton,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSplitter,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import Job
from orvek.planning import Finding, Plan, Remedy, Severity
from orvek.planning.words import quiet_line
from orvek.stations import Station, row_of
from orvek.window import theme
from orvek.window.frame import FINDINGS_WIDTH as WIDTH
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label, left_to_right, plain_tip, without_shortcut
from orvek.window.widgets.layouts import clear

_COLOURS = {Severity.STOP: theme.STOP, Severity.CAUTION: theme.CAUTION, Severity.NOTE: theme.ACCENT}


class Mark(QWidget):
    """A mark for a severity: a barred octagon, a wedge, a dot; the word stands beside it."""

    def __init__(self, severity: Severity) -> None:
        super().__init__()
        self._severity = severity
        self.setFixedSize(14, 14)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_mark(painter, self._severity)


def paint_mark(painter: QPainter, severity: Severity) -> None:
    """A severity's mark in a field of 14 x 14."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_COLOURS[severity])
    if severity is Severity.STOP:
        painter.drawRect(QRectF(1, 1, 12, 12))
        painter.fillRect(QRectF(3, 5.8, 8, 2.4), theme.PANEL)
    elif severity is Severity.CAUTION:
        painter.drawPolygon(QPolygonF([QPointF(1, 2), QPointF(13, 7), QPointF(1, 12)]))
    else:
        painter.drawEllipse(QPointF(7, 7), 3, 3)


_FOLDED = 44  # width of the column of marks
_LABEL_PX = WIDTH - 44 - 28  # a line of a remedy on its button


class FindingView(QAbstractButton):
    """One finding; pressed, it leads to where it is decided and shows all of its reason."""

    remedy_wanted = Signal(object)
    lead_wanted = Signal(object)  # with the finding

    def __init__(self, finding: Finding, *, writable: bool) -> None:
        super().__init__()
        self._finding = finding
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Preferred)  # a button's own never wraps
        self.clicked.connect(self._lead)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 12, 0, 14)
        column.setSpacing(4)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(Mark(finding.severity))
        said = f"{finding.severity.words} · {finding.station.words}"
        head.addWidget(_text(said, theme.words_css(_COLOURS[finding.severity], 12, 600)), 1)
        column.addLayout(head)
        self._title = _text("", theme.words_css(theme.INK, theme.BODY, 600))
        self._because = Folded()
        column.addWidget(self._title)
        column.addWidget(self._because)
        self._buttons = [self._button(number) for number in range(len(finding.remedies))]
        for button in self._buttons:
            column.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        self.copy_action = QAction("Copy this finding", self)
        self.copy_action.triggered.connect(self._copy)
        self.addAction(self.copy_action)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
        self.show_finding(finding, writable=writable)

    def _copy(self) -> None:
        told = f"{self._finding.severity.words}: {self._finding.title} {self._finding.because}"
        QGuiApplication.clipboard().setText(told)

    def fits(self, finding: Finding) -> bool:
        """Whether another finding can be shown without building anew, as mostly while something is dragged."""
        now = self._finding
        return (finding.severity, finding.station, len(finding.remedies)) == (
            now.severity, now.station, len(now.remedies),
        )  # fmt: skip

    def show_finding(self, finding: Finding, *, writable: bool) -> None:
        """Show a finding that fits."""
        self._finding = finding
        self.setAccessibleName(f"{finding.severity.words}: {finding.title}")
        self.setAccessibleDescription(finding.because)
        self._title.setText(finding.title)
        self._because.show_words(finding.because)
        for button, remedy in zip(self._buttons, finding.remedies, strict=True):
            button.setText(without_shortcut("\n".join(_lines_of(remedy.label, button.fontMetrics(), _LABEL_PX))))
            button.setAccessibleName(remedy.label)
            button.setToolTip(plain_tip(remedy.label))
            button.setEnabled(writable)

    def _lead(self) -> None:
        self._because.unfold()
        self.lead_wanted.emit(self._finding)

    def _button(self, number: int) -> QPushButton:
        button = QPushButton()
        button.setStyleSheet(f"font-size: {theme.SMALL}px;")
        button.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        button.setMaximumWidth(WIDTH - 44)
        button.clicked.connect(lambda: self.remedy_wanted.emit(self._finding.remedies[number]))
        return button

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class Folded(QLabel):
    """A reason: its first line, and all of it once it was clicked."""

    def __init__(self) -> None:
        super().__init__()
        self._words, self._is_folded = "", True
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setWordWrap(True)
        self.setStyleSheet(theme.words_css(theme.QUIET))

    def show_words(self, words: str) -> None:
        """Show a reason, folded as the one before it."""
        self._words = words
        self._fill()

    def unfold(self) -> None:
        """Show all of it."""
        self._is_folded = False
        self._fill()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fill()

    def _fill(self) -> None:
        room = max(80, self.width() or _LABEL_PX)
        first = _lines_of(self._words, self.fontMetrics(), room)
        is_short = len(first) < 2 or not self._is_folded
        told = self._words if is_short else f"{_without_last_word(first[0])} …"
        if told != self.text():
            self.setText(left_to_right(told))
        self.setToolTip("" if is_short else plain_tip(self._words))


def place_of(finding: Finding) -> str:
    """The page that a finding speaks of, where its topic has one; else its station, as it is typed in a command."""
    row, topic = row_of(finding.station), finding.key.partition(".")[0]
    return topic if any(page.name == topic for page in row.pages) else row.name


class DoneView(QWidget):
    """What a finding's button did, where the finding stood and as tall: nothing under it moves under the pointer."""

    undo_wanted = Signal()

    def __init__(self, deed: str, tall_px: int) -> None:
        super().__init__()
        self.setFixedHeight(max(72, tall_px))
        self.undo = QPushButton("Undo")
        self.undo.setAccessibleName(f"Undo: {deed}")
        self.undo.setStyleSheet(f"font-size: {theme.SMALL}px;")
        self.undo.clicked.connect(self.undo_wanted)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 12, 0, 14)
        column.setSpacing(6)
        column.addWidget(_text(f"Done: {deed}", theme.words_css(theme.QUIET)))
        column.addWidget(self.undo, 0, Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


class MarksColumn(QPushButton):
    """The findings as marks under one another, worst first: a click shows them in full."""

    _EACH, _MOST = 24, 12

    def __init__(self) -> None:
        super().__init__()
        self._severities: tuple[Severity, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_findings(self, findings: tuple[Finding, ...]) -> None:
        """Show a mark for each."""
        self._severities = tuple(finding.severity for finding in findings)
        counts = ", ".join(
            f"{self._severities.count(one)} × {one.value.lower()}" for one in Severity if one in self._severities
        )
        self.setAccessibleName(f"Findings: {counts or 'none'}")
        self.setToolTip(f"Show the findings ({counts})" if counts else "Nothing to say yet")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(QRectF(0, 18, self.width(), 18), Qt.AlignmentFlag.AlignCenter, str(len(self._severities)))
        painter.translate(self.width() / 2 - 7, 48)
        for severity in self._severities[: self._MOST]:
            paint_mark(painter, severity)
            painter.translate(0, self._EACH)


class FindingsPanel(QWidget):
    """The right edge of a job's stations: what is to be said there, and how much elsewhere."""

    remedy_wanted = Signal(object)
    lead_wanted = Signal(object)
    place_wanted = Signal(str)
    undo_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._done: tuple[int, DoneView] | None = None
        self._job: Job | None = None  # the one whose findings are shown
        self._wide = WIDTH  # as the maker drew it, while it is not folded
        self.setAutoFillBackground(True)
        palette = self.palette()
        palette.setColor(self.backgroundRole(), theme.PANEL)
        self.setPalette(palette)
        self._shown: tuple[tuple[Finding, ...], Station, bool] | None = None
        self._views: list[FindingView] = []
        self._elsewhere = QVBoxLayout()
        self._count = quiet_label("", theme.BODY)
        self._list = QVBoxLayout()
        self._list.setContentsMargins(0, 0, 12, 0)
        self._list.setSpacing(0)
        inside = QWidget()
        inside.setLayout(self._list)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inside)
        area.viewport().setAutoFillBackground(False)
        inside.setAutoFillBackground(False)
        area.setAccessibleName("Findings")
        self.fold_button = QPushButton("Hide")
        self.fold_button.setProperty("kind", "small")
        self.fold_button.setToolTip("Leave a column of marks, so that the station has more room")
        self.fold_button.clicked.connect(self.toggle)
        head = QHBoxLayout()
        head.addWidget(_text("Findings", theme.words_css(theme.INK, theme.BODY, 600)), 1)
        head.addWidget(self._count)
        head.addWidget(self.fold_button)
        head.setContentsMargins(0, 0, 16, 0)
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(20, 20, 4, 8)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(area, 1)
        self._marks = MarksColumn()
        self._marks.clicked.connect(self.toggle)
        self._pages = QStackedLayout(self)
        self._pages.setContentsMargins(0, 0, 0, 0)
        for page in (whole, self._marks):
            self._pages.addWidget(page)
        self.set_foldable(foldable=False)

    def set_foldable(self, *, foldable: bool) -> None:
        """Whether there is little room: then only the marks stand there until they are clicked."""
        self.fold_button.setVisible(foldable)
        self._fold(folded=foldable)

    def is_folded(self) -> bool:
        """Whether only the marks are shown."""
        return self._pages.currentIndex() == 1

    def toggle(self) -> None:
        """Show the findings in place of their marks, or the other way."""
        self._fold(folded=not self.is_folded())

    def _fold(self, *, folded: bool) -> None:
        self._wide = self.full_width()
        self._pages.setCurrentIndex(1 if folded else 0)
        self.setMinimumWidth(_FOLDED if folded else WIDTH)
        self.setMaximumWidth(_FOLDED if folded else 2 * WIDTH)
        self._divide(_FOLDED if folded else self._wide)

    def full_width(self) -> int:
        """How wide the findings are drawn, or would be if they were not folded."""
        return self.width() if self.isVisible() and not self.is_folded() else self._wide

    def draw_to(self, width: int) -> None:
        """Make the findings so wide, where there is room."""
        self._wide = max(WIDTH, min(width, 2 * WIDTH))
        if not self.is_folded():
            self._divide(self._wide)

    def _divide(self, width: int) -> None:
        """Give the rest of the room to the station."""
        splitter = self.parentWidget()
        if isinstance(splitter, QSplitter):
            splitter.setSizes([max(1, splitter.width() - width - splitter.handleWidth()), width])

    def show_plan(self, plan: Plan, station: Station, *, writable: bool = True) -> None:
        """Show a plan's findings at a station, and where there are others; built anew only when they have changed."""
        if self._done is not None and plan.job != self._job:
            self.forget_done()  # something else was changed since: its Undo would take that back
        self._job = plan.job
        if self._shown == (plan.findings, station, writable):
            return
        self._shown = (plan.findings, station, writable)
        self._marks.show_findings(plan.findings)
        here = [finding for finding in plan.findings if finding.station is station]
        self._count.setText(str(len(here)) if here else "")
        elsewhere = Counter(one.station for one in plan.findings if one.station is not station)
        if len(here) == len(self._views) > 0 and all(
            view.fits(finding) for view, finding in zip(self._views, here, strict=True)
        ):
            for view, finding in zip(self._views, here, strict=True):
                view.show_finding(finding, writable=writable)
            self._show_elsewhere(elsewhere)
            return
        clear(self._elsewhere)
        clear(self._list, keep=self._done[1] if self._done else None)
        self._elsewhere = QVBoxLayout()
        self._elsewhere.setSpacing(0)
        self._views = []
        for finding in here:
            view = FindingView(finding, writable=writable)
            view.remedy_wanted.connect(partial(self._do, view))
            view.lead_wanted.connect(self.lead_wanted)
            self._list.addWidget(view)
            self._views.append(view)
        if not here:
            words = quiet_line(plan) if not plan.findings else f"Nothing to say at {station.words}."
            self._list.addWidget(_text(words, theme.words_css(theme.QUIET, theme.BODY)))
        self._list.addSpacing(16)
        self._list.addLayout(self._elsewhere)
        self._list.addStretch(1)
        if self._done is not None:
            place, done = self._done
            self._list.insertWidget(min(place, len(here)), done)
        self._show_elsewhere(elsewhere)

    def _do(self, view: FindingView, remedy: Remedy) -> None:
        """What a button says; its finding's room is kept until the pointer leaves, the keyboard goes to the next."""
        place, tall_px, shown = self._views.index(view), view.height(), self._shown
        self.forget_done()
        self.remedy_wanted.emit(remedy)
        if self._shown is shown or remedy.ask is not None:
            return
        done = DoneView(remedy.label, tall_px)
        done.undo_wanted.connect(self._undo)
        self._done = (place, done)
        self._list.insertWidget(min(place, len(self._views)), done)
        following = self._views[place] if place < len(self._views) else done.undo
        following.setFocus(Qt.FocusReason.OtherFocusReason)

    def _undo(self) -> None:
        self.forget_done()
        self.undo_wanted.emit()

    def forget_done(self) -> None:
        """Give the room of a finding that was dealt with to what stands under it."""
        if self._done is not None:
            self._list.removeWidget(self._done[1])
            self._done[1].hide()
            self._done[1].deleteLater()
            self._done = None

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.forget_done()

    def _show_elsewhere(self, counts: Mapping[Station, int]) -> None:
        """The other stations of which there is something to be said, each with how much."""
        clear(self._elsewhere)
        if counts:
            self._elsewhere.addWidget(_text("Elsewhere", theme.words_css(theme.QUIET, 12, 600)))
        for station, count in counts.items():
            button = QPushButton(f"{station.words}  {count}")
            button.setProperty("kind", "place")
            button.setAccessibleName(f"{station.words}: {count} finding{'' if count == 1 else 's'}")
            button.clicked.connect(partial(self.place_wanted.emit, row_of(station).name))
            self._elsewhere.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(0, 0, 0, self.height())


def _lines_of(words: str, metrics: QFontMetrics, room: int) -> list[str]:
    """Words in lines that are no wider than `room` pixels, where one word is not wider alone."""
    lines = [""]
    for word in words.split():
        longer = f"{lines[-1]} {word}".strip()
        if lines[-1] and metrics.horizontalAdvance(longer) > room:
            lines.append(word)
        else:
            lines[-1] = longer
    return lines


def _without_last_word(line: str) -> str:
    return line.rpartition(" ")[0] or line


def _text(words: str, css: str) -> QLabel:
    label = Label(words)
    label.setTextFormat(Qt.TextFormat.PlainText)
    label.setWordWrap(True)
    label.setStyleSheet(css)
    return label
