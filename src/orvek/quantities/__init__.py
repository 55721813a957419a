"""Reading and writing lengths, masses, volumes, angles, temperatures, pressures, durations and money."""

from orvek.quantities.bits import Bit, bit_named, bit_of_size, bits
from orvek.quantities.reading import read, read_bit
from orvek.quantities.units import MM_PER_INCH, Dimension, LengthUnit, PressureUnit, TemperatureUnit, Units
from orvek.quantities.writing import NO_VALUE, exact, write, write_bit, write_sizes

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
    "exact",
    "read",
    "read_bit",
    "write",
    "write_bit",
    "write_sizes",
]
