"""What kinds of quantity Orvek speaks of, the unit each has inside, and what the maker prefers to read.

Inside the program a length is always in mm, a mass in g, a volume in ml, an angle in degrees, a temperature
in °C, a pressure in bar and a duration in minutes. Only reading.py and writing.py know any other unit.
"""

from __future__ import annotations

from enum import StrEnum
from typing import Literal

MM_PER_INCH = 25.4  # exact by definition, ISO 80000-3
BAR_PER_PSI = 0.0689475729  # from the avoirdupois pound and standard gravity, NIST SP 811


_mark = "."


def use_decimal_mark(mark: str) -> None:
    """Write numbers with this mark from now on: the system's, told once when the program starts.

    What is read may have either. Whoever writes for programs (JSON, SVG, job files) writes points and does not ask.
    """
    global _mark
    _mark = "," if mark in {",", "٫"} else "."


def decimal_mark() -> str:
    """The mark between a number and its decimals, a point or a comma."""
    return _mark


class Dimension(StrEnum):
    """A kind of quantity; its value is the unit it has inside the program."""

    LENGTH = "mm"
    MASS = "g"
    VOLUME = "ml"
    ANGLE = "°"
    TEMPERATURE = "°C"
    PRESSURE = "bar"
    DURATION = "min"
    CLOCK = "hour of the day"
    PERCENT = "%"
    DENSITY = "g/ml"
    MONEY = "money"
    PRICE = "money/kg"
    RATIO = "ratio"
    FRACTION = "fraction"
    COUNT = "count"
    ALTITUDE = "m"
    TURNS = "rpm"
    DROP = "mg"
    FORCE = "kN"
    ENERGY = "kJ"
    STRESS = "MPa"
    GRAIN = "µm"


LengthUnit = Literal["mm", "inch fraction", "inch decimal"]
TemperatureUnit = Literal["°C", "°F"]
PressureUnit = Literal["bar", "psi"]
