"""Writing quantities as the maker prefers them: `41.3 g`, `18.4 mm`, `19/64 in`, `letter J`, `2 h 30 min`.

Values come in the program's own units. The number of digits is what a bench can measure, not what a
float can hold; `exact` writes the full value for a working.
"""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.quantities.bits import SAME_BIT_MM, bit_of_size
from orvek.quantities.units import (
    BAR_PER_PSI,
    MM_PER_INCH,
    Dimension,
    LengthUnit,
    PressureUnit,
    TemperatureUnit,
    decimal_mark,
)

NO_VALUE = "–"
_FRACTION_STEPS = 64


class Units(Struct, frozen=True):
    """How the maker likes to read and type quantities.

    A bare number typed into a length field is in the length unit chosen here; a unit typed after the
    number always wins. `bit_names` writes a drill bit by its letter or number where it has one.
    """

    length: LengthUnit = "mm"
    temperature: TemperatureUnit = "°C"
    pressure: PressureUnit = "bar"
    bit_names: bool = False
    currency: str = "€"

    def mm(self, value: float, digits: int | None = None) -> str:
        """A length in the maker's words."""
        return write(value, Dimension.LENGTH, self, digits)

    def g(self, value: float, digits: int | None = None) -> str:
        """A mass in the maker's words."""
        return write(value, Dimension.MASS, self, digits)

    def ml(self, value: float) -> str:
        """A volume in the maker's words, without decimals."""
        return write(value, Dimension.VOLUME, self, 0)

    def pct(self, value: float, digits: int = 1) -> str:
        """A percentage in the maker's words."""
        return write(value, Dimension.PERCENT, self, digits)

    def minutes(self, value: float) -> str:
        """A duration in the maker's words."""
        return write(value, Dimension.DURATION, self)

    def bar(self, value: float, digits: int | None = None) -> str:
        """A pressure in the maker's words."""
        return write(value, Dimension.PRESSURE, self, digits)

    def kpa(self, value: float) -> str:
        """A small absolute pressure, given in kPa, in the maker's words."""
        return write(value / 100, Dimension.PRESSURE, self, 3)

    def degrees_c(self, value: float) -> str:
        """A temperature in the maker's words."""
        return write(value, Dimension.TEMPERATURE, self)

    def bit(self, diameter_mm: float) -> str:
        """A drill bit in the maker's words."""
        return write_bit(diameter_mm, self)


def write(value: float | None, dimension: Dimension, units: Units | None = None, digits: int | None = None) -> str:
    """Write a value with its unit.

    Args:
        value: in the program's unit of `dimension`; None or a value that is no number gives a dash.
        dimension: what it is.
        units: the maker's preferences; metric when left out.
        digits: decimals to show instead of the usual ones; a length asked for with two and more is written in
            decimal inches even where the maker prefers fractions, which could not show it.

    >>> write(7.540625, Dimension.LENGTH, Units(length="inch fraction"))
    '19/64 in'
    >>> write(150.0, Dimension.DURATION)
    '2 h 30 min'
    """
    if value is None or not math.isfinite(value):
        return NO_VALUE
    units = units or Units()
    match dimension:
        case Dimension.LENGTH:
            return _length(value, units, digits)
        case Dimension.TEMPERATURE if units.temperature == "°F":
            return f"{_fixed(value * 9 / 5 + 32, digits or 0)} °F"
        case Dimension.PRESSURE if units.pressure == "psi":
            return f"{_fixed(value / BAR_PER_PSI, digits or 0)} psi"
        case Dimension.DURATION:
            return _duration(value)
        case Dimension.CLOCK:
            minutes = round(value * 60)
            return f"{minutes // 60:02d}:{minutes % 60:02d}"
        case Dimension.MONEY:
            return f"{'−' if value < -0.004 else ''}{units.currency}{_fixed(abs(value), 2)}"
        case Dimension.PRICE:
            return f"{units.currency}{_fixed(value, 2)} a kg"
        case Dimension.COUNT:
            return f"{round(value)}"
        case Dimension.RATIO | Dimension.FRACTION:
            return _trimmed(value, 4 if digits is None else digits)
        case Dimension.ANGLE:
            return f"{_fixed(value, 1 if digits is None else digits)}°"
        case Dimension.PERCENT:
            return f"{_trimmed(value, 2 if digits is None else digits)} %"
        case _:
            return f"{_fixed(value, _usual_digits(dimension) if digits is None else digits)} {dimension.value}"


def write_sizes(values_mm: tuple[float, ...], units: Units | None = None) -> str:
    """Write the sizes of a body with their unit once.

    >>> write_sizes((20.0, 20.0, 132.5))
    '20 × 20 × 132.5 mm'
    """
    units = units or Units()
    unit = "mm" if units.length == "mm" else "in"
    parts = [
        write(value, Dimension.LENGTH, units).removesuffix(f" {unit}").removesuffix(f"{decimal_mark()}0")
        for value in values_mm
    ]
    return f"{' × '.join(parts)} {unit}"


def write_bit(diameter_mm: float, units: Units | None = None) -> str:
    """Write a drill bit: by its letter or number when the maker asked for that and it has one.

    A metric bit keeps its millimetres for makers who read inches: that is what is stamped on it.
    """
    units = units or Units()
    bit = bit_of_size(diameter_mm) if units.bit_names else None
    if bit:
        return bit.name
    sixty_fourths = diameter_mm / MM_PER_INCH * _FRACTION_STEPS
    is_fraction = abs(sixty_fourths - round(sixty_fourths)) * MM_PER_INCH / _FRACTION_STEPS < SAME_BIT_MM
    if units.length == "inch fraction" and is_fraction:
        return _inch_fraction(diameter_mm)
    if units.length != "mm" and abs(diameter_mm - round(diameter_mm, 1)) < SAME_BIT_MM and not is_fraction:
        return f"{_trimmed(diameter_mm, 1)} mm"
    return write(diameter_mm, Dimension.LENGTH, units, digits=2)


def exact(value: float, dimension: Dimension, units: Units | None = None) -> str:
    """Write a value with more digits than the bench can use, for the arithmetic in a working."""
    units = units or Units()
    if dimension is Dimension.LENGTH and units.length != "mm":
        return f"{_trimmed(value / MM_PER_INCH, 4)} in"
    if dimension is Dimension.DURATION:
        return f"{_trimmed(value, 2)} min"
    if dimension is Dimension.PERCENT:
        return f"{_trimmed(value, 3)} %"
    if dimension in {Dimension.MASS, Dimension.VOLUME, Dimension.LENGTH, Dimension.DENSITY}:
        return f"{_trimmed(value, 3)} {dimension.value}"
    return write(value, dimension, units)


def _usual_digits(dimension: Dimension) -> int:
    return {
        Dimension.MASS: 1,
        Dimension.VOLUME: 1,
        Dimension.TEMPERATURE: 0,
        Dimension.PRESSURE: 1,
        Dimension.DENSITY: 2,
        Dimension.ALTITUDE: 0,
        Dimension.TURNS: 0,
        Dimension.DROP: 1,
        Dimension.FORCE: 1,
        Dimension.ENERGY: 1,
        Dimension.STRESS: 1,
        Dimension.GRAIN: 1,
    }[dimension]


def _length(value_mm: float, units: Units, digits: int | None) -> str:
    fine = digits is not None and digits >= 2
    inches = value_mm / MM_PER_INCH
    # A fraction that would come out as nothing is told in decimals, and those with as many as it takes.
    if units.length == "inch fraction" and not fine and (value_mm == 0 or abs(inches) >= 1 / 128):
        return _inch_fraction(value_mm)
    if units.length != "mm":
        return f"{_fixed(inches, 3 if value_mm == 0 or abs(inches) >= 0.0005 else 5)} in"
    return f"{_fixed(value_mm, 1 if digits is None else digits)} mm"


def _inch_fraction(value_mm: float) -> str:
    """The nearest 1/64 inch; 0 only for what is nearer to 0 than to 1/64."""
    sign = "−" if value_mm < 0 else ""
    steps = round(abs(value_mm) / MM_PER_INCH * _FRACTION_STEPS)
    whole, top = divmod(steps, _FRACTION_STEPS)
    bottom = _FRACTION_STEPS
    while top and top % 2 == 0:
        top, bottom = top // 2, bottom // 2
    if not top:
        return f"{sign if whole else ''}{whole} in"
    return f"{sign}{f'{whole} ' if whole else ''}{top}/{bottom} in"


def _duration(minutes: float) -> str:
    sign = "−" if minutes < 0 else ""
    minutes = abs(minutes)
    if minutes < 10 and abs(minutes - round(minutes)) > 0.01:
        seconds = round(minutes * 60)
        whole, rest = divmod(seconds, 60)
        return f"{sign}{f'{whole} min ' if whole else ''}{rest} s" if rest else f"{sign}{whole} min"
    whole = round(minutes)
    hours, rest = divmod(whole, 60)
    if hours == 0:
        return f"{sign}{rest} min"
    return f"{sign}{hours} h {rest} min" if rest else f"{sign}{hours} h"


def write_price(value: float, units: Units | None = None) -> str:
    """Write money for a label: its thousands apart, by the mark that the maker's decimal mark is not.

    >>> write_price(1450), write_price(95.5)
    ('€1,450.00', '€95.50')
    """
    own = {",": "." if decimal_mark() == "," else ",", ".": decimal_mark()}
    return f"{(units or Units()).currency}{''.join(own.get(mark, mark) for mark in f'{value:,.2f}')}"


def decimal(value: float, digits: int | None = None) -> str:
    """Write a bare number with the decimal mark of the maker's system: all its digits, or so many decimals.

    >>> decimal(2.50), decimal(2.5, 2)
    ('2.5', '2.50')
    """
    return f"{value:g}".replace(".", decimal_mark()) if digits is None else _fixed(value, digits)


def _fixed(value: float, digits: int) -> str:
    text = f"{value:.{digits}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−").replace(".", decimal_mark())


def _trimmed(value: float, digits: int) -> str:
    text, mark = _fixed(value, digits), decimal_mark()
    return text.rstrip("0").rstrip(mark) if mark in text else text
