"""The rail: the job in hand, its stations in the order of the work with their marks, and the other jobs."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QPushButton, QVBoxLayout, QWidget

from orvek.planning import Plan, Station, StationState
from orvek.planning.words import bars_line
from orvek.shop import JobEntry
from orvek.window import theme
from orvek.window.frame import RAIL_WIDTH as WIDTH
from orvek.window.job_list import JobList
from orvek.window.job_looks import JobLooks
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label

_TALL, _LOW = 36, 20  # pixels: a station's line, and in a low window at least
_BESIDE = 270  # of the rail's height for name, jobs and button


class StationButton(QAbstractButton):
    """One station: its mark, its name; the one that is open has a bar at its left."""

    chosen = Signal(object)

    def __init__(self, station: Station) -> None:
        super().__init__()
        self.station = station
        self._state = StationState.EMPTY
        self._open = False
        self.setFixedHeight(_TALL)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.clicked.connect(lambda: self.chosen.emit(self.station))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def set_state(self, state: StationState, is_open: bool) -> None:
        """Set the mark and whether this station is open."""
        if (state, is_open) == (self._state, self._open) and self.toolTip():
            return  # a drag asks sixty times a second
        self._state, self._open = state, is_open
        self.setAccessibleName(f"{self.station.words}, {state.words}")
        self.setToolTip(f"{self.station.words}: {state.words}")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, self.height())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.click()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._open:
            painter.fillRect(self.rect(), theme.PAPER)
            painter.fillRect(QRectF(0, 0, 4, self.height()), theme.ACCENT)
        self._paint_mark(painter, QPointF(28, self.height() / 2))
        painter.setFont(theme.bold() if self._open else theme.font())
        painter.setPen(theme.QUIET if self._state is StationState.EMPTY and not self._open else theme.INK)
        painter.drawText(self.rect().adjusted(48, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, self.station.words)
        if self.hasFocus():
            painter.setPen(theme.pen(theme.ACCENT, 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(6, 3, -4, -4))

    def _paint_mark(self, painter: QPainter, centre: QPointF) -> None:
        """A dash, a ring, an upright with a dot, a tick: shapes first, colour second."""
        match self._state:
            case StationState.EMPTY:
                painter.setPen(theme.pen(theme.QUIET, 1.5))
                painter.drawLine(centre - QPointF(5, 0), centre + QPointF(5, 0))
            case StationState.IN_WORK:
                painter.setPen(theme.pen(theme.ACCENT, 1.8))
                painter.drawEllipse(centre, 4.5, 4.5)
            case StationState.NEEDS_A_LOOK:
                painter.setPen(theme.pen(theme.CAUTION, 2.6))
                painter.drawLine(centre - QPointF(0, 7), centre + QPointF(0, 2))
                painter.setBrush(theme.CAUTION)
                painter.setPen(Qt.PenStyle.NoPen)
                painter.drawEllipse(centre + QPointF(0, 5.8), 1.7, 1.7)
            case StationState.READY:
                painter.setPen(theme.pen(theme.ACCENT, 2.2))
                painter.drawPolyline([centre + QPointF(-5, 0), centre + QPointF(-1.5, 4), centre + QPointF(5.5, -4.5)])


class Rail(QWidget):
    """The left edge of the window."""

    station_chosen = Signal(object)
    job_chosen = Signal(str)
    new_job_wanted = Signal()

    def __init__(self, looks: JobLooks) -> None:
        super().__init__()
        self.setFixedWidth(WIDTH)
        self.setAutoFillBackground(True)
        palette = self.palette()
        palette.setColor(self.backgroundRole(), theme.PANEL)
        self.setPalette(palette)
        self._name = Label()
        self._name.setWordWrap(True)
        self._name.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self._line = quiet_label("")
        self._line.setWordWrap(True)
        self._buttons = [StationButton(station) for station in Station]
        self.jobs = JobList(looks)
        self.jobs.chosen.connect(self.job_chosen)
        new = QPushButton("New job")
        new.clicked.connect(self.new_job_wanted)
        self._lay_out(new)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        each = (self.height() - _BESIDE) // len(self._buttons)
        for button in self._buttons:
            button.setFixedHeight(max(_LOW, min(_TALL, each)))

    def _lay_out(self, new: QPushButton) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 20, 0, 16)
        column.setSpacing(0)
        head = QVBoxLayout()
        head.setContentsMargins(20, 0, 12, 20)
        head.setSpacing(4)
        head.addWidget(self._name)
        head.addWidget(self._line)
        column.addLayout(head)
        for button in self._buttons:
            button.chosen.connect(self.station_chosen)
            column.addWidget(button)
        column.addSpacing(28)
        column.addWidget(self.jobs, 1)
        foot = QVBoxLayout()
        foot.setContentsMargins(20, 0, 16, 0)
        foot.addWidget(new)
        column.addLayout(foot)

    def show_plan(self, plan: Plan, station: Station) -> None:
        """Show the job's name, its bars and every station's mark."""
        self._name.setText(plan.job.batch.name)
        pens = plan.job.batch.pens_wanted
        wanted = f"{pens} pen{'' if pens == 1 else 's'}"
        self._line.setText(f"{wanted} · {bars_line(plan.bars)}" if plan.mixture else wanted)
        for button in self._buttons:
            button.set_state(plan.state(button.station), button.station is station)

    def show_jobs(self, jobs: tuple[JobEntry, ...], current: str) -> None:
        """List the jobs of the workshop, the one in hand marked."""
        self.jobs.show_jobs(jobs, current)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(self.width() - 1, 0, self.width() - 1, self.height())
