"""One casting as it cures: every bar in the row, and what they are ready for.

A figure speaks of the bar that decides it: the hottest for the peak and the first gel, the slowest for all that must
be waited for. Order is law: gel, pressure off, out of the mould, ready.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.craft.curing import Kinetics
from orvek.craft.heating import Moment, Run
from orvek.planning.cure.question import READY_CURE

Floats = NDArray[np.float64]
GLASS_ABOVE_K = 12.0  # of the glass transition above the bar's hottest point: estimate
OUT_ABOVE_SHOP_K = 15.0  # a bar this much warmer than the shop is soft and sags: estimate
READY_ABOVE_SHOP_K = 8.0  # a warm bar is never ready, however cured: workshop practice
TACK_ENDS = 0.5  # of the way from gel to demould: an estimate of when a next layer no longer bonds by itself
PRESSURE_MARGIN = 1.15  # of the time until the last of it has gelled: gas comes back out of what is only just set


class Casting(Struct, frozen=True):
    """The runs of one casting.

    Attributes:
        bars: one for each bar of half the row, from its middle outwards.
        kinetics: the resin.
        shop_c: the shop.
        demould: the degree of cure that all but 5 % must have passed to leave the mould.
        wait_min: how long the layers before this one took.
    """

    bars: tuple[Run, ...]
    kinetics: Kinetics
    shop_c: float
    demould: float
    wait_min: float = 0.0

    @property
    def hottest(self) -> Run:
        """The bar that gets hottest."""
        return max(self.bars, key=lambda run: run.peak()[0])

    @property
    def slowest(self) -> Run:
        """The bar that is cured last."""
        return min(self.bars, key=lambda run: self._cured_by_the_middle(run))

    @property
    def gel_min(self) -> float:
        """When the first point gels."""
        return min(minutes(run.reached_s(self.kinetics.gel, "first")) for run in self.bars)

    @property
    def gelled_min(self) -> float:
        """When the resin has gelled on the whole."""
        return max(minutes(run.reached_s(self.kinetics.gel)) for run in self.bars)

    @property
    def pressure_off_min(self) -> float:
        """When all but the last 5 % has gelled, and a margin."""
        return PRESSURE_MARGIN * max(minutes(run.reached_s(self.kinetics.gel, "most")) for run in self.bars)

    @property
    def out_min(self) -> float:
        """When it can leave the mould; never before the pressure is off."""
        return max(self._last(self._is_out), self.pressure_off_min) + self.wait_min

    @property
    def ready_min(self) -> float:
        """When it can be drilled and turned; never before it is out of the mould."""
        return max(self._last(self._is_ready) + self.wait_min, self.out_min)

    @property
    def peak_c(self) -> float:
        """The highest temperature in any bar."""
        return max(run.peak()[0] for run in self.bars)

    def cure_at(self, after_min: float) -> float:
        """The mean degree of cure of the slowest bar so long after pouring."""
        seconds = (after_min - self.wait_min) * 60
        return min(float(np.interp(seconds, run.time_s, run.mean_cure)) if seconds > 0 else 0.0 for run in self.bars)

    @property
    def cure_at_end(self) -> float:
        """The mean degree of cure of the slowest bar after a week."""
        return min(float(run.mean_cure[-1]) for run in self.bars)

    def _last(self, holds: Callable[[Moment], bool]) -> float:
        return max(minutes(run.first_s(holds)) for run in self.bars)

    def _is_out(self, now: Moment) -> bool:
        return now.hottest_c <= self.shop_c + OUT_ABOVE_SHOP_K and now.most_cure >= self.demould

    def _is_ready(self, now: Moment) -> bool:
        cure = now.mean_cure
        return (
            now.most_cure >= READY_CURE
            and now.hottest_c <= self.shop_c + READY_ABOVE_SHOP_K
            and float(self.kinetics.glass_c(cure)) >= now.hottest_c + GLASS_ABOVE_K
            and self._is_out(now)
        )

    def _cured_by_the_middle(self, run: Run) -> float:
        """Its mean cure when the hottest bar is through the demould cure: which lags behind then is the slow one."""
        at = self.bars[0].reached_s(self.demould) or float(run.time_s[-1])
        return float(np.interp(at, run.time_s, run.mean_cure))


def minutes(seconds: float | None) -> float:
    """Seconds as minutes; never is infinite."""
    return math.inf if seconds is None else seconds / 60
