"""Resin and dye into wood: how much room there is, how much to buy, how far it gets, and what the oven then takes."""

from __future__ import annotations

import math
from functools import lru_cache

CELL_WALL_G_ML = 1.50  # of wood without its voids, as a gas sees it; 1.54 as water does (textbook, medium)
# A bar in an oven: textbook and estimated; together they spread the time by half to nearly double.
CONDUCTS_W_MK, DENSITY_KG_M3, HEAT_J_KGK = 0.20, 1100.0, 1600.0
STILL_W_M2K, FAN_W_M2K = 12.0, 25.0
SURE_TIMES = 1.8  # what the calculated time is multiplied by where nobody measured a core
_TERMS = 14


def void_part(dry_g_ml: float) -> float:
    """Part of oven-dry wood that is air: 1 − ρ / 1.50. Textbook."""
    return max(0.0, 1 - dry_g_ml / CELL_WALL_G_ML)


def void_part_moist(density_g_ml: float, moisture: float) -> float:
    """The same with water in it: 1 − G (1/1.50 + M/100), G the dry mass over the volume as it is. Derived.

    >>> round(void_part_moist(0.5, 12), 3)
    0.607
    """
    return max(0.0, 1 - density_g_ml * (1 / CELL_WALL_G_ML + moisture / 100))


def most_uptake_pct(dry_g_ml: float, resin_g_ml: float) -> float:
    """The most that dry wood can take up, in % of its dry mass: 100 ρ_r (1/ρ − 1/1.50). Textbook.

    >>> round(most_uptake_pct(0.45, 1.03), 1)
    160.2
    """
    return 100 * resin_g_ml * max(0.0, 1 / dry_g_ml - 1 / CELL_WALL_G_ML)


def of_possible_pct(dry_g: float, after_g: float, most_pct: float) -> float:
    """What was taken up, in % of the most there could be."""
    return 100 * (after_g - dry_g) / (most_pct / 100 * dry_g) if most_pct > 0 else math.inf


def bath_ml(wood_ml: float, floor_mm2: float, stack_mm: float, cover_mm: float) -> float:
    """Resin that stands round and over the wood: A (h + c) − V wood. What it drinks comes on top. Derived.

    Args:
        wood_ml: of all pieces.
        floor_mm2: of the chamber.
        stack_mm: how high the pieces stand.
        cover_mm: over them.
    """
    return max(0.0, floor_mm2 * (stack_mm + cover_mm) / 1000 - wood_ml)


def across_mm(wide_mm: float, thick_mm: float, count: int, *, is_round: bool) -> float:
    """How wide a round chamber is at least in which pieces stand upright. Derived.

    One piece goes in by its diagonal, the ends of all of them by their area: really it takes more, as ends leave gaps.

    >>> round(across_mm(22, 22, 1, is_round=False), 1), round(across_mm(22, 22, 4, is_round=False), 1)
    (31.1, 49.6)
    """
    end_mm2 = math.pi / 4 * wide_mm**2 if is_round else wide_mm * thick_mm
    one_mm = wide_mm if is_round else math.hypot(wide_mm, thick_mm)
    return max(one_mm, math.sqrt(4 / math.pi * count * end_mm2))


def buy_ml(bath: float, taken_ml: float, reserve_pct: float) -> float:
    """Resin to have at hand: bath and uptake with a reserve; what is left of the bath goes back, filtered. Derived."""
    return (bath + taken_ml) * (1 + reserve_pct / 100)


def reaches_mm(
    radius_um: float, tension_n_m: float, cosine: float, viscosity_pa_s: float, seconds: float, pressed_pa: float = 0.0
) -> float:
    """How far a liquid gets into a pore: √(r²/4η · (Δp + 2 γ cos θ / r) · t). Lucas and Washburn; textbook.

    >>> round(reaches_mm(20, 0.03, 0.9, 0.012, 60), 1)
    36.7
    """
    radius = radius_um * 1e-6
    driven = pressed_pa + 2 * tension_n_m * cosine / radius
    return 1000 * math.sqrt(radius**2 / (4 * viscosity_pa_s) * driven * seconds)


def root(biot: float, number: int = 0) -> tuple[float, float]:
    """The n-th root of z tan z = Bi and its coefficient 4 sin z / (2z + sin 2z). Textbook.

    >>> [round(one, 4) for one in root(1.0)]
    [0.8603, 1.1191]
    """
    sign = -1 if number % 2 else 1
    low, high = number * math.pi, number * math.pi + math.pi / 2
    for _ in range(60):
        middle = (low + high) / 2
        is_beyond = sign * (middle * math.sin(middle) - biot * math.cos(middle)) > 0
        low, high = (low, middle) if is_beyond else (middle, high)
    z = (low + high) / 2
    return z, 4 * math.sin(z) / (2 * z + math.sin(2 * z))


@lru_cache(maxsize=64)
def core_min(sides_mm: tuple[float, float], film_w_m2k: float, begin_c: float, oven_c: float, core_c: float) -> float:
    """Minutes until the core of a long bar reaches a temperature in an oven; infinite where the oven is no hotter.

    Product of two slabs with a film, Σ C_n exp(−z_n² Fo). Source: textbook; properties of resin-filled wood estimated.

    >>> round(core_min((20, 20), 12, 20, 95, 90), 1)
    42.3
    """
    if core_c >= oven_c or begin_c >= oven_c:
        return math.inf if core_c >= oven_c else 0.0
    wanted = (oven_c - core_c) / (oven_c - begin_c)
    if wanted >= 1:
        return 0.0
    diffuses = CONDUCTS_W_MK / (DENSITY_KG_M3 * HEAT_J_KGK)
    halves = [side / 2000 for side in sides_mm]
    series = [[root(film_w_m2k * half / CONDUCTS_W_MK, n) for n in range(_TERMS)] for half in halves]

    def left(seconds: float) -> float:
        return math.prod(
            sum(c * math.exp(-z * z * diffuses * seconds / half**2) for z, c in roots)
            for roots, half in zip(series, halves, strict=True)
        )

    low, high = 0.0, 60.0
    while left(high) > wanted and high < 1e7:
        high *= 2
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if left(middle) > wanted else (low, middle)
    return (low + high) / 120
