"""The rail: the workshop's places; under them the job in hand with the stations of its route, and the other jobs.

The job's name and picture open the chooser. What is not on the job's route is behind "More".
"""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.planning import Plan, StationState
from orvek.planning.route.stations import OF_JOB, stations_of
from orvek.planning.words import bars_line, counted
from orvek.stations import STATIONS, Station
from orvek.store import JobEntry
from orvek.window import theme
from orvek.window.frame import RAIL_WIDTH as WIDTH
from orvek.window.job_chooser import JobChooser
from orvek.window.job_looks import TALL, WIDE, JobLooks
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label

_TALL, _LOW = 34, 20  # pixels: a station's line, and in a low window at least
_BESIDE = 370  # of the window's height for the job's name and picture, the lines between, the menu and the bar
_LEFT = 20
_MARK_AT, _NAME_AT = 28, 48


class RailButton(QAbstractButton):
    """What is pressed on the rail, by Enter too."""

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.click()
        else:
            super().keyPressEvent(event)


class StationButton(RailButton):
    """One station: its mark, its name, how many findings; the one that is open has a bar at its left."""

    chosen = Signal(object)

    def __init__(self, station: Station, *, is_of_job: bool) -> None:
        super().__init__()
        self.station, self._is_of_job = station, is_of_job
        self._state, self._count = StationState.EMPTY, 0
        self._open = False
        self.setFixedHeight(_TALL)
        self.clicked.connect(lambda: self.chosen.emit(self.station))
        self.setAccessibleName(station.words)

    def set_state(self, state: StationState, count: int, *, is_open: bool) -> None:
        """Set the mark, how many findings it has, and whether this station is open."""
        if (state, count, is_open) == (self._state, self._count, self._open) and self.toolTip():
            return  # a drag asks sixty times a second
        self._state, self._count, self._open = state, count, is_open
        words = f"{self.station.words}, {state.words}" if self._is_of_job else self.station.words
        many = f", {count} finding{'' if count == 1 else 's'}" if count else ""
        self.setAccessibleName(f"{words}{many}")
        self.setToolTip(f"{words}{many}")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, self.height())

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._open:
            painter.fillRect(self.rect(), theme.PAPER)
            painter.fillRect(QRectF(0, 0, 4, self.height()), theme.ACCENT)
        if self._is_of_job:
            self._paint_mark(painter, QPointF(_MARK_AT, self.height() / 2))
        painter.setFont(theme.bold() if self._open else theme.font())
        is_quiet = self._is_of_job and self._state is StationState.EMPTY and not self._open
        painter.setPen(theme.QUIET if is_quiet else theme.INK)
        area = self.rect().adjusted(_NAME_AT if self._is_of_job else _LEFT, 0, -20, 0)
        painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, self.station.words)
        if self._count:
            painter.setPen(theme.QUIET)
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            painter.drawText(area, right, str(self._count))

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
            case StationState.STOPPED:
                painter.fillRect(QRectF(centre.x() - 6, centre.y() - 6, 12, 12), theme.STOP)
                painter.fillRect(QRectF(centre.x() - 4, centre.y() - 1.2, 8, 2.4), theme.PANEL)
            case StationState.READY:
                painter.setPen(theme.pen(theme.ACCENT, 2.2))
                painter.drawPolyline([centre + QPointF(-5, 0), centre + QPointF(-1.5, 4), centre + QPointF(5.5, -4.5)])


class JobHead(RailButton):
    """The job in hand: its bar from the side, its name and how many pens; a click shows the others."""

    def __init__(self) -> None:
        super().__init__()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Preferred)  # a button's own never wraps
        self._picture: QImage | None = None
        self.name, self._line = Label(), quiet_label("")
        for label in (self.name, self._line):
            label.setWordWrap(True)
            label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.name.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        column = QVBoxLayout(self)
        column.setContentsMargins(_LEFT, 12 + TALL + 6, 28, 10)
        column.setSpacing(2)
        column.addWidget(self.name)
        column.addWidget(self._line)

    def show_job(self, name: str, line: str) -> None:
        """Show a job's name, and under it a line on it."""
        self.name.setText(name)
        self._line.setText(line)
        self.setAccessibleName(f"Job in hand: {name}")
        self.setToolTip("Choose another job, or begin one")

    def show_picture(self, picture: QImage | None) -> None:
        """Show its bar, once there is a picture of it."""
        self._picture = picture
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        there = QRectF(_LEFT, 12, min(WIDE, WIDTH - 2 * _LEFT), TALL)
        if self._picture is not None:
            painter.drawImage(there, self._picture)
        else:
            painter.fillRect(there, theme.HAIRLINE)
        x, y = WIDTH - 24.0, 12 + TALL + 20.0
        painter.setPen(theme.pen(theme.ACCENT, 1.8))
        painter.drawPolyline([QPointF(x, y - 2), QPointF(x + 5, y + 3), QPointF(x + 10, y - 2)])


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
        self._looks = looks
        self._entries: tuple[JobEntry, ...] = ()
        self._current, self._opened = "", Station.PEN
        self._on_route: tuple[Station, ...] = ()
        self._order: tuple[Station, ...] = ()
        self._all_shown = False
        self.buttons = {row.station: StationButton(row.station, is_of_job=row.is_of_job) for row in STATIONS}
        self.head, self.chooser = JobHead(), JobChooser(self, looks)
        self.jobs = self.chooser.jobs
        self.more = QPushButton()
        self.more.setProperty("kind", "place")
        self.more.setStyleSheet(f"border: none; font-size: {theme.SMALL}px; color: {theme.QUIET.name()};")
        self.more.clicked.connect(self._toggle_more)
        self.head.clicked.connect(self.choose_job)
        self.jobs.chosen.connect(self.job_chosen)
        self.chooser.new_job_wanted.connect(self.new_job_wanted)
        looks.made.connect(self._show_picture)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 12, 0, 12)
        column.setSpacing(0)
        for row in STATIONS:
            self.buttons[row.station].chosen.connect(self.station_chosen)
        for row in STATIONS:
            if not row.is_of_job:
                column.addWidget(self.buttons[row.station])
        column.addSpacing(12)
        column.addWidget(self.head)
        self._of_job = QVBoxLayout()
        self._of_job.setSpacing(0)
        column.addLayout(self._of_job)
        aside = QVBoxLayout()
        aside.setContentsMargins(_NAME_AT - 12, 0, 12, 0)
        aside.addWidget(self.more, 0, Qt.AlignmentFlag.AlignLeft)
        column.addLayout(aside)
        column.addStretch(1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        # By the window and not by the rail: the bar that opens under it moves none of them.
        each = (self.window().height() - _BESIDE) // len(self.buttons)
        for button in self.buttons.values():
            button.setFixedHeight(max(_LOW, min(_TALL, each)))

    def choose_job(self) -> None:
        """Show the jobs of the workshop beside the name of the one in hand."""
        self.chooser.open_at(self.head.mapToGlobal(QPoint(_LEFT, self.head.height())))

    def show_plan(self, plan: Plan, station: Station) -> None:
        """Show the job's name, its bars, and the stations of its route with their marks."""
        wanted = counted(plan.job.batch.pens_wanted, plan.job.thing)
        self.head.show_job(plan.job.batch.name, f"{wanted} · {bars_line(plan.bars)}" if plan.mixture else wanted)
        self._on_route, self._opened = stations_of(plan), station
        self._put_in_order()
        for there, button in self.buttons.items():
            count = sum(one.station is there for one in plan.findings)
            button.set_state(plan.state(there), count, is_open=there is station)

    def _put_in_order(self) -> None:
        """The stations of the route in its order; the others where they were asked for, or one of them is open."""
        others = tuple(there for there in OF_JOB if there not in self._on_route)
        shown = others if self._all_shown else tuple(there for there in others if there is self._opened)
        order = (*self._on_route, *shown)
        self.more.setVisible(bool(others))
        self.more.setText("Fewer stations" if self._all_shown else "More stations")
        self.more.setToolTip(", ".join(there.words for there in others))
        if order == self._order:
            return
        self._order = order
        for there in OF_JOB:
            self._of_job.removeWidget(self.buttons[there])
            self.buttons[there].setVisible(there in order)
        for there in order:
            self._of_job.addWidget(self.buttons[there])

    def _toggle_more(self) -> None:
        self._all_shown = not self._all_shown
        self._put_in_order()

    def show_jobs(self, jobs: tuple[JobEntry, ...], current: str) -> None:
        """The jobs of the workshop, the one in hand marked."""
        self._entries, self._current = jobs, current
        self.jobs.show_jobs(jobs, current)
        self._show_picture()

    def _show_picture(self, _job: str = "") -> None:
        entry = next((one for one in self._entries if one.id == self._current), None)
        look = self._looks.look(entry) if entry is not None else None
        self.head.show_picture(look.picture if look is not None else None)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(self.width() - 1, 0, self.width() - 1, self.height())
        y = self.head.y() - 6
        painter.drawLine(_LEFT, y, self.width() - _LEFT, y)
