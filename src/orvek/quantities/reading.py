"""Reading what makers type: `19/64`, `1 1/2 in`, `9.7mm`, `0.41"`, `75F`, `2 h 30`, `1,5 %`.

`read(text, dimension, units)` gives the value in the program's own unit of that dimension or raises one
sentence. Pint converts whatever unit stands behind a number; it loads when the first unit is typed.
"""

from __future__ import annotations

import math
import re
from functools import cache
from typing import TYPE_CHECKING

from orvek.errors import NotUnderstoodError
from orvek.quantities.bits import bit_named
from orvek.quantities.units import Dimension
from orvek.quantities.writing import Units

if TYPE_CHECKING:
    import pint

WANTED = {
    Dimension.LENGTH: "a length like 9.7 mm, 19/64 or 1 1/2 in",
    Dimension.MASS: "a mass like 41.3 g or 1.5 oz",
    Dimension.VOLUME: "a volume like 250 ml",
    Dimension.ANGLE: "an angle like 22.5°",
    Dimension.TEMPERATURE: "a temperature like 21 °C or 70 °F",
    Dimension.PRESSURE: "a pressure like 4 bar or 60 psi",
    Dimension.DURATION: "a time like 35 min or 2 h 30",
    Dimension.CLOCK: "a time of day like 18:30",
    Dimension.PERCENT: "a percentage like 1.5 %",
    Dimension.DENSITY: "a density like 1.09 g/ml",
    Dimension.MONEY: "an amount of money like 24.50",
    Dimension.PRICE: "a price a kilogram like 24.50",
    Dimension.RATIO: "a number like 2 or 1.5",
    Dimension.FRACTION: "a fraction like 0.15 or 15 %",
    Dimension.COUNT: "a whole number",
    Dimension.ALTITUDE: "a height like 250 m",
    Dimension.DROP: "a mass like 25 mg",
    Dimension.TURNS: "a speed like 1200 rpm",
    Dimension.FORCE: "a force like 4.2 kN",
    Dimension.ENERGY: "an energy like 3.1 kJ",
    Dimension.STRESS: "a stress like 1.2 MPa",
    Dimension.GRAIN: "a thickness like 15 µm",
}

_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
_NUMBER = r"\d+(?:[.,]\d+)*|[.,]\d+"
_TERM = re.compile(
    rf"\s*(?:(?P<whole>\d+)(?:\s+|\s*-\s*|(?=\s*\+))\+?\s*)?(?P<top>\d+)\s*/\s*(?P<bottom>\d+)|\s*(?P<plain>{_NUMBER})"
)
_UNIT = re.compile(r"\s*(?P<unit>[A-Za-zµ°'\"″′%€$£]+\.?(?:\s*/\s*[A-Za-z]+[3³]?)?(?:\s+oz\b)?)?")

# Spellings that Pint does not know or reads as something else. Case is folded before looking here.
_SPELLINGS = {
    Dimension.LENGTH: {
        '"': "inch", "″": "inch", "''": "inch", "in.": "inch", "'": "foot", "′": "foot",
        "thou": "thousandth_inch", "mil": "thousandth_inch",
    },
    Dimension.MASS: {"grams": "gram", "gr": "gram", "lbs": "pound"},
    Dimension.VOLUME: {"cc": "ml", "floz": "fluid_ounce", "fl oz": "fluid_ounce", "l": "litre"},
    Dimension.ANGLE: {"°": "degree", "deg": "degree"},
    Dimension.TEMPERATURE: {
        "°c": "degC", "c": "degC", "deg c": "degC", "°f": "degF", "f": "degF", "k": "kelvin"
    },
    Dimension.PRESSURE: {"inhg": "inHg"},
    Dimension.DURATION: {"h": "hour", "hr": "hour", "hrs": "hour", "m": "minute", "min": "minute", "mins": "minute",
                         "s": "second", "sec": "second", "d": "day"},
    Dimension.DENSITY: {"g/cc": "g/ml", "g/cm3": "g/ml", "g/cm³": "g/ml", "kg/m3": "kg/m**3", "kg/m³": "kg/m**3"},
}  # fmt: skip
_NOT_UNITS = {"am", "pm", "em", "fm", "ym", "zm"}  # Pint reads them as attometres and the like; nobody types those
_PINT_UNIT = {
    Dimension.LENGTH: "mm",
    Dimension.MASS: "g",
    Dimension.VOLUME: "ml",
    Dimension.ANGLE: "degree",
    Dimension.TEMPERATURE: "degC",
    Dimension.PRESSURE: "bar",
    Dimension.DURATION: "minute",
    Dimension.DENSITY: "g/ml",
    Dimension.ALTITUDE: "m",
    Dimension.DROP: "mg",
    Dimension.TURNS: "rpm",
    Dimension.FORCE: "kN",
    Dimension.ENERGY: "kJ",
    Dimension.STRESS: "MPa",
    Dimension.GRAIN: "um",
}
_BARE_UNIT = {"inch fraction": "inch", "inch decimal": "inch", "°F": "degF", "psi": "psi"}
# What a smaller second part means when its unit is left out: 2 h 30 is thirty minutes.
_NEXT_UNIT = {"hour": "minute", "minute": "second", "foot": "inch", "day": "hour"}


def read(text: str, dimension: Dimension, units: Units | None = None) -> float:
    """Read `text` as a quantity.

    Args:
        text: what the maker typed. Decimal comma or point; a fraction of an inch may stand without its
            unit; several parts add up (`2 h 30`, `1 ft 2 in`).
        dimension: what the field asks for.
        units: the maker's preferences, for a number without a unit. Metric when left out.

    Returns:
        The value in the program's unit of `dimension` (`Dimension.value`).

    Raises:
        NotUnderstoodError: nonsense, a unit of another kind, or a number too large to mean anything.

    >>> round(read("19/64", Dimension.LENGTH), 4)
    7.5406
    >>> read("2 h 30", Dimension.DURATION)
    150.0
    """
    units = units or Units()
    clean = _tidied(text)
    try:
        value = _hour(clean) if dimension is Dimension.CLOCK else _sum_of_parts(clean, dimension, units)
    except (ValueError, ZeroDivisionError, OverflowError) as error:
        raise NotUnderstoodError(text, WANTED[dimension]) from error
    if not math.isfinite(value) or abs(value) > 1e12:
        raise NotUnderstoodError(text, WANTED[dimension])
    if dimension is Dimension.COUNT and value != int(value):
        raise NotUnderstoodError(text, WANTED[dimension])
    return value


def read_bit(text: str, units: Units | None = None) -> float:
    """Read a drill bit: `letter J`, `U`, `#30`, or any length. Returns its diameter in mm."""
    bit = bit_named(text)
    return bit.diameter_mm if bit else read(text, Dimension.LENGTH, units)


def _tidied(text: str) -> str:
    for glyph, plain in _VULGAR.items():
        text = text.replace(glyph, f" {plain}")
    text = text.replace("−", "-").replace("⁄", "/").replace("’", "'").replace("”", '"').replace("º", "°")
    return re.sub(r"\s+", " ", text).strip()


def _sum_of_parts(text: str, dimension: Dimension, units: Units) -> float:
    sign = -1.0 if text.startswith("-") else 1.0
    rest = text[1:].lstrip() if text[:1] in {"-", "+"} else text
    if dimension is Dimension.DURATION and (clock := re.fullmatch(r"(\d{1,3}):([0-5]\d)", rest)):
        return sign * (60.0 * int(clock[1]) + int(clock[2]))
    if dimension in {Dimension.MONEY, Dimension.PRICE}:
        rest = rest.lstrip("€$£ ")
    total, previous, position, parts = 0.0, None, 0, 0
    while position < len(rest):
        term = _TERM.match(rest, position)
        if term is None:
            raise ValueError("no number here")
        number, is_fraction = _number(term)
        unit_match = _UNIT.match(rest, term.end())
        unit = unit_match["unit"] if unit_match else None
        position = unit_match.end() if unit_match else term.end()
        if unit is None and parts:
            unit = _NEXT_UNIT.get(previous or "")
            if unit is None:
                raise ValueError("two numbers in a row")
        name = _unit_name(unit, dimension, units, is_fraction)
        total += _in_own_unit(sign * number, name, dimension)
        previous, parts = name, parts + 1
    if parts == 0 or (parts > 1 and dimension not in {Dimension.DURATION, Dimension.LENGTH, Dimension.MASS}):
        raise ValueError("not one value")
    return total


def _hour(text: str) -> float:
    """A time of day as hours: 18:30, 18.5, 18 h, 6 pm."""
    found = re.fullmatch(r"(\d{1,2})(?:[:.h](\d{2}))?\s*(h|am|pm)?", text.casefold())
    plain = re.fullmatch(r"\d{1,2}[.,]\d", text)
    if plain is not None:
        return float(text.replace(",", "."))
    if found is None:
        raise ValueError("no time of day")
    hour, minute = int(found[1]), int(found[2] or 0)
    if found[3] == "pm" and hour < 12:
        hour += 12
    elif found[3] == "am" and hour == 12:
        hour = 0
    if hour > 24 or minute > 59:
        raise ValueError("no time of day")
    return hour + minute / 60


def _number(term: re.Match[str]) -> tuple[float, bool]:
    if term["plain"] is None:
        return int(term["whole"] or 0) + int(term["top"]) / int(term["bottom"]), True
    plain = term["plain"]
    marks = [mark for mark in plain if mark in ".,"]
    if len(set(marks)) == 2 and marks.count(marks[-1]) == 1:
        plain = plain.replace("," if marks[-1] == "." else ".", "")
    elif len(marks) > 1:
        raise ValueError("more than one decimal mark")
    return float(plain.replace(",", ".")), False


def _unit_name(unit: str | None, dimension: Dimension, units: Units, is_fraction: bool) -> str | None:
    """Pint's name of the unit, or None for the program's own unit."""
    if unit is None:
        preferred = {
            Dimension.LENGTH: "inch fraction" if is_fraction else units.length,
            Dimension.TEMPERATURE: units.temperature,
            Dimension.PRESSURE: units.pressure,
        }.get(dimension, "")
        return _BARE_UNIT.get(preferred)
    folded = unit.strip().casefold()
    return _SPELLINGS.get(dimension, {}).get(folded, unit.strip().rstrip("."))


def _in_own_unit(number: float, unit: str | None, dimension: Dimension) -> float:
    if unit is None or unit == dimension.value:
        return number
    if dimension not in _PINT_UNIT:
        return _without_pint(number, unit.casefold(), dimension)
    if unit == "thousandth_inch":
        return number * 0.0254
    registry = _registry()
    if unit.casefold() in _NOT_UNITS:
        raise ValueError(f"{unit} is not a unit of this")
    try:
        quantity = registry.Quantity(number, registry.Unit(unit))
        return float(quantity.to(_PINT_UNIT[dimension]).magnitude)
    except Exception as error:
        # Pint raises many kinds for a word it cannot parse; to the maker they are all "not a unit".
        raise ValueError(f"{unit} is not a unit of this") from error


def _without_pint(number: float, unit: str, dimension: Dimension) -> float:
    """Percentages, fractions, counts and money have no unit to convert, only words to accept."""
    if dimension is Dimension.FRACTION and unit == "%":
        return number / 100.0
    accepted = {
        Dimension.PERCENT: {"%", "pct", "percent"},
        Dimension.MONEY: {"€", "$", "£"},
        Dimension.PRICE: {"€", "$", "£", "€/kg", "$/kg", "£/kg", "/kg"},
    }
    if unit in accepted.get(dimension, set()):
        return number
    raise ValueError(f"{unit} is not a unit of this")


@cache
def _registry() -> pint.UnitRegistry[float]:
    import pint  # half a second to load; only a typed unit needs it

    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
