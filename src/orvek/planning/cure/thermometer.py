"""A thermometer's log as text: times and temperatures in two columns, whatever stands around them.

Gaps and columns that look like °F are said, not silently mended.
"""

from __future__ import annotations

import itertools
import re
from statistics import median

from msgspec import Struct

from orvek.errors import NotUnderstoodError
from orvek.quantities import decimal

MOST_LINES = 100_000  # a reading every ten seconds for more than a week
_GAP = 5.0  # times the usual step
_ROOM_C = 45.0  # no cup begins hotter than this: then the column is in °F


class ThermometerLog(Struct, frozen=True):
    """What a log shows: its hottest moment, and what is odd about it."""

    peak_c: float
    peak_min: float
    warnings: tuple[str, ...]


def thermometer_log(text: str) -> ThermometerLog:
    """Read a log; lines that are not a time and a temperature are passed over.

    Times are minutes, or hours and minutes with colons; temperatures may have a comma, and °F after them.

    Raises:
        NotUnderstoodError: fewer than three lines can be read.
    """
    lines = text.splitlines()
    if len(lines) > MOST_LINES:
        raise NotUnderstoodError(f"{len(lines)} lines", f"a log of a casting: it may have {MOST_LINES} lines")
    rows = [row for row in map(_row, lines) if row is not None]
    if len(rows) < 3:
        raise NotUnderstoodError(text.strip()[:40], "a log: it has fewer than three lines of a time and a temperature")
    warnings = []
    skipped = sum(1 for line in lines if line.strip()) - len(rows)
    if skipped > 1:
        warnings.append(f"{skipped} lines of the log could not be read.")
    temperatures = [t for _, t in rows]
    if temperatures[0] > _ROOM_C and "°F" not in text:
        warnings.append(f"The log begins at {decimal(temperatures[0])}; that looks like °F, and was taken as °F.")
        temperatures = [(t - 32) / 1.8 for t in temperatures]
    elif "°F" in text:
        temperatures = [(t - 32) / 1.8 for t in temperatures]
    steps = [b[0] - a[0] for a, b in itertools.pairwise(rows)]
    if min(steps) < 0:
        warnings.append("Some times in the log go backwards.")
    usual = median(step for step in steps if step > 0) if any(step > 0 for step in steps) else 0.0
    widest = max(steps)
    if usual > 0 and widest > _GAP * usual:
        warnings.append(f"It has a gap of {decimal(widest)} min: the hottest moment may lie in it.")
    hottest = max(range(len(rows)), key=lambda n: temperatures[n])
    return ThermometerLog(temperatures[hottest], rows[hottest][0] - rows[0][0], tuple(warnings))


def _row(line: str) -> tuple[float, float] | None:
    parts = [part for part in re.split(r"[;\t ]+|,(?=\s|\D)|(?<=\d),(?=\d+[.,:;])", line.strip()) if part]
    if len(parts) == 1:
        parts = line.strip().split(",")
    if len(parts) < 2:
        return None
    time, temperature = _minutes(parts[0]), _number(parts[1])
    return None if time is None or temperature is None else (time, temperature)


def _minutes(text: str) -> float | None:
    if re.fullmatch(r"\d+(:\d{1,2}){1,2}", text):
        parts = [float(part) for part in text.split(":")]
        return parts[0] * 60 + parts[1] + (parts[2] / 60 if len(parts) > 2 else 0)
    return _number(text)


def _number(text: str) -> float | None:
    found = re.fullmatch(r"(-?\d+(?:[.,]\d+)?)\s*(?:°?[CF])?", text.strip().strip('"'))
    return float(found.group(1).replace(",", ".")) if found else None
