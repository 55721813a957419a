"""Where the maker left the window: its size and place, its station, its ground."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QSettings, Qt
from PySide6.QtGui import QGuiApplication

from orvek.window.frame import Frame


def settings() -> QSettings:
    """Orvek's own settings, in the folder that the desktop keeps such files in (XDG_CONFIG_HOME)."""
    return QSettings(QSettings.Format.IniFormat, QSettings.Scope.UserScope, "orvek", "window")


GROUNDS = ("as the desktop", "light", "evening")


def ground() -> str:
    """Which ground the maker wants: one of `GROUNDS`."""
    kept = str(settings().value("ground", GROUNDS[0]))
    return kept if kept in GROUNDS else GROUNDS[0]


def set_ground(wanted: str) -> None:
    """Write down which ground is wanted."""
    kept = settings()
    kept.setValue("ground", wanted)
    kept.sync()


def is_evening(application: QGuiApplication) -> bool:
    """Whether the dark ground is to be used."""
    dark = application.styleHints().colorScheme() is Qt.ColorScheme.Dark
    return dark if ground() == GROUNDS[0] else ground() == "evening"


def remember(frame: Frame, station: str) -> None:
    """Write down how the window is left."""
    kept = settings()
    kept.setValue("geometry", frame.saveGeometry())
    kept.setValue("station", station)
    kept.sync()


def put_back(frame: Frame) -> str:
    """Put the window where it was, if that is still on a screen; the station that was open."""
    kept = settings()
    geometry = kept.value("geometry")
    if isinstance(geometry, QByteArray) and frame.restoreGeometry(geometry):
        screen = frame.screen()
        if screen is not None and not screen.availableGeometry().intersects(frame.frameGeometry()):
            frame.move(screen.availableGeometry().topLeft())  # the screen it was on is gone
    return str(kept.value("station", ""))
