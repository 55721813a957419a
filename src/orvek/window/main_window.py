"""What fills the frame: rail, station, findings, and the strip under them; menus; the line that says what went wrong.

A station is a widget with `show_plan(plan)`; a new one is one more entry in stations/table.py.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, TypeVar

from PySide6.QtCore import QEvent, Qt, QTimer, QUrl
from PySide6.QtGui import (
    QContextMenuEvent,
    QDesktopServices,
    QDragEnterEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
    QShortcut,
)
from PySide6.QtWidgets import (
    QAbstractButton,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QScrollArea,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWhatsThis,
    QWidget,
)

from orvek.documents import deeds
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.route.results import Operation
from orvek.stations import STATIONS, Station, row_of
from orvek.window import places, roles
from orvek.window.card_writer import CardWriter
from orvek.window.findings_panel import FindingsPanel
from orvek.window.frame import RAIL_WIDTH, Frame
from orvek.window.host import Host
from orvek.window.job_deeds import JobDeeds
from orvek.window.job_looks import JobLooks
from orvek.window.leading import Leading
from orvek.window.menus import Menus
from orvek.window.next_band import Band
from orvek.window.notifying import LONG_S, notify
from orvek.window.picture_menu import PictureMenu, picture_at
from orvek.window.rail import Rail
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.table import build
from orvek.window.strip import Strip
from orvek.window.surface import Surface
from orvek.window.widgets.asking import ask
from orvek.window.widgets.fields import QuantityEdit
from orvek.window.widgets.label import plain_tip
from orvek.window.widgets.layouts import Shrinking, scrolled
from orvek.window.widgets.outlines import focus_stops, follow_focus

T = TypeVar("T")
_LOG = logging.getLogger(__name__)

_SAID_FOR_MS = 12000
_NARROW, _LOW = 1160, 720  # below so many pixels the findings fold, and the strip gets lower
_STRIP_OPEN = frozenset({Station.BLANK, Station.GLUE_UP, Station.BORE})  # elsewhere it is one line
_LEAST_FOR_STRIP = 480  # a window so low has no room for it beside a page
_LOOK_AGAIN_MS = 2000


class MainWindow(Host):
    """Everything in Orvek's one window, showing one session."""

    def __init__(self, session: Session, frame: Frame | None = None, *, begin: str = "") -> None:
        """`begin` names the station or page that is seen first, as `open_named` takes it."""
        super().__init__()
        roles.install()
        follow_focus()
        self.session = session
        self.frame = frame or Frame()
        self.surface = Surface()
        self.looks = JobLooks(session, self.surface)
        self.rail, self.findings, self.strip = Rail(self.looks), FindingsPanel(), Strip(self.surface)
        self.band, self.leading = Band(), Leading(self)
        self.notice, self.keeping = self.band.notice, self.band.keeping
        self.cards = CardWriter(session, self)
        self._built: dict[Station, StationWidget] = {}
        self._areas: dict[Station, QScrollArea] = {}
        self.station = next((row.station for row in STATIONS if row.is_named(begin)), Station.PEN)
        self.has_ended = True  # after closing: whether nothing is left that still computes
        self._stack = QStackedWidget()
        self._said_deed: Callable[[], None] | None = None
        self._seen = 0
        self._written: Path | None = None
        self._is_narrow = False
        self._shown_job: tuple[Path, str] | None = None
        self._strip_open: dict[Station, bool] = {}  # where the maker folded or opened it
        self.remembers = False  # set where a maker sits before it: how the window is left is then written down
        self.setAcceptDrops(True)
        QShortcut(QKeySequence("F10"), self.frame, self._open_menu)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(lambda: self.notice.say(""))
        self._lay_out()
        self.menus = Menus(self)
        self.picture_menu, self.job_deeds = PictureMenu(self, session), JobDeeds(self)
        self._connect()
        self.frame.setCentralWidget(self)
        self.frame.may_close = self._may_close
        if not begin or not self.begin_at(begin):
            self.show_plan(session.plan)
        self.rail.show_jobs(session.jobs(), session.job.batch.id)
        self._watch_file()
        if session.notes:
            self.say(" ".join(session.notes[:3]), stays=True)

    def open_station(self, station: Station) -> None:
        if station is not self.station and self.station in self._built:
            self._built[self.station].leave()
        self.station = station
        self._show_level()
        self.menus.show_history()
        self.at(station)
        self._stack.setCurrentWidget(self._areas[station])
        self._show_needs()
        self._take_focus_into(self._areas[station])
        self.show_plan(self.session.plan)

    def _take_focus_into(self, area: QWidget) -> None:
        """The keyboard goes where the eye goes."""
        first = next((stop for stop in self.focus_stops() if area.isAncestorOf(stop)), None)
        if first is not None:
            first.setFocus(Qt.FocusReason.OtherFocusReason)

    def focus_stops(self) -> list[QWidget]:
        """What Tab goes through: the rail, the station, the findings, the strip."""
        parts = (self.rail, self.band, self._stack, self.findings, self.strip)
        return focus_stops(parts)

    def focusNextPrevChild(self, forward: bool) -> bool:
        stops, here = self.focus_stops(), self.frame.focusWidget()
        if not stops:
            return False
        place = stops.index(here) + (1 if forward else -1) if here in stops else 0 if forward else -1
        reason = Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason
        stops[place % len(stops)].setFocus(reason)
        return True

    def at(self, station: Station | str) -> Any:
        """The widget of a station, by itself or by its name; built now where it was not open yet."""
        station = Station(station)
        if station not in self._built:
            made = build(station, self.session, self.surface)
            self._built[station] = made
            self._areas[station] = area = QScrollArea()
            holder = QWidget()
            room = Shrinking(holder)
            room.setContentsMargins(0, 0, 0, 0)
            area.setWidget(holder)
            area.setWidgetResizable(True)  # what does not fit is scrolled to, never squeezed or cut off
            area.setFrameShape(QFrame.Shape.NoFrame)
            area.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # Tab goes to what lies in it
            area.viewport().setAutoFillBackground(False)
            self._stack.addWidget(area)
            room.addWidget(made)  # last: wherever a widget is put, everything in it gets its style once more
            made.show()  # else it is shown by and by, and the keyboard finds nothing in it
        return self._built[station]

    def new_job(self) -> None:
        self.session.new_job()
        self.open_station(Station.PEN)

    def open_named(self, name: str) -> None:
        for row in STATIONS:
            if row.is_named(name):
                self.open_station(row.station)
                if name != row.name:
                    self.at(row.station).open_page(name)

    def area(self) -> QWidget:
        return self._areas[self.station]

    def _open_shelf(self, shelf: str) -> None:
        self.open_named("shelves")
        self.at(Station.SHELF).shelves.choose(shelf)

    def begin_at(self, name: str) -> bool:
        """As `open_named`; where that place cannot be built the window is there all the same, and False is told."""

        def open_it() -> bool:
            self.open_named(name)
            return self.station in self._built

        return bool(self._shown(f"the place {name}", open_it))

    def place(self) -> str:
        page = self._built[self.station].page() if self.station in self._built else ""
        return page or row_of(self.station).name

    def show_plan(self, plan: Plan) -> None:
        shown = (self.session.workshop.path, plan.job.batch.id)
        if shown != self._shown_job:
            self._shown_job = shown
            for field in self._stack.findChildren(QuantityEdit):
                field.take_back()  # what was refused was meant for the other job
        self.frame.setWindowTitle(f"{plan.job.batch.name} – Orvek".replace("[*]", "[*][*]"))
        guarded = self._shown
        guarded("the rail", lambda: self.rail.show_plan(plan, self.station))
        writable = self.session.workshop.is_writable
        is_of_job = row_of(self.station).is_of_job
        guarded("what is next", lambda: self.band.show_plan(plan, is_of_job=is_of_job, writable=writable))
        guarded("the findings", lambda: self.findings.show_plan(plan, self.station, writable=writable))
        guarded("the strip", lambda: self.strip.show_plan(plan, self.session.units))
        guarded(f"the station {self.station.words}", lambda: self.at(self.station).show_plan(plan))

    def _shown(self, what: str, show: Callable[[], T]) -> T | None:
        """What `show` gives. A part of the window that cannot show a plan says so and leaves the others alone."""
        try:
            return show()
        except Exception:  # whatever it is, the maker can go on, undo, or open another job
            _LOG.exception("%s could not be shown", what)
            self.say(f"Orvek could not show {what} for this job. Your job is kept; undo, or see Help, Log.", stays=True)
            return None

    def _open_menu(self) -> None:
        """As on any desktop: F10 opens the first menu, arrows go on from there."""
        bar = self.frame.menuBar()
        bar.setFocus(Qt.FocusReason.ShortcutFocusReason)
        bar.setActiveAction(bar.actions()[0])

    def load_slow_parts(self) -> None:
        """What can wait until the first window is up."""
        self.surface.improved.connect(lambda: self.show_plan(self.session.plan))
        self.surface.improved.connect(lambda: self.looks.want(self.session.jobs()))
        self.surface.load()
        if self.surface.will_take_long() and not self.notice.text():
            self.say("Pictures are a little coarse for now; they become finer by themselves in a moment.")
        self.session.begin_forecasts(self.surface.evaluator)
        self.session.others.warm()

    def say(self, words: str, *, stays: bool = False, button: str = "", deed: Callable[[], None] | None = None) -> None:
        self._said_deed = deed
        self.notice.say(words, button or ("Hide" if stays else ""))
        if stays:
            self._quiet.stop()
        else:
            self._quiet.start(_SAID_FOR_MS)

    def _say_written(self, path: Path) -> None:
        """A file was written: it can be opened, and from there printed, or looked for in its folder."""
        self._written = path
        self._said_deed = partial(self._open_outside, path)
        self.notice.say(f"Wrote {path}", "Open it", "Show the folder")
        self._quiet.start(_SAID_FOR_MS)

    def _show_written_folder(self) -> None:
        if self._written is not None:
            self._open_outside(self._written.parent)

    def _open_outside(self, path: Path) -> None:
        if not QDesktopServices.openUrl(QUrl.fromLocalFile(str(path))):
            self.say(f"No program on this computer opens {path.name}; it lies in {path.parent}.")

    def _do_what_was_said(self) -> None:
        deed, self._said_deed = self._said_deed, None
        self.notice.say("")
        if deed is not None:
            deed()

    # -- building ----------------------------------------------------------------------------------------------

    def _lay_out(self) -> None:
        # Nothing is marked as in hand until the maker takes something: the focus begins here.
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Orvek")
        self.setFocus()
        middle, self.splitter = QWidget(), QSplitter()
        column, bench, whole = QVBoxLayout(middle), QHBoxLayout(), QVBoxLayout(self)
        for layout in (column, bench, whole):
            layout.setContentsMargins(0, 0, 0, 0)
            layout.setSpacing(0)
        whole.addLayout(bench, 1)
        rail = scrolled(self.rail)
        rail.setFixedWidth(RAIL_WIDTH)
        bench.addWidget(rail)
        bench.addWidget(self.splitter, 1)
        whole.addWidget(self.strip)
        self.splitter.setHandleWidth(4)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.addWidget(middle)
        self.splitter.addWidget(self.findings)
        self.splitter.setStretchFactor(0, 1)
        column.addWidget(self.band)
        column.addWidget(self._stack, 1)
        self._show_level()

    def _show_level(self) -> None:
        """At the workshop's places nothing of one job stands beside them; the strip is open where it is worked on."""
        is_of_job = row_of(self.station).is_of_job
        self.findings.setVisible(is_of_job)
        self.strip.setVisible(is_of_job)
        is_usual = self.station in _STRIP_OPEN and self.height() >= _LEAST_FOR_STRIP
        self.strip.set_open(is_open=self._strip_open.get(self.station, is_usual), is_low=self.height() < _LOW)

    def _show_needs(self, _job: str = "") -> None:
        """Which jobs need a look is shown where somebody asks for it, as soon as it is known of each."""
        if self.station in self._built:
            self._built[self.station].show_looks(self.looks)

    def _begin_at_the_bench(self, operation: Operation) -> None:
        from orvek.window.bench.opening import at_the_bench  # with all that is plugged in: not before the first window

        at_the_bench(self, self.session, operation, self.surface)

    def fold_strip(self) -> None:
        if row_of(self.station).is_of_job:
            self._strip_open[self.station] = not self.strip.is_open
            self._show_level()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        is_narrow = self.width() < _NARROW
        if is_narrow != self._is_narrow:
            self._is_narrow = is_narrow
            self.findings.set_foldable(foldable=is_narrow)
        self._show_level()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter presses what looks like a button, as Space does: Qt's own push buttons know it in dialogs only."""
        focused = self.frame.focusWidget()
        if event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter} and isinstance(focused, QAbstractButton):
            focused.click()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The menu of a picture: of the one under the pointer, or of the one that has the keyboard."""
        by_key = event.reason() is QContextMenuEvent.Reason.Keyboard
        picture = picture_at(self.frame.focusWidget() if by_key else self.childAt(event.pos()))
        if picture is not None:
            self.picture_menu.open(picture, event.globalPos())

    def event(self, event: QEvent) -> bool:
        """What is this: anything without words of its own for that is explained by its tip and its name."""
        if isinstance(event, QHelpEvent) and event.type() in {QEvent.Type.WhatsThis, QEvent.Type.QueryWhatsThis}:
            words = _explained(self.childAt(event.pos()))
            event.setAccepted(bool(words))
            if words and event.type() == QEvent.Type.WhatsThis:
                QWhatsThis.showText(event.globalPos(), plain_tip(words), self)
            return True
        return super().event(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(url.isLocalFile() for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Job files that are let fall on the window are opened; photos are of the bar of the job in hand."""
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        from orvek.window.photos.asking import are_photos, photograph_bar

        if are_photos(paths) and self.at(self.station).take_photos(paths):
            return
        if are_photos(paths):
            self.open_station(Station.BLANK)
            photograph_bar(self, self.session, tuple(paths))
            return
        for path in paths:
            self.menus.take_in(path)

    def _connect(self) -> None:
        session = self.session
        session.cut_chosen.connect(self.strip.show_cut)
        session.planned.connect(self.show_plan)
        session.said.connect(self.say)
        session.written.connect(self._say_written)
        session.station_wanted.connect(self.open_station)
        session.shelf_wanted.connect(self._open_shelf)
        self.notice.second.clicked.connect(self._show_written_folder)
        session.history_changed.connect(self.menus.show_history)
        session.jobs_changed.connect(lambda: self.rail.show_jobs(session.jobs(), session.job.batch.id))
        session.units_changed.connect(self.menus.show_units)
        session.unsaved_changed.connect(self._show_keeping)
        session.access_changed.connect(self._show_keeping)
        session.answers.took.connect(self._tell_when_it_was_long)
        session.shop_changed.connect(self.menus.show_shop_history)
        session.log_wanted.connect(self.menus.show_log)
        self.keeping.button.clicked.connect(self._keep_again)
        self.notice.button.clicked.connect(self._do_what_was_said)
        self.rail.station_chosen.connect(self.open_station)
        self.rail.job_chosen.connect(session.open_job)
        self.rail.new_job_wanted.connect(self.new_job)
        self.findings.remedy_wanted.connect(self.leading.remedy)
        self.findings.undo_wanted.connect(self.menus.undo_here)
        self.findings.lead_wanted.connect(self.leading.lead_to)
        self.findings.place_wanted.connect(self.open_named)
        self.looks.made.connect(self._show_needs)
        self.strip.fold_wanted.connect(self.fold_strip)
        self.band.line.station_wanted.connect(self.open_station)
        self.band.line.bench_wanted.connect(self._begin_at_the_bench)
        self.band.line.undo_wanted.connect(self.menus.undo_here)
        self.strip.moving.connect(self._move_tube)
        self.strip.moved.connect(session.finish)
        self.strip.turned.connect(
            lambda index, by: session.attempt("Turn a barrel", lambda job: deeds.turn_tube(job, index, by))
        )
        self.menus.show_history()
        self.menus.show_shop_history()
        self.menus.show_units()

    def _tell_when_it_was_long(self, what: str, seconds: float) -> None:
        if seconds > LONG_S:
            notify(self.frame, self.session.job.batch.name, f"Orvek has worked out {what}.")

    def _move_tube(self, index: int, start_mm: float) -> None:
        layout = self.session.plan.layout
        if layout is not None:
            self.session.preview(deeds.move_tube(self.session.job, layout.starts_mm, index, start_mm))

    # -- the file, a second window, and closing ----------------------------------------------------------------

    def _show_keeping(self, words: str = "") -> None:
        """The line that stays: what could not be kept, a file that is gone, a window that may only look."""
        button = "Save under a new name…" if self.session.file_is_lost else "Try again" if words else ""
        self.keeping.say(words or self.session.workshop.why_read_only or "", button)

    def _keep_again(self) -> None:
        if not self.session.file_is_lost:
            self.session.retry()
            return
        path = self.session.workshop.path
        suggested = str(path.with_name(f"{path.stem}-kept{path.suffix}"))
        found, _ = QFileDialog.getSaveFileName(self, "Save the workshop", suggested, "Workshops (*.sqlite)")
        if found:
            self.session.save_under(Path(found if found.endswith(".sqlite") else f"{found}.sqlite"))

    def _watch_file(self) -> None:
        self._show_keeping()
        timer = QTimer(self)
        timer.timeout.connect(self._look_again)
        timer.start(_LOOK_AGAIN_MS)

    def _look_again(self) -> None:
        """Notice what happens to the file: another window gone, another window's changes, another file in its place."""
        if self.session.workshop.is_writable:
            self.session.look_at_file()
            return
        if self.session.take_over():
            return
        try:
            count = self.session.workshop.change_count()
        except OrvekError:
            return
        if count != self._seen:
            self._seen = count
            self.session.reload()

    def _may_close(self) -> bool:
        focused = self.frame.focusWidget()
        if isinstance(focused, QLineEdit) and focused.isModified():
            focused.editingFinished.emit()
        if self.session.unsaved and not self.session.retry() and not self._leave_unsaved():
            return False
        if self.remembers:
            places.remember(self.frame, self.place(), self.findings.full_width())
        self.job_deeds.end()
        self.surface.close()
        self.session.keep_last()
        self.has_ended = self.session.answers.close()
        self.session.workshop.close()
        return True

    def _leave_unsaved(self) -> bool:
        words = (
            "Some changes could not be written to the workshop. Keep this window open, "
            "or save a copy of the job somewhere else first."
        )
        answer = ask(self, "Not everything is saved", words, ("Save a copy…", "Close without saving", "Cancel"), 2)
        if answer == 0:
            self.menus.save_copy()
        return answer == 1


def _explained(widget: QWidget | None) -> str:
    """What a widget, or the nearest round it, says of itself."""
    while widget is not None and not isinstance(widget, MainWindow):
        said = (widget.accessibleName(), widget.accessibleDescription(), widget.toolTip())
        words = ". ".join(dict.fromkeys(part.rstrip(".") for part in said if part and not part.startswith("<")))
        if words:
            return words
        widget = widget.parentWidget()
    return ""
