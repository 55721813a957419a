"""Bubbles, pots and vacuum: what pressure does to gas, what a lid holds, when a liquid boils. kPa unless said.

Sources: Boyle; ISO 2533 standard atmosphere; Magnus' form for water; mechanics of a lid; Brode's energy of a vessel.
"""

from __future__ import annotations

import math

SEA_LEVEL_KPA = 101.325  # ISO 2533
KPA_PER_INHG = 3.38639  # definition, at 0 °C
SAFE_PART = 0.8  # of the rated pressure: workshop practice, never above
HEAD_ROOM = 4.0  # a vacuum vessel holds this many times the liquid: 4 to 5, workshop practice
GAUGE_ERROR_KPA = 3.0  # of a dial gauge, and the weather: workshop practice
ROOM_MM = 5.0  # around and above the moulds in a pot, to get them in and out


def air_kpa(altitude_m: float) -> float:
    """Pressure of the air (ISO 2533): 101.325·(1 − 2.25577e-5·h)^5.25588. The weather adds ±3."""
    return float(SEA_LEVEL_KPA * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


def left_kpa(altitude_m: float, gauge_kpa: float) -> float:
    """What a vacuum gauge leaves: p air − p gauge. Below about 3 kPa it is within the gauge's own error."""
    return air_kpa(altitude_m) - gauge_kpa


def water_vapour_kpa(temperature_c: float) -> float:
    """Where water boils (Magnus): 0.61094·exp(17.625·T/(T + 243.04))."""
    return 0.61094 * math.exp(17.625 * temperature_c / (temperature_c + 243.04))


def bubble_left(pressure_bar: float, air_bar: float = 1.01325) -> tuple[float, float]:
    """Volume and diameter of a bubble under gauge pressure, as parts of what they were (Boyle)."""
    volume = air_bar / (air_bar + pressure_bar)
    return volume, volume ** (1 / 3)


def vacuum_growth(left: float, air: float = SEA_LEVEL_KPA) -> tuple[float, float]:
    """How many times larger volume and diameter of a bubble become under vacuum (Boyle)."""
    return air / left, (air / left) ** (1 / 3)


def lid_force_kn(pressure_bar: float, diameter_mm: float) -> float:
    """Force on a lid: p·π·D²/4."""
    return pressure_bar * 1e5 * math.pi * (diameter_mm / 1000) ** 2 / 4 / 1000


def stored_kj(pressure_bar: float, volume_l: float) -> float:
    """Energy of the air in a vessel (Brode): p·V/(γ − 1)."""
    return pressure_bar * 1e5 * volume_l / 1000 / 0.4 / 1000


def gas_of_water(water_g: float) -> tuple[float, float]:
    """What water does to an isocyanate: ml of carbon dioxide at 20 °C, and g of NCO used up."""
    moles = water_g / 18.015
    return moles * 24060, moles * 2 * 42.02


def climb_mm(tension_n_m: float, density_kg_m3: float, angle_deg: float) -> float:
    """How far a liquid climbs a wall: √(γ/ρg)·√(2(1 − sin θ))."""
    return (
        1000 * math.sqrt(tension_n_m / (density_kg_m3 * 9.81)) * math.sqrt(2 * (1 - math.sin(math.radians(angle_deg))))
    )


def moulds_in_pot(sides_mm: tuple[float, float], height_mm: float, pot_mm: tuple[float, float]) -> tuple[int, int]:
    """How many moulds of a footprint stand in a round pot: side by side, and in layers on one another.

    Rows of rectangles in a circle, the best of both ways round; every row as long as its outer corners allow.

    Args:
        sides_mm: length and width of a mould's foot.
        height_mm: its height.
        pot_mm: inside diameter and height.
    """
    radius, tall = pot_mm[0] / 2 - ROOM_MM, pot_mm[1] - ROOM_MM
    layers = int(tall // height_mm) if height_mm > 0 else 0
    best = max(_in_circle(one, other, radius) for one, other in (sides_mm, sides_mm[::-1]))
    return best, layers


def boils_below_kpa(vapour_kpa_20: float, temperature_c: float) -> float:
    """With less air than this over it a liquid boils: its vapour pressure doubles every 12 K or so (an estimate).

    >>> boils_below_kpa(4.0, 32)
    8.0
    """
    return vapour_kpa_20 * 2 ** ((temperature_c - 20) / 12)


def _in_circle(long: float, wide: float, radius: float) -> int:
    """Rectangles with their length along x, in rows stacked along y about the middle."""
    if radius <= 0:
        return 0
    most = int(2 * radius // wide)
    return max((_in_rows(long, wide, radius, rows) for rows in range(1, most + 1)), default=0)


def _in_rows(long: float, wide: float, radius: float, rows: int) -> int:
    count = 0
    for row in range(rows):
        edge = max(abs(row - rows / 2), abs(row + 1 - rows / 2)) * wide
        if edge < radius:
            count += int(2 * math.sqrt(radius**2 - edge**2) // long)
    return count
