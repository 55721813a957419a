"""Starting the program: the application and its look, the frame, and then all that takes time to load."""

from __future__ import annotations

import gc
import importlib
import logging
import os
import signal
import socket
import sys
import threading
import traceback
from collections.abc import Callable
from importlib import resources
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import QEventLoop, QLocale, QSocketNotifier, Qt, QTimer
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QApplication

from orvek.errors import OrvekError, WorkshopDamagedError, WorkshopGoneError, WorkshopVersionError
from orvek.log import end_well, keep_log, watch_for_crashes
from orvek.window import places, theme
from orvek.window.frame import USUAL_SIZE, Frame
from orvek.window.one_window import handed_over, listen
from orvek.window.widgets.asking import ask, tell

if TYPE_CHECKING:
    from orvek.window.main_window import MainWindow
    from orvek.window.session import Session

# Loaded one by one: each takes up to a third of a second.
_ROOMS = ("orvek.documents", "orvek.planning", "orvek.window.main_window")
_SLOW_PARTS_AFTER_MS = 30  # the window with its figures is painted first; pictures follow
_SCALE = "QT_SCALE_FACTOR"
_USUAL_POINTS = 11.0  # desktops write their menus in 9 to 11 points; who has set more wants larger text
_LOG = logging.getLogger(__name__)


def make_application(text_percent: int = 100) -> QApplication:
    """The application with Orvek's name, icon and look; its text as large as is wanted, 0: as the desktop's."""
    existing = QApplication.instance()
    if text_percent > 100:
        os.environ.setdefault(_SCALE, f"{text_percent / 100:g}")
    application = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    larger = _desktop_text(application)
    if text_percent == 0 and larger > 1 and _SCALE not in os.environ:
        # Qt reads the scale once, when the application is made; all is drawn by it, so nothing is cut off.
        os.environ[_SCALE] = f"{larger:g}"
        os.execv(sys.executable, [sys.executable, *sys.orig_argv[1:]])
    application.setApplicationName("orvek")
    application.setApplicationDisplayName("Orvek")
    application.setDesktopFileName("orvek")
    theme.apply(application, evening=places.is_evening(application))
    pixmap = QPixmap()
    pixmap.loadFromData(resources.files("orvek.data").joinpath("icons", "orvek.png").read_bytes())
    application.setWindowIcon(QIcon(pixmap))
    return application


def _desktop_text(application: QApplication) -> float:
    """How much larger the desktop's own text is than usual, in steps of an eighth, 1 to 2."""
    larger = application.font().pointSizeF() / _USUAL_POINTS
    return min(2.0, max(1.0, int(8 * larger) / 8))


def run(
    path: Path,
    *,
    demo: bool,
    picture: Path | None,
    begin: tuple[str | None, str | None] = (None, None),
    file: Path | None = None,
) -> int:
    """Show the window, then open the workshop in it, and a job file where one is given.

    Returns:
        The exit code: 0, or 2 when the workshop could not be opened (a sentence says why).
    """
    if not _has_screen() and "QT_QPA_PLATFORM" not in os.environ:
        print("No display was found: Orvek starts on a virtual screen.", file=sys.stderr)
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    keep_log()
    crashed = watch_for_crashes() if picture is None else ""
    application = make_application(places.text_percent() if picture is None else 100)
    wanted = {"file": str(file.absolute()) if file else "", "station": begin[0] or "", "job": begin[1] or ""}
    if picture is None and _has_screen() and handed_over(path, wanted):
        print("Orvek has this workshop open already; its window comes forward.", file=sys.stderr)
        return 0
    frame = Frame()
    if picture is not None:
        frame.resize(*USUAL_SIZE)  # whatever the screen, pictures are of one size
    else:
        begin = (begin[0] or places.put_back(frame) or None, begin[1])
    frame.show()
    signals = Signals(application, frame)
    start = Start(frame, path, demo=demo, picture=picture, begin=begin, file=file, crashed=crashed)
    QTimer.singleShot(0, start.open_workshop)
    code = int(application.exec())
    signals.setEnabled(False)
    if start.is_at_work():
        # A compiler or solver cannot be interrupted, and a maker who closes the window does not wait for it.
        # Everything the maker did is committed by now.
        end_well()
        sys.stdout.flush()
        sys.stderr.flush()
        os._exit(code)
    return code


class Signals(QSocketNotifier):
    """Closes the window as a hand would when the session ends, the terminal is closed, or somebody says `kill`."""

    def __init__(self, application: QApplication, frame: Frame) -> None:
        self._here, self._there = socket.socketpair()
        super().__init__(self._here.fileno(), QSocketNotifier.Type.Read, frame)
        for end in (self._here, self._there):
            end.setblocking(False)
        self._application, self._frame = application, frame
        signal.set_wakeup_fd(self._there.fileno())  # Python's own handlers wait for Python, which sleeps in Qt
        for one in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
            signal.signal(one, lambda *_: None)
        self.activated.connect(self._close)

    def _close(self) -> None:
        self._here.recv(64)
        self._application.closeAllWindows()
        if self._frame.isHidden():
            self._application.quit()


class Start:
    """What is done once the frame is up: load the rest of the program, open the workshop, fill the frame."""

    def __init__(
        self,
        frame: Frame,
        path: Path,
        *,
        demo: bool,
        picture: Path | None,
        begin: tuple[str | None, str | None],
        file: Path | None = None,
        crashed: str = "",
    ) -> None:
        self._crashed = crashed
        self._frame = frame
        self._path = path
        self._demo = demo
        self._picture = picture
        self._station, self._job = begin
        self._file = file
        self._window: MainWindow | None = None
        self._anew = False  # the maker said to begin an empty workshop where one was

    def open_workshop(self) -> None:
        """Fill the frame, or say why that cannot be done and end with exit code 2."""
        gc.disable()  # classes and widgets are made here by the thousand, and nothing of it is to be thrown away
        try:
            self._fill()
        finally:
            gc.freeze()
            gc.enable()

    def _fill(self) -> None:
        for room in _ROOMS:
            importlib.import_module(room)
            # The window is painted where something lay over it; what is typed waits for something to type in.
            QApplication.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)
        from orvek.quantities import use_decimal_mark
        from orvek.store import fill_with_demo, open_workshop
        from orvek.window.main_window import MainWindow
        from orvek.window.session import Session

        use_decimal_mark(QLocale().decimalPoint())
        try:
            workshop = open_workshop(self._path, anew=self._anew)
            if self._demo:
                fill_with_demo(workshop)
            session = Session(workshop)
            begin = self._station or ("today" if self._is_left_alone() and session.plan.route else "")
            window = MainWindow(session, self._frame, begin=begin)
        except (WorkshopDamagedError, WorkshopGoneError, WorkshopVersionError) as error:
            if not self._offer_ways(error):
                self._cannot_start(str(error))
            return
        except OrvekError as error:
            self._cannot_start(str(error))
            return
        except Exception:  # a fault of ours: an empty frame that never ends would say nothing
            _LOG.exception("the window could not be filled")
            self._cannot_start("Orvek could not fill its window. Nothing was changed; the log says what went wrong.")
            return
        self._window = window
        sys.excepthook = _told_to(window)
        if workshop.is_writable and self._picture is None:
            threading.Thread(target=_back_up_daily, args=(workshop.path, window.session), daemon=True).start()
        if self._job:
            self._open_job(self._job)
        if self._file is not None:
            window.menus.take_in(self._file, is_asked=self._picture is None)
        if begin and not self._is_left_alone():
            window.begin_at(begin.lower())
        window.remembers = self._picture is None
        window.findings.draw_to(places.findings_width() if window.remembers else 0)
        if self._crashed:
            window.say(self._crashed, stays=True, button="Show the log", deed=window.session.log_wanted.emit)
        QTimer.singleShot(_SLOW_PARTS_AFTER_MS, window.load_slow_parts)
        if workshop.is_writable and self._picture is None:
            QTimer.singleShot(_SLOW_PARTS_AFTER_MS, self._listen)
        if self._picture is not None:
            QTimer.singleShot(400, self._save_picture)

    def _is_left_alone(self) -> bool:
        """Whether nobody asked for a job, a file or a picture."""
        return self._job is None and self._file is None and self._picture is None

    def _listen(self) -> None:
        if self._window is not None and self._window.session.workshop.is_writable:
            listen(self._window, self._path, self._come_forward)

    def _come_forward(self, wanted: dict[str, str]) -> None:
        """A second start: bring the window to the front, with the file, the job or the station it was asked for."""
        window = self._window
        if window is None:
            return
        if wanted.get("file"):
            window.menus.take_in(Path(wanted["file"]))
        if wanted.get("job"):
            self._open_job(wanted["job"])
        if wanted.get("station"):
            window.open_named(wanted["station"])
        self._frame.setWindowState(self._frame.windowState() & ~Qt.WindowState.WindowMinimized)
        self._frame.show()
        self._frame.raise_()
        self._frame.activateWindow()

    def _open_job(self, wanted: str) -> None:
        assert self._window is not None
        session = self._window.session
        named = (entry.id for entry in session.jobs() if wanted in {entry.id, entry.name})
        session.open_job(next(named, wanted))

    def is_at_work(self) -> bool:
        """Whether something in the background has not ended."""
        return self._window is not None and (self._window.surface.is_loading() or not self._window.has_ended)

    def _offer_ways(self, error: WorkshopDamagedError | WorkshopGoneError | WorkshopVersionError) -> bool:
        """Offer the newest backup where the workshop file cannot be opened, which is kept; else to begin anew."""
        from orvek.quantities import write_date
        from orvek.store import newest_usable, put_in_place

        if self._picture is not None or not _has_screen():
            return False
        newest, words, ways = newest_usable(error.path), str(error), ["Quit"]
        if isinstance(error, WorkshopGoneError):
            ways.insert(0, "Begin an empty workshop")
        if newest is not None:
            at = newest.made_at.astimezone()
            words += f" The newest backup is of {write_date(at)}, {at:%H:%M}, with {newest.jobs} jobs."
            words += "" if isinstance(error, WorkshopGoneError) else " What lies there now is kept beside it."
            ways.insert(0, "Open the backup")
        if len(ways) == 1:
            return False
        chosen = ask(self._frame, "Orvek", words, tuple(ways))
        if chosen is None:
            print(str(error), file=sys.stderr)
            QApplication.exit(2)
            return True
        self._anew = ways[chosen].startswith("Begin")
        try:
            if newest is not None and not self._anew:
                put_in_place(error.path, newest.path)
        except OrvekError as refused:
            self._cannot_start(str(refused))
            return True
        self.open_workshop()
        return True

    def _cannot_start(self, sentence: str) -> None:
        print(sentence, file=sys.stderr)
        if self._picture is None and _has_screen():
            tell(self._frame, "Orvek", sentence)
        QApplication.exit(2)

    def _save_picture(self) -> None:
        if self._window is not None:
            # The picture shall show the surfaces as fine as they will be, not as they are while the kernel loads.
            self._window.surface.wait()
            QApplication.processEvents()
            while self._window.session.answers.is_busy() or self._window.looks.is_busy():
                QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
            for _ in range(3):
                QApplication.processEvents()
        if not self._frame.grab().save(str(self._picture), "PNG"):
            print(f"{self._picture} could not be written.", file=sys.stderr)
            QApplication.exit(2)
        self._frame.close()


def _back_up_daily(path: Path, session: Session) -> None:
    """Runs in a thread of its own; a failure is a sentence on the window."""
    from orvek.store import daily_backup

    try:
        daily_backup(path)
    except OrvekError as error:
        session.said.emit(str(error))
    except OSError:
        _LOG.warning("the daily backup could not be made", exc_info=True)


def _has_screen() -> bool:
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def _told_to(window: MainWindow) -> Callable[[type[BaseException], BaseException, TracebackType | None], None]:
    """A fault of ours never ends the program: it is written to the terminal and told in one sentence."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            QApplication.quit()
            return
        traceback.print_exception(kind, error, trace)
        _LOG.error("a fault in the window", exc_info=(kind, error, trace))
        window.say(
            "Something in Orvek itself went wrong; your job is kept as it was before.",
            stays=True,
            button="Show the log",
            deed=window.session.log_wanted.emit,
        )

    return hook
