"""The window's end of the process that answers what would hold the interpreter (planning/answering.py).

A process is begun with the first question of its kind and ended when nobody asked for a while, so that its memory is
given back.
"""

from __future__ import annotations

import contextlib
import logging
import socket
import subprocess
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from msgspec import Struct

from orvek.errors import OrvekError
from orvek.planning.answering import Answered, Asked, Early, Failed, GivenUp, Told, command

_LOOKS_S = 0.1  # how often it is asked whether anybody still waits
_ENDS_S = 120.0  # an idle process is ended
_PATIENCE_S = 1.5  # what is given up and goes on longer is ended with its process
_LOG = logging.getLogger(__name__)


class _Process(Struct):
    """A process and the line to it."""

    process: subprocess.Popen[bytes]
    line: Connection[Any, Any]


class NotAnsweredError(OrvekError):
    """The process could not answer, in a sentence."""


class Helper:
    """One process for one kind of question; `answer` is called in threads, and waits there."""

    def __init__(self, key: str) -> None:
        self._key = key
        self._lock = threading.Lock()
        self._process: _Process | None = None
        self._number = 0
        self._ending: threading.Timer | None = None
        self._is_open = True

    def answer(self, question: Any, tell: Callable[[float], None], early: Callable[[Any], None]) -> Any:
        """The answer to a question; `tell` is called ten times a second and may raise to give it up.

        Raises:
            OrvekError: there is none, in a sentence.
        """
        with self._lock:
            self._stay()
            self._number += 1
            there, number = self._running(), self._number
            try:
                return self._heard(there.line, number, question, tell, early)
            except (OSError, EOFError) as error:
                self._end()
                raise NotAnsweredError("The calculation ended early; it starts again next time.") from error
            except Exception:
                self._give_up(there.line, number)
                raise
            finally:
                self._end_later()

    def close(self) -> None:
        """End the process, and begin no other."""
        self._is_open = False
        self._end()

    def _heard(
        self,
        line: Connection[Any, Any],
        number: int,
        question: Any,
        tell: Callable[[float], None],
        early: Callable[[Any], None],
    ) -> Any:
        part = 0.0
        line.send(Asked(number, self._key, question))
        while True:
            if not line.poll(_LOOKS_S):
                tell(part)
                continue
            told = line.recv()
            match told:
                case Told(number=n, part=part) if n == number:
                    tell(part)
                case Early(number=n) if n == number:
                    early(told.answer)
                case Answered(number=n) if n == number:
                    return told.answer
                case Failed(number=n) if n == number:
                    if told.trace:
                        _LOG.error("an answer in the background broke off:\n%s", told.trace)
                        words = f"Orvek could not work this out ({told.sentence}). Your job is kept; the log says more."
                        raise NotAnsweredError(words)
                    raise NotAnsweredError(told.sentence)

    def _give_up(self, line: Connection[Any, Any], number: int) -> None:
        """Tell the process that nobody waits any more; where it does not listen, end it."""
        with contextlib.suppress(OSError, EOFError):
            line.send(GivenUp(number))
            for _ in range(round(_PATIENCE_S / _LOOKS_S)):
                if not self._is_open:
                    return
                if line.poll(_LOOKS_S):
                    told = line.recv()
                    if isinstance(told, Answered | Failed) and told.number == number:
                        return
        self._end()

    def _running(self) -> _Process:
        if not self._is_open:
            raise NotAnsweredError("The window is closing.")
        if self._process is None or self._process.process.poll() is not None:
            ours, theirs = socket.socketpair()
            with theirs:
                process = subprocess.Popen(
                    command(theirs.fileno()), pass_fds=[theirs.fileno()], stdin=subprocess.DEVNULL
                )
            self._process = _Process(process, Connection(ours.detach()))
        return self._process

    def _stay(self) -> None:
        if self._ending is not None:
            self._ending.cancel()

    def _end_later(self) -> None:
        if self._is_open and self._process is not None:
            self._ending = threading.Timer(_ENDS_S, self._end)
            self._ending.daemon = True
            self._ending.start()

    def _end(self) -> None:
        self._stay()
        there, self._process = self._process, None
        if there is not None:
            there.process.kill()
            there.line.close()
            there.process.wait()
