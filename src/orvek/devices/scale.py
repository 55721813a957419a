"""A scale that sends its weight as lines of text over a serial port: `open_scale(place)` and `ScalePort.read`.

Most bench scales send a line a weighing, whatever their make: some letters, perhaps ST or US for steady or not, a sign,
a number, a unit. Nothing is ever sent to the scale.
"""

from __future__ import annotations

import re
from typing import Protocol

from msgspec import Struct

from orvek.devices.lines import SIMULATED, SerialLines, line_like

_G = {"g": 1.0, "kg": 1000.0, "mg": 0.001, "ct": 0.2, "oz": 28.349523125, "lb": 453.59237}
_LINE = re.compile(r"([+-]?)\s*(\d+(?:[.,]\d+)?)\s*([a-z]*)", re.IGNORECASE)
_UNSTEADY = re.compile(r"\b(US|SD|D|\?)\b|\?", re.IGNORECASE)


class Reading(Struct, frozen=True):
    """One weight as the scale told it; one that is not steady is still moving."""

    mass_g: float
    is_steady: bool


class ScalePort(Protocol):
    """What a window asks of a scale."""

    @property
    def heard(self) -> str:
        """Its last line as it came in, for whoever tries it out."""

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
    every = list((line_like(like, "weight") if like else _LINE).finditer(line))
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


class SerialScale:
    """A scale on a serial port."""

    def __init__(self, place: str, baud: int, like: str = "") -> None:
        self._lines, self._like = SerialLines(place, baud), like

    @property
    def heard(self) -> str:
        """Its last line as it came in."""
        return self._lines.heard

    def read(self) -> Reading | None:
        """The last whole line that came in."""
        found = (reading_of(text, self._like) for text in reversed(self._lines.new()))
        return next((reading for reading in found if reading is not None), None)

    def close(self) -> None:
        """Let go of the port."""
        self._lines.close()


class SimulatedScale:
    """A scale that settles on a weight: unsteady at first, then the same again and again."""

    def __init__(self, mass_g: float = 42.5) -> None:
        self._mass_g, self._asked, self.heard = mass_g, 0, ""

    def read(self) -> Reading:
        """A weight that comes nearer to what lies on it."""
        from orvek.devices.simulated import line_of

        self._asked += 1
        off = max(0, 4 - self._asked) * 0.7
        reading = Reading(round(self._mass_g - off, 1), off == 0)
        self.heard = line_of(reading.mass_g, is_steady=reading.is_steady).decode().strip()
        return reading

    def close(self) -> None:
        """Nothing is held."""


def open_scale(place: str, baud: int, like: str = "") -> ScalePort:
    """The scale at a place such as /dev/ttyUSB0; `like` as for `reading_of`.

    Raises:
        NotPluggedInError: nothing that can be read is there.
    """
    return SimulatedScale() if place == SIMULATED else SerialScale(place, baud, like)
