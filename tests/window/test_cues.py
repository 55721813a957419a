"""What is heard at the bench, and that the screen stays on while it is open."""

from __future__ import annotations

from types import SimpleNamespace
from typing import Any

import pytest
from PySide6.QtDBus import QDBusMessage

from orvek.documents import Shop
from orvek.window.bench import cues
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.bench.cues import Cues, KeptAwake
from orvek.window.main_window import MainWindow


def loud(shop: Shop) -> Shop:
    return shop.with_(preferences=shop.preferences.with_(sounds=True))


def test_each_thing_sounds_once_and_only_where_sounds_are_switched_on(window: MainWindow) -> None:
    heard: list[str] = []
    told = Cues(window.session, lambda: heard.append("beep"))
    told.give("hurry", when=True)
    assert heard == [], "nobody switched it on"
    window.session.change_shop("Sounds", loud)
    for is_so in (True, False, True, True, False):
        told.give("wait", when=is_so)
    assert heard == ["beep", "beep"], "once each time that it becomes so"


def test_a_weight_that_is_reached_and_a_wait_that_is_over_are_heard(window: MainWindow) -> None:
    heard: list[str] = []
    window.session.change_shop("Sounds", loud)
    passed = [0.0]
    weigh = window.session.plan.route.operations[0]  # type: ignore[union-attr]
    bench = BenchWindow(window, window.session, weigh, passed_s=lambda: passed[0])
    bench._cues = Cues(window.session, lambda: heard.append(bench.step.key))
    while bench.step.target_g is None:
        bench.go_on()
    for mass in (0.5, 0.8, 0.995, 1.0):
        bench._mass_g = mass * bench.step.target_g
        bench._show_figure()
    assert heard == [bench.step.key]
    waiting = next(step for step in bench.walk.steps if step.wait_s > 0)
    while bench.step is not waiting:
        bench.go_on()
    bench.go_on()
    heard.clear()
    for seconds in (1.0, waiting.wait_s - 1, waiting.wait_s + 1, waiting.wait_s + 60):
        passed[0] = seconds
        bench._tick()
    assert heard == [bench.step.key]
    bench.reject()


def test_the_screen_stays_on_until_the_bench_is_left(monkeypatch: pytest.MonkeyPatch) -> None:
    sent: list[Any] = []
    bus = SimpleNamespace(isConnected=lambda: False, send=lambda message: sent.append(message))
    monkeypatch.setattr(cues, "QDBusConnection", SimpleNamespace(sessionBus=lambda: bus))
    awake = KeptAwake()
    awake.begin()
    awake.end()
    assert sent == [], "no desktop that offers it"
    awake.begin()
    answer = SimpleNamespace(type=lambda: QDBusMessage.MessageType.ReplyMessage, arguments=lambda: [7])
    awake._take(SimpleNamespace(reply=lambda: answer))  # type: ignore[arg-type]
    assert sent == []
    awake.end()
    assert [(one.member(), one.arguments()) for one in sent] == [("UnInhibit", [7])]
    awake._take(SimpleNamespace(reply=lambda: answer))  # type: ignore[arg-type]
    assert len(sent) == 2, "an answer that comes late is given back at once"
