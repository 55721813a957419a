"""Slow answers in the background: the latest question wins, the same question is never computed twice.

A question is a frozen value; an answer carries its question.

`ask` is cheap and may be called with every plan. The answer comes by `arrived`, how far it is by `progressed`.
"""

from __future__ import annotations

import logging
import time
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any

from PySide6.QtCore import QObject, QThread, QTimer, Signal

from orvek.errors import OrvekError

Compute = Callable[[Any, Callable[[float], None], Callable[[Any], None]], Any]
_WAIT_MS = 250  # a drag asks many times a second; only the last question is worth computing
_KEPT = 32
_END_MS = 1200  # with the window's own closing this stays under two seconds
_LOG = logging.getLogger(__name__)


class _CancelledError(Exception):
    """Nobody waits for this answer any more."""


class _Work(QThread):
    """One answer in the making."""

    told = Signal(object)
    failed = Signal(str)
    progressed = Signal(float)

    def __init__(self, question: Hashable, compute: Compute) -> None:
        super().__init__()
        self.question = question
        self._compute = compute
        self.is_cancelled = False
        self._last = 0.0

    def run(self) -> None:
        try:
            self.told.emit((self._compute(self.question, self._tell, self._early), True))
        except _CancelledError:
            return
        except OrvekError as error:
            self.failed.emit(str(error))
        except Exception as error:  # whatever it is, nobody shall wait for it for ever
            _LOG.exception("an answer in the background broke off")
            reason = f"{type(error).__name__}: {str(error)[:100]}"
            self.failed.emit(f"Orvek could not work this out ({reason}). Your job is kept; the log says more.")

    def _early(self, forecast: Any) -> None:
        self.told.emit((forecast, False))

    def _tell(self, part: float) -> None:
        if self.is_cancelled:
            raise _CancelledError
        if part - self._last >= 0.02:
            self._last = part
            self.progressed.emit(part)


class Forecaster(QObject):
    """Answers questions of one kind, one at a time."""

    arrived = Signal(object)
    failed = Signal(str)  # one sentence; the question stays without an answer
    took = Signal(float)  # a whole answer came after so many seconds
    progressed = Signal(float)  # 0 to 1; 1 when there is nothing more to wait for
    left_open = Signal()  # nobody works at the question any more, and it has no whole answer

    def __init__(self, compute: Compute) -> None:
        super().__init__()
        self._compute = compute
        self._question: Hashable | None = None
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._early: Any = None
        self._work: _Work | None = None
        self._given_up: list[_Work] = []
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._begin)
        self._is_open = True
        self._begun_s = 0.0
        self._is_left = False

    def ask(self, question: Hashable | None) -> None:
        """Make this the question; whatever was being computed for another is given up."""
        if question == self._question or not self._is_open:
            return
        self._question, self._early, self._is_left = question, None, False
        self.cancel()
        if question is not None and question not in self._kept:
            self._timer.start(_WAIT_MS)
            self.progressed.emit(0.0)
        else:
            self.progressed.emit(1.0)

    def answer(self) -> Any:
        """The answer to the question that stands, if it is there already, with or without its ways out."""
        return self._kept.get(self._question, self._early) if self._question is not None else None

    def is_busy(self) -> bool:
        """Whether something is being computed or about to be."""
        return self._timer.isActive() or (self._work is not None and self._work.isRunning())

    def is_awaited(self) -> bool:
        """Whether the whole answer is still to come; not while its thread only ends."""
        return self._question not in self._kept and not self._is_left and self.is_busy()

    def cancel(self) -> None:
        """Give up what is being computed."""
        self._timer.stop()
        if self._work is not None:
            self._work.is_cancelled = True
            self._given_up.append(self._work)
            self._work = None
        self._given_up = [work for work in self._given_up if work.isRunning()]

    def stop(self) -> None:
        """The maker does not want to wait: leave the question without an answer."""
        self.cancel()
        self.progressed.emit(1.0)
        self._leave()

    def _leave(self) -> None:
        self._is_left = True
        self.left_open.emit()

    def close(self, within_ms: int = _END_MS) -> bool:
        """Give up everything and wait a moment until it has ended.

        Returns:
            Whether all of it has. What has not is in a library's hands and cannot be stopped; whoever ends the
            program then does not wait for it.
        """
        self._is_open = False
        self.cancel()
        until = time.monotonic() + within_ms / 1000
        return all(work.wait(max(1, int(1000 * (until - time.monotonic())))) for work in self._given_up)

    def _begin(self) -> None:
        if self._question is None:
            return
        self._work = _Work(self._question, self._compute)
        self._work.told.connect(self._take)
        self._work.progressed.connect(self._pass_on)
        self._work.failed.connect(self._break_off)
        self._begun_s = time.monotonic()
        self._work.start(QThread.Priority.LowPriority)

    def _pass_on(self, part: float) -> None:
        if self._work is not None and self.sender() is self._work:
            self.progressed.emit(part)

    def _break_off(self, sentence: str) -> None:
        if self._work is not None and self.sender() is self._work and self._is_open:
            self.progressed.emit(1.0)
            self.failed.emit(sentence)
            self._leave()

    def _take(self, told: tuple[Any, bool]) -> None:
        forecast, is_whole = told
        if is_whole:
            self._kept[forecast.question] = forecast
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        if forecast.question != self._question or not self._is_open:
            return
        self._early = forecast
        self.arrived.emit(forecast)
        if is_whole:
            self.progressed.emit(1.0)
            self.took.emit(time.monotonic() - self._begun_s)
