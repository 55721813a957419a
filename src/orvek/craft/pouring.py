"""Pouring: how much resin a mould takes, how it is parted and weighed, and how small a dose can be.

All masses in g, volumes in ml, densities in g/ml. Ratios are B to A by mass unless a name says otherwise.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from decimal import ROUND_HALF_UP, Decimal
from typing import Literal

from msgspec import Struct

Weighing = Literal["tared", "cumulative"]

LONGEST_CURE_MIN = 14 * 1440.0  # a cure that never ends is planned as two weeks (a choice)
ROOM_TO_STIR = 0.8  # of a cup that is filled: stirring wants a fifth of it free (workshop practice)

STOCK_STRENGTHS_PCT = (
    20.0,
    10.0,
    5.0,
    2.0,
    1.0,
    0.5,
    0.2,
    0.1,
)  # easy to mix: workshop practice


# How a cup's life falls with its mass, as the power of it: simulated epoxy cups of 100 to 400 g at 25 °C, by the
# label's minutes. A quick resin keeps its heat in a small cup already; a slow one heats only in a large one.
_LIFE_BY_MASS = (
    (10.0, 20.0, 35.0, 60.0, 120.0, 240.0, 480.0, 1440.0),
    (0.00, 0.015, 0.045, 0.09, 0.18, 0.31, 0.45, 0.32),
)


class StockDose(Struct, frozen=True):
    """What is weighed when a pigment comes from a stock dispersed in part A."""

    stock_g: float
    part_a_g: float
    part_b_g: float


def pot_life_min(label_min: float, label_g: float, cup_g: float) -> float:
    """How long a cup stays liquid when it holds more than the label's: t = label · (label's mass / mass)^p.

    p grows with the label's time (simulated cups, see `heating.cup_mesh`). A smaller cup is not said to last longer
    than its label.

    >>> round(pot_life_min(480, 100, 400))
    257
    >>> pot_life_min(480, 100, 60)
    480.0
    """
    minutes, powers = _LIFE_BY_MASS
    at = min(max(label_min, minutes[0]), minutes[-1])
    n = min(bisect_right(minutes, at), len(minutes) - 1)
    part = math.log(at / minutes[n - 1]) / math.log(minutes[n] / minutes[n - 1])
    power = powers[n - 1] + part * (powers[n] - powers[n - 1])
    return label_min * min(1.0, float((label_g / cup_g) ** power))


def mass_ratio(parts_a: float, parts_b: float, density_a: float, density_b: float) -> float:
    """B to A by mass, from a ratio by volume: (vB/vA)·(ρB/ρA).

    >>> round(mass_ratio(2, 1, 1.15, 0.96), 4)
    0.4174
    """
    return parts_b / parts_a * density_b / density_a


def parted(total_g: float, ratio: float) -> tuple[float, float]:
    """Masses of A and B that make `total_g` at `ratio` (B to A by mass)."""
    part_a = total_g / (1 + ratio)
    return part_a, total_g - part_a


def initiator_g(resin_g: float, load_pct: float) -> float:
    """Mass of an initiator dosed in % of the resin's mass: M·pct/100. Common practice 1–2 %; the label rules."""
    return resin_g * load_pct / 100


def ratio_uncertainty(resolution_g: float, part_a_g: float, ratio: float, weighing: Weighing) -> float:
    """Relative standard uncertainty of B/A from reading the scale.

    Each reading has u1 = d/√12 (rectangular, GUM 4.3.7). Tared before each part: √(2r²+2)·u1/(A·r);
    running sum in one cup without taring: √(r²+(1+r)²+1)·u1/(A·r). Linearity and the rest in the cup come
    on top and are not in here.

    Returns:
        A fraction (0.01 is 1 %); infinity when nothing is weighed.
    """
    if part_a_g <= 0 or ratio <= 0:
        return math.inf
    one_reading_g = resolution_g / math.sqrt(12)
    spread = 2 * ratio**2 + 2 if weighing == "tared" else ratio**2 + (1 + ratio) ** 2 + 1
    return math.sqrt(spread) * one_reading_g / (part_a_g * ratio)


def least_dose_g(resolution_g: float, tolerance: float) -> float:
    """Smallest mass that a scale weighs to within `tolerance` (a fraction) in the worst case: d/e."""
    return resolution_g / tolerance


def stock_dose(total_g: float, load: float, stock: float, ratio: float) -> StockDose:
    """Weigh a small pigment load from a stock of it in part A.

    Args:
        total_g: mass of the mix, pigment included.
        load: pigment as a fraction of the mix.
        stock: pigment as a fraction of the stock; its carrier is part A.
        ratio: B to A by mass.

    Returns:
        S = M·load/stock; A fresh = A needed − S·(1 − stock); B as usual. Negative A means that the stock is
        too weak for this load.
    """
    stock_g = total_g * load / stock
    part_a, part_b = parted(total_g * (1 - load), ratio)
    return StockDose(stock_g, part_a - stock_g * (1 - stock), part_b)


def resin_volume_ml(mould_ml: float, insert_ml: float, void: float, soak: float, waste: float) -> float:
    """Resin for a mould with an insert that soaks some up: (V − Vi + φ·s·Vi)·(1 + w)."""
    return (mould_ml - insert_ml + void * soak * insert_ml) * (1 + waste)


def dosed_density(resin_density: float, loads: tuple[tuple[float, float], ...]) -> float:
    """Density of a mix with pigments, volumes adding up: 1/ρ = (1 − Σw)/ρr + Σ w/ρp.

    Args:
        resin_density: of the mixed resin.
        loads: (fraction of the mix, density) of each pigment.
    """
    pigment_part = sum(load for load, _ in loads)
    return 1 / ((1 - pigment_part) / resin_density + sum(load / density for load, density in loads))


def on_scale_g(mass_g: float, resolution_g: float) -> float:
    """The nearest reading that the scale can show.

    >>> on_scale_g(41.27, 0.1)
    41.3
    """
    step = Decimal(str(resolution_g))
    steps = (Decimal(repr(mass_g)) / step).quantize(Decimal(1), rounding=ROUND_HALF_UP)
    return float(steps * step)


def digits_of(resolution_g: float) -> int:
    """Decimals that a scale of this step shows.

    >>> digits_of(0.05), digits_of(1), digits_of(0.1)
    (2, 0, 1)
    """
    exponent = Decimal(str(resolution_g)).normalize().as_tuple().exponent
    return max(0, -exponent) if isinstance(exponent, int) else 0


def cup_ages_min(cups: int, mix_min_per_cup: float, bars: int, pour_s_per_bar: float) -> tuple[float, ...]:
    """How old each cup is when the last bar is filled, in min from its own hardener; stirred in order, poured together.

    >>> cup_ages_min(2, 3, 5, 12)
    (7.0, 4.0)
    """
    pouring = bars * pour_s_per_bar / 60
    return tuple((cups - n) * mix_min_per_cup + pouring for n in range(cups))


def fitting_vessel_ml(volume_ml: float, vessels_ml: tuple[float, ...]) -> float | None:
    """The smallest vessel that holds a volume with room to stir, or None."""
    fitting = [vessel for vessel in vessels_ml if vessel * ROOM_TO_STIR >= volume_ml]
    return min(fitting) if fitting else None


def working_time_min(cups: int, bars: int, stir_min: float, pour_s_per_bar: float) -> float:
    """From the first drop of hardener to the last bar filled: cups are stirred one after the other, then poured."""
    return cups * stir_min + bars * pour_s_per_bar / 60
