"""Where the maker left the window: its size and place, its station, its ground."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QSettings, Qt
from PySide6.QtGui import QGuiApplication

from orvek.window.frame import Frame


def settings() -> QSettings:
    """Orvek's own settings, in the folder that the desktop keeps such files in (XDG_CONFIG_HOME)."""
    return QSettings(QSettings.Format.IniFormat, QSettings.Scope.UserScope, "orvek", "window")


GROUNDS = ("as the desktop", "light", "dark")


def ground() -> str:
    """Which ground the maker wants: one of `GROUNDS`."""
    kept = str(settings().value("ground", GROUNDS[0])).replace("evening", "dark")  # as it was called before
    return kept if kept in GROUNDS else GROUNDS[0]


def set_ground(wanted: str) -> None:
    """Write down which ground is wanted."""
    kept = settings()
    kept.setValue("ground", wanted)
    kept.sync()


def is_evening(application: QGuiApplication) -> bool:
    """Whether the dark ground is to be used."""
    dark = application.styleHints().colorScheme() is Qt.ColorScheme.Dark
    return dark if ground() == GROUNDS[0] else ground() == "dark"


TEXT_SIZES = (0, 100, 125, 150, 200)  # per cent of the usual; 0: as large as the desktop's own


def text_percent() -> int:
    """How large text is to be: one of `TEXT_SIZES`."""
    kept = str(settings().value("text", ""))
    return int(kept) if kept.isdecimal() and int(kept) in TEXT_SIZES else 0


def set_text_percent(percent: int) -> None:
    """Write down how large text is to be."""
    kept = settings()
    kept.setValue("text", percent)
    kept.sync()


def remember(frame: Frame, place: str, findings_width: int) -> None:
    """Write down how the window is left: where it is, the station or page that is open, how wide the findings are."""
    kept = settings()
    kept.setValue("geometry", frame.saveGeometry())
    kept.setValue("place", place)
    kept.setValue("findings_width", findings_width)
    kept.sync()


def findings_width() -> int:
    """How wide the findings were; 0 where nobody has said so."""
    kept = str(settings().value("findings_width", ""))
    return int(kept) if kept.isdecimal() else 0


def put_back(frame: Frame) -> str:
    """Put the window where it was, if that is still on a screen; the station or page that was open."""
    kept = settings()
    geometry = kept.value("geometry")
    if isinstance(geometry, QByteArray) and frame.restoreGeometry(geometry):
        screen = frame.screen()
        if screen is not None and not screen.availableGeometry().intersects(frame.frameGeometry()):
            frame.move(screen.availableGeometry().topLeft())  # the screen it was on is gone
    return str(kept.value("place", ""))


def one_by_one(kind: str) -> bool | None:
    """Whether an operation of this kind is gone through blank by blank at the bench; None where nobody has chosen."""
    kept = str(settings().value(f"blank by blank/{kind}", ""))
    return {"yes": True, "no": False}.get(kept)


def set_one_by_one(kind: str, wanted: bool) -> None:
    """Write down how it is gone through."""
    kept = settings()
    kept.setValue(f"blank by blank/{kind}", "yes" if wanted else "no")
    kept.sync()


def is_more_open(page: str) -> bool:
    """Whether a page's rarer fields are in sight."""
    return page in _opened()


def set_more_open(page: str, *, is_open: bool) -> None:
    """Write down whether a page's rarer fields are in sight."""
    kept = settings()
    kept.setValue("more", " ".join(sorted(_opened() | {page} if is_open else _opened() - {page})))
    kept.sync()


def _opened() -> set[str]:
    return set(str(settings().value("more", "")).split())
