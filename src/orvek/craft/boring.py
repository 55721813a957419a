"""Boring: which bit a tube wants, and how much room its glue has."""

from __future__ import annotations

from orvek.quantities import Bit, bits

LEAST_CLEARANCE_MM = 0.05  # workshop practice, as all four: glue wants room
MOST_CLEARANCE_MM = 0.20  # beyond it the glue line thickens
LOOSE_CLEARANCE_MM = 0.40  # from here on thick epoxy or a sleeve
UNDERSIZE_MM = 0.02  # what a reamed or worn bit still gives


def bit_for_tube(tube_diameter_mm: float) -> Bit | None:
    """The smallest common bit with tube + 0.05 <= d <= tube + 0.20 mm, or None where none is sold.

    Metric steps win over fractions, letters and numbers of the same fit within 0.03 mm.

    >>> bit_for_tube(6.9).name
    '7 mm'
    """
    low, high = tube_diameter_mm + LEAST_CLEARANCE_MM - 1e-9, tube_diameter_mm + MOST_CLEARANCE_MM + 1e-9
    fitting = [bit for bit in bits() if low <= bit.diameter_mm <= high]
    if not fitting:
        return None
    near = [bit for bit in fitting if bit.diameter_mm <= fitting[0].diameter_mm + 0.03]
    return next((bit for bit in near if bit.series == "metric"), fitting[0])
