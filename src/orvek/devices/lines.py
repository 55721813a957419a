"""A serial line that sends text: `SerialLines.new()` gives what came in since the last time, without waiting.

Nothing is ever sent. A port is a place such as /dev/ttyUSB0, never an address of the network.
"""

from __future__ import annotations

import re
from functools import lru_cache

from orvek.errors import NotPluggedInError

SIMULATED = "simulated"  # the place of the devices that ship, for trying things out
_MOST_WAITING, _LONGEST = 4096, 200


class SerialLines:
    """A port, its speed, and its lines. `heard` is the last one as it came in."""

    def __init__(self, place: str, baud: int, what: str = "scale") -> None:
        import serial  # only who has a device needs it

        self._errors = (serial.SerialException, OSError)
        self._place, self._what, self.heard = place, what, ""
        try:
            self._port = serial.Serial(place, baudrate=baud, timeout=0)  # never a URL: nothing is asked of the network
        except (*self._errors, ValueError) as error:
            raise NotPluggedInError(place, what) from error
        self._begun = b""

    def new(self) -> list[str]:
        """The whole lines that came in, the oldest first.

        Raises:
            NotPluggedInError: it was pulled out.
        """
        try:
            self._begun += self._port.read(_MOST_WAITING)
        except self._errors as error:
            raise NotPluggedInError(self._place, self._what) from error
        *lines, self._begun = self._begun.replace(b"\r", b"\n").split(b"\n")
        self._begun = self._begun[-_MOST_WAITING:]
        texts = [line.decode("utf-8", errors="replace").strip()[:_LONGEST] for line in lines if line.strip()]
        self.heard = texts[-1] if texts else self.heard
        return texts

    def close(self) -> None:
        """Let go of the port."""
        self._port.close()


@lru_cache(maxsize=16)
def line_like(like: str, placeholder: str) -> re.Pattern[str]:
    """A maker's own line as an expression: blanks as many as there are, the number where `{placeholder}` stands."""
    before, _, after = like.partition(f"{{{placeholder}}}")
    words = [r"\s*".join(re.escape(word) for word in part.split()) for part in (before, after)]
    number = r"([+-]?)\s*(\d+(?:[.,]\d+)?)"
    return re.compile(rf"{words[0]}\s*{number}(?=\s*{words[1]})\s*([a-z°]*)", re.IGNORECASE)
