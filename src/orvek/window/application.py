"""Starting the program: the application, its look, the workshop, the window; a picture of it when asked for."""

from __future__ import annotations

import os
import sys
import traceback
from importlib import resources
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QTimer
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QApplication, QMessageBox

from orvek.errors import OrvekError
from orvek.planning import Station
from orvek.window import theme


def make_application() -> QApplication:
    """The application with Orvek's name, icon and look."""
    existing = QApplication.instance()
    application = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    application.setApplicationName("orvek")
    application.setApplicationDisplayName("Orvek")
    application.setDesktopFileName("orvek")
    theme.apply(application)
    pixmap = QPixmap()
    pixmap.loadFromData(resources.files("orvek.data").joinpath("icons", "orvek.png").read_bytes())
    application.setWindowIcon(QIcon(pixmap))
    return application


def run(path: Path, *, demo: bool, picture: Path | None, station: str | None) -> int:
    """Open the workshop and show the window.

    Returns:
        The exit code: 0, or 2 when the workshop could not be opened (a sentence says why).
    """
    if not _has_screen() and "QT_QPA_PLATFORM" not in os.environ:
        print("No display was found: Orvek starts on a virtual screen.", file=sys.stderr)
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    application = make_application()
    # The window's other parts load only now, so that a workshop that cannot be opened is told at once.
    from orvek.shop import fill_with_demo, open_workshop
    from orvek.window.main_window import MainWindow
    from orvek.window.session import Session

    try:
        workshop = open_workshop(path)
        if demo:
            fill_with_demo(workshop)
        window = MainWindow(Session(workshop))
    except OrvekError as error:
        return _cannot_start(str(error), quietly=picture is not None)
    sys.excepthook = _told_to(window)
    if station:
        window.open_station(Station(station.capitalize()))
    window.show()
    QTimer.singleShot(0, window.load_slow_parts)
    if picture is not None:
        QTimer.singleShot(400, lambda: _picture_and_end(window, picture))
    return int(application.exec())


def _has_screen() -> bool:
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def _cannot_start(sentence: str, *, quietly: bool) -> int:
    print(sentence, file=sys.stderr)
    if not quietly and _has_screen():
        QMessageBox.warning(None, "Orvek", sentence)
    return 2


def _picture_and_end(window: object, picture: Path) -> None:
    from orvek.window.main_window import MainWindow

    assert isinstance(window, MainWindow)
    if not window.grab().save(str(picture), "PNG"):
        print(f"{picture} could not be written.", file=sys.stderr)
    window.close()


def _told_to(window: object):
    """A fault of ours never ends the program: it is written to the terminal and told in one sentence."""
    from orvek.window.main_window import MainWindow

    assert isinstance(window, MainWindow)

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            QApplication.quit()
            return
        traceback.print_exception(kind, error, trace)
        window.say("Something in Orvek itself went wrong; your job is kept as it was before. See the terminal.")

    return hook
