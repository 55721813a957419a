"""From the label and the maker's own log to a resin's rate, and how far to trust it.

`from_label` scales the rate until a simulated cup gels when the label says; `refit` moves rate, energy, heat and film
by least squares on what the maker saw, held by priors, with Laplace's interval. Nothing here has been compared with
measured resin: it is a calculation that the log corrects.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from orvek.craft.curing import Kinetics, shortest_gel_s
from orvek.craft.heating import cup_mesh, cure
from orvek.errors import OutOfBoundsError
from orvek.quantities import decimal

Floats = NDArray[np.float64]

# Standard deviations before anything was seen: ln rate, ln heat, energy in kJ/mol, ln film. Estimates.
PRIOR_SD = (0.27, 0.12, 5.0, 0.25)
NAMES = ("rate", "heat", "energy", "film")
READING_SD = 0.10  # of a gel time, as a fraction: an estimate of how well it is seen
PEAK_SD_K = 5.0  # reading a peak with a probe: estimate
FAR_OFF = 3.0  # standard deviations from what the model can still explain
_MOST_HEAT = 0.5  # how far a family's heat may be off, as a logarithm: beyond it the label is misread
_CELLS, _TOLERANCE = (14, 10), 1e-4  # peaks within 0.4 K of those of endlessly small cells, away from run-away
_LONGEST_S = 30 * 86400.0  # where a search ends: no label is longer


class Observation(Struct, frozen=True):
    """A cup the maker watched: gelled after `gel_min`, and the highest temperature seen, if any."""

    mass_g: float
    temperature_c: float
    gel_min: float
    peak_c: float | None = None


class Fit(Struct, frozen=True):
    """What is known of a resin.

    Attributes:
        kinetics: the best values.
        film: factor on the film coefficients.
        covariance: (4, 4) of ln rate, ln heat, energy in kJ/mol and ln film.
        far: observations that the best values miss by more than three standard deviations.
    """

    kinetics: Kinetics
    film: float
    covariance: Floats
    far: tuple[Observation, ...] = ()

    @property
    def sd(self) -> Floats:
        """Standard deviations of the four."""
        return np.sqrt(np.diag(self.covariance))

    def moved(self, step: Floats) -> tuple[Kinetics, float]:
        """The resin and its film moved from the best values by steps of the four."""
        return _moved(self.kinetics, self.film, step)


def cup_gel_s(kinetics: Kinetics, mass_g: float, temperature_c: float, film: float = 1.0) -> float:
    """When the hottest point of a cup gels; infinite when it does not within 30 days."""
    return watched(kinetics, mass_g, temperature_c, film, with_peak=False)[0]


def watched(
    kinetics: Kinetics, mass_g: float, temperature_c: float, film: float = 1.0, *, with_peak: bool = True
) -> tuple[float, float]:
    """Gel time in s and highest temperature in °C of a simulated cup; the second only when asked for."""
    section = cup_mesh(kinetics, mass_g, film=film, cells=_CELLS)
    start, air = (temperature_c, temperature_c), lambda _t: temperature_c
    run = cure(section, kinetics, air, start, _LONGEST_S, until_gel=True, tolerance=_TOLERANCE)
    gel = run.reached_s(kinetics.gel * (1 - 1e-9), "first")
    if gel is None:
        return math.inf, float("nan")
    if not with_peak:
        return gel, float("nan")
    # The peak comes soon after the gel where it is marked; three times as long is well past it.
    after = cure(section, kinetics, air, start, 3 * gel, tolerance=_TOLERANCE)
    return gel, after.peak()[0]


def from_label(
    kinetics: Kinetics,
    pot_life_min: float,
    mass_g: float = 100.0,
    temperature_c: float = 25.0,
    peak_c: float | None = None,
    progress: Callable[[float], None] | None = None,
) -> Fit:
    """Scale a family's rate, and its heat where the label gives a peak, until the cup does what the label says.

    Raises:
        OutOfBoundsError: no rate gels that soon, or no heat gives that peak.
    """
    shortest = shortest_gel_s(kinetics)
    if pot_life_min * 60 < shortest * 1.02:
        raise OutOfBoundsError(
            "The pot life",
            f"{pot_life_min * 60:.0f} s",
            f"at least {shortest:.0f} s: no rate of this family gels sooner",
        )
    fitted = _rate_for(kinetics, pot_life_min * 60, mass_g, temperature_c, progress)
    if peak_c is not None:
        fitted = _heat_for(fitted, pot_life_min * 60, mass_g, temperature_c, peak_c, progress)
    return Fit(fitted, 1.0, np.diag(np.square(PRIOR_SD)))


def refit(fit: Fit, seen: tuple[Observation, ...], progress: Callable[[float], None] | None = None) -> Fit:
    """Move rate, heat, energy and film so that they explain what was seen, no further than the priors allow.

    Least squares on ln(gel time) with 10 % error of reading and on the peak with 5 K; the interval is Laplace's, from
    the Jacobian at the end.
    """
    from scipy.optimize import least_squares

    if not seen:
        return fit
    calls = 0

    def residuals(x: Floats) -> Floats:
        nonlocal calls
        calls += 1
        if progress is not None:
            progress(calls)
        kinetics, film = _moved(fit.kinetics, fit.film, x * PRIOR_SD)
        return np.array([*x, *(r for one in seen for r in _missed(kinetics, film, one))])

    # A loss that grows slower than the square keeps one misread cup from pulling all others with it.
    found = least_squares(
        residuals,
        np.zeros(4),
        loss="soft_l1",
        f_scale=2.0,
        diff_step=0.02,
        xtol=1e-3,
        ftol=1e-3,
        gtol=1e-3,
        max_nfev=15,
    )
    inverse = np.linalg.inv(found.jac.T @ found.jac)
    kinetics, film = _moved(fit.kinetics, fit.film, found.x * PRIOR_SD)
    far = tuple(one for one in seen if max(abs(r) for r in _missed(kinetics, film, one)) > FAR_OFF)
    return Fit(kinetics, film, inverse * np.outer(PRIOR_SD, PRIOR_SD), far)


def _missed(kinetics: Kinetics, film: float, one: Observation) -> tuple[float, ...]:
    """How far the model is from an observation, in standard deviations."""
    gel, peak = watched(kinetics, one.mass_g, one.temperature_c, film, with_peak=one.peak_c is not None)
    late = math.log(min(gel, _LONGEST_S) / (one.gel_min * 60)) / READING_SD
    return (late,) if one.peak_c is None else (late, (peak - one.peak_c) / PEAK_SD_K)


def _moved(kinetics: Kinetics, film: float, step: Floats) -> tuple[Kinetics, float]:
    moved = replace(
        kinetics,
        rate_25=kinetics.rate_25 * math.exp(step[0]),
        heat_j_g=kinetics.heat_j_g * math.exp(step[1]),
        energy_kj=max(10.0, kinetics.energy_kj + float(step[2])),
    )
    return moved, film * math.exp(step[3])


def _rate_for(
    kinetics: Kinetics, gel_s: float, mass_g: float, temperature_c: float, progress: Callable[[float], None] | None
) -> Kinetics:
    from scipy.optimize import brentq

    def late(log_factor: float) -> float:
        if progress is not None:
            progress(log_factor)
        return math.log(cup_gel_s(kinetics.faster(math.exp(log_factor)), mass_g, temperature_c) / gel_s)

    guess = max(-25.0, min(25.0, late(0.0)))
    low, high = guess - 0.3, guess + 0.3
    while late(low) < 0:
        low -= 2.0
    while late(high) > 0:
        high += 2.0
        if high > 40:
            raise OutOfBoundsError(
                "The pot life", f"{decimal(gel_s / 60, 1)} min", "longer: no rate of this family gels so soon"
            )
    return kinetics.faster(math.exp(float(brentq(late, low, high, xtol=3e-4))))


def _heat_for(
    kinetics: Kinetics,
    gel_s: float,
    mass_g: float,
    temperature_c: float,
    peak_c: float,
    progress: Callable[[float], None] | None,
) -> Kinetics:
    """A few steps of the secant: heat, then the rate that goes with it."""
    log_heat = [0.0, 0.1]
    peaks: list[float] = []
    best = kinetics
    for n in range(8):
        factor = math.exp(log_heat[n])
        best = _rate_for(replace(kinetics, heat_j_g=kinetics.heat_j_g * factor), gel_s, mass_g, temperature_c, progress)
        peaks.append(watched(best, mass_g, temperature_c)[1])
        if abs(peaks[-1] - peak_c) < 0.5:
            return best
        if n >= 1:
            if log_heat[n] == log_heat[n - 1]:
                break  # at the end of what the family can have
            slope = (peaks[-1] - peaks[-2]) / (log_heat[n] - log_heat[n - 1])
            step = (peak_c - peaks[-1]) / slope if slope > 1 else math.copysign(0.5, peak_c - peaks[-1])
            log_heat.append(max(-_MOST_HEAT, min(_MOST_HEAT, log_heat[n] + max(-0.6, min(0.6, step)))))
    least, most = min(peaks), max(peaks)
    raise OutOfBoundsError(
        "The peak", f"{peak_c:.0f} °C", f"between about {least:.0f} and {most:.0f} °C for this family"
    )
