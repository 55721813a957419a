"""Where the maker left the window: its size and place, the station, and whether findings were folded."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QSettings

from orvek.window.frame import Frame


def settings() -> QSettings:
    """Orvek's own settings, in the folder that the desktop keeps such files in (XDG_CONFIG_HOME)."""
    return QSettings(QSettings.Format.IniFormat, QSettings.Scope.UserScope, "orvek", "window")


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
