"""Water in wood: how much there is, how much the shop's air leaves in it, and how wood shrinks as it goes.

Moisture content is in % of the oven-dry mass (ISO 13061-1, ASTM D4442).
"""

from __future__ import annotations

import math

FIBRE_SATURATION_PCT = 30.0  # above it wood neither shrinks nor swells (USDA Wood Handbook)
MOST_HUMIDITY_PCT = 98.0  # beyond it the equation of the equilibrium means nothing
_BASIS_PCT = 10.0  # the moisture at which the size is measured from which a change counts (USDA Wood Handbook)


def moisture_pct(mass_g: float, dry_g: float) -> float:
    """Moisture content: 100 · (m − m_dry) / m_dry.

    >>> round(moisture_pct(40.0, 35.5), 2)
    12.68
    """
    return 100 * (mass_g - dry_g) / dry_g


def equilibrium_pct(air_c: float, humidity_pct: float) -> float:
    """Moisture that wood comes to in air of so many °C and % humidity (Hailwood and Horrobin).

    Source: USDA Wood Handbook, eq. 4-5, coefficients for °C; good to 1 to 2 % by species, −1 to 130 °C.

    >>> round(equilibrium_pct(21.1, 65), 2)
    11.96
    """
    t = air_c
    return _hailwood(
        humidity_pct / 100,
        349 + 1.29 * t + 0.0135 * t**2,
        0.805 + 0.000736 * t - 0.00000273 * t**2,
        6.27 - 0.00938 * t - 0.000303 * t**2,
        1.91 + 0.0407 * t - 0.000293 * t**2,
    )


def _hailwood(h: float, w: float, k: float, k1: float, k2: float) -> float:
    kh = k * h
    bound = (k1 * kh + 2 * k1 * k2 * kh**2) / (1 + k1 * kh + k1 * k2 * kh**2)
    return 1800 / w * (kh / (1 - kh) + bound)


def dry_density_g_ml(basic_g_ml: float, shrinks_pct: float) -> float:
    """Oven-dry density from the basic one (dry mass over green volume) and the whole shrinkage in volume. Derived.

    >>> round(dry_density_g_ml(0.56, 14.7), 3)
    0.657
    """
    return basic_g_ml / (1 - shrinks_pct / 100)


def shrunk_pct(whole_pct: float, moisture: float) -> float:
    """Shrinkage from green to a moisture below 30 %: S0 · (30 − M) / 30. USDA Wood Handbook, eq. 4-7."""
    return whole_pct * max(0.0, FIBRE_SATURATION_PCT - moisture) / FIBRE_SATURATION_PCT


def change_mm(size_mm: float, whole_pct: float, from_pct: float, to_pct: float) -> float:
    """How much a size changes between two moistures: D · C · (M_to − M_from), C on a basis of 10 %.

    Source: USDA Wood Handbook, eq. 4-8; meant for 6 to 14 %.

    >>> round(change_mm(20, 9.9, 12, 7), 3)
    -0.353
    """
    per_pct = whole_pct / 3000
    return size_mm * per_pct / (1 - per_pct * 2 * _BASIS_PCT) * (to_pct - from_pct)


def weigh_apart_h(step_g: float, mass_g: float, rate_per_h: float) -> float:
    """How far apart two weighings must lie so that a scale shows a rate to two of its steps: 2 d / (r m). Derived.

    >>> round(weigh_apart_h(0.1, 30, 0.001), 2)
    6.67
    """
    return 2 * step_g / (rate_per_h * mass_g) if rate_per_h > 0 and mass_g > 0 else math.inf
