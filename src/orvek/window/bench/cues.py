"""What is heard and seen from two metres away: `Cues` sound once for each thing, `LifeLabel` counts down.

`KeptAwake` keeps the screen on while the bench is open, where the desktop offers that.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime

from PySide6.QtDBus import QDBusConnection, QDBusMessage, QDBusPendingCallWatcher
from PySide6.QtWidgets import QApplication

from orvek.planning.route.bench import Mixed
from orvek.window import theme
from orvek.window.bench.parts import time_left
from orvek.window.session import Session
from orvek.window.widgets.label import Label

HURRY_MIN = 5.0  # before it gels (a choice)
_SAVER = ("org.freedesktop.ScreenSaver", "/org/freedesktop/ScreenSaver", "org.freedesktop.ScreenSaver")


class Cues:
    """A sound where the maker switched sounds on; each key is heard once."""

    def __init__(self, session: Session, sound: Callable[[], None] = QApplication.beep) -> None:
        self._session, self._sound = session, sound
        self._heard: set[str] = set()

    def give(self, key: str, *, when: bool) -> None:
        """Sound, once it is so; it may come again after it was no longer so."""
        if not when:
            self._heard.discard(key)
        elif key not in self._heard:
            self._heard.add(key)
            if self._session.shop.preferences.sounds:
                self._sound()


class LifeLabel(Label):
    """How long a cup stays liquid still, or a glue open: the one that ends first."""

    def show_mixed(self, mixed: Sequence[Mixed], now: datetime) -> bool:
        """Show it; nothing while nothing runs. Whether there is little time left."""
        self.setVisible(bool(mixed))
        if not mixed:
            return False
        left = mixed[0].left_min(now)
        told = f"about {time_left(left)} left" if left >= 1 else mixed[0].over
        self.setText(f"{mixed[0].name}: {told}")
        is_hurried = left <= HURRY_MIN
        self.setStyleSheet(theme.words_css(theme.STOP if is_hurried else theme.CAUTION, theme.BENCH, 600))
        return is_hurried


class KeptAwake:
    """The screen stays on from `begin` to `end`; without a desktop that offers it nothing happens."""

    def __init__(self) -> None:
        self._cookie: int | None = None
        self._is_wanted = False
        self._answer: QDBusPendingCallWatcher | None = None

    def begin(self) -> None:
        """Ask for it; nobody waits for the answer."""
        self._is_wanted = True
        bus = QDBusConnection.sessionBus()
        if not bus.isConnected():
            return
        message = QDBusMessage.createMethodCall(*_SAVER, "Inhibit")
        message.setArguments(["Orvek", "work at the bench"])
        self._answer = QDBusPendingCallWatcher(bus.asyncCall(message))
        self._answer.finished.connect(self._take)

    def end(self) -> None:
        """The screen may sleep again."""
        self._is_wanted = False
        if self._cookie is not None:
            message = QDBusMessage.createMethodCall(*_SAVER, "UnInhibit")
            message.setArguments([self._cookie])
            QDBusConnection.sessionBus().send(message)
            self._cookie = None

    def _take(self, answer: QDBusPendingCallWatcher) -> None:
        told = answer.reply()
        arguments = told.arguments() if told.type() == QDBusMessage.MessageType.ReplyMessage else []
        if arguments:
            self._cookie = int(arguments[0])
        if not self._is_wanted:  # it was left before the answer came
            self.end()
