"""Reading and writing lengths, masses, volumes, angles, temperatures, pressures, durations and money."""

from orvek.quantities.bits import Bit, bit_named, bit_of_size, bits
from orvek.quantities.moments import later, minutes_between, write_date, write_day, write_moment, write_month_day
from orvek.quantities.reading import read, read_bit
from orvek.quantities.units import (
    MM_PER_INCH,
    Dimension,
    LengthUnit,
    PressureUnit,
    TemperatureUnit,
    decimal_mark,
    use_decimal_mark,
)
from orvek.quantities.writing import NO_VALUE, Units, decimal, exact, write, write_bit, write_price, write_sizes

__all__ = [
    "MM_PER_INCH",
    "NO_VALUE",
    "Bit",
    "Dimension",
    "LengthUnit",
    "PressureUnit",
    "TemperatureUnit",
    "Units",
    "bit_named",
    "bit_of_size",
    "bits",
    "decimal",
    "decimal_mark",
    "exact",
    "later",
    "minutes_between",
    "read",
    "read_bit",
    "use_decimal_mark",
    "write",
    "write_bit",
    "write_date",
    "write_day",
    "write_moment",
    "write_month_day",
    "write_price",
    "write_sizes",
]
