"""A process that answers slow questions, so that what holds the interpreter does not hold the window.

`command(handle)` begins it: over the socket of that handle it hears `Asked` and `GivenUp` and says `Told`, `Early`,
`Answered` and `Failed`. Both ends are of one program, and the socket has no name: nobody else speaks.
"""

from __future__ import annotations

import contextlib
import os
import queue
import sys
import threading
import traceback
from multiprocessing.connection import Connection
from typing import Any

from msgspec import Struct

from orvek.errors import OrvekError
from orvek.quantities import decimal_mark, use_decimal_mark

_FINE = 0.02  # parts told closer together are one to whoever waits


class Asked(Struct, frozen=True):
    """A question by the key of its kind (planning/questions.py)."""

    number: int
    key: str
    question: Any


class GivenUp(Struct, frozen=True):
    """Nobody waits for the answer of that number any more."""

    number: int


class Told(Struct, frozen=True):
    """How far an answer is, 0 to 1."""

    number: int
    part: float


class Early(Struct, frozen=True):
    """An answer that a better one will follow."""

    number: int
    answer: Any


class Answered(Struct, frozen=True):
    """The answer."""

    number: int
    answer: Any


class Failed(Struct, frozen=True):
    """There is none: a sentence for the maker, or a fault of ours with its trace."""

    number: int
    sentence: str
    trace: str = ""


class _GivenUpError(Exception):
    """Nobody waits for this answer any more."""


def command(handle: int) -> list[str]:
    """The command that begins such a process; numbers are written there as they are here."""
    begin = "import sys; from orvek.planning.answering import main; main(int(sys.argv[1]), sys.argv[2])"
    return [sys.executable, "-c", begin, str(handle), decimal_mark()]


def main(handle: int, mark: str) -> None:
    """Answer what is asked over the socket of this handle, a little behind all that a maker waits for."""
    use_decimal_mark(mark)
    with contextlib.suppress(OSError):
        os.nice(5)
    serve(Connection(handle))


def serve(line: Connection[Any, Any]) -> None:
    """Answer one question after the other until the other end is closed."""
    from orvek.planning.questions import QUESTIONS
    from orvek.workpiece.reference import evaluate_reference

    kinds = {slow.key: slow for slow in QUESTIONS}
    asked: queue.Queue[Asked | None] = queue.Queue()
    given_up: set[int] = set()
    threading.Thread(target=_listen, args=(line, asked, given_up), daemon=True).start()
    while (one := asked.get()) is not None:
        number, last = one.number, [-1.0]

        def tell(part: float, number: int = number, last: list[float] = last) -> None:
            if number in given_up:
                raise _GivenUpError
            if abs(part - last[0]) >= _FINE:
                last[0] = part
                line.send(Told(number, part))

        def early(answer: Any, number: int = number) -> None:
            line.send(Early(number, answer))

        try:
            if number not in given_up:
                line.send(Answered(number, kinds[one.key].answer(one.question, evaluate_reference, tell, early)))
        except _GivenUpError:
            line.send(Failed(number, ""))
        except OrvekError as error:
            line.send(Failed(number, str(error)))
        except Exception as error:  # whatever it is, nobody shall wait for it for ever
            line.send(Failed(number, f"{type(error).__name__}: {str(error)[:100]}", traceback.format_exc()))


def _listen(line: Connection[Any, Any], asked: queue.Queue[Asked | None], given_up: set[int]) -> None:
    with contextlib.suppress(EOFError, OSError):
        while True:
            heard = line.recv()
            if isinstance(heard, Asked):
                asked.put(heard)
            elif isinstance(heard, GivenUp):
                given_up.add(heard.number)
    os._exit(0)  # the window is gone: nobody waits for what is being worked out
