"""Calipers and thermometers that send lines, or write a log that grows: `open_meter(kind, place)` and `Meter.read`."""

from __future__ import annotations

import re
import time
from collections.abc import Callable
from pathlib import Path
from typing import Literal, Protocol

from orvek.devices.lines import SIMULATED, SerialLines, line_like
from orvek.errors import NotPluggedInError

MeterKind = Literal["caliper", "thermometer"]
_LINE = re.compile(r"([+-]?)\s*(\d+(?:[.,]\d+)?)\s*([a-z°\"]*)", re.IGNORECASE)
_MOST_DIGITS = 12  # of a number that some device measured
_SIMULATED_AT: dict[MeterKind, float] = {"caliper": 12.3, "thermometer": 21.5}
_OLD_S = 900.0  # a logger writes more often than that (a choice)
_MOST_OF_LOG = 8192  # of a log that grows, its end is read


def _fahrenheit(value: float) -> float:
    return (value - 32) / 1.8


# Units of each kind, in small letters without a degree sign: what they are in mm, or in °C.
_UNITS: dict[MeterKind, dict[str, Callable[[float], float]]] = {
    "caliper": {"": float, "mm": float, "in": lambda v: v * 25.4, '"': lambda v: v * 25.4, "inch": lambda v: v * 25.4},
    "thermometer": {"": float, "c": float, "f": _fahrenheit, "k": lambda v: v - 273.15},
}


class Meter(Protocol):
    """What a window asks of calipers or a thermometer."""

    @property
    def heard(self) -> str:
        """Its last line as it came in."""

    def read(self) -> float | None:
        """The latest value since the last time, in mm or °C, without waiting; None while nothing came.

        Raises:
            NotPluggedInError: it was pulled out, or its log is gone.
        """

    def close(self) -> None:
        """Let go of it."""


def value_of(line: str, kind: MeterKind, like: str = "") -> float | None:
    """The value in one line, in mm or °C: the last number with a unit of its kind, else the last bare number.

    Args:
        line: as it came in.
        kind: calipers or a thermometer.
        like: how its lines look, `{value}` where the number stands; empty for the usual ones.

    >>> value_of("01A+0012.34 mm", "caliper"), value_of("0.500 in", "caliper")
    (12.34, 12.7)
    >>> value_of("T1 68.0 °F", "thermometer")
    20.0
    """
    found = [match.groups() for match in (line_like(like, "value") if like else _LINE).finditer(line)]
    units = _UNITS[kind]
    found = [one for one in found if len(one[1]) <= _MOST_DIGITS]
    known = [one for one in found if one[2].lower().lstrip("°") in units]
    named = [one for one in known if one[2]]
    for sign, number, unit in reversed(named or known or (found if like else [])):
        change = units.get(unit.lower().lstrip("°"), float)
        return round(change(float(number.replace(",", ".")) * (-1 if sign == "-" else 1)), 6)
    return None


class SerialMeter:
    """Calipers or a thermometer on a serial port."""

    def __init__(self, kind: MeterKind, place: str, baud: int, like: str = "") -> None:
        self._lines, self._kind, self._like = SerialLines(place, baud, kind), kind, like

    @property
    def heard(self) -> str:
        """Its last line as it came in."""
        return self._lines.heard

    def read(self) -> float | None:
        """The last value that came in."""
        values = (value_of(line, self._kind, self._like) for line in reversed(self._lines.new()))
        return next((value for value in values if value is not None), None)

    def close(self) -> None:
        """Let go of the port."""
        self._lines.close()


class LogMeter:
    """A log that a logger's own program writes line by line: its last whole line is what it measures now.

    What stands there from long before it was opened is no measurement of now.
    """

    def __init__(self, kind: MeterKind, path: Path, like: str = "") -> None:
        self._kind, self._path, self._like, self._size, self.heard = kind, path, like, -1, ""
        size = self._look()
        if time.time() - path.stat().st_mtime > _OLD_S:
            self._size = size

    def read(self) -> float | None:
        """The value of the last line, where the log has grown since the last time."""
        size = self._look()
        if size == self._size:
            return None
        self._size = size
        try:
            with self._path.open("rb") as log:
                log.seek(max(0, size - _MOST_OF_LOG))
                lines = log.read(_MOST_OF_LOG).decode("utf-8", errors="replace").splitlines(keepends=True)
        except OSError as error:
            raise NotPluggedInError(str(self._path), self._kind) from error
        whole = [line.strip() for line in lines if line.endswith(("\n", "\r")) and line.strip()]
        self.heard = whole[-1][:200] if whole else self.heard
        # A row of a table: its last column is what was measured, the first is when.
        cells = _cells(whole[-1]) if whole else []
        values = (value_of(cell, self._kind, self._like) for cell in reversed(cells))
        return next((value for value in values if value is not None), None)

    def close(self) -> None:
        """Nothing is held."""

    def _look(self) -> int:
        try:
            return self._path.stat().st_size
        except OSError as error:
            raise NotPluggedInError(str(self._path), self._kind) from error


class SimulatedMeter:
    """Calipers that close on a size, or a probe that becomes as warm as what it is in."""

    def __init__(self, kind: MeterKind) -> None:
        from orvek.devices.simulated import caliper_line, closing, probe_line

        self._kind, self.heard = kind, ""
        self._values = closing(_SIMULATED_AT[kind])
        self._line = caliper_line if kind == "caliper" else probe_line

    def read(self) -> float | None:
        """The next of its lines."""
        self.heard = self._line(next(self._values)).decode().strip()
        return value_of(self.heard, self._kind)

    def close(self) -> None:
        """Nothing is held."""


def _cells(row: str) -> list[str]:
    """The columns of a row, whether they are parted by semicolons, tabs or commas; a decimal comma parts none.

    >>> _cells("18:00,21.5"), _cells("18:00;21,5"), _cells("21,5 C"), _cells("18:00,21")
    (['18:00', '21.5'], ['18:00', '21,5'], ['21,5 C'], ['18:00', '21'])
    """
    if ";" in row or "\t" in row:
        return re.split(r"[;\t]", row)
    parts = row.split(",")
    is_parted = "." in row or len(parts) > 2 or ":" in parts[0]
    return parts if is_parted else [row]


def open_meter(kind: MeterKind, place: str, baud: int, like: str = "") -> Meter:
    """Calipers or a thermometer at a port such as /dev/ttyUSB0, in a log such as /home/me/log.csv, or simulated.

    Raises:
        NotPluggedInError: nothing that can be read is there.
    """
    if place == SIMULATED:
        return SimulatedMeter(kind)
    path = Path(place)
    if place and path.is_file():
        return LogMeter(kind, path, like)
    return SerialMeter(kind, place, baud, like)
