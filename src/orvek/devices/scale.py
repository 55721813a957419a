"""A scale that sends its weight as lines of text over a serial port: `open_scale(place)` and `ScalePort.read`.

Most bench scales send a line a weighing, whatever their make: some letters, perhaps ST or US for steady or not, a sign,
a number, a unit. Nothing is ever sent to the scale.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Protocol

from orvek.errors import NotPluggedInError

SIMULATED = "simulated"  # the place of the scale that ships: it weighs what it is told, for trying things out
_G = {"g": 1.0, "kg": 1000.0, "mg": 0.001, "ct": 0.2, "oz": 28.349523125, "lb": 453.59237}
_LINE = re.compile(r"([+-]?)\s*(\d+(?:[.,]\d+)?)\s*([a-z]*)", re.IGNORECASE)
_UNSTEADY = re.compile(r"\b(US|SD|D|\?)\b|\?", re.IGNORECASE)
_MOST_WAITING, _LONGEST = 4096, 200


@dataclass(frozen=True, slots=True)
class Reading:
    """One weight as the scale told it; one that is not steady is still moving."""

    mass_g: float
    is_steady: bool


class ScalePort(Protocol):
    """What a window asks of a scale. `heard` is its last line as it came in, for whoever tries it out."""

    heard: str

    def read(self) -> Reading | None:
        """The latest weight that came in since the last time, without waiting; None while nothing came.

        Raises:
            NotPluggedInError: it was pulled out.
        """

    def close(self) -> None:
        """Let go of it."""


def reading_of(line: str, like: str = "") -> Reading | None:
    """The weight in one line, in grams; None where there is none, or in a unit that is no weight.

    Args:
        line: as it came in.
        like: how its lines look, `{weight}` where the number stands; empty for the usual ones.

    >>> reading_of("ST,GS,+  40.53 g")
    Reading(mass_g=40.53, is_steady=True)
    >>> reading_of("US,NT,-   0.002kg")
    Reading(mass_g=-2.0, is_steady=False)
    >>> reading_of("T 12.00 N 40.53 B 3", "N {weight} B")
    Reading(mass_g=40.53, is_steady=True)
    """
    every = list((_line_like(like) if like else _LINE).finditer(line))
    if not every:
        return None
    found = every[-1]
    sign, number, unit = found.groups()
    if like and unit.lower() not in _G:
        unit = ""  # what follows is no unit but the rest of the maker's own line
    factor = _G.get(unit.lower() or "g")
    if factor is None:
        return None
    mass = float(number.replace(",", ".")) * factor * (-1 if sign == "-" else 1)
    return Reading(round(mass, 6), not _UNSTEADY.search(line[: found.start(2)]))


@lru_cache(maxsize=16)
def _line_like(like: str) -> re.Pattern[str]:
    """A maker's own line as an expression: blanks as many as there are, the number where `{weight}` stands."""
    before, _, after = like.partition("{weight}")
    words = [r"\s*".join(re.escape(word) for word in part.split()) for part in (before, after)]
    number = r"([+-]?)\s*(\d+(?:[.,]\d+)?)"
    return re.compile(rf"{words[0]}\s*{number}(?=\s*{words[1]})\s*([a-z]*)", re.IGNORECASE)


class SerialScale:
    """A scale on a serial port."""

    def __init__(self, place: str, baud: int, like: str = "") -> None:
        import serial  # only who has a scale needs it

        self._errors = (serial.SerialException, OSError)
        self._place, self._like, self.heard = place, like, ""
        try:
            self._port = serial.Serial(place, baudrate=baud, timeout=0)  # never a URL: nothing is asked of the network
        except (*self._errors, ValueError) as error:
            raise NotPluggedInError(place) from error
        self._begun = b""

    def read(self) -> Reading | None:
        """The last whole line that came in."""
        try:
            self._begun += self._port.read(_MOST_WAITING)
        except self._errors as error:
            raise NotPluggedInError(self._place) from error
        *lines, self._begun = self._begun.replace(b"\r", b"\n").split(b"\n")
        self._begun = self._begun[-_MOST_WAITING:]
        texts = [line.decode("ascii", errors="replace").strip()[:_LONGEST] for line in lines if line.strip()]
        self.heard = texts[-1] if texts else self.heard
        for text in reversed(texts):
            found = reading_of(text, self._like)
            if found is not None:
                return found
        return None

    def close(self) -> None:
        """Let go of the port."""
        self._port.close()


class SimulatedScale:
    """A scale that settles on a weight: unsteady at first, then the same again and again."""

    def __init__(self, mass_g: float = 42.5) -> None:
        self._mass_g, self._asked, self.heard = mass_g, 0, ""

    def read(self) -> Reading:
        """A weight that comes nearer to what lies on it."""
        self._asked += 1
        off = max(0, 4 - self._asked) * 0.7
        return Reading(round(self._mass_g - off, 1), off == 0)

    def close(self) -> None:
        """Nothing is held."""


def open_scale(place: str, baud: int, like: str = "") -> ScalePort:
    """The scale at a place such as /dev/ttyUSB0; `like` as for `reading_of`.

    Raises:
        NotPluggedInError: nothing that can be read is there.
    """
    return SimulatedScale() if place == SIMULATED else SerialScale(place, baud, like)


def ports() -> tuple[str, ...]:
    """Where something is plugged in that may be a scale."""
    from serial.tools.list_ports import comports

    steady = sorted(str(path) for path in Path("/dev/serial/by-id").glob("*"))
    return (*steady, *(port.device for port in comports()))
