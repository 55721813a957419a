"""Curing: how fast a resin sets, when it gels, and where it stalls in the cold. Temperatures in °C, times in s.

Autocatalytic rate of Kamal and Sourour with a ceiling for mixing-limited rates and a brake by vitrification
(DiBenedetto). The form is textbook; the numbers of a family are defaults that the maker's label and log replace.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

Floats = NDArray[np.float64]

GAS_J_MOL_K = 8.314462618  # CODATA
ZERO_C_K = 273.15  # definition
# A resin that cures in a room ends with its glass transition some 20 to 25 K above the room; a brake that takes hold
# sooner would stall deep pours for ever. Plausible; nothing here has been compared with measured resin.
_BRAKE_AHEAD_K, _BRAKE_WIDTH_K = 18.0, 6.0
_LAMBDA = 0.45  # DiBenedetto's ratio of heat capacities; a usual value for epoxies, a guess for the others


class Kinetics(Struct, frozen=True):
    """What a resin does while it cures.

    Attributes:
        rate_25: k2 at 25 °C in 1/s.
        energy_kj: activation energy in kJ/mol.
        m, n: orders.
        kappa: k1 as a part of k2.
        ceiling: the most k2 can be, in 1/s: mixing is no faster.
        heat_j_g: heat of reaction.
        gel, demould: degree of cure where it gels and where it can leave the mould.
        tg0_c, tg1_c: glass transition uncured and fully cured.
        conductivity: W/(m K); heat_capacity: J/(g K); density: g/ml.
    """

    rate_25: float
    energy_kj: float
    m: float
    n: float
    kappa: float
    ceiling: float
    heat_j_g: float
    gel: float
    demould: float
    tg0_c: float
    tg1_c: float
    conductivity: float
    heat_capacity: float
    density: float

    def faster(self, factor: float) -> Kinetics:
        """The same resin with its rate multiplied."""
        return replace(self, rate_25=self.rate_25 * factor)

    def glass_c(self, cure: Floats | float) -> Floats:
        """Glass transition at a degree of cure (DiBenedetto): Tg0 + (Tg1 - Tg0)·λα / (1 - (1 - λ)α)."""
        a = np.asarray(cure, dtype=float)
        return np.asarray(self.tg0_c + (self.tg1_c - self.tg0_c) * _LAMBDA * a / (1 - (1 - _LAMBDA) * a))

    def rate(self, temperature_c: Floats | float, cure: Floats | float) -> Floats:
        """dα/dt in 1/s: (k1 + k2·α^m)·(1 - α)^n·c·fd, for arrays of equal shape."""
        t = np.asarray(temperature_c, dtype=float)
        a = np.clip(cure, 0.0, 1.0)
        scale = self.energy_kj * 1000 / GAS_J_MOL_K
        k2 = self.rate_25 * np.exp(-scale * (1 / (t + ZERO_C_K) - 1 / 298.15))
        brake = 1 / (1 + np.exp(np.clip((self.glass_c(a) - t - _BRAKE_AHEAD_K) / _BRAKE_WIDTH_K, -60, 60)))
        grown = a if self.m == 1 else a**self.m
        left = (1 - a) ** 2 if self.n == 2 else (1 - a) ** self.n
        return np.asarray((self.kappa + grown) * left * k2 / (1 + k2 / self.ceiling) * brake)

    def adiabatic_rise_k(self, cure: float = 1.0) -> float:
        """How much it would warm itself if no heat left it: H·α/cp."""
        return self.heat_j_g * cure / self.heat_capacity


def most_rise_k(heat_j_g: float, resin_part: float, heat_capacity: float) -> float:
    """Adiabatic rise of a mix of which only a part by mass reacts: H·w/cp.

    >>> round(most_rise_k(400, 1, 1.8), 1)
    222.2
    """
    return heat_j_g * resin_part / heat_capacity


def shortest_gel_s(kinetics: Kinetics) -> float:
    """No pot life can be shorter than this, however fast the resin: mixing is what limits it then.

    The gel time at the ceiling rate, from the integral of dα over its rate with k2·c at its most.
    """
    a = np.linspace(0, kinetics.gel, 2001)
    rate = kinetics.ceiling * (kinetics.kappa + a**kinetics.m) * (1 - a) ** kinetics.n
    return float(np.trapezoid(1 / rate, a))
